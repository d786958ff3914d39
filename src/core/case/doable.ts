import { behind, misfits } from '../controller/misfits';
import { type ChannelWorth, lossOf } from '../controller/fit';
import { dli } from '../day/day';
import { lampDay, type ResolvedThread } from '../day/thread';
import type { ControllerProfile } from '../spectrum/lampKind';
import { patternSteps, type PatternsInput } from './patterns';
import { patternOf } from './schools';

/** A day with the present light that a controller runs as it is drawn. */
export interface Doable {
  name: string;
  threads: ResolvedThread[];
  dli: number;
  /** farthest from the present day at any moment, as a share of its peak */
  awayShare: number;
}

/** How many are offered. */
const OFFERED = 3;

/** Patterns that a controller can run as they are drawn and that give the present light, most like the present day first; yields how far it is. */
export function* doableSteps(
  input: Omit<PatternsInput, 'wantedDli' | 'present'>,
  threads: readonly ResolvedThread[],
  worth: ChannelWorth,
  controller: ControllerProfile,
): Generator<number, Doable[]> {
  const kind = behind(input.kind, controller);
  const open = { capShare: 1, easingShare: 1 };
  const now = { ...lampDay(input.kind, threads, open), drive: undefined };
  const wantedDli = dli(lampDay(input.kind, threads, input), input.par);
  const made = yield* patternSteps({ ...input, kind, wantedDli, present: [] });
  return made
    .flatMap(({ ids, day }): Doable[] => {
      // a fit changes the day, not the cap
      if (day.capShare !== input.capShare) return [];
      if (day.reason !== null || misfits(kind, day.threads).length > 0) return [];
      const loss = lossOf(now, { ...lampDay(kind, day.threads, open), drive: undefined }, worth);
      return [
        { name: patternOf(ids[0]!).name, threads: day.threads, dli: day.dli, awayShare: loss.peakErrorShare },
      ];
    })
    .sort((a, b) => a.awayShare - b.awayShare)
    .slice(0, OFFERED);
}
