import { readFileSync } from 'node:fs';

import { drag, expect, figure, go, NOW, open, press, pull, saved, test, type } from './kit';

const CHANNELS: [name: string, peak: string, width: string, count: string, watts: string][] = [
  ['UV', '395', '13', '4', '2'],
  ['Violet', '420', '15', '6', '2'],
  ['Deep blue', '448', '19', '12', '2,5'],
  ['Sky', '470', '22', '8', '2.5'],
  ['Leaf', '525', '32', '2', '2'],
  ['Red', '660', '18', '2', '2'],
];

test('from nothing: a six-channel lamp, a tank, a reading, a pull, a thread, the sheet, typed in, and all of it back from a file @phone', async ({
  page,
}) => {
  await open(page, '/start?exact=1');
  // an empty form says what is missing
  await press(page.getByTestId('start-submit'));
  await expect(page.getByRole('alert').first()).toBeVisible();

  await page.getByTestId('case-name').fill('Kitchen reef');
  await page.getByTestId('tank-length').fill('90');
  await page.getByTestId('tank-width').fill('45');
  await page.getByTestId('tank-depth').fill('45');
  await page.getByTestId('lamp-name').fill('Six-channel lamp');
  for (let i = 1; i < CHANNELS.length; i += 1) await press(page.getByTestId('add-channel'));
  for (const [i, [name, peak, width, count, watts]] of CHANNELS.entries()) {
    await page.getByTestId(`channel-${i}-name`).fill(name);
    await page.getByTestId(`channel-${i}-peak`).fill(peak);
    await page.getByTestId(`channel-${i}-width`).fill(width);
    await page.getByTestId(`channel-${i}-count`).fill(count);
    await page.getByTestId(`channel-${i}-watts`).fill(watts);
  }
  await page.getByTestId('lamp-height').fill('20');
  await page.getByTestId('spot-0-name').fill('Green finger');
  await page.getByTestId('spot-0-x').fill('40');
  await page.getByTestId('spot-0-y').fill('20');
  await page.getByTestId('spot-0-depth').fill('300');
  await press(page.getByTestId('start-submit'));
  await expect(page.getByText(/Lies outside the water: at most 45\scm/)).toBeVisible();

  // a reload in the middle of the form loses nothing
  await page.getByTestId('spot-0-depth').fill('25');
  await page.reload();
  await expect(page.getByTestId('channel-5-name')).toHaveValue('Red');
  await expect(page.getByTestId('spot-0-depth')).toHaveValue('25');
  await press(page.getByTestId('start-submit'));

  // a first safe day: no coral beyond the lower edge of its band
  await expect(page.getByTestId('day-figures')).toContainText('Green finger');
  const firstPeak = Number(/peak (\d+)/.exec((await page.getByTestId('day-figures').textContent())!)![1]);
  expect(firstPeak).toBeGreaterThan(40);
  expect(firstPeak).toBeLessThanOrEqual(50);
  await expect(page.getByText(/estimate ±\s\d+\s%/i).first()).toBeVisible();

  // one reading moves everything
  await go(page, 'Case');
  await press(page.getByTestId('new-reading'));
  await press(page.getByRole('button', { name: 'Another meter or other places' }));
  await press(page.getByRole('radio', { name: 'Quantum meter, full spectrum' }));
  await press(page.getByTestId('walk'));
  await press(page.getByTestId('change-lit'));
  await press(page.getByRole('radio', { name: /^12:00/ }));
  await page.keyboard.press('Escape');
  await expect(page.getByTestId('walk-expected')).toContainText(/expects \d/);
  const model = Number(
    /expects (\d+(\.\d+)?)/.exec((await page.getByTestId('walk-expected').textContent())!)![1],
  );
  await press(page.getByTestId('next-place'));
  await expect(page.getByText(/Type a reading first/)).toBeVisible();
  for (const digit of String(Math.round(model * 1.2))) await press(page.getByTestId(`key-${digit}`));
  // half typed, it outlives a reload
  await page.reload();
  await expect(page.getByTestId('walk-value')).toHaveText(String(Math.round(model * 1.2)));
  await press(page.getByTestId('another-try'));
  await go(page, 'Case');
  await expect(page.getByTestId('par-basis')).toContainText('fitted to 1 reading');

  // pull a channel: light follows while the finger is still down
  await go(page, 'Mix');
  const umol = page.getByTestId('mix-umol');
  const before = await figure(umol);
  // one reading counts for most of itself; what may be the meter's stays with the meter
  expect(before / model).toBeGreaterThan(1.1);
  expect(before / model).toBeLessThan(1.22);
  let during = 0;
  await pull(page, /^Deep blue/, 50, async () => {
    during = await figure(umol);
  });
  const after = await figure(umol);
  expect(during).toBeGreaterThan(before);
  expect(after).toBe(during);
  await expect(page.getByTestId('threads-changed')).toContainText('Changes 12:00');

  // typed and stepped levels say the same thing
  await type(page, 'level-' + (await idOf(page, 'Red')), '140');
  await expect(page.getByText('0 to 100')).toBeVisible();
  await type(page, 'level-' + (await idOf(page, 'Red')), '30');
  await press(page.getByRole('button', { name: 'Red up' }));
  await expect(page.getByTestId('level-' + (await idOf(page, 'Red')))).toHaveValue('31');

  // move a thread: sideways for time, up for strength
  await go(page, 'Day');
  const handle = page.getByTestId('thread-20:00');
  await handle.scrollIntoViewIfNeeded();
  const box = (await handle.boundingBox())!;
  await drag(page, { x: box.x + 20, y: box.y + 20 }, { x: 30, y: 2 });
  await expect(page.getByTestId('thread-20:00')).toHaveCount(0);
  await press(page.getByRole('button', { name: 'Add a thread' }));
  await page.getByTestId('thread-time').fill('25:00');
  await page.getByTestId('thread-time').press('Enter');
  await expect(page.getByText(/give a time of day such as 14:30/)).toBeVisible();
  await type(page, 'thread-time', '15:15');
  await type(page, 'thread-strength', '90');
  await press(page.getByRole('button', { name: 'Done' }));
  await expect(page.getByTestId('thread-15:15')).toBeVisible();
  // raise the cap well beyond what is safe
  await type(page, 'cap', '60');
  await saved(page);

  // the sheet: not safe at once, so it is eased in, by dated steps
  await expect(page.getByTestId('verdict')).toContainText('Ease this in');
  await press(page.getByRole('button', { name: /^The sheet/ }));
  await expect(page.getByTestId('sheet-cap')).toHaveText('No cap');
  await expect(page.getByTestId('safety')).toContainText(/Ease this in: Green finger/);
  await press(page.getByTestId('to-ease'));
  await expect(page.getByTestId('ease-sentence')).toContainText(/Made at once, Green finger would get/);
  await expect(page.getByTestId('step-3')).toContainText('strength');
  await expect(page.getByTestId('ease-steps')).toContainText('Tue 24 Nov');
  for (const i of [0, 1, 2]) {
    const question = page.getByTestId(`high-${i}`);
    if (await question.isVisible()) await press(question);
  }
  await press(page.getByTestId('start-plan'));

  // Today agrees, and still does after a reload
  await expect(page.getByTestId('today-sentence')).toContainText(
    /Green finger is within what it is used to[^.]*\. The lamp runs as typed in today/,
  );
  const now = await figure(page.getByTestId('now-umol'));
  expect(now).toBeGreaterThan(0);
  await expect(page.getByTestId('easing-step')).toContainText(
    /Step 2 of \d+ on \w+ \d+ Nov: strength \d+\s%/,
  );
  await saved(page);
  await page.reload();
  await expect(page.getByTestId('now-umol')).toHaveText(`${now} µmol`);
  await expect(page.getByTestId('today-sentence')).toContainText('as typed in today');

  // the next step comes due and is typed in
  // measured at once, the light is more than was planned for: the step waits a day longer
  await page.clock.setFixedTime(new Date(NOW.getTime() + 3 * 86_400_000));
  await page.reload();
  // until readings are fitted again, what stands there is the estimate without them
  await expect(page.getByText(/fitted to 1 reading/).first()).toBeVisible();
  const before2 = await figure(page.getByTestId('now-umol'));
  await press(page.getByTestId('due'));
  await expect(page.getByTestId('plan-preview')).toBeVisible();
  await press(page.getByTestId('plan-keep'));
  await expect.poll(() => figure(page.getByTestId('now-umol'))).toBeGreaterThan(before2);
  await press(page.getByTestId('undo'));
  await page.clock.setFixedTime(NOW);
  await saved(page);
  await page.reload();
  await expect(page.getByTestId('now-umol')).toHaveText(`${now} µmol`);

  // undo of the last command within a session
  await go(page, 'Day');
  await type(page, 'cap', '20');
  await expect(page.getByTestId('cap')).toHaveValue('20');
  await press(page.getByTestId('undo'));
  await expect(page.getByTestId('cap')).toHaveValue('60');

  // export, clear, import: the same case
  await go(page, 'Case');
  const waiting = page.waitForEvent('download');
  await press(page.getByRole('button', { name: /^Export the open case/ }));
  const file = (await (await waiting).path())!;
  const exported = readFileSync(file, 'utf8');
  await press(page.getByRole('button', { name: 'Delete the open case' }));
  await press(page.getByTestId('delete-confirm'));
  await expect(page.getByRole('button', { name: 'Kitchen reef, open' })).toHaveCount(0);
  const chooser = page.waitForEvent('filechooser');
  await press(page.getByRole('button', { name: /^Import/ }));
  await (
    await chooser
  ).setFiles({ name: 'kitchen.json', mimeType: 'application/json', buffer: Buffer.from(exported) });
  await expect(page.getByTestId('case-message')).toHaveText('Imported Kitchen reef.');
  const again = page.waitForEvent('download');
  await press(page.getByRole('button', { name: /^Export the open case/ }));
  expect(readFileSync((await (await again).path())!, 'utf8')).toBe(exported);
  await go(page, 'Today');
  await expect(page.getByTestId('now-umol')).toHaveText(`${now} µmol`);
});

/** The random id behind a channel's name, from the level field that carries the name. */
async function idOf(page: import('@playwright/test').Page, name: string): Promise<string> {
  const id = await page.getByLabel(`${name}, % of full`).getAttribute('data-testid');
  return id!.slice('level-'.length);
}

test('in inches, gallons and by am and pm: words, fields and the sheet; what is stored stays in centimetres @phone', async ({
  page,
}) => {
  await open(page, '/case');
  for (const [part, choice] of [
    ['length', 'inches'],
    ['volume', 'US gallons'],
    ['clock', 'am and pm'],
  ] as const) {
    await press(page.getByTestId(`set-units-${part}`));
    await press(page.getByRole('radio', { name: choice, exact: true }));
  }
  await press(page.getByTestId('set-water-size'));
  const length = page.getByTestId('zone-lengthCm');
  await expect(length).toHaveValue('59.06');
  await type(page, 'zone-lengthCm', '60');
  await expect(length).toHaveValue('60');
  await type(page, 'zone-widthCm', '500');
  await expect(page.getByText('▲ Give 2 to 393.7 in.')).toBeVisible();
  await type(page, 'zone-widthCm', '24');
  await saved(page);
  // over a reload, on other places, and for a time that is typed
  await open(page, '/tank');
  await expect(page.getByTestId('tank')).toContainText('60 × 24 × 19.7 in of water');
  await open(page, '/day');
  await expect(page.getByTestId('day')).toContainText('at 2:05 pm');
  await press(page.getByTestId('thread-10:30'));
  const at = page.getByTestId('thread-time');
  await expect(at).toHaveValue('10:30 am');
  await type(page, 'thread-time', '9:45 am');
  await page.keyboard.press('Escape');
  await expect(page.getByTestId('thread-09:45')).toContainText('9:45a');
  await go(page, 'Case');
  await press(page.getByTestId('set-units-length'));
  await press(page.getByRole('radio', { name: 'centimetres' }));
  await press(page.getByTestId('set-water-size'));
  await expect(length).toHaveValue('152.4');
  await expect(page.getByTestId('zone-widthCm')).toHaveValue('60.96');
});
