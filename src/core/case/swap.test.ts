import { displayCase } from '@/demo/lagoon';

import { swappedTruth } from '../fixtures/recovery';
import { libraryLamp } from '../library/lamps';
import { livesByLight, wantsOf } from '../record/needs';
import { ended } from '../shape/ended';
import { normal, seeded } from '../spectrum/random';
import { bareCalibration, DOUBT, hungGroups } from './calibration';
import { hungLight } from './hang';
import { daysAt, takenUnder, zoneLight } from './light';
import { draftGroups, litRunnable, type LitGroup, rigOf } from './lit';
import { type SwapAnswer, type SwapAsk, swapSteps } from './swap';
import { computeResponse } from '../optics/response';

const bundle = displayCase(Date.parse('2026-11-24T12:00:00Z'), 'UTC');
const zone = bundle.case.zones[0]!;
const groups = draftGroups(bundle.case, zone);
const cal = bareCalibration(hungGroups(bundle.case, zone), zone);
const ask = (more: Partial<SwapAsk> = {}): SwapAsk => ({
  ...{ zone, groups, outGroupId: groups[0]!.groupId, kind: libraryLamp('lib-nine'), count: 2, cal },
  ...{ lowestCm: 15, highestCm: 60 },
  ...more,
});
const swapped = (more: Partial<SwapAsk> = {}): SwapAnswer => ended(swapSteps(ask(more)));
const off = (a: SwapAnswer) =>
  a.corals.reduce((s, c) => s + Math.abs(Math.log(c.step.ratio)), 0) / a.corals.length;

test('a lamp for itself changes nothing', () => {
  const a = swapped({ kind: groups[0]!.lampKind });
  expect(a.lamps).toEqual(groups[0]!.lamps);
  expect([a.capShare, a.match, a.weak]).toEqual([groups[0]!.day.capShare, 1, false]);
  expect(a.corals).toHaveLength(zone.spots.filter((s) => livesByLight(s)).length);
  for (const c of a.corals) {
    expect(Math.abs(c.step.ratio - 1)).toBeLessThan(1e-6);
    expect(c.bandShare).toBe(0);
  }
  expect(a.uneven[0]).toBe(a.uneven[1]);
});

test.each([
  ['lib-nine', 2],
  ['lib-nine', 3],
  ['lib-tint', 2],
  ['lib-balance', 2],
] as const)(
  '%s, %i of them: corals get what they had as they take it, nearer than hung as the old ones were',
  (id, count) => {
    const a = swapped({ kind: libraryLamp(id), count });
    expect(a.lamps).toHaveLength(count);
    expect(a.threads.map((t) => t.minute)).toEqual(groups[0]!.threads.map((t) => t.minute));
    expect(a.capShare).toBeGreaterThan(0);
    expect(a.capShare).toBeLessThanOrEqual(1);
    // what is said is what a computation of its own finds
    const fresh = litRunnable({
      ...{ groupId: 'x', groupName: 'x', lampKind: a.kind, lamps: a.lamps, capShare: a.capShare },
      threads: a.threads.map((t) => ({ ...t, mixName: '' })),
    });
    const light = zoneLight(computeResponse(rigOf([fresh], zone, zone.spots, cal)), [fresh], cal);
    daysAt(
      light,
      [fresh],
      a.corals.map((c) => c.spot),
    ).forEach((d, i) => {
      expect(a.corals[i]!.after.peak).toBeCloseTo(d.peak, 6);
      expect(a.corals[i]!.after.dli).toBeCloseTo(d.dli, 6);
    });
    // who would have to stand elsewhere is who is outside a range under the new light
    const inside = a.corals.filter((c) => {
      const wants = wantsOf(zone.spots[c.spot]!, zone);
      return wants && c.after.peak >= wants.fromUmol && c.after.peak <= wants.toUmol;
    });
    expect(a.criticism.before).toBe(inside.length);
    expect(a.criticism.after).toBe(a.criticism.judged - a.criticism.left.length);
    if (a.weak) return;
    expect(off(a)).toBeLessThan(0.3);
    const naive = a.lamps.map((l) => ({ ...l, heightCm: groups[0]!.lamps[0]!.heightCm }));
    const plain = hungLight({ zone, groups: [{ ...fresh }], groupId: 'x', cal }, naive, a.kind, 1).days;
    const naiveOff =
      a.corals.reduce((s, c) => s + Math.abs(Math.log(plain[c.spot]!.taken.peak / c.before.taken!.peak)), 0) /
      a.corals.length;
    expect(off(a)).toBeLessThan(naiveOff + 0.02);
    for (const c of a.corals) expect(c.bandShare).toBeGreaterThan(0.3);
  },
);

test('one of two groups: the other stays as it is lit', () => {
  const [left, right] = [0, 1].map((i): LitGroup => ({
    ...groups[0]!,
    groupId: `g${i}`,
    lamps: [groups[0]!.lamps[i]!],
  }));
  const both = [left!, right!];
  const a = swapped({ groups: both, outGroupId: 'g0', count: 1 });
  expect(a.lamps).toHaveLength(1);
  // it hangs where the left one hung, give or take
  expect(off(a)).toBeLessThan(0.35);
  const itself = swapped({ groups: both, outGroupId: 'g0', count: 1, kind: left!.lampKind });
  expect(off(itself)).toBeLessThan(1e-6);
});

test('a lamp that cannot give what was had says so', () => {
  expect(swapped({ kind: libraryLamp('lib-blue-bar'), count: 1 }).weak).toBe(true);
});

test('the band of a ratio holds what hidden lamps really give', () => {
  const a = swapped();
  const fresh = litRunnable({
    ...{ groupId: 'x', groupName: 'x', lampKind: a.kind, lamps: a.lamps, capShare: a.capShare },
    threads: a.threads.map((t) => ({ ...t, mixName: '' })),
  });
  const parts = (of: LitGroup) => {
    const light = zoneLight(computeResponse(rigOf([of], zone, zone.spots, cal)), [of], cal);
    return a.corals.map((c) =>
      of.lampKind.channels.map((_, k) =>
        takenUnder(light, [of.lampKind.channels.map((__, i) => (i === k ? meanLevel(of, k) : 0))], c.spot),
      ),
    );
  };
  const meanLevel = (of: LitGroup, k: number) =>
    of.day.knots.reduce((s, knot) => s + knot.levels[k]!, 0) / of.day.knots.length;
  const [old, now] = [parts(groups[0]!), parts(fresh)];
  const random = seeded(8);
  let [inside, all] = [0, 0];
  for (let k = 0; k < 400; k += 1) {
    const gains = (n: number) => {
      const shared = DOUBT.kind * normal(random);
      return Array.from({ length: n }, () => Math.exp(shared + DOUBT.channel * normal(random)));
    };
    const [g, h] = [gains(groups[0]!.lampKind.channels.length), gains(a.kind.channels.length)];
    a.corals.forEach((c, i) => {
      const of = (v: number[], by: number[]) =>
        v.reduce((s, x, j) => s + x * by[j]!, 0) / v.reduce((s, x) => s + x, 0);
      const real = of(now[i]!, h) / of(old[i]!, g);
      inside += Number(Math.abs(real - 1) <= c.bandShare);
      all += 1;
    });
  }
  expect(inside / all).toBeGreaterThan(0.85);
  expect(inside / all).toBeLessThan(0.97);
});

/** 120 of each in `npm run long`: 91.4 % after three readings, 92.9 % after nine. */
const SEEDS = process.env.LONG ? 120 : 5;
test('read before it comes down: what each coral really gets of what it had lies within the band, new lamps as hidden as the old', () => {
  let [inside, all, bands, errors] = [0, 0, 0, 0];
  for (const readings of [3, 9] as const)
    for (let seed = 1; seed <= SEEDS; seed += 1)
      for (const { said, band, real } of swappedTruth(libraryLamp('lib-nine'), seed, readings)) {
        inside += Number(Math.abs(real / said - 1) <= band);
        all += 1;
        bands += band;
        errors += Math.abs(real / said - 1);
      }
  expect(inside / all).toBeGreaterThan(process.env.LONG ? 0.85 : 0.75);
  if (process.env.LONG) expect(inside / all).toBeLessThan(0.95);
  // a band that never fails is as useless: it lies within a few times the error
  expect(bands).toBeLessThan(5 * errors);
}, 600_000);
