import { inWords, plural, several } from '@/core/shape/counts';
import { router } from 'expo-router';
import { useMemo } from 'react';
import { View } from 'react-native';

import { differences } from '@/core/case/difference';
import { afterTyping, runningAt } from '@/core/case/lit';
import { activePlans, type EasingPlan } from '@/core/record/history';
import { verdict } from '@/core/case/verdict';
import { judgementOf, useDraftState } from '@/state/judgement';
import { expectedOf } from '@/core/case/foretold';
import { stepWords } from '@/core/case/stepWords';
import { dayAt, levelsOfGroups, spectrumUnder } from '@/core/case/light';
import { endsWords, lampTable, roundingEffect } from '@/core/case/table';
import type { Group } from '@/core/record/zone';
import { misfits } from '@/core/controller/misfits';
import { profileWords } from '@/core/controller/profiles';
import { formatTime } from '@/core/day/clock';
import { dims, hasCap } from '@/core/spectrum/controls';
import { useAccustomed, useCalibration, useLight } from '@/state/light';
import { useDesk } from '@/state/desk';
import { daysAgo, longDate, paperDate, shortDate, useNowMs, utcIso } from '@/state/time';
import { Button } from '@/ui/Button';
import { Page, usePageSize } from '@/ui/Page';
import { Note, Section } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';
import { SheetCautions } from '../shared/Cautions';
import { Safe } from './Safe';
import { SheetKeys } from './SheetKeys';
import { SheetPrint } from './SheetPrint';
import { SheetTable } from './SheetTable';
import { TypedIn } from './TypedIn';
import { GroupChoice } from '../shared/GroupChoice';
import { NoLamps } from '../shared/NoLamps';
import { basisAt, mol, SURE, tenantsOf, umol } from '../shared/words';
import { percent } from '@/core/shape/percent';

const nextStep = (plan: EasingPlan): string => {
  const next = plan.steps.find((x) => x.doneUtc === null);
  return next ? `, next ${shortDate(next.date)}: ${stepWords(plan, next.setting)}` : '';
};

/** What is set on the lamp besides its points. */
function Extras({ group }: { group: Group }) {
  const { moon, weather, interludes, drift } = group.extras ?? {};
  const lines = [
    moon
      ? `Moonlight ${formatTime(moon.fromMinute)}–${formatTime(moon.toMinute)}${moon.real ? ', as the real moon where the lamp can' : ''}: ${Object.keys(moon.mix).length === 1 ? 'one blue' : 'its mix'} at ${Math.round(moon.strengthShare * 1000) / 10} %.`
      : null,
    weather
      ? `Clouds at most ${percent(weather.depthShare)} deep${weather.storms ? ', distant storms' : ''}, where the lamp can.`
      : null,
    drift ? 'First and last light drift through the year: Day shows the times of a date.' : null,
    ...(interludes ?? []).map(
      (i) =>
        `Interlude ${shortDate(i.date)} ${formatTime(i.fromMinute)}–${formatTime(i.fromMinute + i.minutes)}: ${i.mixName} at ${percent(i.strengthShare)}.`,
    ),
  ].filter((l) => l !== null);
  if (lines.length === 0) return null;
  return (
    <View testID="sheet-extras">
      <Type kind="label">Besides its points</Type>
      {lines.map((l) => (
        <Type key={l} kind="small">{`· ${l}`}</Type>
      ))}
    </View>
  );
}

/** The day as it is typed into the lamp, and whether that is safe. */
export function LampSheet() {
  const desk = useDesk();
  return desk.group ? <Filled /> : <NoLamps title="The sheet" />;
}

function Filled() {
  const desk = useDesk();
  const { doc, zone, bundle } = desk;
  const group = desk.group!;
  const nowMs = useNowMs();
  const nowUtc = utcIso(nowMs);
  const calibration = useCalibration(bundle, zone);
  const accustomed = useAccustomed(zone, bundle, calibration, nowMs);
  const groups = useMemo(
    () => afterTyping(doc, bundle.history, zone, group.id, nowUtc),
    [doc, bundle.history, zone, group.id, nowUtc],
  );
  const index = groups.findIndex((g) => g.groupId === group.id);
  const lit = groups[index]!;
  const { light, error } = useLight(groups, zone, calibration);
  const running = runningAt(bundle.history, zone, nowUtc).find((e) => e.groupId === group.id);
  const changes = differences(doc, group, running);
  const table = lampTable(lit);
  const page = usePageSize();
  const kind = desk.lampKind!;
  const misfit = misfits(kind, lit.threads);

  const { state, ceiling, usedToIt } = useDraftState(desk, nowMs);
  const judged =
    light &&
    accustomed &&
    judgementOf(state, zone, groups, light, calibration, accustomed.perSpot, ceiling, usedToIt);
  const tooLarge = judged?.worst?.step?.large ?? false;
  const easing = activePlans(bundle.history, zone.id).find((p) =>
    p.targets.some((t) => t.groupId === group.id),
  );
  const title = `${lit.lampKind.name}, ${zone.name}`;
  const rounding = light && desk.spotIndex >= 0 ? roundingEffect(lit, light, index, desk.spotIndex) : null;
  const step = lit.lampKind.controller.pointStepShare;

  const capWords =
    table.capPercent !== null
      ? `cap ${table.capPercent} %`
      : dims(kind)
        ? `no cap; the day’s strength of ${percent(group.capShare)} is in the numbers`
        : 'on and off';
  const there = light && desk.spotIndex >= 0 ? { light, spot: desk.spotIndex } : null;
  const gives = there && dayAt(there.light, groups, there.spot);
  return (
    <Page
      testID="sheet"
      printed={
        table.times.length > 0 ? (
          <SheetPrint
            title={`${group.name}: ${title}`}
            date={paperDate(nowMs, zone.timeZone)}
            cap={capWords}
            gives={
              gives
                ? `${mol(gives.dli)} mol a day and at most ${umol(gives.peak)} µmol at ${desk.spot!.name}, ${basisAt(calibration, there!.light, groups, there!.spot)}`
                : null
            }
            table={table}
            byTime={kind.controller.rows === 'times'}
            safety={judged ? verdict(judged, tenantsOf(zone.spots)) : null}
            brightest={
              gives && gives.peak > 0
                ? {
                    spectrum: spectrumUnder(
                      there!.light,
                      levelsOfGroups(groups, gives.peakMinute),
                      there!.spot,
                    ),
                    words: `The light at ${desk.spot!.name} at its brightest, ${formatTime(gives.peakMinute)}; violet left, red right`,
                  }
                : null
            }
            switched={!dims(kind)}
            over={tenantsOf(zone.spots).many}
          />
        ) : undefined
      }
      title="The sheet"
      under={`${title} · ${several(
        lit.lamps.map((l) => l.name),
        Infinity,
      )} · ${longDate(nowMs, zone.timeZone)}`}
      sentence={
        <Type kind="sentence" testID="sheet-state">
          {changes.length === 0 && running
            ? `The lamp runs this as ${SURE[running.sure]} ${daysAgo(running.atUtc, nowMs, zone.timeZone)}.`
            : running
              ? `Not in the lamp yet: ${plural(changes.length, 'change')}.`
              : 'Nothing is known to be running yet.'}
        </Type>
      }
      side={
        <>
          <Safe
            {...{ zone, judged, error, usedToIt }}
            known={accustomed?.known ?? false}
            basis={() => basisAt(calibration, light!, groups, desk.spotIndex)}
          />
          <Section title="Cautions">
            <SheetCautions switched={!dims(kind)} over={tenantsOf(zone.spots).many} />
          </Section>
        </>
      }
    >
      <GroupChoice />
      {misfit.length > 0 && (
        <View style={{ gap: space.s }} testID="misfit">
          <Note>{`${kind.controller.name} cannot take this day as it stands: ${misfit.join('; ')}.`}</Note>
          <Button label="Fit it to the controller" onPress={() => router.navigate('/fit')} testID="to-fit" />
        </View>
      )}
      {easing && (
        <Note>{`${easing.name} is being eased in: ${easing.steps.filter((x) => x.doneUtc !== null).length} of ${easing.steps.length} steps done${nextStep(easing)}. This sheet shows the draft; typing it in whole ends the plan.`}</Note>
      )}
      {changes.length > 0 && running && (
        <View testID="changes">
          {changes.map((c) => (
            <Type key={c} kind="small">{`· ${c}`}</Type>
          ))}
        </View>
      )}
      <View style={{ flexDirection: 'row', alignItems: 'baseline', gap: space.m }}>
        <Type kind="heading" testID="sheet-cap">
          {table.capPercent !== null ? `Cap ${table.capPercent} %` : dims(kind) ? 'No cap' : 'On and off'}
        </Type>
        <Type kind="small" style={{ flex: 1 }}>
          {!dims(kind)
            ? 'this lamp has no cap: its strength is its height and its hours'
            : table.capPercent === null
              ? `every number below is of the lamp’s full output; the day’s strength of ${percent(group.capShare)} is in them`
              : lit.day.capMeans === 'rescales'
                ? 'this lamp’s cap rescales the day: its largest channel level becomes the cap'
                : 'the lamp’s overall limit; it multiplies every number below'}
        </Type>
      </View>
      <Type kind="small" testID="sheet-profile">
        {`${kind.controller.name}: ${profileWords(kind.controller)}.`}
      </Type>
      {table.times.length === 0 ? (
        <Type>This day has no threads yet. Add one on Day.</Type>
      ) : (
        <>
          <SheetTable table={table} byTime={kind.controller.rows === 'times'} width={page.main} />
          <Type kind="label" testID="sheet-ends">
            {endsWords(table)}
          </Type>
        </>
      )}
      <Type kind="small">
        {step > 0
          ? `${step === 0.01 ? 'Whole percents' : `Steps of ${step * 100} %`} before the cap; every µmol in this app already counts with the rounding.`
          : 'No rounding.'}
        {rounding && step > 0 && rounding.time !== ''
          ? ` It moves ${desk.spot!.name} by at most ${Math.abs(rounding.umol).toFixed(1)} µmol (${rounding.time}).`
          : ''}
        {` Between the times the lamp ${lit.day.interpolation === 'ramp' ? 'runs evenly from one to the next' : 'holds the last values'}.`}
      </Type>
      <SheetKeys
        {...{ desk, group, lit, title }}
        light={there ? there.light.spectra[index]![there.spot]! : null}
      />
      <Extras group={group} />
      {table.times.length > 0 && (changes.length > 0 || !running) && (
        <TypedIn
          key={group.id}
          {...{ group, tooLarge, first: !running }}
          corals={judged ? expectedOf(zone, judged) : []}
        />
      )}
      {running && (
        <Type kind="small">{`Running since ${longDate(Date.parse(running.atUtc), zone.timeZone)}, as ${SURE[running.sure]}${hasCap(running.lampKind) ? `, cap ${percent(running.capShare)}` : ''}.`}</Type>
      )}
      {zone.groups.length > 1 && (
        <Type kind="small">{`The ${inWords(zone.groups.length - 1)} other ${zone.groups.length === 2 ? 'group counts' : 'groups count'} as running now.`}</Type>
      )}
    </Page>
  );
}
