import { useState } from 'react';

import { parseTypedTime, isoTime } from '@/core/day/clock';
import { instantOf, isDate, localDate, nowUtcIso, useNowMs, wallMinute } from '@/state/time';
import type { Typed } from '@/state/typed';
import { Choice, FieldRow, TextField } from '@/ui/Field';
import { Type } from '@/ui/Type';

export interface When {
  which: 'now' | 'earlier';
  date: string;
  time: string;
}

/** When something happened: just now, or at a time given. */
export function useWhen(timeZone: string, typed: Typed, atUtc?: string) {
  const nowMs = useNowMs();
  const ms = atUtc === undefined ? nowMs : Date.parse(atUtc);
  const [when, setWhen] = typed.of<When>('when', {
    which: atUtc === undefined ? 'now' : 'earlier',
    date: localDate(ms, timeZone),
    time: atUtc === undefined ? '' : isoTime(Math.floor(wallMinute(ms, timeZone))),
  });
  const [error, setError] = useState<string | null>(null);
  /** the instant, or null with the reason shown */
  const instant = (): string | null => {
    const fail = (message: string): null => {
      setError(message);
      return null;
    };
    setError(null);
    if (when.which === 'now') return nowUtcIso();
    const minute = parseTypedTime(when.time);
    if (minute === null) return fail('Time: give a time of day such as 14:30.');
    if (!isDate(when.date)) return fail('Date: give a date such as 2026-01-31.');
    const at = instantOf(when.date, minute, timeZone);
    return at > nowUtcIso() ? fail('That time is still to come: do it first, then say so.') : at;
  };
  const change = (next: Partial<When>) => {
    setWhen({ ...when, ...next });
    setError(null);
  };
  return { when, change, error, instant };
}

export function WhenFields({
  label,
  value: { when, change, error },
  testID,
}: {
  label: string;
  value: ReturnType<typeof useWhen>;
  testID: string;
}) {
  return (
    <>
      <Choice
        label={label}
        value={when.which}
        onChange={(which) => change({ which })}
        options={[
          { value: 'now', label: 'Just now' },
          { value: 'earlier', label: 'Earlier' },
        ]}
      />
      {when.which === 'earlier' && (
        <FieldRow>
          <TextField
            label="Date"
            value={when.date}
            onChange={(date) => change({ date })}
            pick="date"
            testID={`${testID}-date`}
          />
          <TextField
            label="Time"
            value={when.time}
            onChange={(time) => change({ time })}
            pick="time"
            numeric
            testID={`${testID}-time`}
          />
        </FieldRow>
      )}
      {error && (
        <Type kind="label" role="alert">
          {`▲ ${error}`}
        </Type>
      )}
    </>
  );
}
