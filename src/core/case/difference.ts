import { finePercent } from '../shape/percent';
import { formatHours, formatTime } from '../day/clock';
import type { ResolvedThread } from '../day/thread';
import { DAY_MINUTES, wrapMinute } from '../shape/ring';
import type { Extras } from '../day/extras';
import { hasCap } from '../spectrum/controls';
import type { Levels, LampKind } from '../spectrum/lampKind';
import { runnableOf } from './runnable';
import type { CaseDoc } from '../record/caseDoc';
import type { Group, HungLamp } from '../record/zone';
import type { Runnable, RunningEntry } from '../record/history';

const same = (a: number, b: number) => Math.abs(a - b) < 1e-9;

/** A lamp as it is spoken of; one that is called a lamp already is not called so twice. */
const lampName = ({ name }: HungLamp) => (/\blamp\b/i.test(name) ? name : `lamp ${name}`);

function mixDiffers(kind: LampKind, a: Levels, b: Levels): boolean {
  return kind.controls.some((c) => !same(a[c.id] ?? 0, b[c.id] ?? 0));
}

/** What a group's draft changes against what it runs, a sentence each; empty when they agree. */
export function differences(doc: CaseDoc, group: Group, running: RunningEntry | undefined): string[] {
  if (!running) return group.threads.length === 0 ? [] : ['nothing is known to be running yet'];
  return changesBetween(running, runnableOf(doc, group));
}

/** What changes from one thing that runs to another. */
export function changesBetween(running: Runnable, next: Runnable): string[] {
  const kind = next.lampKind;
  const draft = [...next.threads].sort((a, b) => a.minute - b.minute);
  const changes: string[] = [];
  if (!same(next.capShare, running.capShare)) {
    changes.push(
      `${hasCap(kind) ? 'cap' : 'strength of the day'} ${finePercent(running.capShare)} → ${finePercent(next.capShare)}`,
    );
  }
  const left = [...running.threads].sort((a, b) => a.minute - b.minute);
  const shift = shiftOf(kind, left, draft);
  if (shift !== 0) {
    changes.push(`the whole day ${formatHours(Math.abs(shift) / 60)} ${shift > 0 ? 'later' : 'earlier'}`);
    return [...changes, ...besideThreads(kind, running, next)];
  }
  // threads are matched by time first, then in order, so that a moved thread reads as moved
  const unmatched = draft.filter((t) => {
    const i = left.findIndex((r) => r.minute === t.minute);
    if (i < 0) return true;
    const [r] = left.splice(i, 1);
    const parts = threadChanges(kind, r!, t);
    if (parts.length > 0) changes.push(`${formatTime(t.minute)}: ${parts.join(', ')}`);
    return false;
  });
  for (const t of unmatched) {
    const r = left.shift();
    if (!r) {
      changes.push(`new thread at ${formatTime(t.minute)}`);
      continue;
    }
    changes.push(
      [`${formatTime(r.minute)} → ${formatTime(t.minute)}`, ...threadChanges(kind, r, t)].join(', '),
    );
  }
  for (const r of left) changes.push(`thread at ${formatTime(r.minute)} removed`);
  return [...changes, ...besideThreads(kind, running, next)];
}

/** By how many minutes every thread slides alike around the ring, −719 to 720; 0 = they do not, or nothing moves. */
function shiftOf(kind: LampKind, from: readonly ResolvedThread[], to: readonly ResolvedThread[]): number {
  if (from.length < 2 || from.length !== to.length) return 0;
  const moved = (by: number) =>
    from.every((f) =>
      to.some(
        (t) =>
          t.minute === wrapMinute(f.minute + by) &&
          same(t.strengthShare, f.strengthShare) &&
          !mixDiffers(kind, f.mix, t.mix),
      ),
    );
  const found = to
    .map((t) => wrapMinute(t.minute - from[0]!.minute))
    .sort((a, b) => Math.min(a, DAY_MINUTES - a) - Math.min(b, DAY_MINUTES - b))
    .find(moved);
  return found === undefined ? 0 : found > DAY_MINUTES / 2 ? found - DAY_MINUTES : found;
}

/** What changes apart from cap and threads. */
function besideThreads(kind: LampKind, running: Runnable, next: Runnable): string[] {
  const changes: string[] = [];
  changes.push(...extraChanges(next.extras ?? {}, running.extras ?? {}));
  next.lamps.forEach((l) => {
    const r = running.lamps.find((x) => x.id === l.id);
    if (!r) changes.push(`${lampName(l)} added`);
    else if (JSON.stringify(place(r)) !== JSON.stringify(place(l))) {
      changes.push(`${lampName(l)} hangs elsewhere`);
    }
  });
  for (const r of running.lamps)
    if (!next.lamps.some((l) => l.id === r.id)) changes.push(`${lampName(r)} taken down`);
  if (kind !== running.lampKind && lampShape(kind) !== lampShape(running.lampKind)) {
    changes.push('the lamp is described differently');
  }
  return changes;
}

const EXTRAS: readonly (readonly [keyof Extras, string])[] = [
  ['moon', 'moonlight'],
  ['weather', 'weather'],
  ['interludes', 'interludes'],
  ['drift', 'drift through the year'],
];

const extraChanges = (draft: Extras, running: Extras): string[] =>
  EXTRAS.flatMap(([key, word]) => {
    if (JSON.stringify(draft[key] ?? null) === JSON.stringify(running[key] ?? null)) return [];
    return [`${word} ${!running[key] ? 'added' : !draft[key] ? 'removed' : 'changed'}`];
  });

function threadChanges(
  kind: LampKind,
  from: { strengthShare: number; mix: Levels; mixName: string },
  to: { strengthShare: number; mix: Levels; mixName: string },
): string[] {
  const parts: string[] = [];
  if (!same(from.strengthShare, to.strengthShare)) {
    parts.push(`strength ${finePercent(from.strengthShare)} → ${finePercent(to.strengthShare)}`);
  }
  if (mixDiffers(kind, from.mix, to.mix)) {
    parts.push(from.mixName === to.mixName ? `${to.mixName} changed` : `${from.mixName} → ${to.mixName}`);
  }
  return parts;
}

const place = (l: HungLamp) => [
  l.xCm,
  l.yCm,
  l.heightCm,
  l.turnDeg,
  l.tiltDeg ?? 0,
  l.tiltDeg ? (l.tiltTowardDeg ?? 0) : 0,
  l.screenShare ?? 1,
  l.leanUnsure ? 1 : 0,
  l.hoursRun ?? 0,
  l.warmerC ?? 0,
];

const shapes = new WeakMap<LampKind, string>();
/** All of a lamp that its light depends on, as text; made once, for this is asked while a finger moves. */
function lampShape(k: LampKind): string {
  let text = shapes.get(k);
  if (text === undefined) shapes.set(k, (text = JSON.stringify(shapeOf(k))));
  return text;
}
const shapeOf = (k: LampKind) => [
  k.channels,
  k.controls,
  k.beamAngleDeg,
  k.faceLengthCm,
  k.faceWidthCm,
  k.layout,
  k.optic ?? null,
  k.diffuserShare ?? 0,
  k.powerBudgetWatts,
  k.controller,
];
