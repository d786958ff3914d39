import { watersCase } from '@/demo/lagoon';

import { parsed } from '../fixtures/events';
import { NEEDS, paceOf } from '../record/needs';
import type { LogEvent } from '../record/log';
import { normal, seeded } from '../spectrum/random';
import type { MetChange } from './replay';
import { ceilingFor, harmFrom } from '../easing/accustomed';
import { borneChance } from '../easing/borne';
import { stepTo } from './judgement';
import {
  BEARS_PRIOR_LN,
  chanceOf,
  type Episode,
  livedThrough,
  type Outcome,
  PRIOR_LN,
  shownCeiling,
  shownRange,
} from './shown';

const kind = NEEDS.smallPolyp;
const episode = (peakUmol: number, outcome: Outcome, confounded = false): Episode => ({
  ...{ fromUtc: '2026-01-01T00:00:00.000Z', days: 60, peakUmol, outcome, confounded },
});

test('without an episode it is the kind’s range, with its doubt; each outcome moves the edge it speaks of', () => {
  const none = shownRange(kind, []);
  expect(none.from.mid / kind.fromUmol).toBeCloseTo(1, 1);
  expect(none.to.mid / kind.toUmol).toBeCloseTo(1, 1);
  expect(Math.log(none.to.high / none.to.mid)).toBeCloseTo(1.645 * PRIOR_LN, 1);
  const pales = shownRange(kind, [episode(300, 'tooMuch'), episode(300, 'tooMuch')]);
  expect(pales.to.mid).toBeLessThan(0.9 * none.to.mid);
  expect(pales.from.mid / none.from.mid).toBeGreaterThan(0.9);
  const thrives = shownRange(kind, [episode(600, 'good'), episode(600, 'good')]);
  expect(thrives.to.mid).toBeGreaterThan(1.2 * none.to.mid);
  expect(thrives.to.high / thrives.to.low).toBeLessThan(none.to.high / none.to.low);
  const browns = shownRange(kind, [episode(250, 'tooLittle')]);
  expect(browns.from.mid).toBeGreaterThan(none.from.mid);
  // what something else may have done counts for less
  const doubtful = shownRange(kind, [episode(300, 'tooMuch', true), episode(300, 'tooMuch', true)]);
  expect(doubtful.to.mid).toBeGreaterThan(pales.to.mid);
  expect(doubtful.confounded).toBe(2);
});

test('chances of the three outcomes add up, far from an edge to certainty', () => {
  for (const umol of [50, 180, 300, 400, 900])
    expect(
      (['good', 'tooMuch', 'tooLittle'] as const).reduce((s, o) => s + chanceOf(o, umol, 180, 400), 0),
    ).toBeCloseTo(1, 2);
  expect(chanceOf('tooMuch', 900, 180, 400)).toBeGreaterThan(0.99);
  expect(chanceOf('good', 270, 180, 400)).toBeGreaterThan(0.98);
});

test('of 100 hidden ranges the stated interval holds 85 to 95 in a hundred edges', () => {
  const random = seeded(23);
  let [held, all] = [0, 0];
  for (let k = 0; k < 100; k += 1) {
    const from = kind.fromUmol * Math.exp(PRIOR_LN * normal(random));
    const to = Math.max(from * 1.05, kind.toUmol * Math.exp(PRIOR_LN * normal(random)));
    const episodes = Array.from({ length: 3 + Math.floor(8 * random()) }, () => {
      const umol = 80 * 12 ** random();
      const draw = random();
      const much = chanceOf('tooMuch', umol, from, to);
      const little = chanceOf('tooLittle', umol, from, to);
      return episode(umol, draw < much ? 'tooMuch' : draw < much + little ? 'tooLittle' : 'good');
    });
    const shown = shownRange(kind, episodes);
    for (const [truth, edge] of [
      [from, shown.from],
      [to, shown.to],
    ] as const) {
      held += Number(truth >= edge.low && truth <= edge.high);
      all += 1;
    }
  }
  expect(held / all).toBeGreaterThanOrEqual(0.85);
  expect(held / all).toBeLessThanOrEqual(0.95);
});

const step = (ratio: number, well: boolean) => ({ atUtc: '2026-01-01T00:00:00.000Z', ratio, well });

test('without a step it is the kind’s ceiling; steps borne raise it, steps that were not lower it, each by what it says', () => {
  const none = shownCeiling(1.3, []);
  expect(none.mid).toBeCloseTo(1.3, 2);
  expect(Math.log(none.high / none.mid)).toBeCloseTo(1.645 * BEARS_PRIOR_LN, 1);
  // what any coral of the kind bears tells nothing
  expect(shownCeiling(1.3, [step(1.06, true)]).mid).toBeCloseTo(none.mid, 1);
  const bears = shownCeiling(1.3, [step(1.7, true), step(1.6, true), step(1.65, true)]);
  expect(bears.mid).toBeGreaterThan(1.4);
  const pales = shownCeiling(1.3, [step(1.3, false), step(1.25, false), step(1.2, true)]);
  expect(pales.mid).toBeLessThan(1.2);
  expect(borneChance(1.3, 1.3)).toBeCloseTo(0.9, 3);
});

test('of 100 hidden corals the stated interval holds 85 to 95 in a hundred ceilings', () => {
  const random = seeded(24);
  let held = 0;
  for (let k = 0; k < 100; k += 1) {
    const ceiling = 1.3 * Math.exp(BEARS_PRIOR_LN * normal(random));
    const steps = Array.from({ length: 3 + Math.floor(9 * random()) }, () => {
      const ratio = 1.05 * 1.9 ** random();
      return step(ratio, random() < borneChance(ratio, ceiling));
    });
    const { low, high } = shownCeiling(1.3, steps);
    held += Number(ceiling >= low && ceiling <= high);
  }
  expect(held).toBeGreaterThanOrEqual(85);
  expect(held).toBeLessThanOrEqual(95);
});

test('a ceiling of its own stands wherever ceilings do, and never makes a harmful step harmless', () => {
  const [usual, bold, tender] = [{ need: 'smallPolyp' as const }, 1.6, 1.15].map((b) =>
    typeof b === 'number' ? paceOf({ need: 'smallPolyp', bears: b }) : paceOf(b),
  );
  expect([usual!, bold!, tender!].map((p) => ceilingFor(1.3, p).toFixed(3))).toEqual([
    '1.300',
    '1.600',
    '1.150',
  ]);
  // a keeper more careful than usual is so with all of them
  expect([usual!, bold!, tender!].map((p) => ceilingFor(1.15, p).toFixed(3))).toEqual([
    '1.150',
    '1.300',
    '1.075',
  ]);
  expect([usual!, bold!, tender!].map((p) => harmFrom(p).toFixed(2))).toEqual(['2.00', '2.00', '1.50']);
  const judged = (bears?: number) =>
    stepTo(
      { dli: 14, peak: 140 },
      { dli: 10, peak: 100 },
      paceOf({ need: 'smallPolyp', ...(bears ? { bears } : {}) }),
      1.3,
    );
  expect([judged().large, judged(1.6).large, judged(1.15).harmful]).toEqual([true, false, false]);
});

test('episodes are weeks under one light with something seen in them; steps are borne or not, by who looked', () => {
  const bundle = watersCase(Date.parse('2026-11-24T12:00:00Z'), 'UTC');
  const zone = bundle.case.zones[0]!;
  const spot = 0;
  const NOW = '2026-11-24T12:00:00.000Z';
  const ago = (days: number) => new Date(Date.parse(NOW) - days * 86_400_000).toISOString();
  const change = (days: number, was: number, is: number): MetChange => {
    const of = (peak: number) => zone.spots.map(() => ({ peak, dli: 0.03 * peak }));
    return { atUtc: ago(days), ids: [], before: of(was), after: of(is), used: of(was), bandShares: [] };
  };
  const seen = (days: number, sign: string): LogEvent =>
    parsed({
      ...{ id: `s${days}`, zoneId: zone.id, atUtc: ago(days), note: '', kind: 'sign' },
      ...{ spotId: zone.spots[spot]!.id, sign },
    });
  const changes = [change(200, 100, 150), change(120, 150, 220), change(50, 220, 330)];
  const log = {
    ...bundle.log,
    events: [
      seen(190, 'polypsOut'),
      seen(150, 'larger'),
      seen(110, 'paling'),
      seen(80, 'asBefore'),
      seen(20, 'paling'),
    ],
  };
  const { episodes, steps } = livedThrough(zone, { ...bundle.history, entries: [] }, log, changes, spot, NOW);
  expect(episodes.map((e) => [Math.round(e.peakUmol), e.outcome, e.days])).toEqual([
    [150, 'good', 80],
    [220, 'good', 70],
    [330, 'tooMuch', 50],
  ]);
  // nobody looked within three weeks of the last step
  expect(steps.map((s) => s.well)).toEqual([true, false]);
  const stung = parsed({
    ...{ id: 'b', zoneId: zone.id, atUtc: ago(24), note: '', kind: 'befell' },
    spotId: zone.spots[spot]!.id,
    what: 'stung',
  });
  const again = livedThrough(
    zone,
    { ...bundle.history, entries: [] },
    { ...log, events: [...log.events, stung] },
    changes,
    spot,
    NOW,
  );
  expect(again.episodes.at(-1)!.confounded).toBe(true);
});
