/**
 * A keeper's largest tank: 10 lamps of 8 channels, 80 corals, 20 000 entries, 500 sessions of readings, 2 000 pictures. Opening it, changing
 * places, an edit until it is stored, what stays in memory, and a backup of all of it; beside the demo in the same browser.
 */
import { chromium, type Page } from '@playwright/test';
import { statSync } from 'node:fs';
import { join } from 'node:path';

import type { CaseBundle } from '../src/core/record/documents';
import type { LogEvent } from '../src/core/record/log';
import type { Session } from '../src/core/record/readings';
import { plainSpot } from '../src/core/record/zone';
import { demoCase } from '../src/demo/lagoon';
import { createApp } from '../server/app';
import { quantile } from './timing';

const ROUNDS = Number(process.env.ROUNDS ?? 3);
const LAMPS = 10;
const CORALS = 80;
const ENTRIES = 20_000;
const SESSIONS = 500;
const PICTURES = 2_000;
const PICTURE_BYTES = 150_000;
const NOW = new Date('2026-11-24T14:40:00Z');
const DAY_MS = 86_400_000;
const root = join(__dirname, '..');

/** The demo's display, grown: its lamp ten times over a long tank, corals on two levels, ten years of records. */
function large(): CaseBundle {
  const bundle = demoCase(NOW.getTime(), 'Europe/Berlin');
  const [display, ...rest] = bundle.case.zones;
  const tank = { ...display!.tank, lengthCm: 300, widthCm: 90 };
  const [group] = display!.groups;
  const zone = {
    ...display!,
    tank,
    experiments: [],
    groups: [
      {
        ...group!,
        lamps: Array.from({ length: LAMPS }, (_, i) => ({
          ...group!.lamps[0]!,
          id: `lamp-${i}`,
          name: `lamp ${i + 1}`,
          xCm: 30 + 60 * (i % 5),
          yCm: i < 5 ? 25 : 65,
        })),
      },
    ],
    spots: [
      ...display!.spots,
      ...Array.from({ length: CORALS - display!.spots.length }, (_, i) =>
        plainSpot({
          id: `coral-${i}`,
          name: `Coral ${i + 6}`,
          xCm: 10 + (280 * (i % 15)) / 14,
          yCm: 12 + 16 * Math.floor(i / 15),
          depthCm: i % 2 === 0 ? 18 : 34,
          need: i % 3 === 0 ? 'soft' : i % 3 === 1 ? 'largePolyp' : 'smallPolyp',
          formId: display!.spots[i % display!.spots.length]!.formId,
        }),
      ),
    ],
  };
  const first = NOW.getTime() - 3650 * DAY_MS;
  const at = (i: number, of: number) => new Date(first + (i * 3640 * DAY_MS) / of).toISOString();
  const notes = Array.from({ length: ENTRIES - PICTURES }, (_, i): LogEvent => ({
    ...{ id: `old-${i}`, zoneId: zone.id, note: `entry ${i}`, kind: 'note' },
    atUtc: at(i, ENTRIES),
  }));
  const pictures = Array.from({ length: PICTURES }, (_, i): LogEvent => ({
    ...{ id: `picture-${i}`, zoneId: zone.id, note: '', kind: 'photo', lit: '' },
    ...{ widthPx: 800, heightPx: 600, bytes: 100_000, spotId: zone.spots[i % CORALS]!.id },
    atUtc: at(i, PICTURES),
  }));
  const sessions = Array.from({ length: SESSIONS }, (_, i): Session => ({
    ...{ id: `session-${i}`, zoneId: zone.id, name: `Evening ${i + 1}`, atUtc: at(i, SESSIONS) },
    meter: { kind: 'ideal', immersionFactor: 1, sensorAboveCm: 0, simulated: false },
    ...{ pumpsOn: false, lit: 'everything full', counts: i >= SESSIONS - 2, rig: null },
    readings: [0, 1, 2].map((k) => {
      const { id, name, xCm, yCm, depthCm, openShare } = zone.spots[(i + k) % CORALS]!;
      return {
        ...{
          id: `reading-${i}-${k}`,
          spotId: id,
          name,
          xCm,
          yCm,
          depthCm,
          openShare,
          atUtc: at(i, SESSIONS),
        },
        ...{ tries: [200 + k], bands: null },
        levels: { [group!.id]: Object.fromEntries(bundle.case.lampKinds[0]!.channels.map((c) => [c.id, 1])) },
      };
    }),
  }));
  return {
    ...bundle,
    case: { ...bundle.case, zones: [zone, ...rest] },
    log: { ...bundle.log, events: [...bundle.log.events, ...notes, ...pictures] },
    readings: { ...bundle.readings, sessions: [...bundle.readings.sessions, ...sessions] },
  };
}

interface HeapUsage {
  usedSize: number;
  backingStorageSize?: number;
}

/** What scripts hold in the page and in its workers once what nobody needs is let go: objects and arrays of numbers, MB. */
async function memoryMB(page: Page): Promise<number> {
  const client = await page.context().newCDPSession(page);
  const asked = ['HeapProfiler.collectGarbage', 'Runtime.getHeapUsage'] as const;
  const held = ({ usedSize, backingStorageSize = 0 }: HeapUsage) => (usedSize + backingStorageSize) / 1e6;
  let sum = 0;
  const heard = new Promise<void>((resolve) => {
    client.on('Target.receivedMessageFromTarget', ({ message }) => {
      const { id, result } = JSON.parse(message) as { id: number; result: HeapUsage };
      if (asked[id] !== 'Runtime.getHeapUsage') return;
      sum += held(result);
      resolve();
    });
  });
  client.on('Target.attachedToTarget', ({ sessionId }) => {
    asked.forEach((method, id) => {
      const message = JSON.stringify({ id, method });
      void client.send('Target.sendMessageToTarget', { sessionId, message });
    });
  });
  await client.send('Target.setAutoAttach', { autoAttach: true, waitForDebuggerOnStart: false });
  await Promise.race([heard, new Promise((resolve) => setTimeout(resolve, 5000))]);
  await client.send('HeapProfiler.collectGarbage');
  sum += held(await client.send('Runtime.getHeapUsage'));
  await client.detach();
  return sum;
}

async function main(): Promise<void> {
  const server = createApp(join(root, 'dist')).listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  const url = `http://127.0.0.1:${(server.address() as { port: number }).port}/`;
  const browser = await chromium.launch({
    executablePath: process.env.CHROMIUM_PATH ?? '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-dev-shm-usage', '--disable-gpu'],
  });
  const page = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
  await page.clock.setFixedTime(NOW);
  /** From a press in the page until what it leads to stands there and has been drawn, ms. */
  const pressed = (role: string, name: string, testID: string): Promise<number> =>
    page.evaluate(
      async ([of, called, wanted]) => {
        const key = [...document.querySelectorAll<HTMLElement>(`[role=${of}]`)].find(
          (e) => e.textContent === called && e.offsetParent !== null,
        )!;
        const began = globalThis.performance.now();
        key.click();
        do await new Promise((resolve) => requestAnimationFrame(resolve));
        while (!document.querySelector<HTMLElement>(`[data-testid=${wanted}]`)?.offsetParent);
        await new Promise((resolve) => requestAnimationFrame(resolve));
        return globalThis.performance.now() - began;
      },
      [role, name, testID] as const,
    );

  /** From the key or the press that keeps something until the sign says that it is stored, ms, as the page itself saw it. */
  const stored = async (keep: () => Promise<void>): Promise<number> => {
    await page.evaluate(() => {
      const marks = globalThis as unknown as { kept: Promise<number> };
      marks.kept = new Promise((resolve) => {
        let [began, wrote] = [0, false];
        for (const type of ['keydown', 'pointerdown'])
          addEventListener(type, () => (began ||= performance.now()), { capture: true, once: true });
        new MutationObserver((_, self) => {
          const sign = document.querySelector('[data-testid="save-sign"]')?.textContent;
          wrote ||= began > 0 && sign !== 'Saved';
          if (!wrote || sign !== 'Saved') return;
          self.disconnect();
          resolve(performance.now() - began);
        }).observe(document.body, { subtree: true, childList: true, characterData: true });
      });
    });
    await keep();
    return page.evaluate(() => (globalThis as unknown as { kept: Promise<number> }).kept);
  };

  const measured = async (name: string): Promise<Record<string, number>> => {
    const times: Record<string, number[]> = {};
    const note = (what: string, ms: number) => (times[what] ??= []).push(ms);
    for (let i = 0; i < ROUNDS; i += 1) {
      const opened = performance.now();
      await page.goto(url, { waitUntil: 'commit' });
      await page.waitForFunction(
        () => /\d/.test(document.querySelector('[data-testid="now-umol"]')?.textContent ?? ''),
        null,
        { polling: 'raf', timeout: 120_000 },
      );
      note('open', performance.now() - opened);
      await page.waitForTimeout(4000);
      if ((await page.getByText(/^Set aside/).count()) > 0)
        throw new Error('the case was not taken as it is');
      for (const place of ['Mix', 'Day', 'Tank', 'Log', 'Today']) {
        note(place, await pressed('tab', place, place.toLowerCase()));
        await page.waitForTimeout(2500);
      }
      await page.getByTestId('today-carbon').click();
      await page.getByTestId('keep-event').waitFor();
      note('entry to stored', await stored(() => page.getByTestId('keep-event').click()));
      await page.getByRole('tab', { name: 'Day', exact: true }).click();
      await page.getByTestId('cap').waitFor();
      await page.waitForTimeout(1500);
      await page.getByTestId('cap').fill(String(60 + i));
      note('edit to stored', await stored(() => page.getByTestId('cap').press('Enter')));
    }
    const out = Object.fromEntries(Object.entries(times).map(([k, list]) => [k, quantile(list, 0.5)]));
    out['memory MB'] = await memoryMB(page);
    console.log(
      `${name}: ${Object.entries(out)
        .map(([k, value]) => `${k} ${value.toFixed(0)}`)
        .join(', ')}`,
    );
    return out;
  };

  const small = await measured('demo (ms)');
  const bundle = large();
  await page.evaluate(
    async (texts) => {
      const db = await new Promise<IDBDatabase>((resolve) => {
        const asked = indexedDB.open('chromatheca');
        asked.onsuccess = () => resolve(asked.result);
      });
      const write = db.transaction('entries', 'readwrite');
      for (const [key, text] of texts) write.objectStore('entries').put(text, key);
      await new Promise<void>((resolve) => (write.oncomplete = () => resolve()));
      db.close();
    },
    Object.entries(bundle).map(([part, doc]): [string, string] => [
      `${part}/${bundle.case.id}`,
      JSON.stringify(doc),
    ]),
  );
  const big = await measured('largest (ms)');
  for (const what of Object.keys(big))
    console.log(`  ${what}: ${(big[what]! / small[what]!).toFixed(2)} × the demo's`);
  await page.evaluate(
    async ({ count, bytes }) => {
      const db = await new Promise<IDBDatabase>((resolve) => {
        const asked = indexedDB.open('chromatheca-photos', 2);
        // as the app makes it the first time a picture is asked for
        asked.onupgradeneeded = () => asked.result.createObjectStore('photos').createIndex('case', 'caseId');
        asked.onsuccess = () => resolve(asked.result);
      });
      for (let i = 0; i < count; i += 1) {
        const noise = new Uint8Array(bytes);
        for (let at = 0; at < bytes; at += 65_536) crypto.getRandomValues(noise.subarray(at, at + 65_536));
        const write = db.transaction('photos', 'readwrite');
        write.objectStore('photos').put({ blob: new Blob([noise]), caseId: 'demo' }, `picture-${i}`);
        await new Promise<void>((resolve) => (write.oncomplete = () => resolve()));
      }
      db.close();
    },
    { count: PICTURES, bytes: PICTURE_BYTES },
  );
  await page.goto(`${url}case`);
  await page.getByTestId('backup-make').scrollIntoViewIfNeeded();
  const began = performance.now();
  const [made] = await Promise.all([
    page.waitForEvent('download', { timeout: 300_000 }),
    page.getByTestId('backup-make').click(),
  ]);
  const seconds = (performance.now() - began) / 1000;
  const packed = statSync(await made.path()).size / 1e6;
  const held = await memoryMB(page);
  console.log(
    `backup of it with ${PICTURES} pictures: ${packed.toFixed(0)} MB in ${seconds.toFixed(1)} s, page and worker hold ${held.toFixed(0)} MB after it`,
  );
  await browser.close();
  server.close();
  server.closeAllConnections();
}

void main();
