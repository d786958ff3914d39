import { DAY_MINUTES } from '../day/day';
import { unrolled } from '../day/moves';
import type { ResolvedThread } from '../day/thread';
import { threadFromValues } from '../controller/fit';
import { type Levels, typedControls } from '../spectrum/controls';
import type { LampKind } from '../spectrum/lamp';

/** Slope of a colour that runs longer than the rest, minutes. Mark: rule of thumb. */
const SLOPE_MIN = 15;

/**
 * Runs colours longer at the strength they have: before and after the rest of the day they are lit alone, at their strongest.
 * @param controlIds the colours; @param minutes how much longer in all, half before and half after
 */
export function runLonger(
  kind: LampKind,
  threads: readonly ResolvedThread[],
  controlIds: readonly string[],
  minutes: number,
): ResolvedThread[] {
  const all = unrolled(threads);
  if (all.length < 2 || minutes <= 0) return [...threads];
  const values = (t: ResolvedThread) => typedControls(kind, t.mix, t.strengthShare);
  const top = Object.fromEntries(
    controlIds.map((id) => [id, Math.max(0, ...all.map((t) => values(t)[id] ?? 0))]),
  );
  const alone: Levels = Object.fromEntries(
    kind.controls.map((c) => {
      if (controlIds.includes(c.id)) return [c.id, top[c.id]!];
      // tint and trims belong to the colour they turn
      return [c.id, c.kind === 'tint' || c.kind === 'trim' ? (all[0]!.mix[c.id] ?? 0) : 0];
    }),
  );
  const keep = (t: ResolvedThread): ResolvedThread => {
    const v = { ...values(t) };
    for (const id of controlIds) v[id] = top[id]!;
    return threadFromValues(kind, t.minute, v);
  };
  // between first and last light the colours stay at their strongest from the slope on
  const wrap = (m: number) => ((Math.round(m) % DAY_MINUTES) + DAY_MINUTES) % DAY_MINUTES;
  const [first, last] = [all[0]!.minute, all[all.length - 1]!.minute];
  const half = Math.min(minutes / 2, (DAY_MINUTES - 2 - (last - first)) / 2);
  const slope = Math.min(SLOPE_MIN, half);
  const dark = (m: number): ResolvedThread => ({ ...threadFromValues(kind, m, alone), strengthShare: 0 });
  const made =
    kind.controller.interpolation === 'hold'
      ? [
          threadFromValues(kind, first - half, alone),
          ...all.slice(0, -1).map(keep),
          threadFromValues(kind, last, alone),
          dark(last + half),
        ]
      : [
          dark(first - half),
          threadFromValues(kind, first - half + slope, alone),
          ...all.map(keep),
          threadFromValues(kind, last + half - slope, alone),
          dark(last + half),
        ];
  const taken = new Set<number>();
  return made
    .map((t) => {
      let minute = wrap(t.minute);
      while (taken.has(minute)) minute = wrap(minute + 1);
      taken.add(minute);
      return { ...t, minute };
    })
    .sort((a, b) => a.minute - b.minute);
}

/** Shortest run, to five minutes, with which a dose reaches its floor; null when twelve hours more are not enough. */
export function minutesForDose(
  doseOf: (minutes: number) => number,
  floor: number,
  most = 720,
): number | null {
  if (doseOf(most) < floor) return null;
  let [low, high] = [0, most / 5];
  while (low < high) {
    const middle = Math.floor((low + high) / 2);
    if (doseOf(middle * 5) >= floor) high = middle;
    else low = middle + 1;
  }
  return low * 5;
}
