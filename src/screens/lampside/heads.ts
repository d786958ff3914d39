import { minutesApart } from '@/core/shape/ring';
import { lampKindOf } from '@/core/case/lit';
import { driveAt, programOf } from '@/core/controller/program';
import type { CaseDoc } from '@/core/record/caseDoc';
import type { Group } from '@/core/record/zone';
import type { RunningEntry } from '@/core/record/history';
import type { LampKind } from '@/core/spectrum/lampKind';
import { changeSettings, useSettings } from '@/state/settings';
import type { Head, Live, WireSchedule } from '@/wire/wire';
import { emissionWords } from '@/state/emission';
import { formatTime } from '@/core/day/clock';

/** True when a head has the controls of a lamp, in their order. */
export const fits = (head: Head, kind: LampKind): boolean =>
  head.controls.length === kind.controls.length &&
  head.controls.every((c, i) => c.id === kind.controls[i]!.id);

/** Remembers whose lamp a head is, and what it held before. */
export function remember(headId: string, groupId: string, before?: WireSchedule | null): void {
  const { heads } = useSettings.getState();
  changeSettings({
    heads: {
      ...heads,
      [headId]: { groupId, before: before === undefined ? (heads[headId]?.before ?? null) : before },
    },
  });
}

/** What a head of a group should run: what runs there, else nothing is known. */
export const shouldRun = (entry: RunningEntry | undefined) =>
  entry ? programOf(entry.lampKind, entry.threads, entry.capShare * (entry.rise?.toShare ?? 1)) : null;

const DRIFT_MIN = 3;

/** What is wrong with a head as it is seen now, a sentence each. */
export function alarms(
  doc: CaseDoc,
  group: Group | undefined,
  entry: RunningEntry | undefined,
  head: Head,
  live: Live | null | undefined,
): string[] {
  if (live === null) return ['It does not answer.'];
  if (!live) return [];
  const out: string[] = [];
  const off = minutesApart(live.benchMinute, live.clockMinute);
  if (Math.abs(off) > DRIFT_MIN)
    out.push(
      `Its clock shows ${formatTime(Math.floor(live.clockMinute))}, ${Math.round(Math.abs(off))} min ${off > 0 ? 'ahead' : 'behind'}${Math.abs(off) > 60 ? '. Was it reset by a power cut?' : '.'}`,
    );
  if (live.mode === 'manual') out.push('It was left in manual.');
  if (live.mode === 'look' && live.lookLeftMin !== null && live.lookLeftMin < 0)
    out.push('An interlude should have ended and did not.');
  if (head.storedRevision !== head.activeRevision) out.push('Something was saved but not activated.');
  const program = shouldRun(entry);
  if (head.activeRevision === 0 && live.mode === 'program') out.push('It holds no program yet.');
  else if (group && entry && program && live.mode === 'program' && fits(head, lampKindOf(doc, group))) {
    const words = emissionWords(
      program,
      entry.lampKind.controls.map((c) => c.name),
      driveAt(entry.lampKind, program, live.clockMinute),
      live.drive,
    );
    if (words) out.push(`${words.charAt(0).toUpperCase()}${words.slice(1)}.`);
  }
  return out;
}

/** A bench that answered before and does not now: its heads are not gone, only out of hearing. */
export const benchAway = (error: string): string =>
  `The bench is away: ${error}. Its heads keep what they hold, and it is asked again every second.`;
