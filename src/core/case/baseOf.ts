import { dli } from '../day/day';
import { lampDay, type ResolvedThread } from '../day/thread';
import { dims } from '../spectrum/controls';
import type { Levels, LampKind } from '../spectrum/lampKind';

/** The mix a day is shaped from: that of its most light; of circuits all that are used at any time. */
export function baseOf(
  kind: LampKind,
  threads: readonly ResolvedThread[],
  par: readonly number[],
): Levels | null {
  const lit = threads.filter((t) => t.strengthShare > 0);
  if (lit.length === 0) return null;
  if (!dims(kind))
    return Object.fromEntries(
      kind.controls.map((c) => [c.id, Math.max(...lit.map((t) => t.mix[c.id] ?? 0))]),
    );
  const open = { capShare: 1, easingShare: 1 };
  const light = lit.map((t) => dli(lampDay(kind, [t], open), par));
  return lit[light.indexOf(Math.max(...light))]!.mix;
}
