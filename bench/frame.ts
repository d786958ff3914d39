import { chromium, type Page } from '@playwright/test';
import { join } from 'node:path';

import { createApp } from '../server/app';
import { quantile } from './timing';

/** A frame at 60 Hz. */
const FRAME_MS = 1000 / 60;
const MOVES = 240;
/** Until the painted frame, and the part of it before the frame callback: script and nothing else. */
type Sample = [drawnMs: number, scriptMs: number];

/** Records for every pointer move how long it takes until its frame has been drawn. */
async function watch(page: Page): Promise<void> {
  await page.evaluate(() => {
    const samples: [drawnMs: number, scriptMs: number][] = [];
    (globalThis as unknown as { samples: typeof samples }).samples = samples;
    let waiting = false;
    const channel = new MessageChannel();
    let began = 0;
    let script = 0;
    channel.port1.onmessage = () => {
      samples.push([performance.now() - began, script]);
      waiting = false;
    };
    addEventListener(
      'pointermove',
      () => {
        if (waiting) return;
        waiting = true;
        began = performance.now();
        // a task posted from the frame callback runs once that frame is painted
        requestAnimationFrame(() => {
          script = performance.now() - began;
          channel.port2.postMessage(null);
        });
      },
      { capture: true },
    );
  });
}

async function measure(
  page: Page,
  from: { x: number; y: number },
  move: (i: number) => { x: number; y: number },
): Promise<Sample[]> {
  const client = await page.context().newCDPSession(page);
  const send = (type: 'touchStart' | 'touchMove' | 'touchEnd', touchPoints: { x: number; y: number }[]) =>
    client.send('Input.dispatchTouchEvent', { type, touchPoints });
  await page.evaluate(() => ((globalThis as unknown as { samples: Sample[] }).samples.length = 0));
  await send('touchStart', [from]);
  for (let i = 1; i <= MOVES; i += 1) await send('touchMove', [move(i)]);
  await send('touchEnd', []);
  await client.detach();
  await page.waitForTimeout(200);
  return page.evaluate(() => [...(globalThis as unknown as { samples: Sample[] }).samples]);
}

const line = (name: string, samples: Sample[], idle: Sample[]) => {
  const drawn = samples.map((s) => s[0]);
  const script = samples.map((s) => s[1]);
  const p95 = quantile(drawn, 0.95);
  console.log(
    [
      name.padEnd(20),
      `drawn: median ${quantile(drawn, 0.5).toFixed(1)} ms, 95th percentile ${p95.toFixed(1)} ms`,
      `(${(p95 / FRAME_MS).toFixed(2)} of a frame, ${(
        quantile(drawn, 0.5) /
        quantile(
          idle.map((s) => s[0]),
          0.5,
        )
      ).toFixed(1)} × untouched at the median);`,
      `script alone: median ${quantile(script, 0.5).toFixed(1)} ms, 95th percentile ${quantile(script, 0.95).toFixed(1)} ms; ${samples.length} frames`,
    ].join(' '),
  );
};

/** In the page: how long the chart says that its field is being computed. */
const FIELD_SETTLED = `new Promise((resolve) => {
  let began = 0;
  const look = () => {
    const busy = document.querySelector('[data-testid="field-progress"]') !== null;
    if (busy && began === 0) began = performance.now();
    if (!busy && began > 0) resolve(performance.now() - began);
    else requestAnimationFrame(look);
  };
  look();
})`;

async function main(): Promise<void> {
  const server = createApp(join(__dirname, '../dist')).listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  const { port } = server.address() as { port: number };
  const browser = await chromium.launch({
    executablePath: process.env.CHROMIUM_PATH ?? '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-dev-shm-usage', '--disable-gpu'],
  });
  const context = await browser.newContext({
    viewport: { width: 390, height: 844 },
    hasTouch: true,
    isMobile: true,
    deviceScaleFactor: 2,
  });
  const page = await context.newPage();
  console.log('frame, phone size, headless software rendering: from the pointer move to the painted frame');

  await page.goto(`http://127.0.0.1:${port}/mix`);
  await page.getByTestId('figures').waitFor();
  await page.waitForTimeout(800);
  await watch(page);
  const idle = await measure(page, { x: 200, y: 20 }, (i) => ({ x: 200 + (i % 40), y: 20 }));
  line('untouched page', idle, idle);
  const comb = (await page.getByTestId('comb').boundingBox())!;
  const grip = (await page.getByRole('slider', { name: /^Royal blue/ }).boundingBox())!;
  const start = { x: grip.x + 22, y: comb.y + comb.height / 2 };
  line(
    'a pull on the comb',
    await measure(page, start, (i) => ({ x: start.x, y: start.y + 60 * Math.sin(i / 12) })),
    idle,
  );

  await page.getByRole('tab', { name: 'Day', exact: true }).tap();
  await page.getByTestId('thread-14:05').waitFor();
  await page.waitForTimeout(500);
  const handle = (await page.getByTestId('thread-14:05').boundingBox())!;
  const hold = { x: handle.x + 20, y: handle.y + 20 };
  line(
    'a pull on a thread',
    await measure(page, hold, (i) => ({ x: hold.x, y: hold.y + 30 + 30 * Math.sin(i / 12) })),
    idle,
  );

  await page.getByRole('tab', { name: 'Tank', exact: true }).tap();
  await page.getByTestId('sounding-top').waitFor();
  await page.waitForTimeout(500);
  const mark = (await page.getByTestId('mark-top-Moss branch').boundingBox())!;
  const coral = { x: mark.x + 22, y: mark.y + 22 };
  line(
    'a coral on the chart',
    await measure(page, coral, (i) => ({
      x: coral.x + 50 * Math.sin(i / 12),
      y: coral.y + 10 * Math.sin(i / 9),
    })),
    idle,
  );
  // a lamp moved by a key: the field of 60 × 24 × 10 cells anew, in the worker
  const fields: number[] = [];
  for (let i = 0; i < 6; i += 1) {
    await page.getByTestId('mark-top-left').focus();
    const settled = page.evaluate<number>(FIELD_SETTLED);
    await page.keyboard.press('ArrowRight');
    fields.push(await settled);
  }
  console.log(
    `field in the worker, 96 emitters, 60 × 24 × 10 cells, from asking to drawn: first ${fields[0]!.toFixed(0)} ms, then median ${quantile(fields.slice(1), 0.5).toFixed(0)} ms (aim 500)`,
  );

  // the richest lamp of the library, hung beside the demo's own
  await page.goto(`http://127.0.0.1:${port}/lamps`);
  await page.getByRole('button', { name: 'Open Full-spectrum nine-channel panel' }).tap();
  await page.getByTestId('hang-it').tap();
  await page.getByTestId('figures').waitFor();
  await page.waitForTimeout(800);
  await watch(page);
  await page.getByTestId('comb').scrollIntoViewIfNeeded();
  const rich = (await page.getByRole('slider', { name: /^Royal blue/ }).boundingBox())!;
  const from = { x: rich.x + 22, y: rich.y + 22 };
  line(
    'nine channels, two groups',
    await measure(page, from, (i) => ({ x: from.x, y: from.y + 60 * Math.sin(i / 12) })),
    idle,
  );

  await browser.close();
  server.close();
  server.closeAllConnections();
}

void main();
