import { displayCase } from '@/demo/lagoon';

import { someTank } from '../fixtures/tanks';
import { lampLibrary } from '../library/lamps';
import { SCHOOLS } from '../mix/schools';
import { formOf } from '../portrait/ofZone';
import { computeResponse } from '../optics/response';
import type { InHand, Zone } from '../record/zone';
import { ended } from '../shape/ended';
import { seeded } from '../spectrum/random';
import { arranged, tenantsIn } from './arrange';
import { bareCalibration, hungGroups } from './calibration';
import { APART_CM } from './critic';
import { daysAt, zoneLight } from './light';
import { draftGroups, rigOf } from './lit';
import { beaten, randomArrangement, seenAt, Trial, type WholeAsk, type WholeWay, wholeSteps } from './whole';

const bundle = displayCase(Date.parse('2026-11-24T12:00:00Z'), 'UTC');
const demo = bundle.case.zones[0]!;
const HAND: InHand[] = [
  { id: 'h1', name: 'Bush', need: 'smallPolyp', formId: null },
  { id: 'h2', name: 'Leather', need: 'soft', formId: null, cameFrom: { peakUmol: 90, hours: 9 } },
];
const askOf = (zone: Zone, more: Partial<WholeAsk> = {}): WholeAsk => {
  const doc = { ...bundle.case, zones: [zone] };
  return {
    ...{ zone, groups: draftGroups(doc, zone), groupId: zone.groups[0]!.id },
    cal: bareCalibration(hungGroups(doc, zone), zone),
    ...{ lowestCm: 15, highestCm: 50, used: null, aims: SCHOOLS[0]!.aims },
    corals: zone.spots.flatMap((s) => {
      const form = formOf(doc, s);
      return form ? [{ name: s.name, form }] : [];
    }),
    home: { fromMinute: 18 * 60, toMinute: 22 * 60 },
    ...more,
  };
};
const by = (ways: readonly WholeWay[], aim: string) =>
  ways.find((w) => w.aim === aim || w.also.includes(aim as never));

test('proposals: each best at what it is for, who is in hand gets a place of its own, light as a computation of its own finds it', () => {
  const zone = { ...demo, inHand: HAND };
  const ask = askOf(zone);
  const ways = ended(wholeSteps(ask));
  expect(ways.length).toBeGreaterThanOrEqual(3);
  const corals = by(ways, 'corals')!;
  expect(by(ways, 'even')!.uneven).toBeLessThan(corals.uneven);
  expect(by(ways, 'running')!.watts).toBeLessThanOrEqual(corals.watts);
  expect(by(ways, 'stay')!.moves).toBe(0);
  const home = by(ways, 'home')!;
  for (const w of ways) expect(home.mix.lookOff).toBeLessThanOrEqual(w.mix.lookOff + 1e-9);
  expect(home.seen[0]).toBeGreaterThan(corals.seen[0]);
  for (const w of ways) {
    const at = w.stands.map((s) => s.to ?? zone.spots[s.who.spot!]!);
    const light = zoneLight(
      computeResponse(
        rigOf(
          w.groups,
          zone,
          at.map((p) => ({ openShare: 1, ...p })),
          ask.cal,
        ),
      ),
      w.groups,
      ask.cal,
    );
    daysAt(
      light,
      w.groups,
      at.map((_, i) => i),
    ).forEach((d, i) => expect(w.stands[i]!.umol).toBeCloseTo(d.peak, 6));
    expect(w.judged).toBe(tenantsIn(zone).filter((t) => t.wants).length);
    expect(w.within).toBe(w.stands.filter((s) => s.placed && s.placed.within > 0.5).length);
    expect(w.stands.filter((s) => s.to && s.who.spot !== undefined)).toHaveLength(w.moves);
    w.stands.forEach((s, i) => {
      if (!s.to) return;
      for (const [k, p] of at.entries())
        if (k !== i)
          expect(
            Math.hypot(p.xCm - s.to.xCm, p.yCm - s.to.yCm, p.depthCm - s.to.depthCm),
          ).toBeGreaterThanOrEqual(APART_CM - 1e-9);
    });
    for (const l of w.lamps) expect(l.heightCm >= 15 && l.heightCm <= 50).toBe(true);
  }
});

test('a tank that does not stand yet: lamps nobody has drafted, corals only wished for', () => {
  const { kind } = lampLibrary()[0]!;
  const zone: Zone = { ...demo, spots: [], groups: [], inHand: HAND };
  const ways = ended(
    wholeSteps({
      ...askOf({ ...demo, inHand: HAND }),
      ...{ zone, groups: [], groupId: '', first: { kind, count: 2 }, corals: [] },
      cal: bareCalibration([], zone),
    }),
  );
  expect(ways.length).toBeGreaterThan(0);
  expect(ways[0]!.stands.map((s) => s.to !== null)).toEqual([true, true]);
  expect(ways[0]!.within).toBe(2);
  expect(ways.every((w) => w.moves === 0 && w.lamps.length === 2)).toBe(true);
});

const TANKS = process.env.LONG ? 30 : 1;
test(`in ${TANKS} seeded tanks no proposal is beaten in everything by any of 300 at random`, () => {
  for (let seed = 1; seed <= TANKS; seed += 1) {
    const ask = askOf({ ...someTank(demo, seed), inHand: HAND.slice(0, 1 + (seed % 2)) });
    const ways = ended(wholeSteps(ask));
    const random = seeded(900 + seed);
    const drafted = ask.groups[0]!;
    const trials = ways
      .filter((w, i) => ways.findIndex((x) => x.mix.lead === w.mix.lead) === i)
      .map((w) => new Trial(ask, { ...w.groups[0]!, groupId: drafted.groupId, lamps: drafted.lamps }, w.mix));
    for (let k = 0; k < 300; k += 1) {
      const trial = trials[k % trials.length]!;
      const a = randomArrangement(ask, drafted.lampKind, random);
      const lamps = trial.hanger.lamps(a);
      if (!lamps) continue;
      const seen = trial.hanger.figures(trial.hanger.full(lamps), 0.05 + 0.95 * random());
      for (const moving of [true, false]) {
        const rival = trial.figures(seen, moving);
        for (const w of ways)
          if (beaten(rival, w.looked))
            throw new Error(`${seed} ${w.aim} ${JSON.stringify([rival, w.looked])}`);
      }
    }
  }
}, 240_000);

describe('who stands where', () => {
  const tenants = tenantsIn({ ...demo, spots: demo.spots.slice(0, 2), inHand: HAND });
  const place = (xCm: number) => ({ ...{ xCm, yCm: 10, depthCm: 60 }, name: `at ${xCm}` });
  const right = tenants.map((t) => (t.wants ? Math.sqrt(t.wants.fromUmol * t.wants.toUmol) : 0));

  test('who is right stays, who is in hand takes the place it likes best, one each', () => {
    const places = [place(-200), place(-160), place(-120)];
    const found = arranged(tenants, places, right, [right[2]!, right[3]!, 5], true);
    expect(found).toMatchObject({ moves: 0, to: [null, null, 0, 1], within: 4, judged: 4 });
    // two places too near to one another are one
    const near = [place(-200), place(-199)];
    expect(arranged(tenants, near, right, [right[2]!, right[3]!], true).to.slice(2)).toContain(null);
  });

  test('who is wrong is moved only where that may be', () => {
    const places = [place(-200), place(-160), place(-120)];
    const dark = [1, ...right.slice(1)];
    const free = [right[0]!, right[2]!, right[3]!];
    const moved = arranged(tenants, places, dark, free, true);
    expect(moved).toMatchObject({ moves: 1, within: 4 });
    expect(arranged(tenants, places, dark, free, false)).toMatchObject({ moves: 0, within: 3 });
  });
});

test('minutes of the hours at home that are lit, over midnight too', () => {
  const groups = draftGroups(bundle.case, demo);
  const [lit, all] = seenAt(groups, { fromMinute: 20 * 60, toMinute: 2 * 60 });
  expect(all).toBe(360);
  expect(lit).toBeLessThan(360);
  expect(seenAt(groups, { fromMinute: 13 * 60, toMinute: 15 * 60 })).toEqual([120, 120]);
  expect(seenAt(groups, { fromMinute: 2 * 60, toMinute: 4 * 60 })[0]).toBe(0);
});
