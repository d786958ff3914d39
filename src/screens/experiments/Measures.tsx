import { useState } from 'react';

import { type Experiment, MEASURED, measurings, phasesOf, valueOf } from '@/core/record/experiment';
import type { Zone } from '@/core/record/zone';
import { setExperiment, setValues } from '@/state/commands/experiments';
import { run } from '@/state/session';
import { isDate, localDate, shortDate, useNowMs } from '@/state/time';
import { Choice, FieldRow, ValueField } from '@/ui/Field';
import { Section } from '@/ui/Parts';
import { parseNumber } from '@/ui/parseNumber';
import { part } from '@/ui/part';
import { Type } from '@/ui/Type';

const FromPictures = part(async () => (await import('../pictures/part')).FromPictures);

/** What is measured, a day's measures at a time: the next that is due, or any other. */
export function Measures({ zone, e }: { zone: Zone; e: Experiment }) {
  const nowMs = useNowMs();
  const today = localDate(nowMs, zone.timeZone);
  const all = measurings(e);
  const next = Math.max(
    0,
    all.findIndex((m) => m.done < e.fragments.length),
  );
  const [chosen, setChosen] = useState<string | null>(null);
  const [dates, setDates] = useState<Readonly<Record<string, string>>>({});
  const keyOf = (i: number) => `${all[i]!.phase} ${all[i]!.at}`;
  const found = all.findIndex((_, i) => keyOf(i) === chosen);
  const at = found < 0 ? next : found;
  const m = all[at]!;
  const here = (x: Experiment['values'][number]) => x.phase === m.phase && x.at === m.at;
  const on = dates[keyOf(at)] ?? e.values.find(here)?.date ?? today;
  const { unit } = MEASURED[e.measure];
  const light = phasesOf(e)[m.phase]!.light;
  const label = (i: number) =>
    `${phasesOf(e)[all[i]!.phase]!.light}${all[i]!.phase === 2 ? ' again' : ''}, ${all[i]!.at === 'start' ? 'first' : 'last'}, ${shortDate(all[i]!.date)}`;
  return (
    <Section title="Measures">
      <Choice
        label="On"
        value={keyOf(at)}
        onChange={setChosen}
        options={all.map((x, i) => ({
          value: keyOf(i),
          label: `${x.done === e.fragments.length ? '✓ ' : ''}${label(i)}`,
        }))}
      />
      <Type kind="small" testID="measure-when">
        {m.date > today
          ? `Due on ${shortDate(m.date)}, as ${m.at === 'start' ? `the measured days of ${light} begin` : `${light} ends`}.`
          : m.done === e.fragments.length
            ? 'All of them are measured.'
            : `Due${m.date < today ? ` since ${shortDate(m.date)}` : ' today'}.`}
      </Type>
      <FieldRow>
        <ValueField
          key={keyOf(at)}
          label="Measured on"
          value={on}
          pick="date"
          testID="measured-on"
          onCommit={(text) => {
            const date = text.trim();
            if (!isDate(date)) return 'Give a date such as 2026-01-31.';
            if (date > today) return 'That is still to come.';
            setDates({ ...dates, [keyOf(at)]: date });
            if (e.values.some(here))
              run(
                setExperiment(zone.id, {
                  ...e,
                  values: e.values.map((x) => (here(x) ? { ...x, date } : x)),
                }),
              );
            return null;
          }}
        />
      </FieldRow>
      {e.fragments.map((f, i) => {
        if (i % 2 === 1) return null;
        const pair = e.fragments.slice(i, i + 2);
        return (
          <FieldRow key={f.id}>
            {pair.map((x) => {
              const value = valueOf(e, m.phase, x.id, m.at);
              return (
                <ValueField
                  key={`${x.id} ${keyOf(at)}`}
                  label={x.name}
                  value={value ? String(value.value) : ''}
                  unit={unit}
                  numeric
                  testID={`measure-${x.name}`}
                  onCommit={(text) => {
                    const v = text.trim() === '' ? null : parseNumber(text);
                    if (text.trim() !== '' && (v === null || v < 0.001 || v > 1e7))
                      return 'Give a number above 0, or nothing.';
                    const of = { phase: m.phase, fragmentId: x.id, at: m.at, date: on };
                    run(setValues(zone.id, e.id, [{ ...of, value: v }]));
                    return null;
                  }}
                />
              );
            })}
          </FieldRow>
        );
      })}
      {MEASURED[e.measure].pictures && <FromPictures key={e.measure} {...{ zone, e, m }} />}
    </Section>
  );
}
