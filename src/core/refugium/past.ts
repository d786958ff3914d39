import type { MetChange } from '../case/replay';
import type { DayLight } from '../easing/accustomed';

/** The light in which something grew, as shares of the present one's: how strong, and for how many hours. */
export interface PastLight {
  strengthShare: number;
  hoursShare: number;
}
export const AS_NOW: PastLight = { strengthShare: 1, hoursShare: 1 };

/** Hours at the peak that give a day's dose. */
const fullHours = ({ dli, peak }: DayLight) => (peak > 0 ? (dli * 1e6) / (peak * 3600) : 0);

/**
 * What a spot's light was over a stretch of time, against its present one. Hours are the mean over the stretch, strength that of
 * the hours that were lit, so that weeks in the dark shorten hours and dim nothing. What was before the first known change is
 * taken to be as now.
 * @param changes as replayed, rising in time, whole days per spot
 */
export function pastLight(
  changes: readonly MetChange[],
  spot: number,
  now: DayLight,
  fromUtc: string,
  toUtc: string,
): PastLight {
  const [from, to] = [Date.parse(fromUtc), Date.parse(toUtc)];
  const hoursNow = fullHours(now);
  if (hoursNow <= 0 || to <= from) return AS_NOW;
  const known = [
    { ms: -Infinity, day: now },
    ...changes.flatMap((c) => (c.after[spot] ? [{ ms: Date.parse(c.atUtc), day: c.after[spot] }] : [])),
  ];
  let hours = 0;
  let dose = 0;
  known.forEach(({ ms, day }, i) => {
    const share = Math.max(0, Math.min(to, known[i + 1]?.ms ?? Infinity) - Math.max(from, ms)) / (to - from);
    hours += share * fullHours(day);
    dose += share * day.dli;
  });
  return hours > 0
    ? { strengthShare: dose / hours / (now.dli / hoursNow), hoursShare: hours / hoursNow }
    : { strengthShare: 1, hoursShare: 0 };
}
