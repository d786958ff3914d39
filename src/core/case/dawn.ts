import { DAY_MINUTES } from '../shape/ring';
import type { ResolvedThread } from '../day/thread';
import { circuitThreads } from '../controller/typed';
import { dims, typedControls } from '../spectrum/controls';
import type { Levels, LampKind } from '../spectrum/lampKind';
import type { LitGroup } from './lit';

/** Something that is on or off: a circuit of a lamp, or a whole lamp. */
export interface Circuit {
  groupId: string;
  /** null = the whole group as one */
  controlId: string | null;
  name: string;
}

/** When a circuit is on, unrolled: `to` may lie after midnight. */
export interface OnWindow {
  from: number;
  to: number;
}

/** Everything in these groups that can only be on or off; with `whole` also lamps that dim, each switched as one. */
export const circuitsOf = (groups: readonly LitGroup[], whole = false): Circuit[] =>
  groups.flatMap((g): Circuit[] =>
    dims(g.lampKind)
      ? whole
        ? [{ groupId: g.groupId, controlId: null, name: `${g.name}, as a whole` }]
        : []
      : g.lampKind.controls.map((c) => ({
          groupId: g.groupId,
          controlId: c.id,
          name: g.lampKind.controls.length > 1 ? `${g.name}, ${c.name}` : g.name,
        })),
  );

/** When a circuit is on in a day. */
export function windowsOf(group: LitGroup, controlId: string | null): OnWindow[] {
  const sorted = [...group.threads].sort((a, b) => a.minute - b.minute);
  const on = sorted.map((t) => {
    const typed = typedControls(group.lampKind, t.mix, t.strengthShare);
    return controlId === null ? t.strengthShare > 0 : (typed[controlId] ?? 0) > 0;
  });
  if (sorted.length === 0 || on.every((v) => !v)) return [];
  if (on.every((v) => v)) return [{ from: 0, to: DAY_MINUTES }];
  const out: OnWindow[] = [];
  sorted.forEach((t, i) => {
    if (!on[i] || on[(i + on.length - 1) % on.length]) return;
    let k = i;
    do k = (k + 1) % on.length;
    while (on[k]);
    const to = sorted[k]!.minute;
    out.push({ from: t.minute, to: to > t.minute ? to : to + DAY_MINUTES });
  });
  return out;
}

/** Hours a circuit is on. */
export const onHours = (windows: readonly OnWindow[]): number =>
  windows.reduce((sum, w) => sum + w.to - w.from, 0) / 60;

/**
 * A stepped dawn and dusk: circuits come on one after the other and go off in the opposite order, the first one lit longest.
 * @param first first light; @param last last light, unrolled; @param stagger minutes between two circuits
 */
export function steppedDawn(count: number, first: number, last: number, stagger: number): OnWindow[] {
  const most = count > 1 ? (last - first - count) / 2 / (count - 1) : 0;
  const step = Math.max(0, Math.min(stagger, Math.floor(most)));
  return Array.from({ length: count }, (_, i) => ({ from: first + i * step, to: last - i * step }));
}

const wrap = (m: number) => ((Math.round(m) % DAY_MINUTES) + DAY_MINUTES) % DAY_MINUTES;

/** Threads of a lamp of circuits from when each is on; circuits that are not named stay as they are. */
export function threadsOfWindows(
  group: Pick<LitGroup, 'lampKind' | 'threads'>,
  windows: ReadonlyMap<string, readonly OnWindow[]>,
): ResolvedThread[] {
  const { lampKind } = group;
  return circuitThreads(
    lampKind,
    lampKind.controls.map((c) => ({
      id: c.id,
      knots: (windows.get(c.id) ?? windowsOf(group as LitGroup, c.id))
        .flatMap((w) =>
          w.to - w.from >= DAY_MINUTES
            ? [{ minute: 0, levels: [1] }]
            : [
                { minute: wrap(w.from), levels: [1] },
                { minute: wrap(w.to), levels: [0] },
              ],
        )
        .sort((a, b) => a.minute - b.minute),
    })),
  );
}

/** A whole lamp on a clock: on at one mix, off else. Lamps that ramp do it within a minute. */
export function switchedLamp(
  kind: LampKind,
  mix: Levels,
  strengthShare: number,
  w: OnWindow,
): ResolvedThread[] {
  const at = (minute: number, share: number): ResolvedThread => ({
    minute: wrap(minute),
    strengthShare: share,
    mix,
  });
  const made =
    kind.controller.interpolation === 'hold'
      ? [at(w.from, strengthShare), at(w.to, 0)]
      : [at(w.from, 0), at(w.from + 1, strengthShare), at(w.to - 1, strengthShare), at(w.to, 0)];
  return made.sort((a, b) => a.minute - b.minute);
}
