import { watersCase, displayCase } from '@/demo/lagoon';

import { bareCalibration, hungGroups } from '../case/calibration';
import { dayAt, zoneLight } from '../case/light';
import { draftGroups, type LitGroup, rigOf } from '../case/lit';
import type { MetChange } from '../case/replay';
import type { CaseDoc } from '../record/caseDoc';
import type { LogDoc, LogEvent } from '../record/log';
import type { Thread, Zone } from '../record/zone';
import { litHours, litPieces } from '../day/day';
import { alga } from '../feeding/algae';
import { libraryLamp } from '../library/lamps';
import { computeResponse } from '../optics/response';
import { allFull, dims } from '../spectrum/controls';
import { isNearPureBlue, lampLight } from './families';
import { overlap } from '../case/hours';
import { lampForSteps, type LampWay } from './lampFor';
import { algaeSpots } from '../record/log/harvest';
import { laidMats, laidWays, litMats, type Laid, loggedMat, matOf, overlitMats } from './mats';
import { outlooks, takenByGrowth } from './outlook';
import { AS_NOW, pastLight } from './past';
import { range } from '../feeding/range';
import { algaSpot, hang, lampsFor, plainHours } from './setUp';

const NOW = Date.UTC(2026, 10, 24, 12);
const bundle = watersCase(NOW, 'UTC');
const doc = bundle.case;
const sump = doc.zones[1]!;
const groups = draftGroups(doc, sump);
const cal = bareCalibration(hungGroups(doc, sump), sump);
const lightOf = (laid: Laid, lit: readonly LitGroup[] = groups) =>
  zoneLight(computeResponse(rigOf(lit, laid.zone, laid.zone.spots)), lit);
const withSpot = (change: Partial<Zone['spots'][number]>): Zone => ({
  ...sump,
  spots: sump.spots.map((s) => ({ ...s, ...change })),
});
const matsOf = (zone: Zone) => {
  const laid = laidMats(zone);
  return litMats(zone, laid, lightOf(laid), groups, cal);
};

describe('mats in their light', () => {
  test('places of every mat are laid end to end, each in its own shade, and none of a coral', () => {
    const zone: Zone = {
      ...sump,
      spots: [
        { ...sump.spots[0]!, id: 'a', openShare: 0.5 },
        { ...sump.spots[0]!, id: 'coral', need: 'soft', algaId: null },
        { ...sump.spots[0]!, id: 'b', depthCm: 20, mat: null },
      ],
    };
    const { zone: all, indices } = laidMats(zone);
    expect(algaeSpots(zone).map((s) => s.id)).toEqual(['a', 'b']);
    expect(indices.flat()).toEqual(all.spots.map((_, i) => i));
    expect(indices[0]!.every((k) => all.spots[k]!.openShare === 0.5 && all.spots[k]!.depthCm === 8)).toBe(
      true,
    );
    expect(indices[1]!.every((k) => all.spots[k]!.openShare === 1 && all.spots[k]!.depthCm === 20)).toBe(
      true,
    );
    // nobody has said how large the second is: a small clump about its spot
    expect(matOf(zone.spots[2]!)).toMatchObject({ xCm: 22, yCm: 17, lengthCm: 12, widthCm: 12 });
  });

  test('without light what is known by itself; without a named alga no share and no growth', () => {
    const dark = litMats(sump, laidMats(sump), null, groups, cal)[0]!;
    expect(dark).toMatchObject({ light: null, spectrum: null, fit: null, expected: null, peakUmol: 0 });
    expect(dark.areaM2).toBeCloseTo(0.38 * 0.28, 12);
    const unsaid = matsOf(withSpot({ algaId: null }))[0]!;
    expect(unsaid).toMatchObject({ alga: null, light: null, fit: null, expected: null });
    expect(unsaid.peakUmol).toBeGreaterThan(100);
  });

  test('the light over a mat: mean between least and most, the whole night counted, its doubt that of PAR', () => {
    const m = matsOf(sump)[0]!;
    expect(m.light!.min).toBeLessThan(m.light!.mean);
    expect(m.light!.max).toBeGreaterThan(m.light!.mean);
    expect(m.peakUmol).toBeCloseTo(m.light!.max, 6);
    expect(m.light!.litHours).toBe(litHours(...groups.map((g) => g.day)));
    expect(m.light!.saturatedHours).toBeLessThan(m.light!.litHours);
    expect(m.band).toBeGreaterThan(0.2);
    expect(m.fit!.standing).toBe('good');
    // twice the hours are no twice of the growth: beyond 18 h they count half
    const always = groups.map((g) => ({ ...g, day: { ...g.day, knots: [{ minute: 0, levels: [1] }] } }));
    const laid = laidMats(sump);
    const round = litMats(sump, laid, lightOf(laid, always), always, cal)[0]!;
    expect(round.expected!.mid / m.expected!.mid).toBeGreaterThan(1.6);
    expect(round.expected!.mid / m.expected!.mid).toBeLessThan(1.8);
  });

  test('an overlit mat is told a way that is dim enough there, and no nearer one is', () => {
    const zone = withSpot({ algaId: 'redBush' });
    const lit = matsOf(zone);
    const ways = laidWays(zone, lit);
    const light = lightOf(ways.laid);
    const [told] = overlitMats(lit, ways, light, groups);
    const at = (k: number) => dayAt(light, groups, k).peak;
    const down = ways.ways[0]!.map((w, k) => ({ w, k })).filter((x) => x.w.downCm > 0);
    const within = down.filter((x) => at(x.k) <= 180);
    expect(told!.downCm).toBe(within[0]?.w.downCm ?? null);
    expect(told!.downCm).not.toBeNull();
    for (const x of down.filter((y) => y.w.downCm < told!.downCm!)) expect(at(x.k)).toBeGreaterThan(180);
    // nothing is laid out, and nothing said, of one that is not
    expect(laidWays(sump, matsOf(sump)).ways).toEqual([[]]);
    expect(
      overlitMats(
        matsOf(sump),
        laidWays(sump, matsOf(sump)),
        lightOf(laidWays(sump, matsOf(sump)).laid),
        groups,
      ),
    ).toEqual([null]);
    expect(overlitMats(lit, ways, null, groups)).toEqual([null]);
    // what the keeper knows better counts
    expect(
      laidWays(zone, matsOf(withSpot({ algaId: 'redBush', wants: { fromUmol: 50, toUmol: 900 } }))).ways,
    ).toEqual([[]]);
  });
});

describe('what the log says of a mat', () => {
  const m = matsOf(sump)[0]!;

  test('growth is expected from light and pulled to what was weighed; old harvests and other mats do not count', () => {
    const logged = loggedMat(m, bundle.log, NOW);
    expect(logged.harvests).toHaveLength(5);
    expect(logged.growth!.weighed).toBe(3);
    const seen = logged.judgement!.growth!.gainGPerDay;
    expect(Math.abs(Math.log(logged.growth!.wet.mid / seen))).toBeLessThan(
      Math.abs(Math.log(m.expected!.mid / seen)) + 1e-9,
    );
    expect(logged.growth!.wet.high / logged.growth!.wet.low).toBeLessThan(m.expected!.high / m.expected!.low);
    expect(logged.judgement!.verdict).toBe('fine');

    const later = loggedMat(m, bundle.log, NOW + 200 * 86_400_000);
    expect(later.growth).toMatchObject({ weighed: 0 });
    expect(later.growth!.wet.mid).toBeCloseTo(m.expected!.mid, 9);
    expect(later.judgement!.verdict).toBe('cannotTell');

    const none = loggedMat({ ...m, spot: { ...m.spot, id: 'another' } }, bundle.log, NOW);
    expect(none).toMatchObject({ harvests: [], growth: { weighed: 0 } });
    expect(loggedMat({ ...m, light: null, expected: null }, bundle.log, NOW)).toMatchObject({
      judgement: null,
      growth: null,
    });
  });
});

describe('the light that was', () => {
  const now = { dli: 10, peak: 200 };
  const change = (atUtc: string, dli: number, peak: number): MetChange => ({
    atUtc,
    ids: ['x'],
    before: null,
    after: [
      { dli: 0, peak: 0 },
      { dli, peak },
    ],
    used: [],
    bandShares: [],
  });
  const over = (changes: MetChange[]) =>
    pastLight(changes, 1, now, '2026-10-01T00:00:00Z', '2026-10-11T00:00:00Z');

  test('as now before anything is known, when nothing changed, and where there is no light now', () => {
    expect(over([])).toEqual(AS_NOW);
    expect(over([change('2026-11-01T00:00:00Z', 1, 20)])).toEqual(AS_NOW);
    const same = over([change('2026-09-01T00:00:00Z', 10, 200), change('2026-10-05T00:00:00Z', 10, 200)]);
    expect(same.strengthShare).toBeCloseTo(1, 12);
    expect(same.hoursShare).toBeCloseTo(1, 12);
    expect(pastLight([], 1, { dli: 0, peak: 0 }, '2026-10-01T00:00:00Z', '2026-10-11T00:00:00Z')).toBe(
      AS_NOW,
    );
  });

  test('half as strong all the time; half the hours for half the time; dark for a part of it', () => {
    const half = over([change('2026-09-01T00:00:00Z', 5, 100)]);
    expect([half.strengthShare, half.hoursShare]).toEqual([expect.closeTo(0.5, 12), expect.closeTo(1, 12)]);
    // short days until the middle of it
    const short = over([change('2026-09-01T00:00:00Z', 5, 200), change('2026-10-06T00:00:00Z', 10, 200)]);
    expect(short.hoursShare).toBeCloseTo(0.75, 12);
    expect(short.strengthShare).toBeCloseTo(1, 12);
    // six of ten days dark: fewer hours, none of them dimmer
    const dark = over([change('2026-09-01T00:00:00Z', 0, 0), change('2026-10-07T00:00:00Z', 10, 200)]);
    expect(dark.hoursShare).toBeCloseTo(0.4, 12);
    expect(dark.strengthShare).toBeCloseTo(1, 12);
    expect(over([change('2026-09-01T00:00:00Z', 0, 0)]).hoursShare).toBe(0);
  });

  test('harvests of shorter days raise what is expected of the present ones', () => {
    const m = matsOf(sump)[0]!;
    const wet = (hoursShare: number, strengthShare = 1) =>
      loggedMat(m, bundle.log, NOW, () => ({ hoursShare, strengthShare })).growth!.wet.mid;
    expect(wet(1)).toBeCloseTo(loggedMat(m, bundle.log, NOW).growth!.wet.mid, 9);
    expect(wet(0.5)).toBeGreaterThan(1.4 * wet(1));
    expect(wet(1, 0.2)).toBeGreaterThan(1.2 * wet(1));
    // in the dark nothing was to be expected: such intervals say nothing
    expect(wet(0)).toBeCloseTo(m.expected!.mid, 9);
    expect(m.here!.peak).toBeLessThanOrEqual(m.peakUmol);
    expect(m.here!.peak).toBeGreaterThanOrEqual(m.light!.min);
  });
});

describe('where nitrate and phosphate lead', () => {
  const taken = takenByGrowth(range(5, 15), 420);
  const harvests = [loggedMat(matsOf(sump)[0]!, bundle.log, NOW).harvests];
  const look = (change: Partial<CaseDoc> = {}, log: LogDoc = bundle.log, of = harvests) =>
    outlooks({ ...doc, ...change }, log, of, taken, NOW);

  test('tests and what was exported meanwhile say what comes in; without harvests feeding does', () => {
    const [nitrate, phosphate] = look();
    expect([nitrate!.nowPpm, phosphate!.nowPpm]).toEqual([9, 0.07]);
    // −0.93 ppm a week by the tests, about 1.9 exported
    expect(nitrate!.comes!.mid).toBeGreaterThan(0.8);
    expect(nitrate!.comes!.mid).toBeLessThan(1.5);
    const fed = look({}, bundle.log, [[]])[0]!;
    expect(fed.comes!.mid).toBeGreaterThan(5);
    expect(look({ system: undefined }, bundle.log, [[]])[0]!.comes).toBeNull();
  });

  test('a test of long ago says nothing of the present; dosing is carried along', () => {
    const old = {
      ...bundle.log,
      events: bundle.log.events.filter((e): e is LogEvent => e.kind !== 'test' || e.atUtc < '2026-10-10'),
    };
    expect(look({}, old)[0]!.nowPpm).toBeNull();
    expect(look({}, old)[0]!.weeks).toBeNull();
    const dosing = look({ system: { ...doc.system!, dosedNitratePpm: 4 } });
    expect(dosing[0]!.dosedPpm).toBe(4);
    expect(dosing[1]!.dosedPpm).toBe(0);
    // what is dosed does not come by itself as well
    expect(dosing[0]!.comes!.mid).toBe(0);
  });
});

describe('setting up', () => {
  const waysOf = (id: string): LampWay[] => {
    const kind = libraryLamp(id);
    const work = lampForSteps({
      tank: sump.tank,
      water: sump.water,
      mat: matOf(sump.spots[0]!),
      alga: alga('greenTangle'),
      role: 'helper',
      clearanceCm: 8,
      roomCm: 40,
      hours: 12,
      lamps: [{ kind, mix: allFull(kind) }],
    });
    for (;;) {
      const next = work.next();
      if (next.done) return next.value;
    }
  };
  let made = 0;
  const id = () => `id-${(made += 1)}`;

  test('lamps that are tried: what hangs here first and once, then the most growth per watt, nothing near-pure blue', () => {
    const own = { ...libraryLamp('lib-refugium-fixed'), id: 'own', name: 'My lamp' };
    const list = lampsFor(alga('greenTangle'), [own]);
    expect(list[0]!.kind).toBe(own);
    expect(list.map((l) => l.kind.id)).not.toContain('lib-refugium-fixed');
    expect(list[1]!.kind.id).toBe('lib-refugium-dim');
    expect(list).toHaveLength(8);
    expect(list.every((l) => l.kind.source === 'led' && !isNearPureBlue(lampLight(l.kind, l.mix)))).toBe(
      true,
    );
  });

  test('what cannot be dimmed hangs on a timer at full; what can is capped; nothing shares an id', () => {
    const fixed = hang(waysOf('lib-refugium-fixed')[0]!, doc, [doc.zones[0]!], false, 12, id);
    expect(dims(fixed.kind)).toBe(false);
    expect(fixed.kind.controller).toMatchObject({ name: 'Wall timer', everyMin: 30 });
    expect(fixed.group.capShare).toBe(1);
    expect(fixed.group.threads.every((t) => t.minute % 30 === 0)).toBe(true);
    const several = waysOf('lib-refugium-dim').find((w) => w.lamps.length === 2)!;
    const dimmed = hang(several, doc, [doc.zones[0]!], false, 12, id);
    expect(dimmed.group.capShare).toBeCloseTo(several.level, 2);
    expect(dimmed.group.lamps.map((l) => l.name)).toEqual(['lamp 1', 'lamp 2']);
    const ids = [fixed, dimmed].flatMap(({ kind, plate, group }) => [
      kind.id,
      plate.id,
      group.id,
      ...group.lamps.map((l) => l.id),
      ...group.threads.map((t) => t.id),
    ]);
    expect(new Set(ids).size).toBe(ids.length);
  });

  test('a refugium is lit while what is looked at is dark; another display is lit with it; refugia are in nobody’s way', () => {
    const way = waysOf('lib-refugium-fixed')[0]!;
    const display = litPieces(draftGroups(doc, doc.zones[0]!).map((g) => g.day));
    const hung = (others: Zone[], lookedAt: boolean) => {
      const { kind, plate, group } = hang(way, doc, others, lookedAt, 10, id);
      const next = {
        ...doc,
        lampKinds: [...doc.lampKinds, kind],
        plates: [...doc.plates, plate],
        zones: [{ ...sump, groups: [group] }],
      };
      return litPieces(draftGroups(next, next.zones[0]!).map((g) => g.day));
    };
    const night = hung(doc.zones, false);
    expect(overlap(night, display).both).toBe(0);
    expect(overlap(night, display).onlyA).toBe(600);
    expect(hung([doc.zones[0]!], false)).toEqual(night);
    expect(overlap(hung(doc.zones, true), display).both).toBe(600);
  });

  test('plain hours keep the mix and strength of the strongest thread', () => {
    const threads: Thread[] = [
      { id: 'x', minute: 600, strengthShare: 0.2, mix: { plateId: 'dusk' } },
      { id: 'y', minute: 700, strengthShare: 0.7, mix: { own: { a: 1 } } },
    ];
    const kind = libraryLamp('lib-refugium-dim');
    const day = plainHours(kind, { threads }, 1260, 480, id);
    expect(day.map((t) => t.strengthShare)).toEqual([0, 0.7, 0.7, 0]);
    expect(day.every((t) => 'own' in t.mix && t.mix.own.a === 1)).toBe(true);
    // a group without a day is lit in full by what its keeper chooses later
    expect(plainHours(kind, { threads: [] }, 0, 0, id)).toMatchObject([
      { minute: 0, strengthShare: 1, mix: { own: {} } },
    ]);
  });

  test('a spot for algae, with its mat or a mere clump', () => {
    const at = { xCm: 5, yCm: 6, depthCm: 7 };
    expect(algaSpot('s', alga('redLeaf'), at, { lengthCm: 9, widthCm: 8 })).toMatchObject({
      ...at,
      name: 'Red leaf',
      need: 'macroalgae',
      algaId: 'redLeaf',
      mat: { lengthCm: 9, widthCm: 8 },
    });
    expect(algaSpot('s', alga('redLeaf'), at)).not.toHaveProperty('mat');
    expect(displayCase(NOW, 'UTC').case.zones.flatMap(algaeSpots)).toEqual([]);
  });
});
