import { CEILINGS, type DayLight, stepRatio, type StepRatio } from '../easing/accustomed';
import { capSteps, type CapStep, PlanRefused } from '../easing/plan';
import { dims } from '../spectrum/controls';
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

/** Caps below a whole percent cannot be typed into most lamps. Mark: rule of thumb. */
const COARSEST_CAP_STEP = 0.01;

/**
 * Dated caps for one group that bring its draft in under the usual ceiling, the other groups staying as they are.
 * @returns the steps, or the reason why there are none
 */
export function easeByCap(
  light: ZoneLight,
  groups: readonly LitGroup[],
  groupId: string,
  accustomed: readonly DayLight[],
): { steps: CapStep[] } | { refused: string } {
  const group = groups.find((g) => g.groupId === groupId)!;
  if (!dims(group.lampKind)) {
    return {
      refused: 'this lamp cannot be dimmed: shorten its day, hang it higher, or shade the corals instead',
    };
  }
  const under = (capShare: number) =>
    groups.map((g) => (g.groupId === groupId ? { ...g, day: { ...g.day, capShare } } : g));
  try {
    return {
      steps: capSteps({
        accustomed,
        lightAtCap: (cap) => accustomed.map((_, s) => dayAt(light, under(cap), s)),
        targetCap: group.day.capShare,
        stepShare: Math.max(group.lampKind.controller.pointStepShare, COARSEST_CAP_STEP),
        ceiling: CEILINGS.usual,
      }),
    };
  } catch (error) {
    if (error instanceof PlanRefused) return { refused: error.message };
    throw error;
  }
}
