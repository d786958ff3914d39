import { livesByLight, wantsOf, type Standing, standingOf } from '../record/needs';
import type { Spot, Zone } from '../record/zone';

export type Stage = 'young' | 'growing' | 'mature';
export type Eye = 'daily' | 'weekly' | 'seldom';

/** Where in its range a coral's light should end: the share of the way from the lower to the upper edge. Mark: rule of thumb. */
const AIM: Record<Stage, Record<Eye, readonly [from: number, to: number]>> = {
  young: { daily: [0.1, 0.6], weekly: [0.1, 0.5], seldom: [0, 0.35] },
  growing: { daily: [0.2, 0.8], weekly: [0.2, 0.65], seldom: [0.1, 0.5] },
  mature: { daily: [0.3, 1], weekly: [0.3, 0.75], seldom: [0.2, 0.5] },
};
/**
 * Light beyond a kind's range by more than this is a project of its own where it is bright at all; and beyond the higher PAR for
 * anybody. Less than the lower is too much for some, but not high. Mark: rule of thumb.
 */
const BEYOND_SHARE = 1.1;
const BRIGHT_UMOL = 200;
const HIGH_UMOL = 350;

/** What must be so before light is raised that far. */
export const HIGH_LIGHT_NEEDS = [
  'Strong flow reaches every side of these corals, without dead spots.',
  'Nitrate and phosphate can be measured, and the corals are fed.',
  'Somebody reads every coral and moves those that fail.',
] as const;

export interface Aim {
  spot: number;
  fromUmol: number;
  toUmol: number;
  /** where the target's peak lies against that */
  standing: Standing;
  /** beyond what its kind takes, or high for anybody */
  high: boolean;
}

/** How much light at all: where the peak of a target lies against what each coral should end at. */
export function aims(zone: Zone, peaks: readonly number[], stage: Stage, eye: Eye): Aim[] {
  const [from, to] = AIM[stage][eye];
  return zone.spots.flatMap((s: Spot, spot): Aim[] => {
    const wants = wantsOf(s, zone);
    // a mat is sized by what it is to take out, not by a tank's stage
    if (!wants || !livesByLight(s) || s.need === 'macroalgae') return [];
    const at = (share: number) => wants.fromUmol + (wants.toUmol - wants.fromUmol) * share;
    const [fromUmol, toUmol] = [at(from), at(to)];
    const peak = peaks[spot]!;
    return [
      {
        spot,
        fromUmol,
        toUmol,
        standing: standingOf(peak, { fromUmol, toUmol }),
        high: (peak > wants.toUmol * BEYOND_SHARE && peak > BRIGHT_UMOL) || peak > HIGH_UMOL,
      },
    ];
  });
}
