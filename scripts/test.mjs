// npm test: types, lint with layer rules, unit tests, end-to-end tests; the last line counts over all runners.
import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { bin, ensureChromium, ensureExport, ensurePackages, offlineEnv, root, run } from './lib.mjs';

let passed = 0;
let failed = 0;
const results = join(root, 'test-results');

async function step(name, work) {
  console.log(`\n== ${name}`);
  const began = performance.now();
  let counts;
  try {
    counts = await work();
  } catch (error) {
    console.error(error.message);
    counts = { passed: 0, failed: 1 };
  }
  passed += counts.passed;
  failed += counts.failed;
  console.log(
    `== ${name}: ${counts.passed} passed, ${counts.failed} failed in ${Math.round((performance.now() - began) / 1000)} s`,
  );
}
const asCount = (code) => ({ passed: code === 0 ? 1 : 0, failed: code === 0 ? 0 : 1 });

/** Counts from a JSON report. A runner that failed without naming a failed test, or ran none, counts as one failure. */
function counted(code, file, read) {
  const counts = read(JSON.parse(readFileSync(join(results, file), 'utf8')));
  if ((code !== 0 || counts.passed === 0) && counts.failed === 0) counts.failed = 1;
  return counts;
}

try {
  const [chromium] = await Promise.all([ensureChromium(), ensurePackages()]);
  rmSync(results, { recursive: true, force: true });
  mkdirSync(results, { recursive: true });

  // each lane has one core: helper threads that compile and collect beside it would take the other lane's. What a test makes dies
  // young: with room for it the collector takes a tenth less of the time
  const lone = (name, args, options) =>
    run(process.execPath, ['--single-threaded', '--max-semi-space-size=64', bin(name), ...args], options);
  const jest = (project) => async () => {
    const file = `unit-${project}.json`;
    const code = await lone('jest', [
      '--selectProjects',
      project,
      '--json',
      `--outputFile=test-results/${file}`,
      '--silent',
    ]);
    return counted(code, file, (report) => ({
      passed: report.numPassedTests,
      failed: report.numFailedTests + report.numRuntimeErrorTestSuites,
    }));
  };
  // two lanes, a core each: whichever is free takes the next, the longest first
  const waiting = [
    ['unit tests of the interface', jest('ui')],
    ['unit tests without an interface', jest('node')],
    ['lint', async () => asCount(await lone('eslint', ['.', '--max-warnings', '0']))],
    [
      'build',
      async () => {
        await ensureExport();
        return { passed: 1, failed: 0 };
      },
    ],
    ['types', async () => asCount(await lone('tsc', ['--noEmit']))],
  ];
  await run(bin('expo'), ['customize', 'tsconfig.json'], { env: offlineEnv, quiet: true });
  const lane = async () => {
    for (let next = waiting.shift(); next; next = waiting.shift()) await step(...next);
  };
  await Promise.all([lane(), lane()]);
  await step('end to end', async () => {
    const code = await lone('playwright', ['test'], { env: { CHROMIUM_PATH: chromium } });
    return counted(code, 'e2e.json', ({ stats }) => ({
      passed: stats.expected + stats.flaky,
      failed: stats.unexpected,
    }));
  });
} catch (error) {
  console.error(error.message);
  failed += 1;
}
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
