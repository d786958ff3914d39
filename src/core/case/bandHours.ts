import { firstWhole } from '../shape/bisect';
import { wrapMinute, DAY_MINUTES } from '../shape/ring';
import { unrolled } from '../day/moves';
import type { ResolvedThread } from '../day/thread';
import { threadFromValues } from '../controller/typed';
import { typedControls } from '../spectrum/controls';
import type { LampKind } from '../spectrum/lampKind';

/** A colour's course through the unrolled day. */
type Course = [minute: number, value: number][];

function valueAt(course: Course, minute: number, holds: boolean): number {
  const next = course.findIndex(([m]) => m > minute);
  if (next === 0) return course[0]![1];
  if (next < 0) return course[course.length - 1]![1];
  const [[m0, v0], [m1, v1]] = [course[next - 1]!, course[next]!];
  return holds ? v0 : v0 + ((v1 - v0) * (minute - m0)) / (m1 - m0);
}

/** A course whose top is held longer: what rises to it comes earlier, what falls from it later, each by half. */
function longer(course: Course, minutes: number, holds: boolean): Course {
  const top = Math.max(...course.map(([, v]) => v));
  const tops = course.flatMap(([, v], i) => (v >= top - 1e-9 ? [i] : []));
  const [first, last] = [tops[0]!, tops[tops.length - 1]!];
  // a held top lasts until the next thread
  const end = holds ? last + 1 : last;
  return [
    ...course.slice(0, first + 1).map(([m, v]): [number, number] => [m - minutes / 2, v]),
    ...course.slice(first + 1, end),
    ...course.slice(end).map(([m, v]): [number, number] => [m + minutes / 2, v]),
  ];
}

/**
 * Runs colours longer at the strength they have: each keeps its course, with its top held for so many minutes more. Nothing else
 * changes, so its dose grows by top × minutes.
 */
export function runLonger(
  kind: LampKind,
  threads: readonly ResolvedThread[],
  controlIds: readonly string[],
  minutes: number,
): ResolvedThread[] {
  const all = unrolled(threads);
  if (all.length < 2 || minutes <= 0) return [...threads];
  const holds = kind.controller.interpolation === 'hold';
  const length = all[all.length - 1]!.minute - all[0]!.minute;
  const more = Math.min(2 * Math.floor(minutes / 2), 2 * Math.floor((DAY_MINUTES - 2 - length) / 2));
  const typed = all.map((t) => typedControls(kind, t.mix, t.strengthShare));
  const courses = new Map(
    kind.controls.map((c) => {
      const course: Course = all.map((t, i) => [t.minute, typed[i]![c.id]!]);
      const lit = course.some(([, v]) => v > 0);
      return [c.id, controlIds.includes(c.id) && lit ? longer(course, more, holds) : course] as const;
    }),
  );
  const times = [...new Set([...courses.values()].flatMap((course) => course.map(([m]) => m)))].sort(
    (a, b) => a - b,
  );
  return times
    .map((m) => {
      const values = Object.fromEntries([...courses].map(([id, course]) => [id, valueAt(course, m, holds)]));
      return threadFromValues(kind, wrapMinute(m), values);
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
  return 5 * firstWhole((n) => doseOf(n * 5) < floor, 0, most / 5);
}
