import { type HungGroup, rigOf } from '../case/lit';
import type { Zone } from '../record/zone';
import { layerPar } from '../optics/field';
import { computeField } from '../optics/fieldSteps';
import { SEA_WATER_INDEX } from '../optics/refraction';
import { attenuationPerM } from '../optics/water';
import { type TracedEmitter, traceSteps } from '../oracle/tracer';
import { emissionSpectrum } from '../spectrum/emission';
import { at, integrate } from '../spectrum/grid';

/** What a check of the model found. */
export interface ModelCheck {
  cells: number;
  /** cells that agree to 3 % or within three standard errors of the tracer */
  agree: number;
  /** share by which the two differ: half of the cells lie below the first, 95 of 100 below the second */
  medianOff: number;
  p95Off: number;
  photons: number;
  /** lamps with a photometric file cannot be traced and were left out */
  leftOut: string[];
}

const PHOTONS = 600_000;
/** Cells of the check, and points of the solver inside each. */
const ACROSS = 6;
const ALONG = 4;
const SUB = 7;
const DEPTHS = [0.3, 0.6, 0.9];
/** Light of one wavelength stands for all: the tracer follows photons, not colours. */
const CHECK_NM = 450;
const NEAR = 0.03;
const SIGMAS = 3;

/**
 * Light in the tank once by the fast model and once by a photon tracer that shares nothing with it, at one wavelength, all lamps at
 * full. Yields how far it is.
 */
export function* checkSteps(
  zone: Zone,
  groups: readonly (HungGroup & { name: string })[],
): Generator<number, ModelCheck> {
  const traced: TracedEmitter[] = [];
  const leftOut = groups.filter((g) => g.lampKind.optic).map((g) => g.name);
  const kept = groups.filter((g) => !g.lampKind.optic);
  const rig = rigOf(kept, zone, []);
  const one = emissionSpectrum({ shape: 'line', peakNm: CHECK_NM, fwhmNm: 1.5, flux: 1 });
  const rows = rig.rows.map((row) => ({
    emitters: row.emitters,
    spectra: row.spectra.map((s) => one.map((v) => v * integrate(s))),
  }));
  for (const row of rows) {
    for (const e of row.emitters) {
      const flux = e.share * integrate(row.spectra[e.spectrum]!);
      if (flux === 0) continue;
      const place = {
        xCm: e.xCm,
        yCm: e.yCm,
        heightCm: e.heightCm,
        ...(e.frame ? { axis: e.frame.axis } : {}),
      };
      const matt = e.optic.diffuseShare;
      if (matt < 1) traced.push({ ...place, flux: flux * (1 - matt), exponent: e.optic.exponent });
      if (matt > 0) traced.push({ ...place, flux: flux * matt, exponent: 1 });
    }
  }
  if (traced.length === 0) return { cells: 0, agree: 0, medianOff: 0, p95Off: 0, photons: 0, leftOut };
  const depthsCm = DEPTHS.map((d) => d * zone.tank.depthCm);
  const field = computeField(
    { tank: zone.tank, water: zone.water, rows },
    { nx: ACROSS * SUB, ny: ALONG * SUB, depthsCm },
  );
  yield 0.1;
  const steps = traceSteps({
    box: {
      ...zone.tank,
      lossPerM: at(attenuationPerM(zone.water), CHECK_NM),
      index: SEA_WATER_INDEX,
    },
    emitters: traced,
    nx: ACROSS,
    ny: ALONG,
    depthsCm,
    photons: PHOTONS,
    seed: 1,
  });
  for (;;) {
    const next = steps.next();
    if (!next.done) {
      yield 0.1 + 0.9 * next.value;
      continue;
    }
    const tally = next.value;
    const off: number[] = [];
    let agree = 0;
    const full = rows.map(() => 1);
    depthsCm.forEach((depth, d) => {
      const layer = layerPar(field, depth, full);
      for (let cell = 0; cell < ACROSS * ALONG; cell += 1) {
        let sum = 0;
        for (let b = 0; b < SUB; b += 1)
          for (let a = 0; a < SUB; a += 1)
            sum +=
              layer[(Math.floor(cell / ACROSS) * SUB + b) * ACROSS * SUB + (cell % ACROSS) * SUB + a]! /
              SUB ** 2;
        // cells that rock cuts through have no single light
        if (!Number.isFinite(sum) || !(sum > 0)) continue;
        const at = d * ACROSS * ALONG + cell;
        const difference = Math.abs(tally.cells[at]! - sum);
        off.push(difference / sum);
        if (difference <= Math.max(NEAR * sum, SIGMAS * tally.errors[at]!)) agree += 1;
      }
    });
    off.sort((a, b) => a - b);
    return {
      cells: off.length,
      agree,
      medianOff: off[Math.floor(off.length / 2)] ?? 0,
      p95Off: off[Math.floor(off.length * 0.95)] ?? 0,
      photons: PHOTONS,
      leftOut,
    };
  }
}
