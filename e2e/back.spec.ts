import { expect, open, saved, test, type } from './kit';

// Playwright turns the browser's back/forward cache off, and Chromium without a window has none: with it a page that was left comes back
// as it was
test.use({
  launchOptions: async ({ launchOptions }, give) =>
    give({
      ...launchOptions,
      executablePath: process.env.CHROMIUM_WHOLE_PATH ?? '/usr/bin/chromium',
      ignoreDefaultArgs: ['--disable-back-forward-cache'],
    }),
});

test('a page that is left in the middle of a write and comes back goes on, and nothing is rolled back @phone', async ({
  page,
}) => {
  await open(page, '/day');
  let kept = 0;
  for (let i = 0; i < 3; i += 1) {
    const first = String(20 + i);
    const last = String(60 + i);
    await page.evaluate(() => Object.assign(globalThis, { wasHere: true }));
    await page.getByTestId('cap').fill(first);
    await page.getByTestId('cap').press('Enter');
    // at once: the write is on its way
    await page.goto('/api/health', { waitUntil: 'commit' });
    // not awaited within the page: it goes away under the call
    await page.evaluate(() => void setTimeout(() => history.back(), 0));
    await expect(page.getByTestId('cap')).toHaveValue(first);
    kept += Number(await page.evaluate(() => 'wasHere' in globalThis));
    await type(page, 'cap', last);
    await saved(page);
    await page.reload();
    await expect(page.getByTestId('cap')).toHaveValue(last);
    await expect(page.getByTestId('aside')).toHaveCount(0);
    await expect(page.getByTestId('stale')).toHaveCount(0);
  }
  // a page that was made anew would prove nothing
  expect(kept).toBeGreaterThan(0);
});
