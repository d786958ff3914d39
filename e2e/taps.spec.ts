import { readFileSync } from 'node:fs';

import type { Locator, Page } from '@playwright/test';

import { dayAt, levelsOfGroups, parUnder, zoneLight } from '@/core/case/light';
import { draftGroups, rigOf } from '@/core/case/lit';
import { lampTable } from '@/core/case/table';
import { formatTime } from '@/core/day/clock';
import { computeResponse } from '@/core/optics/response';
import { importText as importedText } from '@/core/record/caseFile';

import { expect, figure, go, open, pull, saved, test } from './kit';

/** Counts what a hand does: every tap, every field that is typed into and every drag of a story. */
function hand(page: Page) {
  const done = { taps: 0, drags: 0 };
  return {
    done,
    tap: async (target: Locator) => {
      done.taps += 1;
      await target.tap();
    },
    fill: async (id: string, text: string, key?: 'Enter') => {
      done.taps += 1;
      await page.getByTestId(id).fill(text);
      if (key) await page.getByTestId(id).press(key);
    },
    drag: async (name: RegExp, up: number) => {
      done.drags += 1;
      await pull(page, name, up);
    },
  };
}
const whole = async (page: Page, id: string) => {
  // what stays in sight while the page is scrolled is within the window
  const box = (await page.getByTestId(id).boundingBox())!;
  expect(box.y).toBeGreaterThanOrEqual(0);
  expect(box.y + box.height).toBeLessThan(844);
};

test('@phone a colour pulled, white stepped, kept as a new plate and put on noon: ten taps and a drag, µmol in sight', async ({
  page,
}) => {
  await open(page, '/');
  const h = hand(page);
  await h.tap(page.getByRole('tab', { name: 'Mix', exact: true }));
  await expect(page.getByTestId('mix-umol')).toHaveText(/\d/);
  await h.drag(/^Royal blue/, -30);
  await whole(page, 'mix-umol');
  const white = page.getByRole('button', { name: 'Cool white up' });
  for (let i = 0; i < 5; i += 1) await h.tap(white);
  await whole(page, 'mix-umol');
  await h.tap(page.getByTestId('copy-plate'));
  await whole(page, 'mix-umol');
  await h.tap(page.getByTestId('set-thread'));
  await h.tap(page.getByRole('radio', { name: /^14:05/ }));
  await expect(page.getByTestId('put-on')).toContainText('14:05');
  await saved(page);
  expect(h.done.taps).toBeLessThanOrEqual(10);
  expect(h.done.drags).toBe(1);
});

test('@phone from a cold start: carbon is logged in three taps, µmol at any coral in two, the cap changed in three, a place found in four', async ({
  page,
}) => {
  await open(page, '/');
  let h = hand(page);
  await h.tap(page.getByTestId('today-carbon'));
  await h.tap(page.getByRole('button', { name: /^Log|^Keep|^Put/ }).last());
  await saved(page);
  expect(h.done.taps).toBeLessThanOrEqual(3);

  await go(page, 'Today');
  h = hand(page);
  await h.tap(page.getByTestId('set-spot'));
  await h.tap(page.getByRole('radio', { name: 'Slate plate' }));
  await expect(page.getByTestId('stage')).toContainText('at Slate plate');
  expect(await figure(page.getByTestId('now-umol'))).toBeGreaterThan(50);
  expect(h.done.taps).toBeLessThanOrEqual(2);

  await go(page, 'Today');
  h = hand(page);
  await h.tap(page.getByRole('tab', { name: 'Day', exact: true }));
  await h.tap(page.getByRole('button', { name: 'Cap down' }));
  await expect(page.getByTestId('cap')).toHaveValue('79');
  expect(h.done.taps).toBeLessThanOrEqual(3);

  await go(page, 'Today');
  h = hand(page);
  await h.tap(page.getByRole('tab', { name: 'Tank', exact: true }));
  await h.tap(page.getByTestId('where'));
  await expect(page.getByText('Where Slate plate could go')).toBeVisible();
  expect(h.done.taps).toBeLessThanOrEqual(4);
});

test('@phone all of Tank and of Day lies within a screen and a half', async ({ page }) => {
  const height = () =>
    page.evaluate(() => Math.max(...[...document.querySelectorAll('*')].map((e) => e.scrollHeight)));
  await open(page, '/tank');
  await expect(page.getByTestId('evenness-fold')).toContainText('of the mean');
  expect(await height()).toBeLessThanOrEqual(1210);
  await go(page, 'Day');
  await expect(page.getByTestId('day-figures')).toContainText('mol');
  await expect(page.getByTestId('verdict')).toContainText('used to');
  expect(await height()).toBeLessThanOrEqual(919);
});

test.describe('with pictures', () => {
  test.use({ pictures: true });
  test('@phone an own tank from the demo: a two-circuit lamp and two soft corals, within 25 taps', async ({
    page,
  }) => {
    await open(page, '/');
    const h = hand(page);
    await h.tap(page.getByTestId('start-mine'));
    await h.tap(page.getByTestId('set-size'));
    await h.tap(page.getByRole('radio', { name: '90 × 45 × 45 cm' }));
    await h.tap(page.getByTestId('set-kind'));
    await h.tap(page.getByRole('button', { name: 'Take Two-circuit fixture' }));
    await h.tap(page.getByTestId('set-heightCm'));
    await h.tap(page.getByRole('radio', { name: '30 cm up' }));
    await expect(page.getByTestId('start-day')).toContainText('µmol at Coral 1');
    await h.tap(page.getByTestId('start-plain'));
    await expect(page.getByTestId('day-figures')).toContainText('Coral 1');
    await h.tap(page.getByRole('button', { name: 'The sheet to type into the lamp' }));
    await expect(page.getByTestId('sheet')).toBeVisible();
    expect(h.done.taps).toBeLessThanOrEqual(25);
  });
});

/** Two lamps of a tank of 120 × 50 × 50 cm: name, peak in nm or kelvin, width in nm, emitters. */
const FOUR: [name: string, peak: string, width: string, count: string][] = [
  ['Royal blue', '450', '20', '24'],
  ['Violet', '420', '15', '8'],
  ['White', '9000', '', '24'],
  ['Red', '660', '18', '4'],
];

test('@phone the whole way: two lamps typed in, 12 mol wanted with white from five, printed, typed in and proven, within 60 taps and as the core reckons it', async ({
  page,
}) => {
  await open(page, '/');
  const h = hand(page);
  const button = (name: RegExp | string) => page.getByRole('button', { name });
  await h.tap(page.getByTestId('start-mine'));
  await h.tap(button('Field by field instead'));
  for (const [id, cm] of [
    ['tank-length', '120'],
    ['tank-width', '50'],
    ['tank-depth', '50'],
  ] as const)
    await h.fill(id, cm);
  for (let i = 1; i < FOUR.length; i += 1) await h.tap(page.getByTestId('add-channel'));
  for (const [i, [name, peak, width, count]] of FOUR.entries()) {
    await h.fill(`channel-${i}-name`, name);
    if (name === 'White') await h.tap(page.getByTestId(`channel-${i}`).getByRole('radio', { name: 'White' }));
    await h.fill(`channel-${i}-peak`, peak);
    if (width) await h.fill(`channel-${i}-width`, width);
    await h.fill(`channel-${i}-count`, count);
    await h.fill(`channel-${i}-watts`, '2.5');
  }
  await h.fill('lamp-points', '8');
  await h.tap(page.getByRole('radio', { name: 'multiplies every value' }));
  await h.fill('lamp-count', '2');
  await h.fill('lamp-height', '22');
  await h.fill('spot-0-x', '60');
  await h.fill('spot-0-y', '25');
  await h.fill('spot-0-depth', '20');
  await h.tap(page.getByTestId('start-submit'));
  await expect(page.getByTestId('day-figures')).toContainText('First coral');
  await h.tap(button('Shape, ease, fit or carry this day'));
  await h.tap(button(/^A day as I want it/));
  await h.tap(page.getByTestId('set-want-home'));
  await h.fill('home-from', '17:00', 'Enter');
  await h.tap(page.getByTestId('set-want-mol'));
  await h.tap(page.getByRole('radio', { name: 'another' }));
  await h.fill('wanted-dli', '12', 'Enter');
  await h.tap(page.getByTestId('pattern-watched'));
  await h.tap(page.getByTestId('take-wanted'));
  await expect(page.getByTestId('day-figures')).toHaveText(/^12\.0\smol a day at First coral/);
  await h.tap(button(/^The sheet/));
  await expect(page.getByTestId('sheet-ends')).toHaveText('Ends dark at 22:00.');
  // what is printed is looked at by itself; here it is asked for
  await page.evaluate(() => {
    window.print = () => document.body.setAttribute('data-printed', 'yes');
  });
  await h.tap(button('Print'));
  await expect(page.locator('body')).toHaveAttribute('data-printed', 'yes');
  const typed = await page.getByTestId('sheet').innerText();
  await h.tap(page.getByRole('radio', { name: 'They are used to it' }));
  await h.tap(page.getByTestId('typed-all'));
  await expect(page.getByTestId('today')).toBeVisible();
  await saved(page);

  // what the core makes of the same case, which is no part of the way
  await go(page, 'Case');
  const waiting = page.waitForEvent('download');
  await button(/^Export the open case/).tap();
  const read = importedText(readFileSync((await (await waiting).path())!, 'utf8'));
  if (!read.ok) throw new Error('the exported case cannot be read');
  const { case: doc } = read.value;
  const zone = doc.zones[0]!;
  const groups = draftGroups(doc, zone);
  const light = zoneLight(computeResponse(rigOf(groups, zone, zone.spots)), groups);
  const day = dayAt(light, groups, 0);
  expect(Math.abs(day.dli - 12)).toBeLessThan(0.1);
  // what does not stand beside each other on the page stands below each other
  for (const c of lampTable(groups[0]!).controls) {
    const rows = [...typed.replace(/\s+/g, ' ').matchAll(new RegExp(`${c.name} ((?:\\d+ )+)`, 'g'))];
    expect(rows.map((r) => r[1]!.trim()).join(' '), c.name).toBe(c.percents.join(' '));
  }
  await go(page, 'Today');

  await h.tap(page.getByTestId('today-prove'));
  const shown = (minute: number) => Math.round(1.1 * parUnder(light, levelsOfGroups(groups, minute), 0));
  for (const minute of [405, 720, 1050, 1290]) {
    await h.fill('proof-time', formatTime(minute));
    await h.fill('proof-value', String(shown(minute)), 'Enter');
    await expect(
      page.getByRole('button', { name: `Remove the reading at ${formatTime(minute)}` }),
    ).toBeVisible();
  }
  await expect(page.getByTestId('prove-sentence')).toContainText('as planned');
  await h.tap(page.getByTestId('keep-proof'));
  await saved(page);
  expect(h.done.taps).toBeLessThanOrEqual(60);
});

test('@phone anything is found by its name and gone to, by touch and by keyboard', async ({ page }) => {
  await open(page, '/');
  await page.getByTestId('find-key').tap();
  await page.getByTestId('find').fill('deep sh');
  await page.getByRole('button', { name: /^Deep shelf, plate/ }).tap();
  await expect(page.getByRole('heading', { name: 'Deep shelf' })).toBeVisible();
  await page.keyboard.press('/');
  await page.getByTestId('find').fill('fit the day');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('fit')).toBeVisible();
  await page.keyboard.press('/');
  await expect(page.getByTestId('find-first')).toHaveText('Fit the day to a controller');
});
