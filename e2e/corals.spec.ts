import { expect, figure, go, open, press, pull, saved, test, type } from './kit';

test.use({ pictures: true });

/** What the picture of the tank shows, roughly: its mean colour. */
const seen = (page: import('@playwright/test').Page) =>
  page
    .getByTestId('look')
    .locator('canvas')
    .first()
    .evaluate((c: HTMLCanvasElement) => {
      const { data } = c.getContext('2d')!.getImageData(0, 0, c.width, c.height);
      const sum = [0, 0, 0];
      data.forEach((v, i) => i % 4 < 3 && (sum[i % 4]! += v));
      return sum.map((v) => Math.round((400 * v) / data.length) / 100);
    });

test('corals follow a pull, are edited, lose their glow with their proteins, and come back with undo', async ({
  page,
}) => {
  await open(page, '/mix');
  await expect(page.getByTestId('figures')).toBeVisible();
  // the whole picture, not the coarse one that stands in for it
  const width = async () => Number(await page.getByTestId('look').locator('canvas').getAttribute('width'));
  await expect.poll(width).toBeGreaterThan(700);
  const before = await seen(page);
  let during = before;
  await pull(page, /^Royal blue/, -90, async () => {
    during = await seen(page);
  });
  // less blue arrives while the finger is still down
  expect(during[2]).toBeLessThan(before[2]! - 2);
  await press(page.getByTestId('undo'));

  await press(page.getByRole('button', { name: 'Corals: seen in their colours' }));
  const glow = page.getByTestId('glow-Moss branch');
  const glowing = await figure(glow);
  expect(glowing).toBeGreaterThan(20);
  await press(page.getByRole('button', { name: 'Open Moss branch' }));
  await expect(page.getByTestId('coral-fed')).toContainText(/Its glow is fed by (royal blue|blue) \d+\s%/);
  await press(page.getByTestId('edit-form'));
  await type(page, 'amount-green', '140');
  await expect(page.getByText('0 to 100')).toBeVisible();
  for (const region of ['tips', 'body', 'polyps']) {
    await press(page.getByRole('radio', { name: region, exact: true }));
    for (const family of ['green', 'shortGreen', 'brown']) await type(page, `amount-${family}`, '0');
  }
  await press(page.getByRole('button', { name: 'Done' }));
  await expect(page.getByTestId('coral-glow')).toContainText(/^0\s% of what the eye gets/);
  await press(page.getByRole('button', { name: 'Done' }));
  await expect(glow).toContainText('0 % glow');
  await saved(page);
  await page.reload();
  await expect(glow).toContainText('0 % glow');
});

test('a form is fitted from lone colours, with its doubt; notes of lone colours are kept @phone', async ({
  page,
}) => {
  await open(page, '/corals?coral=demo-plum');
  // the sheet grows when the light is there
  await expect(page.getByText(/Its glow is fed by/)).toBeVisible();
  await press(page.getByTestId('fit-form'));
  await expect(page.getByText(/look dimmer than they are/).last()).toBeVisible();
  await expect(page.getByTestId('fit-says')).toHaveText('Nothing picked yet.');
  await expect(page.getByTestId('fit-tell')).toContainText('bits');
  const under = (colour: string) =>
    page.getByRole('radiogroup', { name: `Seen under ${colour} alone` }).getByRole('radio');
  await press(under('Royal blue').last());
  await expect(page.getByTestId('fit-says')).toContainText(/Cannot tell yet|Most likely/);
  for (const colour of ['Violet', 'Blue', 'Cyan', 'Lime', 'Cool white', 'Deep red'])
    await press(under(colour).first());
  await expect(page.getByTestId('fit-says')).toContainText(/\d+\s%/);
  await press(page.getByTestId('fit-use'));
  await press(page.getByTestId('saw-hueMoved'));
  await expect(page.getByText('Near UV on the growing rim: hue moved')).toBeVisible();
  await press(page.getByTestId('saw-lost'));
  await expect(page.getByText('Near UV on the growing rim: lost')).toBeVisible();
  await expect(page.getByText('Near UV on the growing rim: hue moved')).toHaveCount(0);
  await press(page.getByTestId('choose-form'));
  await press(page.getByRole('button', { name: 'Form Blue staves' }));
  await press(page.getByRole('button', { name: 'Done' }));
  await expect(page.getByRole('button', { name: 'Open Plum table' })).toContainText('Blue staves');
  await saved(page);
});

test('a mix is designed for the demo corals, kept, compared, and still there after a reload @phone', async ({
  page,
}) => {
  await open(page, '/corals');
  await expect(page.getByTestId('advice-white')).toContainText(
    /most colours are plainly seen with about \d+\s%/,
  );
  await press(page.getByRole('button', { name: 'Design a mix for them' }));
  await press(page.getByRole('radio', { name: 'Natural look' }));
  await expect(page.getByTestId('aim-look')).toHaveText('25');
  await press(page.getByRole('button', { name: 'Look up', exact: true }));
  await expect(page.getByTestId('aim-look')).toHaveText('30');
  await type(page, 'design-par', 'bright');
  await expect(page.getByText('Give 1 to 2000 µmol.')).toBeVisible();
  await type(page, 'design-par', '180');
  await press(page.getByTestId('design-start'));
  await expect(page.getByTestId('answer-2')).toBeVisible();
  await expect(page.getByTestId('answer-0')).toContainText(/→/);
  await expect(page.getByTestId('answer-0')).toContainText(/1(7[89]|8[0-2])\sµmol/);
  await press(page.getByTestId('keep-0'));
  await expect(page.getByTestId('mix')).toBeVisible();
  const title = page.getByRole('button', { name: /choose, copy, rename/ });
  await expect(title).toContainText(/, from Reading noon/);
  await press(page.getByRole('button', { name: 'Compare this mix with lamps and other mixes' }));
  await press(page.getByTestId('compare-add'));
  await press(page.getByRole('button', { name: 'Add Reading noon' }));
  await expect(page.getByTestId('compare-says')).toContainText('only the colour differs');
  await saved(page);
  await go(page, 'Mix');
  await page.reload();
  await expect(title).toContainText(/, from Reading noon/);
  // designing is undone like everything else
  await go(page, 'Case');
  await press(page.getByRole('button', { name: 'Plates' }));
  await expect(page.getByRole('button', { name: /from Reading noon$/ })).toHaveCount(1);
});
