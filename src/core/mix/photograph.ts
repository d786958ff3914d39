import { planckUv, temperatureOf } from '../colour/temperature';
import { type Xyz, xyOf, xyzOf } from '../colour/xyz';
import { par } from '../spectrum/bands';
import { channelLevels, followsStrength } from '../spectrum/controls';
import type { Levels, LampKind } from '../spectrum/lampKind';
import { addScaled, type Spectrum, zeroSpectrum } from '../spectrum/grid';
import { keptSpectrum, mixSpectrum } from '../spectrum/lamp';
import { boundedFit } from './boundedFit';

/** A phone can white-balance light between these, this close to the Planckian locus. Mark: rule of thumb. */
export const CAMERA_FROM_K = 3000;
export const CAMERA_TO_K = 10_000;
export const CAMERA_DUV = 0.01;

/** Whether a light lies inside the camera's white-balance range. */
export function inCameraRange(spectrum: Spectrum): boolean {
  const xy = xyOf(xyzOf(spectrum));
  if (!xy) return false;
  const { cctK, duv } = temperatureOf(xy);
  return cctK !== null && cctK >= CAMERA_FROM_K && cctK <= CAMERA_TO_K && Math.abs(duv) <= CAMERA_DUV;
}

export interface PhotographMix {
  mix: Levels;
  cctK: number;
  duv: number;
  /** PAR of the photograph mix over PAR of the mix it replaces */
  parRatio: number;
}

/** Targets inside the range, with a margin for rounding to the lamp's steps. */
const TARGET_K = [9700, 9000, 8000, 7000, 6500, 6000, 5500, 5000, 4500, 4000, 3500, 3100];
const TARGET_DUV = [0, 0.004, -0.004, 0.008, -0.008];
/** Weights of what must hold (chromaticity), what should (PAR) and what is wished (stay close to the mix). */
const MUST = 1e3;
const SHOULD = 30;
/** Differences of PAR below this are no reason to prefer one mix over another. Mark: rule of thumb. */
const SAME_PAR = 0.005;
const TINT_STEPS = 21;
/** A solution this near its target in (x, y) is worth a closer look. */
const NEAR = 0.006;

/**
 * A mix for photographs: inside the camera's white-balance range at the least change of PAR, and among those the closest to
 * the mix it replaces. Null when the lamp cannot get there.
 * @param through transmission to where the picture is taken; @param fixed locked controls with their values
 */
export function photographMix(
  kind: LampKind,
  mix: Levels,
  through: Spectrum,
  fixed: Levels = {},
): PhotographMix | null {
  const before = par(mixSpectrum(kind, mix).map((v, i) => v * through[i]!));
  if (!(before > 0)) return null;
  const free = kind.controls.filter((c) => followsStrength(c) && c.kind !== 'onOff' && !(c.id in fixed));
  const circuits = kind.controls.filter((c) => c.kind === 'onOff' && !(c.id in fixed));
  const tint = kind.controls.find((c) => c.kind === 'tint');
  const spectra = kind.channels.map((c) => keptSpectrum(c).map((v, i) => v * through[i]!));
  const light = (m: Levels): Spectrum => {
    const sum = zeroSpectrum();
    channelLevels(kind, m).forEach((v, i) => addScaled(sum, spectra[i]!, v));
    return sum;
  };
  const candidates: { mix: Levels; parRatio: number }[] = [];
  /** Keeps a mix whose chromaticity came out near its target; whether it lies in the range is looked at later, in order. */
  const consider = (m: Levels, target?: [number, number]) => {
    const mix: Levels = Object.fromEntries(
      Object.entries(m).map(([id, v]) => [id, Math.round(v * 100) / 100]),
    );
    const sent = light(mix);
    const xy = xyOf(xyzOf(sent));
    if (!xy || (target && Math.hypot(xy[0] - target[0], xy[1] - target[1]) > NEAR)) return;
    candidates.push({ mix, parRatio: par(sent) / before });
  };
  const sets = circuits.reduce<Levels[]>(
    (all, c) =>
      all.flatMap((s) => [
        { ...s, [c.id]: 1 },
        { ...s, [c.id]: 0 },
      ]),
    [{ ...mix, ...fixed }],
  );
  const tints =
    tint && !(tint.id in fixed) ? Array.from({ length: TINT_STEPS }, (_, i) => i / (TINT_STEPS - 1)) : [null];
  for (const base of sets) {
    for (const t of tints) {
      const set: Levels = t === null ? base : { ...base, [tint!.id]: t };
      if (free.length === 0) {
        consider(set);
        continue;
      }
      const none = { ...set, ...Object.fromEntries(free.map((c) => [c.id, 0])) };
      const still = light(none);
      const columns = free.map((c) => {
        const one = light({ ...none, [c.id]: 1 });
        return one.map((v, i) => v - still[i]!);
      });
      for (const t of targets()) consider({ ...none, ...solve(columns, still, ...t) }, t);
    }
  }
  /** Levels that give the chromaticity x, y and PAR, as close to the mix as that allows. */
  function solve(columns: Spectrum[], still: Spectrum, x: number, y: number): Levels {
    const rows = (s: Spectrum): [number, number, number] => {
      const [X, Y, Z] = xyzOf(s) as Xyz;
      const sum = X + Y + Z;
      return [X - x * sum, Y - y * sum, par(s)];
    };
    const scale = Math.max(...columns.map((c) => Math.hypot(...rows(c).slice(0, 2)))) || 1;
    const base = rows(still);
    const matrix = columns.map((c, j) => {
      const r = rows(c);
      return [
        (MUST * r[0]) / scale,
        (MUST * r[1]) / scale,
        (SHOULD * r[2]) / before,
        ...columns.map((_, k) => (k === j ? 1 : 0)),
      ];
    });
    const target = [
      (-MUST * base[0]) / scale,
      (-MUST * base[1]) / scale,
      SHOULD * (1 - base[2] / before),
      ...free.map((c) => mix[c.id] ?? 0),
    ];
    const fit = boundedFit(matrix, target);
    return Object.fromEntries(free.map((c, j) => [c.id, fit.x[j]!]));
  }
  const off = (c: { parRatio: number }) => Math.max(0, Math.abs(c.parRatio - 1) - SAME_PAR);
  const moved = (c: { mix: Levels }) =>
    kind.controls.reduce((sum, x) => sum + ((c.mix[x.id] ?? 0) - (mix[x.id] ?? 0)) ** 2, 0);
  candidates.sort((a, b) => off(a) - off(b) || moved(a) - moved(b));
  for (const c of candidates) {
    // as it is really emitted, power budget and curves included
    const sent = mixSpectrum(kind, c.mix).map((v, i) => v * through[i]!);
    if (!inCameraRange(sent)) continue;
    const { cctK, duv } = temperatureOf(xyOf(xyzOf(sent))!);
    return { mix: c.mix, cctK: cctK!, duv, parRatio: par(sent) / before };
  }
  return null;
}

let targetsMade: [number, number][] | undefined;
/** Chromaticities of the targets: a point of the locus, moved across it by Duv in CIE 1960. */
function targets(): [number, number][] {
  targetsMade ??= TARGET_K.flatMap((k) =>
    TARGET_DUV.map((d): [number, number] => {
      const [u, v] = planckUv(1e6 / k);
      const [u2, v2] = planckUv(1e6 / k + 1);
      const length = Math.hypot(u2 - u, v2 - v);
      // the normal that points above the locus
      const [nu, nv] = [-(v2 - v) / length, (u2 - u) / length];
      const sign = nv >= 0 ? 1 : -1;
      const [a, b] = [u + sign * d * nu, v + sign * d * nv];
      const e = 2 * a - 8 * b + 4;
      return [(3 * a) / e, (2 * b) / e];
    }),
  );
  return targetsMade;
}
