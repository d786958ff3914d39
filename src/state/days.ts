import type { ResolvedThread } from '@/core/day/thread';
import { typedControls } from '@/core/spectrum/controls';
import type { LampKind } from '@/core/spectrum/lampKind';
import { lampKindOf, resolveThread, type LitGroup } from '@/core/case/lit';
import { circuitsOf, type OnWindow, switchedLamp, threadsOfWindows } from '@/core/case/dawn';
import type { CaseDoc } from '@/core/record/caseDoc';
import type { Group, Thread } from '@/core/record/zone';

import type { Command } from './commands/edit';
import { setDays } from './commands/days';
import { newId } from './id';

const same = (kind: LampKind, a: ResolvedThread, b: ResolvedThread): boolean => {
  const [x, y] = [typedControls(kind, a.mix, a.strengthShare), typedControls(kind, b.mix, b.strengthShare)];
  return kind.controls.every((c) => Math.abs(x[c.id]! - y[c.id]!) < 1e-9);
};

/**
 * Threads of a case from computed ones: where a thread of the present day says the same at the same minute it stays as it is, a mix
 * that is a plate's refers to that plate, everything else has its own mix.
 */
export function threadsFrom(doc: CaseDoc, group: Group, made: readonly ResolvedThread[]): Thread[] {
  const kind = lampKindOf(doc, group);
  const plates = doc.plates.filter((p) => p.lampKindId === kind.id);
  const sameMix = (a: ResolvedThread['mix'], b: ResolvedThread['mix']) =>
    kind.controls.every((c) => Math.abs((a[c.id] ?? 0) - (b[c.id] ?? 0)) < 1e-9);
  return made.map((t): Thread => {
    const strengthShare = Math.min(1, Math.max(0, Math.round(t.strengthShare * 1e6) / 1e6));
    const kept = group.threads.find(
      (old) => old.minute === t.minute && same(kind, resolveThread(doc, old), { ...t, strengthShare }),
    );
    if (kept) return kept;
    const plate = plates.find((p) => sameMix(p.mix, t.mix));
    const mix = Object.fromEntries(
      Object.entries(t.mix).map(([id, v]) => [id, Math.min(1, Math.max(0, Math.round(v * 1e6) / 1e6))]),
    );
    return {
      id: newId(),
      minute: t.minute,
      strengthShare,
      mix: plate ? { plateId: plate.id } : { own: mix },
    };
  });
}

/** A computed day in place of a group's threads. */
export const takeDay = (
  doc: CaseDoc,
  group: Group,
  name: string,
  threads: readonly ResolvedThread[],
  capShare?: number,
): Command => setDays(name, [{ groupId: group.id, threads: threadsFrom(doc, group, threads), capShare }]);

/** When circuits are on, over any number of groups; keys are "group/control". */
export function setWindows(
  name: string,
  doc: CaseDoc,
  groups: readonly Group[],
  lit: readonly LitGroup[],
  windows: ReadonlyMap<string, readonly OnWindow[]>,
  merge?: string,
): Command {
  const days = lit.flatMap((g) => {
    const group = groups.find((x) => x.id === g.groupId);
    const whole = windows.get(`${g.groupId}/null`)?.[0];
    const strongest = [...g.threads].sort((a, b) => b.strengthShare - a.strengthShare)[0];
    if (group && whole && strongest) {
      const threads = switchedLamp(g.lampKind, strongest.mix, strongest.strengthShare, whole);
      return [{ groupId: g.groupId, threads: threadsFrom(doc, group, threads) }];
    }
    const own = new Map(
      circuitsOf([g]).flatMap((c) => {
        const found = windows.get(`${c.groupId}/${c.controlId}`);
        return found ? [[c.controlId!, found] as const] : [];
      }),
    );
    return own.size > 0 && group
      ? [{ groupId: g.groupId, threads: threadsFrom(doc, group, threadsOfWindows(g, own)) }]
      : [];
  });
  return { ...setDays(name, days), merge };
}
