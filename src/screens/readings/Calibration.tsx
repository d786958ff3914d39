import { capital, plural } from '@/core/shape/counts';
import { router } from 'expo-router';
import { useMemo, useState } from 'react';
import { View } from 'react-native';

import type { Criticism } from '@/core/case/criticism';
import {
  bareCalibration,
  byLog,
  type Calibration,
  hungGroups,
  type Parameter,
} from '@/core/case/calibration';
import { bandUnder, brightestLevels, parUnder, type ZoneLight } from '@/core/case/light';
import { planVisit, type Visit } from '@/core/case/visit';
import { levelsById } from '@/core/case/plateaus';
import { parBySolo, soloPlaces, sumChecks } from '@/core/case/superposition';
import { fittedWords } from '@/core/case/verdict';
import { CEILINGS } from '@/core/easing/accustomed';
import { meterKind } from '@/core/meter/kinds';
import { NINETY } from '@/core/meter/noise';
import type { Session } from '@/core/record/readings';
import { litWords } from '@/core/case/walk';
import { setSession, trustMeter, trustReading } from '@/state/commands/readings';
import { litNow, type Desk, useDesk } from '@/state/desk';
import { judgementOf } from '@/state/judgement';
import { useCalibrationState, useLight } from '@/state/light';
import { run } from '@/state/session';
import { changeSettings } from '@/state/settings';
import { longDate, useNowMs } from '@/state/time';
import { Button } from '@/ui/Button';
import { Page } from '@/ui/Page';
import { Note, Row, Section } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Sentence } from '@/ui/Sentence';
import { Type } from '@/ui/Type';

import { bandWords, tenantsOf, umol, umolExact } from '../shared/words';
import { percent } from '@/core/shape/percent';

/** What the readings say of lamps and water, how sure, what does not fit, and which reading would help most. */
export function CalibrationPage() {
  const desk = useDesk();
  const { zone, bundle } = desk;
  const { calibration: cal, progress, error, cancel, again } = useCalibrationState(bundle, zone);
  const [changed, setChanged] = useState(false);
  const sessions = bundle.readings.sessions.filter((s) => s.zoneId === zone.id);
  const counted = sessions.some((s) => s.counts && s.readings.length > 0);
  const suspects = cal.residuals.filter((r) => r.suspect);
  const sums = sumChecks(cal);
  return (
    <Page
      testID="calibration"
      title="Calibration"
      under={zone.name}
      sentence={
        <Type kind="sentence" testID="calibration-sentence" style={{ maxWidth: 700 }}>
          {calibrationSentence(cal, suspects.length, sums.filter((s) => !s.addsUp).length)}
          {cal.readings > 0 && <Meaning desk={desk} cal={cal} />}
        </Type>
      }
      side={
        <>
          <Parameters cal={cal} sessions={sessions} />
          <Section title="Sessions">
            {sessions.length === 0 && <Type quiet>None yet.</Type>}
            <View>
              {sessions.map((s) => (
                <Row key={s.id}>
                  <View style={{ flex: 1 }}>
                    <Type kind="label">{`${s.name}${s.meter.simulated ? ' · simulated' : ''}`}</Type>
                    <Type kind="small">{`${longDate(Date.parse(s.atUtc), zone.timeZone)}, ${plural(s.readings.length, 'reading')}`}</Type>
                  </View>
                  <Button
                    label={s.counts ? 'Set aside' : 'Let count'}
                    name={`${s.counts ? 'Set aside' : 'Let count'}: ${s.name}`}
                    kind="plain"
                    onPress={() => run(setSession(s.id, { counts: !s.counts }))}
                  />
                </Row>
              ))}
            </View>
            <Type kind="small">
              Set a session aside when carbon was changed, a lens wiped or a lamp moved since: what it read is
              gone.
            </Type>
          </Section>
        </>
      }
    >
      {progress !== null ? (
        <View style={{ flexDirection: 'row', alignItems: 'center', gap: space.m }}>
          <Type role="status" quiet testID="fitting">{`Fitting ${percent(progress)}`}</Type>
          <Button label="Stop" kind="plain" onPress={cancel} />
        </View>
      ) : (
        cal.readings === 0 &&
        counted && <Button label="Fit the readings" wide onPress={again} testID="fit-again" />
      )}
      {error && <Note>{`The readings could not be fitted: ${error}. The bare model is shown.`}</Note>}
      {cal.simulated && (
        <Note>
          Simulated readings count here: every figure now follows a made-up truth. Set those sessions aside,
          or remove them, before you rely on it.
        </Note>
      )}
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
        <Button
          label={changed ? 'Hide what it changed' : 'What did it change?'}
          kind="filled"
          onPress={() => setChanged(!changed)}
          testID="what-changed"
        />
        <Button label="Readings" onPress={() => router.navigate('/readings')} />
        <Button label="Before and after" onPress={() => router.navigate('/before-after')} />
      </View>
      {changed && <WhatChanged desk={desk} cal={cal} />}
      <Next desk={desk} cal={cal} />
      {cal.residuals.length > 0 && <Residuals desk={desk} cal={cal} />}
      {sums.length > 0 && (
        <Section title="Do the sums add up?">
          <View>
            {sums.map((s) => (
              <Row key={s.readingId}>
                <View style={{ flex: 1 }}>
                  <Type
                    kind="label"
                    testID={`sum-${s.name}`}
                  >{`${s.name}: ${s.addsUp ? 'adds up' : 'does not add up'}`}</Type>
                  <Type kind="small">{`colours alone ${umolExact(s.sumUmol)}, together ${umolExact(s.togetherUmol)} µmol (${Math.abs(s.sigmas).toFixed(1)} standard errors apart)`}</Type>
                  {s.causes.map((c) => (
                    <Type key={c} kind="small">{`Perhaps ${c}.`}</Type>
                  ))}
                </View>
              </Row>
            ))}
          </View>
        </Section>
      )}
      <Solo desk={desk} cal={cal} />
    </Page>
  );
}

function calibrationSentence(cal: Calibration, suspects: number, odd: number): string {
  if (cal.readings === 0)
    return 'No reading counts yet: PAR is an estimate from typical lamps; yours may well differ by a third, seldom by more than half, and more often downwards. One reading tells most.';
  const parts = [
    `${plural(cal.readings, 'reading')} fitted.`,
    suspects > 0
      ? `${plural(suspects, 'reading')} ${suspects === 1 ? 'does' : 'do'} not fit: look again at ${suspects === 1 ? 'it' : 'them'} below.`
      : '',
    odd > 0 ? 'Some sums of single colours do not add up.' : '',
    cal.criticism
      ? criticismWords(cal.criticism)
      : cal.scatter > 1.3
        ? `They scatter ${cal.scatter.toFixed(1)} times wider than the meter’s noise, so every band was widened.`
        : '',
  ];
  return parts.filter(Boolean).join(' ');
}

/** What the model says of itself, what may be behind it and what would tell. */
function criticismWords({ by, causes, measure, widen }: Criticism): string {
  const how =
    by === 'scatter' ? 'lie farther off than any meter does' : 'lie off more and more towards one side';
  const because =
    causes.length === 0
      ? 'nothing that the app knows of would explain it'
      : `it may be that ${causes.map((c) => `${c.words} (${percent(c.odds)})`).join(', or that ')}`;
  return `Something is not as it was said: readings ${how}; ${because}. Every ± is ${widen.toFixed(1)} times as wide for it. ${measure}`;
}

/** What the fit means for who lives there: how far the doubt fell, and whose standing it changed. */
function Meaning({ desk, cal }: { desk: Desk; cal: Calibration }) {
  const { groups, bare, before, after } = useBoth(desk, cal);
  if (!before || !after) return null;
  const judged = (light: ZoneLight, by: Calibration) =>
    judgementOf('runs', desk.zone, groups, light, by, null, CEILINGS.usual, false);
  return ` ${fittedWords(judged(before, bare), judged(after, cal), tenantsOf(desk.zone.spots))}`;
}

/** The water as it is lit, by the bare model and by what was fitted. */
function useBoth({ zone, doc, ...desk }: Desk, cal: Calibration) {
  const groups = litNow({ zone, doc, ...desk }, useNowMs());
  const bare = useMemo(() => bareCalibration(hungGroups(doc, zone), zone), [doc, zone]);
  const { light: before } = useLight(groups, zone, bare);
  const { light: after } = useLight(groups, zone, cal);
  return { groups, bare, before, after };
}

const UNIT: Partial<Record<Parameter['what'], string>> = {
  yellow: ' per m',
  height: ' cm',
  leanRight: '°',
  leanBack: '°',
};
/** Doubt that fell by less than this says nothing worth a line. Mark: rule of thumb. */
const LEARNT = 0.9;
/** What readings told: colours always, the rest where they made it surer. */
const told = (p: Parameter): boolean =>
  p.what === 'gain' ||
  (p.what !== 'field' && p.standardError < LEARNT * p.before * (byLog(p.what) ? p.value : 1));

/** A meter's scale this near to 1 is as it shows. Mark: rule of thumb. */
const AS_SHOWN = 0.02;

function Parameters({ cal, sessions }: { cal: Calibration; sessions: readonly Session[] }) {
  const scales = cal.meters.filter((m) => m.trusted || Math.abs(m.scale - 1) >= AS_SHOWN);
  const apart = cal.residuals.filter((r) => r.dropped || r.trusted);
  return (
    <Section title="What was fitted">
      <View testID="parameters">
        {cal.parameters.filter(told).map((p) => (
          <Row key={`${p.what} ${p.groupId} ${p.channelId} ${p.lampId}`} style={{ minHeight: 44 }}>
            <Type kind="label" style={{ flex: 1 }}>
              {p.name}
            </Type>
            <Type kind="strong">{`${p.value.toFixed(2)}${UNIT[p.what] ?? ' ×'}`}</Type>
            <Type kind="small" style={{ width: 60, textAlign: 'right' }}>
              {`± ${p.standardError.toFixed(2)}`}
            </Type>
          </Row>
        ))}
        {scales.map((m) => {
          const name = `${meterKind(m.kind).name}${m.simulated ? ', simulated' : ''}`;
          const use = sessions.find(
            (s) => s.meter.kind === m.kind && s.meter.simulated === m.simulated,
          )!.meter;
          return (
            <Row key={`${m.kind} ${m.simulated}`} style={{ minHeight: 44 }}>
              <View style={{ flex: 1 }}>
                <Type kind="label">{`Scale of: ${name}`}</Type>
                <Type kind="small">
                  {m.trusted
                    ? 'Taken at its word, as you said.'
                    : `Its readings fit best if it shows ${percent(Math.abs(m.scale - 1))} too ${m.scale > 1 ? 'much' : 'little'}, ± ${percent(m.standardError)}.`}
                </Type>
              </View>
              <Button
                label={m.trusted ? 'Fit its scale' : 'Take it at its word'}
                name={`${m.trusted ? 'Fit the scale of' : 'Take at its word'}: ${name}`}
                kind="plain"
                onPress={() => run(trustMeter(use, !m.trusted))}
              />
            </Row>
          );
        })}
        {apart.map((r) => (
          <Row key={r.readingId} style={{ minHeight: 44 }}>
            <View style={{ flex: 1 }}>
              <Type kind="label">{`${r.name}: ${r.trusted ? 'counts, as you said' : 'hardly counts'}`}</Type>
              <Type kind="small">
                {`read ${umolExact(r.observedUmol)}, the others say ${umolExact(r.predictedUmol)} µmol: ${Math.abs(r.sigmas).toFixed(1)} standard deviations off`}
              </Type>
            </View>
            <Button
              label={r.trusted ? 'Leave it to the fit' : 'Bring it back'}
              name={`${r.trusted ? 'Leave to the fit' : 'Bring back'}: ${r.name}`}
              kind="plain"
              onPress={() => run(trustReading(r.sessionId, r.readingId, !r.trusted))}
            />
          </Row>
        ))}
      </View>
      <Type kind="small">
        Times what the lamp’s description says; ± is one standard error. Without readings a colour is 1 ± 0.3
        (rule of thumb), most of it shared by all colours. What readings could not tell stays as it was and is
        not listed.
      </Type>
    </Section>
  );
}

function WhatChanged({ desk, cal }: { desk: Desk; cal: Calibration }) {
  const { zone } = desk;
  const { groups, bare, before, after } = useBoth(desk, cal);
  if (!before || !after) return <Type quiet>Computing …</Type>;
  return (
    <Section title="What the readings changed">
      <View testID="changed">
        {zone.spots.map((s, i) => {
          const levels = brightestLevels(after, groups, i);
          const [was, is] = [parUnder(before, levels, i), parUnder(after, levels, i)];
          return (
            <Row key={s.id} style={{ minHeight: 48 }}>
              <Type kind="label" style={{ flex: 1 }}>
                {s.name}
              </Type>
              <Type kind="small">{`${umol(was)} ${bandWords(bandUnder(bare, before, groups, levels, i))}`}</Type>
              <Type kind="strong">{`→ ${umol(is)} ${bandWords(bandUnder(cal, after, groups, levels, i))}`}</Type>
            </Row>
          );
        })}
      </View>
      <Type kind="small">
        µmol at each place’s brightest, without and with the readings, with their 90 % bands. What corals are
        used to moves along, so a calibration alone is never a step for them.
      </Type>
    </Section>
  );
}

/** Minutes that a round with the meter may take. */
const MINUTES = [5, 10, 20, 40] as const;

function Next({ desk, cal }: { desk: Desk; cal: Calibration }) {
  const { zone } = desk;
  const nowMs = useNowMs();
  const groups = litNow(desk, nowMs);
  const { light } = useLight(groups, zone, cal);
  const [minutes, setMinutes] = useState<number>(10);
  const visit = useMemo(() => {
    if (!light || zone.spots.length === 0) return null;
    const corals = zone.spots.flatMap((s, i) => (s.need ? [i] : []));
    const about = corals.length > 0 ? corals : zone.spots.map((_, i) => i);
    return planVisit(cal, light, groups, brightestLevels(light, groups, about[0]!), about, minutes);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the light is made of the groups
  }, [cal, light, zone.spots, minutes]);
  if (!visit) return null;
  const named = (stop: Visit['stops'][number]) => {
    const group = groups.find((g) => g.groupId === stop.alone?.groupId);
    const channel = group?.lampKind.channels.find((c) => c.id === stop.alone?.channelId);
    return `${channel ? `${channel.name} alone at full` : 'the day at its brightest'} at ${zone.spots[stop.spot]!.name}`;
  };
  const first = visit.stops[0];
  const worth = first !== undefined && visit.bandBefore - visit.bandAfter > 0.005;
  return (
    <Section title="What to read next">
      <Sentence
        testID="visit"
        parts={[
          'In ',
          {
            id: 'visit-minutes',
            name: 'Minutes with the meter',
            value: `${minutes} minutes`,
            options: MINUTES.map((m) => ({ value: String(m), label: `${m} minutes` })),
            chosen: String(minutes),
            onChoose: (v) => setMinutes(Number(v)),
          },
          worth
            ? ` the mean ± over the corals would fall from ${percent(visit.bandBefore)} to ${percent(visit.bandAfter)}, by ${plural(visit.stops.length, 'reading')}:`
            : ` no reading would narrow the bands by much: they stand at ${bandWords(visit.bandBefore)} on average.`,
        ]}
      />
      {worth && (
        <>
          <View testID="visit-stops">
            {visit.stops.map((stop, i) => (
              <Type key={`${stop.spot} ${stop.alone?.channelId}`} kind={i === 0 ? 'strong' : 'body'}>
                {`${i + 1} · ${capital(named(stop))}`}
              </Type>
            ))}
          </View>
          <Button
            label="Read the first"
            testID="read-next"
            onPress={() => {
              const spot = zone.spots[first.spot]!;
              changeSettings({ spotId: spot.id });
              const lit = first.alone ? `alone:${first.alone.groupId}/${first.alone.channelId}` : 'now';
              router.navigate({ pathname: '/readings', params: { read: spot.id, lit } });
            }}
          />
          <Type kind="small">The round is planned anew with every reading.</Type>
        </>
      )}
    </Section>
  );
}

function Residuals({ desk, cal }: { desk: Desk; cal: Calibration }) {
  const sessions = desk.bundle.readings.sessions;
  const groups = desk.zone.groups.length;
  const sorted = [...cal.residuals].sort((a, b) => Math.abs(b.sigmas) - Math.abs(a.sigmas));
  return (
    <Section title="Reading by reading">
      <View testID="residuals">
        {sorted.map((r) => {
          const session = sessions.find((s) => s.id === r.sessionId);
          const reading = session?.readings.find((x) => x.id === r.readingId);
          return (
            <Row key={r.readingId}>
              <View style={{ flex: 1 }}>
                <Type kind={r.suspect ? 'strong' : 'label'}>{`${r.suspect ? '▲ ' : ''}${r.name}`}</Type>
                <Type kind="small">
                  {`${reading && session ? litWords(reading, session, groups) : ''}${r.dropped ? ' · hardly counts in the fit' : r.suspect ? ' · likely a bad reading' : ''}${r.fitsIf.length > 0 ? `; it would fit if ${r.fitsIf.join(', or if ')}` : ''}`}
                </Type>
              </View>
              <View style={{ alignItems: 'flex-end' }}>
                <Type kind="label">{`read ${umolExact(r.observedUmol)}, fit ${umolExact(r.predictedUmol)}`}</Type>
                <Type kind="small">{`${r.sigmas > 0 ? '+' : '−'}${Math.abs(r.sigmas).toFixed(1)} standard deviations`}</Type>
              </View>
            </Row>
          );
        })}
      </View>
      <Type kind="small">
        In µmol of PAR: what the meter showed, corrected for its kind, the mix and water on the sensor.
      </Type>
    </Section>
  );
}

/** The other route: places where every colour was read alone need no optics. */
function Solo({ desk, cal }: { desk: Desk; cal: Calibration }) {
  const { zone } = desk;
  const nowMs = useNowMs();
  const groups = litNow(desk, nowMs);
  const { light } = useLight(groups, zone, cal);
  const places = soloPlaces(cal).filter((p) => p.rows.length > 1);
  if (places.length === 0 || !light) return null;
  return (
    <Section title="By single colours alone">
      <View testID="solo">
        {places.map((p) => {
          const i = zone.spots.findIndex((s) => s.id === p.spotId);
          const levels = brightestLevels(light, groups, Math.max(0, i));
          const sum = parBySolo(p, levelsById(groups, levels));
          const fitted = i >= 0 ? parUnder(light, levels, i) : null;
          return (
            <Row key={`${p.name} ${p.xCm}`}>
              <View style={{ flex: 1 }}>
                <Type kind="label">{p.name}</Type>
                <Type kind="small">
                  {p.rows
                    .map((r) => {
                      const g = groups.find((x) => x.groupId === r.groupId);
                      const c = g?.lampKind.channels.find((x) => x.id === r.channelId);
                      return `${c?.name ?? r.channelId} ${umolExact(r.parAtFull)} ± ${umolExact(r.standardError)}`;
                    })
                    .join(', ')}
                </Type>
              </View>
              <Type kind="label" style={{ textAlign: 'right' }}>
                {sum
                  ? `${umolExact(sum.umol)} ${bandWords((NINETY * sum.standardError) / sum.umol)}${fitted === null ? '' : `; fit ${umolExact(fitted)}`}`
                  : 'some colours were not read alone'}
              </Type>
            </Row>
          );
        })}
      </View>
      <Type kind="small">
        µmol at full for each colour read alone, and their sum at the day’s brightest: no optics, no lamp
        data, only sums. Where it and the fit disagree, trust this at its own place.
      </Type>
    </Section>
  );
}
