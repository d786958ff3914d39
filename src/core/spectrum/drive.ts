import { channelWallWatts } from './watts';
import type { Dimming, LampKind } from './lampKind';

/**
 * One chain of a lamp, wherever levels become light: level after cap and easing → lowest lit level → power budget → dimming curve →
 * light. Everything that lights, integrates or explains a lamp goes through `throughDrive`.
 */

/** What stands between a channel's level and its light, in the order of the channels. */
export interface Drive {
  dimming: readonly Dimming[];
  /** wall watts of each channel at full, and what the lamp shares between them; null = no limit */
  watts: readonly number[];
  budgetWatts: number | null;
}

const drives = new WeakMap<LampKind, { drive: Drive | undefined }>();

/** What stands between a lamp's levels and its light; undefined when light is proportional to the level. Kept with the kind. */
export function driveOf(kind: LampKind): Drive | undefined {
  let made = drives.get(kind);
  if (!made) {
    const plain =
      kind.powerBudgetWatts === null &&
      kind.channels.every((c) => c.dimming.lowestLitShare === 0 && c.dimming.curve.length === 0);
    made = {
      drive: plain
        ? undefined
        : {
            dimming: kind.channels.map((c) => c.dimming),
            watts: channelWallWatts(kind),
            budgetWatts: kind.powerBudgetWatts,
          },
    };
    drives.set(kind, made);
  }
  return made.drive;
}

/** True when a channel at this level stays dark: below its lowest lit level. */
export const staysDark = ({ lowestLitShare }: Pick<Dimming, 'lowestLitShare'>, level: number): boolean =>
  level < lowestLitShare - 1e-9;

/** The straight piece of a dimming curve that a level lies on; the curve starts at 0,0 and ends at 1,1. */
export function curvePiece(
  curve: Dimming['curve'],
  level: number,
): [x0: number, y0: number, x1: number, y1: number] {
  const next = curve.findIndex(([x]) => x >= level);
  const [x1, y1] = next < 0 ? [1, 1] : curve[next]!;
  const [x0, y0] = next === 0 ? [0, 0] : next < 0 ? curve[curve.length - 1]! : curve[next - 1]!;
  return [x0, y0, x1, y1];
}

/** Light of a lit level on a dimming curve. */
export function onCurve(curve: Dimming['curve'], level: number): number {
  if (level <= 0 || curve.length === 0) return Math.max(0, level);
  const [x0, y0, x1, y1] = curvePiece(curve, level);
  return y0 + ((y1 - y0) * (level - x0)) / (x1 - x0);
}

/** What becomes of levels on their way to light, step by step. */
export interface Driven {
  /** what is left of each level above its lowest lit one */
  lit: number[];
  /** what the shared power budget leaves of them, 0..1 */
  budgetShare: number;
  /** emitted share of full light per channel */
  light: number[];
}

/** The chain from levels after cap and easing to light, with its factors. */
export function throughDrive(drive: Drive | undefined, levels: readonly number[]): Driven {
  if (!drive) return { lit: [...levels], budgetShare: 1, light: [...levels] };
  const lit = levels.map((v, c) => (v <= 0 || staysDark(drive.dimming[c]!, v) ? 0 : v));
  const wanted = lit.reduce((sum, v, c) => sum + drive.watts[c]! * v, 0);
  const budgetShare =
    drive.budgetWatts !== null && wanted > drive.budgetWatts ? drive.budgetWatts / wanted : 1;
  return {
    lit,
    budgetShare,
    light: lit.map((v, c) => onCurve(drive.dimming[c]!.curve, v * budgetShare)),
  };
}

/** Emitted share of full light per channel of a lamp for levels of its channels. */
export const emittedShares = (kind: LampKind, levels: readonly number[]): number[] =>
  throughDrive(driveOf(kind), levels).light;
