import { finePercent } from '../shape/percent';
import { formatTime } from '../day/clock';
import { DAY_MINUTES } from '../shape/ring';
import type { ResolvedThread } from '../day/thread';
import { dims, followsStrength, hasCap, typedControls, typedPart } from '../spectrum/controls';
import type { LampKind } from '../spectrum/lampKind';

/** What is put into a lamp: values of its controls at times of its day, in whole steps, before its cap. */
export interface Program {
  capShare: number;
  points: { minute: number; values: number[] }[];
}

const round = (v: number) => Math.round(v * 1e6) / 1e6;

/** A day as it is put into its lamp; what only switches has no cap and no values between on and off. */
export function programOf(kind: LampKind, threads: readonly ResolvedThread[], capShare: number): Program {
  const switches = onlySwitches(kind);
  const part = typedPart(kind, capShare);
  return {
    capShare: switches || !hasCap(kind) ? 1 : round(capShare),
    points: threads
      .map((t) => {
        const typed = typedControls(kind, t.mix, t.strengthShare * part);
        const value = (id: string) => round(typed[id] ?? 0);
        return {
          minute: t.minute,
          values: kind.controls.map((c) => (switches ? Number(value(c.id) > 0) : value(c.id))),
        };
      })
      .sort((a, b) => a.minute - b.minute),
  };
}

/** True for lamps of circuits and lamps on a timer. */
export const onlySwitches = (kind: LampKind): boolean => kind.controller.sets === 'switch' || !dims(kind);

/** Shares that differ by less are the same: thousandths are sent. */
const SAME = 0.0006;

/** What differs from one program to another, a sentence each; empty when they agree. */
export function programChanges(from: Program | null, to: Program, names: readonly string[]): string[] {
  if (!from || from.points.length === 0)
    return [`holds no day yet; ${to.points.length} points, cap ${finePercent(to.capShare)}`];
  const out: string[] = [];
  if (Math.abs(from.capShare - to.capShare) > SAME)
    out.push(`cap ${finePercent(from.capShare)} → ${finePercent(to.capShare)}`);
  for (const p of to.points) {
    const old = from.points.find((o) => o.minute === p.minute);
    if (!old) {
      out.push(`${formatTime(p.minute)}: new point`);
      continue;
    }
    const changed = p.values.flatMap((v, i) =>
      Math.abs(v - (old.values[i] ?? 0)) > SAME
        ? [`${names[i] ?? 'a control'} ${finePercent(old.values[i] ?? 0)} → ${finePercent(v)}`]
        : [],
    );
    if (changed.length > 0) out.push(`${formatTime(p.minute)}: ${changed.join(', ')}`);
  }
  for (const old of from.points)
    if (!to.points.some((p) => p.minute === old.minute)) out.push(`${formatTime(old.minute)}: point goes`);
  return out;
}

/** What drives each control at a minute of the lamp's clock, after its cap. */
export function driveAt(kind: LampKind, program: Program, minute: number): number[] {
  const { points, capShare } = program;
  if (points.length === 0) return kind.controls.map(() => 0);
  const { interpolation, capMeans } = kind.controller;
  const next = points.findIndex((p) => p.minute > minute);
  const b = points[next < 0 ? 0 : next]!;
  const a = points[(next < 0 ? points.length : next) - 1] ?? points[points.length - 1]!;
  const wrap = (m: number) => ((m % DAY_MINUTES) + DAY_MINUTES) % DAY_MINUTES;
  const way =
    interpolation === 'hold' || points.length === 1
      ? 0
      : wrap(minute - a.minute) / (wrap(b.minute - a.minute) || DAY_MINUTES);
  const top = Math.max(0, ...points.flatMap((p) => p.values));
  const factor = onlySwitches(kind) ? 1 : capMeans === 'rescales' && top > 0 ? capShare / top : capShare;
  return kind.controls.map((c, i) => {
    const v = a.values[i]! + (b.values[i]! - a.values[i]!) * way;
    return Math.min(1, followsStrength(c) ? v * factor : v);
  });
}
