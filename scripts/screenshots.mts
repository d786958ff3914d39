// npm run screenshots: one current picture of each main view, from the demo case, into docs/screenshots.
import { type Browser, chromium, type Page } from '@playwright/test';
import { join } from 'node:path';

import { createApp } from '../server/app';
import { ensureChromium, ensureExport, root } from './lib.mjs';

const NOW = new Date('2026-11-24T14:40:00Z');
const SIZES = { phone: { width: 390, height: 844 }, wide: { width: 1280, height: 800 } } as const;

interface Shot {
  name: string;
  path: string;
  size: keyof typeof SIZES;
  dark?: boolean;
  before?: (page: Page) => Promise<void>;
}
const draft = async (page: Page) => {
  await page.getByTestId('cap').fill('100');
  await page.getByTestId('cap').press('Enter');
  await page.getByRole('slider', { name: 'Thread at 17:30' }).focus();
  await page.keyboard.press('ArrowRight');
  await page.getByRole('slider', { name: 'Thread at 10:30' }).focus();
  for (let i = 0; i < 6; i += 1) await page.keyboard.press('Shift+ArrowUp');
};
const charted = (page: Page) => page.getByTestId('sounding-top').waitFor();
const sumped = async (page: Page) => {
  await page.getByRole('radio', { name: 'Refugium', exact: true }).click();
  await page.waitForTimeout(900);
};
const lampMore = async (page: Page) => {
  await page.getByRole('button', { name: /Hang one more/ }).click();
  await page.getByTestId('lamp-x').fill('75');
  await page.getByTestId('keep-lamp').click();
  await page.getByRole('tab', { name: 'Day', exact: true }).click();
  const ease = page.getByRole('button', { name: 'Ease it in' });
  await page.getByTestId('day-more').waitFor();
  if (!(await ease.isVisible())) await page.getByTestId('day-more').click();
  await ease.click();
  await page.getByTestId('start-plan').waitFor();
};
const SHOTS: Shot[] = [
  { name: 'today-phone', path: '/', size: 'phone' },
  { name: 'today-night-phone', path: '/', size: 'phone', dark: true },
  {
    name: 'mix-phone',
    path: '/mix',
    size: 'phone',
    before: (page) => page.getByRole('slider', { name: /^Violet/ }).focus(),
  },
  {
    name: 'photograph-wide',
    path: '/mix',
    size: 'wide',
    before: async (page) => {
      await page.getByRole('button', { name: 'For photographs' }).click();
      await page.getByTestId('photograph').waitFor();
    },
  },
  { name: 'compare-wide', path: '/compare?with=plate.demo-late,lamp.lib-five-step', size: 'wide' },
  { name: 'day-phone', path: '/day', size: 'phone' },
  { name: 'day-wide', path: '/day', size: 'wide', before: draft },
  {
    name: 'sheet-wide',
    path: '/day',
    size: 'wide',
    before: async (page) => {
      await draft(page);
      await page.getByRole('button', { name: /^The sheet/ }).click();
      await page.getByTestId('safety').waitFor();
    },
  },
  {
    name: 'ease-wide',
    path: '/case',
    size: 'wide',
    before: async (page) => {
      await lampMore(page);
      await page.getByRole('radio', { name: 'And at once' }).click();
      await page.getByRole('img', { name: /^Step ratio/ }).scrollIntoViewIfNeeded();
    },
  },
  {
    name: 'log-phone',
    path: '/case',
    size: 'phone',
    before: async (page) => {
      await lampMore(page);
      for (const i of [0, 1, 2]) await page.getByTestId(`high-${i}`).click();
      await page.getByTestId('start-plan').click();
      await page.getByTestId('easing-step').waitFor();
      await page.clock.setFixedTime(new Date(NOW.getTime() + 5 * 86_400_000));
      await page.reload();
      await page.getByTestId('due').click();
      await page.getByTestId('plan-preview').waitFor();
      await page.getByTestId('plan-keep').click();
      await page.clock.setFixedTime(new Date(NOW.getTime() + 7 * 86_400_000));
      await page.reload();
      await page.getByRole('tab', { name: 'Log', exact: true }).click();
      await page.getByTestId('log-lens').click();
      await page.getByTestId('keep-event').click();
      await page.getByRole('tab', { name: 'Log', exact: true }).click();
      await page.getByTestId('log-sign').click();
      await page.getByTestId('sign-newColour').click();
      await page.getByTestId('sign-done').click();
    },
  },
  {
    name: 'rescue-phone',
    path: '/day',
    size: 'phone',
    before: async (page) => {
      await page.getByTestId('cap').fill('100');
      await page.getByTestId('cap').press('Enter');
      for (const time of ['10:30', '19:00']) {
        await page.getByRole('slider', { name: `Thread at ${time}` }).focus();
        for (let i = 0; i < 7; i += 1) await page.keyboard.press('Shift+ArrowUp');
      }
      await page.getByRole('button', { name: /^The sheet/ }).click();
      await page.getByTestId('typed-all').click();
      await page.getByTestId('today-rescue').click();
      await page.getByTestId('rescue-back').waitFor();
      await page.getByTestId('darker').waitFor();
    },
  },
  { name: 'tank-phone', path: '/tank', size: 'phone', before: charted },
  {
    name: 'tank-wide',
    path: '/tank',
    size: 'wide',
    before: async (page) => {
      await charted(page);
      await page.getByTestId('where').click();
      await page.waitForTimeout(500);
    },
  },
  {
    name: 'prove-phone',
    path: '/prove',
    size: 'phone',
    before: async (page) => {
      for (const [time, value] of [
        ['10:45', '20'],
        ['14:00', '185'],
        ['18:15', '226'],
      ] as const) {
        await page.getByTestId('proof-time').fill(time);
        await page.getByTestId('proof-value').fill(value);
        await page.getByTestId('proof-add').click();
      }
    },
  },
  {
    name: 'corals-wide',
    path: '/corals',
    size: 'wide',
    before: (page) => page.getByRole('radio', { name: 'Deep shelf' }).click(),
  },
  { name: 'algae-phone', path: '/algae', size: 'phone', before: sumped },
  {
    name: 'pictures-wide',
    path: '/pictures',
    size: 'wide',
    before: async (page) => {
      // each is drawn the first time it is looked at
      await page.waitForFunction(
        () => document.querySelectorAll('[data-testid^="thumbnail-"] img').length === 11,
        null,
        {
          timeout: 60_000,
        },
      );
      for (const id of ['demo-photo-1', 'demo-photo-5']) await page.getByTestId(`thumbnail-${id}`).click();
      await page.waitForTimeout(2500);
      await page.getByTestId('pictures-unlike').evaluate((e) => e.scrollIntoView());
    },
  },
  {
    name: 'hang-wide',
    path: '/hang',
    size: 'wide',
    before: async (page) => {
      await page.getByTestId('way-A').waitFor();
      await page.getByTestId('way-B').click();
      await page.waitForTimeout(3000);
    },
  },
  {
    name: 'design-wide',
    path: '/design',
    size: 'wide',
    before: async (page) => {
      await page.getByTestId('design-start').click();
      await page.getByTestId('answer-2').waitFor();
    },
  },
];

async function shoot(browser: Browser, origin: string, shot: Shot): Promise<void> {
  const phone = shot.size === 'phone';
  const context = await browser.newContext({
    viewport: SIZES[shot.size],
    colorScheme: shot.dark ? 'dark' : 'light',
    timezoneId: 'Europe/Berlin',
    hasTouch: phone,
    isMobile: phone,
  });
  const page = await context.newPage();
  await page.clock.setFixedTime(NOW);
  await page.goto(origin + shot.path);
  await page.getByTestId('save-sign').waitFor();
  await page.waitForTimeout(900);
  await shot.before?.(page);
  // pictures of the tank are there whole
  await page.waitForTimeout(2400);
  await page.waitForFunction(
    () => {
      const boxes = [...document.querySelectorAll('[data-testid=look], [data-testid=glimpse]')];
      return !/Drawing \d/.test(document.body.innerText) && boxes.every((b) => b.querySelector('canvas'));
    },
    null,
    { timeout: 20_000 },
  );
  await page.waitForTimeout(400);
  await page.screenshot({ path: join(root, 'docs/screenshots', `${shot.name}.png`) });
  await context.close();
}

const executablePath = await ensureChromium();
await ensureExport();
const server = createApp(join(root, 'dist')).listen(0, '127.0.0.1');
await new Promise((resolve) => server.once('listening', resolve));
const { port } = server.address() as { port: number };
const browser = await chromium.launch({
  executablePath,
  args: ['--no-sandbox', '--disable-dev-shm-usage', '--disable-gpu'],
});
const only = process.argv[2];
for (const shot of SHOTS.filter((s) => !only || s.name === only))
  await shoot(browser, `http://127.0.0.1:${port}`, shot);
await browser.close();
server.close();
server.closeAllConnections();
