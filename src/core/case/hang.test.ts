import { displayCase } from '@/demo/lagoon';

import { someTank } from '../fixtures/tanks';
import type { Zone } from '../record/zone';
import { seeded } from '../spectrum/random';
import { ended } from '../shape/ended';
import { bareCalibration, hungGroups } from './calibration';
import { type Arrangement, Hanger, type HangAsk, type HangFigures, hangSteps, hungLight } from './hang';
import { draftGroups } from './lit';

const bundle = displayCase(Date.parse('2026-11-24T12:00:00Z'), 'UTC');
const demo = bundle.case.zones[0]!;
const askOf = (zone: Zone, more: Partial<HangAsk> = {}): HangAsk => {
  const doc = { ...bundle.case, zones: [zone] };
  return {
    zone,
    groups: draftGroups(doc, zone),
    groupId: zone.groups[0]!.id,
    cal: bareCalibration(hungGroups(doc, zone), zone),
    ...{ lowestCm: 12, highestCm: 60, calm: null, used: null },
    ...more,
  };
};

const parts = (f: HangFigures) => [f.cost, f.uneven, f.glassUmol, f.lostShare, f.watts];
/** Better in everything, in something by more than a hair. */
const dominates = (a: HangFigures, b: HangFigures) => {
  const [x, y] = [parts(a), parts(b)];
  return x.every((v, i) => v <= y[i]! + 1e-9) && x.some((v, i) => v < 0.98 * y[i]! - 0.01);
};

test('answers are near the whole light, better than as it hangs, each best at what it is for', () => {
  const { now, ways, seen } = ended(hangSteps(askOf(demo)));
  const of = (aim: string) => ways.find((w) => w.aim === aim || w.also.includes(aim as never))!.figures;
  expect(ways.length).toBeGreaterThanOrEqual(3);
  expect(seen.length).toBeGreaterThan(20);
  expect(of('corals').within).toBeGreaterThanOrEqual(now.within);
  expect(of('corals').cost).toBeLessThanOrEqual(now.cost + 0.02);
  expect(of('even').uneven).toBeLessThanOrEqual(of('corals').uneven + 1e-9);
  expect(of('glass').glassUmol).toBeLessThanOrEqual(of('corals').glassUmol + 1e-9);
  expect(of('watts').watts).toBeLessThanOrEqual(of('corals').watts + 1e-9);
  for (const w of ways) {
    // what is said of a coral is what a computation of its own finds
    const whole = hungLight(askOf(demo), w.lamps, w.kind, w.figures.capShare).days;
    w.figures.umol.forEach((v, i) => expect(v).toBeCloseTo(whole[i]!.peak, 9));
    expect(w.figures.flash!.umol).toBeGreaterThan(Math.max(...w.figures.umol));
    expect(w.figures.step).toBeNull();
    for (const l of w.lamps) {
      expect(l.heightCm).toBeGreaterThanOrEqual(12);
      expect(l.heightCm).toBeLessThanOrEqual(60);
      expect(l.xCm).toBeGreaterThan(0);
      expect(l.xCm).toBeLessThan(demo.tank.lengthCm);
      expect(w.lamps.map((x) => x.id)).toEqual(demo.groups[0]!.lamps.map((x) => x.id));
    }
  }
});

test('what is looked at quickly agrees with the whole light', () => {
  const ask = askOf(demo);
  const hanger = new Hanger(ask);
  const arrangement: Arrangement = {
    heightCm: 30,
    spread: 0.9,
    alongCm: 0,
    acrossCm: 5,
    turnDeg: 0,
    tiltDeg: 10,
    diffuserShare: 1,
  };
  const lamps = hanger.lamps(arrangement)!;
  const quick = hanger.figures(hanger.full(lamps, hanger.kindOf(arrangement)), 0.5).umol;
  hungLight(ask, lamps, hanger.kindOf(arrangement), 0.5).days.forEach(({ peak: v }, i) => {
    expect(quick[i]! / v).toBeGreaterThan(0.88);
    expect(quick[i]! / v).toBeLessThan(1.12);
  });
  // lamps side by side that overlap are no arrangement
  expect(hanger.lamps({ ...arrangement, spread: 0.25 })).toBeNull();
});

const TANKS = process.env.LONG ? 30 : 3;
test(`in ${TANKS} tanks no answer is beaten in everything by any of 300 at random, and none breaks what was asked`, () => {
  for (let seed = 1; seed <= TANKS; seed += 1) {
    const zone = someTank(demo, seed);
    const calm = { spot: 0, mostUmol: 60 };
    const ask = askOf(zone, { lowestCm: 15, highestCm: 45, calm: seed % 3 === 0 ? calm : null });
    const { ways } = ended(hangSteps(ask));
    const hanger = new Hanger(ask);
    const answers = ways.map((w) => hanger.figures(hanger.full(w.lamps, w.kind), w.figures.capShare));
    for (const w of ways) {
      if (w.aim !== 'asNow')
        for (const l of w.lamps) expect([l.heightCm >= 15, l.heightCm <= 45]).toEqual([true, true]);
      if (ask.calm) expect(w.figures.umol[0]!).toBeLessThanOrEqual(60 + 1e-6);
    }
    const random = seeded(1000 + seed);
    for (let k = 0; k < 300; k += 1) {
      const a: Arrangement = {
        heightCm: Math.round(15 + 30 * random()),
        spread: 0.4 + 0.9 * random(),
        alongCm: 0,
        acrossCm: Math.round(20 * (random() - 0.5)),
        turnDeg: random() < 0.5 ? 0 : 90,
        tiltDeg: random() < 0.3 ? 10 : 0,
        diffuserShare: random() < 0.5 ? 0 : 1,
      };
      const lamps = hanger.lamps(a);
      if (!lamps) continue;
      const rival = hanger.figures(hanger.full(lamps, hanger.kindOf(a)), 0.05 + 0.95 * random());
      if (ask.calm && rival.umol[0]! > 60) continue;
      ways.forEach((w, i) => {
        if (w.aim !== 'asNow' && dominates(rival, answers[i]!))
          throw new Error(`${seed} ${w.aim} ${parts(rival)} beats ${parts(answers[i]!)}`);
      });
    }
  }
}, 240_000);

test('a lamp that does not dim is hung at what it gives, and a lone lamp has no neighbours', () => {
  const zone = { ...demo, groups: demo.groups.map((g) => ({ ...g, lamps: [g.lamps[0]!] })) };
  const { ways } = ended(hangSteps(askOf(zone)));
  expect(ways.every((w) => w.lamps.length === 1)).toBe(true);
  const empty = ended(hangSteps(askOf({ ...demo, spots: [] })));
  expect(empty.ways.length).toBeGreaterThan(0);
  expect(empty.now.within).toBe(0);
});

test('lenses at hand are tried: a tank that is too dark far down is lit deeper by narrow ones, and as said', () => {
  const deep: Zone = {
    ...demo,
    spots: demo.spots.map((s) => ({
      ...s,
      depthCm: demo.tank.depthCm - 3,
      need: 'smallPolyp',
      wants: { fromUmol: 400, toUmol: 800 },
    })),
  };
  const plain = ended(hangSteps(askOf(deep, { lowestCm: 45 }))).ways[0]!;
  const ask = askOf(deep, { lowestCm: 45, lensesDeg: [40, 70, 150] });
  const { ways } = ended(hangSteps(ask));
  const lensed = ways.find((w) => w.arrangement?.lensDeg !== undefined)!;
  expect([40, 70, 150]).toContain(lensed.arrangement!.lensDeg);
  expect(lensed.kind.beamAngleDeg).toBe(lensed.arrangement!.lensDeg);
  expect(lensed.kind.optic).toBeUndefined();
  expect(ways[0]!.figures.cost).toBeLessThan(plain.figures.cost);
  const whole = hungLight(ask, lensed.lamps, lensed.kind, lensed.figures.capShare).days;
  lensed.figures.umol.forEach((v, i) => expect(v).toBeCloseTo(whole[i]!.peak, 9));
  // where other lamps are of the kind its lenses stay
  const shared = ended(hangSteps({ ...ask, bare: true }));
  expect(shared.ways.every((w) => w.arrangement?.lensDeg === undefined)).toBe(true);
});
