import { FORMS } from '../coral/form';
import { formSeen } from '../coral/seen';
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
    if (id === 'lights') continue;
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
