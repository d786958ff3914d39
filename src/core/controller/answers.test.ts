import { lampDay, lampLevels, type ResolvedThread } from '../day/thread';
import { litPieces } from '../day/day';
import { libraryLamp } from '../library/lamps';
import { BANDS, bandPhotons } from '../spectrum/bands';
import { keptSpectrum } from '../spectrum/lamp';
import { type LampKind, PLAIN_CONTROLLER } from '../spectrum/lampKind';
import { answerSteps, type FitAnswer, type FitAsk, fitJudge } from './answers';
import { canBeWired, dialsOf, onCircuits, wired } from './circuits';
import { FIT_WEIGHTS, fitCost, ownWeights } from './fitTerms';
import { fitWords, weighedWords } from './fitWords';
import type { ChannelWorth } from './fit';
import { behind, misfits } from './misfits';
import { CONTROLLERS } from './profiles';
import { threadFromValues } from './typed';

const profile = (id: string) => CONTROLLERS.find((c) => c.id === id)!.profile;
const worthOf = (kind: LampKind): ChannelWorth => ({
  par: kind.channels.map((_, c) => 40 + 10 * c),
  bands: kind.channels.map((ch, c) => {
    const photons = bandPhotons(keptSpectrum(ch));
    const all = BANDS.reduce((s, b) => s + photons[b.id], 0);
    return BANDS.map((b) => ((40 + 10 * c) * photons[b.id]) / all);
  }),
});
type Aim = keyof typeof FIT_WEIGHTS;
const AIMS = Object.keys(FIT_WEIGHTS) as Aim[];
const weightsOf = (aim: string) => FIT_WEIGHTS[aim as Aim];
const home = { fromMinute: 18 * 60, toMinute: 22 * 60 };
function walked(ask: FitAsk): FitAnswer[] {
  const steps = answerSteps(ask);
  for (;;) {
    const next = steps.next();
    if (next.done) return next.value;
    expect(next.value).toBeGreaterThanOrEqual(0);
    expect(next.value).toBeLessThanOrEqual(1);
  }
}
/** Blue in the morning, whiter from five, dark at ten. */
function story(kind: LampKind): ResolvedThread[] {
  const mix = (white: number) =>
    Object.fromEntries(kind.controls.map((c, i) => [c.id, i < kind.controls.length / 2 ? 0.8 : white]));
  return [
    { minute: 600, strengthShare: 0, mix: mix(0.1) },
    { minute: 690, strengthShare: 0.8, mix: mix(0.1) },
    { minute: 1020, strengthShare: 0.8, mix: mix(0.1) },
    { minute: 1065, strengthShare: 1, mix: mix(0.7) },
    { minute: 1260, strengthShare: 0.9, mix: mix(0.7) },
    { minute: 1320, strengthShare: 0, mix: mix(0.1) },
  ];
}
const askFor = (kind: LampKind, controller = kind.controller, threads = story(kind)): FitAsk => ({
  ...{ kind, threads, worth: worthOf(kind), controller, home, capShare: 0.72 },
});

test.each(CONTROLLERS.map((c) => [c.id, c.profile] as const))(
  '%s: every answer can be typed in, is the best of them for what it is for, and says what it loses',
  (_, controller) => {
    for (const id of [
      'lib-five-step',
      'lib-two-circuit',
      ...(process.env.LONG ? ['lib-nine', 'lib-tint'] : []),
    ]) {
      const kind = libraryLamp(id);
      const ask = askFor(kind, controller);
      const found = walked(ask);
      expect(found.flatMap((a) => a.aims).sort()).toEqual([...AIMS].sort());
      const terms = fitJudge(ask);
      for (const a of found) {
        expect(misfits(behind(kind, controller), a.threads)).toEqual([]);
        for (const aim of a.aims)
          for (const b of found)
            expect(fitCost(terms(a.threads), weightsOf(aim))).toBeLessThanOrEqual(
              1.05 * fitCost(terms(b.threads), weightsOf(aim)) + 1e-9,
            );
        // what is said is what it is
        expect(a.terms).toEqual(terms(a.threads, a.capShare / ask.capShare));
        expect(a.capShare).toBeGreaterThan(0);
        expect(a.capShare).toBeLessThanOrEqual(1);
        expect(fitWords(a, ask)).toMatch(/^\d+ (point|time)s?: .*\.$/);
        if (a.capShare !== ask.capShare) {
          expect(fitWords(a, ask)).toMatch(/The cap gives back the dose/);
          expect(Math.abs(a.terms.doseShare)).toBeLessThan(0.02);
          expect(a.terms.peakShare).toBeLessThanOrEqual(0.05 + 1e-9);
        }
      }
    }
  },
);

test('four whole hours: the same evening keeps the evening, the same light keeps the light, none is lit long before it is wanted', () => {
  const kind = libraryLamp('lib-nine');
  const ask = askFor(kind, profile('four-slots'));
  const found = walked(ask);
  const of = (aim: Aim) => found.find((a) => a.aims.includes(aim))!;
  expect(Math.abs(of('sameDose').terms.doseShare)).toBeLessThan(0.02);
  // the least largest error alone would be lit for hours before it is wanted
  for (const a of found.filter((x) => !x.aims.includes('truest')))
    expect(Math.abs(a.terms.firstMin) + Math.abs(a.terms.lastMin)).toBeLessThanOrEqual(180);
  expect(of('sameEvening').terms.lookShare).toBeLessThan(0.2);
  expect(of('fewest').threads.length).toBeLessThanOrEqual(of('truest').threads.length);
  expect(found.length).toBeGreaterThan(1);
});

test('small cases: within a twentieth of the best there is, for each weighting', () => {
  const kind = { ...libraryLamp('lib-violet-bar') };
  const controller = {
    ...PLAIN_CONTROLLER,
    ...{
      name: 'Three slots',
      maxPoints: 3,
      everyMin: 120,
      pointStepShare: 0.25,
      interpolation: 'hold' as const,
    },
  };
  for (const shift of process.env.LONG ? [0, 50, 200] : [50]) {
    const threads = story(kind).map((t) => ({ ...t, minute: t.minute - shift }));
    const ask = askFor(kind, controller, threads);
    const found = walked(ask);
    const terms = fitJudge(ask);
    const costs = new Map<string, number>();
    const id = kind.controls[0]!.id;
    const values = [0, 0.25, 0.5, 0.75, 1];
    for (const points of [2, 3])
      for (let a = 0; a < 12; a += 1)
        for (let b = a + 1; b < 12; b += 1)
          for (let c = points === 3 ? b + 1 : 12; c < (points === 3 ? 12 : 13); c += 1)
            for (const x of values)
              for (const y of values)
                for (const z of points === 3 ? values : [0]) {
                  const day = [
                    [a, x],
                    [b, y],
                    [c, z],
                  ]
                    .slice(0, points)
                    .map(([slot, v]) => threadFromValues(kind, slot! * 120, { [id]: v! }));
                  const judged = terms(day);
                  for (const aim of AIMS)
                    costs.set(aim, Math.min(costs.get(aim) ?? Infinity, fitCost(judged, weightsOf(aim))));
                }
    for (const a of found)
      for (const aim of a.aims)
        expect([aim, fitCost(terms(a.threads), weightsOf(aim)) <= 1.05 * costs.get(aim)! + 1e-9]).toEqual([
          aim,
          true,
        ]);
  }
}, 60_000);

test('what is weighed by hand is an answer of its own, the best for that; all as usual is none', () => {
  expect(ownWeights({})).toBeUndefined();
  expect(ownWeights({ dose: 'usual' })).toBeUndefined();
  const all = { hours: 'nothing', dose: 'nothing', look: 'nothing', peak: 'nothing' } as const;
  expect(ownWeights({ ...all, error: 'nothing', turn: 'nothing' })).toBeUndefined();
  const ask = askFor(libraryLamp('lib-five-step'), profile('four-slots'));
  const terms = fitJudge(ask);
  const hours = ownWeights({ ...all, hours: 'much' })!;
  const [own] = walked({ ...ask, own: hours });
  expect(own!.aims[0]).toBe('own');
  for (const other of walked(ask))
    expect(fitCost(terms(own!.threads), hours)).toBeLessThanOrEqual(fitCost(other.terms, hours) + 1e-9);
  expect(Math.abs(own!.terms.firstMin) + Math.abs(own!.terms.lastMin)).toBeLessThanOrEqual(60);
  expect(weighedWords({ hours: 'much', dose: 'usual', turn: 'nothing' })).toBe(
    'first and last light for much, few points for nothing',
  );
});

test('a lamp that dims, its colours on two circuits of a clock: each is switched for its own colours, at where its dial stands', () => {
  const kind = libraryLamp('lib-five-step');
  const controller = profile('two-circuits');
  const half = kind.controls.length / 2;
  const threads = story(kind);
  const wiring = Object.fromEntries(kind.controls.map((c, i) => [c.id, i < half ? 1 : 2]));
  const dials = dialsOf(kind, threads);
  const lamp = wired(kind, controller, wiring, dials);
  expect(lamp.controls.map((c) => c.kind)).toEqual(['onOff', 'onOff']);
  expect(lamp.controls[0]!.name).toMatch(new RegExp(`^Circuit 1: ${kind.controls[0]!.name}`));
  // everything on is every colour at the most it reaches
  const whole = lampLevels(lamp, { 'circuit-1': 1, 'circuit-2': 1 }, 1);
  whole.forEach((v, c) => expect(v).toBeCloseTo(dials[c]!, 9));
  const [best] = walked({ ...askFor(kind, controller), wired: lamp });
  expect(misfits(lamp, best!.threads)).toEqual([]);
  // blue from the morning, white in the evening only
  const hoursOn = (id: string) =>
    best!.threads.reduce((sum, t, i) => {
      const next = best!.threads[(i + 1) % best!.threads.length]!;
      return sum + (t.mix[id]! > 0 ? (next.minute - t.minute + 1440) % 1440 : 0);
    }, 0) / 60;
  expect(hoursOn('circuit-1')).toBeGreaterThan(10);
  expect(hoursOn('circuit-2')).toBeGreaterThan(3);
  expect(hoursOn('circuit-2')).toBeLessThan(7);
  // and that is nearer than the whole lamp at once
  const [together] = walked(askFor(kind, controller));
  expect(best!.terms.errorShare).toBeLessThan(together!.terms.errorShare);
  // a mix of the lamp as it was is its circuits
  expect(onCircuits(kind, wiring, { [kind.controls[0]!.id]: 0.3 })).toEqual({
    'circuit-1': 1,
    'circuit-2': 0,
  });
  expect([
    canBeWired(kind),
    canBeWired(libraryLamp('lib-tint')),
    canBeWired(libraryLamp('lib-violet-bar')),
  ]).toEqual([true, false, false]);
});

test('no day has no answers; a controller that takes it as it stands loses nothing; hours are told', () => {
  const kind = libraryLamp('lib-nine');
  expect(walked(askFor(kind, kind.controller, []))).toEqual([]);
  const [same] = walked(askFor(kind));
  expect(same!.terms).toMatchObject({ firstMin: 0, lastMin: 0 });
  expect(same!.terms.errorShare).toBeLessThan(0.02);
  const late = {
    ...same!,
    terms: {
      ...same!.terms,
      firstMin: 90,
      lastMin: -30,
      doseShare: -0.2,
      lookShare: 0.1,
      peakShare: 0.06,
      errorShare: 0.5,
    },
  };
  expect(fitWords(late, askFor(kind))).toBe(
    `${late.terms.turns} points: first light 1 h 30 min later, last light 30 min earlier; 20 % less light a day; 10 % of the light while somebody is home is another; its peak 6.0 % higher; at most 50 % of the peak off at any moment.`,
  );
  // a night that is not dark has no first light, and is as far off as can be
  const ask = askFor(kind, { ...PLAIN_CONTROLLER, maxPoints: 1, interpolation: 'hold' as const });
  const always = fitJudge(ask)([{ ...story(kind)[3]!, minute: 0 }]);
  expect(always.firstMin).toBe(720);
  expect(litPieces([lampDay(kind, story(kind), { capShare: 1, easingShare: 1 })])).toHaveLength(1);
});
