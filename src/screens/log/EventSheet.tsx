import { router } from 'expo-router';
import { useState } from 'react';

import { FRESH_YELLOW } from '@/core/case/yellow';
import type { LogEvent } from '@/core/case/types';
import { setEvent, setZone, together } from '@/state/commands';
import { useDesk } from '@/state/desk';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { instantOf, isDate, localDate, wallMinute } from '@/state/time';
import { formatTime, parseTypedTime } from '@/core/day/clock';
import { Choice, FieldRow, TextField } from '@/ui/Field';
import { parseNumber } from '@/ui/parseNumber';
import { Note } from '@/ui/Parts';
import { Sheet } from '@/ui/Sheet';
import { Type } from '@/ui/Type';

import { useWhen, WhenFields } from '../shared/When';
import { EventFoot } from './EventFoot';

export type Entered = 'outage' | 'carbon' | 'lens' | 'note';

const TITLES: Record<Entered, string> = {
  outage: 'Power was out',
  carbon: 'Fresh carbon',
  lens: 'Lens wiped',
  note: 'Note',
};
/** What a wipe of a salty lens usually gives back. Mark: rule of thumb. */
const USUAL_WIPE = 0.08;

/** An entry of the log: what, when, and what it did to the light. Two taps with what stands there. */
export function EventSheet({
  kind,
  event,
  onClose,
  onLight,
  onOutage,
}: {
  kind: Entered;
  /** an entry that is changed */
  event?: LogEvent;
  onClose: () => void;
  /** the light rose by it */
  onLight?: () => void;
  /** light was missed by it */
  onOutage?: () => void;
}) {
  const { zone } = useDesk();
  const zoneTime = zone.timeZone;
  const when = useWhen(zoneTime, event?.atUtc);
  const old = <K extends Entered>(k: K) =>
    event?.kind === k ? (event as Extract<LogEvent, { kind: K }>) : undefined;
  const outage = old('outage');
  const endMs = outage?.toUtc ? Date.parse(outage.toUtc) : null;
  const [back, setBack] = useState<'back' | 'out'>(outage && outage.toUtc === null ? 'out' : 'back');
  const [toDate, setToDate] = useState(endMs === null ? '' : localDate(endMs, zoneTime));
  const [toTime, setToTime] = useState(
    endMs === null ? '' : formatTime(Math.floor(wallMinute(endMs, zoneTime))),
  );
  const [who, setWho] = useState((kind === 'lens' ? old('lens')?.groupId : outage?.groupIds?.[0]) ?? 'all');
  const [gain, setGain] = useState(String(Math.round((old('lens')?.gainShare ?? USUAL_WIPE) * 1000) / 10));
  const [yellow, setYellow] = useState(String(old('carbon')?.yellowAfter ?? FRESH_YELLOW));
  const [note, setNote] = useState(event?.note ?? '');
  const [error, setError] = useState<{ field: 'to' | 'gain' | 'yellow' | 'note'; words: string } | null>(
    null,
  );
  const wrong = (field: 'to' | 'gain' | 'yellow' | 'note') =>
    error?.field === field ? error.words : undefined;

  const keep = () => {
    setError(null);
    const atUtc = when.instant();
    if (atUtc === null) return;
    const base = { id: event?.id ?? newId(), zoneId: zone.id, atUtc, note: note.trim() };
    const commit = (made: LogEvent, ...more: Parameters<typeof together>[1][]) =>
      run(together(TITLES[kind].toLowerCase(), ...more, setEvent(made, TITLES[kind].toLowerCase())));
    switch (kind) {
      case 'outage': {
        let toUtc: string | null = null;
        if (back === 'back') {
          const minute = parseTypedTime(toTime);
          if (minute === null)
            return setError({ field: 'to', words: 'Give the time it came back, such as 14:30.' });
          const date = toDate.trim() === '' ? localDate(Date.parse(atUtc), zoneTime) : toDate.trim();
          if (!isDate(date)) return setError({ field: 'to', words: 'Give a date such as 2026-01-31.' });
          toUtc = instantOf(date, minute, zoneTime);
          if (toUtc <= atUtc)
            return setError({ field: 'to', words: 'It came back after it went: give a later time.' });
        }
        if (commit({ ...base, kind, toUtc, groupIds: who === 'all' ? null : [who] })) {
          onClose();
          onOutage?.();
        }
        return;
      }
      case 'carbon': {
        const after = parseNumber(yellow);
        if (after === null || after < 0 || after > 5)
          return setError({
            field: 'yellow',
            words: 'Give 0 to 5 per metre; fresh carbon leaves 0.02 to 0.05.',
          });
        const before = old('carbon')?.yellowBefore ?? zone.water.yellow440PerM;
        const water = event
          ? []
          : [
              setZone(zone.id, {
                water: { ...zone.water, yellow440PerM: after },
                carbonDate: localDate(Date.parse(atUtc), zoneTime),
              }),
            ];
        if (commit({ ...base, kind, yellowBefore: before, yellowAfter: after }, ...water)) {
          onClose();
          onLight?.();
        }
        return;
      }
      case 'lens': {
        const share = parseNumber(gain);
        if (share === null || share < 0 || share > 100)
          return setError({ field: 'gain', words: 'Give 0 to 100 %.' });
        if (commit({ ...base, kind, groupId: who === 'all' ? null : who, gainShare: share / 100 })) {
          onClose();
          onLight?.();
        }
        return;
      }
      case 'note':
        if (base.note === '') return setError({ field: 'note', words: 'Write what happened.' });
        if (commit({ ...base, kind })) onClose();
    }
  };

  return (
    <Sheet title={TITLES[kind]} onClose={onClose}>
      <WhenFields label={kind === 'outage' ? 'It went' : 'When'} value={when} testID="event" />
      {(kind === 'outage' || kind === 'lens') && zone.groups.length > 1 && (
        <Choice
          label="Which lamps"
          value={who}
          onChange={setWho}
          options={[
            { value: 'all', label: 'all' },
            ...zone.groups.map((g) => ({ value: g.id, label: g.name })),
          ]}
        />
      )}
      {kind === 'outage' && (
        <>
          <Choice
            label="Power"
            value={back}
            onChange={setBack}
            options={[
              { value: 'back', label: 'is back' },
              { value: 'out', label: 'is still out' },
            ]}
          />
          {back === 'back' && (
            <FieldRow>
              <TextField
                label="Back on"
                value={toDate}
                onChange={setToDate}
                hint="year-month-day; empty = the same day"
                testID="outage-date"
              />
              <TextField
                label="at"
                value={toTime}
                onChange={setToTime}
                numeric
                error={wrong('to')}
                testID="outage-time"
              />
            </FieldRow>
          )}
          <Type kind="small">
            The light that was missed counts: what they are used to falls, and every later step is planned
            from there. A cut may also have reset the lamp’s clock or its own easing: look at it.
          </Type>
        </>
      )}
      {kind === 'carbon' && (
        <>
          <TextField
            label="Yellow left in the water"
            value={yellow}
            onChange={setYellow}
            unit="per m"
            numeric
            hint="fresh carbon leaves 0.02-0.05 (literature)"
            error={wrong('yellow')}
            testID="carbon-yellow"
          />
          <Type kind="small">
            {event
              ? 'What the water was before is kept as it was logged.'
              : `The model took ${zone.water.yellow440PerM.toFixed(2)} until now. Blue and violet come back most.`}
          </Type>
        </>
      )}
      {kind === 'lens' && (
        <TextField
          label="It gave back about"
          value={gain}
          onChange={setGain}
          unit="%"
          numeric
          hint="8 % when not measured (rule of thumb); better: a reading before and after"
          error={wrong('gain')}
          testID="lens-gain"
        />
      )}
      <TextField
        label={kind === 'note' ? 'What happened' : 'In your words'}
        value={note}
        onChange={setNote}
        hint={
          kind === 'note'
            ? 'chemistry, feeding, fish, flow: what may explain a colour later'
            : 'may stay empty'
        }
        error={wrong('note')}
        testID="event-note"
      />
      {(kind === 'carbon' || kind === 'lens') && !event && (
        <Note kind={kind === 'lens' ? 'mains' : 'note'}>
          {kind === 'lens'
            ? 'Plug out and let it cool before you wipe; no water into the lamp.'
            : 'Rinse carbon first. Count it as a change of its own: raise no cap in the same week.'}
        </Note>
      )}
      <EventFoot eventId={event?.id} onKeep={keep} onClose={onClose} testID="keep-event" />
    </Sheet>
  );
}

/** Where a risen light is looked at. */
export const toRisen = () => router.navigate('/ease?of=running');
