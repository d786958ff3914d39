import { seeded } from '../spectrum/random';
/** What must not change when a scene is turned, mirrored or looked at from its edge: mistakes of rows, signs and axes show here. */
import { libraryLamp } from '../library/lamps';
import { at, FIRST_NM, integrate, LAST_NM, sample, zeroSpectrum } from '../spectrum/grid';
import { bandPhotons } from '../spectrum/bands';
import { layerMix, mixAt, onGlass } from './evenness';
import { cellX, cellY, fieldAt, layerAt, layerPar, sectionPar } from './field';
import { computeField } from './fieldSteps';
import { computeResponse, type Rig } from './response';
import { lampRows } from './rig';
import { crossingsAt, flicker, focusing, rippleBlendDeg } from './ripple';
import { blocks, obstacle, plainTank, type Solid, type Tank } from './tank';

const kind = libraryLamp('lib-nine');
// emitters of a square face look alike from both axes
const square = { ...kind, layout: 'cluster' as const, faceLengthCm: 20, faceWidthCm: 20 };
const water = { yellow440PerM: 0.2, scatterPerM: 0.05 };
const box = (lengthCm: number, widthCm: number): Tank => ({
  ...plainTank(lengthCm, widthCm, 40),
  walls: { left: 1, right: 0.3, front: 0.8, back: 0.1 },
});
const rock: Solid = {
  id: 'r',
  name: 'rock',
  shape: 'block',
  xCm: 30,
  yCm: 28,
  lengthCm: 12,
  widthCm: 6,
  topCm: 12,
  bottomCm: 40,
};
const par = (rig: Rig) => {
  const m = computeResponse(rig);
  return rig.spots.map((_, s) => rig.rows.reduce((sum, __, r) => sum + m.par[s * m.rows + r]!, 0));
};
/** A single bright source, so that the face's own grid plays no part. */
const oneAt = (xCm: number, yCm: number) =>
  lampRows(square, { xCm, yCm, heightCm: 20, turnDeg: 0 }).map((row) => ({
    ...row,
    emitters: row.emitters.slice(0, 1).map((e) => ({ ...e, xCm, yCm, heightCm: 20, share: 1 })),
  }));
const spot = (xCm: number, yCm: number, depthCm: number) => ({ xCm, yCm, depthCm, openShare: 1 });
const SPOTS = [spot(10, 8, 5), spot(30, 40, 20), spot(44, 34, 39), spot(58, 12, 30), spot(31, 20, 25)];

describe('light from the front and light from the side', () => {
  test.each<[string, Solid[]]>([
    ['in open water', []],
    ['behind a rock', [rock]],
    ['behind a mound', [{ ...rock, shape: 'mound' }]],
    ['over a step of the floor', [{ ...rock, shape: 'step', topCm: 25 }]],
  ])('%s: with the axes exchanged every place gets the same', (_, solids) => {
    const tank = { ...box(70, 50), solids };
    const turned: Tank = {
      ...box(50, 70),
      walls: { left: 0.8, right: 0.1, front: 1, back: 0.3 },
      solids: solids.map((s) => ({
        ...s,
        xCm: s.yCm,
        yCm: s.xCm,
        lengthCm: s.widthCm,
        widthCm: s.lengthCm,
      })),
    };
    const straight = par({ tank, water, rows: oneAt(22, 12), spots: SPOTS });
    const crossed = par({
      tank: turned,
      water,
      rows: oneAt(12, 22),
      spots: SPOTS.map((s) => ({ ...s, xCm: s.yCm, yCm: s.xCm })),
    });
    // edges of shadows lie on other rays of the same many
    straight.forEach((v, i) => expect(crossed[i]! / v).toBeCloseTo(1, 2));
    // they differ among themselves, or nothing would be shown
    expect(Math.max(...straight) / Math.min(...straight)).toBeGreaterThan(3);
  });

  test.each(['left and right', 'front and back'])('mirrored %s every place gets the same', (which) => {
    const side = which === 'left and right';
    const tank = { ...box(70, 50), solids: [rock] };
    const mirror = <T extends { xCm: number; yCm: number }>(p: T): T =>
      side ? { ...p, xCm: 70 - p.xCm } : { ...p, yCm: 50 - p.yCm };
    const { left, right, front, back } = tank.walls;
    const walls = side
      ? { left: right, right: left, front, back }
      : { left, right, front: back, back: front };
    const lamp = mirror({ xCm: 22, yCm: 12 });
    const there = par({ tank, water, rows: oneAt(22, 12), spots: SPOTS });
    const back2 = par({
      tank: { ...tank, walls, solids: [mirror(rock)] },
      water,
      rows: oneAt(lamp.xCm, lamp.yCm),
      spots: SPOTS.map(mirror),
    });
    there.forEach((v, i) => expect(back2[i]! / v).toBeCloseTo(1, 3));
  });

  test('a rock throws its shadow away from the lamp, from front to back and from left to right', () => {
    const tank = { ...box(60, 60), walls: { left: 0, right: 0, front: 0, back: 0 }, floorReflectance: 0 };
    const wall: Solid = { ...rock, xCm: 30, yCm: 30, lengthCm: 8, widthCm: 8, topCm: 2 };
    const [front, back, left, right] = [
      spot(30, 18, 30),
      spot(30, 42, 30),
      spot(18, 30, 30),
      spot(42, 30, 30),
    ];
    const of = (solids: Solid[], x: number, y: number) =>
      par({ tank: { ...tank, solids }, water, rows: oneAt(x, y), spots: [front, back, left, right] });
    for (const [x, y, before, behind] of [
      [30, 2, 0, 1],
      [30, 58, 1, 0],
      [2, 30, 2, 3],
      [58, 30, 3, 2],
    ] as const) {
      const [open, shaded] = [of([], x, y), of([wall], x, y)];
      expect(shaded[before]!).toBeCloseTo(open[before]!, 6);
      expect(open[behind]!).toBeGreaterThan(1);
      expect(shaded[behind]!).toBe(0);
    }
  });

  test('a way ends just before its point, and passes beside, over and under what does not stand in it', () => {
    const o = obstacle({ ...rock, xCm: 0, yCm: 0, lengthCm: 10, widthCm: 10, topCm: 10, bottomCm: 20 });
    // straight down beside it, through it, and onto its top
    expect(blocks(o, 6, 0, 6, 0, 30)).toBe(false);
    expect(blocks(o, 4.9, 0, 4.9, 0, 30)).toBe(true);
    expect(blocks(o, 0, 0, 0, 0, 10)).toBe(false);
    expect(blocks(o, 0, 0, 0, 0, 10.1)).toBe(true);
    // along y at an x beside it; slanting past its front; under its bottom it is met on the way
    expect(blocks(o, 6, -20, 6, 20, 30)).toBe(false);
    expect(blocks(o, 0, -30, 0, -6, 20)).toBe(false);
    expect(blocks(o, 0, -30, 0, 30, 30)).toBe(true);
    const mound = { ...o, mound: true };
    expect(blocks(mound, 4.9, 4.9, 4.9, 4.9, 19)).toBe(false);
    expect(blocks(mound, 0, 0, 0, 0, 11)).toBe(true);
    expect(blocks(mound, 0, -8, 0, 8, 12)).toBe(false);
  });
});

describe('the first of everything', () => {
  const tank = box(40, 24);
  const rows = lampRows(square, { xCm: 9, yCm: 5, heightCm: 15, turnDeg: 0 });
  const grid = { nx: 8, ny: 6, depthsCm: [1, 10, 30] };
  const field = computeField({ tank, water, rows }, grid);
  const full = rows.map((_, r) => 1 + r / 10);

  test('first, last and corner cells of first and last rows say what a spot in their middle says', () => {
    const cells = [
      [0, 0, 0],
      [7, 0, 0],
      [0, 5, 2],
      [7, 5, 2],
      [3, 2, 1],
    ] as const;
    const spots = cells.map(([i, j, d]) => spot(cellX(field, i), cellY(field, j), grid.depthsCm[d]!));
    expect([cellX(field, 0), cellX(field, 7), cellY(field, 0), cellY(field, 5)]).toEqual([2.5, 37.5, 2, 22]);
    const exact = computeResponse({ tank, water, rows, spots });
    cells.forEach(([i, j, d], s) => {
      for (const r of [0, rows.length - 1]) {
        const cell = field.par[(d * rows.length + r) * 48 + j * 8 + i]!;
        expect(cell / exact.par[s * rows.length + r]!).toBeCloseTo(1, 1);
        expect(fieldAt(field, spots[s]!.xCm, spots[s]!.yCm, spots[s]!.depthCm)[r]).toBeCloseTo(cell, 4);
      }
    });
  });

  test('a section is the layer’s line, first line and first row with it', () => {
    const layer = layerPar(field, 10, full);
    const front = sectionPar(field, 'x', cellY(field, 0), full);
    const left = sectionPar(field, 'y', cellX(field, 0), full);
    expect([front.n, left.n]).toEqual([8, 6]);
    for (let i = 0; i < 8; i += 1) expect(front.values[8 + i]).toBeCloseTo(layer[i]!, 6);
    for (let j = 0; j < 6; j += 1) expect(left.values[6 + j]).toBeCloseTo(layer[j * 8]!, 6);
    const between = sectionPar(field, 'x', (cellY(field, 0) + cellY(field, 1)) / 2, full);
    for (let i = 0; i < 8; i += 1)
      expect(between.values[8 + i]).toBeCloseTo((layer[i]! + layer[8 + i]!) / 2, 6);
    expect(layerAt([1, 10, 30], 1)).toEqual([0, 0]);
    expect(layerAt([1, 10, 30], 10)).toEqual([1, 0]);
    expect(layerAt([1, 10, 30], 20)).toEqual([1, 0.5]);
    expect(layerAt([1, 10, 30], 99)).toEqual([1, 1]);
    expect(layerAt([1, 10, 30], 0)).toEqual([0, 0]);
  });

  test('a layer’s mean mix is the mean of its cells, every row to its channel', () => {
    const channelOf = rows.map((_, r) => r % 3);
    const mean = layerMix(field, 10, full, channelOf);
    const sums = [0, 0, 0];
    for (let c = 0; c < 48; c += 1)
      rows.forEach((_, r) => (sums[r % 3]! += full[r]! * field.par[(rows.length + r) * 48 + c]!));
    const ratio = mean[0]! / sums[0]!;
    mean.forEach((v, c) => expect(v / sums[c]!).toBeCloseTo(ratio, 6));
    const here = mixAt(field, { xCm: cellX(field, 0), yCm: cellY(field, 0), depthCm: 10 }, full, channelOf);
    const cell = [0, 0, 0];
    rows.forEach((_, r) => (cell[r % 3]! += full[r]! * field.par[(rows.length + r) * 48]!));
    cell.forEach((v, c) => expect(here[c]).toBeCloseTo(v, 4));
  });

  test('the pane that is nearest to the lamp gets most; twice the light is twice on every pane', () => {
    const glass = onGlass(field, full);
    const [left, right] = glass as [number, number];
    expect(left).toBeGreaterThan(right);
    // a lamp as far from the other panes lights those as this one does these
    const one = onGlass(computeField({ tank, water, rows: oneAt(9, 5) }, grid), full);
    const { left: l, right: rt, front, back } = tank.walls;
    const turned = { ...tank, walls: { left: rt, right: l, front: back, back: front } };
    const other = onGlass(computeField({ tank: turned, water, rows: oneAt(31, 19) }, grid), full);
    [1, 0, 3, 2].forEach((twin, p) => expect(other[twin]! / one[p]!).toBeCloseTo(1, 3));
    onGlass(
      field,
      full.map((v) => 2 * v),
    ).forEach((v, p) => expect(v).toBeCloseTo(2 * glass[p]!, 6));
  });

  test('integrals take the first and the last nanometre by half, bands share their edges', () => {
    const ends = zeroSpectrum();
    ends[0] = 2;
    ends[ends.length - 1] = 4;
    expect(integrate(ends)).toBe(3);
    expect(integrate(ends, FIRST_NM, 400)).toBe(1);
    expect(integrate(ends, 700, LAST_NM)).toBe(2);
    const edge = zeroSpectrum();
    edge[400 - FIRST_NM] = 1;
    expect(at(edge, 400)).toBe(1);
    expect(bandPhotons(edge)).toMatchObject({ nearUv: 0.5, violet: 0.5, royalBlue: 0 });
    expect(integrate(sample((nm) => nm))).toBeCloseTo((780 ** 2 - 360 ** 2) / 2, 6);
  });
});

describe('ripples', () => {
  test('rays cross the surface between lamp and spot, nearer to the lamp the lower it hangs', () => {
    const tank = box(60, 60);
    const rows = oneAt(10, 20).slice(0, 1);
    const cross = (depthCm: number) => {
      const [c] = crossingsAt(rows, tank, { xCm: 50, yCm: 20, depthCm }, [1], [0]);
      return c!;
    };
    const near = cross(1);
    const deep = cross(39);
    expect(near.yCm).toBeCloseTo(20, 9);
    // just under the surface nearly all of the way lies in air
    expect(near.xCm).toBeGreaterThan(48);
    expect(deep.xCm).toBeLessThan(near.xCm);
    // Snell: sines of the two angles are as 1.339 to 1
    const [air, inWater] = [deep.xCm - 10, 50 - deep.xCm].map(
      (way, i) => way / Math.hypot(way, [20, 39][i]!),
    );
    expect(air! / inWater!).toBeCloseTo(1.339, 2);
    const [straight] = crossingsAt(rows, tank, { xCm: 10, yCm: 20, depthCm: 10 }, [1], [0]);
    expect([straight!.xCm, straight!.yCm]).toEqual([10, 20]);
  });

  test('light flickers as facets of a surface traced one by one say, under a lamp less than under the sun', () => {
    const index = 1.339;
    /** how light under a surface of many waves of one length is spread over cells of a sixteenth of one, by small angles */
    const traced = (aboveCm: number, depthCm: number, slope: number, lengthCm: number, seed: number) => {
      const random = seeded(seed);
      const k = (2 * Math.PI) / lengthCm;
      const waves = Array.from({ length: 12 }, () => {
        const turn = random() * 2 * Math.PI;
        return { x: Math.cos(turn), y: Math.sin(turn), phase: random() * 2 * Math.PI };
      });
      const height = slope / Math.sqrt(waves.length / 2);
      const spreads = Number.isFinite(aboveCm) ? 1 + depthCm / index / aboveCm : 1;
      // three crests wide, a sixteenth of one fine
      const half = 1.5 * lengthCm * spreads;
      const cell = half / 24;
      const cells = new Float64Array(48 ** 2);
      const step = cell / spreads / 10;
      for (let x = -half / spreads - 2; x < half / spreads + 2; x += step)
        for (let y = -half / spreads - 2; y < half / spreads + 2; y += step) {
          let [sx, sy] = [0, 0];
          for (const w of waves) {
            const s = height * Math.cos(k * (w.x * x + w.y * y) + w.phase);
            sx += s * w.x;
            sy += s * w.y;
          }
          const bend = depthCm * (1 - 1 / index);
          const at = [x * spreads - bend * sx, y * spreads - bend * sy].map((v) =>
            Math.floor((v + half) / cell),
          );
          const wide = (2 * half) / cell;
          if (at.every((v) => v >= 0 && v < wide)) cells[at[1]! * wide + at[0]!]! += 1;
        }
      const sorted = [...cells].sort((a, b) => a - b);
      const mean = sorted.reduce((s, v) => s + v, 0) / sorted.length;
      const variance = sorted.reduce((s, v) => s + (v - mean) ** 2, 0) / sorted.length;
      return { cv: Math.sqrt(variance) / mean, flash: sorted[Math.floor(0.95 * sorted.length)]! / mean };
    };
    const said = (aboveCm: number, depthCm: number, slope: number) =>
      flicker([{ channel: 0, xCm: 0, yCm: 0, aboveCm, par: 100 }], slope, depthCm, 100);
    for (const [aboveCm, depthCm, slope, lengthCm] of [
      [24, 17, 0.05, 8],
      [24, 40, 0.05, 8],
      [Infinity, 17, 0.05, 8],
      [15, 30, 0.12, 12],
    ] as const) {
      const runs = [1, 2, 3].map((seed) => traced(aboveCm, depthCm, slope, lengthCm, seed));
      const mean = (of: 'cv' | 'flash') => runs.reduce((s, r) => s + r[of], 0) / runs.length;
      const { cv, flashUmol } = said(aboveCm, depthCm, slope);
      expect(cv / mean('cv')).toBeGreaterThan(0.75);
      expect(cv / mean('cv')).toBeLessThan(1.25);
      expect(flashUmol / 100 / mean('flash')).toBeGreaterThan(0.9);
      expect(flashUmol / 100 / mean('flash')).toBeLessThan(1.1);
    }
    expect(said(24, 40, 0.05).cv).toBeLessThan(0.7 * said(Infinity, 40, 0.05).cv);
    // half of the light scattered flickers half as much; many emitters apart flicker less than one
    const one = { channel: 0, xCm: 0, yCm: 0, aboveCm: 24, par: 50 };
    expect(flicker([one], 0.05, 17, 100).cv).toBeCloseTo(said(24, 17, 0.05).cv / 2, 9);
    expect(flicker([one, { ...one, xCm: 50 }], 0.05, 17, 100).cv).toBeCloseTo(
      said(24, 17, 0.05).cv / Math.SQRT2,
      9,
    );
    expect(flicker([one], 0, 17, 50)).toEqual({ cv: 0, flashUmol: 50 });
    expect(flicker([], 0.05, 17, 0)).toEqual({ cv: 0, flashUmol: 0 });
  });

  test('one colour never wavers in hue; two that cross apart waver as the formula says', () => {
    const far = { aboveCm: Infinity };
    const one = [
      { channel: 0, xCm: 0, yCm: 0, par: 10, ...far },
      { channel: 0, xCm: 9, yCm: 0, par: 10, ...far },
    ];
    expect(rippleBlendDeg(one, 0.05, 20)).toBe(0);
    const two = [
      { channel: 0, xCm: 0, yCm: 0, par: 10, ...far },
      { channel: 1, xCm: 100, yCm: 0, par: 10, ...far },
    ];
    // far apart each flickers by itself: σ·|across| with u = (1, 1)/√2
    const sigma = focusing(0.05, 20);
    expect(sigma).toBeCloseTo(20 * (1 - 1 / 1.339) * ((2 * Math.PI * 0.05) / 8), 9);
    const angle = (Math.atan((sigma * Math.sqrt(2 * 100 * 0.5)) / Math.hypot(10, 10)) * 180) / Math.PI;
    expect(rippleBlendDeg(two, 0.05, 20)).toBeCloseTo(angle, 9);
    // side by side they flicker together
    const beside = two.map((c) => ({ ...c, xCm: 0 }));
    expect(rippleBlendDeg(beside, 0.05, 20)).toBeLessThan(1e-6);
    expect(rippleBlendDeg(two, 0, 20)).toBe(0);
    expect(focusing(1, 100)).toBe(1);
    // where nothing crosses, nothing flickers
    expect(rippleBlendDeg([], 0.05, 20)).toBe(0);
    expect(rippleBlendDeg([{ channel: 0, xCm: 0, yCm: 0, par: 0, ...far }], 0.05, 20)).toBe(0);
  });
});
