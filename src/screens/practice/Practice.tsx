import { useEffect, useMemo, useRef, useState } from 'react';
import { View } from 'react-native';
import Svg, { Circle, Line, Rect, Text } from 'react-native-svg';

import {
  answered,
  REMEMBERED,
  type Round,
  roundOf,
  scoreOf,
  type SkillId,
  SKILLS,
  weakest,
} from '@/core/learn/rounds';
import { formOf } from '@/core/portrait/ofZone';
import { lengthWords } from '@/core/shape/units';
import { Strip } from '@/pieces/Strip';
import { useDesk } from '@/state/desk';
import { changeSettings, useSettings } from '@/state/settings';
import { Button } from '@/ui/Button';
import { Page, usePageSize } from '@/ui/Page';
import { Row, Section } from '@/ui/Parts';
import { font, space, usePaper } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { Figure } from '../shared/Figure';

/** Every question is another: its seed is drawn when it is asked. */
const drawn = (): number => Math.floor(Math.random() * 2 ** 31);
/** Drawings are this wide, where the page is as wide. */
const STRIP_WIDTH = 330;
/** A coral of one's own under a light that is asked about, px. */
const FIGURE = 84;

/** Questions to practise on, computed as everything else here is: the weakest skill is asked next. */
export function Practice() {
  const page = usePageSize();
  const width = Math.min(STRIP_WIDTH, page.main);
  const practised = useSettings((s) => s.practised);
  const [asked, setAsked] = useState(() => ({ skill: weakest(practised), seed: drawn() }));
  const [given, setGiven] = useState<number | null>(null);
  const round = useMemo(() => roundOf(asked.skill, asked.seed), [asked]);
  // a skill is chosen below its question: the question comes into sight
  const top = useRef<View>(null);
  const first = useRef(asked);
  useEffect(() => {
    if (asked !== first.current)
      (top.current as unknown as HTMLElement | null)?.scrollIntoView?.({ block: 'center' });
  }, [asked]);
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
  const { doc, zone, spot } = useDesk();
  const seen = [...(spot ? [spot] : []), ...zone.spots].find((s) => formOf(doc, s));
  const form = seen && formOf(doc, seen);
  const skill = SKILLS.find((s) => s.id === asked.skill)!;
  return (
    <Page
      testID="practice"
      title="Practice"
      under={`${skill.name}: ${skill.about}`}
      sentence={
        <View ref={top}>
          <Type kind="sentence" testID="practice-ask" style={{ maxWidth: 700 }}>
            {round.ask}
          </Type>
        </View>
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
                      : `${list!.filter(Boolean).length} of ${list!.length === REMEMBERED ? `the last ${REMEMBERED}` : list!.length} right`}
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
      {round.front && <Front {...round.front} width={width} />}
      {round.lights.map((l) => (
        <View key={l.name} style={{ flexDirection: 'row', alignItems: 'center', gap: space.m }}>
          {form && (
            <Figure
              of={{ form }}
              id={seen!.id}
              light={l.spectrum}
              size={FIGURE}
              name={`${seen!.name} under ${l.name}`}
            />
          )}
          <View style={{ gap: space.xs }}>
            <Type kind="small">{l.name}</Type>
            <Strip
              spectrum={l.spectrum}
              width={width - (form ? FIGURE + space.m : 0)}
              height={18}
              name={`Spectrum of ${l.name}`}
            />
          </View>
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

/** A tank from the front, to scale: the lamp over its water, and the places that are asked about. */
function Front({ tank, lamp, places, width }: NonNullable<Round['front']> & { width: number }) {
  const paper = usePaper();
  const k = width / tank.lengthCm;
  const surface = (lamp.heightCm + 3) * k;
  return (
    <View
      role="img"
      aria-label={`The tank from the front, to scale: ${places
        .map((p) => `${p.name} ${lengthWords(p.depthCm)} deep`)
        .join(', ')}`}
    >
      <Svg width={width} height={surface + tank.depthCm * k + 2} aria-hidden>
        <Rect
          x={(lamp.xCm - lamp.lengthCm / 2) * k}
          y={1}
          width={lamp.lengthCm * k}
          height={2 * k}
          fill={paper.ink}
        />
        <Rect
          x={1}
          y={surface}
          width={width - 2}
          height={tank.depthCm * k}
          fill="none"
          stroke={paper.quiet}
        />
        <Line x1={1} x2={width - 1} y1={surface} y2={surface} stroke={paper.ink} strokeDasharray="3 3" />
        {places.map((p) => (
          <Circle key={p.name} cx={p.xCm * k} cy={surface + p.depthCm * k} r={4} fill={paper.ink} />
        ))}
        {places.map((p) => (
          <Text
            key={p.name}
            x={p.xCm * k + 8}
            y={surface + p.depthCm * k + 4}
            fill={paper.ink}
            fontFamily={font.sans}
            fontSize={13}
          >
            {p.name}
          </Text>
        ))}
      </Svg>
    </View>
  );
}
