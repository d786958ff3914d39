import { type DayLight, stepRatio, type StepRatio } from '../easing/accustomed';
import { dayAt, type ZoneLight } from './light';
import type { LitGroup } from './lit';

export interface SpotSafety extends StepRatio {
  spot: number;
  light: DayLight;
  accustomed: DayLight;
}

/** Step ratio at one spot if the groups were lit from today on. */
export function judgeSpot(
  light: ZoneLight,
  groups: readonly LitGroup[],
  accustomed: DayLight,
  spot: number,
): SpotSafety {
  const day = dayAt(light, groups, spot);
  return { spot, light: { dli: day.dli, peak: day.peak }, accustomed, ...stepRatio(day, accustomed) };
}

/** Step ratio at every spot if the groups were lit from today on. */
export function judge(
  light: ZoneLight,
  groups: readonly LitGroup[],
  accustomed: readonly DayLight[],
): SpotSafety[] {
  return accustomed.map((used, spot) => judgeSpot(light, groups, used, spot));
}

/** The spot that limits a change. Undefined when the zone has none. */
export const worstOf = (safety: readonly SpotSafety[]): SpotSafety | undefined =>
  safety.reduce<SpotSafety | undefined>(
    (worst, s) => (worst && worst.ratio >= s.ratio ? worst : s),
    undefined,
  );
