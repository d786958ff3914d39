import { type Judgement, judgeWater, type State } from '@/core/case/judgement';
import { differences } from '@/core/case/difference';
import type { Calibration } from '@/core/case/calibration';
import type { ZoneLight } from '@/core/case/light';
import { type LitGroup, runningAt } from '@/core/case/lit';
import { ceilingRunning } from '@/core/case/planAhead';
import { CEILINGS, type DayLight } from '@/core/easing/accustomed';
import type { HistoryDoc } from '@/core/record/history';
import type { Group, Zone } from '@/core/record/zone';

import { type Desk, runningOf } from './desk';
import { remembered } from './remembered';
import { useSettings } from './settings';
import { utcIso } from './time';

/** The judgement of a water under a day, made once for all that show it. */
export const judgementOf = remembered(
  (
    state: State,
    zone: Zone,
    groups: readonly LitGroup[],
    light: ZoneLight,
    cal: Calibration,
    accustomed: readonly DayLight[] | null,
    ceiling: number,
    usedToIt: boolean,
  ): Judgement => judgeWater({ state, zone, groups, light, cal, accustomed, ceiling, usedToIt }),
);

/** The largest step that is to be made at once, of a coral: the school chosen where a change is eased in. */
export const useCeiling = (): number => {
  const { school, ownCeiling } = useSettings((s) => s.ease);
  return school === 'own' ? ownCeiling : CEILINGS[school];
};

/** Whether who lives here is said to live under the drafted day already: asked of lamps that have not run yet. */
const usedToDraft = (zone: Zone, history: HistoryDoc): boolean => {
  const ran = new Set(history.entries.flatMap((e) => (e.zoneId === zone.id ? [e.groupId] : [])));
  const fresh = zone.groups.filter((g) => !ran.has(g.id));
  return fresh.length > 0 && fresh.every((g) => g.usedTo === true);
};

/**
 * What a drafted water is judged as: what runs where nothing is left to type in, else a draft, by the school chosen.
 * @param typing the one group that is typed in; null = all of them
 */
export function useDraftState(
  desk: Desk,
  nowMs: number,
  typing: Group | null = null,
): Pick<Judgement, 'state' | 'usedToIt'> & { ceiling: number } {
  const { doc, zone, bundle } = desk;
  const [school, plan] = [useCeiling(), useRunningCeiling(bundle.history, zone, nowMs)];
  const { entries } = runningOf(desk, nowMs);
  const typed = (typing ? [typing] : zone.groups).every((g) => {
    const entry = entries.find((e) => e.groupId === g.id);
    return entry !== undefined && differences(doc, g, entry).length === 0;
  });
  return typed
    ? { state: 'runs', ceiling: plan, usedToIt: false }
    : { state: 'draft', ceiling: school, usedToIt: usedToDraft(zone, bundle.history) };
}

/** The same for what runs: a step of a plan is judged by the plan's. */
export const useRunningCeiling = (history: HistoryDoc, zone: Zone, nowMs: number): number => {
  const nowUtc = utcIso(nowMs);
  return ceilingRunning(useCeiling(), history.plans, runningAt(history, zone, nowUtc), nowUtc);
};
