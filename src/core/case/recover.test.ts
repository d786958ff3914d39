import { bareWidth, recovered, SCENARIOS } from '../fixtures/recovery';

/** All forty in `npm run long`; the table of two hundred is in docs/science. */
const SEEDS = process.env.LONG ? 40 : 5;
/** Corals of one seed share its truth: a row of few seeds scatters, all rows together less. */
const LEAST = process.env.LONG ? 0.85 : 0.55;
const together = { inside: 0, all: 0 };

const runs = (scenario: string, readings: 3 | 9, first = 1) =>
  Array.from({ length: SEEDS }, (_, i) => recovered(scenario, first + i, readings));
const mean = (values: readonly number[]) => values.reduce((s, v) => s + v, 0) / values.length;

test.each(Object.keys(SCENARIOS))(
  '%s: the 90 % band holds corals that were never read, after three readings and after nine',
  (scenario) => {
    const widths = ([3, 9] as const).map((readings) => {
      const all = runs(scenario, readings);
      const of = (part: 'inside' | 'all') => all.reduce((s, r) => s + r[part], 0);
      const inside = of('inside') / of('all');
      together.inside += of('inside');
      together.all += of('all');
      expect([scenario, readings, inside >= LEAST || inside]).toEqual([scenario, readings, true]);
      // a band that never fails is as useless: it lies within a few times the error
      expect(mean(all.map((r) => r.width))).toBeLessThan(5.5 * mean(all.map((r) => r.error)));
      return mean(all.map((r) => r.width));
    });
    // what is read narrows, and only that
    expect(widths[0]!).toBeLessThan(bareWidth());
    expect(widths[1]!).toBeLessThan(widths[0]!);
  },
  120_000,
);

test('over all those truths the band holds what it says', () => {
  expect(together.inside / together.all).toBeGreaterThan(0.87);
  expect(together.inside / together.all).toBeLessThan(0.985);
});

test('every colour keeps its own doubt until it is read alone', () => {
  const violet = (readings: 3 | 9) =>
    mean(
      runs('assumed', readings).map(
        (r) => r.cal.parameters.find((p) => p.channelId === 'violet')!.standardError / r.cal.gains.g!.violet!,
      ),
    );
  expect(violet(3)).toBeGreaterThan(0.15);
  expect(violet(9)).toBeLessThan(violet(3));
});

test('a gross error is named, and what is right is not', () => {
  let [named, wrongly, all] = [0, 0, 0];
  for (let seed = 1; seed <= 3 * SEEDS; seed += 1) {
    // one of the readings with everything lit
    const spoil = [0, 1, 2, 8][seed % 4]!;
    const { cal } = recovered('assumed', 500 + seed, 9, spoil);
    const suspects = cal.residuals.filter((r) => r.suspect).map((r) => r.readingId);
    named += Number(suspects.includes(`r${spoil}`));
    wrongly += suspects.filter((id) => id !== `r${spoil}`).length;
    all += 1;
  }
  expect(named / all).toBeGreaterThanOrEqual(0.8);
  expect(wrongly / all).toBeLessThan(0.25);
}, 60_000);

test('a model that is wrong in kind says so, widens and names what would tell; one that fits does not', () => {
  let wrongly = 0;
  for (let seed = 1; seed <= 4 * SEEDS; seed += 1)
    wrongly += Number(recovered('assumed', 900 + seed, 9).cal.criticism != null);
  expect(wrongly / (4 * SEEDS)).toBeLessThan(0.1);
  // a hand that is unsteady beyond any meter
  const shaky = recovered('assumed', 800, 9, -1, 'high', (_, nth) => (nth % 2 === 0 ? 0.55 : 1.6)).cal;
  expect(shaky.criticism).toMatchObject({ by: 'scatter' });
  expect(shaky.criticism!.widen).toBeGreaterThan(1.5);
  expect(shaky.criticism!.measure).toMatch(/\.$/);
  const odds = shaky.criticism!.causes.reduce((s, c) => s + c.odds, 0);
  expect(odds).toBeLessThanOrEqual(1);
  const calm = recovered('assumed', 800, 9).cal;
  const doubt = (cal: typeof calm) =>
    mean(cal.parameters.filter((p) => p.what === 'gain').map((p) => p.standardError / p.value));
  expect(doubt(shaky)).toBeGreaterThan(1.4 * doubt(calm));
});

test('what would explain a reading is said: everything at full, ten times too much', () => {
  for (const [of, words] of [
    ['full', /everything was at full/],
    ['ten', /a digit slipped, ten times/],
  ] as const) {
    const { cal } = recovered('assumed', 700, 9, 1, of);
    const suspect = cal.residuals.find((r) => r.readingId === 'r1')!;
    expect(suspect.suspect).toBe(true);
    expect(suspect.fitsIf.join()).toMatch(words);
    expect(cal.residuals.find((r) => r.readingId === 'r0')!.fitsIf).toEqual([]);
  }
});
