import { displayCase } from '@/demo/lagoon';

import { lampLibrary, libraryLamp } from '../library/lamps';
import { computeResponse } from '../optics/response';
import { wantsOf } from '../record/needs';
import { ended } from '../shape/ended';
import { bareCalibration, hungGroups } from './calibration';
import { type ChooseAsk, chooseSteps, dayApart, lacksOf, type LampChoice } from './choose';
import { badness, rankChoices, USUAL_WISHES } from './chooseRank';
import { Hanger } from './hang';
import { daysAt, zoneLight } from './light';
import { draftGroups, rigOf } from './lit';

const bundle = displayCase(Date.parse('2026-11-24T12:00:00Z'), 'UTC');
const zone = bundle.case.zones[0]!;
const groups = draftGroups(bundle.case, zone);
const cal = bareCalibration(hungGroups(bundle.case, zone), zone);
const ask = (more: Partial<ChooseAsk> = {}): ChooseAsk => ({
  ...{ zone, groups, outGroupId: groups[0]!.groupId, most: 2, cal, lowestCm: 15, highestCm: 60, used: null },
  kinds: ['lib-nine', 'lib-tint', 'lib-two-circuits', 'lib-blue-bar'].flatMap((id) =>
    lampLibrary()
      .map((l) => l.kind)
      .filter((k) => k.id === id),
  ),
  ...more,
});
const own = groups[0]!.lampKind;
const found = ended(chooseSteps(ask({ kinds: [own, ...ask().kinds] })));
const of = (id: string, count: number) =>
  found.find((c) => c.kind.id === id && c.lamps.length === count) as LampChoice;

test('every kind is tried with one and with two, as far as they fit', () => {
  expect(found.length).toBeGreaterThanOrEqual(6);
  for (const c of found) {
    expect(c.figures.umol).toHaveLength(zone.spots.length);
    expect(c.lamps.every((l) => l.heightCm >= 15 && l.heightCm <= 60)).toBe(true);
    expect(c.price).toBe(c.kind.price === null ? null : c.kind.price * c.lamps.length);
  }
  // of lamps as wide as that only one fits over a tank of a metre and a half
  const wide = ended(chooseSteps(ask({ kinds: [{ ...own, faceLengthCm: 100, faceWidthCm: 100 }], most: 4 })));
  expect(wide.map((c) => c.lamps.length)).toEqual([1]);
});

test('what is said of a choice is what a computation of its own finds', () => {
  const c = of('lib-nine', 2);
  const light = zoneLight(computeResponse(rigOf([c.group], zone, zone.spots, cal)), [c.group], cal);
  const days = daysAt(
    light,
    [c.group],
    zone.spots.map((_, i) => i),
  );
  days.forEach((d, i) => expect(c.figures.umol[i]! / d.peak).toBeCloseTo(1, 6));
  const judged = zone.spots.filter((s) => wantsOf(s, zone));
  expect(c.judged).toBe(judged.length);
  expect(c.figures.within).toBe(
    zone.spots.filter((s, i) => {
      const w = wantsOf(s, zone);
      return w && days[i]!.peak >= w.fromUmol && days[i]!.peak <= w.toUmol;
    }).length,
  );
  expect(c.bandShare).toBeGreaterThan(0.3);
});

test('the same lamps lose nothing of the look or of the day, and are no worse hung than they hang', () => {
  const same = of(own.id, groups[0]!.lamps.length);
  expect(same.match).toBeGreaterThan(0.999);
  expect(same.lacks).toEqual([]);
  expect(same.day.errorShare).toBeLessThan(0.01);
  const now = new Hanger({ ...ask(), groupId: groups[0]!.groupId, calm: null }).now();
  expect(same.figures.cost).toBeLessThan(now.cost + 0.02);
});

test('a lamp that cannot be dimmed lacks a dawn, and a bar of blue lacks green; the cheapest that has it is named', () => {
  const bar = lacksOf(groups[0]!, libraryLamp('lib-blue-bar'));
  const green = bar.find((l) => l.what === 'green')!;
  expect(green.holds).not.toBe('real');
  expect(green.addition!.price).toBe(
    Math.min(
      ...lampLibrary()
        .map((l) => l.kind)
        .filter((k) => k.channels.some((ch) => /white|green|lime/i.test(ch.name)))
        .map((k) => k.price ?? Infinity),
    ),
  );
  const stuck = lampLibrary()
    .map((l) => l.kind)
    .find((k) => k.controls.every((c) => c.kind === 'onOff'))!;
  expect(lacksOf(groups[0]!, stuck).map((l) => l.what)).toContain('dawn');
  expect(lacksOf(groups[0]!, own)).toEqual([]);
});

test('how far a day is off is read off its light: the same day by nothing, one without slopes by its dawn', () => {
  const g = groups[0]!;
  expect(dayApart(g, g)).toEqual({ errorShare: 0, firstMin: 0, lastMin: 0 });
  const knots = g.day.knots
    .map((k) => ({ ...k, minute: (k.minute + 60) % 1440 }))
    .sort((a, b) => a.minute - b.minute);
  const late = dayApart(g, { ...g, day: { ...g.day, knots } });
  expect([late.firstMin, late.lastMin]).toEqual([60, 60]);
  expect(late.errorShare).toBeGreaterThan(0.1);
});

test('wishes decide the order: by price alone the cheapest comes first, by colours alone the own lamps', () => {
  const none = Object.fromEntries(
    Object.keys(USUAL_WISHES).map((w) => [w, 'nothing']),
  ) as typeof USUAL_WISHES;
  const first = (wishes: Partial<typeof USUAL_WISHES>) =>
    rankChoices(found, { ...none, ...wishes })[0]!.choice;
  expect(first({ price: 'usual' }).price).toBe(Math.min(...found.map((c) => c.price ?? Infinity)));
  expect(first({ colours: 'usual' }).kind.id).toBe(own.id);
  expect(first({ running: 'much' }).kWhPerDay).toBe(Math.min(...found.map((c) => c.kWhPerDay)));
  const ranked = rankChoices(found, USUAL_WISHES);
  // each kind once, none before one that serves the wishes better
  expect(new Set(ranked.map((r) => r.choice.kind.id)).size).toBe(ranked.length);
  expect(ranked.map((r) => r.score)).toEqual([...ranked.map((r) => r.score)].sort((a, b) => a - b));
  expect(ranked.find((r) => r.choice.kind.id === own.id)!.best).toContain('colours');
  // nobody is called the best in what all share
  const twins = rankChoices([found[0]!, { ...found[0]!, kind: { ...own, id: 'twin' } }], USUAL_WISHES);
  expect(twins.flatMap((r) => r.best)).toEqual([]);
  expect(badness({ ...found[0]!, price: null }, found).price).toBe(0.5);
});

test('what corals are used to is counted; without it nothing is said', () => {
  expect(found.every((c) => c.step === null)).toBe(true);
  const light = zoneLight(computeResponse(rigOf(groups, zone, zone.spots, cal)), groups, cal);
  const used = daysAt(
    light,
    groups,
    zone.spots.map((_, i) => i),
  );
  const [c] = ended(chooseSteps(ask({ kinds: [own], most: 1, used })));
  expect(c!.step!.ratio).toBeGreaterThan(0);
});
