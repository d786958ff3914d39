// npm run reckon: the core from the command line. It is bundled once and again whenever a source is newer, so that an answer waits for
// no compiler.
import { existsSync, readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { root } from './lib.mjs';

const bundle = join(root, 'node_modules/.cache/chromatheca/reckon.mjs');
const newest = (dir) =>
  Math.max(
    ...readdirSync(dir, { withFileTypes: true }).map((f) =>
      f.isDirectory() ? newest(join(dir, f.name)) : statSync(join(dir, f.name)).mtimeMs,
    ),
  );
const sources = ['src/core', 'cli', 'package-lock.json', 'scripts/reckon.mjs'].map((part) => join(root, part));
const fresh = (path) => (statSync(path).isDirectory() ? newest(path) : statSync(path).mtimeMs);
if (!existsSync(bundle) || statSync(bundle).mtimeMs <= Math.max(...sources.map(fresh))) {
  const { buildSync } = await import('esbuild');
  buildSync({
    entryPoints: [join(root, 'cli/reckon.ts')],
    outfile: bundle,
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    alias: { '@': join(root, 'src') },
    // what is not an ES module asks for its parts by `require`
    banner: { js: "import { createRequire } from 'node:module'; const require = createRequire(import.meta.url);" },
    logLevel: 'error',
  });
}
await import(pathToFileURL(bundle).href);
