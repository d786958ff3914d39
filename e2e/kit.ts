import { type BrowserContext, test as base, expect, type Locator, type Page } from '@playwright/test';

import { PORTS } from './ports';

/** The context this worker's tests share, one after the other. */
let kept: BrowserContext | undefined;

/** A context like that of a device used for the first time, but for scripts and pictures, which are the same for every test. */
async function emptied(context: BrowserContext, origin: string): Promise<void> {
  await context.clearPermissions();
  const page = await context.newPage();
  const client = await context.newCDPSession(page);
  await client.send('Storage.clearDataForOrigin', { origin, storageTypes: 'local_storage' });
  await client.send('IndexedDB.enable');
  await page.goto(`${origin}/api/health`);
  const { databaseNames } = await client.send('IndexedDB.requestDatabaseNames', { securityOrigin: origin });
  for (const databaseName of databaseNames.filter((name) => name !== 'chromatheca-made'))
    await client.send('IndexedDB.deleteDatabase', { securityOrigin: origin, databaseName });
  await page.close();
}

/** Every test fails on a request that leaves the origin, on a page error and on an error in the console. */
export const test = base.extend<{ calm: string[]; quiet: boolean; cold: boolean; pictures: boolean }>({
  // what is fetched in quiet moments is tested by itself; elsewhere a place fetches what it needs
  quiet: [false, { option: true }],
  // a browser that has seen nothing: neither scripts nor pictures
  cold: [false, { option: true }],
  // a fourth of a journey's work is its pictures: where none is looked at, the browser is one that cannot draw them
  pictures: [false, { option: true }],
  context: async ({ browser, quiet, cold, baseURL }, provide) => {
    const mine = quiet || cold ? await browser.newContext() : (kept ??= await browser.newContext());
    if (mine === kept) await emptied(mine, baseURL!);
    // the server of a worker outlives its tests: no head stands on its bench when one begins
    await mine.request.post(`${baseURL}/api/bench/reset`, { data: {} });
    if (!quiet)
      await mine.addInitScript(() => {
        // the fixed clock sets one of its own, which does call: it is not taken
        Object.defineProperty(globalThis, 'requestIdleCallback', {
          get: () => () => 0,
          set: () => undefined,
        });
      });
    await provide(mine);
    if (mine === kept) for (const page of mine.pages()) await page.close();
    else await mine.close();
  },
  page: async ({ page, pictures }, provide) => {
    // held all along: taken up and laid down at each file, a chooser can open that nobody answers
    page.on('filechooser', () => undefined);
    if (!pictures)
      await page.addInitScript(() => {
        HTMLCanvasElement.prototype.getContext = () => null;
      });
    await provide(page);
  },
  // eslint-disable-next-line no-empty-pattern -- Playwright wants the pattern
  baseURL: async ({}, provide, { parallelIndex }) => provide(`http://127.0.0.1:${PORTS[parallelIndex]}`),
  calm: [
    async ({ page, baseURL }, use) => {
      const troubles: string[] = [];
      page.on('request', (request) => {
        const url = new URL(request.url());
        const local = url.protocol === 'data:' || url.protocol === 'blob:' || url.origin === baseURL;
        if (!local) troubles.push(`request left the origin: ${request.url()}`);
      });
      page.on('pageerror', (error) => troubles.push(`page error: ${error.message}`));
      page.on('console', (message) => {
        // a head that refuses a message or cuts the line is what a flow with the bench is about
        if (message.type() === 'error' && !message.location().url.includes('/api/bench/'))
          troubles.push(`console: ${message.text()} ${message.location().url}`);
      });
      await use(troubles);
      expect(troubles).toEqual([]);
    },
    { auto: true },
  ],
});
export { expect };

/** A fixed instant: Tuesday 24 November 2026, 15:40 in Berlin. */
export const NOW = new Date('2026-11-24T14:40:00Z');

/** Opens a place with the clock fixed and waits until the case lies on the desk. */
export async function open(page: Page, path = '/'): Promise<void> {
  await page.clock.setFixedTime(NOW);
  await page.goto(path);
  await expect(page.getByTestId('save-sign')).toHaveText('Saved');
}

/** Drags by touch on a phone and by mouse on a wide screen, in small steps, as a finger does. */
export async function drag(
  page: Page,
  from: { x: number; y: number },
  by: { x: number; y: number },
  hold?: () => Promise<void>,
): Promise<void> {
  const steps = 12;
  const at = (i: number) => ({ x: from.x + (by.x * i) / steps, y: from.y + (by.y * i) / steps });
  if (test.info().project.use.hasTouch) {
    const client = await page.context().newCDPSession(page);
    const send = (type: 'touchStart' | 'touchMove' | 'touchEnd', points: { x: number; y: number }[]) =>
      client.send('Input.dispatchTouchEvent', { type, touchPoints: points });
    await send('touchStart', [from]);
    for (let i = 1; i <= steps; i += 1) await send('touchMove', [at(i)]);
    await hold?.();
    await send('touchEnd', []);
    await client.detach();
  } else {
    await page.mouse.move(from.x, from.y);
    await page.mouse.down();
    for (let i = 1; i <= steps; i += 1) await page.mouse.move(at(i).x, at(i).y);
    await hold?.();
    await page.mouse.up();
  }
}

/** How long a browser may owe the answer to a touch. */
const TOUCH_MS = 90_000;

/** Taps by touch or clicks by mouse. A touch that the browser itself never answers is pressed once more, by its mouse. */
export async function press(target: Locator): Promise<void> {
  if (!test.info().project.use.hasTouch) return target.click();
  await target.tap({ timeout: TOUCH_MS }).catch(async (error: Error) => {
    if (!error.message.includes('performing tap action')) throw error;
    await target.click();
  });
}

/** Goes to a place by its tab. */
export async function go(
  page: Page,
  place: 'Today' | 'Mix' | 'Day' | 'Tank' | 'Log' | 'Case',
): Promise<void> {
  if (place === 'Case' && test.info().project.use.hasTouch)
    await press(page.getByRole('button', { name: /^Case/ }));
  else await press(page.getByRole('tab', { name: place, exact: true }));
  await expect(page.getByTestId(place.toLowerCase())).toBeVisible();
}

/** The number at the start of a text such as "196 µmol". */
export async function figure(target: Locator): Promise<number> {
  await expect(target).toHaveText(/\d/);
  return Number(/-?\d+(\.\d+)?/.exec((await target.textContent())!)![0]);
}

export const saved = (page: Page) => expect(page.getByTestId('save-sign')).toHaveText('Saved');

/** Pulls a channel of the comb by so many px up (negative: down), from its grip. */
export async function pull(page: Page, name: RegExp, up: number, hold?: () => Promise<void>): Promise<void> {
  const grip = page.getByRole('slider', { name });
  await page.getByTestId('comb').scrollIntoViewIfNeeded();
  const box = (await grip.boundingBox())!;
  await drag(page, { x: box.x + box.width / 2, y: box.y + box.height / 2 }, { x: 0, y: -up }, hold);
}

/** Fills a field and leaves it. */
export async function type(page: Page, testId: string, text: string): Promise<void> {
  await page.getByTestId(testId).fill(text);
  await page.getByTestId(testId).press('Enter');
}

/** Imports a case file on the page of the case. */
export const importText = async (page: Page, text: string) => {
  const chooser = page.waitForEvent('filechooser');
  await press(page.getByRole('button', { name: /^Import/ }));
  await (
    await chooser
  ).setFiles({ name: 'case.json', mimeType: 'application/json', buffer: Buffer.from(text) });
};

/** Of a case that is here already: what is done with what came in. */
export const takeAs = async (page: Page, way: RegExp) => {
  await press(page.getByRole('radio', { name: way }));
  await press(page.getByTestId('backup-take'));
};
