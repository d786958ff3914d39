import { useState } from 'react';
import { View } from 'react-native';

import { formatHours } from '@/core/day/clock';
import { cardText, inHandOf, LIGHT_NAMES, lightKindOf, QUESTIONS, readCard } from '@/core/case/card';
import type { InHand } from '@/core/record/zone';
import type { Desk } from '@/state/desk';
import { Button } from '@/ui/Button';
import { TextField } from '@/ui/Field';
import { copyText, download } from '@/ui/files';
import { Fold } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { umol } from '../shared/words';
import { GiveSheet } from '../sheets';

/** What is known of the light here at the chosen coral, for its card. */
export interface OwnLight {
  peakUmol: number;
  hours: number;
  blueShare: number;
}

/** A card from who gives the coral away, the questions to ask them, and a card of one's own to give away. */
export function Cards({
  desk: { bundle, spot },
  own,
  onRead,
}: {
  desk: Desk;
  own: OwnLight | null;
  onRead: (change: Partial<InHand>) => void;
}) {
  const [text, setText] = useState('');
  const [told, setTold] = useState('');
  const [giving, setGiving] = useState<string | null>(null);
  const card = readCard(text);
  const read = [
    card.name,
    card.peakUmol === null ? null : `${umol(card.peakUmol)} µmol`,
    card.hours === null ? null : formatHours(card.hours),
    card.light && LIGHT_NAMES[card.light],
    card.origin,
  ].filter(Boolean);
  const give = async (what: string, name: string, words: string) => {
    if (await copyText(words)) setTold(`${what}: copied.`);
    else {
      download(name, words, 'text/plain');
      setTold(`${what}: kept as a file.`);
    }
  };
  const last = (id: 'nitratePpm' | 'phosphatePpm' | 'alkalinityDkh') => {
    const found = bundle.log.events.findLast((e) => e.kind === 'test' && typeof e[id] === 'number');
    return found?.kind === 'test' ? { [id]: found[id] as number } : {};
  };
  const ownCard = (name: string, light: OwnLight): string =>
    cardText({
      ...{ name, peakUmol: light.peakUmol, hours: light.hours, origin: null },
      light: lightKindOf(light.blueShare),
      water: { ...last('nitratePpm'), ...last('phosphatePpm'), ...last('alkalinityDkh') },
    });
  return (
    <Fold title="Cards: what to ask, and what to give along" testID="cards">
      <View style={{ gap: space.m }}>
        <Button
          label="Questions for who gives it away"
          wide
          onPress={() => void give('The questions', 'questions.txt', QUESTIONS.join('\n'))}
          testID="card-questions"
        />
        <TextField
          label="Their card, or their answers"
          value={text}
          onChange={setText}
          rows={5}
          hint="lines such as “light at its brightest: 180 µmol”; what is missing stays not known"
          testID="card-text"
        />
        {text.trim() !== '' && (
          <Type kind="small" testID="card-read">
            {read.length > 0
              ? `It says: ${read.join(', ')}.`
              : 'Nothing of it is understood: a line begins with what it tells, then a colon.'}
          </Type>
        )}
        {read.length > 0 && (
          <Button
            label="Take what it says"
            kind="filled"
            wide
            onPress={() => {
              onRead(inHandOf(card));
              setText('');
            }}
            testID="card-take"
          />
        )}
        {spot && own && (
          <>
            <Button
              label={`Card of ${spot.name}, to give along`}
              wide
              onPress={() => void give(`The card of ${spot.name}`, 'card.txt', ownCard(spot.name, own))}
              testID="card-own"
            />
            <Button
              label="The same as a link"
              name={`Card of ${spot.name} as a link`}
              kind="plain"
              onPress={() => setGiving(ownCard(spot.name, own))}
              testID="card-link"
            />
          </>
        )}
        {spot && giving !== null && (
          <GiveSheet
            given={{ letter: 'c', text: giving }}
            name={`the card of ${spot.name}`}
            onClose={() => setGiving(null)}
          />
        )}
        {told !== '' && (
          <Type kind="small" role="status" testID="card-told">
            {told}
          </Type>
        )}
      </View>
    </Fold>
  );
}
