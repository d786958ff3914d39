import type { Locator, Page } from '@playwright/test';

import { expect, figure, go, open, pull, saved, test } from './kit';

/** Counts what a hand does: every tap and every drag of a story. */
function hand(page: Page) {
  const done = { taps: 0, drags: 0 };
  return {
    done,
    tap: async (target: Locator) => {
      done.taps += 1;
      await target.tap();
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
