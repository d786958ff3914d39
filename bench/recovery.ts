/** Hides truths, reads them, and counts how often the band of the calibration holds corals that were never read. */
import { recovered, SCENARIOS } from '../src/core/fixtures/recovery';

const SEEDS = Number(process.env.SEEDS ?? 200);
const READINGS = [3, 9] as const;

console.log(`\nhide and recover, ${SEEDS} truths a row: held, mean half width, mean error, %`);
for (const scenario of Object.keys(SCENARIOS)) {
  const cells = READINGS.map((readings) => {
    let [inside, all, width, error] = [0, 0, 0, 0];
    for (let seed = 1; seed <= SEEDS; seed += 1) {
      const r = recovered(scenario, seed, readings);
      inside += r.inside;
      all += r.all;
      width += r.width;
      error += r.error;
    }
    const of = (v: number) => Math.round((100 * v) / SEEDS);
    return `${Math.round((100 * inside) / all)}, ${of(width)}, ${of(error)}`;
  });
  console.log(`| ${scenario} | ${cells.join(' | ')} |`);
}
