// npm run bench: the core beside naive references, and the time from a pull to the drawn frame.
import { bin, ensureChromium, ensureExport, ensurePackages, run } from './lib.mjs';

await ensurePackages();
const chromium = await ensureChromium();
await ensureExport();
const codes = [
  await run(bin('tsx'), ['bench/core.ts']),
  await run(bin('tsx'), ['bench/field.ts']),
  await run(bin('tsx'), ['bench/recovery.ts']),
  await run(bin('tsx'), ['bench/frame.ts'], { env: { CHROMIUM_PATH: chromium } }),
  await run(bin('tsx'), ['bench/opening.ts'], { env: { CHROMIUM_PATH: chromium } }),
  await run(bin('tsx'), ['bench/size.ts'], { env: { CHROMIUM_PATH: chromium } }),
];
process.exit(codes.find((code) => code !== 0) ?? 0);
