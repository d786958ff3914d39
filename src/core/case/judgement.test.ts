import { inWords } from '../shape/counts';
import { displayCase } from '@/demo/lagoon';
import { demoPanel } from '@/demo/panel';

import { judgementWith } from '../fixtures/judgement';
import { steadyDay } from '../easing/accustomed';
import { usableShare } from '../feeding/symbiont';
import { computeResponse } from '../optics/response';
import { floorUmolOf } from '../record/needs';
import { normalBelow } from '../shape/normal';
import { seeded } from '../spectrum/random';
import { bareCalibration, channelKey, DOUBT, ratioBandShare } from './calibration';
import { type Judgement, judgeWater, type Place, placed, SIDE, stepGravity } from './judgement';
import {
  bandUnder,
  brightestLevels,
  dayAt,
  daysAt,
  levelsOfGroups,
  takenParts,
  parUnder,
  spectrumUnder,
  takenUnder,
  zoneLight,
} from './light';
import { draftGroups, rigOf } from './lit';
import {
  fittedWords,
  largeWords,
  offWords,
  PLACES,
  rangeVerdict,
  stepOf,
  times,
  timesOf,
  verdict,
} from './verdict';

const NOW = Date.parse('2026-11-24T12:00:00.000Z');
const { case: doc } = displayCase(NOW, 'UTC');
const zone = doc.zones[0]!;
const groups = draftGroups(doc, zone);
const light = zoneLight(computeResponse(rigOf(groups, zone, zone.spots)), groups);
const cal = bareCalibration(groups, zone);
const corals = { one: 'coral', many: 'corals' };

/** Corals, lamps, pasts and readings at will. */
function randomJudgement(random: () => number): Judgement {
  const names = ['Moss', 'Copper table', 'Straw polyp', 'Velvet disc', 'Ember brain'];
  const state = (['runs', 'draft', 'mix', 'water'] as const)[Math.floor(random() * 4)]!;
  const usedToIt = state === 'draft' && random() < 0.3;
  return judgementWith(
    names.slice(0, Math.floor(random() * 6)).map((name) => {
      const fromUmol = 20 + random() * 300;
      return {
        name,
        ratio: random() < 0.1 ? null : usedToIt ? 1 : 0.4 + random() * 2.2,
        umol: random() * 600,
        bandShare: random() < 0.3 ? 0 : random() * 0.5,
        wants: random() < 0.15 ? null : { fromUmol, toUmol: fromUmol * (1.3 + random()) },
      };
    }),
    {
      state,
      stepsKnown: random() > 0.1,
      dims: random() > 0.2,
      usedToIt,
    },
  );
}

/** Whom a text says to have too much or too little, and how surely: read back from its words. */
function saidOff(text: string): Map<string, Place> {
  const out = new Map<string, Place>();
  const one = '[A-Z][a-z]+(?: [a-z]+)?';
  const names = `(${one}(?:, ${one})*)`;
  for (const [side, sure, unsure] of [
    ['oo much', 'above', 'perhapsAbove'],
    ['oo little', 'below', 'perhapsBelow'],
  ] as const) {
    const list = (found: string | undefined, place: Place) =>
      (found ?? '').split(', ').forEach((n) => n.trim() && out.set(n.trim(), place));
    const flat = new RegExp(`(?<!erhaps )[Tt]${side} at ${names}(?:, perhaps at ${names})?`).exec(text);
    const perhaps = new RegExp(`erhaps t${side} at ${names}`).exec(text);
    list(flat?.[1], sure);
    list(flat?.[2], unsure);
    list(perhaps?.[1], unsure);
  }
  return out;
}

test('500 random waters: every wording says the same of every coral, and none reassures past a fault', () => {
  const random = seeded(2026);
  let spoken = 0;
  for (let i = 0; i < 500; i += 1) {
    const j = randomJudgement(random);
    if (j.corals.length === 0) continue;
    const told = verdict(j, corals);
    const chart = rangeVerdict(j, corals);
    const off = j.corals.filter((c) => c.placed && c.placed.place !== 'within');
    const really = new Map(off.map((c) => [c.name, c.placed!.place]));
    for (const words of [told, offWords(j), ...(j.corals.some((c) => c.placed) ? [chart] : [])]) {
      // of one alone its name is not said twice
      const named = j.corals.length === 1 ? words.replaceAll(' for it', ` at ${j.corals[0]!.name}`) : words;
      expect([words, saidOff(named)]).toEqual([words, really]);
      spoken += really.size;
    }
    // who has a mark of its own has the mark of the sentence
    for (const c of j.corals)
      expect(SIDE[c.placed?.place ?? 'within']).toBe(SIDE[really.get(c.name) ?? 'within']);
    const large = j.corals.filter((c) => c.step?.large);
    expect([told, large.length > 0 && !j.usedToIt]).toEqual([told, /would get|gets .* ×/.test(told)]);
    if (large.length > 0 || !j.stepsKnown)
      expect(told).not.toMatch(/^(Safe|No step is large|All|Both|[A-Z].* is within)/);
    if (off.length > 0)
      expect(`${told} ${chart}`).not.toMatch(/(All \w+|Both) corals have|has the light it wants/);
    // the gravest is as grave as the water
    expect(j.gravity === 'calm').toBe(
      large.length === 0 && !off.some((c) => /^(above|below)$/.test(c.placed!.place)),
    );
    // each coral's own line is of the same state, and of its own ratio
    for (const c of j.corals) {
      const own = stepOf(c, j.state);
      if (own) expect(own.startsWith(times(c.step!.ratio))).toBe(true);
      else expect(c.step).toBeNull();
    }
    const worst = large.sort((a, b) => b.step!.ratio - a.step!.ratio)[0];
    if (worst && !j.usedToIt)
      expect(told).toContain(
        `${worst.name} ${j.state === 'runs' ? 'gets' : 'would get'} ${times(worst.step!.ratio)}`,
      );
  }
  expect(spoken).toBeGreaterThan(1000);
});

test('shares below of a normal distribution, against tabled values', () => {
  for (const [z, share] of [
    [0, 0.5],
    [1, 0.841344746],
    [-1, 0.158655254],
    [1.645, 0.950015094],
    [-3, 0.001349898],
  ] as const)
    expect(normalBelow(z)).toBeCloseTo(share, 6);
});

describe('where light lies against what is wanted', () => {
  const wants = { fromUmol: 100, toUmol: 200 };
  const at = (umol: number, band: number): Place => placed(umol, band, wants).place;
  test('without doubt it is one of three, edges included', () => {
    expect([99.9, 100, 150, 200, 200.1].map((v) => at(v, 0))).toEqual([
      ...['below', 'within', 'within', 'within', 'above'],
    ]);
  });
  test('with doubt a side is said flatly from nine in ten, as perhaps from one in four', () => {
    // at an edge either side is as likely
    expect(placed(100, 0.2, wants).below).toBeCloseTo(0.5, 6);
    expect([60, 100, 150, 200, 280].map((v) => at(v, 0.3))).toEqual([
      ...['below', 'perhapsBelow', 'within', 'perhapsAbove', 'above'],
    ]);
    // 1.2816 standard errors outside is nine in ten
    const error = (umol: number) => (0.3 * umol) / 1.645;
    const beyond = (umol: number, z: number) => umol - 200 - z * error(umol);
    const flat = [210, 300].map((v) => beyond(v, 1.2816));
    expect(flat[0]!).toBeLessThan(0);
    let [low, high] = [210, 300];
    for (let i = 0; i < 40; i += 1) {
      const mid = (low + high) / 2;
      if (at(mid, 0.3) === 'above') high = mid;
      else low = mid;
    }
    expect(beyond(high, 1.2816)).toBeCloseTo(0, 1);
  });
  test('probabilities add up to one, and more light never makes too little likelier', () => {
    const random = seeded(5);
    for (let i = 0; i < 500; i += 1) {
      const fromUmol = random() * 300;
      const range = { fromUmol, toUmol: fromUmol + 1 + random() * 300 };
      const [umol, band] = [random() * 700, random() * 0.6];
      const p = placed(umol, band, range);
      expect(p.below + p.within + p.above).toBeCloseTo(1, 9);
      // what lies within by its figure is never said flatly to lie outside, nor the other way round
      const inside = umol >= range.fromUmol && umol <= range.toUmol;
      if (inside) expect(['below', 'above']).not.toContain(p.place);
      if (umol < range.fromUmol) expect(SIDE[p.place]).toBe(p.above < 0.25 ? 'below' : SIDE[p.place]);
      expect(placed(umol * 1.1, 0, range).below).toBeLessThanOrEqual(placed(umol, 0, range).below);
    }
  });
});

describe('a water is judged once for all', () => {
  const used = zone.spots.map((_, i) => {
    const day = dayAt(light, groups, i);
    const taken = { dli: day.taken.dli / 1.2, peak: day.taken.peak / 1.1 };
    return { dli: day.dli / 1.2, peak: day.peak / 1.1, taken };
  });
  const judge = (more: Partial<Parameters<typeof judgeWater>[0]> = {}): Judgement =>
    judgeWater({ state: 'draft', zone, groups, light, cal, accustomed: used, ceiling: 1.3, ...more });

  test('a day: light, dose, band, step by the larger measure', () => {
    const days = daysAt(light, groups, [0, 1, 2, 3, 4]);
    judge().corals.forEach((c, i) => {
      expect(c.peak).toEqual({
        umol: days[i]!.peak,
        bandShare: bandUnder(cal, light, groups, brightestLevels(light, groups, i), i),
        minute: days[i]!.peakMinute,
      });
      expect(c.dayMol).toBe(dayAt(light, groups, i).dli);
      expect(c.step).toMatchObject({ by: 'DLI', large: false, harmful: false });
      expect(c.step!.accustomed).toEqual({ dli: used[i]!.dli, peak: used[i]!.peak });
      const q = steadyDay(floorUmolOf(zone.spots[i]!, zone), 8).dli;
      expect(c.step!.ratio).toBeCloseTo((days[i]!.taken.dli + q) / (used[i]!.taken.dli + q), 9);
      // a little less than the 1.2 that the light is, for a floor of near darkness
      expect(c.step!.ratio).toBeLessThan(1.2);
      expect(c.step!.ratio).toBeGreaterThan(1.15);
    });
    expect(judge().stepsKnown).toBe(true);
    expect(judge({ accustomed: null })).toMatchObject({ stepsKnown: false, worst: null });
  });

  /** What one light at a spot is made of by channel, times something. */
  const madeBy = (levels: readonly (readonly number[])[], spot: number, times = 1) =>
    Object.fromEntries(
      takenParts(light, groups, levels, spot).map((p) => [
        channelKey(p.groupId, p.channelId),
        p.light * times,
      ]),
    );
  const sum = (of: Record<string, number>) => Object.values(of).reduce((all, v) => all + v, 0);

  test('a step of the same light has no doubt, of other colours some, of other lamps more; as drawn gains scatter it', () => {
    const lit = levelsOfGroups(groups, 720);
    const made = madeBy(lit, 0, 0.8);
    const band = (levels: readonly (readonly number[])[], of = made, total = sum(of)) =>
      ratioBandShare(cal, takenParts(light, groups, levels, 0), of, total);
    expect(band(lit.map((l) => l.map((v) => v / 2)))).toBeCloseTo(0, 9);
    const bluer = lit.map((l) => l.map((v, c) => (c % 2 === 0 ? v : 0)));
    const ofLamp = (id: (channelId: string) => string) =>
      Object.fromEntries(takenParts(light, groups, lit, 0).map((p) => [id(p.channelId), p.light * 0.8]));
    const others = ofLamp((id) => channelKey('gone', id));
    expect(band(bluer)).toBeGreaterThan(0.02);
    expect(band(lit, others)).toBeGreaterThan(band(bluer));
    // one lamp is one doubt and two are two of their own, whatever blanks their names have
    expect(
      band(
        lit,
        ofLamp((id) => channelKey('gone long ago', id)),
      ),
    ).toBe(band(lit, others));
    expect(
      band(
        lit,
        ofLamp((id) => channelKey(`gone ${id}`, id)),
      ),
    ).toBeLessThan(band(lit, others));
    expect(channelKey('a', 'b c')).not.toBe(channelKey('a b', 'c'));
    // half of what it is used to came before any of these lamps
    expect(band(lit, made, 2 * sum(made))).toBeGreaterThan(1.645 * 0.25 * 0.5);
    expect(band(lit, made, 2 * sum(made))).toBeLessThan(band(lit, others));
    // gains drawn as the calibration doubts them: shared by all, and each of its own
    const random = seeded(3);
    const normal = () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
    const gains = cal.parameters.filter((p) => p.what === 'gain');
    const parts = takenParts(light, groups, bluer, 0);
    const ratios = Array.from({ length: 4000 }, () => {
      const all = normal() * DOUBT.kind;
      const drawn = new Map(
        gains.map((p) => [channelKey(p.groupId, p.channelId), Math.exp(all + DOUBT.channel * normal())]),
      );
      const lights = parts.reduce((n, p) => n + p.light * drawn.get(channelKey(p.groupId, p.channelId))!, 0);
      return lights / Object.entries(made).reduce((n, [key, v]) => n + v * drawn.get(key)!, 0);
    }).sort((a, b) => a - b);
    const halfWidth = (ratios[3800]! - ratios[200]!) / 2 / ratios[2000]!;
    expect(band(bluer) / halfWidth).toBeGreaterThan(0.85);
    expect(band(bluer) / halfWidth).toBeLessThan(1.15);
  });

  test('a judged step carries that doubt, and its words name it only where it is one', () => {
    const usedTo = zone.spots.map((_, i) => {
      const { dli, peak, taken } = dayAt(light, groups, i);
      const made = madeBy(brightestLevels(light, groups, i), i);
      return {
        dli: dli / 1.2,
        peak,
        taken: { dli: taken.dli / 1.2, peak: taken.peak },
        made: { dli: { [channelKey('gone', 'x')]: dli / 1.2 }, peak: made },
      };
    });
    const [byDose] = judge({ accustomed: usedTo }).corals;
    expect(byDose!.step!.by).toBe('DLI');
    expect(byDose!.step!.bandShare).toBeGreaterThan(0.3);
    expect(stepOf(byDose!, 'draft')).toMatch(/^1\.2 × what it is used to \(± \d\d %\), as drafted$/);
    const lit = levelsOfGroups(groups, byDose!.peak.minute!).map((l) => l.map((v) => v * 2));
    const byPeak = judge({ state: 'mix', levels: lit, accustomed: usedTo }).corals[0]!;
    expect(byPeak.step!.by).toBe('peak');
    expect(byPeak.step!.bandShare).toBeLessThan(0.02);
    expect(stepOf(byPeak, 'mix')).not.toContain('±');
  });

  test('white in place of blue at equal PAR is a step down, and blue in place of white one up, as they are taken up', () => {
    const blue = [demoPanel.channels.map((c) => (c.id === 'royal-blue' ? 0.6 : 0))];
    const white = [demoPanel.channels.map((c) => (c.id === 'cool-white' ? 1 : 0))];
    const scale = parUnder(light, white, 0) / parUnder(light, blue, 0);
    const equal = blue.map((l) => l.map((v) => v * scale));
    expect(parUnder(light, equal, 0)).toBeCloseTo(parUnder(light, white, 0), 6);
    const asUsed = (levels: number[][]) => {
      const peak = parUnder(light, levels, 0);
      return zone.spots.map(() => ({ dli: 1, peak, taken: { dli: 1, peak: takenUnder(light, levels, 0) } }));
    };
    const ratio = (levels: number[][], from: number[][]) =>
      judge({ state: 'mix', levels, accustomed: asUsed(from) }).corals[0]!.step!.ratio;
    const bright = (levels: number[][]) => levels.map((l) => l.map((v) => v * 1e4));
    const up = ratio(bright(equal), bright(white));
    expect(up).toBeGreaterThan(1.2);
    expect(up).toBeLessThan(1.5);
    expect(ratio(bright(white), bright(equal))).toBeCloseTo(1 / up, 9);
    // what near darkness is counted with takes some of it where light is little
    expect(ratio(equal, white)).toBeLessThan(up);
    // and is what the two spectra say
    const share = (levels: number[][]) => usableShare(spectrumUnder(light, levels, 0))!;
    expect(up).toBeCloseTo(share(equal) / share(white), 2);
  });

  test('a mix that is no day is judged by its peak alone, at its own levels', () => {
    const levels = levelsOfGroups(groups, 720).map((l) => l.map((v) => v * 2));
    const j = judge({ state: 'mix', levels });
    j.corals.forEach((c, i) => {
      expect(c.peak.umol).toBeCloseTo(parUnder(light, levels, i), 9);
      expect([c.dayMol, c.peak.minute]).toEqual([null, null]);
      expect(c.step!.by).toBe('peak');
      const q = floorUmolOf(zone.spots[i]!, zone);
      expect(c.step!.ratio).toBeCloseTo((takenUnder(light, levels, i) + q) / (used[i]!.taken.peak + q), 9);
    });
  });

  test('who does not live by light has no step, nobody known no range, and kinds have their own pace', () => {
    const spots = zone.spots.map((s, i) =>
      i === 0
        ? { ...s, need: 'nonPhotosynthetic' as const }
        : i === 1
          ? { ...s, need: null, wants: null }
          : i === 2
            ? { ...s, need: 'macroalgae' as const }
            : s,
    );
    const double = used.map((u) => ({
      dli: u.dli * 0.8,
      peak: u.peak * 0.8,
      taken: { dli: u.taken.dli * 0.8, peak: u.taken.peak * 0.8 },
    }));
    const j = judge({ zone: { ...zone, spots }, accustomed: double });
    expect(j.corals[0]!.step).toBeNull();
    expect([j.corals[1]!.placed, j.corals[1]!.wants]).toEqual([null, null]);
    // 1.5 times is large for a coral and not for an alga
    expect(j.corals[2]!.step!.ratio).toBeCloseTo(j.corals[3]!.step!.ratio, 1);
    expect([j.corals[2]!.step!.large, j.corals[3]!.step!.large]).toEqual([false, true]);
    expect(j.gravity).toBe('caution');
  });
});

describe('the words of a judgement', () => {
  const wants = { fromUmol: 100, toUmol: 200 };
  const say = (told: Parameters<typeof judgementWith>[0], more: Parameters<typeof judgementWith>[1] = {}) =>
    verdict(judgementWith(told, more), corals);

  test('steps and ranges stand in one sentence, the gravest first', () => {
    expect(say([{ name: 'Moss' }, { name: 'Straw', umol: 210, bandShare: 0.3, wants }])).toBe(
      'Both are within what they are used to; perhaps too much at Straw.',
    );
    expect(
      say([
        { name: 'Moss', ratio: 1.8 },
        { name: 'Straw', umol: 50, wants },
      ]),
    ).toBe('Moss gets 1.80 × what it is used to: ease it in; too little at Straw.');
    expect(
      say([
        { name: 'Moss', ratio: 2.4 },
        { name: 'Straw', ratio: 1.4 },
      ]),
    ).toBe('Moss gets 2.40 × what it is used to and one other too much at once: lower the cap tonight.');
    expect(say([{ name: 'Moss', umol: 210, bandShare: 0.3, wants }])).toBe(
      'Moss is within what it is used to; perhaps too much for it.',
    );
    // who bears more may get more: spoken of is who cannot
    expect(
      say([
        { name: 'Green tangle', ratio: 1.6, as: { need: 'macroalgae' } },
        { name: 'Moss', ratio: 1.4 },
      ]),
    ).toBe('Moss gets 1.40 × what it is used to: ease it in.');
    expect(say([{ name: 'Moss', ratio: 2.4 }], { dims: false })).toContain('give less light tonight');
  });

  test('each side is said once: who surely has, then who perhaps has; a sure side before an unsure one', () => {
    const off = (told: Parameters<typeof judgementWith>[0]) => offWords(judgementWith(told));
    const at = (name: string, umol: number) => ({ name, umol, bandShare: 0.3, wants });
    expect(off([at('A', 300), at('B', 210), at('C', 60), at('D', 90)])).toBe(
      'too much at A, perhaps at B; too little at C, perhaps at D',
    );
    expect(off([at('B', 210), at('C', 60)])).toBe('too little at C; perhaps too much at B');
    expect(off([at('B', 210), at('D', 90), at('E', 95)])).toBe(
      'perhaps too much at B; perhaps too little at D, E',
    );
    expect(off([at('F', 150)])).toBe('');
    const low = Array.from({ length: 7 }, (_, i) => at(`L${i}`, 20));
    expect(off(low.slice(0, 5))).toBe('too little at L0, L1, L2, L3, L4');
    expect(off(low)).toBe('too little at L0, L1, L2, L3 and 3 more');
    expect(off([...low, ...low.map((l) => ({ ...l, umol: 400 }))])).toBe(
      'too much at L0 and 6 more; too little at L0 and 6 more',
    );
  });

  test('of a draft it says what would be, and does not call safe what already has too much', () => {
    const draft = { state: 'draft' as const };
    expect(say([{ name: 'Moss', ratio: 1.1 }], draft)).toBe(
      'Safe to type in at once: at most 1.10 × what any coral is used to.',
    );
    expect(say([{ name: 'Moss', ratio: 1.1, umol: 300, wants }], draft)).toBe(
      'No step is large: at most 1.10 × what any coral is used to; too much at Moss.',
    );
    // less light for it is no risk of that kind
    expect(say([{ name: 'Moss', ratio: 0.9, umol: 300, wants }], draft)).toMatch(
      /^Safe .*; too much at Moss\.$/,
    );
    expect(say([{ name: 'Moss', ratio: 2.3 }], draft)).toBe(
      'Ease this in: Moss would get 2.30 × what it is used to, by the day’s light.',
    );
    expect(say([{ name: 'Moss', ratio: 2.3 }], { state: 'mix' })).toContain('as a day’s brightest');
  });

  test('what was not looked at is said, not passed over', () => {
    expect(say([])).toBe('No spot to judge.');
    expect(say([{ name: 'Moss', umol: 300, wants }], { stepsKnown: false })).toBe(
      'What the corals are used to is being replayed. Too much at Moss.',
    );
    expect(say([{ name: 'Moss', ratio: null }])).toBe('Nobody here lives by light.');
    expect(say([{ name: 'Moss', ratio: null, umol: 300, wants }])).toBe('Too much at Moss.');
  });

  test('a chart of light counts who has what it wants, with every perhaps', () => {
    const range = (told: Parameters<typeof judgementWith>[0]) => rangeVerdict(judgementWith(told), corals);
    expect(range([{ name: 'Moss' }])).toBe('No coral is known here yet; the light is shown as it runs.');
    expect(range([{ name: 'Moss', umol: 150, wants }])).toContain('The coral has the light it wants');
    expect(range([{ name: 'Moss', umol: 210, bandShare: 0.3, wants }])).toBe(
      'At the day’s brightest, as it runs: perhaps too much at Moss.',
    );
    expect(
      range([
        { name: 'Moss', umol: 150, wants },
        { name: 'Straw', umol: 90, wants },
      ]),
    ).toBe('One of two corals has what it wants at the day’s brightest, as it runs: too little at Straw.');
    expect(
      range([
        { name: 'Moss', umol: 250, wants },
        { name: 'Straw', umol: 90, wants },
      ]),
    ).toMatch(/^Neither of two .*: too much at Moss; too little at Straw\.$/);
  });

  test('a ratio says of what state it is', () => {
    for (const [state, words] of [
      ['runs', 'as it runs'],
      ['draft', 'as drafted'],
      ['mix', 'as a day’s brightest'],
    ] as const)
      expect(stepOf(judgementWith([{ name: 'Moss', ratio: 1.5 }]).corals[0]!, state)).toBe(
        `1.50 × what it is used to, ${words}`,
      );
    expect([times(1.256), times(10)]).toEqual(['1.26 ×', 'over 10 ×']);
    expect([inWords(0), inWords(12), inWords(13)]).toEqual(['no', 'twelve', '13']);
  });

  test('500 random waters: one verdict never contradicts the rows beneath it', () => {
    const random = seeded(17);
    for (let n = 0; n < 500; n += 1) {
      const told = Array.from({ length: 1 + Math.floor(random() * 6) }, (_, i) => ({
        name: `C${i}`,
        ratio: random() < 0.1 ? null : 0.3 + random() * 2.2,
        as: random() < 0.3 ? { need: 'soft' as const, bears: 1.1 + 0.9 * random() } : undefined,
        umol: random() * 500,
        bandShare: random() * 0.5,
        wants: random() < 0.2 ? null : { fromUmol: 80 + random() * 100, toUmol: 200 + random() * 200 },
      }));
      const state = (['runs', 'draft', 'mix'] as const)[Math.floor(random() * 3)]!;
      const j = judgementWith(told, { state });
      const words = verdict(j, corals);
      const anyLarge = j.corals.some((c) => c.step?.large);
      // reassuring words stand only where no step is large
      expect(/^(Safe|No step is large|All|Both|C\d is)\b/.test(words)).toBe(
        !anyLarge && j.corals.some((c) => c.step),
      );
      expect(largeWords(j) !== '').toBe(anyLarge);
      // nobody's step is passed over because another, who bears more, gets more
      const steps = j.corals.flatMap((c) => c.step ?? []);
      expect(stepGravity(j)).toBe(steps.some((s) => s.harmful) ? 'stop' : anyLarge ? 'caution' : 'calm');
      if (anyLarge) expect(largeWords(j)).toContain(j.worst!.name);
      else if (state !== 'runs' && steps.length > 0)
        expect(words).toContain(`at most ${times(Math.max(...steps.map((s) => s.ratio)))}`);
      // every coral off its range is named in every verdict, with its row's own words
      for (const c of j.corals) {
        if (!c.placed || c.placed.place === 'within') continue;
        expect(offWords(j)).toContain(c.name);
        expect(words.toLowerCase()).toContain(PLACES[SIDE[c.placed.place]].words);
        expect(rangeVerdict(j, corals)).toContain(c.name);
      }
      if (/^Safe/.test(words)) for (const c of j.corals) expect(c.gravity).not.toBe('stop');
    }
  });
});

test('the peak of lamps that are only on or off is not eased in: it is to be made darker first', () => {
  const wants = { fromUmol: 50, toUmol: 400 };
  const told = { name: 'Moss', ratio: 1.2, umol: 300, wants };
  const by = (dims: boolean, measure: 'peak' | 'DLI' = 'peak') => {
    const j = judgementWith([told], { state: 'draft', dims });
    const [coral] = j.corals;
    const step = { ...coral!.step!, by: measure, ratio: 2.73, large: true };
    return { ...j, corals: [{ ...coral!, step }], worst: { ...coral!, step } };
  };
  expect(largeWords(by(false))).toBe(
    'Make it darker first: Moss would get 2.73 × what it is used to, by its peak',
  );
  expect(largeWords(by(true))).toMatch(/^Ease this in: /);
  expect(largeWords(by(false, 'DLI'))).toMatch(/^Ease this in: /);
});

test('what readings changed is said where something is lit, of spots where nobody is known', () => {
  const { case: doc } = displayCase(Date.UTC(2026, 10, 24), 'UTC');
  const water = doc.zones[0]!;
  const lit = draftGroups(doc, water);
  const under = (of: typeof water, levels?: number[][]) => {
    const light = zoneLight(computeResponse(rigOf(lit, of, of.spots)), lit);
    const cal = bareCalibration(lit, of);
    return judgeWater({
      state: 'runs',
      zone: of,
      groups: lit,
      light,
      cal,
      accustomed: null,
      ceiling: 1.3,
      levels,
    });
  };
  const who = { one: 'coral', many: 'corals' };
  const now = under(water);
  expect(fittedWords(now, now, who)).toMatch(
    /^At your corals the mean ± stays at \d\d %; each is judged as before\.$/,
  );
  const nobody = under({ ...water, spots: water.spots.map((s) => ({ ...s, need: null })) });
  expect(fittedWords(nobody, nobody, who)).toMatch(/^At your spots the mean ± stays at \d\d %\.$/);
  const none = under({ ...water, spots: [] });
  const dark = under(
    water,
    lit.map((g) => g.lampKind.channels.map(() => 0)),
  );
  for (const j of [none, dark]) expect(fittedWords(j, j, who)).toBe('');
});

test('a ratio is printed as coarse as its doubt, but on its own side of what may be changed at once', () => {
  expect([times(1.234), times(1.234, 0.03), times(1.234, 0.3), times(12, 0.5)]).toEqual([
    '1.23 ×',
    '1.23 ×',
    '1.2 ×',
    'over 10 ×',
  ]);
  const step = (ratio: number, bandShare: number) => timesOf({ ratio, bandShare, ceiling: 1.3 });
  expect([step(1.26, 0.3), step(1.34, 0.3), step(1.36, 0.3), step(0.84, 0.3)]).toEqual([
    '1.3 ×',
    '1.34 ×',
    '1.4 ×',
    '0.8 ×',
  ]);
});
