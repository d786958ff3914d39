import { lengthWords } from '../shape/units';
import { type Alga } from '../feeding/algae';
import { computeResponse } from '../optics/response';
import { type Hanging, lampRows } from '../optics/rig';
import type { Tank } from '../optics/tank';
import type { Water } from '../optics/water';
import { channelLevels, dims } from '../spectrum/controls';
import type { Levels, LampKind } from '../spectrum/lampKind';
import { bandPhotons } from '../spectrum/bands';
import { fullWallWatts, wallWatts } from '../spectrum/watts';
import { keptSpectrum } from '../spectrum/lamp';
import { addScaled, zeroSpectrum } from '../spectrum/grid';
import { countingHours, worthOf } from './growth';
import { aimUmol, type MatPlace, matPlaces, type Role, ROLES } from './roles';

export interface LampAsk {
  tank: Tank;
  water: Water;
  mat: MatPlace;
  alga: Alga;
  role: Role;
  /** the lowest a lamp may hang for splashes, and the highest there is room for, cm over the water */
  clearanceCm: number;
  roomCm: number;
  hours: number;
  /** lamps with the mix they would run */
  lamps: readonly { kind: LampKind; mix: Levels }[];
}

export type LampStanding = 'fits' | 'weak' | 'tooStrong' | 'patchy';

/** A way to light a mat, at the height that suits best. */
export interface LampWay {
  kind: LampKind;
  mix: Levels;
  lamps: Hanging[];
  /** beside the box and leaning over it, for want of room above */
  tilted: boolean;
  heightCm: number;
  /** share of its full drive it would run at, 1 where it cannot be dimmed */
  level: number;
  mean: number;
  min: number;
  max: number;
  uniformity: number;
  /** share of the photons that leave the lamps which do not reach the mat, 0..1 */
  lostShare: number;
  /** wall watts at that level */
  watts: number;
  /** mean light in plain daylight's worth */
  worthUmol: number;
  /** hours of saturating light that count */
  hours: number;
  standing: LampStanding;
  words: string;
}

/** Least over mean from which a mat counts as evenly lit. Mark: rule of thumb. */
const EVEN = 0.4;
/** More evenness than this is worth no watts. Mark: rule of thumb. */
const EVEN_ENOUGH = 0.7;
/** A tilted lamp leans this far. */
const TILT_DEG = 40;
/** How far outside the rim a tilted lamp stands, cm. */
const BESIDE_CM = 6;
const HEIGHTS = 6;
const MOST_LAMPS = 3;

/** Lowest share of full drive at which a lamp lights. */
const lowestLevel = (kind: LampKind): number =>
  dims(kind)
    ? Math.max(
        kind.controller.lowestShare,
        kind.controller.pointStepShare,
        ...kind.channels.map((c) => c.dimming.lowestLitShare),
        0.01,
      )
    : 1;

/** Lamps side by side along the longer side of the mat, over it or leaning from behind it. */
function hung(ask: LampAsk, count: number, heightCm: number, tilted: boolean): Hanging[] {
  const { mat, tank } = ask;
  const along = mat.lengthCm >= mat.widthCm;
  return Array.from({ length: count }, (_, i): Hanging => {
    const share = (i + 0.5) / count - 0.5;
    const x = mat.xCm + (along ? share * mat.lengthCm : 0);
    const y = mat.yCm + (along ? 0 : share * mat.widthCm);
    const at = { heightCm, turnDeg: along ? 0 : 90 };
    if (!tilted) return { ...at, xCm: x, yCm: y };
    // along the back when they stand in a row from left to right, else beyond the right end
    return along
      ? { ...at, xCm: x, yCm: tank.widthCm + BESIDE_CM, tiltDeg: TILT_DEG, tiltTowardDeg: 270 }
      : { ...at, xCm: tank.lengthCm + BESIDE_CM, yCm: y, tiltDeg: TILT_DEG, tiltTowardDeg: 180 };
  });
}

interface Read {
  heightCm: number;
  lamps: Hanging[];
  mean: number;
  min: number;
  max: number;
}

/**
 * Ways to light a mat with each lamp, one to three of it: the height from clearance to what there is room for at which it comes
 * nearest to what the role wants, evenly. Best first. Yields how far it is.
 */
export function* lampForSteps(ask: LampAsk): Generator<number, LampWay[]> {
  const { tank, water, mat, alga: a, role } = ask;
  const spots = matPlaces(mat, tank);
  const aim = aimUmol(a, role);
  const area = (mat.lengthCm * mat.widthCm) / 1e4;
  const noRoom = ask.roomCm < ask.clearanceCm;
  const out: LampWay[] = [];
  const tries = ask.lamps.flatMap((lamp) =>
    Array.from({ length: MOST_LAMPS }, (_, i) => ({ ...lamp, count: i + 1 })).filter(
      ({ kind, count }) =>
        count === 1 ||
        count * Math.max(kind.faceLengthCm, kind.faceWidthCm) <= Math.max(mat.lengthCm, mat.widthCm) * 1.3,
    ),
  );
  for (const [t, { kind, mix, count }] of tries.entries()) {
    const levels = channelLevels(kind, mix);
    const leaving = zeroSpectrum();
    levels.forEach((l, c) => addScaled(leaving, keptSpectrum(kind.channels[c]!), l * count));
    const emitted = Object.values(bandPhotons(leaving)).reduce((x, y) => x + y, 0);
    const [low, high] = noRoom
      ? [Math.max(2, ask.roomCm), Math.max(2, ask.roomCm)]
      : [ask.clearanceCm, ask.roomCm];
    const least = lowestLevel(kind);
    const read = (heightCm: number): Read => {
      const lamps = hung(ask, count, heightCm, noRoom);
      const rows = lamps.flatMap((l) => lampRows(kind, l));
      const m = computeResponse({ tank, water, rows, spots });
      const values = spots.map((_, s) =>
        rows.reduce((sum, __, r) => sum + levels[r % levels.length]! * m.par[s * m.rows + r]!, 0),
      );
      const mean = values.reduce((x, y) => x + y, 0) / values.length;
      return { heightCm, lamps, mean, min: Math.min(...values), max: Math.max(...values) };
    };
    const steps = high - low < 1 ? 1 : HEIGHTS;
    let best: { r: Read; level: number; cost: number } | null = null;
    for (let i = 0; i < steps; i += 1) {
      const r = read(Math.round(low + (steps === 1 ? 0 : (i / (steps - 1)) * (high - low))));
      const level = dims(kind) ? Math.min(1, Math.max(least, aim / r.mean)) : 1;
      // away from the aim, unevenness, a burnt middle: each as a factor
      const cost =
        Math.abs(Math.log((r.mean * level) / aim)) * 2 +
        Math.max(0, EVEN - r.min / r.mean) * 3 +
        Math.max(0, Math.log((r.max * level) / a.toUmol)) * 3 +
        // lower loses less light
        0.15 * (i / Math.max(1, steps - 1));
      if (best === null || cost < best.cost) best = { r, level, cost };
      yield (t + (i + 1) / steps) / tries.length;
    }
    const { r, level } = best!;
    const [mean, min, max] = [r.mean * level, r.min * level, r.max * level];
    const uniformity = r.min / r.mean;
    const worth = worthOf(leaving, a);
    const atLeast = r.mean * least;
    const standing: LampStanding =
      atLeast > a.toUmol || (!dims(kind) && max > a.toUmol * 1.5)
        ? 'tooStrong'
        : mean < a.fromUmol * 0.8
          ? 'weak'
          : uniformity < EVEN
            ? 'patchy'
            : 'fits';
    const hours = Math.tanh((mean * worth) / a.ekUmol) * ask.hours;
    out.push({
      kind,
      mix,
      lamps: r.lamps,
      tilted: noRoom,
      heightCm: r.heightCm,
      level,
      mean,
      min,
      max,
      uniformity,
      lostShare: emitted > 0 ? Math.max(0, 1 - (r.mean * area) / emitted) : 1,
      watts:
        count *
        Math.min(
          fullWallWatts(kind),
          wallWatts(kind, Object.fromEntries(kind.channels.map((c, i) => [c.id, levels[i]! * level]))),
        ),
      worthUmol: mean * worth,
      hours: countingHours(hours, ask.hours, a),
      standing,
      words: WORDS[standing]({
        mean,
        max,
        min,
        least,
        atLeast,
        a,
        aim,
        dimmed: dims(kind),
        heightCm: r.heightCm,
        role,
      }),
    });
  }
  const order: Record<LampStanding, number> = { fits: 0, patchy: 1, weak: 2, tooStrong: 3 };
  // growth for its watts, evenly
  const score = (w: LampWay) =>
    (w.hours * Math.min(1, w.uniformity / EVEN_ENOUGH)) / Math.sqrt(Math.max(w.watts, 1));
  return out.sort((x, y) => order[x.standing] - order[y.standing] || score(y) - score(x));
}

interface Said {
  mean: number;
  max: number;
  min: number;
  /** lowest share it runs at, and what that still gives on the mean */
  least: number;
  atLeast: number;
  a: Alga;
  aim: number;
  dimmed: boolean;
  heightCm: number;
  role: Role;
}
const WORDS: Record<LampStanding, (s: Said) => string> = {
  fits: ({ mean, aim, role }) =>
    mean > aim * 1.4
      ? `More than a ${ROLES[role]} needs, within what the algae take.`
      : mean < aim * 0.7
        ? `Enough to grow, less than a ${ROLES[role]} wants.`
        : `What a ${ROLES[role]} wants, without a burnt patch.`,
  weak: ({ mean, a }) => `Too weak: ${Math.round(mean)} µmol, wanted from ${a.fromUmol}.`,
  tooStrong: ({ dimmed, least, atLeast, max, a, heightCm }) =>
    dimmed
      ? `Too strong even at its lowest step: ${Math.round(least * 100)} % still gives ${Math.round(atLeast)} µmol at ${lengthWords(heightCm, true)}, and ${a.toUmol} is the most.`
      : `Too strong, and it cannot be dimmed: up to ${Math.round(max)} µmol at ${lengthWords(heightCm, true)}, and ${a.toUmol} is the most.`,
  patchy: ({ min, max }) =>
    `Uneven: ${Math.round(min)} to ${Math.round(max)} µmol over the mat. Higher or several smaller ones spread better.`,
};
