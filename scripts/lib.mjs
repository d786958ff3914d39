// Shared by the demo, dev, test and bench scripts. Plain Node: it must run before anything is installed.
import { spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = join(dirname(fileURLToPath(import.meta.url)), '..');
export const offlineEnv = { EXPO_OFFLINE: '1', EXPO_NO_TELEMETRY: '1', CI: '1' };

/** Runs a program to its end and resolves with its exit code; output goes to this terminal. */
export function run(command, args, { env = {}, quiet = false } = {}) {
  return new Promise((resolve) => {
    const child = spawn(command, args, {
      cwd: root,
      env: { ...process.env, ...env },
      stdio: ['ignore', quiet ? 'ignore' : 'inherit', 'inherit'],
    });
    child.on('error', (error) => {
      console.error(`${command}: ${error.message}`);
      resolve(127);
    });
    child.on('close', (code, signal) => resolve(code ?? (signal ? 1 : 0)));
  });
}

export const bin = (name) => join(root, 'node_modules/.bin', name);

/** Installs the packages of package-lock.json when they are missing or older than the lock. */
export async function ensurePackages() {
  const stamp = join(root, 'node_modules/.installed-lock');
  const lock = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  console.log('Installing packages (npm ci) …');
  const code = await run('npm', ['ci', '--no-audit', '--no-fund']);
  if (code !== 0)
    throw new Error(`npm ci ended with ${code}. Check that the npm registry can be reached, then run again.`);
  writeFileSync(stamp, lock);
}

/**
 * Debian's headless Chromium, which takes a third less time than the whole browser; that one is wanted besides it for what only a browser
 * with windows does (e2e/back.spec.ts), and stands in where it is alone.
 */
const BROWSERS = {
  'chromium-headless-shell': '/usr/bin/chromium-headless-shell',
  chromium: '/usr/bin/chromium',
};

/** Finds Chromium or installs Debian's; resolves with its path. */
export async function ensureChromium() {
  if (process.env.CHROMIUM_PATH) return process.env.CHROMIUM_PATH;
  const missing = Object.keys(BROWSERS).filter((name) => !existsSync(BROWSERS[name]));
  if (missing.length > 0) {
    console.log('Installing Chromium (apt-get) …');
    await run('apt-get', ['update'], { quiet: true });
    for (const name of missing)
      await run('apt-get', ['install', '-y', '--no-install-recommends', name], { quiet: true });
  }
  const path = Object.values(BROWSERS).find((p) => existsSync(p));
  if (!path)
    throw new Error('Chromium could not be installed. Install it by hand and set CHROMIUM_PATH to its path.');
  return path;
}

function sourceHash() {
  const hash = createHash('sha256');
  const visit = (path) => {
    if (statSync(path).isDirectory()) {
      for (const name of readdirSync(path).sort()) visit(join(path, name));
    } else if (!/\.test\.tsx?$/.test(path)) {
      hash.update(path.slice(root.length)).update(readFileSync(path));
    }
  };
  for (const part of [
    'src',
    'narrow',
    'public',
    'index.ts',
    'app.json',
    'metro.config.js',
    'package-lock.json',
    'tsconfig.json',
  ]) {
    if (existsSync(join(root, part))) visit(join(root, part));
  }
  return hash.digest('hex');
}

/** Builds the web export into dist/ unless it already belongs to these sources. */
export async function ensureExport() {
  const stamp = join(root, 'dist/.sources');
  const hash = sourceHash();
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === hash) return;
  console.log('Building the web export (one to three minutes the first time) …');
  const code = await run(bin('expo'), ['export', '--platform', 'web', '--output-dir', 'dist'], {
    env: offlineEnv,
  });
  if (code !== 0) throw new Error(`The export ended with ${code}.`);
  await precache();
  writeFileSync(stamp, hash);
}

/** A worker that keeps the whole app on the device: files by their hash, the page for every place, nothing of the server's answers. */
async function precache() {
  const { generateSW } = await import('workbox-build');
  const { warnings } = await generateSW({
    globDirectory: join(root, 'dist'),
    globPatterns: ['index.html', 'manifest.webmanifest', 'icon-*.png', '_expo/**/*.js', 'assets/**/*'],
    swDest: join(root, 'dist/sw.js'),
    // what has a hash in its name needs no other sign of its version
    dontCacheBustURLsMatching: /-[0-9a-f]{32}\.|\.[0-9a-f]{32}\./,
    maximumFileSizeToCacheInBytes: 8_000_000,
    inlineWorkboxRuntime: true,
    sourcemap: false,
    navigateFallback: '/index.html',
    navigateFallbackDenylist: [/^\/api\//],
    cleanupOutdatedCaches: true,
    clientsClaim: true,
    skipWaiting: false,
  });
  for (const warning of warnings) console.warn(warning);
}
