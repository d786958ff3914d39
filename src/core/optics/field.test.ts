import fc from 'fast-check';

import { libraryLamp } from '../library/lamps';
import { blending, evenness, lostShare, mixAngleDeg, onGlass } from './evenness';
import { fieldAt, gridFor, layerPar, parInField, sectionPar } from './field';
import { computeField, fieldSteps } from './fieldSteps';
import {
  fileOptic,
  intensity,
  intensityAlong,
  lampFrame,
  photometryFlux,
  beamOptic,
  withExponent,
} from './optic';
import { enteredOfScene, parOfEmitters } from './points';
import { computeResponse } from './response';
import { crossingsAt, focusing, rippleBlendDeg } from './ripple';
import { lampRows } from './rig';
import { GRID_SIZE, zeroSpectrum } from '../spectrum/grid';
import { blocks, groundDepth, insideSolid, obstacle, plainTank, type Solid } from './tank';

const kind = libraryLamp('lib-nine');
const tank = plainTank(90, 45, 45);
const water = { yellow440PerM: 0.15, scatterPerM: 0.05 };
const hanging = { xCm: 30, yCm: 20, heightCm: 22, turnDeg: 20 };
const rows = lampRows(kind, hanging);
const rig = { tank, water, rows };
const grid = gridFor(tank, 2.5, 8);
const field = computeField(rig, grid);
const full = rows.map(() => 1);
const rock: Solid = {
  id: 'r',
  name: 'rock',
  shape: 'block',
  xCm: 45,
  yCm: 22,
  lengthCm: 20,
  widthCm: 20,
  topCm: 20,
  bottomCm: 45,
};

test('cells say what spots say, anywhere in the water', () => {
  const spots = [
    [30, 20, 6],
    [70, 30, 20],
    [11, 40, 33],
    [85, 5, 44],
  ].map(([xCm, yCm, depthCm]) => ({ xCm: xCm!, yCm: yCm!, depthCm: depthCm!, openShare: 1 }));
  const exact = computeResponse({ ...rig, spots });
  spots.forEach((s, i) => {
    const sum = rows.reduce((total, _, r) => total + exact.par[i * rows.length + r]!, 0);
    expect(parInField(field, s.xCm, s.yCm, s.depthCm, full) / sum).toBeGreaterThan(0.97);
    expect(parInField(field, s.xCm, s.yCm, s.depthCm, full) / sum).toBeLessThan(1.03);
  });
});

test('every nanometre counts, from the first on', () => {
  // two that lie side by side go nearly the same way
  const of = (at: number) => {
    const lone = zeroSpectrum();
    lone[at] = 1;
    const one = rows.slice(0, 1).map((r) => ({ ...r, spectra: r.spectra.map(() => lone) }));
    return computeField({ ...rig, rows: one }, { nx: 4, ny: 4, depthsCm: [10, 20] }).bands.reduce(
      (a, b) => a + b,
      0,
    );
  };
  // the ends of a sum over a grid count half
  expect(of(0) / of(1)).toBeCloseTo(0.5, 2);
  expect(of(GRID_SIZE - 1) / of(GRID_SIZE - 2)).toBeCloseTo(0.5, 2);
});

test('light is linear in the shares, in layers, sections and single cells', () => {
  fc.assert(
    fc.property(
      fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 9, maxLength: 9 }),
      (shares) => {
        const one = layerPar(field, 20, shares);
        const two = layerPar(
          field,
          20,
          shares.map((s) => 2 * s),
        );
        for (const c of [0, 100, 400]) expect(two[c]).toBeCloseTo(2 * one[c]!, 4);
        const at = [37, 13, 20] as const;
        const rowsHere = fieldAt(field, ...at);
        expect(parInField(field, ...at, shares)).toBeCloseTo(
          rowsHere.reduce((s, p, r) => s + p * shares[r]!, 0),
          6,
        );
      },
    ),
    { numRuns: 20 },
  );
  const { n, values } = sectionPar(field, 'x', 20, full);
  expect(n).toBe(grid.nx);
  const middle = Math.round(30 / 2.5);
  expect(values[middle]! / parInField(field, 31.25, 20, 0, full)).toBeCloseTo(1, 1);
  expect(sectionPar(field, 'y', 30, full).n).toBe(grid.ny);
});

test('photons in the bands inside PAR are the photons of PAR', () => {
  for (const cell of [0, 77, 333]) {
    const at = (3 * rows.length + 2) * grid.nx * grid.ny + cell;
    const bands = field.bands.subarray(at * 9, at * 9 + 9);
    const inside = bands.slice(1, 8).reduce((a, b) => a + b, 0);
    // 680-700 nm lies in far red but counts as PAR
    expect(field.par[at]! - inside).toBeGreaterThanOrEqual(-1e-3 * inside);
    expect(field.par[at]! - inside).toBeLessThan(bands[8]! + 1e-3);
  }
});

test('a field is computed in steps that rise, and what it costs can be left at any of them', () => {
  const steps = fieldSteps(rig, { nx: 8, ny: 8, depthsCm: [0, 20] });
  let last = -1;
  for (let next = steps.next(); !next.done; next = steps.next()) {
    expect(next.value).toBeGreaterThanOrEqual(last);
    last = next.value;
  }
  expect(last).toBeLessThanOrEqual(1);
});

test('rock fills its cells and shades what lies behind; a lid dims all alike', () => {
  const shaded = computeField({ ...rig, tank: { ...tank, solids: [rock] } }, grid);
  const layer = layerPar(shaded, grid.depthsCm[5]!, full);
  const open = layerPar(field, grid.depthsCm[5]!, full);
  const cell = (x: number, y: number) =>
    Math.floor((y / 45) * grid.ny) * grid.nx + Math.floor((x / 90) * grid.nx);
  expect(layer[cell(45, 22)]).toBeNaN();
  expect(layer[cell(57, 24)]! / open[cell(57, 24)]!).toBeLessThan(0.7);
  const lid = computeField(
    { ...rig, tank: { ...tank, lidShare: 0.8 } },
    { nx: 8, ny: 8, depthsCm: [10, 30] },
  );
  const bare = computeField(rig, { nx: 8, ny: 8, depthsCm: [10, 30] });
  lid.par.forEach((v, i) => expect(v).toBeCloseTo(0.8 * bare.par[i]!, 3));
  expect(lid.entered[0]! / bare.entered[0]!).toBeCloseTo(0.8, 6);
});

test('what enters, what is lost and what falls on the glass', () => {
  const lost = lostShare(field, full);
  expect(lost).toBeGreaterThan(0.05);
  expect(lost).toBeLessThan(0.6);
  // the lamp hangs nearer the left and the front
  const [left, right, front, back] = onGlass(field, full);
  expect(left!).toBeGreaterThan(right!);
  expect(front!).toBeGreaterThan(back! * 0.9);
  // out over the room most is lost
  const away = computeField(
    { ...rig, rows: lampRows(kind, { ...hanging, xCm: -40 }) },
    { nx: 8, ny: 8, depthsCm: [0, 20] },
  );
  expect(lostShare(away, full)).toBeGreaterThan(lost + 0.3);
});

test('evenness: known numbers, rock left aside', () => {
  const e = evenness([10, 20, 30, 40, NaN], 0.5)!;
  expect([e.count, e.mean, e.median, e.min, e.max]).toEqual([4, 25, 25, 10, 40]);
  expect(e.sd).toBeCloseTo(12.91, 2);
  expect(e.cv).toBeCloseTo(0.516, 3);
  expect(e.uniformity).toBeCloseTo(0.4, 9);
  expect([e.hot, e.cold]).toEqual([0.25, 0.25]);
  expect(evenness([NaN])).toBeNull();
  expect(mixAngleDeg([0, 0], [2, 4])).toBe(0);
  expect(mixAngleDeg([1, 2], [2, 4])).toBeCloseTo(0, 4);
  expect(mixAngleDeg([1, 0], [0, 3])).toBeCloseTo(90, 9);
});

test('colours from places apart blend less near the lamp than far from it', () => {
  const channel = rows.map((_, r) => r);
  const near = blending(field, 0, full, channel);
  const far = blending(field, 7, full, channel);
  expect(near.meanDeg).toBeGreaterThan(far.meanDeg);
  expect(near.maxDeg).toBeGreaterThanOrEqual(near.meanDeg);
  // one channel alone is blended with itself
  expect(blending(field, 0, [1, ...full.slice(1).map(() => 0)], channel).maxDeg).toBeCloseTo(0, 3);
});

test('ripples flicker colours that come from different places, and never those from one', () => {
  const spot = { xCm: 40, yCm: 22, depthCm: 20 };
  const channel = rows.map((_, r) => r);
  const crossings = crossingsAt(rows, tank, spot, full, channel);
  expect(crossings.length).toBeGreaterThan(9);
  crossings.forEach((c) => expect(c.xCm >= 0 && c.xCm <= 90 && c.yCm >= 0 && c.yCm <= 45).toBe(true));
  const flicker = rippleBlendDeg(crossings, 0.05, 20);
  expect(flicker).toBeGreaterThan(0.2);
  expect(rippleBlendDeg(crossings, 0.12, 20)).toBeGreaterThan(flicker);
  expect(rippleBlendDeg(crossings, 0, 20)).toBe(0);
  const one = crossings.map((c) => ({ ...c, xCm: 40, yCm: 20 }));
  expect(rippleBlendDeg(one, 0.05, 20)).toBeLessThan(0.01);
  expect(
    rippleBlendDeg(
      crossings.filter((c) => c.channel === 0),
      0.05,
      20,
    ),
  ).toBeLessThan(0.01);
  expect(focusing(0.05, 10)).toBeCloseTo(2 * focusing(0.05, 5), 9);
});

test('an optic sends out all of its flux, whichever way it is given and points', () => {
  const file = fileOptic({
    name: 'f',
    verticalDeg: [0, 20, 40, 60, 90],
    horizontalDeg: [0, 90],
    intensity: [
      [10, 9, 6, 2, 0],
      [10, 5, 2, 1, 0],
    ],
  });
  expect(file.radial).toBe(false);
  expect(
    photometryFlux({ name: 'f', verticalDeg: [0, 90], horizontalDeg: [0], intensity: [[1, 1]] }),
  ).toBeCloseTo(2 * Math.PI, 3);
  for (const optic of [
    beamOptic(3),
    beamOptic(1.4, 0.5),
    file,
    fileOptic({ ...file.photometry! }, 0.3),
    withExponent(beamOptic(2), 1.5),
  ]) {
    let sum = 0;
    const steps = 120;
    for (let i = 0; i < steps; i += 1) {
      const theta = ((i + 0.5) / steps) * (Math.PI / 2);
      for (let k = 0; k < 36; k += 1)
        sum +=
          intensity(optic, Math.cos(theta), k * 10 + 5) *
          Math.sin(theta) *
          (Math.PI / 2 / steps) *
          ((2 * Math.PI) / 36);
    }
    expect(sum).toBeCloseTo(1, 2);
  }
  const leaning = lampFrame(0, 30, 0);
  // leaning to the right, the axis points right of down
  expect(leaning.axis[0]).toBeCloseTo(0.5, 9);
  expect(leaning.axis[2]).toBeCloseTo(Math.cos(Math.PI / 6), 9);
  expect(intensityAlong(beamOptic(4), leaning, 0.5, 0, Math.cos(Math.PI / 6))).toBeCloseTo(
    intensity(beamOptic(4), 1, 0),
    9,
  );
  expect(intensityAlong(beamOptic(4), leaning, 0, 0, -1)).toBe(0);
});

test('solids: what they hold, what stands on them, which rays they stop', () => {
  const mound: Solid = { ...rock, shape: 'mound', lengthCm: 20, widthCm: 20 };
  expect(insideSolid(rock, 45, 22, 30)).toBe(true);
  expect(insideSolid(rock, 45, 22, 20)).toBe(false);
  expect(insideSolid(mound, 45, 22, 21)).toBe(true);
  expect(insideSolid(mound, 53, 30, 25)).toBe(false);
  const stepped = {
    ...tank,
    solids: [rock, { ...rock, id: 's', shape: 'step' as const, xCm: 80, topCm: 30 }],
  };
  expect(groundDepth(stepped, 45, 22)).toBe(20);
  expect(groundDepth(stepped, 80, 22)).toBe(30);
  expect(groundDepth(stepped, 5, 5)).toBe(45);
  expect(groundDepth({ ...tank, solids: [mound] }, 45, 22)).toBeCloseTo(20, 9);
  expect(blocks(obstacle(rock), 10, 22, 80, 22, 44)).toBe(true);
  expect(blocks(obstacle(rock), 10, 22, 20, 22, 44)).toBe(false);
  expect(blocks(obstacle(rock), 45, 22, 45, 22, 19)).toBe(false);
  expect(blocks(obstacle(mound), 45, 22, 45, 22, 30)).toBe(true);
  expect(blocks(obstacle(mound), 36, 13, 36, 13, 40)).toBe(false);
});

test('bare emitters over a box: light adds up, and flux outside the rim is lost', () => {
  const emission = { shape: 'line' as const, peakNm: 450, fwhmNm: 18, flux: 20 };
  const scene = {
    tank: { lengthCm: 60, widthCm: 40, depthCm: 40, walls: tank.walls, floorReflectance: 0 },
    water: { yellow440PerM: 0, scatterPerM: 0 },
    lamps: [
      { xCm: 30, yCm: 20, heightCm: 15, emitters: [{ dxCm: 0, dyCm: 0, emission, beamExponent: 1 }] },
      { xCm: 30, yCm: 20, heightCm: 15, emitters: [{ dxCm: 5, dyCm: 0, emission, beamExponent: 1 }] },
    ],
    points: [{ xCm: 30, yCm: 20, depthCm: 20 }],
  };
  const [one] = parOfEmitters(scene);
  expect(one).toHaveLength(2);
  expect(one![0]).toBeGreaterThan(one![1]!);
  const inside = enteredOfScene(scene);
  expect(inside).toBeGreaterThan(0.6);
  expect(enteredOfScene({ ...scene, lamps: scene.lamps.map((l) => ({ ...l, xCm: -30 })) })).toBeLessThan(
    inside / 3,
  );
  expect(
    enteredOfScene({
      ...scene,
      lamps: [
        {
          ...scene.lamps[0]!,
          emitters: [{ dxCm: 0, dyCm: 0, emission: { ...emission, flux: 0 }, beamExponent: 1 }],
        },
      ],
    }),
  ).toBe(0);
});
