import fc from 'fast-check';

import { libraryForm } from '../coral/form';
import { libraryLamp } from '../library/lamps';
import { keptSpectrum } from '../spectrum/lamp';
import type { Levels } from '../spectrum/lampKind';
import {
  atWantedPar,
  beats,
  type DesignFigures,
  type DesignInput,
  figuresOf,
  judged,
  prepare,
  type Scores,
  scoresOf,
  worth,
} from './aims';
import { design, designSteps, moderated, randomMix } from './design';
import { reasonsFor } from './reasons';
import { SCHOOLS } from './schools';
import { seeded } from '../spectrum/random';

const corals = ['green-tip-branch', 'orange-plate'].map((id) => ({ name: id, form: libraryForm(id)! }));
const asked = (id: string, change: Partial<DesignInput> = {}): DesignInput => {
  const kind = libraryLamp(id);
  return {
    kind,
    mix: Object.fromEntries(kind.controls.map((c) => [c.id, c.kind === 'onOff' ? 1 : 0.5])),
    fixed: {},
    channels: kind.channels.map((c) => keptSpectrum(c).map((v) => v * 2)),
    beside: new Float64Array(421),
    strength: 0.8,
    parWanted: 80,
    corals,
    aims: SCHOOLS[0]!.aims,
    seed: 3,
    ...change,
  };
};

test.each(['lib-tint', 'lib-balance', 'lib-five-step', 'lib-two-circuit', 'lib-blue-bar'])(
  '%s: answers stay within its controls, whatever they are',
  (id) => {
    const answers = design(asked(id));
    expect(answers.length).toBeGreaterThanOrEqual(1);
    expect(answers.length).toBeLessThanOrEqual(5);
    for (const a of answers) {
      expect(Object.keys(a.mix).sort()).toEqual(
        libraryLamp(id)
          .controls.map((c) => c.id)
          .sort(),
      );
      for (const c of libraryLamp(id).controls) {
        const v = a.mix[c.id]!;
        expect(c.kind === 'onOff' ? v === 0 || v === 1 : v >= 0 && v <= 1).toBe(true);
      }
    }
  },
);

test('scaling meets the wanted PAR where the lamp can, and stops at full where it cannot', () => {
  const kinds = ['lib-nine', 'lib-eight-blue', 'lib-tint', 'lib-balance'];
  fc.assert(
    fc.property(
      fc.constantFrom(...kinds),
      fc.integer({ min: 1, max: 1000 }),
      fc.integer({ min: 5, max: 900 }),
      (id, seed, wanted) => {
        const p = prepare(asked(id, { parWanted: wanted }));
        const mix = randomMix(p, seeded(seed));
        const { par } = figuresOf(p, mix);
        const top = Math.max(
          ...libraryLamp(id)
            .controls.filter((c) => c.kind === 'level' || c.kind === 'brightness')
            .map((c) => mix[c.id] ?? 0),
        );
        if (top < 0.999) expect(Math.abs(par / wanted - 1)).toBeLessThan(0.02);
        else expect(par).toBeLessThanOrEqual(wanted * 1.02);
      },
    ),
    { numRuns: 60 },
  );
});

test('light of other groups counts towards the PAR, and is never taken away', () => {
  const beside = keptSpectrum(libraryLamp('lib-blue-bar').channels[0]!);
  const p = prepare(asked('lib-nine', { beside, parWanted: 100 }));
  const mix = atWantedPar(p, asked('lib-nine').mix);
  expect(figuresOf(p, mix).par).toBeCloseTo(100, 3);
  const little = prepare(asked('lib-nine', { beside, parWanted: 10 }));
  const low = atWantedPar(little, asked('lib-nine').mix);
  expect(Object.values(low).every((v) => v === 0)).toBe(true);
});

test('figures: shares are of PAR, a dark mix has none, watts are of one lamp', () => {
  const p = prepare(asked('lib-nine'));
  const f = figuresOf(p, asked('lib-nine').mix);
  expect(f.usable).toBeGreaterThan(0.3);
  expect(f.usable).toBeLessThan(1);
  expect(f.glowByCoral.map((g) => g.name)).toEqual(['green-tip-branch', 'orange-plate']);
  expect(f.glow).toBeCloseTo((f.glowByCoral[0]!.glow + f.glowByCoral[1]!.glow) / 2, 9);
  expect(figuresOf(p, {})).toMatchObject({ usable: 0, glow: 0, par: 0, watts: 0 });
  const half = figuresOf(p, Object.fromEntries(libraryLamp('lib-nine').controls.map((c) => [c.id, 0.25])));
  expect(half.watts).toBeCloseTo(f.watts / 2, 6);
});

test('scores fall where ceilings, floors or PAR are broken, and only there', () => {
  const p = prepare(asked('lib-nine', { parWanted: 100 }));
  const f: DesignFigures = {
    usable: 0.7,
    glow: 0.4,
    glowByCoral: [],
    variety: 20,
    blueness: 0.7,
    red: 0.02,
    violet: 0.1,
    nearUv: 0.01,
    watts: 40,
    par: 100,
  };
  const good = scoresOf(p, f);
  expect([good.red, good.violet, good.uv, good.par].map((v) => v + 0)).toEqual([0, 0, 0, 0]);
  expect(scoresOf(p, { ...f, red: 0.2 }).red).toBeLessThan(0);
  expect(scoresOf(p, { ...f, violet: 0 }).violet).toBeLessThan(0);
  expect(scoresOf(p, { ...f, nearUv: 0.1 }).uv).toBeLessThan(0);
  expect(scoresOf(p, { ...f, par: 99.5 }).par + 0).toBe(0);
  expect(scoresOf(p, { ...f, par: 80 }).par).toBeCloseTo(-0.19, 9);
  expect(scoresOf(p, { ...f, blueness: 0.2 }).look).toBeLessThan(good.look);
});

test('to beat is to be better on every aim', () => {
  const base: Scores = {
    feeding: 1,
    glow: 1,
    variety: 1,
    look: 1,
    watts: 1,
    red: 0,
    violet: 0,
    uv: 0,
    par: 0,
  };
  const all = Object.fromEntries(Object.entries(base).map(([k, v]) => [k, v + 0.1])) as Scores;
  expect(beats(all, base)).toBe(true);
  expect(beats({ ...all, glow: 1 }, base)).toBe(false);
  expect(beats(base, base)).toBe(false);
});

test('reasons quote what was computed, gains apart from what is given up', () => {
  const from: DesignFigures = {
    usable: 0.6,
    glow: 0.3,
    glowByCoral: [{ name: 'Moss', glow: 0.3 }],
    variety: 18,
    blueness: 0.8,
    red: 0.05,
    violet: 0.1,
    nearUv: 0,
    watts: 50,
    par: 200,
  };
  const to = {
    ...from,
    usable: 0.7,
    glowByCoral: [{ name: 'Moss', glow: 0.5 }],
    glow: 0.5,
    violet: 0.04,
    par: 150,
  };
  const { reasons, givesUp } = reasonsFor(from, to, 0.7);
  expect(reasons.join('; ')).toMatch(/usable light 60 % → 70 % of PAR/);
  expect(reasons.join('; ')).toMatch(/Moss glows 30 % → 50 %/);
  expect(givesUp.join('; ')).toMatch(/violet 10 % → 4 % of PAR/);
  expect(givesUp.join('; ')).toMatch(/PAR 200 → 150 µmol: this lamp does not reach the same/);
  expect(reasonsFor(from, from, 0.7)).toEqual({ reasons: [], givesUp: [] });
});

test('progress only rises, from the start to the end', () => {
  const steps = designSteps(asked('lib-five-step'));
  let last = -1;
  for (;;) {
    const next = steps.next();
    if (next.done) {
      expect(next.value.length).toBeGreaterThan(0);
      break;
    }
    expect(next.value).toBeGreaterThanOrEqual(last);
    expect(next.value).toBeLessThanOrEqual(1);
    last = next.value;
  }
});

test('seeds make the same numbers, different seeds different ones, all within 0..1', () => {
  const take = (seed: number) => {
    const random = seeded(seed);
    return Array.from({ length: 200 }, random);
  };
  expect(take(5)).toEqual(take(5));
  expect(take(5)).not.toEqual(take(6));
  const mean = take(9).reduce((a, b) => a + b, 0) / 200;
  expect(Math.abs(mean - 0.5)).toBeLessThan(0.1);
  expect(take(9).every((v) => v >= 0 && v < 1)).toBe(true);
});

test('every school is a neutral start: weights within 0..1, words of its own', () => {
  for (const s of SCHOOLS) {
    for (const v of Object.values(s.aims)) expect(v >= 0 && v <= 1).toBe(true);
    expect(s.about.length).toBeGreaterThan(20);
  }
  expect(new Set(SCHOOLS.map((s) => s.name)).size).toBe(SCHOOLS.length);
});

test('no level stands at an end where a more moderate mix is worth as much', () => {
  for (const id of ['lib-eight-blue', 'lib-nine', 'lib-five-step']) {
    const p = prepare(asked(id));
    const random = seeded(11);
    for (const look of [0.2, 0.5, 0.8]) {
      const way = { lead: 'asSet', look } as const;
      for (let i = 0; i < 12; i += 1) {
        const best = judged(p, randomMix(p, random));
        const soft = moderated(p, best, way);
        const [was, is] = [worth(p, best, way), worth(p, soft, way)];
        expect(is).toBeGreaterThanOrEqual(was - 0.01 * Math.abs(was) - 1e-12);
        const spread = (mix: Levels) => Math.max(...Object.values(mix)) - Math.min(...Object.values(mix));
        // at the wanted light nothing becomes more unlike for it
        expect(spread(soft.mix)).toBeLessThanOrEqual(spread(best.mix) + 1e-9);
      }
    }
  }
  // where nothing is asked for but light, all dials come to one level
  const free = {
    feeding: 0,
    glow: 0,
    variety: 0,
    look: 0.5,
    lookWeight: 0,
    watts: 0,
    redCeiling: 1,
    violetFloor: 0,
  };
  const p = prepare(asked('lib-nine', { aims: free, parWanted: 600 }));
  const corner = judged(
    p,
    atWantedPar(p, Object.fromEntries(p.input.kind.controls.map((c, i) => [c.id, Number(i === 2)]))),
  );
  const soft = moderated(p, corner, { lead: 'asSet', look: 0.5 });
  expect(Math.min(...Object.values(soft.mix))).toBeGreaterThan(0);
});
