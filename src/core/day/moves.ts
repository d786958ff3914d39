import { wrapMinute, DAY_MINUTES } from '../shape/ring';

/** What of a thread a move of the whole day changes. */
export interface Movable {
  minute: number;
  strengthShare: number;
}

const wrap = (m: number) => wrapMinute(Math.round(m));

/** Threads in the order of the lit day, their minutes counted on over midnight: the widest gap is the night. */
export function unrolled<T extends Movable>(threads: readonly T[]): T[] {
  const sorted = [...threads].sort((a, b) => a.minute - b.minute);
  let first = 0;
  let widest = -1;
  sorted.forEach((t, i) => {
    const before = sorted[(i + sorted.length - 1) % sorted.length]!;
    const gap = (t.minute - before.minute + DAY_MINUTES) % DAY_MINUTES || DAY_MINUTES;
    if (gap > widest) [widest, first] = [gap, i];
  });
  return sorted.map((_, i) => {
    const t = sorted[(first + i) % sorted.length]!;
    return { ...t, minute: t.minute < sorted[first]!.minute ? t.minute + DAY_MINUTES : t.minute };
  });
}

/** Back onto the ring; threads that would meet are kept a minute apart. */
function rolled<T extends Movable>(threads: readonly T[]): T[] {
  const taken = new Set<number>();
  return threads.map((t) => {
    let minute = wrap(t.minute);
    while (taken.has(minute)) minute = wrap(minute + 1);
    taken.add(minute);
    return { ...t, minute };
  });
}

/** The whole day, or some of its threads, earlier or later. Chosen threads that would land on others stay a minute beside them. */
export function shifted<T extends Movable & { id?: string }>(
  threads: readonly T[],
  byMinutes: number,
  only?: ReadonlySet<string>,
): T[] {
  const moves = (t: T) => !only || (t.id !== undefined && only.has(t.id));
  const stay = threads.filter((t) => !moves(t));
  const taken = new Set(stay.map((t) => t.minute));
  const step = byMinutes < 0 ? -1 : 1;
  const moved = threads.filter(moves).map((t) => {
    let minute = wrap(t.minute + byMinutes);
    while (taken.has(minute)) minute = wrap(minute + step);
    taken.add(minute);
    return { ...t, minute };
  });
  return [...stay, ...moved];
}

/** The day longer or shorter about its middle. A day never grows beyond 24 hours. */
export function stretched<T extends Movable>(threads: readonly T[], toMinutes: number): T[] {
  const all = unrolled(threads);
  if (all.length < 2) return [...threads];
  const [from, to] = [all[0]!.minute, all[all.length - 1]!.minute];
  const factor = Math.max(all.length, Math.min(DAY_MINUTES - 1, toMinutes)) / (to - from);
  const middle = (from + to) / 2;
  return rolled(all.map((t) => ({ ...t, minute: middle + (t.minute - middle) * factor })));
}

/** From first to last thread, minutes. */
export function dayLength(threads: readonly Movable[]): number {
  const all = unrolled(threads);
  return all.length < 2 ? 0 : all[all.length - 1]!.minute - all[0]!.minute;
}

/** Every strength, or that of some threads, times a factor; none above full. */
export const scaled = <T extends Movable & { id?: string }>(
  threads: readonly T[],
  factor: number,
  only?: ReadonlySet<string>,
): T[] =>
  threads.map((t) =>
    only && !(t.id !== undefined && only.has(t.id))
      ? t
      : { ...t, strengthShare: Math.min(1, Math.round(t.strengthShare * factor * 1e6) / 1e6) },
  );

/** From this share of the strongest thread on a thread belongs to the plateau. Mark: rule of thumb. */
const TOP_SHARE = 0.9;

/** The plateau of a day: places of its first and last thread in the unrolled day, and how long it is. */
export function plateauOf(
  threads: readonly Movable[],
): { first: number; last: number; minutes: number } | null {
  const all = unrolled(threads);
  const top = Math.max(0, ...all.map((t) => t.strengthShare));
  if (!(top > 0)) return null;
  const high = all.flatMap((t, i) => (t.strengthShare >= TOP_SHARE * top ? [i] : []));
  const [first, last] = [high[0]!, high[high.length - 1]!];
  return { first, last, minutes: all[last]!.minute - all[first]!.minute };
}

/** The plateau longer or shorter about its middle; slopes keep their length. A single thread at the top is doubled by `copy`. */
export function withPlateau<T extends Movable>(
  threads: readonly T[],
  minutes: number,
  copy: (thread: T) => T,
): T[] {
  let all = unrolled(threads);
  let top = plateauOf(all);
  if (!top) return [...threads];
  if (top.first === top.last) {
    if (minutes < 1) return [...threads];
    const twin = copy(all[top.first]!);
    all = [
      ...all.slice(0, top.first + 1),
      { ...twin, minute: all[top.first]!.minute },
      ...all.slice(top.first + 1),
    ];
    top = { first: top.first, last: top.first + 1, minutes: 0 };
  }
  const length = Math.max(top.last - top.first, minutes);
  const [from, to] = [all[top.first]!.minute, all[top.last]!.minute];
  const rest = all[all.length - 1]!.minute - all[0]!.minute - top.minutes;
  const grow = Math.min(length, DAY_MINUTES - 1 - rest) - top.minutes;
  const middle = (from + to) / 2;
  const factor = top.minutes > 0 ? (top.minutes + grow) / top.minutes : 1;
  return rolled(
    all.map((t, i) => {
      if (i < top.first || (i === top.first && top.minutes === 0))
        return { ...t, minute: t.minute - grow / 2 };
      if (i > top.last || (i === top.last && top.minutes === 0)) return { ...t, minute: t.minute + grow / 2 };
      return { ...t, minute: middle + (t.minute - middle) * factor };
    }),
  );
}

/** The day run backwards between its first and last thread. Where values are held, each is held over the same stretch as before. */
export function mirrored<T extends Movable>(
  threads: readonly T[],
  interpolation: 'ramp' | 'hold' = 'ramp',
): T[] {
  const all = unrolled(threads);
  if (all.length < 2) return [...threads];
  const sum = all[0]!.minute + all[all.length - 1]!.minute;
  if (interpolation === 'ramp') return rolled(all.map((t) => ({ ...t, minute: sum - t.minute })).reverse());
  // what was held from a thread to the next is held over the mirrored stretch; the last value stays the last
  const last = all[all.length - 1]!;
  const held = all.slice(0, -1).map((t, i) => ({ ...t, minute: sum - all[i + 1]!.minute }));
  return rolled([...held.reverse(), { ...last, minute: sum - all[0]!.minute }]);
}
