import { plural } from '@/core/shape/counts';
import { router } from 'expo-router';
import { useMemo, useState } from 'react';
import { View } from 'react-native';
import type { Criticism } from '@/core/case/criticism';
import { bareCalibration, type Calibration, hungGroups } from '@/core/case/calibration';
import { bandUnder, brightestLevels, parUnder, type ZoneLight } from '@/core/case/light';
import { levelsById } from '@/core/case/plateaus';
import { parBySolo, soloPlaces, sumChecks } from '@/core/case/superposition';
import { fittedWords } from '@/core/case/verdict';
import { CEILINGS } from '@/core/easing/accustomed';
import { NINETY } from '@/core/meter/noise';
import { setSession } from '@/state/commands/readings';
import { litNow, type Desk, useDesk } from '@/state/desk';
import { judgementOf } from '@/state/judgement';
import { useCalibrationState, useLight } from '@/state/light';
import { run } from '@/state/session';
import { longDate, useNowMs } from '@/state/time';
import { Button } from '@/ui/Button';
import { Page } from '@/ui/Page';
import { Note, Row, Section } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';
import { bandWords, tenantsOf, umol, umolExact } from '../shared/words';
import { percent } from '@/core/shape/percent';
import { Parameters } from './FoundValues';
import { Next } from './NextReadings';
import { Residuals } from './Residuals';

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
