import { inWords, plural } from '@/core/shape/counts';
import { router } from 'expo-router';
import { useMemo, useState } from 'react';
import { View } from 'react-native';
import ArrowDownToLine from 'lucide-react-native/icons/arrow-down-to-line';
import Copy from 'lucide-react-native/icons/copy';
import CalendarClock from 'lucide-react-native/icons/calendar-clock';
import Download from 'lucide-react-native/icons/download';
import Link from 'lucide-react-native/icons/link';
import Printer from 'lucide-react-native/icons/printer';
import Upload from 'lucide-react-native/icons/upload';

import { differences } from '@/core/case/difference';
import { afterTyping, runningAt } from '@/core/case/lit';
import { activePlans, type EasingPlan } from '@/core/record/history';
import { PLACES, verdict } from '@/core/case/verdict';
import type { CoralJudgement } from '@/core/case/judgement';
import { judgementOf, useDraftState } from '@/state/judgement';
import { expectedOf } from '@/core/case/foretold';
import { stepWords } from '@/core/case/stepWords';
import { dayAt, levelsOfGroups, spectrumUnder } from '@/core/case/light';
import { endsWords, lampTable, roundingEffect } from '@/core/case/table';
import type { Group } from '@/core/record/zone';
import { circuitsOf, windowsOf } from '@/core/case/dawn';
import { misfits } from '@/core/controller/misfits';
import { threadFromValues } from '@/core/controller/typed';
import { profileWords } from '@/core/controller/profiles';
import { formatTime } from '@/core/day/clock';
import { problemWords } from '@/core/formats/table';
import { dims, hasCap } from '@/core/spectrum/controls';
import type { LampKind } from '@/core/spectrum/lampKind';
import { takeDay } from '@/state/days';
import { dayFile } from '@/state/dayFiles';
import { run } from '@/state/session';
import { useAccustomed, useCalibration, useLight } from '@/state/light';
import { useDesk } from '@/state/desk';
import {
  daysAgo,
  localDate,
  longDate,
  paperDate,
  nowUtcIso,
  shortDate,
  useNowMs,
  utcIso,
} from '@/state/time';
import { Button } from '@/ui/Button';
import { copyText, download, pickText, printPage } from '@/ui/files';
import { Page, usePageSize } from '@/ui/Page';
import { printHide } from '@/ui/print';
import { Note, Row, Section } from '@/ui/Parts';
import { space, themed } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { formats, offer } from '../shared/formats';
import { SheetCautions } from '../shared/Cautions';
import { SheetPrint } from './SheetPrint';
import { SheetTable } from './SheetTable';
import { GiveSheet } from '../sheets';
import { TypedIn } from './TypedIn';
import { GroupChoice } from '../shared/GroupChoice';
import { NoLamps } from '../shared/NoLamps';
import { basisAt, mol, SURE, tenantsOf, timesOf, umol } from '../shared/words';
import { percent } from '@/core/shape/percent';

const useStyles = themed(() => ({
  keys: { flexDirection: 'row', flexWrap: 'wrap', gap: space.s },
}));

/** A control by the heading of a column: its name or its id, whatever the case. */
const controlNamed = (kind: LampKind, heading: string) =>
  kind.controls.find((c) => c.name.toLowerCase() === heading.toLowerCase() || c.id === heading);

const nextStep = (plan: EasingPlan): string => {
  const next = plan.steps.find((x) => x.doneUtc === null);
  return next ? `, next ${shortDate(next.date)}: ${stepWords(plan, next.setting)}` : '';
};

/** What is set on the lamp besides its points. */
function Extras({ group }: { group: Group }) {
  const { moon, weather, interludes, drift } = group.extras ?? {};
  const lines = [
    moon
      ? `Moonlight ${formatTime(moon.fromMinute)}-${formatTime(moon.toMinute)}${moon.real ? ', as the real moon where the lamp can' : ''}: ${Object.keys(moon.mix).length === 1 ? 'one blue' : 'its mix'} at ${Math.round(moon.strengthShare * 1000) / 10} %.`
      : null,
    weather
      ? `Clouds at most ${percent(weather.depthShare)} deep${weather.storms ? ', distant storms' : ''}, where the lamp can.`
      : null,
    drift ? 'First and last light drift through the year: Day shows the times of a date.' : null,
    ...(interludes ?? []).map(
      (i) =>
        `Interlude ${shortDate(i.date)} ${formatTime(i.fromMinute)}-${formatTime(i.fromMinute + i.minutes)}: ${i.mixName} at ${percent(i.strengthShare)}.`,
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

/** What a coral is used to, what it would get, and how that lies against what it wants. */
function rowWords({ step, peak, dayMol, wants, placed }: CoralJudgement): string {
  const gets = `${mol(dayMol!)}, ${umol(peak.umol)}`;
  return [
    step
      ? `used to ${mol(step.accustomed.dli)} mol a day, peak ${umol(step.accustomed.peak)} µmol → ${gets}`
      : `does not live by light; ${gets} µmol`,
    wants && placed && `${PLACES[placed.place].words} for its ${wants.fromUmol}–${wants.toUmol}`,
  ]
    .filter(Boolean)
    .join('; ');
}

/** The day as it is typed into the lamp, and whether that is safe. */
export function LampSheet() {
  const desk = useDesk();
  return desk.group ? <Filled /> : <NoLamps title="The sheet" />;
}

function Filled() {
  const styles = useStyles();
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
  const [said, setSaid] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [giving, setGiving] = useState(false);
  const kind = desk.lampKind!;
  // a lamp that dims but hangs on a timer is one circuit
  const circuits = circuitsOf([lit], kind.controller.sets === 'switch');
  const misfit = misfits(kind, lit.threads);
  const today = localDate(nowMs, zone.timeZone);

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
  const slug = group.name.toLowerCase().replace(/\W+/g, '-');
  const csv = () => offer(`${slug}-sheet.csv`, 'text/csv', (f) => f.sheetCsv(table));
  const dayJson = () => {
    const spectra = light && desk.spotIndex >= 0 ? light.spectra[index]![desk.spotIndex]! : null;
    const file = dayFile(lit, group, desk.spot, spectra);
    download(file.name, file.text, 'application/json');
  };
  const calendar = async () => {
    await offer(`${slug}.ics`, 'text/calendar', (f) =>
      f.onOffCalendar({
        title: `${group.name}, ${zone.name}`,
        timeZone: zone.timeZone,
        fromDate: today,
        id: `${doc.id}-${group.id}`,
        nowMs: Date.parse(nowUtcIso()),
        circuits: circuits.map((c) => ({ name: c.name, windows: windowsOf(lit, c.controlId) })),
      }),
    );
    setSaid('Kept as a calendar: an event a day for each time a circuit is on.');
  };
  const readCsv = async () => {
    setProblem(null);
    const file = await pickText(['text/csv', '.csv', 'text/plain'], 500_000);
    if (!file) return;
    const not = (why: string) => setProblem(`${file.name} was not taken: ${why}`);
    if ('problem' in file) return not(file.problem);
    const read = (await formats()).parseDayCsv(file.text);
    if (!read.ok) return not(problemWords(read.error));
    const { controls, points, capShare } = read.value;
    const unknown = controls.filter((c) => !controlNamed(kind, c));
    if (unknown.length > 0)
      return not(
        `this lamp has no ${unknown.map((u) => `“${u}”`).join(', ')}. Head the columns ${kind.controls.map((c) => c.name).join(', ')}.`,
      );
    const threads = points.map((p) => {
      const values = Object.fromEntries(
        Object.entries(p.mix).map(([heading, v]) => [controlNamed(kind, heading)!.id, v]),
      );
      const t = threadFromValues(kind, p.minute, values);
      return { ...t, strengthShare: t.strengthShare * p.strengthShare };
    });
    if (run(takeDay(doc, group, `day from ${file.name}`, threads, capShare ?? undefined)))
      setSaid(`${plural(threads.length, 'point')} read from ${file.name}; undo takes them back.`);
  };
  const copy = async () =>
    setSaid(
      (await copyText((await formats()).sheetPlainText(title, table)))
        ? 'Copied.'
        : 'The browser did not allow copying: use CSV.',
    );
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
      under={`${title} · ${lit.lamps.map((l) => l.name).join(' and ')} · ${longDate(nowMs, zone.timeZone)}`}
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
          <Section title="Is it safe?">
            {error ? (
              <Note>{`The light could not be computed: ${error}. Reload the page; nothing is lost.`}</Note>
            ) : !judged ? (
              <Type quiet>
                {zone.spots.length === 0
                  ? 'Add a spot under Case to see what light it would get.'
                  : 'Computing the light …'}
              </Type>
            ) : (
              <>
                <Type kind="strong" testID="safety">
                  {verdict(judged, tenantsOf(zone.spots))}
                </Type>
                {judged.corals.map((c) => (
                  <Row key={zone.spots[c.spot]!.id}>
                    <View style={{ flex: 1 }}>
                      <Type kind="label">{c.name}</Type>
                      <Type kind="small">{rowWords(c)}</Type>
                    </View>
                    {c.step && !usedToIt && (
                      <Type kind="strong" testID={`ratio-${c.name}`}>
                        {timesOf(c.step)}
                      </Type>
                    )}
                  </Row>
                ))}
                <Type kind="small">
                  {accustomed!.known
                    ? 'Used to: from what ran here; 10 days to grow used to more light, 7 to less, 4 and 3 for macroalgae (rule of thumb). × counts light as corals take it, µmol and mol are PAR.'
                    : 'Nothing is known to have run: each counts as used to the lower edge of its band for 8 hours (rule of thumb).'}
                  {` Light: ${basisAt(calibration, light, groups, desk.spotIndex)}.`}
                </Type>
              </>
            )}
          </Section>
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
      <View style={styles.keys} {...printHide}>
        <Button label="Print" icon={Printer} onPress={printPage} />
        <Button label="CSV" icon={Download} onPress={csv} />
        <Button
          label="Read CSV"
          name="Read a day from CSV"
          icon={Upload}
          onPress={() => void readCsv()}
          testID="read-day-csv"
        />
        <Button
          label="Day file"
          name="Keep the day as a file"
          icon={Download}
          onPress={dayJson}
          testID="day-json"
        />
        <Button
          label="Link"
          name="Give the day along as a link"
          icon={Link}
          onPress={() => setGiving(true)}
          testID="day-link"
        />
        {circuits.length > 0 && (
          <Button
            label="Calendar"
            name="On and off as a calendar"
            icon={CalendarClock}
            onPress={calendar}
            testID="calendar"
          />
        )}
        <Button label="Copy" icon={Copy} onPress={copy} />
        <Button
          label="Load"
          name="Load into the lamp"
          icon={ArrowDownToLine}
          onPress={() => router.navigate('/load')}
          testID="to-load"
        />
        <Button
          label="Prove"
          name="Prove the lamp by readings"
          kind="plain"
          onPress={() => router.navigate('/prove')}
          testID="to-prove"
        />
        <Button label="Back to Day" kind="plain" onPress={() => router.navigate('/day')} />
      </View>
      {giving && (
        // without the light at the coral, which is as long as all the rest: it is matched by its lamps there
        <GiveSheet
          given={{ letter: 'd', text: dayFile(lit, group, desk.spot, null).text }}
          name={`the day of ${group.name}`}
          onClose={() => setGiving(false)}
        />
      )}
      {said && (
        <Type kind="small" role="status">
          {said}
        </Type>
      )}
      {problem && (
        <Type kind="label" role="alert" testID="csv-problem">
          {`▲ ${problem}`}
        </Type>
      )}
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
