import { useState } from 'react';
import { View } from 'react-native';

import { answered, roundOf, scoreOf, type SkillId, SKILLS, weakest } from '@/core/learn/rounds';
import { Strip } from '@/pieces/Strip';
import { changeSettings, useSettings } from '@/state/settings';
import { Button } from '@/ui/Button';
import { Page } from '@/ui/Page';
import { Row, Section } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

/** Every question is another: its seed is drawn when it is asked. */
const drawn = (): number => Math.floor(Math.random() * 2 ** 31);
const STRIP_WIDTH = 330;

/** Questions to practise on, computed as everything else here is: the weakest skill is asked next. */
export function Practice() {
  const practised = useSettings((s) => s.practised);
  const [asked, setAsked] = useState(() => ({ skill: weakest(practised), seed: drawn() }));
  const [given, setGiven] = useState<number | null>(null);
  const round = roundOf(asked.skill, asked.seed);
  const ask = (skill: SkillId) => {
    setGiven(null);
    setAsked({ skill, seed: drawn() });
  };
  const answer = (i: number) => {
    setGiven(i);
    changeSettings({
      practised: answered(practised, asked.skill, i === round.right) as Record<string, boolean[]>,
    });
  };
  const skill = SKILLS.find((s) => s.id === asked.skill)!;
  return (
    <Page
      testID="practice"
      title="Practice"
      under={`${skill.name}: ${skill.about}`}
      sentence={
        <Type kind="sentence" testID="practice-ask" style={{ maxWidth: 700 }}>
          {round.ask}
        </Type>
      }
      side={
        <Section title="How it goes">
          <View>
            {SKILLS.map((s) => {
              const list = practised[s.id];
              const score = scoreOf(list);
              return (
                <Row key={s.id} name={`Practise ${s.name}`} onPress={() => ask(s.id)}>
                  <Type kind="label" style={{ flex: 1 }}>
                    {s.name}
                  </Type>
                  <Type kind="small">
                    {score === null
                      ? 'not asked yet'
                      : `${list!.filter(Boolean).length} of the last ${list!.length} right`}
                  </Type>
                </Row>
              );
            })}
          </View>
          <Type kind="small">
            Numbers differ each time. What is asked next is what you have not had, then what went worst. It
            stays on this device.
          </Type>
        </Section>
      }
    >
      {round.lights.map((l) => (
        <View key={l.name} style={{ gap: space.xs }}>
          <Type kind="small">{l.name}</Type>
          <Strip spectrum={l.spectrum} width={STRIP_WIDTH} height={18} name={`Spectrum of ${l.name}`} />
        </View>
      ))}
      <View role="group" aria-label="Answers" style={{ gap: space.s, maxWidth: 420 }}>
        {round.answers.map((text, i) =>
          given === null ? (
            <Button key={text} label={text} onPress={() => answer(i)} testID={`answer-${i}`} />
          ) : (
            <Type key={text} kind={i === round.right ? 'strong' : 'body'} quiet={i !== round.right}>
              {`${text}${i === round.right ? ': right' : i === given ? ': your answer' : ''}`}
            </Type>
          ),
        )}
      </View>
      {given !== null && (
        <View style={{ gap: space.m, alignItems: 'flex-start' }}>
          <Type role="status" testID="practice-why" style={{ maxWidth: 700 }}>
            {`${given === round.right ? 'Right.' : `Not quite: ${round.answers[round.right]}.`} ${round.why}`}
          </Type>
          <Button
            label="Next question"
            kind="filled"
            onPress={() => ask(weakest(practised))}
            testID="practice-next"
          />
        </View>
      )}
    </Page>
  );
}
