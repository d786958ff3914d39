import { dateOf, dayNumber } from '../day/wallClock';
import type { DayLight } from '../easing/accustomed';
import { accustomedAfter, type Grower, type LivedDay, ratioIn } from '../easing/ladder';
import { activePlans, type EasingPlan, type HistoryDoc } from '../record/history';
import type { Place, Zone } from '../record/zone';
import { ended } from '../shape/ended';
import type { Calibration } from './calibration';
import { courseFrom, type EaseCourse, easeSteps, expectedAt, growersOf, litOf } from './easePlan';
import { lightBetween } from './light';
import { aheadOf, doneSteps, goesOn } from './planAhead';
import type { ParOf, UsedLight } from './replay';
import { placeAt } from './settings';

/** What lies ahead with everything as it runs and the plans under way as they go on from what is so today. */
export function forecast(
  zone: Zone,
  history: HistoryDoc,
  nowUtc: string,
  today: string,
  yellow440PerM: number,
  used: readonly UsedLight[],
  parOf: ParOf,
  cal: Calibration | null = null,
  days = 42,
): EaseCourse {
  const asItGoesOn = (plan: EasingPlan): EasingPlan => {
    const q = plan.zoneId === zone.id ? goesOn(plan, today) : null;
    if (!q) return plan;
    const answer = ended(easeSteps(zone, history, nowUtc, yellow440PerM, used, q, parOf, cal));
    const ahead = answer.refused ? null : aheadOf(plan, answer, today);
    return ahead ? { ...plan, steps: [...doneSteps(plan), ...ahead.coming] } : plan;
  };
  const planned = { ...history, plans: history.plans.map((p) => asItGoesOn(p)) };
  let growers: readonly Grower[] = growersOf(zone, used);
  const plans = activePlans(planned, zone.id).filter((p) => p.method === 'places');
  const kept = new Map<string, DayLight[]>();
  const lived = Array.from({ length: days }, (_, day): LivedDay => {
    const date = dateOf(dayNumber(today) + day);
    const list = expectedAt(planned, zone, nowUtc, date, null);
    const places = zone.spots.map((s): Place => {
      const plan = plans.find((p) => p.climb?.spotId === s.id);
      const step = plan?.steps.filter((x) => x.doneUtc === null && x.date <= date).at(-1);
      return (plan && step ? placeAt(plan, step.setting) : null) ?? s;
    });
    const groups = list.map((r) => litOf(r, date, zone.timeZone));
    const key = JSON.stringify([
      list.map((r) => [r.threads, r.capShare, r.lamps, 'rise' in r && r.rise ? date : 0]),
      places,
    ]);
    let light = kept.get(key);
    if (!light)
      kept.set(key, (light = lightBetween(parOf(groups, yellow440PerM, places), groups, zone.spots.length)));
    const before = growers;
    growers = accustomedAfter(light, growers);
    return {
      ...{ rung: 0, light, used: before.map((g) => g.accustomed) },
      ratios: light.map((l, i) => ratioIn('both', l, before[i]!)),
    };
  });
  return courseFrom(lived, dayNumber(today));
}
