import fc from 'fast-check';

import { bandShares, par } from '../spectrum/bands';
import { emissionSpectrum } from '../spectrum/emission';
import { integrate } from '../spectrum/grid';
import { lampKind } from '../spectrum/lamp';
import { leftOver } from './bounce';
import { beamOptic } from './optic';
import { fresnelIntoWater, SEA_WATER_INDEX, sinAirForDistance } from './refraction';
import { computeResponse, parAt, type Rig, spectrumAt } from './response';
import { faceGrid, lampRows } from './rig';
import { plainTank } from './tank';
import { gather } from './transport';
import { attenuationPerM } from './water';

const kind = lampKind({
  id: 'k',
  name: 'test',
  channels: [
    {
      id: 'b',
      name: 'blue',
      groups: [{ light: { shape: 'line', peakNm: 450, fwhmNm: 19 }, count: 6, wattsEach: 2 }],
    },
    {
      id: 'r',
      name: 'red',
      groups: [{ light: { shape: 'line', peakNm: 661, fwhmNm: 18 }, count: 3, wattsEach: 2 }],
    },
  ],
  beamAngleDeg: 100,
  faceLengthCm: 20,
  faceWidthCm: 12,
});
/** Irradiance per unit of flux at a horizontal distance under one straight-down emitter, far from any wall, m⁻². */
function perM2(rCm: number, hCm: number, zCm: number, exponent: number): number {
  const wide = {
    ...plainTank(80_000, 80_000, Math.max(zCm, 1)),
    walls: { left: 0, right: 0, front: 0, back: 0 },
  };
  const into = new Float64Array(2);
  gather(
    wide,
    { depthCm: zCm, x: Float64Array.of(40_000 + rCm), y: Float64Array.of(40_000) },
    [
      {
        xCm: 40_000,
        yCm: 40_000,
        heightCm: hCm,
        share: 1,
        spectrum: 0,
        optic: beamOptic(exponent),
        frame: null,
      },
    ],
    [into],
    { nodes: 2 },
  );
  return into[0]! + into[1]!;
}

const rig = (
  change: { x?: number; height?: number; yellow?: number; depth?: number; spotX?: number } = {},
): Rig => ({
  tank: plainTank(100, 60, 50),
  water: { yellow440PerM: change.yellow ?? 0.1, scatterPerM: 0 },
  rows: lampRows(kind, { xCm: change.x ?? 50, yCm: 30, heightCm: change.height ?? 24, turnDeg: 0 }),
  spots: [{ xCm: change.spotX ?? 40, yCm: 30, depthCm: change.depth ?? 20, openShare: 1 }],
});

test('rays obey Snell and reach their distance', () => {
  fc.assert(
    fc.property(
      fc.double({ min: 0, max: 5, noNaN: true }),
      fc.double({ min: 0.01, max: 2, noNaN: true }),
      fc.double({ min: 0, max: 2, noNaN: true }),
      (r, h, z) => {
        const s = sinAirForDistance(r, h, z);
        const sw = s / SEA_WATER_INDEX;
        expect((h * s) / Math.sqrt(1 - s * s) + (z * sw) / Math.sqrt(1 - sw * sw)).toBeCloseTo(r, 6);
      },
    ),
  );
});

test('Fresnel: about 2.1 % is lost at normal incidence, all at grazing', () => {
  expect(fresnelIntoWater(0)).toBeCloseTo(1 - ((SEA_WATER_INDEX - 1) / (SEA_WATER_INDEX + 1)) ** 2, 9);
  expect(fresnelIntoWater(1)).toBeCloseTo(0, 9);
});

test('straight under the lamp the formula is Φ(m+1)/2π over the refracted distance squared', () => {
  const reach = 0.3 + 0.4 / SEA_WATER_INDEX;
  expect(perM2(0, 30, 40, 2)).toBeCloseTo(((3 / (2 * Math.PI)) * fresnelIntoWater(0)) / reach ** 2, 9);
  expect(perM2(1e-5, 30, 40, 2)).toBeCloseTo(perM2(0, 30, 40, 2), 6);
});

test('flux is conserved: irradiance over a wide plane adds up to what passed the surface', () => {
  for (const [h, z, m] of [
    [20, 0, 1],
    [24, 30, 2],
    [15, 50, 6],
  ] as const) {
    let sum = 0;
    const step = 0.2;
    for (let r = step / 2; r < 20_000; r += step * Math.max(1, r / 20)) {
      const width = step * Math.max(1, r / 20);
      sum += perM2(r, h, z, m) * 2 * Math.PI * (r / 100) * (width / 100);
    }
    // what passes the surface: ∫ I(θ) T(θ) 2π sin θ dθ
    let passed = 0;
    for (let k = 0; k < 9000; k += 1) {
      const a = ((k + 0.5) / 9000) * (Math.PI / 2);
      passed +=
        (m + 1) * Math.cos(a) ** m * fresnelIntoWater(Math.sin(a)) * Math.sin(a) * (Math.PI / 2 / 9000);
    }
    expect(sum / passed).toBeGreaterThan(0.985);
    expect(sum / passed).toBeLessThan(1.015);
  }
});

test('water: the published minimum in the blue; yellowing takes blue first', () => {
  const clear = attenuationPerM({ yellow440PerM: 0, scatterPerM: 0 });
  expect(clear[450 - 360]).toBeCloseTo(0.00922, 6);
  expect(clear[365 - 360]).toBeCloseTo(0.01137, 6);
  expect(clear[455 - 360]).toBeCloseTo((0.00922 + 0.00979) / 2, 6);
  const yellow = attenuationPerM({ yellow440PerM: 0.5, scatterPerM: 0.1 });
  expect(yellow[440 - 360]! - clear[440 - 360]!).toBeCloseTo(0.6, 9);
  expect(yellow[420 - 360]! - clear[420 - 360]!).toBeGreaterThan(yellow[660 - 360]! - clear[660 - 360]!);
});

test('moving the lamp 5 cm, yellowing the water or moving the spot changes PAR and spectrum', () => {
  const base = computeResponse(rig());
  const shape = (m: ReturnType<typeof computeResponse>) => bandShares(spectrumAt(m, 0, [1, 1])).royalBlue;
  for (const change of [{ x: 55 }, { yellow: 0.6 }, { depth: 35 }, { spotX: 45 }]) {
    const other = computeResponse(rig(change));
    expect(Math.abs(parAt(other, 0, [1, 1]) / parAt(base, 0, [1, 1]) - 1)).toBeGreaterThan(0.005);
    expect(Math.abs(shape(other) - shape(base))).toBeGreaterThan(1e-5);
  }
});

test('light is linear in the shares, and PAR agrees with the spectrum', () => {
  const m = computeResponse(rig());
  fc.assert(
    fc.property(
      fc.double({ min: 0, max: 1, noNaN: true }),
      fc.double({ min: 0, max: 1, noNaN: true }),
      (a, b) => {
        expect(parAt(m, 0, [a, b])).toBeCloseTo(a * parAt(m, 0, [1, 0]) + b * parAt(m, 0, [0, 1]), 6);
        expect(par(spectrumAt(m, 0, [a, b]))).toBeCloseTo(parAt(m, 0, [a, b]), 6);
      },
    ),
  );
});

test('light whose ray misses the water inside the rim is lost; shade takes its share', () => {
  const outside = computeResponse({
    ...rig({ x: -60 }),
    tank: { ...plainTank(100, 60, 50), walls: { left: 0, right: 0, front: 0, back: 0 }, floorReflectance: 0 },
    spots: [{ xCm: 2, yCm: 30, depthCm: 50, openShare: 1 }],
  });
  expect(outside.par[0]).toBe(0);
  const open = computeResponse(rig());
  const shaded = computeResponse({ ...rig(), spots: [{ ...rig().spots[0]!, openShare: 0.4 }] });
  expect(shaded.par[0]! / open.par[0]!).toBeCloseTo(0.4, 9);
});

test('emitters cover the face evenly and carry the whole flux', () => {
  const places = faceGrid(48, 40, 20);
  expect(new Set(places.map((p) => `${p.dx},${p.dy}`)).size).toBe(48);
  expect(places.reduce((s, p) => s + p.dx, 0)).toBeCloseTo(0, 6);
  expect(places.every((p) => Math.abs(p.dx) < 20 && Math.abs(p.dy) < 10)).toBe(true);
  const rows = lampRows(kind, { xCm: 0, yCm: 0, heightCm: 10, turnDeg: 90 });
  rows.forEach((row) => expect(row.emitters.reduce((s, e) => s + e.share, 0)).toBeCloseTo(1, 9));
  expect(integrate(rows[0]!.spectra[0]!)).toBeCloseTo(
    integrate(emissionSpectrum({ shape: 'line', peakNm: 450, fwhmNm: 19, flux: 12 * 2.4 * 0.85 })),
    6,
  );
});

describe('how light moves with what a fit may find', () => {
  const water = { yellow440PerM: 0.2, scatterPerM: 0.05 };
  const at = (yellow440PerM: number, beam: number, floor = 0) =>
    computeResponse({
      tank: { ...plainTank(100, 60, 50), floorReflectance: floor },
      water: { ...water, yellow440PerM },
      rows: lampRows(kind, { xCm: 30, yCm: 30, heightCm: 24, turnDeg: 0 }, beam),
      spots: [
        { xCm: 32, yCm: 30, depthCm: 12, openShare: 1 },
        { xCm: 90, yCm: 10, depthCm: 45, openShare: 0.5 },
      ],
    });
  const base = at(0.2, 1);

  test('slopes in yellowness are those of finite differences, and never positive', () => {
    const [less, more] = [at(0.19, 1), at(0.21, 1)];
    base.byYellow.forEach((slope, i) => {
      const real = (more.par[i]! - less.par[i]!) / 0.02;
      expect(slope).toBeLessThanOrEqual(0);
      expect(Math.abs(slope / real - 1)).toBeLessThan(0.06);
    });
  });

  test('slopes in the beam are those of finite differences: sharper under the lamp, weaker beside it', () => {
    const [wider, sharper] = [at(0.2, 0.95), at(0.2, 1.05)];
    base.byBeam.forEach((slope, i) => {
      const real = (sharper.par[i]! - wider.par[i]!) / Math.log(1.05 / 0.95);
      expect(Math.sign(slope)).toBe(Math.sign(real));
      expect(Math.abs(slope - real)).toBeLessThan(0.08 * Math.abs(real) + 0.02 * base.par[i]!);
    });
    expect(base.byBeam[0]!).toBeGreaterThan(0);
    expect(base.byBeam[2]!).toBeLessThan(0);
  });

  test('slopes in height and panes are those of finite differences; the floor tells what it sends', () => {
    const moved = (heightCm: number, pane: number) =>
      computeResponse({
        tank: {
          ...plainTank(100, 60, 50),
          floorReflectance: 0,
          walls: { left: pane, right: pane, front: pane, back: pane },
        },
        water,
        rows: lampRows(kind, { xCm: 30, yCm: 30, heightCm, turnDeg: 0 }, 1),
        spots: [
          { xCm: 32, yCm: 30, depthCm: 12, openShare: 1 },
          { xCm: 90, yCm: 10, depthCm: 45, openShare: 0.5 },
        ],
      });
    const [low, high] = [moved(23.5, 0.9), moved(24.5, 0.9)];
    const [dim, clear] = [moved(24, 0.8), moved(24, 0.9)];
    clear.byHeight.forEach((slope, i) => {
      expect(Math.abs(slope - (high.par[i]! - low.par[i]!))).toBeLessThan(0.01 * clear.par[i]!);
      const real = (clear.par[i]! - dim.par[i]!) / Math.log(0.9 / 0.8);
      expect(Math.abs(clear.byPane[i]! - real)).toBeLessThan(0.2 * Math.abs(real) + 0.01 * clear.par[i]!);
    });
    const bright = at(0.2, 1, 0.4);
    bright.byFloor.forEach((v, i) => expect(bright.par[i]! - v).toBeCloseTo(base.par[i]!, 6));
  });

  test('the floor gives light back, most near itself, and nothing where it is black', () => {
    const bright = at(0.2, 1, 0.4);
    base.par.forEach((par, i) => expect(bright.par[i]!).toBeGreaterThan(par));
    const gain = (spot: number) => bright.par[spot * 2]! - base.par[spot * 2]!;
    // what comes down again has gone up first: the overhang's half is all that tells the two apart here
    expect(gain(0)).toBeGreaterThan(0);
    expect(gain(1)).toBeGreaterThan(0);
  });
});

test('what is left after many ways, by pieces between nodes, is the plain sum over them', () => {
  fc.assert(
    fc.property(
      fc.array(
        fc.record({
          weight: fc.double({ min: 1e-6, max: 1, noNaN: true }),
          pathM: fc.double({ min: 0.05, max: 40, noNaN: true }),
        }),
        { minLength: 1, maxLength: 90 },
      ),
      fc.double({ min: 0, max: 0.3, noNaN: true }),
      fc.double({ min: 0.001, max: 4, noNaN: true }),
      (ways, clear, more) => {
        const loss = Float64Array.from({ length: 421 }, (_, n) => clear + more * Math.abs(Math.sin(n / 60)));
        const all = ways.reduce((s, w) => s + w.weight, 0);
        leftOver(ways, loss).forEach((v, n) => {
          const plain = ways.reduce((s, { weight, pathM }) => s + weight * Math.exp(-loss[n]! * pathM), 0);
          expect(Math.abs(v - plain)).toBeLessThan(2e-5 * all);
        });
      },
    ),
    { numRuns: 30 },
  );
});
