import { emissionSpectrum } from '../spectrum/emission';
import { GRID_SIZE } from '../spectrum/grid';
import { layerPar, type FieldGrid } from '../optics/field';
import { computeField } from '../optics/fieldSteps';
import { beamOptic, lampFrame } from '../optics/optic';
import type { RigRow } from '../optics/light';
import { SEA_WATER_INDEX } from '../optics/refraction';
import { plainTank, type Solid, type Tank } from '../optics/tank';
import { enteredShare } from '../optics/transport';
import { attenuationPerM, type Water } from '../optics/water';
import { trace, type TracedEmitter } from './tracer';

interface Lamp {
  x: number;
  y: number;
  height: number;
  exponent: number;
  /** emitters along x and y, and their spacing */
  grid?: readonly [nx: number, ny: number, cm: number];
  tilt?: readonly [deg: number, toward: number];
}
interface Case {
  tank: Tank;
  water: Water;
  lamps: Lamp[];
  photons: number;
}

const NM = 460;
const at = NM - 360;
/** Photons of one wavelength only: the tracer knows one attenuation. */
const spectrum = () => emissionSpectrum({ shape: 'line', peakNm: NM, fwhmNm: 1, flux: 100 });

function emittersOf(lamps: readonly Lamp[]): { row: RigRow; traced: TracedEmitter[] } {
  const traced: TracedEmitter[] = [];
  const emitters = lamps.flatMap((l) => {
    const [nx, ny, cm] = l.grid ?? [1, 1, 0];
    const frame = lampFrame(0, l.tilt?.[0], l.tilt?.[1]);
    return Array.from({ length: nx * ny }, (_, i) => {
      const dx = ((i % nx) - (nx - 1) / 2) * cm;
      const dy = (Math.floor(i / nx) - (ny - 1) / 2) * cm;
      const place = {
        xCm: l.x + dx * frame.along[0] + dy * frame.across[0],
        yCm: l.y + dx * frame.along[1] + dy * frame.across[1],
        heightCm: l.height - dx * frame.along[2] - dy * frame.across[2],
      };
      traced.push({ ...place, flux: 100 / (nx * ny) / lamps.length, exponent: l.exponent, axis: frame.axis });
      return {
        ...place,
        share: 1 / (nx * ny) / lamps.length,
        spectrum: 0,
        optic: beamOptic(l.exponent),
        frame: l.tilt ? frame : null,
      };
    });
  });
  return { row: { spectra: [spectrum()], emitters }, traced };
}

/** Mean PAR over coarse cells, from a field with `sub` × `sub` midpoints in each. */
function coarse(c: Case, nx: number, ny: number, depthsCm: number[], sub: number): number[] {
  const grid: FieldGrid = { nx: nx * sub, ny: ny * sub, depthsCm };
  const field = computeField({ tank: c.tank, water: c.water, rows: [emittersOf(c.lamps).row] }, grid);
  return depthsCm.flatMap((depth) => {
    const layer = layerPar(field, depth, [1]);
    return Array.from({ length: nx * ny }, (_, cell) => {
      const i = cell % nx;
      const j = Math.floor(cell / nx);
      let sum = 0;
      for (let b = 0; b < sub; b += 1)
        for (let a = 0; a < sub; a += 1) sum += layer[(j * sub + b) * grid.nx + i * sub + a]!;
      return sum / sub ** 2;
    });
  });
}

const tank = (l: number, w: number, d: number, change: Partial<Tank> = {}): Tank => ({
  ...plainTank(l, w, d),
  floorReflectance: 0,
  ...change,
});
const solid = (change: Partial<Solid>): Solid => ({
  id: 's',
  name: 'rock',
  shape: 'block',
  xCm: 30,
  yCm: 30,
  lengthCm: 20,
  widthCm: 20,
  topCm: 25,
  bottomCm: 50,
  ...change,
});
const fresh = { yellow440PerM: 0.1, scatterPerM: 0.05 };
const black = { left: 0, right: 0, front: 0, back: 0 };

const CASES: Record<string, Case> = {
  'long and shallow': {
    tank: tank(150, 45, 30),
    water: fresh,
    lamps: [
      { x: 40, y: 22, height: 20, exponent: 1.6, grid: [4, 2, 6] },
      { x: 110, y: 22, height: 20, exponent: 1.6, grid: [4, 2, 6] },
    ],
    photons: 260_000,
  },
  'deep cube': {
    tank: tank(60, 60, 80),
    water: { yellow440PerM: 0.3, scatterPerM: 0.1 },
    lamps: [{ x: 30, y: 30, height: 25, exponent: 2, grid: [3, 3, 5] }],
    photons: 260_000,
  },
  'black walls': {
    tank: tank(90, 50, 50, { walls: black }),
    water: fresh,
    lamps: [{ x: 45, y: 25, height: 15, exponent: 1, grid: [3, 2, 8] }],
    photons: 260_000,
  },
  'narrow beam': {
    tank: tank(50, 50, 55),
    water: fresh,
    lamps: [{ x: 25, y: 25, height: 60, exponent: 12 }],
    photons: 260_000,
  },
  'lamp partly over the rim': {
    tank: tank(80, 45, 45, { walls: { left: 1, right: 0.5, front: 1, back: 0.2 } }),
    water: fresh,
    lamps: [{ x: 4, y: 12, height: 18, exponent: 1.3, grid: [4, 2, 6] }],
    photons: 260_000,
  },
  'bright floor': {
    tank: tank(70, 50, 40, { floorReflectance: 0.4 }),
    water: fresh,
    lamps: [{ x: 35, y: 25, height: 22, exponent: 1.2, grid: [2, 2, 10] }],
    photons: 260_000,
  },
  'leaning lamp under a lid': {
    tank: tank(80, 50, 45, { lidShare: 0.85 }),
    water: fresh,
    lamps: [{ x: 60, y: 25, height: 30, exponent: 3, grid: [3, 1, 8], tilt: [25, 180] }],
    photons: 260_000,
  },
};

test.each(Object.entries(CASES))('%s: 95 of 100 cells agree with the tracer to 3 %%', (_, c) => {
  const [nx, ny] = [6, 4];
  const depths = [0.25, 0.55, 0.9].map((d) => d * c.tank.depthCm);
  const traced = trace({
    box: { ...c.tank, lossPerM: attenuationPerM(c.water)[at]!, index: SEA_WATER_INDEX },
    emitters: emittersOf(c.lamps).traced,
    nx,
    ny,
    depthsCm: depths,
    photons: c.photons,
    seed: 7,
  });
  const solved = coarse(c, nx, ny, depths, 9);
  const off = solved.map((v, i) => Math.abs(v / traced.cells[i]! - 1));
  const within = off.filter((o) => o <= 0.03).length;
  expect(within / off.length).toBeGreaterThanOrEqual(0.95);
  // what remains is the tracer's own noise, so the mean error must be far smaller
  const bias =
    solved.reduce((s, v, i) => s + (v - traced.cells[i]!), 0) / traced.cells.reduce((s, v) => s + v, 0);
  expect(Math.abs(bias)).toBeLessThan(0.01);
  const share = emittersOf(c.lamps).row.emitters.reduce((s, e) => s + e.share * enteredShare(c.tank, e), 0);
  expect(share * c.tank.lidShare).toBeCloseTo(traced.entered, 2);
});

test.each([
  ['a block', [solid({})]],
  ['a mound', [solid({ shape: 'mound', lengthCm: 34, widthCm: 26 })]],
  ['a step', [solid({ shape: 'step', xCm: 15, lengthCm: 30, widthCm: 60, topCm: 35 })]],
  ['a ledge', [solid({ topCm: 15, bottomCm: 19, yCm: 40, widthCm: 24 })]],
] as const)('%s casts the shadow that the tracer sees', (_, solids) => {
  const c: Case = {
    tank: tank(70, 60, 50, { solids: [...solids], floorReflectance: 0.3 }),
    water: fresh,
    lamps: [
      { x: 20, y: 30, height: 20, exponent: 1.5 },
      { x: 55, y: 20, height: 20, exponent: 1.5 },
    ],
    photons: 260_000,
  };
  const [nx, ny] = [7, 6];
  const depths = [12, 30, 46];
  const traced = trace({
    box: { ...c.tank, lossPerM: attenuationPerM(c.water)[at]!, index: SEA_WATER_INDEX },
    emitters: emittersOf(c.lamps).traced,
    nx,
    ny,
    depthsCm: depths,
    photons: c.photons,
    seed: 3,
  });
  const solved = coarse(c, nx, ny, depths, 4);
  const open = solved.flatMap((v, i) =>
    Number.isNaN(v) || v === 0 ? [] : [{ v, t: traced.cells[i]!, e: traced.errors[i]! }],
  );
  expect(open.length).toBeGreaterThan(0.7 * solved.length);
  // shadow edges fall across midpoints, so cells here agree to 8 % of the layer's mean or the tracer's noise
  const mean = open.reduce((s, o) => s + o.t, 0) / open.length;
  const good = open.filter((o) => Math.abs(o.v - o.t) <= Math.max(0.08 * mean, 4 * o.e)).length;
  expect(good / open.length).toBeGreaterThanOrEqual(0.93);
  const bias = open.reduce((s, o) => s + o.v - o.t, 0) / open.reduce((s, o) => s + o.t, 0);
  expect(Math.abs(bias)).toBeLessThan(0.03);
});

test('the tracer alone: a lamp over open, clear, black water sends what Fresnel lets through straight down', () => {
  const traced = trace({
    box: { ...tank(1000, 1000, 10, { walls: black }), lossPerM: 0, index: SEA_WATER_INDEX },
    emitters: [{ xCm: 500, yCm: 500, heightCm: 10, flux: 1, exponent: 400 }],
    nx: 1,
    ny: 1,
    depthsCm: [5],
    photons: 40_000,
    seed: 1,
  });
  const normal = 1 - ((SEA_WATER_INDEX - 1) / (SEA_WATER_INDEX + 1)) ** 2;
  expect(traced.entered).toBeCloseTo(normal, 2);
  expect(traced.cells[0]! * 100).toBeCloseTo(normal, 2);
  expect(GRID_SIZE).toBe(421);
});
