import { router } from 'expo-router';
import { useState } from 'react';

import type { Group } from '@/core/case/types';
import { parseTypedTime } from '@/core/day/clock';
import { freeze, typeIn } from '@/state/commands';
import { useDesk } from '@/state/desk';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { instantOf, localDate, nowUtcIso } from '@/state/time';
import { Button } from '@/ui/Button';
import { Choice, FieldRow, TextField } from '@/ui/Field';
import { Note } from '@/ui/Parts';
import { Sheet } from '@/ui/Sheet';
import { Type } from '@/ui/Type';

import { percent, plural } from '../shared/words';

interface Props {
  group: Group;
  /** dated caps when the change is too large to make at once */
  steps: { date: string; capShare: number }[];
  /** nothing of this group has run before */
  first: boolean;
  onClose: () => void;
}

/** From draft to running: one tap, now or at a time given. */
export function TypedIn({ group, steps, first, onClose }: Props) {
  const { doc, zone } = useDesk();
  const [when, setWhen] = useState<'now' | 'earlier'>('now');
  const [date, setDate] = useState(() => localDate(Date.now(), zone.timeZone));
  const [time, setTime] = useState('');
  const [used, setUsed] = useState<'new' | 'used'>('new');
  const [error, setError] = useState<string | null>(null);

  const instant = (): string | null => {
    if (when === 'now') return nowUtcIso();
    const minute = parseTypedTime(time);
    if (minute === null) return fail('Time: give a time of day such as 14:30.');
    if (!/^\d{4}-\d\d-\d\d$/.test(date) || Number.isNaN(Date.parse(date)))
      return fail('Date: give a date such as 2026-01-31.');
    const at = instantOf(date, minute, zone.timeZone);
    return at > nowUtcIso() ? fail('That time is still to come: type the day in first, then say so.') : at;
  };
  const fail = (message: string): null => {
    setError(message);
    return null;
  };
  const commit = (stepwise: boolean) => {
    const atUtc = instant();
    if (atUtc === null) return;
    const done = run(
      typeIn(
        freeze(doc, zone, group, {
          id: newId(),
          atUtc,
          usedTo: first && used === 'used',
          ...(stepwise ? { capShare: steps[0]!.capShare, capSteps: steps.slice(1) } : {}),
        }),
      ),
    );
    if (done) {
      onClose();
      router.navigate('/');
    }
  };

  return (
    <Sheet title="Typed in" onClose={onClose}>
      <Type>
        Confirm only what the lamp now runs. From here on Today, light so far and what the corals are used to
        follow it. Undo takes it back.
      </Type>
      {first && (
        <Choice
          label="Is this light new to the corals?"
          value={used}
          onChange={setUsed}
          options={[
            { value: 'new', label: 'New to them' },
            { value: 'used', label: 'They are used to it' },
          ]}
        />
      )}
      <Choice
        label="Since when?"
        value={when}
        onChange={setWhen}
        options={[
          { value: 'now', label: 'Just now' },
          { value: 'earlier', label: 'Earlier' },
        ]}
      />
      {when === 'earlier' && (
        <FieldRow>
          <TextField label="Date" value={date} onChange={setDate} />
          <TextField label="Time" value={time} onChange={setTime} numeric />
        </FieldRow>
      )}
      {error && (
        <Type kind="label" role="alert">
          {`▲ ${error}`}
        </Type>
      )}
      {steps.length > 1 && used !== 'used' ? (
        <>
          <Button
            label={`Typed in with today’s cap, ${percent(steps[0]!.capShare)}`}
            kind="filled"
            wide
            onPress={() => commit(true)}
            testID="typed-step"
          />
          <Note>{`${plural(steps.length - 1, 'more cap step')} until ${percent(group.capShare)}; Today says when each is due.`}</Note>
          <Button
            label={`Typed in at once, cap ${percent(group.capShare)}`}
            wide
            onPress={() => commit(false)}
            testID="typed-all"
          />
        </>
      ) : (
        <Button
          label={`Typed in, cap ${percent(group.capShare)}`}
          kind="filled"
          wide
          onPress={() => commit(false)}
          testID="typed-all"
        />
      )}
    </Sheet>
  );
}
