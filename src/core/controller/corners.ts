import { type Day, parOf } from '../day/day';
import { DAY_MINUTES } from '../shape/ring';

/** Levels just before and just after a minute of the ring. */
export interface Corner {
  minute: number;
  left: readonly number[];
  right: readonly number[];
}

export type Plain = Pick<Day, 'knots' | 'interpolation'>;

/** The corners of a day: its times with the levels on both sides. */
export function corners({ knots, interpolation }: Plain): Corner[] {
  const out: Corner[] = [];
  knots.forEach((k, i) => {
    const before = knots[(i + knots.length - 1) % knots.length]!;
    const left = interpolation === 'hold' ? before.levels : k.levels;
    const last = out[out.length - 1];
    if (last && last.minute === k.minute) last.right = k.levels;
    else out.push({ minute: k.minute, left, right: k.levels });
  });
  return out;
}

/** Levels on one side of a minute, from corners. */
export function sideAt(all: readonly Corner[], minute: number, side: 'left' | 'right'): readonly number[] {
  if (all.length === 0) return [];
  const next = all.findIndex((c) => c.minute >= minute);
  if (next >= 0 && all[next]!.minute === minute) return all[next]![side];
  const after = all[next < 0 ? 0 : next]!;
  const before = all[next <= 0 ? all.length - 1 : next - 1]!;
  const span = (after.minute - before.minute + DAY_MINUTES) % DAY_MINUTES || DAY_MINUTES;
  const w = ((minute - before.minute + DAY_MINUTES) % DAY_MINUTES) / span;
  return before.right.map((v, c) => v + (after.left[c]! - v) * w);
}

/** Largest error of a reduced day at any of its own or the wanted corners, both sides, over the wanted peak PAR. */
export function peakError(wanted: Plain, reduced: Plain, parAtFull: readonly number[]): number {
  const [a, b] = [corners(wanted), corners(reduced)];
  const peak = Math.max(0, ...a.flatMap((c) => [parOf(c.left, parAtFull), parOf(c.right, parAtFull)]));
  if (!(peak > 0)) return 0;
  let worst = 0;
  for (const minute of new Set([...a, ...b].map((c) => c.minute))) {
    for (const side of ['left', 'right'] as const) {
      const [x, y] = [sideAt(a, minute, side), sideAt(b, minute, side)];
      worst = Math.max(
        worst,
        parAtFull.reduce((sum, p, c) => sum + p * Math.abs((x[c] ?? 0) - (y[c] ?? 0)), 0),
      );
    }
  }
  return worst / peak;
}
