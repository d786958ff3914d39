import { median } from 'd3-array';

import { displayCase } from '@/demo/lagoon';

import { gridFor } from '../optics/field';
import { computeField } from '../optics/fieldSteps';
import { computeResponse } from '../optics/response';
import { beforeAfter } from './beforeAfter';
import { calibrate } from './calibrate';
import {
  bandShare,
  bareCalibration,
  type Calibration,
  DOUBT,
  PRIOR_SHARE,
  calibrationKey,
  hungGroups,
  levelsIn,
  readUnder,
} from './calibration';
import {
  bandUnder,
  brightestLevels,
  levelsOfGroups,
  parUnder,
  partsOf,
  spectrumUnder,
  zoneLight,
} from './light';
import { draftGroups, rigOf } from './lit';
import { planVisit } from './visit';
import { likings, placeName, placesFor } from './places';
import { standingOf, livesByLight, lowerEdgeUmol, NEEDS, wantsOf } from '../record/needs';
import { brightestMinute, levelsById, plateaus, rigGroups } from './plateaus';
import { hiddenTruth, simulatedReading } from './simulated';
import { parBySolo, soloPlaces, sumChecks } from './superposition';
import { type Zone, plainSpot } from '../record/zone';
import { type Reading, type Session, bandsOf } from '../record/readings';
import { FRESH_YELLOW } from '../record/log/carbon';
import { yellowAfterCarbon, yellowFromCard } from './yellow';
import { parFactor, meterKind, shownUnder } from '../meter/kinds';

const { case: doc } = displayCase(Date.UTC(2026, 10, 24), 'UTC');
const zone = doc.zones[0]!;
const groups = draftGroups(doc, zone);
const group = groups[0]!;
const bare = bareCalibration(hungGroups(doc, zone), zone);
const light = zoneLight(computeResponse(rigOf(groups, zone, zone.spots)), groups);
const noon = levelsOfGroups(groups, 845);
const channel = group.lampKind.channels.map((c) => c.id);

const reading = (spot: number, levels: number[][], shown: number, change: Partial<Reading> = {}): Reading => {
  const { id, name, xCm, yCm, depthCm } = zone.spots[spot]!;
  return {
    id: `r${spot}${Math.round(shown)}${levels.flat().filter((l) => l > 0).length}`,
    spotId: id,
    name,
    xCm,
    yCm,
    depthCm,
    atUtc: '2026-11-24T12:00:00.000Z',
    tries: [shown],
    bands: null,
    levels: levelsById(groups, levels),
    ...change,
  };
};
const session = (readings: Reading[], change: Partial<Session> = {}): Session => ({
  id: 's',
  zoneId: zone.id,
  name: 'Evening',
  atUtc: '2026-11-24T12:00:00.000Z',
  meter: { kind: 'ideal', immersionFactor: 1, sensorAboveCm: 0, simulated: false },
  pumpsOn: false,
  lit: '',
  counts: true,
  rig: rigGroups(groups),
  readings,
  ...change,
});
const alone = (c: number, level = 1) => [channel.map((_, k) => (k === c ? level : 0))];

test('without readings PAR is the bare model and its doubt, which all colours mostly share', () => {
  expect(calibrate(doc, zone, [])).toEqual(bare);
  const band = bandUnder(bare, light, groups, noon, 0);
  // eight independent colours would make 20 %; what all of them share stays
  expect(band).toBeGreaterThan(1.645 * DOUBT.kind);
  expect(band).toBeLessThan(0.6);
  // of one colour its own is added, and what lamps, heights, beams, panes and water leave open
  expect(bandUnder(bare, light, groups, alone(2), 0)).toBeGreaterThan(1.645 * PRIOR_SHARE);
  expect(bandUnder(bare, light, groups, alone(2), 0)).toBeGreaterThan(band);
  // what it is made of is kept for the light: at any levels it is that of the parts at those levels
  for (const lit of [noon, alone(2), alone(5, 0.3), noon.map((l) => l.map((v, c) => v * (c % 3))), noon])
    expect(bandUnder(bare, light, groups, lit, 0)).toBeCloseTo(
      bandShare(bare, partsOf(light, groups, lit, 0)),
      12,
    );
  expect(bandUnder(bare, light, groups, [channel.map(() => 0)], 0)).toBe(0);
  expect(bandShare(bare, [])).toBe(0);
  expect(calibrationKey(bare)).toBe('');
  // lamps that nothing is known of are as doubtful as before any reading
  expect(
    bandShare(bare, [
      {
        groupId: 'x',
        channelId: 'y',
        par: 5,
        byYellow: 0,
        byBeam: 0,
        byPane: 0,
        byFloor: 0,
        lamps: [],
        at: null,
      },
    ]),
  ).toBeCloseTo(1.645 * PRIOR_SHARE, 9);
});

test('one reading moves all colours towards it; each keeps its own doubt, and bands narrow but never pretend', () => {
  const par = parUnder(light, noon, 0);
  const cal = calibrate(doc, zone, [session([reading(0, noon, 1.3 * par)])]);
  expect(cal.readings).toBe(1);
  const fitted = zoneLight(computeResponse(rigOf(groups, zone, zone.spots, cal)), groups, cal);
  // most of it, for some of it may be the meter's
  expect(parUnder(fitted, noon, 0) / par).toBeGreaterThan(1.2);
  expect(parUnder(fitted, noon, 0) / par).toBeLessThan(1.3);
  for (const gain of Object.values(cal.gains[group.groupId]!)) {
    expect(gain).toBeGreaterThan(1.05);
    expect(gain).toBeLessThan(1.3);
  }
  for (const p of cal.parameters.filter((q) => q.what === 'gain'))
    expect(p.standardError / p.value).toBeGreaterThan(0.9 * DOUBT.channel);
  expect(cal.yellow440PerM).toBeCloseTo(zone.water.yellow440PerM, 1);
  const [one, none] = [bandUnder(cal, fitted, groups, noon, 0), bandUnder(bare, light, groups, noon, 0)];
  expect(one).toBeLessThan(none / 2);
  // single colours stay about as doubtful as each is by itself
  expect(bandUnder(cal, fitted, groups, alone(2), 0)).toBeGreaterThan(1.2 * one);
  expect(calibrationKey(cal)).not.toBe('');
});

test('a session that is set aside, empty readings and another zone’s say nothing', () => {
  const r = reading(0, noon, 400);
  expect(calibrate(doc, zone, [session([r], { counts: false })]).readings).toBe(0);
  expect(calibrate(doc, zone, [session([r], { zoneId: 'other' })]).readings).toBe(0);
  expect(calibrate(doc, zone, [session([{ ...r, tries: [] }])]).readings).toBe(0);
  // readings of an older version stand at their spot; with the spot gone they say nothing
  const old = session([{ ...r, xCm: 0, yCm: 0, depthCm: 0 }], { rig: null });
  expect(calibrate(doc, zone, [old]).residuals[0]!.xCm).toBe(zone.spots[0]!.xCm);
  expect(calibrate(doc, { ...zone, spots: zone.spots.slice(1) }, [old]).readings).toBe(0);
});

test('immersion, sensor height and the meter’s colour blindness are undone', () => {
  const deep = computeResponse(
    rigOf(
      groups,
      zone,
      zone.spots.map((s) => ({ ...s, depthCm: s.depthCm - 3 })),
    ),
  );
  const sensed = zoneLight(deep, groups);
  for (const kind of ['ideal', 'lowCost', 'lux', 'phone', 'spectrometer'] as const) {
    const at = (s: number) => shownUnder(meterKind(kind), spectrumUnder(sensed, noon, s)) / 1.2;
    const cal = calibrate(doc, zone, [
      session(
        [0, 1, 2, 3].map((s) => reading(s, noon, at(s))),
        { meter: { kind, immersionFactor: 1.2, sensorAboveCm: 3, simulated: false } },
      ),
    ]);
    for (const r of cal.residuals) expect(r.observedUmol / r.predictedUmol).toBeCloseTo(1, 1);
    const fitted = zoneLight(computeResponse(rigOf(groups, zone, zone.spots, cal)), groups, cal);
    expect(parUnder(fitted, noon, 4) / parUnder(light, noon, 4)).toBeCloseTo(1, 1);
  }
});

test('a lux meter leaves more doubt than a quantum meter, and a spectrometer tells colours apart', () => {
  const band = (kind: Session['meter']['kind'], bands = false) => {
    const readings = [0, 1, 2, 3].map((s) => {
      const spectrum = spectrumUnder(light, noon, s);
      const meter = meterKind(kind);
      const shares = [360, 400, 430, 460, 480, 510, 565, 620, 680].map((from, i, all) => {
        const to = all[i + 1] ?? 780;
        return spectrum.slice(from - 360, to - 360).reduce((a, b) => a + b, 0);
      });
      const sum = shares.reduce((a, b) => a + b, 0);
      return reading(
        s,
        noon,
        shownUnder(meter, spectrum),
        bands ? { bands: bandsOf(shares.map((v) => v / sum)) } : {},
      );
    });
    const cal = calibrate(doc, zone, [
      session(readings, { meter: { kind, immersionFactor: 1, sensorAboveCm: 0, simulated: false } }),
    ]);
    return {
      sum: bandUnder(cal, light, groups, noon, 4),
      violet: cal.parameters.find((p) => p.channelId === 'violet')!.standardError,
    };
  };
  const [quantum, lux, phone, spectral] = [
    band('ideal'),
    band('lux'),
    band('phone'),
    band('spectrometer', true),
  ];
  expect(lux.sum).toBeGreaterThan(quantum.sum);
  expect(phone.sum).toBeGreaterThan(lux.sum);
  expect(spectral.violet).toBeLessThan(0.8 * quantum.violet);
});

test('colours read alone give a place’s light without optics, and their sum is held against all together', () => {
  const solo = channel.map((_, c) => reading(1, alone(c), parUnder(light, alone(c), 1), { id: `solo${c}` }));
  const together = (factor: number) => reading(1, noon, factor * parUnder(light, noon, 1), { id: 'all' });
  const cal = calibrate(doc, zone, [session([...solo, together(1)])]);
  const [place] = soloPlaces(cal);
  expect(place!.rows).toHaveLength(channel.length);
  const sum = parBySolo(place!, levelsById(groups, noon))!;
  expect(sum.umol / parUnder(light, noon, 1)).toBeCloseTo(1, 1);
  expect(sumChecks(cal)).toMatchObject([{ addsUp: true, causes: [] }]);
  const less = sumChecks(calibrate(doc, zone, [session([...solo, together(0.7)])]))[0]!;
  expect(less.addsUp).toBe(false);
  expect(less.causes.join()).toMatch(/power budget/);
  const more = sumChecks(calibrate(doc, zone, [session([...solo, together(1.35)])]))[0]!;
  expect(more.causes.join()).toMatch(/other light/);
  expect(parBySolo({ ...place!, rows: place!.rows.slice(1) }, levelsById(groups, noon))).toBeNull();
  // a glimmer is light as well, and no light is no sum
  const row = place!.rows[0]!;
  const glimmer = { [row.groupId]: { [row.channelId]: 0.4 / row.parAtFull } };
  expect(parBySolo(place!, glimmer)!.umol).toBeCloseTo(0.4, 9);
  expect(parBySolo(place!, { [row.groupId]: { [row.channelId]: 0 } })).toBeNull();
  // two unequal readings of one colour by hand: 100 ± 2 and 130 ± 4 are 106 ± 1.79
  const twice = soloPlaces({
    residuals: [
      [100, 2],
      [130, 4],
    ].map(([observedUmol, sigmaUmol]) => ({
      ...cal.residuals[0]!,
      observedUmol: observedUmol!,
      sigmaUmol: sigmaUmol!,
      levels: { g: { c: 1 } },
    })),
  })[0]!.rows;
  expect(twice).toHaveLength(1);
  expect(twice[0]!.parAtFull).toBeCloseTo(0.8 * 100 + 0.2 * 130, 9);
  expect(twice[0]!.standardError).toBeCloseTo(4 / Math.sqrt(5), 9);
  // a file that gives fewer bands than there are says nothing of the rest
  expect(Object.values(bandsOf([0.25, 0.75])).reduce((a, b) => a + b, 0)).toBe(1);
});

test('a round with the meter: as many minutes as there are, what narrows most, and less to gain once it was walked', () => {
  const corals = [0, 1, 2, 3, 4];
  const plan = (cal: Calibration, minutes: number) => planVisit(cal, light, groups, noon, corals, minutes)!;
  const [short, long] = [plan(bare, 3), plan(bare, 20)];
  expect(short.stops).toHaveLength(1);
  expect(short.bandAfter).toBeLessThan(0.7 * short.bandBefore);
  // what is said now is what the figures say
  const shown = corals.reduce((s, c) => s + bandUnder(bare, light, groups, noon, c), 0) / corals.length;
  expect(short.bandBefore).toBeCloseTo(shown, 6);
  expect(long.minutes).toBeLessThanOrEqual(20);
  expect(long.stops.length).toBeGreaterThan(4);
  expect(long.bandAfter).toBeLessThan(short.bandAfter);
  // light by light: nothing is lit twice
  const lit = long.stops.map((s) => s.alone?.channelId ?? '');
  expect(lit.filter((l, i) => l !== lit[i - 1])).toHaveLength(new Set(lit).size);
  // walked, it does what was said, and there is less left to gain
  const readings = long.stops.map(({ spot, alone: one }, i) => {
    const levels = one ? alone(channel.indexOf(one.channelId)) : noon;
    return reading(spot, levels, parUnder(light, levels, spot), { id: `v${i}` });
  });
  const cal = calibrate(doc, zone, [session(readings)]);
  const after = corals.reduce((s, c) => s + bandUnder(cal, light, groups, noon, c), 0) / corals.length;
  expect(after).toBeLessThan(1.35 * long.bandAfter);
  expect(after).toBeGreaterThan(0.65 * long.bandAfter);
  const again = plan(cal, 20);
  expect(again.bandBefore - again.bandAfter).toBeLessThan((long.bandBefore - long.bandAfter) / 2);
  expect(
    planVisit(
      bare,
      light,
      groups,
      noon.map((l) => l.map(() => 0)),
      corals,
      10,
    ),
  ).toBeNull();
});

test('what suits whom: its own range before its kind’s, and everybody who would like a place', () => {
  expect([30, 100, 500].map((v) => standingOf(v, NEEDS.largePolyp))).toEqual(['below', 'within', 'above']);
  const suited = (z: Pick<Zone, 'needs'>) =>
    likings(100, 0.1, z)
      .filter((l) => l.placed.place === 'within')
      .map((l) => l.id);
  expect([...suited(zone)].sort()).toEqual(['largePolyp', 'macroalgae', 'soft']);
  expect(likings(100, 0.1, zone)).toHaveLength(7);
  const own = { ...zone.spots[0]!, wants: { fromUmol: 90, toUmol: 110 } };
  expect(wantsOf(own, zone)).toEqual(own.wants);
  expect(wantsOf(plainSpot({ id: 'a', name: 'a', xCm: 0, yCm: 0, depthCm: 0, need: null }), zone)).toBeNull();
  const dark = { ...own, need: 'nonPhotosynthetic' as const, wants: null };
  expect([livesByLight(dark), lowerEdgeUmol(dark, zone)]).toEqual([false, 50]);
  // what the keeper says of a kind holds for all of it but those that have their own
  const known = { ...zone, needs: { smallPolyp: { fromUmol: 90, toUmol: 160 } } };
  expect(wantsOf(own, known)).toEqual(own.wants);
  expect(lowerEdgeUmol(zone.spots[0]!, known)).toBe(90);
  expect(suited(known)).toContain('smallPolyp');
});

test('where a coral could go: empty spots first, then ground with its light, apart from others', () => {
  const field = computeField(rigOf(groups, zone, []), gridFor(zone.tank, 5, 6));
  const shares = groups.flatMap((g) => g.lamps.flatMap(() => noon[0]!));
  const empty = plainSpot({ id: 'e', name: 'Ledge', xCm: 110, yCm: 45, depthCm: 22, need: null });
  const wants = { fromUmol: 120, toUmol: 260 };
  const { candidates, groundShare } = placesFor(field, zone.tank, [...zone.spots, empty], wants, shares);
  expect(candidates[0]).toMatchObject({ spotId: 'e', name: 'Ledge' });
  expect(groundShare).toBeGreaterThan(0);
  for (const c of candidates) expect(standingOf(c.umol, wants)).toBe('within');
  const ground = candidates.slice(1);
  for (const c of ground)
    for (const s of zone.spots) expect(Math.hypot(c.xCm - s.xCm, c.yCm - s.yCm)).toBeGreaterThanOrEqual(10);
  expect(
    placesFor(field, zone.tank, zone.spots, { fromUmol: 2000, toUmol: 2500 }, shares).candidates,
  ).toEqual([]);
  expect(placeName(zone.tank, { xCm: 10, yCm: 55, depthCm: 50 })).toBe('on the floor, left back');
  expect(placeName(zone.tank, { xCm: 75, yCm: 30, depthCm: 10 })).toBe('in open water, middle');
});

test('before and after: by size of change, and evenness only where it beats the noise', () => {
  const values = zone.spots.map((_, s) => parUnder(light, noon, s));
  const first = session(values.map((v, s) => reading(s, noon, v, { id: `a${s}` })));
  const second = (of: (v: number, s: number) => number, id = 't') =>
    session(
      values.map((v, s) => reading(s, noon, of(v, s), { id: `${id}${s}` })),
      { id },
    );
  const same = calibrate(doc, zone, [first, second((v) => v)]);
  const unchanged = beforeAfter(same, 's', 't').found!;
  expect(unchanged.verdict).toBe('cannot tell');
  unchanged.places.forEach((p) => expect([p.change, p.real]).toEqual([0, false]));
  const mean = values.reduce((a, b) => a + b, 0) / values.length;
  const evened = beforeAfter(
    calibrate(doc, zone, [first, second((v) => mean + 0.2 * (v - mean))]),
    's',
    't',
  ).found!;
  expect(evened.verdict).toBe('more even');
  expect(Math.abs(evened.places[0]!.change)).toBeGreaterThanOrEqual(Math.abs(evened.places.at(-1)!.change));
  expect(evened.after.cv).toBeLessThan(evened.before.cv);
  const rougher = beforeAfter(
    calibrate(doc, zone, [first, second((v) => mean + 1.8 * (v - mean))]),
    's',
    't',
    0.5,
  ).found!;
  expect(rougher.verdict).toBe('less even');
  expect(beforeAfter(same, 's', 's').found!.verdict).toBe('cannot tell');
  expect(beforeAfter(calibrate(doc, zone, [first]), 's', 't').found).toBeNull();
});

test('yellow water by days and by a card', () => {
  expect(yellowAfterCarbon(0)).toBe(FRESH_YELLOW);
  expect(yellowAfterCarbon(30)).toBeGreaterThan(yellowAfterCarbon(10));
  expect(yellowAfterCarbon(2000)).toBe(0.5);
  expect(yellowFromCard('straw', 60)).toBeCloseTo(0.3, 9);
  // the same look over half the way means twice as yellow
  expect(yellowFromCard('straw', 30)).toBeCloseTo(0.6, 9);
  expect(yellowFromCard('tea', 1)).toBeLessThanOrEqual(2);
});

test('a simulated meter reads a truth of its own, the same for the same seed, with noise of its kind', () => {
  const truth = hiddenTruth(7, groups, zone.water);
  expect(hiddenTruth(7, groups, zone.water)).toEqual(truth);
  expect(hiddenTruth(8, groups, zone.water)).not.toEqual(truth);
  const matrix = computeResponse(rigOf(groups, zone, zone.spots, truth));
  const use = { kind: 'ideal' as const, immersionFactor: 1, sensorAboveCm: 0, simulated: true };
  const ask = (salt: string, kind: Session['meter']['kind'] = 'ideal', slope = 0) =>
    simulatedReading(
      { matrix, gains: truth.gains },
      groups,
      levelsById(groups, noon),
      0,
      { ...use, kind },
      slope,
      7,
      salt,
    );
  expect(ask('a')).toEqual(ask('a'));
  const tries = Array.from({ length: 60 }, (_, i) => ask(`${i}`).shown);
  const real = parUnder(zoneLight(matrix, groups, { gains: truth.gains }), noon, 0);
  expect(Math.abs(median(tries)! / real - 1)).toBeLessThan(0.2);
  const spread = (list: number[]) => Math.max(...list) - Math.min(...list);
  expect(spread(tries)).toBeGreaterThan(0.05 * real);
  const rippled = Array.from({ length: 60 }, (_, i) => ask(`${i}`, 'ideal', 0.12).shown);
  expect(spread(rippled)).toBeGreaterThan(spread(tries));
  expect(ask('x', 'lux').shown).toBeGreaterThan(1000);
  const { bands } = ask('x', 'spectrometer');
  expect(Object.values(bands!).reduce((a, b) => a + b, 0)).toBeCloseTo(1, 9);
});

test('plateaus are the day’s distinct tints at their brightest; levels keep their names', () => {
  const found = plateaus(groups);
  expect(found.length).toBeGreaterThan(1);
  expect(found.some((p) => p.minute === 845)).toBe(true);
  expect(new Set(found.map((p) => p.minute)).size).toBe(found.length);
  expect(levelsIn(group, levelsById(groups, noon))).toEqual(noon[0]);
  expect(brightestLevels(light, groups, 0)).toEqual(noon);
  expect(partsOf(light, groups, noon, 0)).toHaveLength(channel.length);
  expect(parFactor(meterKind('lux'), spectrumUnder(light, [channel.map(() => 0)], 0))).toBeNull();
});

test('readings stand on a chart only under the light they were taken in, and from the newest session', () => {
  const old = session([reading(0, noon, 240)], { id: 'old', atUtc: '2026-11-20T12:00:00.000Z' });
  const now = session([reading(1, noon, 260), reading(2, alone(2), 90)], { id: 'now' });
  const cal = calibrate(doc, zone, [old, now]);
  expect(readUnder(cal, groups, noon).map((r) => r.spotId)).toEqual([zone.spots[1]!.id]);
  expect(readUnder(cal, groups, alone(2)).map((r) => r.spotId)).toEqual([zone.spots[2]!.id]);
  // a percent of the drive up or down is the same light, ten are another
  const near = (by: number) => noon.map((row) => row.map((l) => l + by));
  expect(readUnder(cal, groups, near(0.01))).toHaveLength(1);
  expect(readUnder(cal, groups, near(0.1))).toHaveLength(0);
  expect(cal.simulated).toBe(false);
  const made = session([reading(0, noon, 240)], { meter: { ...now.meter, simulated: true } });
  expect(calibrate(doc, zone, [now, made]).simulated).toBe(true);
  expect(calibrate(doc, zone, [now, { ...made, counts: false }]).simulated).toBe(false);
});

test('two meters that disagree widen the bands; one bad reading is pointed out by name', () => {
  const par = (s: number) => parUnder(light, noon, s);
  const shots = [0, 1, 2, 3, 4];
  const calm = calibrate(doc, zone, [session(shots.map((s) => reading(s, noon, par(s))))]);
  // readings that scatter far wider than a meter should
  const wild = calibrate(doc, zone, [
    session(
      [...shots, ...shots].map((s, i) =>
        reading(s, noon, par(s) * (i % 2 === 0 ? 1.22 : 0.8), { id: `w${i}` }),
      ),
    ),
  ]);
  expect(calm.scatter).toBeLessThan(1.3);
  expect(wild.scatter).toBeGreaterThan(1.3);
  expect(bandUnder(wild, light, groups, noon, 0)).toBeGreaterThan(bandUnder(calm, light, groups, noon, 0));
  const bad = calibrate(doc, zone, [
    session(shots.map((s) => reading(s, noon, s === 3 ? 3 * par(s) : par(s), { id: `b${s}` }))),
  ]);
  expect(bad.residuals.filter((r) => r.suspect).map((r) => r.readingId)).toEqual(['b3']);
  expect(bad.residuals.find((r) => r.readingId === 'b3')!.dropped).toBe(true);
});

test('the brightest minute is one for all spots; without any the levels decide', () => {
  expect(brightestMinute(light, groups)).toBe(845);
  expect(plateaus(groups).map((p) => p.minute)).toContain(brightestMinute(null, groups));
  expect(brightestMinute(null, [{ ...group, threads: [], day: { ...group.day, knots: [] } }])).toBe(720);
});
