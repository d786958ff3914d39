import fc from 'fast-check';

import type { MatFlow } from '../record/zone';
import { alga, ALGAE, algaLight, feedingShare, PIGMENTS, pigmentAt } from '../feeding/algae';
import { libraryLamp } from '../library/lamps';
import { plainTank } from '../optics/tank';
import { allFull } from '../spectrum/controls';
import { emissionSpectrum } from '../spectrum/emission';
import { addScaled, zeroSpectrum } from '../spectrum/grid';
import { familiesFor, FAMILIES, familyLight, fitOf, isNearPureBlue, refusedInBlue } from './families';
import { flowCheck } from './flow';
import { corrected, correction, countingHours, expectedWetGPerDay, plainDaylight, worthOf } from './growth';
import { aimUmol, feedingPerJoule, matPlaces } from './roles';
import { type LampAsk, lampForSteps, type LampWay } from './lampFor';
import { outlook, standsInFor, supplied, takenByGrowth } from './outlook';
import { systemLitres } from '../record/system';
import { overlit, waysOut } from './overlit';
import { extremes, independent, logSd, range } from '../feeding/range';
import { asDrained, asPpm, removed } from '../feeding/removal';

const led = (peakNm: number) => emissionSpectrum({ shape: 'line', peakNm, fwhmNm: 18, flux: 100 });
const at = (s: ArrayLike<number>, nm: number) => s[nm - 360]!;

describe('pigments and usable share', () => {
  test('peaks stand where the literature has them', () => {
    const top = (id: string, from: number, to: number) => {
      const p = PIGMENTS.find((x) => x.id === id)!;
      let best = from;
      for (let nm = from; nm <= to; nm += 1) if (pigmentAt(p, nm) > pigmentAt(p, best)) best = nm;
      return best;
    };
    expect(top('chlorophyllA', 400, 500)).toBeGreaterThanOrEqual(432);
    expect(top('chlorophyllA', 400, 500)).toBeLessThanOrEqual(440);
    expect(top('chlorophyllA', 600, 700)).toBe(676);
    expect(top('chlorophyllB', 400, 500)).toBe(470);
    expect(top('chlorophyllB', 600, 700)).toBe(650);
    expect(top('phycoerythrin', 480, 600)).toBeGreaterThanOrEqual(558);
    expect(top('phycoerythrin', 480, 600)).toBeLessThanOrEqual(568);
    expect(top('fucoxanthin', 450, 600)).toBeGreaterThanOrEqual(490);
  });

  test('no alga feeds on more photons than it absorbs, nor absorbs more than fall on it', () => {
    for (const a of ALGAE) {
      const { depth, feeds } = algaLight(a);
      feeds.forEach((f, i) => {
        expect(f).toBeGreaterThanOrEqual(0);
        expect(f).toBeLessThanOrEqual(1 - Math.exp(-depth[i]!) + 1e-12);
      });
      expect(Math.max(...depth)).toBeCloseTo(a.depth, 9);
    }
  });

  test('reds take green, greens do not; browns take blue-green; red light serves greens best', () => {
    const [green, red, brown] = [alga('greenTangle'), alga('redBush'), alga('brownBlade')].map(
      (a) => algaLight(a).feeds,
    );
    expect(at(red!, 560)).toBeGreaterThan(2 * at(red!, 450));
    expect(at(red!, 545)).toBeGreaterThan(1.4 * at(green!, 545));
    expect(at(brown!, 500)).toBeGreaterThan(1.5 * at(green!, 500));
    expect(at(green!, 665)).toBeGreaterThan(1.2 * at(green!, 455));
    expect(at(green!, 550)).toBeLessThan(0.5 * at(green!, 670));
  });

  test('the share of a mixture is the photon-weighted mean of its parts', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...ALGAE),
        fc.integer({ min: 410, max: 680 }),
        fc.integer({ min: 410, max: 680 }),
        fc.double({ min: 0.1, max: 10, noNaN: true }),
        (a, x, y, k) => {
          const both = zeroSpectrum();
          addScaled(both, led(x), 1);
          addScaled(both, led(y), k);
          const par = (s: ArrayLike<number>) => feedingShare(s, a)!;
          // both lie inside PAR, so their photons are all of them
          const mean =
            (par(led(x)) * inPar(led(x)) + k * par(led(y)) * inPar(led(y))) /
            (inPar(led(x)) + k * inPar(led(y)));
          expect(par(both)).toBeCloseTo(mean, 6);
        },
      ),
      { numRuns: 40 },
    );
    expect(feedingShare(zeroSpectrum(), alga('redLeaf'))).toBeNull();
  });

  test('near-pure blue is refused for most algae, with the share as the reason; no other family is', () => {
    expect(refusedInBlue().map((a) => a.id)).toEqual(['greenTangle', 'featheryGreen', 'redLeaf', 'redBush']);
    const blue = familyLight(FAMILIES.find((f) => f.id === 'blue')!);
    expect(isNearPureBlue(blue)).toBe(true);
    const fit = fitOf(blue, alga('greenTangle'))!;
    expect(fit.words).toContain(`${Math.round(fit.share * 100)} %`);
    expect(fit.words).toMatch(/Near-pure blue is no light for a green tangle/);
    expect(fitOf(blue, alga('brownBlade'))!.standing).toBe('good');
    for (const f of FAMILIES.filter((x) => x.id !== 'blue'))
      for (const a of ALGAE) expect(fitOf(familyLight(f), a)!.standing).not.toBe('refused');
    expect(fitOf(zeroSpectrum(), alga('redLeaf'))).toBeNull();
  });

  test('which tank: red and blue for a sump, a reef lamp among corals, daylight as the show; never blue', () => {
    const first = (p: 'filter' | 'among' | 'show', id: Parameters<typeof alga>[0]) =>
      familiesFor(p, alga(id)).offers[0]!;
    expect(first('filter', 'greenTangle').family.id).toBe('redBlue');
    expect(first('among', 'greenTangle').family.id).toBe('reef');
    expect(first('show', 'redLeaf').family.id).toBe('daylight');
    // a red in a sump: red and blue hardly feeds it
    expect(first('filter', 'redLeaf').family.id).toBe('daylight');
    for (const p of ['filter', 'among', 'show'] as const)
      for (const a of ALGAE) {
        const { offers, why, others } = familiesFor(p, a);
        expect(offers).toHaveLength(4);
        expect(offers.filter((o) => o.standing === 'recommended')).toHaveLength(1);
        expect(offers[0]!.family.id).not.toBe('blue');
        expect(why.length).toBeGreaterThan(20);
        expect(others.length).toBeGreaterThan(1);
      }
  });

  test('light is worth what it feeds: red and blue more than daylight to a green, less to a red leaf', () => {
    const redBlue = familyLight(FAMILIES[0]!);
    expect(worthOf(plainDaylight(), alga('greenTangle'))).toBeCloseTo(1, 9);
    expect(worthOf(redBlue, alga('greenTangle'))).toBeGreaterThan(1.3);
    expect(worthOf(redBlue, alga('redLeaf'))).toBeLessThan(0.7);
  });
});

const inPar = (s: ArrayLike<number>) => {
  let sum = 0;
  for (let nm = 400; nm <= 700; nm += 1) sum += at(s, nm) * (nm === 400 || nm === 700 ? 0.5 : 1);
  return sum;
};

describe('export', () => {
  test('a kilogram drained is 80-150 g dry, 1.6-6 g of nitrogen, 0.08-0.45 g of phosphorus; as ppm of 400 l', () => {
    const r = removed(1000, 'drained');
    expect([r.dryG.low, r.dryG.high]).toEqual([80, 150]);
    expect(r.nitrogenG.low).toBeCloseTo(1.6, 9);
    expect(r.nitrogenG.high).toBeCloseTo(6, 9);
    expect(r.phosphorusG.low).toBeCloseTo(0.08, 9);
    expect(r.phosphorusG.high).toBeCloseTo(0.45, 9);
    const ppm = asPpm(r, 400);
    // 1.6 g N × 4.43 = 7.08 g nitrate in 400 l
    expect(ppm.nitrate.low).toBeCloseTo((1.6 * 4.4268 * 1000) / 400, 2);
    expect(ppm.phosphate.high).toBeCloseTo((0.45 * 3.0662 * 1000) / 400, 3);
    expect(asPpm(r, 800).nitrate.mid).toBeCloseTo(ppm.nitrate.mid / 2, 9);
  });

  test('how it was drained matters, and harvests compare as drained the usual way', () => {
    expect(removed(1000, 'dripping').nitrogenG.mid).toBeLessThan(removed(1000, 'drained').nitrogenG.mid);
    expect(removed(1000, 'squeezed').nitrogenG.mid).toBeGreaterThan(removed(1000, 'drained').nitrogenG.mid);
    expect(removed(100, 'dried').dryG.high).toBe(100);
    expect(asDrained(500, 'drained')).toBe(500);
    expect(asDrained(500, 'dripping')).toBeLessThan(500);
  });

  test('ranges: extremes multiply bounds; independent ones widen less', () => {
    const [a, b] = [range(1, 4), range(2, 8)];
    expect(extremes(a, b)).toEqual({ low: 2, mid: 8, high: 32 });
    const i = independent(a, b);
    expect(i.mid).toBeCloseTo(8, 9);
    expect(i.low).toBeGreaterThan(2);
    expect(i.high).toBeLessThan(32);
    expect(logSd(i)).toBeCloseTo(Math.hypot(logSd(a), logSd(b)), 9);
  });

  test('hours beyond what an alga wants count half for hardy greens and nothing for others', () => {
    const [green, red] = [alga('greenTangle'), alga('redLeaf')];
    expect(countingHours(12, 12, green)).toBe(12);
    expect(countingHours(24, 24, green)).toBeCloseTo(18 + 3, 9);
    expect(countingHours(24, 24, red)).toBeCloseTo(12, 9);
    expect(countingHours(0, 0, red)).toBe(0);
  });

  test('expected growth rises with area and hours; weighed harvests pull it to what was got and narrow it', () => {
    const expected = expectedWetGPerDay(alga('greenTangle'), 0.1, 12);
    expect(expectedWetGPerDay(alga('greenTangle'), 0.2, 12).mid).toBeCloseTo(2 * expected.mid, 9);
    expect(corrected(expected, [])).toEqual({
      low: expect.closeTo(expected.low, 9) as number,
      mid: expect.closeTo(expected.mid, 9) as number,
      high: expect.closeTo(expected.high, 9) as number,
    });
    const got = expected.mid * 0.5;
    const one = corrected(expected, [{ expected, gotGPerDay: got }]);
    const five = corrected(
      expected,
      Array.from({ length: 5 }, () => ({ expected, gotGPerDay: got })),
    );
    expect(one.mid).toBeLessThan(expected.mid);
    expect(five.mid).toBeLessThan(one.mid);
    expect(five.mid / got).toBeCloseTo(1, 0);
    expect(five.high / five.low).toBeLessThan(one.high / one.low);
    expect(one.high / one.low).toBeLessThan(expected.high / expected.low);
    // what says nothing changes nothing
    expect(correction(expected, [{ expected, gotGPerDay: 0 }])).toEqual(correction(expected, []));
  });

  test('feeding as nitrate and phosphate; litres as said, or what rock leaves of the boxes', () => {
    const zones = [{ tank: plainTank(100, 50, 40) }, { tank: plainTank(50, 40, 25) }] as never;
    expect(systemLitres({ zones })).toEqual({ litres: 250 * 0.85, said: false });
    const system = {
      litres: 300,
      fedGPerDay: 2,
      food: 'dry' as const,
      dosedNitratePpm: 0,
      dosedPhosphatePpm: 0,
    };
    expect(systemLitres({ zones, system })).toEqual({ litres: 300, said: true });
    const fed = supplied(system, 300)!;
    // 14 g of dry food a week, about 7 % N, about two thirds of it dissolved: some 10 ppm nitrate in 300 l
    expect(fed.nitrate.mid).toBeGreaterThan(7);
    expect(fed.nitrate.mid).toBeLessThan(13);
    expect(supplied({ ...system, food: 'frozen' }, 300)!.nitrate.mid).toBeLessThan(fed.nitrate.mid / 3);
    expect(supplied({ ...system, fedGPerDay: null }, 300)).toBeNull();
  });

  test('nutrients that would bottom out are seen coming; a dosing keeper works against it', () => {
    const taken = takenByGrowth(range(10, 30), 300).nitrate;
    const o = outlook('nitrate', 8, taken, range(0.5, 1), 0, null);
    expect(o.weeks!.likely!).toBeCloseTo(7 / (taken.mid - Math.sqrt(0.5)), 6);
    expect(o.weeks!.soonest).toBeLessThan(o.weeks!.likely!);
    const dosing = outlook('nitrate', 8, taken, range(0.5, 1), 50, null);
    expect(dosing.weeks).toBeNull();
    // fed as much as is taken: it stands
    expect(outlook('nitrate', 8, taken, range(taken.high, taken.high * 1.1), 0, null).weeks).toBeNull();
    expect(outlook('nitrate', 0.5, taken, range(0.1, 0.2), 0, null).weeks!.soonest).toBe(0);
    expect(outlook('nitrate', null, taken, range(0.1, 0.2), 0, null).weeks).toBeNull();
    expect(outlook('nitrate', 8, taken, null, 0, null)).toMatchObject({ weeks: null, share: null });
    // tests know of skimmer and water changes: what comes is how they moved plus what was exported meanwhile
    const moving = outlook('nitrate', 8, taken, range(50, 60), 0, {
      perWeek: -1,
      standardError: 0.1,
      exported: 3,
    });
    expect(moving.comes!.mid).toBeCloseTo(2, 9);
  });

  test('what it could stand in for', () => {
    expect(standsInFor(1.2)).toMatch(/main filter/);
    expect(standsInFor(0.5)).toMatch(/about 50 %/);
    expect(standsInFor(0.1)).toMatch(/small helper/);
    expect(standsInFor(null)).toMatch(/three tests/);
  });
});

describe('a lamp for the footprint', () => {
  const kind = libraryLamp;
  const tank = plainTank(45, 35, 30);
  const ask: LampAsk = {
    tank,
    water: { yellow440PerM: 0.1, scatterPerM: 0.05 },
    mat: { xCm: 22, yCm: 17, depthCm: 8, lengthCm: 36, widthCm: 26 },
    alga: alga('greenTangle'),
    role: 'main',
    clearanceCm: 8,
    roomCm: 40,
    hours: 12,
    lamps: [],
  };
  const solve = (change: Partial<LampAsk>): { ways: LampWay[]; steps: number[] } => {
    const work = lampForSteps({ ...ask, ...change });
    const steps: number[] = [];
    for (;;) {
      const next = work.next();
      if (next.done) return { ways: next.value, steps };
      steps.push(next.value);
    }
  };
  const lamp = (id: string) => ({ kind: kind(id), mix: allFull(kind(id)) });

  test('height between clearance and room, near the aim, even; photons and watts add up', () => {
    const { ways, steps } = solve({ lamps: [lamp('lib-refugium-fixed'), lamp('lib-refugium-dim')] });
    expect(steps.at(-1)).toBeCloseTo(1, 9);
    for (const w of ways) {
      expect(w.heightCm).toBeGreaterThanOrEqual(8);
      expect(w.heightCm).toBeLessThanOrEqual(40);
      expect(w.lostShare).toBeGreaterThan(0.2);
      expect(w.lostShare).toBeLessThan(1);
      expect(w.uniformity).toBeCloseTo(w.min / w.mean, 9);
    }
    const best = ways[0]!;
    expect(best.standing).toBe('fits');
    expect(Math.abs(best.mean / aimUmol(ask.alga, 'main') - 1)).toBeLessThan(0.4);
    expect(best.watts).toBeLessThan(70);
    // one strong against two weaker: both are there to compare
    expect(
      new Set(ways.filter((w) => w.kind.id === 'lib-refugium-dim').map((w) => w.lamps.length)).size,
    ).toBe(2);
  });

  test('a helper hangs its undimmable lamp no lower than a main filter', () => {
    const one = (role: LampAsk['role']) =>
      solve({ role, lamps: [lamp('lib-refugium-fixed')] }).ways.find((w) => w.lamps.length === 1)!;
    expect(one('helper').heightCm).toBeGreaterThanOrEqual(one('main').heightCm);
    expect(one('helper').mean).toBeLessThanOrEqual(one('main').mean);
  });

  test('too strong at its lowest step is said, dimmable or not', () => {
    const shallow = { mat: { ...ask.mat, lengthCm: 20, widthCm: 14 }, roomCm: 14, alga: alga('redLeaf') };
    const fixed = solve({ ...shallow, lamps: [lamp('lib-refugium-fixed')] }).ways[0]!;
    expect(fixed).toMatchObject({ standing: 'tooStrong' });
    expect(fixed.words).toMatch(/cannot be dimmed/);
    const strong = kind('lib-nine');
    const coarse = { ...strong, controller: { ...strong.controller, lowestShare: 0.5 } };
    const dimmed = solve({ ...shallow, lamps: [{ kind: coarse, mix: allFull(coarse) }] }).ways[0]!;
    expect(dimmed.standing).toBe('tooStrong');
    expect(dimmed.words).toMatch(/even at its lowest step: 50 %/);
  });

  test('without room above it leans from behind, clear of the rim', () => {
    const { ways } = solve({ roomCm: 4, lamps: [lamp('lib-refugium-dim')] });
    expect(ways.every((w) => w.tilted && w.lamps.every((l) => l.tiltDeg! > 0 && l.yCm > tank.widthCm))).toBe(
      true,
    );
    expect(ways[0]!.mean).toBeGreaterThan(0);
  });

  test('places of a mat lie inside the water', () => {
    const places = matPlaces({ ...ask.mat, lengthCm: 90, widthCm: 90 }, tank);
    expect(places).toHaveLength(25);
    // what is read in the middle of the list is read in the middle of the mat
    expect(matPlaces(ask.mat, tank)[12]).toMatchObject({ xCm: ask.mat.xCm, yCm: ask.mat.yCm });
    expect(places.every((p) => p.xCm >= 0 && p.xCm <= 45 && p.yCm >= 0 && p.yCm <= 35)).toBe(true);
  });

  test('red and blue gives a green most growth per watt', () => {
    const perJoule = (id: string) => feedingPerJoule(kind(id), allFull(kind(id)), alga('greenTangle'));
    expect(perJoule('lib-refugium-fixed')).toBeGreaterThan(1.4 * perJoule('lib-refugium-day'));
    expect(feedingPerJoule(kind('lib-refugium-fixed'), {}, alga('greenTangle'))).toBe(0);
  });
});

describe('overlit algae', () => {
  const tank = plainTank(60, 40, 40);
  const spot = { xCm: 30, yCm: 20, depthCm: 10, openShare: 1 };
  const ways = waysOut(spot, tank);

  test('the nearest place down and aside that is dim enough', () => {
    const light = ways.map((w) => 200 - 10 * w.downCm - 8 * w.awayCm);
    expect(overlit(alga('redLeaf'), 100, 200, ways, light)).toMatchObject({ downCm: 10, awayCm: 15 });
    expect(overlit(alga('redLeaf'), 100, 200, ways, light)!.words).toMatch(
      /Reds bleach.*10 cm deeper, or 15 cm aside/,
    );
    expect(overlit(alga('redLeaf'), 100, 100, ways, light)).toBeNull();
    expect(overlit(alga('greenTangle'), 100, 200, ways, light)!.words).not.toMatch(/Reds/);
  });

  test('nowhere dim enough: the lamp is spoken of', () => {
    const none = overlit(
      alga('redBush'),
      20,
      200,
      ways,
      ways.map(() => 150),
    )!;
    expect(none).toMatchObject({ downCm: null, awayCm: null });
    expect(none.words).toMatch(/raise the lamp or dim it/);
    expect(ways.every((w) => w.place.depthCm <= 40 && w.place.xCm >= 0 && w.place.xCm <= 60)).toBe(true);
  });
});

describe('flow over the mat', () => {
  const good: MatFlow = {
    way: 'over',
    leaves: 'weir',
    turnsPerHour: 8,
    screened: true,
    headroomCm: 12,
    drainsL: 10,
  };
  const standings = (change: Partial<MatFlow>) =>
    flowCheck({ ...good, ...change }, plainTank(45, 35, 30)).map((w) => w.standing);

  test('a good one is good throughout; headroom is 10 l over 45 × 35 cm = 6.3 cm', () => {
    expect(standings({})).toEqual(['good', 'good', 'good', 'good', 'good']);
    expect(flowCheck(good, plainTank(45, 35, 30)).at(-1)!.words).toContain('6.3 cm');
  });

  test('still water, no screen, an overflow and unknowns are said', () => {
    expect(standings({ way: 'still' })[0]).toBe('wrong');
    expect(standings({ way: 'beneath' })[0]).toBe('mind');
    expect(standings({ screened: false })[3]).toBe('wrong');
    expect(standings({ drainsL: 25 })[4]).toBe('wrong');
    expect(standings({ drainsL: 16 })[4]).toBe('mind');
    expect(standings({ turnsPerHour: 1 })[2]).toBe('mind');
    expect(standings({ turnsPerHour: 60 })[2]).toBe('mind');
    expect(standings({ turnsPerHour: null, headroomCm: null })).toEqual([
      'good',
      'good',
      'mind',
      'good',
      'mind',
    ]);
    expect(standings({ leaves: 'baffle' })[1]).toBe('mind');
    expect(standings({ leaves: 'baffle', way: 'through' })[1]).toBe('good');
  });
});
