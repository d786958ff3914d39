import { emissionSpectrum } from '../spectrum/emission';
import { beamExponent, groupEmission, groupFluxUmolPerS, type LampKind } from '../spectrum/lamp';
import { addScaled, zeroSpectrum } from '../spectrum/grid';
import type { RigEmitter, RigRow } from './response';

/** A lamp kind at a place: the centre of its face over the tank, turned around the vertical. */
export interface Hanging {
  xCm: number;
  yCm: number;
  heightCm: number;
  turnDeg: number;
}

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

/** One row of the response matrix per channel of a hung lamp, its emitters spread evenly over the face. */
export function lampRows(kind: LampKind, hanging: Hanging): RigRow[] {
  // Every emitter with the place it would like in the order of the face, so that each group is spread over all of it.
  const wanted: { channel: number; group: number; key: number }[] = [];
  kind.channels.forEach((c, channel) =>
    c.groups.forEach((g, group) => {
      for (let k = 0; k < g.count; k += 1) wanted.push({ channel, group, key: (k + 0.5) / g.count });
    }),
  );
  wanted.sort((a, b) => a.key - b.key || a.channel - b.channel || a.group - b.group);
  const places = faceGrid(wanted.length, kind.faceLengthCm, kind.faceWidthCm);
  const exponent = beamExponent(kind.beamAngleDeg);
  const turn = (hanging.turnDeg * Math.PI) / 180;

  return kind.channels.map((c, channel) => ({
    spectra: c.groups.map((g) => {
      const out = zeroSpectrum();
      if (groupFluxUmolPerS(g) > 0) addScaled(out, emissionSpectrum(groupEmission(g)), 1);
      return out;
    }),
    emitters: wanted.flatMap((w, i): RigEmitter[] => {
      if (w.channel !== channel) return [];
      const { dx, dy } = places[i]!;
      return [
        {
          xCm: hanging.xCm + dx * Math.cos(turn) - dy * Math.sin(turn),
          yCm: hanging.yCm + dx * Math.sin(turn) + dy * Math.cos(turn),
          heightCm: hanging.heightCm,
          exponent,
          share: 1 / c.groups[w.group]!.count,
          spectrum: w.group,
        },
      ];
    }),
  }));
}
