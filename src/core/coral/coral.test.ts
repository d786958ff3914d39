import fc from 'fast-check';

import { cam16, SURROUNDS, ucsDistance } from '../colour/cam16';
import { seeUnder } from '../colour/look';
import { intoGamut, linearSrgb, oklab } from '../colour/screen';
import { xyzOf } from '../colour/xyz';
import { REFERENCES } from '../library/references';
import { bandsHeld } from '../library/held';
import { design, randomMix } from '../mix/design';
import { type DesignInput, beats, figuresOf, prepare, scoresOf } from '../mix/aims';
import { SCHOOLS } from '../mix/schools';
import { BANDS, par } from '../spectrum/bands';
import { emissionSpectrum } from '../spectrum/emission';
import { FIRST_NM, GRID_SIZE, integrate, nmAt, type Spectrum } from '../spectrum/grid';
import { keptSpectrum, mixSpectrum } from '../spectrum/lamp';
import { demoPanel } from '@/demo/panel';
import { bandWork } from './byBand';
import { bandAdvice, coloursUnder, conversions, neverShown, PLAINLY_MOVED, whiteAdvice } from './advice';
import { fitRegion, hypotheses, patchesFor, SURE_ENOUGH, type Solo } from './fit';
import { type CoralForm, FORMS, libraryForm, type Region } from './form';
import { appearanceUnder, glowByBand, glowDerivative, glowOf, varietyOf } from './glow';
import { PROTEINS, type ProteinId } from './pigments';
import { formSeen, lightFrom, regionOptics } from './seen';
import { THINGS } from './things';
import { seeded } from '../spectrum/random';

const line = (peakNm: number, flux = 100) => emissionSpectrum({ shape: 'line', peakNm, fwhmNm: 16, flux });
const d65 = REFERENCES.find((r) => r.id === 'd65')!
  .spectrum()
  .map((v) => v * 200);
const sum = (s: ArrayLike<number>) => Array.from(s).reduce((a, b) => a + b, 0);
const amount = fc.double({ min: 0, max: 1, noNaN: true });
const anyRegion: fc.Arbitrary<Region> = fc.record({
  id: fc.constant('r'),
  name: fc.constant('r'),
  pale: amount,
  brown: amount,
  chromo: fc.record({ pink: amount, purple: amount, blue: amount }),
  proteins: fc.record(Object.fromEntries(PROTEINS.map((p) => [p.id, amount]))) as fc.Arbitrary<
    Region['proteins']
  >,
});
const anyLight = fc
  .array(fc.double({ min: 0, max: 5, noNaN: true }), { minLength: 15, maxLength: 15 })
  .map((knots) => Float64Array.from({ length: GRID_SIZE }, (_, i) => knots[Math.floor(i / 29)]!));

describe('pigments as optics', () => {
  test('photons out never exceed photons in; what is absorbed is not reflected', () => {
    fc.assert(
      fc.property(anyRegion, anyLight, (region, light) => {
        const optics = regionOptics(region);
        const { reflected, fluorescent } = lightFrom(optics, light);
        expect(sum(reflected) + sum(fluorescent)).toBeLessThanOrEqual(sum(light) * (1 + 1e-9));
        for (let i = 0; i < GRID_SIZE; i += 1) {
          const taken = optics.absorbed.reduce((s, a) => s + a.share[i]!, 0);
          expect(optics.reflectance[i]! + taken).toBeLessThanOrEqual(1 + 1e-9);
        }
      }),
      { numRuns: 40 },
    );
  });

  test('fluorescence never comes at shorter wavelengths than what caused it', () => {
    fc.assert(
      fc.property(anyRegion, fc.integer({ min: 0, max: GRID_SIZE - 1 }), (region, at) => {
        const light = new Float64Array(GRID_SIZE);
        light[at] = 50;
        const { fluorescent } = lightFrom(regionOptics(region), light);
        for (let i = 0; i <= at; i += 1) expect(fluorescent[i]).toBe(0);
      }),
      { numRuns: 40 },
    );
  });

  test('seeing is linear in light, and weights agree with spectra', () => {
    fc.assert(
      fc.property(anyRegion, anyLight, anyLight, (region, a, b) => {
        const form: CoralForm = { id: 'f', name: 'f', shape: 'branch', regions: [region] };
        const both = formSeen(
          form,
          a.map((v, i) => 2 * v + b[i]!),
        )[0]!;
        const [one, other] = [formSeen(form, a)[0]!, formSeen(form, b)[0]!];
        both.xyz.forEach((v, k) => expect(v).toBeCloseTo(2 * one.xyz[k]! + other.xyz[k]!, 3));
        const { reflected, fluorescent } = lightFrom(regionOptics(region), a);
        const slow = xyzOf(reflected.map((v, i) => v + fluorescent[i]!));
        one.xyz.forEach((v, k) => expect(Math.abs(v - slow[k]!)).toBeLessThan(1e-9 * (1 + Math.abs(v))));
      }),
      { numRuns: 100 },
    );
  });

  test.each(PROTEINS.filter((p) => p.id !== 'chlorophyll').map((p) => [p.id, p.peakNm] as const))(
    '%s glows most under its own excitation band',
    (id, peakNm) => {
      const region: Region = {
        id: 'r',
        name: 'r',
        pale: 0.75,
        brown: 0,
        chromo: {},
        proteins: { [id]: 0.6 },
      };
      const out = (nm: number) => sum(lightFrom(regionOptics(region), line(nm)).fluorescent);
      const best = Array.from({ length: 33 }, (_, i) => 370 + 10 * i).reduce((b, nm) =>
        out(nm) > out(b) ? nm : b,
      );
      expect(Math.abs(best - peakNm)).toBeLessThanOrEqual(12);
    },
  );

  test('no coral stores a colour: without its proteins its glow is gone everywhere', () => {
    for (const form of FORMS) {
      const bare: CoralForm = {
        ...form,
        regions: form.regions.map((r) => ({ ...r, proteins: {}, brown: 0 })),
      };
      for (const light of [line(450), line(420), d65])
        expect(formSeen(bare, light).every((r) => r.fluorescent.every((v) => v === 0))).toBe(true);
    }
    expect(FORMS.length).toBeGreaterThanOrEqual(12);
    expect(FORMS.every((f) => f.regions.length >= 2)).toBe(true);
    expect(JSON.stringify(FORMS)).not.toMatch(/#[0-9a-f]{3,6}|rgb\(/i);
  });
});

describe('looking', () => {
  test('CAM16 agrees with the published example', () => {
    const a = cam16({
      white: [95.05, 100, 108.88],
      adaptingLuminance: 318.31,
      surround: SURROUNDS.average,
    })([19.01, 20, 21.78]);
    expect(a.J).toBeCloseTo(41.73, 1);
    expect(a.C).toBeCloseTo(0.1, 1);
    expect(a.h).toBeCloseTo(217.07, 0);
    const b = cam16({
      white: [98.88, 90, 32.03],
      adaptingLuminance: 200,
      surround: SURROUNDS.average,
      degree: undefined,
    })([3.53, 6.56, 2.14]);
    expect(b.J).toBeGreaterThan(15);
  });

  test('a white card under D65 is white; deeper adaptation makes sand whiter', () => {
    const [r, g, b] = seeUnder(d65)!.colour(d65);
    expect(Math.max(r, g, b) - Math.min(r, g, b)).toBeLessThanOrEqual(2);
    const blue = mixSpectrum(demoPanel, { 'royal-blue': 0.2, 'cool-white': 1 });
    const chroma = (degree: number) => {
      const sand = THINGS.find((t) => t.id === 'sand')!.reflectance;
      const [x, y, z] = seeUnder(blue, { degree })!.colour(blue.map((v, i) => v * sand[i]!));
      const [, p, q] = oklab([x, y, z].map((v) => (v / 255) ** 2.2) as never);
      return Math.hypot(p, q);
    };
    expect(chroma(0.9)).toBeLessThan(chroma(0.6));
    expect(chroma(0.6)).toBeLessThan(chroma(0.2));
  });

  test('gamut mapping keeps hue and lightness', () => {
    fc.assert(
      fc.property(fc.tuple(amount, amount, amount), ([x, y, z]) => {
        const rgb = linearSrgb([x * 0.6, y * 0.4 + 0.02, z]);
        const [L, a, b] = oklab(rgb);
        fc.pre(L > 0.05 && L < 0.98);
        const [L2, a2, b2] = oklab(intoGamut(rgb) as never);
        expect(L2).toBeCloseTo(L, 3);
        if (Math.hypot(a2, b2) > 0.02)
          expect(Math.abs(Math.sin(Math.atan2(b, a) - Math.atan2(b2, a2)))).toBeLessThan(0.01);
      }),
      { numRuns: 60 },
    );
  });

  test('glow: under blue a green coral glows, under red it does not; variety of one colour is nothing', () => {
    const green = libraryForm('green-tip-branch')!;
    expect(glowOf(green, line(470))!.share).toBeGreaterThan(0.5);
    expect(glowOf(green, line(660))!.share).toBeLessThan(0.05);
    expect(glowOf(green, new Float64Array(GRID_SIZE))).toBeNull();
    const look = appearanceUnder(d65);
    const one = look(xyzOf(d65)).ucs;
    expect(varietyOf([one, one])).toBeCloseTo(0, 12);
    expect(varietyOf([one])).toBe(0);
    const shares = glowByBand(green, d65);
    expect(sum(Object.values(shares))).toBeCloseTo(1, 9);
    expect(ucsDistance(one, one)).toBe(0);
    const slope = glowDerivative(green, mixSpectrum(demoPanel, { 'royal-blue': 0.5, 'cool-white': 0.5 }));
    expect(slope.royalBlue + slope.blue).toBeGreaterThan(0);
    expect(slope.amber).toBeLessThan(0);
    // as it is defined: the share of luminance that is its own, on the mean of its regions, by finite differences
    const own = (light: Float64Array) => {
      const seen = formSeen(green, light);
      return seen.reduce((s, r) => s + r.fluorescent[1] / r.xyz[1], 0) / seen.length;
    };
    const lit = Float64Array.from(mixSpectrum(demoPanel, { 'royal-blue': 0.5, 'cool-white': 0.5 }));
    const royal = BANDS.find((b) => b.id === 'royalBlue')!;
    const raised = lit.map((v, i) => (nmAt(i) >= royal.fromNm && nmAt(i) < royal.toNm ? 1.01 * v : v));
    expect(slope.royalBlue).toBeCloseTo(own(raised) - own(lit), 12);
  });
});

describe('fitting a form', () => {
  const solos: Solo[] = demoPanel.channels.map((c) => {
    const light = keptSpectrum(c);
    return { id: c.id, name: c.name, light: light.map((v) => (v * 60) / par(light)) };
  });
  const all = solos.map(patchesFor);

  test('patches lie apart, and there are as many as an eye can choose among', () => {
    for (const s of all) {
      expect(s.patches.length).toBeLessThanOrEqual(9);
      expect(s.patches.length).toBeGreaterThan(1);
    }
  });

  test('hidden forms come back from noisy picks in at least 80 of 100 seeds; otherwise it says it is not sure', () => {
    let right = 0;
    let wrongAndSure = 0;
    for (let seed = 1; seed <= 100; seed += 1) {
      const random = seeded(seed);
      const hs = hypotheses().filter((h) => h.key !== 'none/none');
      const hidden = hs[Math.floor(random() * hs.length)]!;
      const at = hypotheses().indexOf(hidden);
      const picks = Object.fromEntries(
        all.map((s) => {
          // an eye that errs by a few units in each direction
          const off = [0, 1, 2].map(() => (random() + random() + random() - 1.5) * 4);
          const seen = s.colours[at]!.map((v, k) => v + off[k]!) as unknown as (typeof s.colours)[0];
          const nearest = s.patches.reduce((b, p) =>
            ucsDistance(p.ucs, seen) < ucsDistance(b.ucs, seen) ? p : b,
          );
          return [s.solo.id, nearest.index];
        }),
      );
      const fit = fitRegion(all, picks);
      if (fit.key.split('/')[0] === hidden.key.split('/')[0]) right += 1;
      else if (fit.confidence > 0.9) wrongAndSure += 1;
    }
    expect(right).toBeGreaterThanOrEqual(80);
    expect(wrongAndSure).toBeLessThanOrEqual(5);
  });

  test('without picks it is not sure, and names the colours that would tell most', () => {
    const nothing = fitRegion(all, {});
    expect(nothing.confidence).toBeLessThan(SURE_ENOUGH);
    expect(nothing.tellMost).toHaveLength(solos.length);
    expect(nothing.tellMost[0]!.bits).toBeGreaterThan(nothing.tellMost[solos.length - 1]!.bits);
    expect(nothing.tellMost[0]!.bits).toBeGreaterThan(0.5);
  });
});

describe('advice', () => {
  const stock = ['green-tip-branch', 'purple-table', 'yellow-polyps', 'brown-leather'].map((id) => ({
    name: libraryForm(id)!.name,
    form: libraryForm(id)!,
  }));
  const blue = mixSpectrum(demoPanel, { violet: 0.6, 'royal-blue': 0.8, blue: 0.7 });
  const white = mixSpectrum(demoPanel, { 'cool-white': 1 });

  test('a stock of reflecting corals and fish rewards more white than one that only glows', () => {
    const glowing = [libraryForm('green-tip-branch')!, libraryForm('teal-cup')!].map((f) => ({
      name: f.name,
      form: f,
    }));
    const plain = [libraryForm('purple-table')!, libraryForm('blue-staves')!].map((f) => ({
      name: f.name,
      form: f,
    }));
    const a = whiteAdvice(glowing, false, blue, white)!;
    const b = whiteAdvice(plain, true, blue, white)!;
    expect(b.best).toBeGreaterThanOrEqual(a.best);
    expect(b.best).toBeGreaterThan(0);
    expect(whiteAdvice(stock, true, blue, new Float64Array(GRID_SIZE))).toBeNull();
  });

  test('a band is advised by what it would change for each coral, and not where it would change nothing', () => {
    const bands = bandAdvice(stock, blue, bandsHeld(demoPanel));
    for (const b of bands) {
      const moves = b.corals.map((c) => c.moves);
      expect(moves).toEqual([...moves].sort((x, y) => y - x));
      for (const v of moves) expect(v).toBeGreaterThanOrEqual(PLAINLY_MOVED);
    }
    const sums = bands.map((b) => b.corals.reduce((sum, c) => sum + c.moves, 0));
    expect(sums).toEqual([...sums].sort((x, y) => y - x));
    // near UV wakes little: it never stands before green for corals that reflect
    const at = (id: string) => bands.findIndex((b) => b.band === id);
    expect(at('green')).toBeGreaterThanOrEqual(0);
    if (at('nearUv') >= 0) expect(at('nearUv')).toBeGreaterThan(at('green'));
    // by hand: the light with a twentieth of its photons evenly over the band
    const green = BANDS.find((b) => b.id === 'green')!;
    const tried = new Float64Array(blue.map((v) => 0.95 * v));
    const photons = integrate(blue);
    for (let nm = green.fromNm; nm < green.toNm; nm += 1)
      tried[nm - FIRST_NM]! += (0.05 * photons) / (green.toNm - green.fromNm);
    expect(integrate(tried)).toBeCloseTo(photons, 6);
    const [before, after] = [blue, tried].map((l) => coloursUnder([stock[1]!], false, l));
    const moved = before!.reduce((sum, c, k) => sum + ucsDistance(c, after![k]!), 0) / before!.length;
    expect(bands[at('green')]!.corals.find((c) => c.name === stock[1]!.name)!.moves).toBeCloseTo(moved, 9);
    // nothing is said without light, and nothing of a stock without corals
    expect(bandAdvice(stock, new Float64Array(GRID_SIZE), bandsHeld(demoPanel))).toEqual([]);
    expect(bandAdvice([], blue, bandsHeld(demoPanel))).toEqual([]);
  });

  test('what never shows is named with its reason', () => {
    expect(neverShown(stock).find((n) => n.name === 'Brown leather')!.regions).toContain('cap');
    // by the mean of its plain regions
    const two = (brown: number) => {
      const form = libraryForm('turning-brain')!;
      const plain = { ...form.regions[0]!, proteins: {}, chromo: {}, brown };
      return neverShown([{ name: 'T', form: { ...form, regions: [plain, { ...plain, name: 'rim' }] } }])[0]!;
    };
    expect(two(0.4).why).toMatch(/only symbiont brown/);
    expect(two(0.2).why).toMatch(/hardly any pigment/);
    expect(two(0.4).regions).toHaveLength(2);
    const turning = [{ name: 'T', form: libraryForm('turning-brain')! }];
    expect(conversions(turning, blue, {})[0]!.text).toMatch(/Uncertain/);
    expect(conversions(stock, blue, { 'Purple table': 1 }).some((c) => /caution/.test(c.text))).toBe(true);
  });
});

describe('design', () => {
  const corals = ['green-tip-branch', 'purple-table', 'orange-plate', 'teal-cup', 'yellow-polyps'].map(
    (id) => ({
      name: libraryForm(id)!.name,
      form: libraryForm(id)!,
    }),
  );
  const channels: Spectrum[] = demoPanel.channels.map((c) => keptSpectrum(c).map((v) => v * 2.2));
  const mix = {
    'near-uv': 0.4,
    violet: 0.7,
    'royal-blue': 0.82,
    blue: 0.74,
    cyan: 0.48,
    lime: 0.3,
    'cool-white': 0.55,
    'deep-red': 0.15,
  };
  const asked: DesignInput = {
    kind: demoPanel,
    mix,
    fixed: {},
    channels,
    beside: new Float64Array(GRID_SIZE),
    strength: 0.8,
    parWanted: 0,
    corals,
    aims: SCHOOLS[0]!.aims,
    seed: 7,
  };
  // what the present mix gives there
  const wanted = figuresOf(prepare(asked), mix).par;
  const input: DesignInput = { ...asked, parWanted: wanted };

  test.each(SCHOOLS.map((s) => [s.id, s.aims] as const))(
    '%s: three to five answers at the wanted PAR, none beaten on all aims by 500 random mixes, reasons computed',
    (_, aims) => {
      const one = { ...input, aims };
      const p = prepare(one);
      const answers = design(one);
      expect(answers.length).toBeGreaterThanOrEqual(3);
      expect(answers.length).toBeLessThanOrEqual(5);
      const random = seeded(999);
      const pool = Array.from({ length: 500 }, () => scoresOf(p, figuresOf(p, randomMix(p, random))));
      for (const a of answers) {
        expect(Math.abs(a.figures.par / wanted - 1)).toBeLessThan(0.03);
        const mine = scoresOf(p, figuresOf(p, a.mix));
        expect(pool.some((s) => beats(s, mine))).toBe(false);
        expect([...a.reasons, ...a.givesUp].every((r) => /→/.test(r))).toBe(true);
        expect(a.reasons.length + a.givesUp.length).toBeGreaterThan(0);
      }
      // what leads is better than elsewhere
      const led = (lead: string) => answers.find((x) => x.lead === lead);
      const even = led('asSet');
      if (even) {
        expect(led('feeding')?.figures.usable ?? 1).toBeGreaterThanOrEqual(even.figures.usable - 0.01);
        expect(led('glow')?.figures.glow ?? 1).toBeGreaterThanOrEqual(even.figures.glow - 0.01);
      }
    },
  );

  test('locked controls stay; ceilings and floors hold; a lamp that cannot reach the PAR says so', () => {
    const fixed = { violet: 0.7, 'deep-red': 0.15 };
    for (const a of design({ ...input, fixed })) expect(a.mix).toMatchObject(fixed);
    for (const a of design({ ...input, aims: { ...input.aims, redCeiling: 0.01, violetFloor: 0.15 } })) {
      expect(a.figures.red).toBeLessThan(0.02);
      expect(a.figures.violet).toBeGreaterThan(0.14);
    }
    const weak = design({ ...input, parWanted: 2000 });
    expect(weak.every((a) => Math.max(...Object.values(a.mix)) > 0.99)).toBe(true);
  });

  test('the same seed gives the same answers', () => {
    expect(design(input)).toEqual(design(input));
  });
});

test('every protein family has an excitation below its emission', () => {
  for (const p of PROTEINS) {
    const peak = p.emission.indexOf(Math.max(...p.emission)) + FIRST_NM;
    expect(peak).toBe(p.emissionNm);
    expect(p.peakNm).toBeLessThan(p.emissionNm);
    expect(p.yield).toBeLessThanOrEqual(0.8);
  }
  const ids: ProteinId[] = PROTEINS.map((p) => p.id);
  expect(new Set(ids).size).toBe(ids.length);
});

test('each band’s work at a coral: shares of what feeds and of what is seen add up, glow counted where it is excited', () => {
  const form = libraryForm('green-tip-branch')!;
  const flat = new Float64Array(421).fill(1);
  const work = bandWork(form, flat);
  const sum = (of: 'feeds' | 'lights', list = work) => list.reduce((all, w) => all + w[of], 0);
  expect([sum('feeds'), sum('lights')]).toEqual([expect.closeTo(1, 9), expect.closeTo(1, 9)]);
  const of = (band: string, list = work) => list.find((w) => w.band === band)!;
  // the eye sees green best, symbionts use blue most
  expect(of('green').lights).toBeGreaterThan(of('blue').lights);
  expect(of('blue').feeds / 20).toBeGreaterThan(of('green').feeds / 55);
  // near UV feeds a little, beside what PAR counts
  expect(of('nearUv').feeds).toBeGreaterThan(0.01);
  expect(of('nearUv').feeds).toBeLessThan(0.1);
  // a blue light alone: what is seen of it is mostly glow, and stands at blue
  const blue = flat.map((_, i) => (360 + i > 440 && 360 + i < 460 ? 1 : 0));
  expect(of('royalBlue', bandWork(form, blue)).lights).toBeCloseTo(1, 9);
  // against an independent sum over the coral as it is seen
  const seen = (light: Float64Array) => formSeen(form, light).reduce((all, r) => all + r.xyz[1], 0);
  const green = flat.map((_, i) => (360 + i >= 510 && 360 + i < 565 ? 1 : 0));
  expect(of('green').lights).toBeCloseTo(seen(green) / seen(flat), 6);
  expect(sum('lights', bandWork(form, new Float64Array(421)))).toBe(0);
});
