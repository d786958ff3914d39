import { type Knot, topOf } from '../day/day';
import type { ResolvedThread } from '../day/thread';
import { followsStrength } from '../spectrum/controls';
import type { LampKind, Levels } from '../spectrum/lampKind';

/** A thread from values of the controls: its strength is the largest value that follows strength. */
export function threadFromValues(kind: LampKind, minute: number, values: Levels): ResolvedThread {
  const strengthShare = Math.max(0, ...kind.controls.filter(followsStrength).map((c) => values[c.id] ?? 0));
  return {
    minute,
    strengthShare,
    mix: Object.fromEntries(
      kind.controls.map((c) => {
        const v = values[c.id] ?? 0;
        return [c.id, followsStrength(c) ? (strengthShare > 0 ? Math.min(1, v / strengthShare) : 0) : v];
      }),
    ),
  };
}

/** Threads of a lamp of circuits from when each is switched. */
export function circuitThreads(
  kind: LampKind,
  circuits: readonly { id: string; knots: readonly Knot[] }[],
): ResolvedThread[] {
  const minutes = [...new Set(circuits.flatMap((c) => c.knots.map((k) => k.minute)))].sort((a, b) => a - b);
  return minutes.map((minute) => {
    const mix = Object.fromEntries(
      circuits.map((c) => {
        const now = [...c.knots].reverse().find((k) => k.minute <= minute) ?? c.knots[c.knots.length - 1];
        return [c.id, now && topOf([now]) > 0 ? 1 : 0];
      }),
    );
    return { minute, strengthShare: Object.values(mix).some((v) => v > 0) ? 1 : 0, mix };
  });
}
