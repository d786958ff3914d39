import { FORMS } from '../coral/form';
import { formSeen } from '../coral/seen';
import { NEEDS } from '../record/needs';
import { par } from '../spectrum/bands';
import { lux } from '../spectrum/lux';
import { answered, APART, REMEMBERED, roundOf, SKILLS, weakest } from './rounds';

const SEEDS = Array.from({ length: 60 }, (_, i) => i + 1);
const sumOf = (light: ArrayLike<number>) => Array.from(light).reduce((a, b) => a + b, 0);
const number = (text: string) => Number(/[\d.]+/.exec(text)![0]);
const all = (text: string) => [...text.matchAll(/[\d.]*\d/g)].map((m) => Number(m[0]));

test.each(SKILLS)('$name: rounds differ, have four answers told apart, and one that is right', ({ id }) => {
  const rounds = SEEDS.map((seed) => roundOf(id, seed));
  expect(new Set(rounds.map((r) => r.ask)).size).toBeGreaterThan(5);
  expect(new Set(rounds.map((r) => r.right)).size).toBeGreaterThan(1);
  for (const round of rounds) {
    expect(round).toMatchObject({ skill: id });
    expect(round.answers).toHaveLength(4);
    expect(new Set(round.answers).size).toBe(4);
    expect(round.answers[round.right]).toBeDefined();
    expect(round.why).not.toMatch(/NaN|Infinity|undefined/);
    if (['lights', 'place', 'proof'].includes(id)) continue;
    const figures = round.answers.map(number);
    expect(figures).toEqual([...figures].sort((a, b) => a - b));
    figures.slice(1).forEach((x, i) => expect(x / figures[i]!).toBeGreaterThanOrEqual(APART - 1e-9));
  }
  expect(roundOf(id, 7)).toEqual(roundOf(id, 7));
});

test('by eye: both lights have the lux that is asked for, and the right answer is the PAR of the blue one', () => {
  for (const seed of SEEDS) {
    const { ask, lights, answers, right } = roundOf('eye', seed);
    const [bothLux, ofWhite] = all(ask) as [number, number];
    const [white, blue] = lights.map((l) => l.spectrum);
    const truth = (bothLux / lux(blue!)) * par(blue!);
    expect(number(answers[right]!) / truth).toBeCloseTo(1, 1);
    expect(ofWhite / ((bothLux / lux(white!)) * par(white!))).toBeCloseTo(1, 1);
    expect(truth).toBeGreaterThan(1.3 * ofWhite);
  }
});

test('what lights a colour: under the right one it glows more than under any other of as many photons', () => {
  for (const seed of SEEDS) {
    const { ask, lights, answers, right } = roundOf('lights', seed);
    const form = FORMS.find((f) => ask.includes(`“${f.name}”`))!;
    const glow = lights.map(
      ({ spectrum }) =>
        formSeen(form, spectrum).reduce((sum, r) => sum + r.fluorescent[1], 0) / sumOf(spectrum),
    );
    expect(glow.indexOf(Math.max(...glow))).toBe(right);
    expect(answers).toEqual(lights.map((l) => l.name));
  }
});

test('percent of percent, lux and PAR, and the cap of tonight come out by hand', () => {
  for (const seed of SEEDS) {
    const chain = roundOf('chain', seed);
    const [colour, strength, cap] = all(chain.ask) as [number, number, number];
    expect(number(chain.answers[chain.right]!) / ((colour * strength * cap) / 10_000)).toBeCloseTo(1, 1);
    const meter = roundOf('meter', seed);
    const light = meter.lights[0]!.spectrum;
    const truth = (all(meter.ask)[0]! * par(light)) / lux(light);
    expect(number(meter.answers[meter.right]!) / truth).toBeCloseTo(1, 1);
    const ease = roundOf('ease', seed);
    const [used, full] = all(ease.ask) as [number, number];
    const most = Number(number(ease.answers[ease.right]!));
    // what is offered is rounded to two digits
    expect((full * most) / 100 / used).toBeCloseTo(1.3, 1);
  }
});

test('out of too much: 1.3 × of what ten days a factor e have made it used to', () => {
  for (const seed of SEEDS) {
    const { ask, answers, right } = roundOf('undo', seed);
    const [used, days, got] = all(ask) as [number, number, number];
    const by = got - (got - used) * Math.exp(-days / 10);
    expect(number(answers[right]!) / Math.min(got, 1.3 * by)).toBeCloseTo(1, 1);
  }
});

test('three corals: the right order suits all of them, no other one does, and the meter reads what was computed', () => {
  for (const seed of SEEDS) {
    const { ask, answers, right, why } = roundOf('place', seed);
    const umol = Object.fromEntries(
      [...why.matchAll(/(\d+) µmol at ([ABC])/g)].map((m) => [m[2]!, Number(m[1])]),
    );
    const [, read, at] = /reads (\d+) µmol at ([ABC])/.exec(ask)!;
    expect(umol[at!]).toBe(Number(read));
    const suits = answers.map((order) =>
      order.split(', ').every((part) => {
        const { fromUmol, toUmol } = Object.values(NEEDS).find((n) => part.endsWith(n.name))!;
        return umol[part[0]!]! >= fromUmol && umol[part[0]!]! <= toUmol;
      }),
    );
    expect(suits).toEqual(answers.map((_, i) => i === right));
    // under the lamp deeper has less, and at one depth the side has less than the middle (aside, deeper may have more)
    const places = [...ask.matchAll(/([ABC]) (\d+) cm deep (?:under|(\d+) cm)/g)].map(
      ([, name, deep, side]) => ({
        umol: umol[name!]!,
        deep: Number(deep),
        side: Number(side ?? 0),
      }),
    );
    for (const a of places)
      for (const b of places)
        if ((a.deep < b.deep && a.side + b.side === 0) || (a.deep === b.deep && a.side === 0 && b.side > 0))
          expect(a.umol).toBeGreaterThan(b.umol);
  }
});

test('what the lamp does: both readings are what the right answer makes by hand, and no other answer makes them', () => {
  for (const seed of SEEDS) {
    const { ask, answers, right } = roundOf('proof', seed);
    const [cap] = all(/cap of (\d+) %/.exec(ask)![0]) as [number];
    const [early, noon, readEarly, readNoon] = [...ask.matchAll(/(\d+) µmol/g)].map((m) => Number(m[1])) as [
      ...[number, number, number, number],
    ];
    expect(early / noon).toBeCloseTo(0.75, 1);
    // on the slope and on the plateau, as shares of what was typed
    const made: Record<string, (slope: number, top: number) => boolean> = {
      'It runs what was typed': (slope, top) => Math.abs(slope - 0.75) < 0.05 && Math.abs(top - 1) < 0.05,
      'Its clock is an hour slow': (slope, top) => Math.abs(slope - 0.25) < 0.05 && Math.abs(top - 1) < 0.05,
      'It does not take the cap': (slope, top) =>
        Math.abs(top / (100 / cap) - 1) < 0.06 && Math.abs(slope / top - 0.75) < 0.06,
      'White stays dark': (slope, top) => top < 0.8 && Math.abs(slope / top - 0.75) < 0.06,
      'It jumps at each typed time and draws no ramp': (slope, top) =>
        slope === 0 && Math.abs(top - 1) < 0.05,
    };
    expect(answers.map((a) => made[a]!(readEarly / noon, readNoon / noon))).toEqual(
      answers.map((_, i) => i === right),
    );
  }
});

test('what was never asked comes first, then what is weakest; old answers are forgotten', () => {
  expect(weakest({})).toBe(SKILLS[0].id);
  let practised = SKILLS.reduce((sum, { id }) => answered(sum, id, id !== 'chain'), {});
  expect(weakest(practised)).toBe('chain');
  for (let i = 0; i < REMEMBERED; i += 1) practised = answered(practised, 'chain', true);
  expect(weakest(practised)).not.toBe('chain');
  expect(answered(practised, 'chain', false)).toMatchObject({
    chain: [...Array(REMEMBERED - 1).fill(true), false],
  });
});
