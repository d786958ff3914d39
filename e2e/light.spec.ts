import { PNG } from 'pngjs';

import { surfaceColours } from '@/core/colour/look';
import { spectrumUnder, levelsOfGroups, zoneLight } from '@/core/case/light';
import { draftGroups, rigOf } from '@/core/case/lit';
import { momentOf } from '@/core/case/moment';
import { computeResponse } from '@/core/optics/response';
import { displayCase } from '@/demo/lagoon';

import { twoGroups } from './twoGroups';
import { expect, figure, go, NOW, open, press, saved, test, type } from './kit';

test('the white card on screen is what the core computes @phone', async ({ page }) => {
  await open(page, '/mix');
  const card = page.getByTestId('white-card');
  const box = (await card.boundingBox())!;
  const { case: doc } = displayCase(NOW.getTime(), 'Europe/Berlin');
  const zone = doc.zones[0]!;
  const groups = draftGroups(doc, zone);
  const light = zoneLight(computeResponse(rigOf(groups, zone, zone.spots)), groups);
  const moment = momentOf(light, groups, zone.groups[0]!, 'demo-noon', 0);
  const expected = surfaceColours(spectrumUnder(light, levelsOfGroups(groups, moment.minute), 0)).card;
  const image = PNG.sync.read(await page.screenshot());
  const ratio = image.width / page.viewportSize()!.width;
  const at =
    (Math.round((box.y + box.height / 3) * ratio) * image.width +
      Math.round((box.x + box.width / 2) * ratio)) *
    4;
  expect([...image.data.subarray(at, at + 3)]).toEqual([...expected]);
});

test('moving one lamp 5 cm, yellowing the water or moving a spot changes PAR and spectrum @phone', async ({
  page,
}) => {
  await open(page, '/mix');
  const read = async () => {
    await go(page, 'Mix');
    await expect(page.getByTestId('figures')).toBeVisible();
    const strip = page.getByRole('img', { name: /^Spectrum at/ });
    const umol = await figure(page.getByTestId('mix-umol'));
    return { umol, strip: await strip.evaluate((c) => (c as HTMLCanvasElement).toDataURL()) };
  };
  const base = await read();
  const changes: [string, () => Promise<void>][] = [
    [
      'lamp',
      async () => {
        await press(page.getByRole('button', { name: 'Move lamp left' }));
        await page.getByTestId('lamp-x').fill('47');
        await press(page.getByTestId('keep-lamp'));
      },
    ],
    ['water', () => press(page.getByRole('radio', { name: 'long neglected' }))],
    [
      'spot',
      async () => {
        await press(page.getByRole('button', { name: 'Edit Copper table' }));
        await page.getByTestId('spot-depth').fill('36');
        await press(page.getByTestId('keep-spot'));
      },
    ],
  ];
  for (const [name, change] of changes) {
    await go(page, 'Case');
    await change();
    await saved(page);
    const other = await read();
    expect(other.umol, name).not.toBe(base.umol);
    expect(other.strip, name).not.toBe(base.strip);
    await press(page.getByTestId('undo'));
    await expect(page.getByTestId('mix-umol')).toHaveText(`${base.umol} µmol`);
  }
});

test("Mix's µmol equals Day's at that thread @phone", async ({ page }) => {
  await open(page, '/mix');
  await expect(page.getByTestId('mix-umol')).toContainText('µmol');
  for (const plate of ['Reading noon', 'Late light', 'Deep shelf']) {
    await go(page, 'Mix');
    await press(page.getByRole('button', { name: /choose, copy, rename/ }));
    await press(page.getByRole('radio', { name: plate }));
    await press(page.getByRole('button', { name: 'Done' }));
    const umol = await figure(page.getByTestId('mix-umol'));
    const time = /, (\d\d:\d\d)\./.exec((await page.getByTestId('mix').textContent())!)![1]!;
    await go(page, 'Day');
    await press(page.getByTestId(`thread-${time}`));
    expect(await figure(page.getByTestId('thread-umol'))).toBe(umol);
    await press(page.getByRole('button', { name: 'Done' }));
  }
});

test('two unlike groups: each its own comb and sheet, light of both together @phone', async ({ page }) => {
  await open(page, '/case');
  const chooser = page.waitForEvent('filechooser');
  await press(page.getByRole('button', { name: /^Import/ }));
  await (
    await chooser
  ).setFiles({ name: 'two.json', mimeType: 'application/json', buffer: Buffer.from(twoGroups()) });
  await expect(page.getByTestId('case-message')).toHaveText('Imported Two rows.');
  await go(page, 'Mix');
  await expect(page.getByRole('slider')).toHaveCount(3);
  const both = await figure(page.getByTestId('mix-umol'));
  await press(page.getByTestId('plan-Bar-bar'));
  await expect(page.getByRole('radio', { name: 'Bar' })).toHaveAttribute('aria-checked', 'true');
  await expect(page.getByRole('slider')).toHaveCount(1);
  await expect(page.getByText('If it ran', { exact: false })).toHaveCount(0);
  await type(page, 'level-bar-blue', '0');
  await press(page.getByRole('radio', { name: 'Panel' }));
  const panelAlone = await figure(page.getByTestId('mix-umol'));
  expect(panelAlone).toBeLessThan(both);

  // typing the panel in leaves the bar unknown; the sheet counts what runs
  await go(page, 'Day');
  await press(page.getByRole('button', { name: /^The sheet/ }));
  await press(page.getByRole('radio', { name: 'They are used to it' }));
  await press(page.getByTestId('typed-all'));
  await expect(page.getByTestId('today-sentence')).toContainText('of Bar nothing is known');
  await expect(page.getByTestId('due')).toHaveText(/Type Bar into the lamp/);
  await go(page, 'Mix');
  // typed in, used to it, the bar's level
  for (let step = 0; step < 3; step += 1) await press(page.getByTestId('undo'));
  expect(await figure(page.getByTestId('mix-umol'))).toBe(both);
});
