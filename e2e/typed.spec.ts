import type { Page } from '@playwright/test';

import { expect, go, open, press, saved, test, type } from './kit';

/** Every form in which something is typed before it is kept: where it is, how it is opened, a field of it. */
const FORMS: [
  name: string,
  path: string,
  opening: (page: Page) => Promise<void>,
  field: string,
  text: string,
][] = [
  [
    'a new coral',
    '/tank',
    async (p) => {
      // the chart above comes a moment later and moves what is folded
      await expect(async () => {
        if (!(await p.getByTestId('add-spot').isVisible())) await press(p.getByTestId('other-corals'));
        await expect(p.getByTestId('add-spot')).toBeVisible({ timeout: 2000 });
      }).toPass();
      await press(p.getByTestId('add-spot'));
    },
    'spot-x',
    '33.5',
  ],
  [
    'a lamp more',
    '/case',
    (p) => press(p.getByRole('button', { name: /^Hang one more/ }).first()),
    'lamp-x',
    '71',
  ],
  ['a new water', '/case', (p) => press(p.getByTestId('add-water')), 'water-name', 'Frag box'],
  [
    'an entry of the log',
    '/log',
    (p) => press(p.getByTestId('log-note')),
    'event-note',
    'Pumps turned round',
  ],
  ['a sign', '/log', (p) => press(p.getByTestId('log-sign')), 'sign-note', 'left tip only'],
  ['a counted lamp', '/lamps', (p) => press(p.getByTestId('census')), 'census-name', 'Attic lamp'],
  ['a typed lamp', '/lamps', (p) => press(p.getByTestId('type-lamp')), 'channel-0-name', 'Deep blue'],
  [
    'a height',
    '/lamps',
    (p) => press(p.getByRole('button', { name: /^Open / }).first()),
    'hang-height',
    '37',
  ],
  ['needs', '/tank?open=needs', () => Promise.resolve(), 'need-soft-from', '55'],
  ['rock', '/tank?open=rock', (p) => press(p.getByTestId('add-rock')), 'rock-x', '44'],
  ['yellow water', '/tank?open=water', () => Promise.resolve(), 'carbon-days', '21'],
  [
    'a version of a plate',
    '/plates',
    async (p) => {
      await press(p.getByRole('button', { name: /^Open plate / }).first());
      await press(p.getByTestId('versions'));
    },
    'version-note',
    'before the move',
  ],
  [
    'a session with the meter',
    '/readings',
    async (p) => {
      await press(p.getByTestId('start-session'));
      await press(p.getByTestId('eyes-shaded'));
    },
    'immersion',
    '1.31',
  ],
  [
    'what a meter reads',
    '/mix',
    (p) => press(p.getByRole('button', { name: 'Lux to PAR: my meter reads' })),
    'meter-reads',
    '3150',
  ],
];
/** Forms that stand on their page: where, a field, what is typed. */
const ON_PAGES: [name: string, path: string, field: string, text: string, part?: string][] = [
  ['an interlude', '/around', 'interlude-minutes', '47', 'set-interlude-when'],
  ['a proof', '/prove', 'proof-value', '212'],
  ['a refugium', '/which?for=filter', 'which-length', '52'],
  ['a line of Compare', '/compare', 'hours-0', '7'],
];
const done = (page: Page) => press(page.getByRole('button', { name: 'Done', exact: true }).last());
const WAYS: [name: string, leave: (page: Page) => Promise<unknown>][] = [
  ['Done', done],
  ['a tap outside', (page) => page.mouse.click(20, 20)],
  ['Escape', (page) => page.keyboard.press('Escape')],
  ['back and forth', async (page) => (await page.goBack(), page.goForward())],
  ['a reload', (page) => page.reload()],
];

for (const [i, [name, path, opening, field, text]] of FORMS.entries())
  test(`${name} keeps what was typed however it is closed, until it is started over @phone`, async ({
    page,
  }) => {
    await open(page, path);
    await opening(page);
    const typed = page.getByTestId(field);
    const stands = await typed.inputValue();
    expect(text).not.toBe(stands);
    await typed.fill(text);
    // every form by two ways, all ways by the forms together
    for (const [way, leave] of [WAYS[i % 4]!, i % 2 === 0 ? WAYS[4]! : WAYS[(i + 1) % 4]!]) {
      await leave(page);
      if (way === 'back and forth' || way === 'a reload')
        await expect(page.getByTestId('save-sign')).toHaveText('Saved');
      if (path.includes('open=') && (way === 'Done' || way === 'a tap outside' || way === 'Escape'))
        await open(page, path);
      if (!(await typed.isVisible())) await opening(page);
      await expect(typed, `${name}, closed by ${way}`).toHaveValue(text);
    }
    await press(page.getByTestId('start-over').last());
    await expect(typed).toHaveValue(stands);
  });

for (const [name, path, field, text, part] of ON_PAGES)
  test(`${name} keeps what was typed over another place and a reload @phone`, async ({ page }) => {
    await open(page, path);
    const typed = page.getByTestId(field);
    // the field may stand behind a part of a sentence
    const shown = async () => {
      if (part && !(await typed.isVisible())) await press(page.getByTestId(part));
      return typed;
    };
    expect(text).not.toBe(await (await shown()).inputValue());
    await typed.fill(text);
    await go(page, 'Log');
    await page.goBack();
    await expect(await shown()).toHaveValue(text);
    await page.reload();
    await expect(page.getByTestId('save-sign')).toHaveText('Saved');
    await expect(await shown()).toHaveValue(text);
  });

test('the start form keeps what was typed over a reload and another place @phone', async ({ page }) => {
  await open(page, '/start?exact=1');
  await page.getByTestId('case-name').fill('Kitchen reef');
  await press(page.getByTestId('add-channel'));
  await page.getByTestId('channel-1-name').fill('Violet');
  await open(page, '/log');
  await open(page, '/start?exact=1');
  await expect(page.getByTestId('case-name')).toHaveValue('Kitchen reef');
  await expect(page.getByTestId('channel-1-name')).toHaveValue('Violet');
  await press(page.getByTestId('start-over'));
  await expect(page.getByTestId('case-name')).toHaveValue('My tank');
  await expect(page.getByTestId('channel-1-name')).toHaveCount(0);
});

test('a value that cannot be taken is back with its error when its place is, also after a reload @phone', async ({
  page,
}) => {
  await open(page, '/day');
  await page.getByTestId('cap').fill('140');
  await go(page, 'Log');
  await go(page, 'Day');
  for (let time = 0; time < 2; time += 1) {
    await expect(page.getByTestId('cap')).toHaveValue('140');
    await expect(page.getByText('Cap: give 0 to 100 %.')).toBeVisible();
    await page.reload();
  }
  await type(page, 'cap', '70');
  await saved(page);
  await page.reload();
  await expect(page.getByTestId('cap')).toHaveValue('70');
});

test('an error that comes while a finger leaves its field moves nothing from under it @phone', async ({
  page,
}) => {
  await open(page, '/start?exact=1');
  await page.getByTestId('tank-length').fill('many');
  await page.getByTestId('channel-0-name').fill('');
  // the tap that leaves the field is the tap on the key
  await press(page.getByTestId('add-channel'));
  await expect(page.getByTestId('channel-1-name')).toBeVisible();
  await page.getByTestId('channel-1-name').focus();
  await press(page.getByTestId('channel-0').getByRole('radio', { name: 'White' }));
  await expect(page.getByTestId('channel-0').getByRole('radio', { name: 'White' })).toHaveAttribute(
    'aria-checked',
    'true',
  );
  await expect(page.getByText(/Give a name|Give it a name/).first()).toBeVisible();
  // and whatever comes between a finger's coming down and its going up
  const { x, y } = (await page
    .getByTestId('channel-0')
    .getByRole('radio', { name: 'One colour' })
    .boundingBox())!;
  const client = await page.context().newCDPSession(page);
  await client.send('Input.dispatchTouchEvent', {
    type: 'touchStart',
    touchPoints: [{ x: x + 9, y: y + 9 }],
  });
  await page.getByTestId('channel-0').evaluate((box) => ((box as HTMLElement).style.marginTop = '160px'));
  await client.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] });
  await expect(page.getByTestId('channel-0').getByRole('radio', { name: 'One colour' })).toBeChecked();
});
