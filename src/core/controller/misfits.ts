import { dims, typedControls } from '../spectrum/controls';
import type { ControllerProfile, LampKind } from '../spectrum/lampKind';
import { lampLevels, type ResolvedThread } from '../day/thread';

/** The same lamp behind another controller. */
export const behind = (kind: LampKind, controller: ControllerProfile): LampKind => ({ ...kind, controller });

/** What of a day a controller cannot take as it stands, a sentence each; empty when it can be typed in. */
export function misfits(kind: LampKind, threads: readonly ResolvedThread[]): string[] {
  const p = kind.controller;
  const out: string[] = [];
  const counted =
    p.sets === 'switch' && !dims(kind)
      ? Math.max(0, ...kind.controls.map((c) => switchCount(kind, threads, c.id)))
      : threads.length;
  if (p.maxPoints !== null && counted > p.maxPoints)
    out.push(
      p.sets === 'switch'
        ? `a circuit is switched ${counted} times a day; it takes ${p.maxPoints}`
        : `the day has ${counted} points; it takes ${p.maxPoints}`,
    );
  if (p.everyMin > 1) {
    const off = threads.filter((t) => t.minute % p.everyMin !== 0);
    if (off.length > 0)
      out.push(
        `${off.length} ${off.length === 1 ? 'time lies' : 'times lie'} between its ${p.everyMin === 60 ? 'whole hours' : `steps of ${p.everyMin} min`}`,
      );
  }
  if (p.sets === 'switch' && dims(kind)) {
    const levels = threads
      .filter((t) => t.strengthShare > 0)
      .map((t) => lampLevels(kind, t.mix, t.strengthShare));
    if (levels.some((l) => l.some((v, c) => Math.abs(v - levels[0]![c]!) > 1e-9)))
      out.push('it only switches: every lit thread must be the same');
  }
  if (p.lowestShare > 0) {
    const low = threads.some((t) =>
      Object.values(typedControls(kind, t.mix, t.strengthShare)).some(
        (v) => v > 0 && v < p.lowestShare - 1e-9,
      ),
    );
    if (low)
      out.push(`some values lie between 0 and ${Math.round(p.lowestShare * 100)} %, which it cannot set`);
  }
  return out;
}

/** How often a circuit is switched in a day. */
export function switchCount(kind: LampKind, threads: readonly ResolvedThread[], controlId: string): number {
  const sorted = [...threads].sort((a, b) => a.minute - b.minute);
  const on = sorted.map((t) => typedControls(kind, t.mix, t.strengthShare)[controlId]! > 0);
  return on.filter((v, i) => v !== on[(i + on.length - 1) % on.length]).length;
}
