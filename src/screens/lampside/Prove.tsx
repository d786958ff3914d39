import { entriesNow } from '@/state/derive';
import { router } from 'expo-router';
import { useMemo, useState } from 'react';
import { View } from 'react-native';

import { entriesOf, litRunning } from '@/core/case/lit';
import { SEEN_SHARE } from '@/core/case/faults';
import { doubtUnder } from '@/core/case/doubtUnder';
import { levelsOfGroups, parUnder } from '@/core/case/light';
import { atSpot, firstTimes, proofWords, prove, type ProofKind, type ProofReading } from '@/core/case/prove';
import { dims } from '@/core/spectrum/controls';
import { formatTime, parseTypedTime } from '@/core/day/clock';
import { addProof, removeProof } from '@/state/commands/readings';
import { setSure } from '@/state/commands/running';
import { newId } from '@/state/id';
import { useTyped } from '@/state/typed';
import { useDesk } from '@/state/desk';
import { useCalibration, useLight } from '@/state/light';
import { run } from '@/state/session';
import { daysAgo, nowUtcIso, useNowMs } from '@/state/time';
import { Button } from '@/ui/Button';
import { FieldRow, TextField } from '@/ui/Field';
import { Sentence } from '@/ui/Sentence';
import { Page } from '@/ui/Page';
import { parseNumber } from '@/ui/parseNumber';
import { Note, Row, Section } from '@/ui/Parts';
import { Type } from '@/ui/Type';

import { EyeCaution } from '../shared/Cautions';
import { GroupChoice } from '../shared/GroupChoice';
import { LightPending } from '../shared/LightPending';
import { NoLamps } from '../shared/NoLamps';
import { spotPart } from '../shared/spotPart';
import { percent } from '@/core/shape/percent';

const KINDS: readonly { value: ProofKind; label: string }[] = [
  { value: 'par', label: 'PAR' },
  { value: 'lux', label: 'lux' },
  { value: 'percent', label: 'the percent its display shows' },
  { value: 'lit', label: 'whether it is lit' },
];
const UNITS: Record<ProofKind, string> = { par: 'µmol', lux: 'lux', percent: '%', lit: '' };
const READ: Record<ProofKind, string> = {
  par: 'Read PAR',
  lux: 'Read lux',
  percent: 'Read the percent its display shows',
  lit: 'Look whether it is lit',
};
const SEEN = [
  { value: '1', label: 'lit' },
  { value: '0', label: 'dark' },
];
const SURE_WORDS = {
  typedIn: 'typed in, not proven',
  loaded: 'loaded and read back',
  proven: 'proven by readings',
  doubted: 'doubted: readings say otherwise',
} as const;

/** What a lamp really runs, from a few readings at known clock times. */
export function Prove() {
  const desk = useDesk();
  if (!desk.group) return <NoLamps title="Prove the lamp" />;
  if (desk.zone.spots.length > 0) return <Proving />;
  return (
    <Page testID="prove" title="Prove the lamp" under={`${desk.group.name}, ${desk.zone.name}`}>
      <LightPending error={null} noSpot height={0} />
    </Page>
  );
}

function Proving() {
  const desk = useDesk();
  const { zone, bundle, spot, spotIndex } = desk;
  const group = desk.group!;
  const nowMs = useNowMs();
  const cal = useCalibration(bundle, zone);
  const entries = entriesNow(bundle.history, zone, nowMs);
  const groups = useMemo(() => entries.map((e) => litRunning(e)), [entries]);
  const index = groups.findIndex((g) => g.groupId === group.id);
  const entry = entries[index];
  const { light } = useLight(groups, zone, cal);
  const before = useMemo(() => {
    const past = entriesOf(bundle.history, zone.id).filter(
      (e) => e.groupId === group.id && e.atUtc < (entry?.atUtc ?? ''),
    );
    return past.length > 0 ? litRunning(past[past.length - 1]!) : null;
  }, [bundle.history, zone.id, group.id, entry?.atUtc]);

  // what was read while this ran, on any day of it
  const { proofs } = bundle.readings;
  const taken = useMemo(
    () =>
      proofs
        .filter((p) => p.entryId === entry?.id)
        .map((p) => ({ ...p, spot: p.spotId === null ? 0 : zone.spots.findIndex((s) => s.id === p.spotId) }))
        .filter((p) => p.spot >= 0),
    [proofs, entry?.id, zone.spots],
  );
  const readings: readonly ProofReading[] = taken;
  const typed = useTyped(`proof ${group.id}`);
  const [kind, setKind] = typed.of<ProofKind>('kind', 'par');
  const [time, setTime] = typed.of('time', '');
  const [value, setValue] = typed.of('value', '');
  const [seen, setSeen] = typed.of('seen', '1');
  const [error, setError] = useState<{ field: 'time' | 'value'; words: string } | null>(null);
  const usable = light && index >= 0 && light.par[index]?.length === zone.spots.length ? light : null;
  // how far the light may be off at each coral, at its brightest there
  const scale = useMemo(() => {
    if (!usable) return null;
    const brightest = groups
      .flatMap((g) => g.day.knots.map((k) => levelsOfGroups(groups, k.minute)))
      .reduce<number[][] | null>(
        (best, levels) => (best && parUnder(usable, best, 0) >= parUnder(usable, levels, 0) ? best : levels),
        null,
      );
    return brightest && doubtUnder(cal, usable, groups, brightest);
  }, [usable, groups, cal]);
  // a lamp that dims shows by how much: nothing is to be measured for that
  const display = dims(desk.lampKind!);
  // a few hundred variants over every quarter hour: not with every render
  const verdict = useMemo(
    () =>
      usable && scale
        ? prove({ groups, index, before, light: usable, scale }, readings, [
            ...new Set([kind, ...readings.map((r) => r.kind), ...(display ? (['percent'] as const) : [])]),
          ])
        : null,
    [usable, groups, index, before, scale, readings, kind, display],
  );
  const lit = groups[index];
  const planned = lit ? firstTimes(lit) : [];
  const nextPlanned = planned.find((m) => !readings.some((r) => Math.abs(r.minute - m) < 45));
  const suggested =
    readings.length < 2 && nextPlanned !== undefined
      ? { minute: nextPlanned, spot: Math.max(0, spotIndex), kind }
      : (verdict?.next ?? null);

  const add = () => {
    const minute = parseTypedTime(time);
    if (minute === null) return setError({ field: 'time', words: 'Give a time of day such as 14:30.' });
    const v = kind === 'lit' ? Number(seen) : parseNumber(value);
    const most = kind === 'percent' || kind === 'lit' ? 100 : kind === 'lux' ? 500_000 : 5000;
    if (v === null || v < 0 || v > most)
      return setError({ field: 'value', words: `Give 0 to ${most} ${UNITS[kind]}.` });
    setError(null);
    if (!entry) return;
    const done = run(
      addProof({
        ...{ id: newId(), entryId: entry.id, atUtc: nowUtcIso(), minute, kind, value: v },
        spotId: atSpot(kind) ? (spot?.id ?? null) : null,
      }),
    );
    if (!done) return;
    setTime('');
    setValue('');
  };
  const said = verdict && readings.length > 0 ? verdict : null;
  const keep = () => {
    if (!entry || !said?.named) return;
    const sure = said.named.id === 'asPlanned' ? 'proven' : 'doubted';
    run(
      setSure(entry.id, sure, sure === 'proven' ? 'proven by readings' : `readings say: ${said.named.words}`),
    );
  };

  return (
    <Page
      testID="prove"
      title="Prove the lamp"
      under={`${group.name}, ${zone.name}`}
      sentence={
        <Type kind="sentence" testID="prove-sentence" style={{ maxWidth: 700 }}>
          {!entry
            ? 'Nothing is known to be running here, so nothing can be proven. Say on the sheet what was typed in.'
            : !said
              ? 'Three or four readings at known times say what this lamp really runs.'
              : proofWords(said)}
        </Type>
      }
      side={
        <>
          {said && (
            <Section title="What fits">
              <View testID="causes">
                {said.causes
                  .filter((c) => c.odds > 0.005)
                  .slice(0, 5)
                  .map((c) => (
                    <Row key={c.id} style={{ minHeight: 44 }}>
                      <Type kind="label" style={{ flex: 1 }}>
                        {c.words}
                      </Type>
                      {c.id !== 'other' && (
                        <Type kind="small">{c.fits ? 'within noise' : 'outside noise'}</Type>
                      )}
                      <Type kind="strong" style={{ width: 56, textAlign: 'right' }}>
                        {percent(c.odds)}
                      </Type>
                    </Row>
                  ))}
              </View>
              <Type kind="small">{`From the readings and their times alone. What moves the light by less than ${percent(SEEN_SHARE)} is beyond a meter; less than half an hour of a clock is hardly seen.`}</Type>
              {said.named && (
                <Button
                  label={said.named.id === 'asPlanned' ? 'Keep: proven' : 'Keep: doubted'}
                  kind="filled"
                  wide
                  onPress={keep}
                  testID="keep-proof"
                />
              )}
            </Section>
          )}
          {entry && (
            <Type kind="small" testID="sure">
              {`What runs here is ${SURE_WORDS[entry.sure]}.`}
            </Type>
          )}
          <EyeCaution />
        </>
      }
    >
      <GroupChoice />
      {!entry ? (
        <Button label="The sheet" wide onPress={() => router.navigate('/sheet')} />
      ) : (
        <>
          {suggested && (
            <Type kind="strong" testID="suggested">
              {`${READ[suggested.kind]} at ${formatTime(suggested.minute)}${atSpot(suggested.kind) ? ` at ${zone.spots[suggested.spot]?.name ?? 'a coral'}` : ''}${readings.length >= 2 ? ': that would decide most' : ''}.`}
            </Type>
          )}
          <Sentence
            parts={[
              'I read ',
              {
                id: 'proof-kind',
                name: 'What is read',
                value: KINDS.find((k) => k.value === kind)!.label,
                chosen: kind,
                options: KINDS,
                onChoose: (value) => setKind(value as ProofKind),
              },
              ...(kind === 'lit'
                ? [
                    ': ',
                    {
                      id: 'proof-seen',
                      name: 'What is seen',
                      value: SEEN.find((s) => s.value === seen)!.label,
                      chosen: seen,
                      options: SEEN,
                      onChoose: setSeen,
                    },
                  ]
                : []),
              ...(atSpot(kind) ? [' at ', spotPart(zone.spots, spot)] : []),
              '.',
            ]}
          />
          <FieldRow>
            <TextField
              label="Clock time"
              value={time}
              onChange={setTime}
              pick="time"
              error={error?.field === 'time' ? error.words : undefined}
              testID="proof-time"
            />
            {kind !== 'lit' && (
              <TextField
                label="Reading"
                value={value}
                onChange={setValue}
                onSubmit={add}
                unit={UNITS[kind]}
                numeric
                error={error?.field === 'value' ? error.words : undefined}
                testID="proof-value"
              />
            )}
          </FieldRow>
          <Button label="Add" kind="filled" wide onPress={add} testID="proof-add" disabled={!usable} />
          <View testID="proof-readings">
            {taken.map((r) => (
              <Row key={r.id} style={{ minHeight: 44 }}>
                <Type style={{ width: 64 }}>{formatTime(r.minute)}</Type>
                <Type kind="label" style={{ flex: 1 }}>
                  {`${r.kind === 'percent' ? 'on its display' : r.kind === 'lit' ? 'by eye' : zone.spots[r.spot]?.name}, ${daysAgo(r.atUtc, nowMs, zone.timeZone)}`}
                </Type>
                <Type kind="strong">
                  {r.kind === 'lit' ? (r.value > 0 ? 'lit' : 'dark') : `${r.value} ${UNITS[r.kind]}`}
                </Type>
                <Button
                  label="Remove"
                  name={`Remove the reading at ${formatTime(r.minute)}`}
                  kind="plain"
                  onPress={() => run(removeProof(r.id))}
                />
              </Row>
            ))}
          </View>
          <Note>
            For lamps no software can talk to. Take readings where the meter always lies the same, several
            tries each, pumps off, and by the wall’s clock, not the lamp’s.
          </Note>
          {cal.readings === 0 && (
            <Type kind="small">
              The light here is an estimate, so strength alone proves little; times and ratios still do. A
              calibrated tank proves more.
            </Type>
          )}
        </>
      )}
    </Page>
  );
}
