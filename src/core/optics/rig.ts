import * as v from 'valibot';

import { between } from '../shape/shape';
import { emissionSpectrum } from '../spectrum/emission';
import { beamExponent, groupEmission, groupFluxUmolPerS } from '../spectrum/lamp';
import type { LampKind } from '../spectrum/lampKind';
import { moved, wear } from '../spectrum/lampState';
import { addScaled, withoutTails, zeroSpectrum } from '../spectrum/grid';
import type { RigRow } from './light';
import { beamOptic, fileOptic, type Frame, lampFrame, type Optic, withExponent } from './optic';
import type { RigEmitter } from './transport';

/** What says where a lamp hangs. */
export const hangingEntries = {
  xCm: between(-200, 1200, ' cm'),
  yCm: between(-200, 1200, ' cm'),
  /** height of the middle of its face over the water */
  heightCm: between(1, 300, ' cm'),
  turnDeg: between(-360, 360, '°'),
  /** how far it leans; 0 or absent = level */
  tiltDeg: v.optional(between(0, 60, '°')),
  /** where its light goes when it leans, on the plan: 0 = right, 90 = back, 180 = left, 270 = front */
  tiltTowardDeg: v.optional(between(-360, 360, '°')),
  /** nobody has held a level to it; absent = it leans as is said */
  leanUnsure: v.optional(v.boolean()),
  /** share that a screen or sheet hung under it lets through; absent = none hangs there */
  screenShare: v.optional(between(0.05, 1)),
  /** hours lit so far; absent = as new */
  hoursRun: v.optional(between(0, 200_000, ' h')),
  /** how much warmer its emitters run than its data say; absent = as they say */
  warmerC: v.optional(between(0, 60, ' °C')),
};
/** A lamp kind at a place: the centre of its face over the tank, turned around the vertical, leaning or level. */
export type Hanging = v.InferOutput<v.ObjectSchema<typeof hangingEntries, undefined>>;

/**
 * Places of n emitters on a face: a grid of nearly square cells, row by row.
 * @returns offsets from the centre, cm
 */
export function faceGrid(count: number, lengthCm: number, widthCm: number): { dx: number; dy: number }[] {
  const aspect = lengthCm > 0 && widthCm > 0 ? lengthCm / widthCm : 1;
  const columns = Math.max(1, Math.min(count, Math.round(Math.sqrt(count * aspect))));
  const rows = Math.ceil(count / columns);
  return Array.from({ length: count }, (_, i) => {
    const row = Math.floor(i / columns);
    const inRow = row === rows - 1 ? count - columns * (rows - 1) : columns;
    return {
      dx: (((i % columns) + 0.5) / inRow - 0.5) * lengthCm,
      dy: ((row + 0.5) / rows - 0.5) * widthCm,
    };
  });
}

/** Side of the square in which a cluster's emitters sit, as a share of the face's shorter side. Mark: rule of thumb. */
const CLUSTER_SHARE = 0.35;
/** A line source is summed from this many points along its length: finer than any height it hangs at. */
const LINE_POINTS = 16;

/** Places of a lamp's emitters on its face. */
function places(kind: LampKind, count: number): { dx: number; dy: number }[] {
  if (kind.layout === 'cluster') {
    const side = CLUSTER_SHARE * Math.min(kind.faceLengthCm, kind.faceWidthCm);
    return faceGrid(count, side, side);
  }
  return faceGrid(count, kind.faceLengthCm, kind.faceWidthCm);
}

/** Emitters of lines along the face: every line sends its light from points along it. */
function lineEmitters(
  kind: LampKind,
): { channel: number; group: number; dx: number; dy: number; share: number }[] {
  const lines = kind.channels.flatMap((c, channel) =>
    c.groups.flatMap((g, group) =>
      // few tubes are lines of their own; the many emitters of a bar share one line
      Array.from({ length: kind.source === 'led' ? 1 : g.count }, () => ({
        channel,
        group,
        of: kind.source === 'led' ? 1 : g.count,
      })),
    ),
  );
  return lines.flatMap((l, i) =>
    Array.from({ length: LINE_POINTS }, (_, k) => ({
      channel: l.channel,
      group: l.group,
      dx: ((k + 0.5) / LINE_POINTS - 0.5) * kind.faceLengthCm,
      dy: ((i + 0.5) / lines.length - 0.5) * kind.faceWidthCm,
      share: 1 / (l.of * LINE_POINTS),
    })),
  );
}

/** Emitters of a face of separate points, every group spread over all of it. */
function pointEmitters(
  kind: LampKind,
): { channel: number; group: number; dx: number; dy: number; share: number }[] {
  // every emitter with the place it would like in the order of the face
  const wanted: { channel: number; group: number; key: number }[] = [];
  kind.channels.forEach((c, channel) =>
    c.groups.forEach((g, group) => {
      for (let k = 0; k < g.count; k += 1) wanted.push({ channel, group, key: (k + 0.5) / g.count });
    }),
  );
  wanted.sort((a, b) => a.key - b.key || a.channel - b.channel || a.group - b.group);
  const on = places(kind, wanted.length);
  return wanted.map(({ channel, group }, i) => ({
    channel,
    group,
    ...on[i]!,
    share: 1 / kind.channels[channel]!.groups[group]!.count,
  }));
}

/** Nothing of a leaning lamp hangs lower over the water than this, cm: an emitter in the water has no ray from air. */
const LOWEST_CM = 0.5;

/** Optic of every emitter group of a lamp, as places in its channels: the file's, or the group's own beam, or the lamp's. */
function opticsOf(kind: LampKind): Optic[][] {
  const diffuse = kind.diffuserShare ?? 0;
  const file = kind.optic ? fileOptic(kind.optic, diffuse) : null;
  return kind.channels.map((c) =>
    c.groups.map((g) => file ?? beamOptic(beamExponent(g.beamAngleDeg ?? kind.beamAngleDeg), diffuse)),
  );
}

const opticsKept = new WeakMap<LampKind, Optic[][]>();

/**
 * One row of the response matrix per channel of a hung lamp.
 * @param beamFactor times the beam exponent of its optics; @param gain times its light
 */
export function lampRows(kind: LampKind, hanging: Hanging, beamFactor = 1, gain = 1): RigRow[] {
  const emitters = kind.layout === 'line' ? lineEmitters(kind) : pointEmitters(kind);
  let optics = opticsKept.get(kind);
  if (!optics) opticsKept.set(kind, (optics = opticsOf(kind)));
  if (beamFactor !== 1) optics = optics.map((groups) => groups.map((o) => withExponent(o, beamFactor)));
  const tilt = hanging.tiltDeg ?? 0;
  const frame: Frame = lampFrame(hanging.turnDeg, tilt, hanging.tiltTowardDeg ?? 0);
  // what a matt sheet in front of the emitters keeps back, and a screen under the lamp
  const through = gain * (1 - DIFFUSER_LOSS * (kind.diffuserShare ?? 0)) * (hanging.screenShare ?? 1);

  const worn = Boolean(hanging.hoursRun || hanging.warmerC);

  return kind.channels.map((c, channel) => ({
    spectra: c.groups.map((g) => {
      const out = zeroSpectrum();
      if (groupFluxUmolPerS(g) > 0)
        addScaled(out, emissionSpectrum(moved(groupEmission(g), hanging)), through);
      return withoutTails(worn ? wear(out, hanging) : out);
    }),
    emitters: emitters
      .filter((e) => e.channel === channel)
      .map(({ dx, dy, share, group }): RigEmitter => ({
        xCm: hanging.xCm + dx * frame.along[0] + dy * frame.across[0],
        yCm: hanging.yCm + dx * frame.along[1] + dy * frame.across[1],
        // z runs down, heights up
        heightCm: Math.max(LOWEST_CM, hanging.heightCm - dx * frame.along[2] - dy * frame.across[2]),
        share,
        spectrum: group,
        optic: optics[channel]![group]!,
        frame: tilt !== 0 || !optics[channel]![group]!.radial ? frame : null,
      })),
  }));
}

/** Light that a fully diffusing sheet keeps back. Mark: rule of thumb. */
const DIFFUSER_LOSS = 0.12;
