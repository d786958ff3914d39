import { type Browser, chromium, type Page } from '@playwright/test';
import { execFileSync } from 'node:child_process';
import { cpSync, existsSync, mkdirSync, mkdtempSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

import { createApp } from '../server/app';
import { quantile } from './timing';

const ROUNDS = 5;
const root = join(__dirname, '..');

/** The smallest app of the framework, exported once: what nobody can be faster than. */
function bareApp(): string {
  const kept = join(tmpdir(), 'chromatheca-bare');
  if (existsSync(kept)) return kept;
  const dir = mkdtempSync(join(tmpdir(), 'bare-'));
  symlinkSync(join(root, 'node_modules'), join(dir, 'node_modules'));
  mkdirSync(join(dir, 'app'));
  writeFileSync(
    join(dir, 'app/index.js'),
    'import { Text } from \'react-native\';\nexport default () => <Text testID="now-umol">1</Text>;\n',
  );
  writeFileSync(join(dir, 'package.json'), '{"name":"bare","main":"expo-router/entry","version":"0.0.1"}');
  const expo = {
    name: 'bare',
    slug: 'bare',
    web: { bundler: 'metro', output: 'single' },
    plugins: ['expo-router'],
  };
  writeFileSync(join(dir, 'app.json'), JSON.stringify({ expo: { ...expo, scheme: 'bare' } }));
  execFileSync(
    join(root, 'node_modules/.bin/expo'),
    ['export', '--platform', 'web', '--output-dir', 'dist'],
    {
      cwd: dir,
      env: { ...process.env, EXPO_OFFLINE: '1', EXPO_NO_TELEMETRY: '1', CI: '1' },
      stdio: 'ignore',
    },
  );
  cpSync(join(dir, 'dist'), kept, { recursive: true });
  return kept;
}

interface Seen {
  paintMs: number;
  drawnMs: number;
  longestMs: number;
}

/** Opens an address with nothing kept, and waits for its figure. */
async function opened(browser: Browser, url: string, rate: number): Promise<Seen & { page: Page }> {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 }, deviceScaleFactor: 2 });
  const page = await context.newPage();
  await (await context.newCDPSession(page)).send('Emulation.setCPUThrottlingRate', { rate });
  await page.addInitScript(() => {
    const tasks: number[] = [];
    (globalThis as unknown as { tasks: number[] }).tasks = tasks;
    new PerformanceObserver((list) => list.getEntries().forEach((e) => tasks.push(e.duration))).observe({
      type: 'longtask',
      buffered: true,
    });
  });
  await page.goto(url, { waitUntil: 'commit' });
  await page.waitForFunction(
    () => /\d|Dark/.test(document.querySelector('[data-testid="now-umol"]')?.textContent ?? ''),
    null,
    { polling: 'raf' },
  );
  const drawnMs = await page.evaluate(() => performance.now());
  await page.waitForTimeout(700);
  const paintMs = await page.evaluate(
    () => performance.getEntriesByName('first-contentful-paint')[0]?.startTime ?? NaN,
  );
  return { page, paintMs, drawnMs, longestMs: await longest(page) };
}

/** The longest task since it was asked last, ms; what is under 50 ms counts as none. */
const longest = (page: Page): Promise<number> =>
  page.evaluate(() => {
    const { tasks } = globalThis as unknown as { tasks: number[] };
    return Math.max(0, ...tasks.splice(0));
  });

/** Entries of a log kept for ten years. */
const TEN_YEARS = 20_000;

/** From the tap on Log to its lines, with the demo's log and with one of ten years in its place. */
async function tenYears(url: string): Promise<void> {
  const browser = await chromium.launch({
    executablePath: process.env.CHROMIUM_PATH ?? '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-dev-shm-usage', '--disable-gpu'],
  });
  const page = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
  const took = async (): Promise<number> => {
    const times: number[] = [];
    for (let i = 0; i < ROUNDS; i += 1) {
      await page.goto(url);
      await page.getByTestId('now-umol').waitFor();
      await page.waitForTimeout(2500);
      if ((await page.getByText(/^Set aside/).count()) > 0) throw new Error('the log was not taken as it is');
      const began = await page.evaluate(() => performance.now());
      await page.getByRole('tab', { name: 'Log', exact: true }).click();
      await page.locator('[data-testid^="line-"]').first().waitFor();
      times.push((await page.evaluate(() => performance.now())) - began);
    }
    return quantile(times, 0.5);
  };
  const short = await took();
  await page.evaluate(async (count) => {
    const db = await new Promise<IDBDatabase>((resolve) => {
      const asked = indexedDB.open('chromatheca');
      asked.onsuccess = () => resolve(asked.result);
    });
    const store = db.transaction('entries', 'readwrite').objectStore('entries');
    const text = await new Promise<string>((resolve) => {
      const asked = store.get('log/demo') as IDBRequest<string>;
      asked.onsuccess = () => resolve(asked.result);
    });
    const log = JSON.parse(text) as { events: unknown[] };
    const first = Date.now() - 3650 * 86_400_000;
    for (let i = 0; i < count; i += 1)
      log.events.push({
        ...{ id: `old-${i}`, zoneId: 'demo-display', note: `entry ${i}`, kind: 'note' },
        atUtc: new Date(first + (i * 3650 * 86_400_000) / count).toISOString(),
      });
    await new Promise<void>((resolve) => {
      store.put(JSON.stringify(log), 'log/demo').onsuccess = () => resolve();
    });
    db.close();
  }, TEN_YEARS);
  const long = await took();
  console.log(
    `Log from Today: the demo's ${short.toFixed(0)} ms, ${TEN_YEARS} entries of ten years ${long.toFixed(0)} ms, ratio ${(long / short).toFixed(2)} (aim below 1000 ms)`,
  );
  await browser.close();
}

async function main(): Promise<void> {
  const serve = async (dir: string) => {
    const server = createApp(dir).listen(0, '127.0.0.1');
    await new Promise((resolve) => server.once('listening', resolve));
    return { server, url: `http://127.0.0.1:${(server.address() as { port: number }).port}/` };
  };
  const bare = await serve(bareApp());
  const ours = await serve(join(root, 'dist'));
  console.log(
    'opening Today on a phone-sized page from a cold cache, beside the smallest app of the framework',
  );
  for (const rate of [1, 4]) {
    const seen: { bare: Seen[]; ours: Seen[]; tabs: number[] } = { bare: [], ours: [], tabs: [] };
    for (let i = 0; i < ROUNDS; i += 1) {
      const browser = await chromium.launch({
        executablePath: process.env.CHROMIUM_PATH ?? '/usr/bin/chromium',
        // a page that is watched collects positions of its source as scripts begin, which no other page does
        args: [
          '--no-sandbox',
          '--disable-dev-shm-usage',
          '--disable-gpu',
          '--js-flags=--no-enable-lazy-source-positions',
        ],
      });
      seen.bare.push(await opened(browser, bare.url, rate));
      const today = await opened(browser, ours.url, rate);
      seen.ours.push(today);
      for (const place of ['Mix', 'Day', 'Tank', 'Log', 'Today']) {
        await today.page.getByRole('tab', { name: place, exact: true }).click();
        await today.page.getByTestId(place.toLowerCase()).waitFor();
        await today.page.waitForTimeout(600 * rate);
      }
      seen.tabs.push(await longest(today.page));
      await browser.close();
    }
    const median = (list: Seen[], of: keyof Seen) =>
      quantile(
        list.map((s) => s[of]),
        0.5,
      );
    const drawn = median(seen.ours, 'drawnMs');
    const paint = median(seen.bare, 'paintMs');
    console.log(
      [
        `CPU ${rate === 1 ? 'as it is' : `${rate} times slower`}:`,
        `Today drawn ${drawn.toFixed(0)} ms (first paint ${median(seen.ours, 'paintMs').toFixed(0)}),`,
        `bare app's first paint ${paint.toFixed(0)} ms, ratio ${(drawn / paint).toFixed(2)};`,
        `longest task: opening ${median(seen.ours, 'longestMs').toFixed(0)} ms, changing tabs ${quantile(seen.tabs, 0.5).toFixed(0)} ms`,
      ].join(' '),
    );
  }
  await tenYears(ours.url);
  for (const { server } of [bare, ours]) {
    server.close();
    server.closeAllConnections();
  }
}

void main();
