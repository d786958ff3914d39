import { seeded, normal } from '../spectrum/random';
import { criticise, type LeftOver, type Suspected } from './criticism';

const random = seeded(4);
/** Readings over a tank, each moving with two unknowns, as a fit to a truth would leave them. */
const readings = (off: (x: number, i: number) => number, n = 12): LeftOver[] =>
  Array.from({ length: n }, (_, i) => {
    const xCm = 10 * i;
    return {
      ...{ xCm, yCm: 10 + 5 * (i % 3), depthCm: 20 + 3 * (i % 4), sigmas: off(xCm, i) },
      slopes: [i % 2 === 0 ? 4 : 0, (i % 3) - 1],
    };
  });
const prior = [
  [0.01, 0],
  [0, 0.01],
];
const suspected: Suspected[] = [
  { at: 0, variance: 0.01, kind: 'lamp', words: 'every other' },
  { at: 1, variance: 0.01, kind: 'panes', words: 'by threes' },
];

test('what scatters as it should is not criticised, and no trend is seen where there is chance', () => {
  let cried = 0;
  for (let k = 0; k < 300; k += 1)
    cried += Number(
      criticise(
        readings(() => normal(random)),
        prior,
        suspected,
        1,
      ) !== null,
    );
  expect(cried / 300).toBeLessThan(0.04);
  expect(
    criticise(
      readings((x) => x / 1e4),
      prior,
      suspected,
      1,
    ),
  ).toBeNull();
  expect(
    criticise(
      readings((x) => x, 3),
      prior,
      suspected,
      1,
    ),
  ).toBeNull();
});

test('a lean to one side is a trend; a wide spread is named by what moves as it does', () => {
  const leans = criticise(
    readings((x) => (x - 55) / 20 + 0.3 * normal(random)),
    prior,
    suspected,
    1.2,
  );
  expect(leans).toMatchObject({ by: 'trend', widen: 1.5 });
  const lamp = criticise(
    readings((_, i) => (i % 2 === 0 ? 3 : -0.2)),
    prior,
    suspected,
    2.4,
  )!;
  expect([lamp.by, lamp.widen]).toEqual(['scatter', 2.4]);
  expect(lamp.causes[0]!.words).toBe('every other');
  expect(lamp.causes[0]!.odds).toBeGreaterThan(0.8);
  expect(lamp.measure).toMatch(/each lamp alone/);
  // what nothing asked about moves with is none of these
  const none = criticise(
    readings((_, i) => [4, -4, -4, 4][i % 4]!),
    prior,
    suspected,
    3,
  )!;
  expect(none.causes.reduce((s, c) => s + c.odds, 0)).toBeLessThan(0.8);
  expect(
    criticise(
      readings((_, i) => (i % 2 ? 3 : -3)),
      prior,
      [],
      3,
    ),
  ).toMatchObject({
    causes: [],
    measure: expect.stringMatching(/once more/),
  });
});
