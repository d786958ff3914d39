import { dateOf, dayNumber } from '../day/wallClock';
import { ceilingOf, livesByLight } from '../record/needs';
import type { Zone } from '../record/zone';
import type { EaseCourse } from './easePlan';

/** Who gets furthest beyond a ceiling, each by its own pace, on a course from a date on; null where nobody does. */
export function beyondCeiling(
  { ratios }: Pick<EaseCourse, 'ratios'>,
  zone: Zone,
  ceiling: number,
  today: string,
): { spot: number; ratio: number; date: string } | null {
  let most: { spot: number; ratio: number; date: string } | null = null;
  // as printed, a ratio on the ceiling is not beyond it
  let by = 1.0005;
  for (const [day, at] of ratios.entries())
    for (const [spot, ratio] of at.entries()) {
      const s = zone.spots[spot]!;
      if (!livesByLight(s) || ratio / ceilingOf(s, ceiling) <= by) continue;
      by = ratio / ceilingOf(s, ceiling);
      most = { spot, ratio, date: dateOf(dayNumber(today) + day) };
    }
  return most;
}
