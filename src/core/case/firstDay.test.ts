import { AS_PRINTED, ceilingFor, stepRatio, CEILINGS } from '../easing/accustomed';
import { lampLibrary, libraryLamp } from '../library/lamps';
import { computeResponse } from '../optics/response';
import { plainTank } from '../optics/tank';
import { floorUmolOf, livesByLight, paceOf, wantsOf } from '../record/needs';
import { type Place, plainSpot, type Spot } from '../record/zone';
import { dims } from '../spectrum/controls';
import type { LampKind } from '../spectrum/lampKind';
import { seeded } from '../spectrum/random';
import { bareCalibration } from './calibration';
import { addedLamp, newCase, roomFor } from './firstDay';
import { lampTable } from './table';
import { sheetCsv, sheetPlainText } from '../formats/sheetText';
import { programOf } from '../controller/program';
import { chainAt } from '../day/thread';
import { judgeWater } from './judgement';
import { daysAt, levelsOfGroups, zoneLight } from './light';
import { draftGroups, type LitGroup, litRunnable, rigOf } from './lit';
import { startLight } from './replay';
import { verdict } from './verdict';
import { waysDown, type WaysAsk } from './waysDown';

const lights = {
  response: (rig: Parameters<typeof computeResponse>[0]) => Promise.resolve(computeResponse(rig)),
};
const NEEDS = ['soft', 'largePolyp', 'smallPolyp', 'nonPhotosynthetic', null] as const;
let ids = 0;
const id = () => `id${(ids += 1)}`;
const switched = lampLibrary().filter((l) => !dims(l.kind));

/** A tank somebody may have, with three spots. */
function tankFor(seed: number) {
  const random = seeded(seed);
  const tank = plainTank(40 + 110 * random(), 30 + 40 * random(), 25 + 45 * random());
  const spots = Array.from({ length: 3 }, (_, i) =>
    plainSpot({
      id: `s${i}`,
      name: `Spot ${i}`,
      xCm: tank.lengthCm * random(),
      yCm: tank.widthCm * random(),
      depthCm: tank.depthCm * random(),
      need: NEEDS[Math.floor(NEEDS.length * random())]!,
    }),
  );
  return { tank, spots, heightCm: 8 + 40 * random() };
}

async function firstOf(
  kind: (typeof switched)[number]['kind'],
  seed: number,
  more: Partial<Spot> = {},
  usedTo = false,
) {
  const { tank, spots, heightCm } = tankFor(seed);
  const lamp = { id: 'l', name: 'lamp', xCm: tank.lengthCm / 2, yCm: tank.widthCm / 2, heightCm, turnDeg: 0 };
  const bundle = await newCase({
    ...{ id, lights, name: 'Tank', timeZone: 'UTC', tank, kind, usedTo },
    lamps: [lamp],
    spots: spots.map((s) => ({ ...s, ...more })),
  });
  const zone = bundle.case.zones[0]!;
  const groups = draftGroups(bundle.case, zone);
  const lightOf: WaysAsk['lightOf'] = (of, places) =>
    Promise.resolve(zoneLight(computeResponse(rigOf(of, zone, places)), of));
  const light = await lightOf(groups, zone.spots);
  const used = zone.spots.map((s) => startLight(s, zone));
  const judged = judgeWater({
    ...{ state: 'draft', zone, groups, light, accustomed: used, ceiling: CEILINGS.usual },
    // the model's own doubt would say "perhaps" of everything
    cal: { ...bareCalibration(groups, zone) },
  });
  const ask: WaysAsk = { zone, groups, used, ceiling: CEILINGS.usual, lightOf };
  return { zone, groups, light, used, judged, ask, bundle };
}

/** Whether everybody's brightest is within what it may get. */
async function fits({ zone, used, lightOf }: WaysAsk, of: readonly LitGroup[], places: readonly Place[]) {
  const days = daysAt(
    await lightOf(of, places),
    of,
    zone.spots.map((_, i) => i),
  );
  return zone.spots.every((s, i) => {
    const step = stepRatio(
      { ...days[i]!, dli: 0, taken: { ...days[i]!.taken, dli: 0 } },
      used[i]!,
      floorUmolOf(s, zone),
    ).ratio;
    return (
      (!livesByLight(s) || step <= ceilingFor(CEILINGS.usual, paceOf(s)) + AS_PRINTED + 1e-6) &&
      days[i]!.peak <= (wantsOf(s, zone)?.toUmol ?? Infinity) + 1e-6
    );
  });
}

test('lamps that cannot be dimmed in twelve tanks: the first day is within every range and ratio, or says that it is not', async () => {
  let [safe, told, offered] = [0, 0, 0];
  for (const { kind } of switched)
    for (let seed = 1; seed <= 12; seed += 1) {
      const { zone, groups, judged, ask } = await firstOf(kind, seed);
      const high = judged.corals.some((c) => {
        const wants = wantsOf(zone.spots[c.spot]!, zone);
        return c.step?.large || (wants && c.peak.umol > wants.toUmol);
      });
      const ways = await waysDown(ask);
      if (!high) {
        safe += 1;
        expect(await fits(ask, groups, zone.spots)).toBe(true);
        expect(ways).toBeNull();
        continue;
      }
      told += 1;
      expect(verdict(judged, { one: 'coral', many: 'corals' })).toMatch(/would get|too much/i);
      // what is offered holds when it is done
      for (const way of ways!) {
        offered += 1;
        const lamps = (change: (l: LitGroup['lamps'][number]) => LitGroup['lamps'][number]) =>
          groups.map((g) => ({ ...g, lamps: g.lamps.map(change) }));
        if (way.kind === 'higher')
          expect(
            await fits(
              ask,
              lamps((l) => ({ ...l, heightCm: l.heightCm + way.byCm })),
              zone.spots,
            ),
          ).toBe(true);
        if (way.kind === 'higher' && way.byCm > 5)
          expect(
            await fits(
              ask,
              lamps((l) => ({ ...l, heightCm: l.heightCm + way.byCm - 5 })),
              zone.spots,
            ),
          ).toBe(false);
        if (way.kind === 'screen')
          expect(
            await fits(
              ask,
              lamps((l) => ({ ...l, screenShare: way.passShare })),
              zone.spots,
            ),
          ).toBe(true);
        if (way.kind === 'lower')
          expect(
            await fits(
              ask,
              groups,
              zone.spots.map((s, i) => ({ ...s, ...way.places.find((p) => p.spot === i) })),
            ),
          ).toBe(true);
      }
    }
  expect(safe).toBeGreaterThan(6);
  expect(told).toBeGreaterThan(6);
  expect(offered).toBeGreaterThan(told);
});

test('the first day goes by what corals are said to come from, over the day as well as at its brightest', async () => {
  const { kind } = lampLibrary().find((l) => dims(l.kind))!;
  const plain = await firstOf(kind, 5, { need: 'smallPolyp' });
  const shade = await firstOf(kind, 5, { need: 'smallPolyp', cameFrom: { peakUmol: 60, hours: 8 } });
  const brief = await firstOf(kind, 5, { need: 'smallPolyp', cameFrom: { peakUmol: 180, hours: 4 } });
  const cap = (x: typeof plain) => x.zone.groups[0]!.capShare;
  expect(cap(shade) / cap(plain)).toBeCloseTo(60 / 180, 1);
  expect(cap(brief) / cap(plain)).toBeCloseTo(0.5, 1);
  // nobody above its range, whatever it came from
  const bright = await firstOf(kind, 5, { need: 'soft', cameFrom: { peakUmol: 800, hours: 12 } });
  expect(Math.max(...bright.judged.corals.map((c) => c.peak.umol))).toBeLessThanOrEqual(120);
});

test('who lives under this very lamp gets its day as it is, and no step is claimed', async () => {
  const { kind } = switched[0]!;
  const { zone, groups, light, used } = await firstOf(kind, 1, {}, true);
  expect(zone.groups[0]).toMatchObject({ usedTo: true, capShare: 1 });
  const judged = judgeWater({
    ...{ state: 'draft', zone, groups, light, accustomed: used, ceiling: CEILINGS.usual, usedToIt: true },
    cal: bareCalibration(groups, zone),
  });
  judged.corals.forEach((c) => c.step && expect(c.step.ratio).toBeCloseTo(1, 12));
  expect(verdict(judged, { one: 'coral', many: 'corals' })).toMatch(
    /^As you say they are used to it, typing it in is no step/,
  );
});

test('a lamp more hangs where there is room, low, with what it has for a strength', async () => {
  const { kind } = lampLibrary().find((l) => dims(l.kind))!;
  const { bundle, zone } = await firstOf(kind, 3);
  const add = (of: typeof kind, heightCm = 25) =>
    addedLamp({ bundle, zone, kind: of, name: 'More', lampName: 'lamp', heightCm, id, lights });
  const { group } = await add(kind);
  const { lengthCm, widthCm } = zone.tank;
  expect(group.capShare).toBeLessThanOrEqual(0.1);
  // the first hangs over the middle: the next is well apart from it, and a third from both
  const apart = (a: { xCm: number; yCm: number }, b: typeof a) => Math.hypot(a.xCm - b.xCm, a.yCm - b.yCm);
  const first = zone.groups[0]!.lamps[0]!;
  expect(apart(group.lamps[0]!, first)).toBeGreaterThan(0.3 * Math.min(lengthCm, widthCm));
  const third = roomFor({ ...zone, groups: [...zone.groups, group] });
  for (const l of [first, group.lamps[0]!])
    expect(apart(third, l)).toBeGreaterThan(0.3 * Math.min(lengthCm, widthCm));
  expect(roomFor({ ...zone, groups: [] })).toEqual({ xCm: lengthCm / 2, yCm: widthCm / 2 });
  // circuits have no strength to be lowered
  expect((await add(switched[0]!.kind)).group.capShare).toBe(1);
});

test('a lamp without a cap gets the strength of its day in every typed value, in whole steps', () => {
  const plain = libraryLamp('lib-nine');
  const kind = {
    ...plain,
    controller: { ...plain.controller, capMeans: 'none' as const, pointStepShare: 0.01 },
  };
  const capped = { ...kind, controller: { ...kind.controller, capMeans: 'multiplies' as const } };
  const ids = kind.controls.map((c) => c.id);
  const threads = [
    {
      minute: 600,
      strengthShare: 0.5,
      mix: Object.fromEntries(ids.map((c, i) => [c, (i + 1) / 10])),
      mixName: 'a',
    },
    { minute: 1200, strengthShare: 0, mix: {}, mixName: 'off' },
  ];
  const lit = (k: LampKind, capShare: number) =>
    litRunnable({ groupId: 'g', groupName: 'G', lampKind: k, lamps: [], threads, capShare });
  const [none, cap] = [lampTable(lit(kind, 0.3)), lampTable(lit(capped, 0.3))];
  expect(cap.capPercent).toBe(30);
  expect(none.capPercent).toBeNull();
  // mix 40 % × 50 % × 30 % = 6 %; 70 % × 50 % × 30 % = 10.5 %, typed as a whole percent
  expect(none.controls[3]!.percents[0]).toBe(6);
  expect([10, 11]).toContain(none.controls[6]!.percents[0]);
  expect(cap.controls[3]!.percents[0]).toBe(20);
  // what is lit is what is typed
  const lampShares = (k: LampKind) => levelsOfGroups([lit(k, 0.3)], 600)[0]!;
  lampShares(kind).forEach((share, i) => expect(share * 100).toBeCloseTo(none.controls[i]!.percents[0]!, 6));
  expect(lampShares(kind)[3]).toBeCloseTo(lampShares(capped)[3]!, 9);
  expect(programOf(kind, threads, 0.3)).toMatchObject({ capShare: 1 });
  expect(programOf(kind, threads, 0.3).points[0]!.values[3]).toBeCloseTo(0.06, 9);
  expect(programOf(capped, threads, 0.3).points[0]!.values[3]).toBeCloseTo(0.2, 9);
  expect(sheetCsv(none)).not.toContain('cap');
  expect(sheetPlainText('T', none)).not.toContain('Cap');
  expect(sheetCsv(cap)).toContain('cap (%)');
  // at nothing it is dark, and nothing is divided by it
  expect(levelsOfGroups([lit(kind, 0)], 600)[0]!.every((x) => x === 0)).toBe(true);
  const chain = chainAt(threads, lit(kind, 0.3).day, kind, kind.channels[3]!.id, 600);
  expect(chain.map((f) => f.name)).toEqual(expect.arrayContaining(['strength of the day']));
  expect(chain.map((f) => f.name)).not.toContain('typed into the lamp');
  expect(chain.at(-1)!.after).toBeCloseTo(lampShares(kind)[3]!, 6);
});
