import { bareCalibration, hungGroups } from '@/core/case/calibration';
import { spectrumUnder, levelsOfGroups, zoneLight } from '@/core/case/light';
import { draftGroups, rigOf } from '@/core/case/lit';
import { momentOf } from '@/core/case/moment';
import { xyzOf } from '@/core/colour/xyz';
import { computeResponse } from '@/core/optics/response';
import { lookerOf } from '@/core/portrait/lookers';
import { lampLevels, portraitOf } from '@/core/portrait/ofZone';
import { atEveryDepth, onScreen, paint, palette } from '@/core/portrait/relight';
import { portraitScene } from '@/core/portrait/scene';
import { displayCase } from '@/demo/lagoon';

import { PNG } from 'pngjs';
import { readFileSync } from 'node:fs';

import { twoGroups } from './twoGroups';
import { expect, figure, go, NOW, open, press, saved, test, type } from './kit';

test.use({ pictures: true });

test('the picture on screen is what the core computes, pixel by pixel @phone', async ({ page }) => {
  await open(page, '/mix');
  await press(page.getByTestId('whose-eye'));
  await press(page.getByRole('radio', { name: 'a white card on the sand' }));
  await press(page.getByRole('radio', { name: 'evened, to judge hues' }));
  await page.keyboard.press('Escape');
  const { case: doc } = displayCase(NOW.getTime(), 'Europe/Berlin');
  const zone = doc.zones[0]!;
  const groups = draftGroups(doc, zone);
  const light = zoneLight(computeResponse(rigOf(groups, zone, zone.spots)), groups);
  const moment = momentOf(light, groups, zone.groups[0]!, 'demo-noon', 0);
  const levels = levelsOfGroups(groups, moment.minute);
  const cal = bareCalibration(hungGroups(doc, zone), zone);
  const scene = portraitScene(
    portraitOf(doc, zone, groups, cal, { fish: true, card: true, width: 716, height: 279, coarse: false }),
  );
  const looker = lookerOf('adapted', xyzOf(spectrumUnder(light, levels, 0)), null, 1);
  const colours = onScreen(palette(scene, lampLevels(scene, groups, levels, cal)!), looker);
  const wanted = paint(scene, atEveryDepth(scene.lamps.length, colours));
  const canvas = page.getByTestId('look').locator('canvas');
  // first a coarse picture, then the whole one
  await expect(canvas).toHaveAttribute('width', '716');
  const drawn = await canvas.evaluate((c: HTMLCanvasElement) => c.toDataURL().split(',')[1]!);
  const seen = PNG.sync.read(Buffer.from(drawn, 'base64')).data;
  const off = seen.reduce((sum, v, i) => sum + Math.abs(v - wanted.data[i]!), 0) / seen.length;
  expect(seen).toHaveLength(wanted.data.length);
  expect(off).toBeLessThan(0.5);
  // taken along, with its mix and hour
  await press(page.getByTestId('whose-eye'));
  const waiting = page.waitForEvent('download');
  await press(page.getByTestId('keep-picture'));
  const file = await waiting;
  expect(file.suggestedFilename()).toBe('tank.png');
  const png = PNG.sync.read(readFileSync((await file.path())!));
  expect([png.width, png.height]).toEqual([716, 279 + 40]);
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
    [
      'water',
      async () => {
        await press(page.getByTestId('set-water-yellow'));
        await press(page.getByRole('radio', { name: 'long neglected' }));
      },
    ],
    [
      'spot',
      async () => {
        await press(page.getByTestId('case-corals'));
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
    const time = /(\d\d:\d\d) at /.exec((await page.getByTestId('stage').textContent())!)![1]!;
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
