import fc from 'fast-check';

import { lampLibrary } from '../library/lamps';
import { demoPanel } from '@/demo/panel';
import { par } from './bands';
import {
  allFull,
  channelLevels,
  controlPerChannel,
  dims,
  followsStrength,
  isLinear,
  toStep,
  typedControls,
} from './controls';
import { PLAIN_CONTROLLER, drivenChannels, type Dimming, type LampKind, type Levels } from './lampKind';
import { emissionSpectrum } from './emission';
import { integrate, withoutTails } from './grid';
import {
  beamExponent,
  channelSpectrum,
  efficacyUmolPerJ,
  keptSpectrum,
  lampKind,
  mixSpectrum,
  needsEyeCaution,
  OPTIC_SHARE,
} from './lamp';
import { channelWallWatts, DRIVER_EFFICIENCY, fullWallWatts } from './watts';
import { driveOf, throughDrive, curvePiece, emittedShares } from './drive';

const kinds = lampLibrary().map((l) => l.kind);
const share = fc.double({ min: 0, max: 1, noNaN: true });
const anyMix = (kind: (typeof kinds)[number]) =>
  fc.record(Object.fromEntries(kind.controls.map((c) => [c.id, share]))) as fc.Arbitrary<Levels>;
const anyLamp = fc.constantFrom(...kinds).chain((kind) => fc.tuple(fc.constant(kind), anyMix(kind)));

describe('controls of every lamp', () => {
  test('channel levels stay within 0..1 and grow with strength', () => {
    fc.assert(
      fc.property(anyLamp, share, ([kind, mix], strength) => {
        const full = channelLevels(
          kind,
          typedControls({ ...kind, controller: { ...kind.controller, pointStepShare: 0 } }, mix, 1),
        );
        const some = channelLevels(
          kind,
          typedControls({ ...kind, controller: { ...kind.controller, pointStepShare: 0 } }, mix, strength),
        );
        some.forEach((v, i) => {
          expect(v).toBeGreaterThanOrEqual(0);
          expect(v).toBeLessThanOrEqual(full[i]! + 1e-9);
        });
      }),
    );
  });

  test('no strength, no light; absent controls are off; unknown ones do nothing', () => {
    for (const kind of kinds) {
      expect(channelLevels(kind, typedControls(kind, allFull(kind), 0)).every((v) => v === 0)).toBe(true);
      expect(channelLevels(kind, {}).every((v) => v === 0)).toBe(true);
      expect(channelLevels(kind, { nothing: 1 })).toEqual(channelLevels(kind, {}));
    }
  });

  test('what is typed is a multiple of the lamp’s step', () => {
    fc.assert(
      fc.property(anyLamp, share, ([kind, mix], strength) => {
        const step = kind.controller.pointStepShare;
        for (const [id, v] of Object.entries(typedControls(kind, mix, strength))) {
          const control = kind.controls.find((c) => c.id === id)!;
          if (control.kind === 'onOff') expect([0, 1]).toContain(v);
          else if (step > 0) expect(Math.abs(v / step - Math.round(v / step))).toBeLessThan(1e-9);
        }
      }),
    );
    expect(toStep(0.5049, 0.01)).toBeCloseTo(0.5, 12);
    expect(toStep(0.505, 0.01)).toBeCloseTo(0.51, 12);
    expect(toStep(0.99, 0.3)).toBeCloseTo(0.9, 12);
  });

  test('which lamps dim, which are linear, and what drives what', () => {
    const of = (id: string) => kinds.find((k) => k.id === id)!;
    expect(kinds.filter((k) => !dims(k)).map((k) => k.id)).toEqual([
      'lib-two-circuit',
      'lib-violet-bar',
      'lib-tubes',
      'lib-refugium-fixed',
      'lib-refugium-day',
    ]);
    expect(isLinear(of('lib-nine'))).toBe(true);
    for (const id of ['lib-eight-blue', 'lib-tint', 'lib-balance', 'lib-tubes', 'lib-refugium-dim'])
      expect(isLinear(of(id))).toBe(false);
    const tint = of('lib-tint').controls.find((c) => c.kind === 'tint')!;
    expect(drivenChannels(tint)).toEqual(['white', 'royal-blue', 'blue']);
    expect(followsStrength(tint)).toBe(false);
    expect(controlPerChannel([{ id: 'a', name: 'A' }])).toEqual([
      { kind: 'level', id: 'a', name: 'A', drives: { a: 1 } },
    ]);
  });

  test('a plan is not kept beyond the channels it was made for', () => {
    const swapped = { ...demoPanel, channels: [...demoPanel.channels].reverse() };
    const mix = { violet: 0.3, 'deep-red': 0.9 };
    expect(channelLevels(swapped, mix)).toEqual([...channelLevels(demoPanel, mix)].reverse());
    expect(channelLevels(demoPanel, mix)[1]).toBe(0.3);
  });

  test('a tint runs evenly between its stops and holds beyond its ends', () => {
    const kind = kinds.find((k) => k.id === 'lib-tint')!;
    const at = (tint: number) => channelLevels(kind, { tint, brightness: 1 });
    at(0.25).forEach((v, i) => expect(v).toBeCloseTo((at(0)[i]! + at(0.5)[i]!) / 2, 12));
    at(0.75).forEach((v, i) => expect(v).toBeCloseTo((at(0.5)[i]! + at(1)[i]!) / 2, 12));
    expect(at(2)).toEqual(at(1));
  });
});

/** Light of one channel by itself. */
const lightOfDrive = (dimming: Dimming, level: number): number =>
  throughDrive({ dimming: [dimming], watts: [1], budgetWatts: null }, [level]).light[0]!;
const budgetFactor = (kind: LampKind, levels: number[]): number =>
  throughDrive(driveOf(kind), levels).budgetShare;

describe('from drive to light', () => {
  const dimming = { lowestLitShare: 0.1, curve: [[0.5, 0.25]] as [number, number][] };

  test('dark below the lowest level, straight between measured points, full at full', () => {
    expect(lightOfDrive(dimming, 0.05)).toBe(0);
    expect(lightOfDrive(dimming, 0.25)).toBeCloseTo(0.125, 12);
    expect(lightOfDrive(dimming, 0.75)).toBeCloseTo(0.625, 12);
    expect(lightOfDrive(dimming, 1)).toBeCloseTo(1, 12);
    expect(curvePiece(dimming.curve, 0.2)).toEqual([0, 0, 0.5, 0.25]);
    expect(curvePiece(dimming.curve, 0.9)).toEqual([0.5, 0.25, 1, 1]);
  });

  test('light never falls while drive rises, whatever the curve', () => {
    const curve = fc
      .uniqueArray(fc.integer({ min: 1, max: 99 }), { minLength: 1, maxLength: 6 })
      .chain((xs) =>
        fc.array(share, { minLength: xs.length, maxLength: xs.length }).map((ys) => {
          const rising = [...ys].sort((a, b) => a - b);
          return [...xs].sort((a, b) => a - b).map((x, i): [number, number] => [x / 100, rising[i]!]);
        }),
      );
    fc.assert(
      fc.property(curve, share, share, (points, a, b) => {
        const d = { lowestLitShare: 0, curve: points };
        expect(lightOfDrive(d, Math.max(a, b))).toBeGreaterThanOrEqual(
          lightOfDrive(d, Math.min(a, b)) - 1e-12,
        );
      }),
    );
  });

  test('a budget scales all channels alike, and only when it is passed', () => {
    const budget = kinds.find((k) => k.id === 'lib-eight-blue')!;
    const full = budget.channels.map(() => 1);
    const factor = budgetFactor(budget, full);
    expect(factor).toBeLessThan(1);
    const shares = emittedShares(budget, full);
    shares.forEach((v) => expect(v).toBeCloseTo(factor, 9));
    const watts = channelWallWatts(budget).reduce((sum, w, i) => sum + w * shares[i]!, 0);
    expect(watts).toBeCloseTo(165, 6);
    expect(fullWallWatts(budget)).toBe(165);
    expect(
      budgetFactor(
        budget,
        budget.channels.map(() => 0.2),
      ),
    ).toBe(1);
  });

  test('flux is count × watts × efficacy × optic, wall watts emitter watts over the driver', () => {
    for (const kind of kinds) {
      kind.channels.forEach((c, i) => {
        const emitters = c.groups.reduce((sum, g) => sum + g.count * g.wattsEach, 0);
        expect(channelWallWatts(kind)[i]).toBeCloseTo(emitters / DRIVER_EFFICIENCY, 9);
        const most = c.groups.reduce((sum, g) => sum + g.count * g.wattsEach * 3.4 * OPTIC_SHARE, 0);
        const flux = integrate(keptSpectrum(c));
        expect(flux).toBeGreaterThan(0);
        // no emitter is better than the best of its kind
        expect(flux).toBeLessThan(most);
      });
    }
  });

  test('efficacy runs evenly between its rows and holds at the ends', () => {
    expect(efficacyUmolPerJ(300)).toBe(efficacyUmolPerJ(360));
    expect(efficacyUmolPerJ(900)).toBe(efficacyUmolPerJ(780));
    for (let nm = 365; nm < 700; nm += 5)
      expect(Math.abs(efficacyUmolPerJ(nm + 1) - efficacyUmolPerJ(nm))).toBeLessThan(0.15);
  });

  test('beams: half the intensity at half the angle', () => {
    for (const angle of [30, 80, 120, 160]) {
      const m = beamExponent(angle);
      expect(Math.cos((angle * Math.PI) / 360) ** m).toBeCloseTo(0.5, 12);
    }
    expect(beamExponent(120)).toBeCloseTo(1, 12);
  });

  test('eyes need care beside violet and near UV, not beside blue', () => {
    const cautious = demoPanel.channels.filter(needsEyeCaution).map((c) => c.id);
    expect(cautious).toEqual(['near-uv', 'violet']);
  });

  test('tails are cut where they mean nothing, and PAR does not notice', () => {
    const raw = emissionSpectrum({ shape: 'line', peakNm: 450, fwhmNm: 15, flux: 10 });
    const before = par(raw);
    const cut = withoutTails(raw.slice());
    expect(par(cut)).toBeCloseTo(before, 12);
    expect(cut.filter((v) => v !== 0 && v < 1e-16).length).toBe(0);
    expect(cut.filter((v) => v === 0).length).toBeGreaterThan(100);
    expect(channelSpectrum(demoPanel.channels[2]!)).toEqual(keptSpectrum(demoPanel.channels[2]!));
  });

  test('a mix is the sum of its channels, and a lamp kind without extras is plain', () => {
    const mix = { violet: 0.2, 'cool-white': 0.7 };
    const sum = mixSpectrum(demoPanel, mix);
    const [v, w] = [keptSpectrum(demoPanel.channels[1]!), keptSpectrum(demoPanel.channels[6]!)];
    sum.forEach((x, i) => expect(x).toBeCloseTo(0.2 * v[i]! + 0.7 * w[i]!, 9));
    const plain = lampKind({
      id: 'p',
      name: 'p',
      channels: [],
      beamAngleDeg: 90,
      faceLengthCm: 1,
      faceWidthCm: 1,
    });
    expect(plain).toMatchObject({
      source: 'led',
      layout: 'spread',
      powerBudgetWatts: null,
      price: null,
      controls: [],
    });
    expect(plain.controller).toEqual(PLAIN_CONTROLLER);
  });
});
