import { readdirSync, readFileSync } from 'node:fs';
import { gzipSync } from 'node:zlib';

import { expect, go, open, press, test } from './kit';

test.use({ cold: true });

/** Most that is fetched of scripts, KB gzip: to open Today, and for any other place on top. */
const TODAY_KB = 520;
const PLACE_KB = 60;
/** Every place has an address of its own. */
const PLACES = readdirSync('src/app')
  .map((f) => f.replace(/\.tsx$/, ''))
  .filter((f) => !/^[+_]/.test(f) && f !== 'index');

// two halves, a core each
for (const half of [0, 1])
  test(`what is fetched: little for Today, little more for any other place; each opens by its address, part ${half + 1} of 2 @phone`, async ({
    page,
  }) => {
    const places = PLACES.filter((_, i) => i % 2 === half);
    const fetched = new Map<string, Set<string>>();
    page.on('request', (request) => {
      const path = new URL(request.url()).pathname;
      if (!path.endsWith('.js') || /\/reckon-/.test(path)) return;
      // by the place that asked, or what comes late would be counted for the next one
      const place = new URL(request.frame().url()).pathname;
      fetched.set(place, (fetched.get(place) ?? new Set()).add(path));
    });
    const kb = (path: string) => gzipSync(readFileSync(`dist${path}`)).length / 1024;
    const total = (paths: string[]) => paths.reduce((sum, path) => sum + kb(path), 0);
    await open(page);
    await expect(page.getByTestId('now-umol')).toHaveText(/\d/);
    const first = fetched.get('/')!;
    const today = total([...first]);
    console.log(`      Today: ${today.toFixed(0)} KB`);
    expect(today).toBeLessThan(TODAY_KB);
    for (const place of places) {
      await open(page, `/${place}`);
      await expect(page.getByTestId('part-missing')).toBeHidden();
      await expect(page.locator('[role="heading"]').first()).toBeVisible();
    }
    const sizes = places.map((place) => {
      const paths = [...(fetched.get(`/${place}`) ?? [])].filter((path) => !first.has(path));
      return [total(paths), place, paths] as const;
    });
    const [most, where, paths] = sizes.sort((a, b) => b[0] - a[0])[0]!;
    console.log(`      most on top: ${most.toFixed(0)} KB for ${where}`);
    expect(most, `${where}: ${paths.join(', ')}`).toBeLessThan(PLACE_KB);
  });

test('after an update an open page that asks for a part that is gone loads itself anew, once @phone', async ({
  page,
  calm,
}) => {
  let gone = 1;
  let loads = 0;
  page.on('load', () => (loads += 1));
  await page.route(/\/js\/web\/(Mix|Log)-[0-9a-f]+\.js$/, (route) =>
    gone > 0 ? ((gone -= 1), route.fulfill({ status: 404, body: 'not found' })) : route.fallback(),
  );
  await open(page);
  await go(page, 'Mix');
  await expect(page.getByTestId('mix-umol')).toHaveText(/µmol/);
  expect(loads).toBe(2);
  // gone for good: said once it has been asked for twice, with everything around it in use
  gone = 2;
  await press(page.getByRole('tab', { name: 'Log', exact: true }));
  await expect(page.getByTestId('part-missing')).toContainText(
    'could not be fetched. See that its server runs',
  );
  expect(loads).toBe(3);
  await go(page, 'Today');
  await expect(page.getByTestId('now-umol')).toHaveText(/\d/);
  // there again: it is asked for anew, without a further load
  await go(page, 'Log');
  expect(loads).toBe(3);
  // what was missing was told to the console: that is what this is about
  expect(calm.every((t) => /404|could not|Failed|error/i.test(t))).toBe(true);
  calm.length = 0;
});
