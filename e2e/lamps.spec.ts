import { readFileSync } from 'node:fs';

import { newPlate } from '@/core/case/plate';
import { lampLibrary } from '@/core/library/lamps';
import { plateText } from '@/store/plateFile';

import { expect, figure, go, NOW, open, press, pull, saved, test, type } from './kit';

type Page = import('@playwright/test').Page;
type Locator = import('@playwright/test').Locator;

async function choose(page: Page, key: RegExp | Locator, name: string, body: string): Promise<void> {
  const chooser = page.waitForEvent('filechooser');
  await press(key instanceof RegExp ? page.getByRole('button', { name: key }).first() : key);
  await (await chooser).setFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(body) });
}

test('an unknown lamp: counted, hung, pulled, solo, locked, kept as a version @phone', async ({ page }) => {
  await open(page, '/lamps');
  await press(page.getByTestId('census'));
  await expect(page.getByText(/Never count by staring into it/)).toBeVisible();
  await press(page.getByTestId('census-begin'));
  await expect(page.getByText(/Name: give the lamp a name/)).toBeVisible();
  await page.getByTestId('census-name').fill('Attic lamp');
  await page.getByTestId('census-watts').fill('70');
  await press(page.getByTestId('census-begin'));
  await press(page.getByTestId('census-next'));
  await expect(page.getByText(/Colour: choose what lights/)).toBeVisible();
  for (const [look, count] of [
    ['violet', '4'],
    ['deep blue', '12'],
    ['white with a blue cast', '6'],
  ] as const) {
    await press(page.getByRole('radio', { name: look, exact: true }));
    await page.getByTestId('census-count').fill(count);
    if (look !== 'white with a blue cast') await press(page.getByTestId('census-next'));
  }
  await press(page.getByTestId('census-finish'));
  await expect(page.getByTestId('lamp-name')).toHaveValue('Attic lamp');
  await expect(page.getByTestId('channel-1-count')).toHaveValue('12');
  await expect(page.getByTestId('channel-1-watts')).toHaveValue('2.8');
  await expect(page.getByTestId('channel-2-peak')).toHaveValue('9000');
  await press(page.getByTestId('save-group'));
  await saved(page);

  await go(page, 'Mix');
  await expect(page.getByRole('radio', { name: 'Lamps 2' })).toHaveAttribute('aria-checked', 'true');
  await expect(page.getByTestId('figures')).toBeVisible();
  const umol = page.getByTestId('figures').getByText(/µmol m⁻² s⁻¹/);
  const before = await figure(umol);
  await pull(page, /^Royal blue/, 140);
  await expect.poll(() => figure(umol)).toBeGreaterThan(before);

  // solo shows one colour alone and changes nothing
  const all = await figure(umol);
  await press(page.getByRole('button', { name: /^Violet: what it does/ }));
  await expect(page.getByText(/look dimmer than they are/).last()).toBeVisible();
  await press(page.getByRole('button', { name: /^Solo/ }));
  await expect(page.getByTestId('solo')).toContainText('Solo: Violet alone');
  expect(await figure(umol)).toBeLessThan(all);
  await press(page.getByTestId('end-solo'));
  await expect(umol).toHaveText(`${all} µmol m⁻² s⁻¹`);

  // a locked channel cannot be pulled, stepped or typed
  await press(page.getByRole('button', { name: /^Violet: what it does/ }));
  await press(page.getByRole('button', { name: 'Lock Violet' }));
  await press(page.getByRole('button', { name: 'Done' }));
  const violet = page.getByRole('slider', { name: /^Violet/ });
  const held = (await violet.getAttribute('aria-valuenow'))!;
  await pull(page, /^Violet/, -60);
  await expect(violet).toHaveAttribute('aria-valuenow', held);
  await expect(page.getByRole('button', { name: 'Violet up' })).toBeDisabled();
  await press(page.getByRole('button', { name: 'All levels together up' }));
  await expect(violet).toHaveAttribute('aria-valuenow', held);

  // a version keeps the mix, and the difference is told in light
  await press(page.getByRole('button', { name: /choose, copy, rename/ }));
  await press(page.getByTestId('plate-detail'));
  // the first pull has kept a version by itself, so that they lie open
  await page.getByTestId('version-note').fill('before the blue went up');
  await press(page.getByTestId('keep-version'));
  await press(page.getByRole('button', { name: 'Done' }));
  const kept = await figure(umol);
  await pull(page, /^Royal blue/, -70);
  await press(page.getByRole('button', { name: /choose, copy, rename/ }));
  await press(page.getByTestId('plate-detail'));
  // the newest first, each against the mix as it is now
  await expect(page.getByTestId('version-difference').first()).toContainText(/PAR × 1\.\d\d.*points of PAR/);
  await press(page.getByRole('button', { name: /^Go back to the version/ }).first());
  await press(page.getByRole('button', { name: 'Done' }));
  await expect(umol).toHaveText(`${kept} µmol m⁻² s⁻¹`);
  await press(page.getByTestId('undo'));
  expect(await figure(umol)).toBeLessThan(kept);
  await saved(page);
  await page.reload();
  await expect(violet).toHaveAttribute('aria-valuenow', held);
});

test('three lamps side by side, at equal PAR and at equal light a day @phone', async ({ page }) => {
  await open(page, '/compare?with=lamp.lib-nine,lamp.lib-five-step');
  await press(page.getByTestId('compare-add'));
  await page.getByTestId('compare-find').fill('tubes');
  await press(page.getByRole('button', { name: 'Add Pair of fluorescent tubes' }));
  await expect(page).toHaveURL(/lib-tubes/);
  await expect(page.getByText(/mercury/).first()).toBeVisible();
  await expect(page.getByTestId('compare-says')).toContainText('only the colour differs');
  await expect(page.getByRole('row', { name: /^PAR, µmol/ })).toHaveText('PAR, µmol150150150');
  await type(page, 'hours-0', '12');
  await expect(page.getByTestId('compare-says')).toContainText(
    'Equal PAR, unequal dose: Full-spectrum nine-channel panel gives 1.50 × the light a day',
  );
  await press(page.getByRole('radio', { name: 'DLI' }));
  await expect(page.getByRole('row', { name: /^Light a day/ })).toHaveText('Light a day, mol5.05.05.0');
  await expect(page.getByTestId('compare-says')).toContainText('runs 1.50 × as strong');
  await type(page, 'compare-value', 'lots');
  await expect(page.getByText(/Give a number above 0/)).toBeVisible();
  // what a lamp cannot do, and what would restore it
  await expect(page.getByText(/of near UV: .* would add it/).first()).toBeVisible();
  await press(page.getByRole('button', { name: /^Remove Five-step panel/ }));
  await expect(page).not.toHaveURL(/five-step/);
});

test('plates: notes, order, find, blend, a file out and in; a plate of another lamp is taken over @phone', async ({
  page,
}) => {
  await open(page, '/plates');
  await press(page.getByRole('button', { name: 'Open plate Late light' }));
  await type(page, 'plate-notes', 'for visitors');
  const waiting = page.waitForEvent('download');
  await press(page.getByRole('button', { name: /^Keep Late light as a file/ }));
  const file = readFileSync((await (await waiting).path())!, 'utf8');
  expect(JSON.parse(file)).toMatchObject({ format: 'chromatheca-plate', plate: { notes: 'for visitors' } });
  await press(page.getByRole('button', { name: 'Move Late light down' }));
  await press(page.getByTestId('blend'));
  await press(page.getByTestId('make-blend'));
  await expect(page.getByRole('button', { name: /^Open plate/ }).first()).toHaveAccessibleName(
    'Open plate Reading noon',
  );
  await expect(page.getByRole('button', { name: /^Open plate Late light and/ })).toBeVisible();
  await page.getByTestId('plates-find').fill('visitors');
  await expect(page.getByRole('button', { name: /^Open plate/ })).toHaveCount(1);
  await page.getByTestId('plates-find').fill('');
  await choose(page, /^Plate from a file/, 'late.json', file.replace('"version": 2', '"version": 7'));
  await expect(page.getByTestId('plates-message')).toContainText(
    'version: is 7; this app knows versions up to 2',
  );
  await choose(page, /^Plate from a file/, 'late.json', file);
  await expect(page.getByTestId('plates-message')).toHaveText('Late light was taken in.');

  // a plate of a lamp that does not hang here
  const kind = lampLibrary().find((l) => l.kind.id === 'lib-tubes')!.kind;
  const foreign = plateText(newPlate('f', 'Tubes at noon', kind.id, { broad: 1, actinic: 1 }), kind);
  await choose(page, /^Plate from a file/, 'tubes.json', foreign);
  await press(page.getByTestId('take-over'));
  await expect(page.getByTestId('carry-match')).toHaveText(/Match \d\d\s% of the spectrum at Copper table/);
  await expect(page.getByTestId('carry-lost')).toBeVisible();
  await press(page.getByTestId('keep-carried'));
  await go(page, 'Mix');
  await expect(page.getByText(/Tubes at noon on Eight-channel panel/).first()).toBeVisible();
  await press(page.getByTestId('undo'));
  await expect(page.getByText(/Tubes at noon on/)).toHaveCount(0);
});

const BAD: [text: string, says: RegExp][] = [
  ['', /the file is empty/],
  ['380;0,5', /fewer than two points/],
  ['nm,power\n400,1\nend,2', /line 3: "end" is no wavelength/],
  ['400;1\n450;high\n500;2', /line 2: "high" is no number/],
  ['400\t1\n450\n500\t2', /line 2: the value is missing/],
  ['400,1\n450,2\n450,3', /line 3: 450\snm stands already in line 2/],
  ['0.40,1\n0.45,2', /line 1: 0.4 is no wavelength between 200 and 1200\snm.*not µm/],
  ['400,1\n450,-2\n500,1', /line 2: the value -2 is below 0/],
  ['380,0,5\n385,1,5', /line 1: commas both part the columns/],
  ['<IESTM2714><SpectralDistribution></IESTM2714>', /not well-formed XML/],
  ['<IESTM2714><Header/></IESTM2714>', /SpectralDistribution is missing/],
];

test('a spectrum from a file: ten bad ones name the place, a good one is laid behind and becomes a channel @phone', async ({
  page,
}) => {
  await open(page, '/mix');
  await press(page.getByRole('button', { name: 'Lay another light behind the comb' }));
  for (const [body, says] of BAD) {
    await choose(page, /^Lay a spectrum from a file behind/, 'meter.csv', body);
    await expect(page.getByTestId('behind-problem')).toContainText(says);
  }
  await choose(
    page,
    /^Lay a spectrum from a file behind/,
    'north window.csv',
    'nm;W\n400;0,8\n500;1,1\n600;1,0\n700;0,9',
  );
  await expect(page.getByTestId('behind-problem')).toHaveCount(0);
  await expect(page.getByRole('radio', { name: 'north window' })).toHaveAttribute('aria-checked', 'true');
  await press(page.getByRole('button', { name: 'Done' }));
  await expect(page.getByTestId('behind-match')).toContainText('Dashed: north window at equal PAR;');
  await expect(page.getByTestId('comb-behind')).toHaveCount(1);

  // the same kind of file as the light of a channel
  await page.goto('/lamps');
  await press(page.getByTestId('type-lamp'));
  await page.getByTestId('lamp-name').fill('Measured lamp');
  await page.getByTestId('channel-0-name').fill('Blue');
  await choose(page, page.getByRole('radio', { name: 'Measured' }), 'blue.csv', 'x');
  await expect(page.getByTestId('channel-0-problem')).toContainText('fewer than two points');
});

test('photographs and my meter: a mix the camera can balance, lux to PAR with its doubt @phone', async ({
  page,
}) => {
  await open(page, '/mix');
  await press(page.getByRole('button', { name: 'Lux to PAR: my meter reads' }));
  await page.getByTestId('meter-reads').fill('many');
  await expect(page.getByText(/Give what it shows, a number/)).toBeVisible();
  await page.getByTestId('meter-reads').fill('1000');
  const lux = await figure(page.getByTestId('meter-par'));
  await expect(page.getByTestId('meter-par')).toContainText(/PAR \d+\sµmol, ±\s\d+\s%/);
  await expect(page.getByTestId('meter-fixed')).toContainText('A fixed factor fails');
  await press(page.getByRole('radio', { name: '× 10', exact: true }));
  expect(Math.abs((await figure(page.getByTestId('meter-par'))) / lux - 10)).toBeLessThan(0.1);
  await press(page.getByTestId('meter-ratio-fold'));
  await page.getByTestId('meter-before').fill('500');
  await press(page.getByRole('radio', { name: 'Deep shelf' }));
  await expect(page.getByTestId('meter-ratio')).toContainText(
    /PAR now is \d\.\d\d\s× what it was, ±\s\d+\s%/,
  );
  await press(page.getByRole('button', { name: 'Done' }));

  const before = await figure(page.getByTestId('mix-umol'));
  await press(page.getByRole('button', { name: 'For photographs' }));
  await expect(page.getByTestId('photograph')).toContainText(/^\d+\sK, PAR × \d\.\d\d at the coral/);
  await press(page.getByTestId('keep-photograph'));
  await expect(page.getByTestId('figures')).toContainText(/Tint\d+\sK/);
  expect(before).toBeGreaterThan(0);

  // warnings by name, only when they are true
  await expect(page.getByTestId('mix-warnings').getByText(/A single blue/)).toHaveCount(0);
  for (const id of ['near-uv', 'violet', 'blue', 'cyan', 'lime', 'cool-white', 'deep-red'])
    await type(page, `level-${id}`, '0');
  await type(page, 'level-royal-blue', '60');
  await expect(page.getByTestId('mix-warnings')).toContainText('A single blue does everything');
  await type(page, 'level-deep-red', '60');
  await expect(page.getByTestId('mix-warnings')).toContainText(/Red is \d+(\.\d)?\s% of PAR, above 8\s%/);
});

test('@phone a plate goes along in a link, is looked at in another window, and taken', async ({
  page,
  context,
}) => {
  await open(page, '/plates');
  await press(page.getByRole('button', { name: /Late light/ }).first());
  await press(page.getByTestId('plate-link'));
  await expect(page.getByTestId('qr')).toBeVisible();
  const link = (await page.getByTestId('link').textContent())!;
  expect(link.length).toBeLessThan(2200);
  const other = await context.newPage();
  await other.clock.setFixedTime(NOW);
  await other.goto(link);
  await expect(other.getByTestId('given-for')).toContainText('A mix for Eight-channel panel');
  await press(other.getByTestId('given-take'));
  await expect(other.getByTestId('plates')).toBeVisible();
  await expect(other.getByRole('button', { name: /Late light/ })).toHaveCount(2);
  // cut off it is refused, and nothing is changed
  await other.goto(link.slice(0, -30));
  await expect(other.getByTestId('given-sentence')).toContainText('It cannot be opened');
});
