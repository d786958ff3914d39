import { View } from 'react-native';

import type { LogLine } from '@/core/case/timeline';
import type { Zone } from '@/core/record/zone';
import { isDate, localDate } from '@/state/time';
import { Button } from '@/ui/Button';
import { Choice, FieldRow, TextField } from '@/ui/Field';
import { Fold } from '@/ui/Parts';
import { space } from '@/ui/theme';

/** What is looked for in the log. */
export interface Sought {
  words: string;
  /** '' = of all */
  spotId: string;
  /** local dates; '' = open */
  from: string;
  to: string;
}
export const NOTHING_SOUGHT: Sought = { words: '', spotId: '', from: '', to: '' };

/** Whether a line is what is looked for; half a date holds nothing back. */
export function fits(l: LogLine, { words, spotId, from, to }: Sought, timeZone: string): boolean {
  if (spotId !== '' && l.spotId !== spotId) return false;
  if (isDate(from) || isDate(to)) {
    const date = localDate(Date.parse(l.atUtc), timeZone);
    if ((isDate(from) && date < from) || (isDate(to) && date > to)) return false;
  }
  if (words.trim() === '') return true;
  const text = [l.title, ...l.details].join(' ').toLowerCase();
  return words
    .toLowerCase()
    .split(/\s+/)
    .every((w) => text.includes(w));
}

/** Looks for words, a coral, dates. */
export function LogSearch({
  sought,
  zone,
  onSought,
}: {
  sought: Sought;
  zone: Zone;
  onSought: (sought: Sought) => void;
}) {
  const set = (key: keyof Sought) => (text: string) => onSought({ ...sought, [key]: text });
  return (
    <Fold title="Find in the log" testID="log-find">
      <View style={{ gap: space.m }}>
        <TextField label="Words" value={sought.words} onChange={set('words')} testID="log-words" />
        {zone.spots.length > 1 && (
          <Choice
            label="Of"
            value={sought.spotId}
            onChange={set('spotId')}
            options={[
              { value: '', label: 'all' },
              ...zone.spots.map((s) => ({ value: s.id, label: s.name })),
            ]}
          />
        )}
        <FieldRow>
          <TextField label="From" value={sought.from} onChange={set('from')} pick="date" testID="log-from" />
          <TextField label="To" value={sought.to} onChange={set('to')} pick="date" testID="log-to" />
        </FieldRow>
        {JSON.stringify(sought) !== JSON.stringify(NOTHING_SOUGHT) && (
          <Button label="Show everything" onPress={() => onSought(NOTHING_SOUGHT)} testID="log-unsought" />
        )}
      </View>
    </Fold>
  );
}
