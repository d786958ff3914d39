import { displayCase } from '@/demo/lagoon';

import { accustom, CEILINGS, ceilingFor, steadyDay, stepRatio } from '../easing/accustomed';
import { computeField } from '../optics/fieldSteps';
import { floorUmolOf, lowerEdgeUmol, NEEDS, type NeedId, paceOf } from '../record/needs';
import { plainSpot, type Zone } from '../record/zone';
import { bareCalibration, hungGroups } from './calibration';
import { daysAt, zoneLight } from './light';
import { draftGroups, rigOf } from './lit';
import { type Hand, placesInHand } from './placing';
import { sharesAt } from './rows';
import { computeResponse } from '../optics/response';

const bundle = displayCase(Date.parse('2026-11-24T12:00:00Z'), 'UTC');
const demo = bundle.case.zones[0]!;
function ask(coral: Hand, zone: Zone = demo, ceiling: number = CEILINGS.usual) {
  const doc = { ...bundle.case, zones: [zone] };
  const groups = draftGroups(doc, zone);
  const cal = bareCalibration(hungGroups(doc, zone), zone);
  const field = computeField(rigOf(groups, zone, [], cal), { nx: 20, ny: 8, depthsCm: [0, 12, 24, 36, 48] });
  const found = placesInHand(coral, zone, groups, cal, field, sharesAt(groups, 14 * 60 + 5, cal), ceiling);
  const daysOf = found.places.map(
    (p) =>
      daysAt(
        zoneLight(computeResponse(rigOf(groups, zone, [{ ...p, openShare: 1 }], cal)), groups, cal),
        groups,
        [0],
      )[0]!,
  );
  return { ...found, daysOf };
}
const hand = (need: NeedId, cameFrom?: Hand['cameFrom']): Hand => ({
  need,
  ...(cameFrom ? { cameFrom } : {}),
});
const tenant = (need: NeedId) => plainSpot({ id: 'x', name: '', xCm: 0, yCm: 0, depthCm: 0, need });

test('places stand with their own light and step; those that are right and soon come first', () => {
  const { places, daysOf, start } = ask(hand('soft', { peakUmol: 60, hours: 8 }));
  expect(start).toEqual(steadyDay(60, 8));
  expect(places.length).toBeGreaterThanOrEqual(5);
  places.forEach((p, i) => {
    expect(p.umol).toBeCloseTo(daysOf[i]!.peak, 6);
    const floor = floorUmolOf(tenant('soft'), demo);
    expect(p.step.ratio).toBeCloseTo(stepRatio(daysOf[i]!, start, floor).ratio, 6);
    expect(p.bandShare).toBeGreaterThan(0.3);
    expect(p.nearest!.cm).toBeGreaterThanOrEqual(0);
  });
  expect(places[0]!.umol).toBeGreaterThan(NEEDS.soft.fromUmol * 0.8);
  // this tank’s floor is bright: the best is the darkest
  expect(places[0]!.placed.within).toBe(Math.max(...places.map((p) => p.placed.within)));
});

test.each([
  ['soft', 0],
  ['smallPolyp', 8],
  ['clam', 8],
] as const)('%s: a way up passes its ceiling on no day, and is what is said of the place', (need, least) => {
  let walked = 0;
  for (const cameFrom of [undefined, { peakUmol: 50, hours: 8 }, { peakUmol: 120, hours: 9 }]) {
    const { places, daysOf, start, ways } = ask(hand(need, cameFrom));
    const most = ceilingFor(CEILINGS.usual, paceOf(tenant(need)));
    const floor = floorUmolOf(tenant(need), demo);
    if (!cameFrom) expect(start).toEqual(steadyDay(lowerEdgeUmol(tenant(need), demo), 8));
    places.forEach((p, to) => {
      const stays = ways[to]!;
      expect(p.afterDays).toBe(stays.at(-1)?.fromDay ?? null);
      if (p.step.ratio <= most) expect(p.afterDays).toBe(0);
      if (stays.length === 0) return;
      walked += 1;
      expect(stays.at(-1)!.place).toBe(to);
      let used = start;
      for (let day = 0; day <= p.afterDays!; day += 1) {
        const here = daysOf[stays.filter((s) => s.fromDay <= day).at(-1)!.place]!;
        expect(stepRatio(here, used, floor).ratio).toBeLessThanOrEqual(most + 1e-6);
        used = accustom(used, here, 1, paceOf(tenant(need)));
      }
    });
  }
  expect(walked).toBeGreaterThanOrEqual(least);
});

test('neighbours that sting, and those in its shade, are named and put a place back', () => {
  const zone: Zone = {
    ...demo,
    spots: demo.spots.map((s, i) => (i === 1 ? { ...s, need: 'anemone' as const } : s)),
  };
  const near = ask(hand('smallPolyp'), zone).places.filter((p) => p.nearest?.stings);
  expect(near.every((p) => p.nearest!.cm < 25)).toBe(true);
  const empty = {
    ...zone,
    spots: [
      ...zone.spots,
      plainSpot({
        id: 'e',
        name: 'Ledge',
        xCm: zone.spots[1]!.xCm + 6,
        yCm: zone.spots[1]!.yCm,
        depthCm: zone.spots[1]!.depthCm,
        need: null,
      }),
    ],
  };
  const ledge = ask(hand('smallPolyp'), empty).places.find((p) => p.spotId === 'e')!;
  expect(ledge.nearest).toMatchObject({ spot: 1, stings: true });
  const over = {
    ...demo,
    spots: [
      ...demo.spots,
      plainSpot({
        id: 'o',
        name: 'Rack',
        xCm: demo.spots[4]!.xCm,
        yCm: demo.spots[4]!.yCm,
        depthCm: demo.spots[4]!.depthCm - 20,
        need: null,
      }),
    ],
  };
  expect(ask(hand('soft'), over).places.find((p) => p.spotId === 'o')!.shades).toContain(4);
});
