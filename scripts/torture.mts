/**
 * Kills the browser in the middle of work, again and again, and looks at what is left. Run by hand:
 *
 *   npm run torture -- --kills 1000 --seed 1
 *   npm run torture -- --kills 100 --entries 1500
 *
 * Each round types a cap, or with a log of so many entries logs one more, waits a moment of chance, and ends the page: by SIGKILL of the whole browser, a crash of its page, a reload,
 * closing it, or a blank page and back. What was called saved has to be there afterwards; what was in flight may be. A notice that
 * something was set aside where nothing was lost counts as a false alarm.
 */
import { type Browser, chromium, type Page } from '@playwright/test';
import { type ChildProcess, spawn } from 'node:child_process';
import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

import { createApp } from '../server/app';
import { ensureChromium, ensureExport, root } from './lib.mjs';

const arg = (name: string, otherwise: number): number => {
  const at = process.argv.indexOf(`--${name}`);
  return at < 0 ? otherwise : Number(process.argv[at + 1]);
};
const kills = arg('kills', 1000);
const entries = arg('entries', 0);
let state = arg('seed', 1);
const random = (): number => (state = (state * 48271) % 2147483647) / 2147483647;
const WAYS = ['SIGKILL', 'crash', 'reload', 'close', 'blank and back'] as const;
const LONGEST_WAIT_MS = 600;
const DEBUG_PORT = 9333;

await ensureExport();
const executable = await ensureChromium();
// a copy, so that what is built meanwhile changes nothing
const profile = mkdtempSync(join(tmpdir(), 'torture-'));
const served = join(profile, 'dist');
cpSync(join(root, 'dist'), served, { recursive: true });
const server = createApp(served).listen(0, '127.0.0.1');
await new Promise((resolve) => server.once('listening', resolve));
const url = `http://127.0.0.1:${(server.address() as { port: number }).port}/${entries > 0 ? '' : 'day'}`;

let child: ChildProcess;
let browser: Browser;
async function start(): Promise<void> {
  child = spawn(
    executable,
    [
      ...['--headless', '--no-sandbox', '--disable-gpu', '--disable-dev-shm-usage', '--no-first-run'],
      `--user-data-dir=${join(profile, 'browser')}`,
      `--remote-debugging-port=${DEBUG_PORT}`,
      'about:blank',
    ],
    // a group of its own, which is killed as one: renderers whose browser is gone would go on drawing
    { stdio: 'ignore', detached: true },
  );
  for (let i = 0; ; i += 1) {
    try {
      browser = await chromium.connectOverCDP(`http://127.0.0.1:${DEBUG_PORT}`);
      return;
    } catch (error) {
      if (i > 100) throw error;
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
  }
}
const opened = async (): Promise<Page> => {
  const context = browser.contexts()[0]!;
  const page = await context.newPage();
  await page.goto(url);
  return page;
};
/** How many texts lie aside in the store, and how many entries its log has; `fill` makes it one of so many. */
const look = async (fill = 0): Promise<{ aside: number; events: number }> => {
  const db = await new Promise<IDBDatabase>((resolve, reject) => {
    const asked = indexedDB.open('chromatheca');
    asked.onsuccess = () => resolve(asked.result);
    asked.onerror = () => reject(new Error('the store does not open'));
  });
  const store = db.transaction('entries', 'readwrite').objectStore('entries');
  const [keys, logged, behind] = (await Promise.all(
    [store.getAllKeys(), store.get('log/demo'), store.get('later/demo')].map(
      (asked: IDBRequest<unknown>) =>
        new Promise((resolve, reject) => {
          asked.onsuccess = () => resolve(asked.result);
          asked.onerror = () => reject(new Error('it cannot be read'));
        }),
    ),
  )) as [IDBValidKey[], string, string | undefined];
  const log = JSON.parse(logged) as { events: object[] };
  const later = JSON.parse(behind ?? '[]') as object[];
  for (let n = 0; n < fill; n += 1)
    log.events.unshift({ ...log.events.at(-1), id: `n${n}`, kind: 'note', note: 'n' });
  if (fill > 0) store.put(JSON.stringify(log), 'log/demo');
  db.close();
  return {
    aside: keys.filter((k) => String(k).startsWith('aside/')).length,
    events: log.events.length + later.length,
  };
};
/** Whether the last change is done and called saved. */
const saysSaved = (typed: string): boolean => {
  const [cap, keep, sign] = ['cap', 'keep-event', 'save-sign'].map((id) =>
    document.querySelector<HTMLInputElement>(`[data-testid="${id}"]`),
  );
  return (cap ? cap.value === typed : !keep) && sign?.textContent === 'Saved';
};
/** What a round makes, and what is there of it. */
const rounds =
  entries > 0
    ? {
        next: (now: number) => now + 1,
        make: async () => {
          await page.getByTestId('today-care').click();
          await page.getByTestId('keep-event').click();
        },
        there: async () => {
          await page.getByTestId('today-care').waitFor({ timeout: 20_000 });
          return (await page.evaluate(look, 0)).events;
        },
      }
    : {
        next: () => 20 + Math.floor(random() * 60),
        make: async (next: number) => {
          await page.getByTestId('cap').fill(String(next));
          await page.getByTestId('cap').press('Enter');
        },
        there: async () => Number(await page.getByTestId('cap').inputValue({ timeout: 20_000 })),
      };

await start();
let page = await opened();
const tally = { rounds: 0, lost: 0, keptInFlight: 0, lostInFlight: 0, falseAlarms: 0, notStarted: 0 };
if (entries > 0) {
  await page.getByTestId('today-care').waitFor();
  await page.evaluate(look, entries);
  await page.reload();
}
let saved = await rounds.there();
for (let i = 0; i < kills; i += 1) {
  const way = WAYS[Math.floor(random() * WAYS.length)]!;
  const next = rounds.next(saved);
  await rounds.make(next);
  await new Promise((resolve) => setTimeout(resolve, random() * LONGEST_WAIT_MS));
  // only what is called saved for this value counts as promised
  const promised = await page.evaluate(saysSaved, String(next)).catch(() => false);
  if (promised) saved = next;
  if (way === 'SIGKILL') {
    process.kill(-child!.pid!, 'SIGKILL');
    await new Promise((resolve) => child!.once('exit', resolve));
    await browser!.close().catch(() => undefined);
    await start();
    page = await opened();
  } else if (way === 'crash') {
    await page.goto('chrome://crash').catch(() => undefined);
    // what crashed is closed, or its renderers add up
    await page.close().catch(() => undefined);
    page = await opened();
  } else if (way === 'reload') await page.reload();
  else if (way === 'close') {
    await page.close();
    page = await opened();
  } else {
    await page.goto('about:blank');
    await page.goBack();
  }
  const there = await rounds.there().catch(() => NaN);
  tally.rounds += 1;
  if (Number.isNaN(there)) tally.notStarted += 1;
  else if (promised ? there !== next : there !== next && there !== saved) tally.lost += 1;
  else if (!promised) tally[there === next ? 'keptInFlight' : 'lostInFlight'] += 1;
  // it stays until it is dropped: each is counted once
  tally.falseAlarms = (await page.evaluate(look, 0)).aside;
  if (!Number.isNaN(there)) saved = there;
  else page = await opened();
  if ((i + 1) % 20 === 0) console.log(`${i + 1} of ${kills}: ${JSON.stringify(tally)}`);
}
console.log(JSON.stringify(tally));
await browser!.close().catch(() => undefined);
process.kill(-child!.pid!, 'SIGKILL');
server.close();
server.closeAllConnections();
rmSync(profile, { recursive: true, force: true });
process.exit(tally.lost + tally.notStarted > 0 ? 1 : 0);
