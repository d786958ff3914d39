import { interludeWords, nowModel } from './model';
import { router } from 'expo-router';
import { type ReactNode, useDeferredValue, useState } from 'react';
import { Pressable, View } from 'react-native';
import { Gesture } from 'react-native-gesture-handler';

import type { Calibration } from '@/core/case/calibration';
import { dayAt, levelsOfGroups, parUnder, type ZoneLight } from '@/core/case/light';
import { type LitGroup, riseShare } from '@/core/case/lit';
import { overdueChore } from '@/core/case/chores';
import { dueStep } from '@/core/case/planAhead';
import { activePlans, type EasingPlan, type RunningEntry } from '@/core/record/history';
import { stepGravity } from '@/core/case/judgement';
import { stepWords } from '@/core/case/stepWords';
import { lightChangedUtc } from '@/core/case/timeline';
import { judgementOf, useRunningCeiling } from '@/state/judgement';
import { formatTime } from '@/core/day/clock';

import { civilDay } from '@/core/day/wallClock';
import { kneeMinutes } from '@/core/day/day';

import { Balance } from '@/pieces/Balance';
import { DayLine } from '@/pieces/DayLine';
import { Strip } from '@/pieces/Strip';
import { type Desk, runningOf, useDesk } from '@/state/desk';
import { useAccustomed, useCalibration, useLight, useSoFar } from '@/state/light';
import {
  addDays,
  daysAgo,
  daysBetween,
  localDate,
  longDate,
  shortDate,
  useNowMs,
  utcIso,
  wallMinute,
} from '@/state/time';
import { Button } from '@/ui/Button';
import { Page, usePageSize } from '@/ui/Page';
import { Row, Section } from '@/ui/Parts';
import { Sheet } from '@/ui/Sheet';
import { font, size, space, themed } from '@/ui/theme';
import { Pulled } from '@/ui/Pulled';
import { SliderGrip } from '@/ui/SliderGrip';
import { Type } from '@/ui/Type';

import { windowOf } from '../day/model';
import { LightPending } from '../shared/LightPending';
import { Look, lookRoom } from '../shared/Look';
import { PlanSheet, SignSheet } from '../sheets';
import { Ahead } from '../shared/Ahead';
import { PlanRow, useDeskAhead } from '../shared/PlanRow';
import { DraftLine } from '../shared/DraftLine';
import { SpotChoice } from '../shared/SpotChoice';
import { MARKS } from '../shared/Verdict';
import { basisAt, mol, tenantsOf, times, umol, watts } from '../shared/words';
import { percent } from '@/core/shape/percent';
import { DAY_MINUTES } from '@/core/shape/ring';
import type { PlanAct } from '../ease/PlanSheet';

import { algaeSpots } from '@/core/record/log/harvest';
import { AlgaeToday } from './AlgaeToday';
import { OtherWaters } from './OtherWaters';
import { todaySentence } from './sentence';

const useStyles = themed((p) => ({
  parts: { flexDirection: 'row', gap: 3, height: 3 },
  part: { backgroundColor: p.ink },
}));

/** What is so now, from running alone. */
export function Today() {
  const desk = useDesk();
  const { zone, bundle, spot, spotIndex } = desk;
  const nowMs = useNowMs();
  const page = usePageSize();
  const { entries, groups } = runningOf(desk, nowMs);
  const calibration = useCalibration(bundle, zone);
  const { light, error } = useLight(groups, zone, calibration);
  const accustomed = useAccustomed(zone, bundle, calibration, nowMs);
  const ready = light !== null && spotIndex >= 0 && groups.length > 0;
  // the figure first; what is drawn around it follows without holding anything up
  const whole = useDeferredValue(ready, false);
  const ceiling = useRunningCeiling(bundle.history, zone, nowMs);
  const judged = ready
    ? judgementOf('runs', zone, groups, light, calibration, accustomed?.perSpot ?? null, ceiling, false)
    : null;
  const stepped = judged?.corals.filter((c) => c.step) ?? [];
  const minute = wallMinute(nowMs, zone.timeZone);
  // what is said once the corals are judged takes more lines: they are kept free till then
  const lines = accustomed || entries.length === 0 ? 1 : page.wide ? 2 : 4;
  const latest =
    entries
      .map((e) => e.atUtc)
      .sort()
      .at(-1) ?? null;

  return (
    <Page
      testID="today"
      title={desk.doc.name}
      under={`${longDate(nowMs, zone.timeZone)}${desk.doc.demo ? ' · demo, made up, yours to play with' : ''}`}
      sentence={
        <View style={{ gap: space.m }}>
          <Type kind="sentence" testID="today-sentence" roomLines={lines} style={{ maxWidth: 700 }}>
            {`${MARKS[stepGravity(judged)]}${todaySentence({
              judged,
              tenants: tenantsOf(zone.spots),
              unknown: zone.groups.filter((g) => !entries.some((e) => e.groupId === g.id)).map((g) => g.name),
              groups: zone.groups.length,
              since: latest === null ? null : daysAgo(latest, nowMs, zone.timeZone),
              // the least sure of them all
              sure: (['doubted', 'typedIn', 'loaded', 'proven'] as const).find((x) =>
                entries.some((e) => e.sure === x),
              ),
            })}`}
          </Type>
          {judged?.worst?.step?.large && (
            <View style={{ flexDirection: 'row', gap: space.s, flexWrap: 'wrap' }}>
              <Button
                label="What to do tonight"
                kind="filled"
                onPress={() => router.navigate('/rescue')}
                testID="today-rescue"
              />
              <Button label="Ease it in" onPress={() => router.navigate('/ease?of=running')} />
            </View>
          )}
        </View>
      }
      side={
        ready &&
        whole && (
          <>
            <SoFar desk={desk} light={light} groups={groups} calibration={calibration} nowMs={nowMs} />
            {algaeSpots(zone).length > 0 && <AlgaeToday desk={desk} nowMs={nowMs} />}
            <Easing desk={desk} entries={entries} nowMs={nowMs} />
            {accustomed && (
              <Section title="Balance">
                <View>
                  {stepped.map((c) => (
                    <Row key={zone.spots[c.spot]!.id} style={{ minHeight: 44 }}>
                      <Type kind="label" style={{ flex: 1 }}>
                        {c.name}
                      </Type>
                      <Balance ratio={c.step!.ratio} ceiling={c.step!.ceiling} />
                      <Type
                        kind="strong"
                        style={{ width: 64, textAlign: 'right' }}
                        testID={`balance-${c.name}`}
                      >
                        {times(c.step!.ratio)}
                      </Type>
                    </Row>
                  ))}
                </View>
                <Ahead zone={zone} past={bundle} cal={calibration} nowMs={nowMs} />
                <Type kind="small">
                  Today’s light against what each {tenantsOf(zone.spots).one} is used to; the long mark is 1,
                  the short one the most at a time{stepped[0] ? `, ${times(stepped[0].step!.ceiling)}` : ''}{' '}
                  (rule of thumb).
                </Type>
              </Section>
            )}
            <SpotChoice label="The large figure is at" spots={zone.spots} spotId={spot?.id} />
          </>
        )
      }
    >
      <DraftLine desk={desk} />
      {ready ? (
        <Now
          desk={desk}
          light={light}
          groups={groups}
          minute={minute}
          width={page.main}
          whole={whole}
          basis={basisAt(calibration, light, groups, spotIndex)}
        />
      ) : groups.length > 0 ? (
        <LightPending
          error={error}
          noSpot={zone.spots.length === 0}
          height={zone.spots.length > 0 ? roomOfNow(page.main) : 220}
        />
      ) : null}
      <InterludeNow desk={desk} entries={entries} nowMs={nowMs} />
      <Due
        desk={desk}
        entries={entries}
        readings={calibration.readings}
        today={localDate(nowMs, zone.timeZone)}
        spotId={spot?.id ?? null}
        nowMs={nowMs}
      />
      <OtherWaters desk={desk} nowMs={nowMs} />
    </Page>
  );
}

/**
 * About the height of what stands here once the light is known, in pixels: nothing beneath it moves from under a
 * finger when it comes.
 */
const roomOfNow = (width: number): number => 286 + lookRoom(width) + space.l;

function Now({
  desk,
  light,
  groups,
  minute,
  width,
  whole,
  basis,
}: {
  desk: Desk;
  light: ZoneLight;
  groups: LitGroup[];
  minute: number;
  width: number;
  /** with its pictures, not the figures alone */
  whole: boolean;
  basis: string;
}) {
  const styles = useStyles();
  const { zone, spot, spotIndex } = desk;
  const [choosing, setChoosing] = useState(false);
  /** another hour of today that is looked at */
  const [asked, setAsked] = useState<number | null>(null);
  const [pulling, setPulling] = useState(false);
  const model = nowModel(light, groups, asked ?? minute, spotIndex);
  const { next } = asked === null ? model : nowModel(light, groups, minute, spotIndex);
  const { umol: now, spectrum, parts } = model;
  const when = asked === null ? 'now' : `at ${formatTime(asked)}`;
  const span = windowOf(groups);
  return (
    <View style={[{ gap: space.m }, !whole && { minHeight: roomOfNow(width) }]}>
      {whole ? (
        <Look
          {...{ desk, groups, light, width }}
          levels={model.levels}
          live={pulling}
          at={`${when}, the light at ${spot!.name}`}
        />
      ) : (
        <View style={{ height: lookRoom(width) }} />
      )}
      <Pressable
        onPress={() => setChoosing(true)}
        disabled={zone.spots.length < 2}
        role="button"
        aria-label={`${umol(now)} µmol ${when} at ${spot!.name}. Choose another coral.`}
        style={{ flexDirection: 'row', alignItems: 'baseline', gap: space.s, flexWrap: 'wrap' }}
      >
        <Type kind="figure" testID="now-umol">
          {umol(now)}
        </Type>
        <Type style={{ fontSize: 18 }}>{`µmol ${when} at ${spot!.name}`}</Type>
      </Pressable>
      <Type kind="small">
        {[
          model.peakUmol > 0 ? `${percent(now / model.peakUmol)} of today’s peak` : 'dark all day',
          `${watts(model.watts)} of ${watts(model.fullWatts)}`,
          parts.length > 0 ? parts.map((p) => `${p.name} ${percent(p.share)}`).join(', ') : null,
        ]
          .filter(Boolean)
          .join(' · ')}
      </Type>
      {parts.length > 0 && (
        <View style={styles.parts} aria-hidden>
          {parts.map((p, i) => (
            <View
              key={p.name}
              style={[styles.part, { flex: Math.max(p.share, 0.005), opacity: i % 2 === 0 ? 1 : 0.45 }]}
            />
          ))}
        </View>
      )}
      {whole && (
        <>
          <Strip
            spectrum={spectrum}
            width={width}
            name={now > 0 ? `Spectrum ${when} at ${spot!.name}` : `Dark ${when}`}
          />
          <Scrub
            from={span.from}
            to={span.to}
            width={width}
            minute={asked ?? minute}
            valueText={`${formatTime(Math.floor(asked ?? minute))}, ${umol(now)} µmol`}
            onMinute={(m, pulled) => {
              setAsked(m);
              setPulling(pulled);
            }}
          >
            <DayLine
              parAt={(m) => parUnder(light, levelsOfGroups(groups, m), spotIndex)}
              knees={kneeMinutes(groups.map((g) => g.day))}
              {...span}
              nowMinute={minute}
              askedMinute={asked}
              width={width}
              name={`µmol through today at ${spot!.name}, ${when} ${umol(now)}`}
            />
          </Scrub>
          {asked !== null && (
            <Button label="Back to now" kind="plain" onPress={() => setAsked(null)} testID="back-to-now" />
          )}
        </>
      )}
      <Type testID="next-change">
        {next ? (
          <>
            {'Next '}
            <Type kind="strong">{formatTime(next.minute)}</Type>
            {`: ${next.words}`}
          </>
        ) : (
          'No further change today.'
        )}
      </Type>
      <Type kind="small">{`PAR: ${basis}.`}</Type>
      {choosing && (
        <Sheet title="At which spot?" onClose={() => setChoosing(false)}>
          <SpotChoice label="The large figure is at" spots={zone.spots} spotId={spot?.id} />
        </Sheet>
      )}
    </View>
  );
}

/** The day's line as a rail: the tank is looked at through the day. */
function Scrub({
  from,
  to,
  width,
  minute,
  valueText,
  onMinute,
  children,
}: {
  from: number;
  to: number;
  width: number;
  minute: number;
  valueText: string;
  /** @param pulled a finger holds it */
  onMinute: (minute: number, pulled: boolean) => void;
  children: ReactNode;
}) {
  const at = (x: number) =>
    Math.round(from + (Math.min(width, Math.max(0, x)) / width) * (to - from)) % DAY_MINUTES;
  const pull = Gesture.Pan()
    .minDistance(0)
    .shouldCancelWhenOutside(false)
    .runOnJS(true)
    .onBegin((e) => onMinute(at(e.x), true))
    .onUpdate((e) => onMinute(at(e.x), true))
    .onFinalize((e) => onMinute(at(e.x), false));
  return (
    <Pulled pull={pull} style={{ width }} testID="scrub">
      {children}
      <SliderGrip
        name="Hour of today that is looked at"
        now={Math.floor(minute)}
        min={0}
        max={DAY_MINUTES - 1}
        step={15}
        valueText={valueText}
        onChange={(m) => onMinute(m, false)}
        left={
          (((minute - from + DAY_MINUTES) % DAY_MINUTES) / Math.max(1, to - from)) * width - size.target / 2
        }
        top={8}
        testID="scrub-grip"
      />
    </Pulled>
  );
}

/** An interlude that runs now or is still to come today, with its certain end. */
function InterludeNow({ desk, entries, nowMs }: { desk: Desk; entries: RunningEntry[]; nowMs: number }) {
  const { timeZone } = desk.zone;
  const words = interludeWords(entries, civilDay(nowMs, timeZone), wallMinute(nowMs, timeZone));
  return words === null ? null : <Type testID="interlude-now">{words}</Type>;
}

interface SoFarProps {
  desk: Desk;
  light: ZoneLight;
  groups: LitGroup[];
  calibration: Calibration;
  nowMs: number;
}

function SoFar({ desk, light, groups, calibration, nowMs }: SoFarProps) {
  const { zone, spot, spotIndex, bundle } = desk;
  const soFar = useSoFar(zone, bundle, calibration, nowMs)?.[spotIndex];
  const day = dayAt(light, groups, spotIndex);
  const changed = lightChangedUtc(zone, bundle.history, bundle.log, utcIso(nowMs));
  const still =
    changed === null
      ? 0
      : daysBetween(localDate(Date.parse(changed), zone.timeZone), localDate(nowMs, zone.timeZone));
  return (
    <Section title="Light so far">
      <Type testID="so-far">
        <Type kind="strong">{soFar === undefined ? '…' : mol(soFar)}</Type>
        {` mol today at ${spot!.name}; the running day gives ${mol(day.dli)}, peak ${umol(day.peak)} µmol at ${formatTime(day.peakMinute)}.`}
      </Type>
      <Type kind="small" testID="stillness">
        {still === 0
          ? 'Changed today. Hold still now: colour answers over weeks, not days.'
          : `${still} ${still === 1 ? 'day' : 'days'} without a change.${still < 60 ? ' Hold still: colour answers over weeks, not days.' : ''}`}
      </Type>
    </Section>
  );
}

/** What is being eased in: the next step, the lamp’s own rise, signs. */
function Easing({ desk, entries, nowMs }: { desk: Desk; entries: RunningEntry[]; nowMs: number }) {
  const { zone, bundle } = desk;
  const today = localDate(nowMs, zone.timeZone);
  const [open, setOpen] = useState<{ plan: EasingPlan; act?: PlanAct; days?: number } | null>(null);
  const [signing, setSigning] = useState(false);
  const plans = bundle.history.plans.filter(
    (p) => p.zoneId === zone.id && (p.state === 'active' || p.state === 'paused'),
  );
  const rising = entries.filter((e) => e.rise && riseShare(e.rise, today) < e.rise.toShare);
  return (
    <Section title="Easing in">
      <View testID="easing-step">
        {plans.length === 0 && rising.length === 0 && <Type kind="small">No easing-in step is planned.</Type>}
        {plans.map((p) => (
          <PlanRow key={p.id} plan={p} onPress={() => setOpen({ plan: p })} />
        ))}
        {rising.map((e) => (
          <Type key={e.id} kind="small">
            {`${e.groupName} rises by itself: ${percent(riseShare(e.rise, today))} of the target today, whole on ${shortDate(addDays(e.rise!.date, e.rise!.days))}.`}
          </Type>
        ))}
      </View>
      <View style={{ flexDirection: 'row', gap: space.s, flexWrap: 'wrap' }}>
        <Button
          label={`${tenantsOf(zone.spots).a.replace(/^./, (c) => c.toUpperCase())} shows`}
          onPress={() => setSigning(true)}
          testID="today-sign"
        />
        <Button label="Plan a change" onPress={() => router.navigate('/ease')} testID="today-ease" />
      </View>
      {open && (
        <PlanSheet plan={open.plan} act={open.act} holdDays={open.days} onClose={() => setOpen(null)} />
      )}
      {signing && (
        <SignSheet
          onClose={() => setSigning(false)}
          onPlan={(propose) => {
            setSigning(false);
            setOpen(propose);
          }}
        />
      )}
    </Section>
  );
}

/** A step of easing in that is due, or put off by what happened since it was planned. */
function DueStep({ plan }: { plan: EasingPlan }) {
  const [open, setOpen] = useState(false);
  const { ahead, refused } = useDeskAhead(plan);
  const words = ahead
    ? ahead.due
      ? `Next step: ${stepWords(plan, ahead.coming[0]!.setting)}`
      : `${plan.name}: nothing to type in today`
    : refused
      ? `${plan.name}: no further step`
      : `A step of ${plan.name} is due`;
  return (
    <>
      <Button label={words} kind="filled" wide onPress={() => setOpen(true)} testID="due" />
      {open && <PlanSheet plan={plan} onClose={() => setOpen(false)} />}
    </>
  );
}

/** The one thing due. */
function Due({
  desk,
  entries,
  readings,
  today,
  spotId,
  nowMs,
}: {
  desk: Desk;
  entries: RunningEntry[];
  readings: number;
  today: string;
  spotId: string | null;
  nowMs: number;
}) {
  const { zone } = desk;
  const due = activePlans(desk.bundle.history, zone.id).find((p) => dueStep(p, today));
  const unknown = zone.groups.find((g) => !entries.some((e) => e.groupId === g.id));
  if (zone.groups.length === 0) {
    return <Button label="Add a lamp" kind="filled" wide onPress={() => router.navigate('/case')} />;
  }
  if (due) return <DueStep plan={due} />;
  if (unknown) {
    return (
      <Button
        label={`Type ${entries.length === 0 ? 'the day' : unknown.name} into the lamp`}
        kind="filled"
        wide
        onPress={() => router.navigate('/sheet')}
        testID="due"
      />
    );
  }
  const late = overdueChore(zone, desk.bundle.history, desk.bundle.log, nowMs);
  if (late) {
    return (
      <Button
        label={`Upkeep: ${late.chore.name.toLowerCase()} is due`}
        wide
        onPress={() => router.navigate('/upkeep')}
        testID="due"
      />
    );
  }
  if (readings === 0 && spotId !== null) {
    return (
      <Button
        label="Take one reading: PAR is still an estimate"
        wide
        onPress={() => router.navigate({ pathname: '/readings', params: { read: spotId } })}
        testID="due"
      />
    );
  }
  return (
    <Type kind="small" style={{ fontFamily: font.sans }} testID="due">
      Nothing is due today.
    </Type>
  );
}
