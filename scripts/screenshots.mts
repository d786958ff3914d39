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
const begin = async (page: Page, who: string) => {
  await page.getByTestId('start-session').click();
  await page.getByTestId('eyes-shaded').click();
  await page.getByRole('radio', { name: who }).click();
  await page.getByRole('radio', { name: 'Quantum meter, full spectrum' }).click();
  await page.getByTestId('walk').click();
  await page.getByText(/The model expects \d/).waitFor();
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
  { name: 'mix-wide', path: '/mix', size: 'wide' },
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
  { name: 'patterns-wide', path: '/patterns', size: 'wide' },
  {
    name: 'fit-wide',
    path: '/fit',
    size: 'wide',
    before: async (page) => {
      await page.getByRole('button', { name: 'Four whole-hour slots' }).click();
      await page.getByTestId('fit-day').click();
      await page.getByTestId('fitted').waitFor();
    },
  },
  {
    name: 'around-phone',
    path: '/around',
    size: 'phone',
    before: async (page) => {
      await page.getByTestId('add-interlude').click();
      await page.getByTestId('moon-on').click();
      await page.getByTestId('moon-said').scrollIntoViewIfNeeded();
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
    name: 'reading-phone',
    path: '/readings',
    size: 'phone',
    before: async (page) => {
      await begin(page, 'my meter');
      for (const key of ['2', '4', '1']) await page.getByTestId(`key-${key}`).click();
      await page.getByTestId('another-try').click();
      for (const key of ['2', '3', '6']) await page.getByTestId(`key-${key}`).click();
    },
  },
  {
    name: 'calibration-wide',
    path: '/readings',
    size: 'wide',
    before: async (page) => {
      await begin(page, 'a simulated meter');
      for (let i = 0; i < 5; i += 1) {
        await page.getByTestId('simulate').click();
        await page.getByText(/^1 try/).waitFor();
        await page.getByTestId('next-place').click();
      }
      await page.getByTestId('finish-session').click();
      await page.getByText('5 readings fitted.').waitFor();
      await page.getByTestId('what-changed').click();
      await page.waitForTimeout(1500);
    },
  },
  { name: 'lamps-phone', path: '/lamps', size: 'phone' },
  {
    name: 'compare-wide',
    path: '/compare?with=plate.demo-noon,lamp.lib-nine,lamp.lib-tubes',
    size: 'wide',
  },
  {
    name: 'corals-wide',
    path: '/corals',
    size: 'wide',
    before: (page) => page.getByRole('radio', { name: 'Deep shelf' }).click(),
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
  { name: 'case-wide', path: '/case', size: 'wide' },
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
for (const shot of SHOTS) await shoot(browser, `http://127.0.0.1:${port}`, shot);
await browser.close();
server.close();
server.closeAllConnections();
