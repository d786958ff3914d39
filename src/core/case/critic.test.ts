import { displayCase } from '@/demo/lagoon';

import { computeResponse } from '../optics/response';
import { wantsOf } from '../record/needs';
import { plainSpot, type Spot, type Zone } from '../record/zone';
import { seeded } from '../spectrum/random';
import { bareCalibration, hungGroups } from './calibration';
import { critic } from './critic';
import { daysAt, zoneLight } from './light';
import { draftGroups, rigOf } from './lit';

const bundle = displayCase(Date.parse('2026-11-24T12:00:00Z'), 'UTC');
const demo = bundle.case.zones[0]!;
const groups = draftGroups(bundle.case, demo);
const cal = bareCalibration(hungGroups(bundle.case, demo), demo);
const peaks = (zone: Zone, spots: readonly Spot[]) => {
  const light = zoneLight(computeResponse(rigOf(groups, zone, spots, cal)), groups, cal);
  return daysAt(
    light,
    groups,
    spots.map((_, i) => i),
  ).map((d) => d.peak);
};
const right = (zone: Zone, s: Spot, umol: number) => {
  const w = wantsOf(s, zone)!;
  return umol >= w.fromUmol && umol <= w.toUmol;
};

/** Corals of some kinds, put anyhow. */
function tankOf(seed: number): Zone {
  const random = seeded(seed);
  const kinds = ['soft', 'largePolyp', 'smallPolyp'] as const;
  return {
    ...demo,
    spots: Array.from({ length: 4 }, (_, i) =>
      plainSpot({
        ...{ id: `s${i}`, name: `Coral ${i}`, need: kinds[Math.floor(3 * random())]! },
        ...{ xCm: 20 + 110 * random(), yCm: 12 + 36 * random(), depthCm: 12 + 30 * random() },
      }),
    ),
  };
}

test.each([1, 2, 3, 4])(
  'tank %i: who is right stays, who is moved is then right and has room, and light is what a computation of its own finds',
  (seed) => {
    const zone = tankOf(seed);
    const c = critic(zone, groups, cal);
    const now = peaks(zone, zone.spots);
    expect(c.judged).toBe(zone.spots.length);
    expect(c.before).toBe(zone.spots.filter((s, i) => right(zone, s, now[i]!)).length);
    for (const m of c.moves) expect(right(zone, zone.spots[m.spot]!, now[m.spot]!)).toBe(false);
    expect(new Set(c.moves.map((m) => m.spot)).size).toBe(c.moves.length);
    const after = zone.spots.map((s, i) => ({ ...s, ...(c.moves.find((m) => m.spot === i)?.to ?? {}) }));
    const then = peaks(zone, after);
    for (const m of c.moves) {
      expect(m.toUmol / then[m.spot]!).toBeCloseTo(1, 6);
      expect(m.fromUmol / now[m.spot]!).toBeCloseTo(1, 6);
      const at = after[m.spot]!;
      for (const o of after)
        if (o.id !== at.id)
          expect(Math.hypot(o.xCm - at.xCm, o.yCm - at.yCm, o.depthCm - at.depthCm)).toBeGreaterThan(11.99);
    }
    expect(after.filter((s, i) => right(zone, s, then[i]!)).length).toBe(c.after);
    expect(c.after).toBe(c.before + c.moves.length);
    expect(c.left.length).toBe(c.judged - c.after);
  },
);

test('moves are found where there are any, and none where nobody is outside or nobody lives', () => {
  expect([1, 2, 3, 4].some((seed) => critic(tankOf(seed), groups, cal).moves.length > 0)).toBe(true);
  const settled = { ...demo, spots: [] };
  expect(critic(settled, groups, cal)).toEqual({ moves: [], left: [], judged: 0, before: 0, after: 0 });
  const zone = tankOf(1);
  const now = peaks(zone, zone.spots);
  const content = {
    ...zone,
    spots: zone.spots.map((s, i) => ({ ...s, wants: { fromUmol: 0.8 * now[i]!, toUmol: 1.2 * now[i]! } })),
  };
  expect(critic(content, groups, cal).moves).toEqual([]);
  // light that is nowhere leaves everybody where they are
  const nowhere = {
    ...zone,
    spots: zone.spots.map((s) => ({ ...s, wants: { fromUmol: 2000, toUmol: 2100 } })),
  };
  expect(critic(nowhere, groups, cal)).toMatchObject({
    moves: [],
    left: expect.arrayContaining([0, 1, 2, 3]),
    after: 0,
  });
});
