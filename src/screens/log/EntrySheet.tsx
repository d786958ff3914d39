import { router } from 'expo-router';
import { useState } from 'react';

import { isoTime, parseTypedTime } from '@/core/day/clock';
import type { LogEvent } from '@/core/record/log';
import { asSaid } from '@/core/record/log/measures';
import type { LogBase, LogField, LogForm, LogKind, LogValues } from '@/core/record/log/logKind';
import type { Zone } from '@/core/record/zone';
import { removeEvent, setEvent } from '@/state/commands/log';
import { setZone } from '@/state/commands/waters';
import { together } from '@/state/commands/edit';
import { useTyped } from '@/state/typed';
import { useDesk } from '@/state/desk';
import { newId } from '@/state/id';
import { flush, run } from '@/state/session';
import { instantOf, isDate, localDate, nowUtcIso, useNowMs, wallMinute } from '@/state/time';
import { Button } from '@/ui/Button';
import { Choice, FieldRow, TextField } from '@/ui/Field';
import { Note } from '@/ui/Parts';
import { parseNumber } from '@/ui/parseNumber';
import { Sheet } from '@/ui/Sheet';
import { Type } from '@/ui/Type';

import { useWhen, WhenFields } from '../shared/When';

type Field = LogField<LogBase>;
/** What stands in the fields, as it is typed: a number as text, an end as whether, date and time. */
type Texts = Record<string, string>;

/** How long a store may take before the next place is opened all the same. */
const PATIENCE_MS = 300;

const typedEnd = (key: string, part: 'is' | 'date' | 'time') => `${key}/${part}`;

function typedAt(field: Field, event: LogEvent | undefined, zone: Zone): Texts {
  if (field.is !== 'end') {
    const value = field.from(event, zone);
    return { [field.key]: value === null ? '' : String(value) };
  }
  const end = field.from(event);
  const ms = end === null ? null : Date.parse(end);
  return {
    [typedEnd(field.key, 'is')]: event && ms === null ? 'lasts' : 'ended',
    [typedEnd(field.key, 'date')]: ms === null ? '' : localDate(ms, zone.timeZone),
    [typedEnd(field.key, 'time')]: ms === null ? '' : isoTime(Math.floor(wallMinute(ms, zone.timeZone))),
  };
}

/** What a field's text means, or what is wrong with it. */
function valueOf(field: Field, typed: Texts): { value: number | string | null } | { say: string } {
  if (field.is === 'choice') return { value: typed[field.key]! };
  if (field.is === 'text')
    return typed[field.key]!.length > field.most
      ? { say: `Give at most ${field.most} characters.` }
      : { value: typed[field.key]! };
  if (field.is === 'number') {
    const text = typed[field.key]!;
    if (field.mayBeEmpty && text.trim() === '') return { value: null };
    const value = inUnit(field, text);
    return value === null || value < field.low || value > field.high ? { say: field.say } : { value };
  }
  return { value: null };
}

/** A typed number in the field's unit: another unit may stand after it, or its size tells. */
function inUnit(field: Extract<Field, { is: 'number' }>, text: string): number | null {
  const [, digits = text, unit = ''] = /^\s*([-−+\d.,\s]+?)\s*([^\d\s.,][^\d]*)?$/.exec(text) ?? [];
  const value = parseNumber(digits);
  if (value === null) return null;
  const said = unit
    .toLowerCase()
    .replace(/[\s/].*$/, '')
    .replace(/^f$/, '°f');
  if (said === '' || said === field.unit.toLowerCase() || said === 'c')
    return field.also?.find((a) => said === '' && a.when?.(value))?.to(value) ?? value;
  return field.also?.find((a) => a.unit === said)?.to(value) ?? null;
}

/** An end's instant: later than when it began, on the same day unless a date is given. */
function endOf(key: string, typed: Texts, atUtc: string, timeZone: string) {
  if (typed[typedEnd(key, 'is')] === 'lasts') return { value: null };
  const minute = parseTypedTime(typed[typedEnd(key, 'time')]!);
  if (minute === null) return { say: 'Give the time it came back, such as 14:30.' };
  const given = typed[typedEnd(key, 'date')]!.trim();
  const date = given === '' ? localDate(Date.parse(atUtc), timeZone) : given;
  if (!isDate(date)) return { say: 'Give a date such as 2026-01-31.' };
  const value = instantOf(date, minute, timeZone);
  if (value > nowUtcIso())
    return { say: 'That is still to come: choose that it lasts, and give the time once it is back.' };
  return value <= atUtc ? { say: 'It came back after it went: give a later time.' } : { value };
}

interface EntryProps {
  kind: LogKind;
  /** an entry that is changed */
  event?: LogEvent;
  onClose: () => void;
  /** light was missed by it */
  onMissed?: () => void;
}

/** An entry of the log by the form of its kind. Two taps with what stands there. */
export const EntrySheet = (props: EntryProps) =>
  props.kind.form && <Entry form={props.kind.form} {...props} />;

function Entry({ kind, form, event, onClose, onMissed }: EntryProps & { form: LogForm<LogBase> }) {
  const { zone, doc, bundle } = useDesk();
  const nowMs = useNowMs();
  const kept = useTyped(`entry ${event?.id ?? `${kind.kind} in ${zone.id}`}`);
  const when = useWhen(zone.timeZone, kept, event?.atUtc);
  const [typed, setTyped] = kept.of<Texts>(
    'fields',
    Object.assign({}, ...form.fields.map((f) => typedAt(f, event, zone))) as Texts,
  );
  const [note, setNote] = kept.of('note', event?.note ?? '');
  const [wrong, setWrong] = useState<Record<string, string>>({});
  const closed = form.closed?.(zone) ?? null;
  if (closed !== null)
    return (
      <Sheet title={form.title} onClose={onClose} typed={kept}>
        <Type>{closed}</Type>
      </Sheet>
    );

  const keep = () => {
    const atUtc = when.instant();
    const values: Record<string, number | string | null> = {};
    const found: Record<string, string> = {};
    for (const f of form.fields) {
      const read = f.is === 'end' ? endOf(f.key, typed, atUtc ?? '', zone.timeZone) : valueOf(f, typed);
      if ('say' in read) found[f.key] = read.say;
      else values[f.key] = read.value;
    }
    if (form.note.needed && note.trim() === '') found.note = form.note.needed;
    setWrong(found);
    if (Object.keys(found).length > 0 || atUtc === null) return;
    const made = form.make(values, zone, event);
    if ('say' in made) return setWrong({ [String(made.field)]: String(made.say) });
    const entry = {
      id: event?.id ?? newId(),
      zoneId: event?.zoneId ?? zone.id,
      atUtc,
      note: note.trim(),
      kind: kind.kind,
      ...made,
    } as LogEvent;
    const name = form.title.toLowerCase();
    const yellow = event ? undefined : form.water?.(entry);
    const water =
      yellow === undefined
        ? []
        : [
            setZone(zone.id, {
              water: { ...zone.water, yellow440PerM: yellow },
              carbonDate: localDate(Date.parse(atUtc), zone.timeZone),
            }),
          ];
    if (!run(together(name, ...water, setEvent(entry, name)))) return;
    kept.clear();
    onClose();
    if (form.then === 'missed') onMissed?.();
    if (form.then === 'risen' && bundle.history.entries.length > 0) {
      // it is stored before another place is drawn, unless the store takes its time
      const soon = new Promise((resolve) => setTimeout(resolve, PATIENCE_MS));
      void Promise.race([flush(), soon]).then(() => router.navigate('/ease?of=running'));
    }
  };

  const set = (key: string) => (text: string) => setTyped((old) => ({ ...old, [key]: text }));
  const draw = (f: Field) => {
    const testID = `${kind.kind}-${f.key}`;
    if (f.is === 'number')
      return (
        <TextField
          key={f.key}
          label={f.label}
          value={typed[f.key]!}
          onChange={set(f.key)}
          unit={f.unit}
          numeric
          hint={f.hint ?? lastOf(f)}
          error={wrong[f.key]}
          testID={testID}
        />
      );
    if (f.is === 'text')
      return (
        <TextField
          key={f.key}
          label={f.label}
          value={typed[f.key]!}
          onChange={set(f.key)}
          hint={lastOf(f)}
          error={wrong[f.key]}
          testID={testID}
        />
      );
    if (f.is === 'choice') {
      const options = f.options(zone);
      // one lamp beside "all" is no choice
      return options.length > 1 && !(options.length === 2 && options[0]!.value === 'all') ? (
        <Choice key={f.key} label={f.label} value={typed[f.key]!} onChange={set(f.key)} options={options} />
      ) : null;
    }
    return <EndFields key={f.key} field={f} typed={typed} set={set} error={wrong[f.key]} kind={kind.kind} />;
  };
  const earlier = bundle.log.events.filter(
    (e) =>
      e.kind === kind.kind &&
      e.id !== event?.id &&
      (kind.shared || e.zoneId === zone.id) &&
      Date.parse(e.atUtc) <= nowMs,
  );
  earlier.sort((a, b) => (a.atUtc < b.atUtc ? -1 : 1));
  /** what was entered last time, offered beside an empty field */
  const lastOf = (f: Field): string | undefined => {
    if (f.is === 'text') {
      const last = earlier.at(-1);
      return last && f.offered(last) !== '' ? `last time: ${f.offered(last)}` : undefined;
    }
    if (f.is !== 'number' || event) return undefined;
    const last = earlier.findLast((e) => f.from(e, zone) !== null);
    return last && f.mayBeEmpty ? `last: ${asSaid(f, f.from(last, zone)!).value}` : undefined;
  };
  const numbers: LogValues = Object.fromEntries(
    form.fields.map((f) => {
      const read = valueOf(f, typed);
      return [f.key, 'value' in read ? read.value : null];
    }),
  );
  const live = form.live?.(numbers, doc, earlier, nowMs) ?? null;
  const about = form.about?.(zone, event) ?? null;
  return (
    <Sheet title={form.title} onClose={onClose} typed={kept}>
      {!form.whenLast && <WhenFields label={form.when} value={when} testID="event" />}
      {inRows(form.fields).map((row) =>
        row.length > 1 ? <FieldRow key={row[0]!.key}>{row.map(draw)}</FieldRow> : draw(row[0]!),
      )}
      {live !== null && <Type testID={`${kind.kind}-live`}>{live}</Type>}
      {about !== null && <Type kind="small">{about}</Type>}
      {form.whenLast && <WhenFields label={form.when} value={when} testID="event" />}
      <TextField
        label={form.note.label}
        value={note}
        onChange={setNote}
        hint={form.note.hint}
        error={wrong.note}
        testID="event-note"
      />
      {form.caution && !(form.caution.onlyNew && event) && (
        <Note kind={form.caution.kind}>{form.caution.words}</Note>
      )}
      <Button label="Keep" kind="filled" wide onPress={keep} testID="keep-event" />
      {event && (
        <Button
          label="Remove from the log"
          onPress={() => {
            kept.clear();
            onClose();
            run(removeEvent(event.id));
          }}
          testID="remove-event"
        />
      )}
    </Sheet>
  );
}

/** Fields in rows: one that stands beside the one before it shares its row. */
const inRows = (fields: readonly Field[]): Field[][] =>
  fields.reduce<Field[][]>(
    (rows, f) =>
      f.beside && rows.length > 0 ? [...rows.slice(0, -1), [...rows.at(-1)!, f]] : [...rows, [f]],
    [],
  );

function EndFields({
  field,
  typed,
  set,
  error,
  kind,
}: {
  field: Extract<Field, { is: 'end' }>;
  typed: Texts;
  set: (key: string) => (text: string) => void;
  error?: string;
  kind: string;
}) {
  const is = typedEnd(field.key, 'is');
  const date = typedEnd(field.key, 'date');
  const time = typedEnd(field.key, 'time');
  return (
    <>
      <Choice
        label={field.label}
        value={typed[is]!}
        onChange={set(is)}
        options={[
          { value: 'ended', label: field.ended },
          { value: 'lasts', label: field.lasts },
        ]}
      />
      {typed[is] === 'ended' && (
        <FieldRow>
          <TextField
            label="Back on"
            value={typed[date]!}
            onChange={set(date)}
            pick="date"
            hint="empty = the same day"
            testID={`${kind}-date`}
          />
          <TextField
            label="at"
            value={typed[time]!}
            onChange={set(time)}
            pick="time"
            numeric
            error={error}
            testID={`${kind}-time`}
          />
        </FieldRow>
      )}
    </>
  );
}
