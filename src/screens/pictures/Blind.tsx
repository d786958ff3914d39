import { useMemo, useState } from 'react';
import { View } from 'react-native';

import { blindPairs, judged } from '@/core/evidence/blind';
import type { Photo } from '@/core/record/log/photo';
import { seedOf } from '@/core/spectrum/random';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Field';
import { usePageSize } from '@/ui/Page';
import { Section } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { Pixels } from './Picture';
import { blindWords } from './words';

const ASKED = ['paler', 'browner', 'more colourful', 'larger'] as const;
type Asked = (typeof ASKED)[number];

/** Pairs of pictures without their dates, each twice with its sides changed; then what the eye said, and how often it agreed with itself. */
export function Blind({ pictures }: { pictures: readonly Photo[] }) {
  const page = usePageSize();
  const [asked, setAsked] = useState<Asked>('paler');
  const [answers, setAnswers] = useState<readonly number[] | null>(null);
  const seed = seedOf(pictures.map((p) => p.id).join());
  const pairs = useMemo(() => blindPairs(pictures.length, seed), [pictures.length, seed]);
  const pair = answers && pairs[answers.length];
  const width = (page.side - space.m) / 2;
  return (
    <Section title="Judged blind">
      {!answers ? (
        <>
          <Choice
            label="Which is"
            value={asked}
            onChange={setAsked}
            options={ASKED.map((value) => ({ value, label: value }))}
          />
          <Button
            label="Show me pairs without dates"
            wide
            onPress={() => setAnswers([])}
            testID="blind-begin"
          />
        </>
      ) : pair ? (
        <>
          <Type
            role="status"
            testID="blind-asked"
          >{`Which is ${asked}? ${answers.length + 1} of ${pairs.length}`}</Type>
          <View style={{ flexDirection: 'row', gap: space.m }}>
            {(['left', 'right'] as const).map((side) => {
              const photo = pictures[pair[side]]!;
              return (
                <View key={side} style={{ width, gap: space.s }}>
                  <Pixels photo={photo} width={width} height={(width * photo.heightPx) / photo.widthPx} />
                  <Button
                    label={side === 'left' ? 'This one' : 'That one'}
                    name={`The ${side} one is ${asked}`}
                    wide
                    onPress={() => setAnswers([...answers, pair[side]])}
                    testID={`blind-${side}`}
                  />
                </View>
              );
            })}
          </View>
          <Button label="Stop" kind="plain" onPress={() => setAnswers(null)} testID="blind-stop" />
        </>
      ) : (
        <>
          <Type testID="blind-told">{`Which is ${asked}: ${blindWords(judged(pairs, answers))}`}</Type>
          <Button label="Again" onPress={() => setAnswers(null)} testID="blind-again" />
        </>
      )}
    </Section>
  );
}
