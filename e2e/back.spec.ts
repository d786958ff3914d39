import { expect, open, saved, test, type } from './kit';

// Playwright turns the browser's back/forward cache off; with it a page that was left comes back as it was
test.use({
  launchOptions: async ({ launchOptions }, use) =>
    use({ ...launchOptions, ignoreDefaultArgs: ['--disable-back-forward-cache'] }),
});

test('a page that is left in the middle of a write and comes back goes on, and nothing is rolled back @phone', async ({
  page,
}) => {
  test.slow();
  await open(page, '/day');
  let kept = 0;
  for (let i = 0; i < 6; i += 1) {
    const first = String(20 + i);
    const last = String(60 + i);
    await page.getByTestId('cap').fill(first);
    await page.getByTestId('cap').press('Enter');
    // at once: the write is on its way
    await page.goto('/favicon.ico', { waitUntil: 'commit' }).catch(() => undefined);
    await page.goBack();
    await expect(page.getByTestId('cap')).toHaveValue(first);
    kept += await page.evaluate(() => {
      const [entry] = performance.getEntriesByType('navigation') as PerformanceNavigationTiming[];
      return entry?.type === 'back_forward' ? 0 : 1;
    });
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
