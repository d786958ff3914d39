import type { Day, Knot } from './day';
import { levelsAt } from './day';

/** Levels by channel id, 0..1. */
export type Levels = Readonly<Record<string, number>>;

/** A thread with its mix already looked up. */
export interface ResolvedThread {
  minute: number;
  strengthShare: number;
  mix: Levels;
}

/** Rounds a share to a multiple of the controller's step; 0 = no step. Half steps go up. */
export function toStep(share: number, stepShare: number): number {
  return stepShare > 0 ? Math.min(1, Math.round(share / stepShare + 1e-9) * stepShare) : share;
}

/** What is typed into the lamp for one channel at one thread: mix share × strength in whole steps. */
export const typedLevel = (mixShare: number, strengthShare: number, stepShare: number): number =>
  toStep(mixShare * strengthShare, stepShare);

/** Knots of a day from threads, in the order of the channels; absent channels are 0. */
export function threadKnots(
  threads: readonly ResolvedThread[],
  channelIds: readonly string[],
  stepShare: number,
): Knot[] {
  return threads
    .map((t) => ({
      minute: t.minute,
      levels: channelIds.map((id) => typedLevel(t.mix[id] ?? 0, t.strengthShare, stepShare)),
    }))
    .sort((a, b) => a.minute - b.minute);
}

/** A factor of the chain and what is left after it. */
export interface ChainFactor {
  name: string;
  factor: number;
  /** level after this factor, 0..1 */
  after: number;
}

/**
 * The chain of one channel at a minute: between threads the typed level runs between its neighbours; at a thread it is
 * mix share × strength in whole steps. Then cap, easing, light.
 */
export function chainAt(
  threads: readonly ResolvedThread[],
  day: Day,
  channelIds: readonly string[],
  channelId: string,
  minute: number,
): ChainFactor[] {
  const c = channelIds.indexOf(channelId);
  const thread = threads.find((t) => t.minute === minute);
  const typed = levelsAt({ ...day, capShare: 1, easingShare: 1 }, minute)[c] ?? 0;
  const chain: ChainFactor[] = [];
  if (thread) {
    const mix = thread.mix[channelId] ?? 0;
    chain.push({ name: 'mix', factor: mix, after: mix });
    chain.push({
      name: 'strength of the thread',
      factor: thread.strengthShare,
      after: mix * thread.strengthShare,
    });
    chain.push({ name: 'typed into the lamp', factor: 1, after: typed });
  } else {
    chain.push({
      name: day.interpolation === 'ramp' ? 'between its threads' : 'held from its thread',
      factor: typed,
      after: typed,
    });
  }
  chain.push({ name: 'cap', factor: day.capShare, after: typed * day.capShare });
  chain.push({ name: 'easing', factor: day.easingShare, after: typed * day.capShare * day.easingShare });
  return chain;
}

/**
 * What is lit at a minute as a thread of its own: strength interpolated, mix = level / strength, so that adding it
 * changes nothing but rounding. A dark moment keeps the mix of the nearest thread.
 */
export function threadBetween(
  threads: readonly ResolvedThread[],
  minute: number,
): { strengthShare: number; mix: Levels } {
  if (threads.length === 0) return { strengthShare: 0, mix: {} };
  const ids = [...new Set(threads.flatMap((t) => Object.keys(t.mix)))];
  const sorted = [...threads].sort((a, b) => a.minute - b.minute);
  const knots = sorted.map((t) => ({
    minute: t.minute,
    levels: [t.strengthShare, ...ids.map((id) => (t.mix[id] ?? 0) * t.strengthShare)],
  }));
  const [strengthShare = 0, ...levels] = levelsAt(
    { knots, capShare: 1, easingShare: 1, interpolation: 'ramp' },
    minute,
  );
  if (strengthShare <= 0) {
    const nearest = [...sorted].sort((a, b) => Math.abs(a.minute - minute) - Math.abs(b.minute - minute))[0]!;
    return { strengthShare: 0, mix: nearest.mix };
  }
  return {
    strengthShare,
    mix: Object.fromEntries(ids.map((id, i) => [id, Math.min(1, levels[i]! / strengthShare)])),
  };
}
