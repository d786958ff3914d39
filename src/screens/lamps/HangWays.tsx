import { router } from 'expo-router';
import { View } from 'react-native';

import type { HangAnswer, HangWay } from '@/core/case/hang';
import { capital } from '@/core/shape/counts';
import type { Desk } from '@/state/desk';
import { Button } from '@/ui/Button';
import { Row, Section } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { umol } from '../shared/words';
import { criticWords, figureWords, givesUp, howWords, letterOf, nameOf } from './hangWords';

/** The answers, the chosen one open: how, what it does, what it gives up, and one tap that hangs it. */
export function HangWays({
  found,
  judged,
  desk,
  letter,
  hang,
  onLetter,
}: {
  found: HangAnswer;
  judged: number;
  desk: Desk;
  letter: string;
  hang: (w: HangWay) => boolean;
  onLetter: (letter: string) => void;
}) {
  const best = found.ways[0]!.figures;
  const { zone } = desk;
  return (
    <Section title="Ways to hang them">
      <View>
        {found.ways.map((w, i) => {
          const open =
            letterOf(i) === letter || (i === 0 && !found.ways.some((_, k) => letterOf(k) === letter));
          const flash = w.figures.flash;
          return (
            <View key={letterOf(i)}>
              <Row
                name={`${nameOf(w, i)}. ${howWords(w)} ${open ? 'Shown' : 'Shows it'}`}
                onPress={() => onLetter(letterOf(i))}
              >
                <View style={{ flex: 1, gap: 2, paddingVertical: space.s }} testID={`way-${letterOf(i)}`}>
                  <Type kind={open ? 'strong' : 'label'}>{nameOf(w, i)}</Type>
                  <Type kind="small">{howWords(w)}</Type>
                </View>
              </Row>
              {open && (
                <View style={{ gap: space.s, paddingBottom: space.m }}>
                  <Type kind="small" testID="way-figures">
                    {capital(figureWords(w.figures, judged, zone))}
                  </Type>
                  {i > 0 && givesUp(w.figures, best) !== '' && (
                    <Type kind="small">{givesUp(w.figures, best)}</Type>
                  )}
                  {criticWords(w.criticism, zone) !== '' && (
                    <Type kind="small" testID="way-critic">
                      {capital(criticWords(w.criticism, zone))}
                    </Type>
                  )}
                  {flash && (
                    <Type kind="small">
                      {`Ripples make the light at ${zone.spots[flash.spot]!.name} flash to about ${umol(flash.umol)} µmol; its colour flickers by ${flash.blendDeg.toFixed(1)}° (0° = not at all). Light is an estimate.`}
                    </Type>
                  )}
                  <Button
                    label="Draft it so"
                    name={`Draft the lamps so: ${howWords(w)}`}
                    kind="filled"
                    onPress={() => hang(w)}
                    testID="draft-hang"
                  />
                </View>
              )}
            </View>
          );
        })}
      </View>
      <Type kind="small">
        A draft changes nothing over the tank: hang the lamps and type in what the sheet says, or ease it in
        where a step is large.
      </Type>
      <Button label="Ease it in" onPress={() => router.navigate('/ease')} testID="hang-ease" />
    </Section>
  );
}
