import { router } from 'expo-router';
import { useDeferredValue, useEffect, useMemo, useState } from 'react';
import { View } from 'react-native';

import { type CoralJudgement, stepGravity } from '@/core/case/judgement';
import { inWords } from '@/core/shape/counts';
import { civilDay } from '@/core/day/wallClock';
import type { RunningEntry } from '@/core/record/history';
import { algaeSpots } from '@/core/record/log/harvest';
import { changeSettings, RECKONED_BY, useSettings } from '@/state/settings';
import { Balance } from '@/pieces/Balance';
import { behindThePress, type Desk, runningOf } from '@/state/desk';
import { judgementOf, useRunningCeiling } from '@/state/judgement';
import { useAccustomed, useCalibration, useLight } from '@/state/light';
import { askMoment } from '@/state/moment';
import { daysAgo, localDate, longDate, useNowMs, utcIso, wallMinute } from '@/state/time';
import { Button } from '@/ui/Button';
import { Page, usePageSize } from '@/ui/Page';
import { Note, Row, Section } from '@/ui/Parts';
import { part } from '@/ui/part';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import type { Propose } from '../log/SignSheet';
import { Ahead } from '../shared/Ahead';
import { DraftLine } from '../shared/DraftLine';
import { LightPending } from '../shared/LightPending';
import { lookRoom, stageGoes } from '../shared/Look';
import { QuickLog } from '../shared/QuickLog';
import { MARKS } from '../shared/Verdict';
import { basisAt, tenantsOf, times, timesOf } from '../shared/words';
import { PlanSheet } from '../sheets';
import { AlgaeToday } from './AlgaeToday';
import { Due } from './Due';
import { Easing } from './Easing';
import { interludeWords } from './model';
import { NowDay, NowStage } from './Now';
import { OtherWaters } from './OtherWaters';
import { todaySentence } from './sentence';
import { SoFar } from './SoFar';

const ClockAhead = part(async () => (await import('./ClockAhead')).ClockAhead);
const DueList = part(async () => (await import('./DueList')).DueList);

/** The latest instant that anything of a case is of. */
const latestOf = ({ history, log }: Pick<Desk['bundle'], 'history' | 'log'>): string =>
  [...history.entries, ...log.events].reduce((a, e) => (e.atUtc > a ? e.atUtc : a), '');

/** The lines under the picture: figure, coral and verdict. */
const STAGE_LINES = 57;
/** The day under it, until its light is known. */
const DAY_ROOM = 182;

/** So many are weighed here; Tank has them all. */
const MOST_SHOWN = 8;
/** All of a few, else those whose light is farthest from what they are used to, in their order. */
const farthest = (corals: readonly CoralJudgement[]): CoralJudgement[] => {
  const off = (c: CoralJudgement) => Math.abs(Math.log(Math.max(1e-6, c.step!.ratio)));
  const shown = new Set([...corals].sort((a, b) => off(b) - off(a)).slice(0, MOST_SHOWN));
  return corals.filter((c) => shown.has(c));
};

/** What is so now, from running alone. */
export const Today = behindThePress(function Today({ desk }: { desk: Desk }) {
  const { zone, bundle, spot, spotIndex } = desk;
  const nowMs = useNowMs();
  const page = usePageSize();
  const [plan, setPlan] = useState<Propose | null>(null);
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

  const { history, log } = bundle;
  const latestWritten = useMemo(() => latestOf({ history, log }), [history, log]);
  const now = { desk, light: light!, groups, minute, width: page.main, whole };
  useEffect(() => () => askMoment(null), []);

  return (
    <Page
      testID="today"
      title={desk.doc.name}
      under={longDate(nowMs, zone.timeZone)}
      sentence={
        <View style={{ gap: space.s }}>
          {desk.doc.demo && <DemoBanner />}
          <Type kind="sentence" testID="today-sentence" roomLines={lines} style={{ maxWidth: 700 }}>
            {`${MARKS[stepGravity(judged)]}${todaySentence({
              judged,
              tenants: tenantsOf(zone.spots),
              unknown: zone.groups.filter((g) => !entries.some((e) => e.groupId === g.id)).map((g) => g.name),
              groups: zone.groups.length,
              lamps: zone.groups.reduce((sum, g) => sum + g.lamps.length, 0),
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
      stageGoes={stageGoes(page.main, zone.tank)}
      stage={
        ready ? (
          <NowStage {...now} judged={judged} />
        ) : groups.length > 0 ? (
          <LightPending
            error={error}
            noSpot={zone.spots.length === 0}
            height={zone.spots.length > 0 ? lookRoom(page.main, zone.tank) + STAGE_LINES : 220}
          />
        ) : undefined
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
                  {farthest(stepped).map((c) => (
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
                        {timesOf(c.step!)}
                      </Type>
                    </Row>
                  ))}
                </View>
                {stepped.length > MOST_SHOWN && (
                  <Button
                    label={`All ${stepped.length} on Tank`}
                    kind="plain"
                    onPress={() => router.navigate('/tank')}
                    testID="balance-others"
                  />
                )}
                <Ahead zone={zone} past={bundle} cal={calibration} nowMs={nowMs} />
                <Type kind="small">
                  Today’s light against what each {tenantsOf(zone.spots).one} is used to
                  {stepped.length > MOST_SHOWN && `, of the ${inWords(MOST_SHOWN)} farthest from it`}; the
                  long mark is 1, the short one the most at a time
                  {stepped[0] ? `, ${times(stepped[0].step!.ceiling)}` : ''} (rule of thumb).
                </Type>
              </Section>
            )}
            <OtherWaters desk={desk} nowMs={nowMs} />
            <DueList desk={desk} nowMs={nowMs} />
          </>
        )
      }
    >
      <ReckonedAnew />
      {latestWritten > utcIso(nowMs) && <ClockAhead desk={desk} nowMs={nowMs} />}
      <InterludeNow desk={desk} entries={entries} nowMs={nowMs} />
      {ready ? (
        <NowDay {...now} basis={basisAt(calibration, light, groups, spotIndex)} />
      ) : (
        groups.length > 0 && zone.spots.length > 0 && <View style={{ height: DAY_ROOM }} />
      )}
      <Due
        desk={desk}
        entries={entries}
        readings={calibration.readings}
        today={localDate(nowMs, zone.timeZone)}
        spotId={spot?.id ?? null}
        nowMs={nowMs}
      />
      <DraftLine desk={desk} />
      {whole && entries.length > 0 && <QuickLog desk={desk} onPlan={setPlan} testID="today" />}
      {!(ready && whole) && <OtherWaters desk={desk} nowMs={nowMs} />}
      {plan && (
        <PlanSheet plan={plan.plan} act={plan.act} holdDays={plan.days} onClose={() => setPlan(null)} />
      )}
    </Page>
  );
});

/** Said once where records are older than the way they are reckoned now. */
function ReckonedAnew() {
  const told = useSettings((s) => s.reckonedBy) >= RECKONED_BY;
  if (told) return null;
  return (
    <View testID="reckoned-anew">
      <Note>
        Reckoned anew since you were here: steps count light as each coral takes it, near UV with it, and a
        flash of minutes is no peak. Estimates are less sure than before. What you typed in is unchanged.
      </Note>
      <Button
        label="Understood"
        onPress={() => changeSettings({ reckonedBy: RECKONED_BY })}
        testID="told-anew"
      />
    </View>
  );
}

/** The made-up tank says so, and how to begin with one's own. */
function DemoBanner() {
  return (
    <View style={{ flexDirection: 'row', alignItems: 'center', flexWrap: 'wrap', gap: space.s }}>
      <Type kind="small" style={{ flexShrink: 1 }}>
        A made-up tank, yours to play with.
      </Type>
      <Button label="Start my tank" onPress={() => router.navigate('/start')} testID="start-mine" />
    </View>
  );
}

/** An interlude that runs now or is still to come today, with its certain end. */
function InterludeNow({ desk, entries, nowMs }: { desk: Desk; entries: RunningEntry[]; nowMs: number }) {
  const { timeZone } = desk.zone;
  const words = interludeWords(entries, civilDay(nowMs, timeZone), wallMinute(nowMs, timeZone));
  return words === null ? null : <Type testID="interlude-now">{words}</Type>;
}
