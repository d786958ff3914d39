import { router } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';

import type { Group } from '@/core/case/types';
import { parseTypedTime } from '@/core/day/clock';
import { dims } from '@/core/spectrum/controls';
import { freeze, typeIn } from '@/state/commands';
import { useDesk } from '@/state/desk';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { instantOf, localDate, nowUtcIso, useNowMs } from '@/state/time';
import { Button } from '@/ui/Button';
import { Choice, FieldRow, TextField } from '@/ui/Field';
import { printHide } from '@/ui/print';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { percent, plural } from '../shared/words';

interface Props {
  group: Group;
  /** dated caps when the change is too large to make at once */
  steps: { date: string; capShare: number }[];
  /** nothing of this group has run before */
  first: boolean;
}

/** From draft to running: one tap, now or at a time given. */
export function TypedIn({ group, steps, first }: Props) {
  const { doc, zone, lampKind } = useDesk();
  const today = localDate(useNowMs(), zone.timeZone);
  const [when, setWhen] = useState<'now' | 'earlier'>('now');
  const [date, setDate] = useState(today);
  const [time, setTime] = useState('');
  const [used, setUsed] = useState<'new' | 'used'>('new');
  const [error, setError] = useState<string | null>(null);

  const fail = (message: string): null => {
    setError(message);
    return null;
  };
  const instant = (): string | null => {
    if (when === 'now') return nowUtcIso();
    const minute = parseTypedTime(time);
    if (minute === null) return fail('Time: give a time of day such as 14:30.');
    if (!/^\d{4}-\d\d-\d\d$/.test(date) || Number.isNaN(Date.parse(date))) {
      return fail('Date: give a date such as 2026-01-31.');
    }
    const at = instantOf(date, minute, zone.timeZone);
    return at > nowUtcIso() ? fail('That time is still to come: type the day in first, then say so.') : at;
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
    if (done) router.navigate('/');
  };
  const stepwise = steps.length > 1 && used !== 'used';

  return (
    <View style={{ gap: space.m }} {...printHide}>
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
        label="Once the lamp runs it: since when?"
        value={when}
        onChange={(value) => {
          setWhen(value);
          setError(null);
        }}
        options={[
          { value: 'now', label: 'Just now' },
          { value: 'earlier', label: 'Earlier' },
        ]}
      />
      {when === 'earlier' && (
        <FieldRow>
          <TextField label="Date" value={date} onChange={setDate} testID="typed-date" />
          <TextField label="Time" value={time} onChange={setTime} numeric testID="typed-time" />
        </FieldRow>
      )}
      {error && (
        <Type kind="label" role="alert">
          {`▲ ${error}`}
        </Type>
      )}
      {stepwise && (
        <Button
          label={`Typed in with today’s cap, ${percent(steps[0]!.capShare)}`}
          kind="filled"
          wide
          onPress={() => commit(true)}
          testID="typed-step"
        />
      )}
      <Button
        label={`Typed in${stepwise ? ' at once' : ''}${dims(lampKind!) ? `, cap ${percent(group.capShare)}` : ''}`}
        kind={stepwise ? 'outlined' : 'filled'}
        wide
        onPress={() => commit(false)}
        testID="typed-all"
      />
      <Type kind="small">
        {stepwise
          ? `${plural(steps.length - 1, 'more cap step')} until ${percent(group.capShare)}; Today says when each is due. Undo takes it back.`
          : 'From then on Today, light so far and what the corals are used to follow it. Undo takes it back.'}
      </Type>
    </View>
  );
}
