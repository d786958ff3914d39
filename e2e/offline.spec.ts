import { expect, go, open, press, saved, test, type } from './kit';

test.use({ quiet: true, pictures: true });

test('kept on the device after the first visit: with the network off every place opens, also anew, and work is saved @phone', async ({
  page,
  context,
}) => {
  await open(page, '/');
  const manifest = await page.request.get((await page.locator('link[rel=manifest]').getAttribute('href'))!);
  expect(manifest.headers()['content-type']).toContain('manifest+json');
  for (const { src, type: kind } of (await manifest.json()).icons)
    expect((await page.request.get(src)).headers()['content-type']).toBe(kind);

  await page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined));
  await context.setOffline(true);
  for (const path of ['/tank', '/day', '/algae']) {
    await open(page, path);
    await expect(page.getByTestId(path.slice(1))).toBeVisible();
  }
  await open(page, '/day');
  await expect(page.getByTestId('weave')).toBeVisible();
  await type(page, 'cap', '71');
  await saved(page);
  await page.reload();
  await expect(page.getByTestId('cap')).toHaveValue('71');
  // nothing is offered as new that is not
  await expect(page.getByTestId('update')).toHaveCount(0);
  // light is computed as before
  await go(page, 'Mix');
  await expect(page.getByTestId('mix-umol')).toContainText('µmol');
  await go(page, 'Case');
  await press(page.getByTestId('set-water-yellow'));
  await press(page.getByRole('radio', { name: 'long neglected' }));
  await go(page, 'Day');
  await expect(page.getByTestId('day-figures')).toContainText('mol');
  await go(page, 'Today');
  await expect(page.getByTestId('now-umol')).toBeVisible();
  await context.setOffline(false);
});
