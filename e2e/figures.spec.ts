import type { Locator } from '@playwright/test';

import { expect, go, open, test } from './kit';

/** Touches the middle of what is written, not of the box it stands in. */
async function touch(target: Locator): Promise<void> {
  await target.scrollIntoViewIfNeeded();
  const at = await target.evaluate((box) => {
    const letters = document.createRange();
    letters.selectNodeContents(box);
    const { left, top, width, height } = letters.getBoundingClientRect();
    return { x: left + width / 2, y: top + height / 2 };
  });
  await target.page().touchscreen.tap(at.x, at.y);
}

test('a touched figure says what it is, how it is made and how sure it is; what acts still acts @phone', async ({
  page,
}) => {
  await open(page, '/');
  const figure = page.getByTestId('now-umol');
  await expect(figure).toHaveText(/µmol/);
  const text = await figure.textContent();
  await touch(figure);
  const told = page.getByTestId('what-is');
  await expect(told).toContainText('µmol (PAR)');
  await expect(told).toContainText('How sure it is');
  await expect(page.getByRole('dialog').getByRole('heading', { name: text!, exact: true })).toBeVisible();
  await expect(page.getByRole('note').last()).toContainText('estimate, no reading yet');
  await page.keyboard.press('Escape');
  await expect(told).toHaveCount(0);
  // a date is none, and a part of a sentence that can be set opens what it can be
  await touch(page.getByText(/^Tuesday 24 November/).first());
  await page.getByTestId('set-spot').first().tap();
  await expect(page.getByRole('radio', { name: 'Plum table' })).toBeVisible();
  await expect(told).toHaveCount(0);
  // the same by keyboard alone
  await go(page, 'Day');
  await page.keyboard.press('/');
  const words = page.getByTestId('find-words');
  await words.getByRole('button', { name: 'mol a day (DLI), what it means' }).press('Enter');
  await expect(page.getByTestId('word-means')).toContainText('summed over 24 hours');
});
