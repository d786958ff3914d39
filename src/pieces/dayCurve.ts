import { wrapMinute, DAY_MINUTES } from '@/core/shape/ring';

/** The light of a day at a place, for drawing. */
export interface DayCurve {
  parAt: (minute: number) => number;
  /** minutes at which it bends */
  knees: readonly number[];
}

/** A held lamp steps: the instant before each bend belongs to the line. */
const BEFORE_MIN = 1e-4;

/** Corners of a day's line between two minutes of an unrolled window. */
export const dayPoints = ({ parAt, knees }: DayCurve, from: number, to: number): [number, number][] =>
  [from, ...knees.flatMap((k) => [k - DAY_MINUTES, k, k + DAY_MINUTES]).filter((m) => m > from && m < to), to]
    .flatMap((m) => [m - BEFORE_MIN, m])
    .sort((a, b) => a - b)
    .map((m): [number, number] => [m, parAt(wrapMinute(m))]);
