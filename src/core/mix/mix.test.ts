import fc from 'fast-check';

import { demoPanel } from '@/demo/panel';

import { lampLibrary, libraryLamp } from '../library/lamps';
import { par } from '../spectrum/bands';
import { allFull, channelLevels, typedControls } from '../spectrum/controls';
import { controlsProblem, type Levels, type LampKind } from '../spectrum/lampKind';
import { emissionSpectrum } from '../spectrum/emission';
import { keptSpectrum, lampKind, mixSpectrum } from '../spectrum/lamp';
import { boundedFit } from './boundedFit';
import { carrySpectrum, carryToLamp, matchAtEqualPar } from './carry';
import { phosphorWhiteTable } from './phosphor';
import { inCameraRange, photographMix } from './photograph';
import { atPar, blueBreadthNm, sharedPhotons, sharesOfPar } from './shape';
import { blend, lightDifference, lostBands, scaleAll } from './versions';

const clear = new Float64Array(421).fill(1);
const share = fc.double({ min: 0, max: 1, noNaN: true });
const mixOf = (kind: LampKind) =>
  fc.record(Object.fromEntries(kind.controls.map((c) => [c.id, share]))) as fc.Arbitrary<Levels>;

describe('bounded least squares', () => {
  /** Slow and obviously right: cyclic coordinate descent. */
  function slow(columns: number[][], target: number[]): number[] {
    const x = columns.map(() => 0);
    const r = [...target];
    for (let round = 0; round < 20_000; round += 1) {
      columns.forEach((a, j) => {
        const aa = a.reduce((s, v) => s + v * v, 0);
        if (aa === 0) return;
        const next = Math.min(1, Math.max(0, x[j]! + a.reduce((s, v, i) => s + v * r[i]!, 0) / aa));
        a.forEach((v, i) => (r[i]! -= (next - x[j]!) * v));
        x[j] = next;
      });
    }
    return x;
  }
  const cost = (columns: number[][], target: number[], x: number[]) =>
    target.reduce((s, b, i) => s + (b - columns.reduce((t, a, j) => t + a[i]! * x[j]!, 0)) ** 2, 0);

  test('is never worse than coordinate descent, and stays within its bounds', () => {
    const value = fc.double({ min: -1, max: 2, noNaN: true });
    fc.assert(
      fc.property(
        fc.array(fc.array(value, { minLength: 9, maxLength: 9 }), { minLength: 1, maxLength: 5 }),
        fc.array(value, { minLength: 9, maxLength: 9 }),
        (columns, target) => {
          const { x } = boundedFit(columns, target);
          expect(x.every((v) => v >= 0 && v <= 1)).toBe(true);
          const best = cost(columns, target, slow(columns, target));
          expect(cost(columns, target, x)).toBeLessThanOrEqual(best + 1e-7 * (1 + best));
        },
      ),
      { numRuns: 40 },
    );
  });

  test('columns that differ by a few millionths are still told apart', () => {
    const columns = [
      [0, 0, 0, 0, 0, 0, 0, 0.0000025, -0.79],
      [0, 0, 0, 0, 0, 0, 0, 0, 0.079],
      [0, 0, 0, 0, 0, 0, 0, 0, 0],
    ];
    const { x } = boundedFit(columns, [0, 0, 0, 0, 0, 0, 0, 0.577, 0]);
    expect(x[0]).toBeCloseTo(0.1, 3);
    expect(x[1]).toBeCloseTo(1, 3);
  });

  test('twins and empty columns do no harm', () => {
    const a = [1, 2, 3];
    const { x } = boundedFit(
      [a, a, [0, 0, 0]],
      a.map((v) => 1.5 * v),
    );
    expect(x[0]! + x[1]!).toBeCloseTo(1.5, 9);
    expect(x[2]).toBe(0);
    expect(boundedFit([a], [0, 0, 0]).x).toEqual([0]);
  });
});

describe('carrying', () => {
  test('to the same lamp it is the identity, for plain channels and for every lamp whose controls are levels', () => {
    for (const kind of [demoPanel, ...lampLibrary().map((l) => l.kind)]) {
      if (!kind.controls.every((c) => c.kind === 'level') || kind.powerBudgetWatts !== null) continue;
      fc.assert(
        fc.property(mixOf(kind), (mix) => {
          const source = mixSpectrum({ ...kind, channels: kind.channels.map(undimmed) }, mix);
          fc.pre(par(source) > 1e-3);
          const columns = kind.controls.map((c) =>
            mixSpectrum({ ...kind, channels: kind.channels.map(undimmed) }, { [c.id]: 1 }),
          );
          const back = carrySpectrum(source, columns);
          kind.controls.forEach((c, i) => expect(back.levels[i]).toBeCloseTo(mix[c.id]!, 5));
          expect(back.match).toBeGreaterThan(1 - 1e-6);
          expect(back.parRatio).toBeCloseTo(1, 6);
        }),
        { numRuns: 12 },
      );
    }
  });
  const undimmed = (c: LampKind['channels'][number]) => ({ ...c, dimming: { lowestLitShare: 0, curve: [] } });

  test('with its own controls a lamp finds its own light again: tint, circuits, trims, tied keys', () => {
    const cases: [string, Levels][] = [
      ['lib-tint', { brightness: 0.6, tint: 0.3, violet: 0.2, green: 0.1, red: 0 }],
      ['lib-two-circuit', { blue: 1, white: 0 }],
      ['lib-five-step', { 'blue-key': 0.6, 'white-key': 0.4 }],
      ['lib-balance', { balance: 0.7, 'violet-trim': 0.5, 'cyan-trim': 0.5, white: 0.2 }],
    ];
    for (const [id, mix] of cases) {
      const kind = libraryLamp(id);
      const carried = carryToLamp(mixSpectrum(kind, mix), kind);
      expect(carried.match).toBeGreaterThan(0.99);
      expect(carried.parRatio).toBeGreaterThan(0.93);
      expect(carried.parRatio).toBeLessThan(1.07);
    }
  });

  test('a source that is too strong keeps its colour and says how much strength is left', () => {
    const kind = libraryLamp('lib-nine-half');
    const big = libraryLamp('lib-nine');
    const mix = Object.fromEntries(big.controls.map((c) => [c.id, c.id === 'royal-blue' ? 1 : 0.6]));
    const carried = carryToLamp(mixSpectrum(big, mix), kind);
    expect(carried.match).toBeGreaterThan(0.97);
    expect(carried.parRatio).toBeGreaterThan(0.35);
    expect(carried.parRatio).toBeLessThan(0.7);
    expect(Object.values(carried.mix).every((v) => v >= 0 && v <= 1)).toBe(true);
  });

  test('locked controls stay, dark sources are refused, lost bands are named', () => {
    const kind = libraryLamp('lib-two-circuit');
    const violet = mixSpectrum(libraryLamp('lib-violet-bar'), { violet: 1 });
    const carried = carryToLamp(violet, kind, undefined, { white: 0 });
    expect(carried.mix).toMatchObject({ white: 0, blue: 1 });
    const lost = lostBands(violet, carried.spectrum, kind);
    expect(lost[0]).toMatchObject({ name: 'violet', became: 'royal blue' });
    expect(() => carryToLamp(new Float64Array(421), kind)).toThrow(RangeError);
    expect(
      matchAtEqualPar(
        violet,
        violet.map((v) => v * 3),
      ),
    ).toBeCloseTo(1, 12);
  });
});

describe('controls', () => {
  test('every lamp of the library is whole', () => {
    for (const { kind } of lampLibrary()) {
      expect([kind.name, controlsProblem(kind)]).toEqual([kind.name, null]);
      expect(par(mixSpectrum(kind, allFull(kind)))).toBeGreaterThan(20);
    }
    expect(lampLibrary().length).toBeGreaterThanOrEqual(11);
    expect(new Set(lampLibrary().map((l) => l.kind.id)).size).toBe(lampLibrary().length);
  });

  test('tied channels cannot drift apart', () => {
    const kind = libraryLamp('lib-five-step');
    fc.assert(
      fc.property(mixOf(kind), share, (mix, strength) => {
        const [violet, blue, white, green, red] = channelLevels(kind, typedControls(kind, mix, strength));
        expect(violet).toBe(blue);
        expect([white, white]).toEqual([green, red]);
        // five steps: nothing else can be typed
        expect(Math.abs(Math.round(blue! * 5) - blue! * 5)).toBeLessThan(1e-9);
      }),
    );
  });

  test('scaling all controls changes no shape figure', () => {
    fc.assert(
      fc.property(mixOf(demoPanel), fc.double({ min: 0.05, max: 4, noNaN: true }), (mix, factor) => {
        const before = mixSpectrum(demoPanel, mix);
        fc.pre(par(before) > 0.5);
        const after = mixSpectrum(demoPanel, scaleAll(demoPanel, mix, factor, []));
        expect(sharedPhotons(before, after)).toBeCloseTo(1, 9);
        expect(blueBreadthNm(after)).toBeCloseTo(blueBreadthNm(before)!, 6);
        const [a, b] = [sharesOfPar(before), sharesOfPar(after)];
        expect(b.violet).toBeCloseTo(a.violet, 9);
        expect(b.red).toBeCloseTo(a.red, 9);
      }),
      { numRuns: 40 },
    );
    const locked = scaleAll(demoPanel, { violet: 0.4, blue: 0.2 }, 10, ['violet']);
    expect(locked).toMatchObject({ violet: 0.4, blue: 1 });
  });

  test('strength acts on brightness, never on tint or trims; circuits are on above nothing', () => {
    const tint = libraryLamp('lib-tint');
    expect(typedControls(tint, { brightness: 0.8, tint: 0.3, violet: 0.5 }, 0.5)).toMatchObject({
      brightness: 0.4,
      tint: 0.3,
      violet: 0.25,
    });
    expect(typedControls(libraryLamp('lib-two-circuit'), { blue: 1, white: 0 }, 0.01)).toEqual({
      blue: 1,
      white: 0,
    });
    const [white, royal] = channelLevels(tint, { brightness: 0.5, tint: 0.25 });
    expect(white).toBeCloseTo(0.35, 9);
    expect(royal).toBeCloseTo(0.3375, 9);
    const balance = libraryLamp('lib-balance');
    const low = channelLevels(balance, { balance: 0.5, 'violet-trim': 0 })[0]!;
    expect(channelLevels(balance, { balance: 0.5, 'violet-trim': 1 })[0]! / low).toBeCloseTo(2.2, 9);
  });

  test('problems of controls are named', () => {
    const base = libraryLamp('lib-two-circuit');
    const broken = (controls: LampKind['controls']) => controlsProblem({ ...base, controls });
    expect(broken([])).toMatch(/nothing drives the channel Blue circuit/);
    expect(broken([{ kind: 'level', id: 'a', name: 'A', drives: { green: 1 } }])).toMatch(/"green"/);
    expect(broken([{ kind: 'brightness', id: 'b', name: 'B' }, ...base.controls])).toMatch(/one pair/);
    const tint = { kind: 'tint' as const, id: 't', name: 'T', fromName: 'a', toName: 'b' };
    expect(
      broken([
        { kind: 'brightness', id: 'b', name: 'B' },
        { ...tint, stops: [{ at: 0, shares: { blue: 1, white: 1 } }] },
      ]),
    ).toMatch(/rise from 0 to 1/);
    expect(broken([base.controls[0]!, base.controls[0]!])).toMatch(/share an id/);
  });
});

describe('the photograph mix', () => {
  test.each(['lib-nine', 'lib-eight-blue', 'lib-tint', 'lib-balance', 'lib-five-step'])(
    '%s: inside the camera’s range at hardly any change of PAR where the lamp can',
    (id) => {
      const kind = libraryLamp(id);
      const mix = Object.fromEntries(kind.controls.map((c) => [c.id, c.kind === 'tint' ? 0.6 : 0.4]));
      const found = photographMix(kind, mix, clear);
      expect(found).not.toBeNull();
      expect(inCameraRange(mixSpectrum(kind, found!.mix))).toBe(true);
      expect(par(mixSpectrum(kind, found!.mix)) / par(mixSpectrum(kind, mix))).toBeCloseTo(
        found!.parRatio,
        6,
      );
      if (id === 'lib-nine') expect(Math.abs(found!.parRatio - 1)).toBeLessThan(0.02);
    },
  );

  test('a lamp of blues alone cannot, and says so; locked controls stay', () => {
    expect(photographMix(libraryLamp('lib-blue-bar'), { blue: 1 }, clear)).toBeNull();
    const kind = libraryLamp('lib-nine');
    const mix = Object.fromEntries(kind.controls.map((c) => [c.id, 0.4]));
    expect(photographMix(kind, mix, clear, { violet: 0.4 })!.mix.violet).toBe(0.4);
  });
});

test('versions are told in light; blending lies between', () => {
  const a: Levels = { violet: 0.5, 'royal-blue': 0.8 };
  const b: Levels = { violet: 0.5, 'royal-blue': 0.4 };
  const told = lightDifference(demoPanel, a, b).join(', ');
  expect(told).toMatch(/^PAR × 0\.\d\d, violet \+\d.*royal blue −\d/);
  expect(told).not.toMatch(/% of full/);
  expect(lightDifference(demoPanel, a, { ...a })).toEqual([]);
  expect(lightDifference(demoPanel, a, {})).toEqual(['dark']);
  expect(blend(demoPanel, a, b, 0.5)['royal-blue']).toBeCloseTo(0.6, 9);
  expect(blend(libraryLamp('lib-two-circuit'), { blue: 1 }, { white: 1 }, 0.6)).toEqual({
    blue: 0,
    white: 1,
  });
});

test('equal PAR and shared photons: the same light shares all, another kind little', () => {
  const blue = emissionSpectrum({ shape: 'line', peakNm: 450, fwhmNm: 20, flux: 3 });
  const red = emissionSpectrum({ shape: 'line', peakNm: 660, fwhmNm: 20, flux: 8 });
  expect(par(atPar(blue, 50))).toBeCloseTo(50, 9);
  expect(
    sharedPhotons(
      blue,
      blue.map((v) => 7 * v),
    ),
  ).toBeCloseTo(1, 12);
  expect(sharedPhotons(blue, red)).toBeLessThan(0.01);
  expect(sharedPhotons(blue, new Float64Array(421))).toBeNull();
  expect(blueBreadthNm(blue)).toBeGreaterThan(34);
  expect(blueBreadthNm(blue)).toBeLessThan(42);
});

test('emitters with a stated photon flux keep it; whites of any kelvin figure land on the locus', () => {
  const kind = lampKind({
    id: 'f',
    name: 'stated',
    channels: [
      {
        id: 'x',
        name: 'X',
        groups: [
          { light: { shape: 'line', peakNm: 450, fwhmNm: 18 }, count: 5, wattsEach: 3, fluxEachUmolPerS: 4 },
        ],
      },
    ],
    beamAngleDeg: 90,
    faceLengthCm: 10,
    faceWidthCm: 10,
  });
  expect(keptSpectrum(kind.channels[0]!).reduce((s, v) => s + v, 0)).toBeCloseTo(20, 6);
  expect(() => phosphorWhiteTable(1500)).toThrow(RangeError);
});
