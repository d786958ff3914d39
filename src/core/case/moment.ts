import { formatTime } from '../day/clock';
import { levelsOfGroups, parUnder, type ZoneLight } from './light';
import type { LitGroup } from './lit';
import type { Group } from '../record/zone';

/** The one moment Mix speaks of. */
export interface Moment {
  minute: number;
  /** false when no lit thread uses the plate: then it is shown at full strength under the cap, beside the other groups' noon */
  used: boolean;
}

/**
 * The brightest lit thread that uses a plate, at a spot, everything lit counted.
 * @param groups lit groups of the draft; @param groupIndex the group whose plate is meant
 */
export function momentOf(
  light: ZoneLight,
  groups: readonly LitGroup[],
  group: Group,
  plateId: string,
  spot: number,
): Moment {
  let best: Moment = { minute: 720, used: false };
  let bestPar = -1;
  for (const t of group.threads) {
    if (!('plateId' in t.mix) || t.mix.plateId !== plateId || t.strengthShare === 0) continue;
    const value = parUnder(light, levelsOfGroups(groups, t.minute), spot);
    if (value > bestPar) {
      bestPar = value;
      best = { minute: t.minute, used: true };
    }
  }
  return best;
}

/** The threads that a change of a plate would change, with PAR at a spot before and after. */
export function threadsChanged(
  light: ZoneLight,
  before: readonly LitGroup[],
  after: readonly LitGroup[],
  group: Group,
  plateId: string,
  spot: number,
): { time: string; before: number; after: number }[] {
  return group.threads
    .filter((t) => 'plateId' in t.mix && t.mix.plateId === plateId && t.strengthShare > 0)
    .sort((a, b) => a.minute - b.minute)
    .map((t) => ({
      time: formatTime(t.minute),
      before: parUnder(light, levelsOfGroups(before, t.minute), spot),
      after: parUnder(light, levelsOfGroups(after, t.minute), spot),
    }));
}
