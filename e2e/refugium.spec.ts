import { expect, go, NOW, open, press, saved, test, type } from './kit';

type Page = import('@playwright/test').Page;
const later = async (page: Page, days: number) => {
  await saved(page);
  await page.clock.setFixedTime(new Date(NOW.getTime() + days * 86_400_000));
  await page.reload();
  await saved(page);
};
const water = (page: Page, name: string) =>
  press(page.getByRole('radiogroup', { name: 'Water' }).getByRole('radio', { name, exact: true }));

/** A harvest and what was left, with the way it stands there for draining. */
const harvest = async (page: Page, wet: number, left: number) => {
  await go(page, 'Log');
  await press(page.getByTestId('log-harvest'));
  await page.getByTestId('harvest-wet').fill(String(wet));
  await page.getByTestId('harvest-left').fill(String(left));
  await expect(page.getByTestId('harvest-live')).toContainText(/g of nitrogen.*ppm nitrate.*of \d+ l/);
  await press(page.getByTestId('keep-event'));
  await expect(page.getByTestId('keep-event')).toHaveCount(0);
};
const tested = async (page: Page, nitrate: string, phosphate: string) => {
  await press(page.getByTestId('log-test'));
  await page.getByTestId('test-nitratePpm').fill(nitrate);
  await page.getByTestId('test-phosphatePpm').fill(phosphate);
  await press(page.getByTestId('keep-event'));
  await expect(page.getByTestId('keep-event')).toHaveCount(0);
};

test('@phone a refugium from the path: an undimmable lamp eased in, three harvests, and what they say', async ({
  page,
}) => {
  test.setTimeout(150_000);
  await open(page, '/case');
  await press(page.getByTestId('case-which'));
  await expect(page.getByTestId('which-sentence')).toContainText(/^Red and blue\. Nobody looks/);
  // near-pure blue is refused, with the share as the reason
  await expect(
    page.getByText(/Near-pure blue is no light for a green tangle: it can use \d\d\s% of it/),
  ).toBeVisible();
  await page.getByTestId('which-length').fill('0');
  await press(page.getByTestId('which-look'));
  await expect(page.getByText('▲ Give 5 to 1000 cm.')).toBeVisible();
  await page.getByTestId('which-length').fill('50');
  await page.getByTestId('which-name').fill('Sump');
  await press(page.getByTestId('which-look'));
  await press(page.getByRole('button', { name: 'Set up with 1 × Red-and-blue refugium lamp' }));

  // its days grow: the peak is whole from the first day, and that is said
  await expect(page.getByTestId('ease-sentence')).toContainText(
    /Made at once, Green tangle would get \d\.\d\d?\s× what it is used to(?: \(± \d+\s%\))?\. In \w+ steps/,
  );
  await expect(page.getByTestId('set-method')).toHaveText('by hours');
  await expect(page.getByText(/Hours cannot ease the peak: Green tangle gets/)).toBeVisible();
  await press(page.getByTestId('set-steps'));
  await press(page.getByRole('radio', { name: 'Few changes' }));
  await type(page, 'ease-changes', '3');
  await type(page, 'ease-every', '4');
  await expect(page.getByTestId('step-2')).toBeVisible();
  await expect(page.getByTestId('step-3')).toHaveCount(0);
  await press(page.getByTestId('start-plan'));
  await expect(page.getByTestId('today-sentence')).toContainText('as typed in today');
  for (const day of [4, 8]) {
    await later(page, day);
    await expect(page.getByTestId('due')).toContainText('Next step:');
    await press(page.getByTestId('due'));
    await expect(page.getByTestId('plan-preview')).toBeVisible();
    await press(page.getByTestId('plan-keep'));
    await expect(page.getByTestId('plan-keep')).toHaveCount(0);
  }
  await expect(page.getByTestId('easing-step')).toHaveText('No easing-in step is planned.');

  // lit while the display is dark
  await page.goto('/hours');
  await expect(page.getByTestId('hours-sentence')).toContainText('Sump is lit 12 h a day');
  await expect(page.getByTestId('night-Display')).toBeVisible();
  await expect(page.getByTestId('night-Sump')).toBeVisible();

  // one harvest tells nothing yet; three do, and without tests it cannot be told
  await later(page, 22);
  await harvest(page, 120, 250);
  await page.goto('/algae');
  await expect(page.getByTestId('verdict-Green tangle')).toContainText('Cannot tell');
  await expect(page.getByText('· a second weighed harvest, with what was left of the mat')).toBeVisible();
  await later(page, 36);
  await harvest(page, 55, 250);
  await later(page, 50);
  await harvest(page, 50, 250);
  // the tests show what it is
  await tested(page, '0.3', '0.09');
  await page.goto('/algae');
  await expect(page.getByTestId('algae-sentence')).toContainText(
    /Green tangle puts on 3\.\d g a day\. More nitrate would help it most\./,
  );
  await expect(page.getByTestId('verdict-Green tangle')).toContainText('More light would do nothing');
  await expect(page.getByTestId('taken-Green tangle')).toContainText(
    /g wet a week by 2 harvests over 28 days/,
  );
  await press(page.getByTestId('each-harvest'));
  await expect(page.getByText(/a day: doubles in \d+ days/).first()).toBeVisible();
  // a harvest is corrected, and undone
  await press(page.getByRole('button', { name: /^Harvest of/ }).first());
  await page.getByTestId('harvest-wet').fill('');
  await press(page.getByTestId('keep-event'));
  await expect(page.getByText('▲ Give grams from 0 on.')).toBeVisible();
  await press(page.getByTestId('remove-event'));
  await expect(page.getByTestId('taken-Green tangle')).toContainText('by 1 harvest over');
  await press(page.getByTestId('undo'));
  await expect(page.getByTestId('taken-Green tangle')).toContainText('by 2 harvests over');
});

test('waters are added, named, spoken of, summed up, removed and brought back', async ({ page }) => {
  await open(page);
  await expect(page.getByTestId('water-Refugium')).toContainText(
    /dark until 19:30 · peak \d+\sµmol at Green tangle/,
  );
  // what stands above has come too, so that the row stays where it is
  await expect(page.getByTestId('now-umol')).toBeVisible();
  await expect(page.getByTestId('so-far')).toBeVisible();
  await press(page.getByRole('button', { name: 'Show Refugium' }));
  await expect(page.getByTestId('water-Display')).toContainText('lit until 20:10');
  await expect(page.getByTestId('stage')).toContainText('now at Green tangle');
  for (const [place, words] of [
    ['Day', 'Sump lamp'],
    ['Tank', 'Refugium · 45 × 35 × 30 cm of water'],
    ['Log', 'Refugium'],
  ] as const) {
    await go(page, place);
    await expect(page.getByText(words, { exact: false }).filter({ visible: true }).first()).toBeVisible();
  }
  await go(page, 'Case');
  await press(page.getByTestId('add-water'));
  await press(page.getByTestId('keep-water'));
  await expect(page.getByText('▲ Give it a name.')).toBeVisible();
  await page.getByTestId('water-name').fill('Display');
  await press(page.getByTestId('keep-water'));
  await expect(page.getByText('▲ Another water of this case has that name.')).toBeVisible();
  await page.getByTestId('water-name').fill('Frag shelf');
  await press(page.getByRole('radio', { name: /^display:/ }));
  await press(page.getByTestId('keep-water'));
  await go(page, 'Today');
  await expect(page.getByTestId('today-sentence')).toHaveText('No lamp hangs over this water yet.');
  await water(page, 'Refugium');
  await go(page, 'Case');
  await press(page.getByRole('button', { name: 'Water Refugium' }));
  await press(page.getByTestId('remove-water'));
  await expect(page.getByRole('radio', { name: 'Refugium', exact: true })).toHaveCount(0);
  await press(page.getByTestId('undo'));
  await water(page, 'Refugium');
  await go(page, 'Log');
  await press(page.getByTestId('set-lane'));
  await press(page.getByRole('radio', { name: 'Harvests' }));
  await expect(page.getByTestId('line-harvest')).toHaveCount(5);
  // and all of it after a reload
  await saved(page);
  await page.reload();
  await expect(page.getByTestId('line-harvest').or(page.getByTestId('line-light')).first()).toBeVisible();
});

test('@phone round the clock is drafted with its cost, a strong lamp is told, upkeep is kept', async ({
  page,
}) => {
  await open(page, '/hours');
  await water(page, 'Refugium');
  await expect(page.getByTestId('hours-plan')).toContainText(
    'On at 20:30, off at 08:30: never together with Display',
  );
  await press(page.getByRole('radio', { name: 'Round the clock' }));
  await expect(page.getByTestId('hours-plan')).toContainText(
    /Always on: 11\sh 30\smin together with Display\. 0\.87\skWh a day; now 0\.44/,
  );
  await press(page.getByTestId('hours-take'));
  await expect(page.getByTestId('lit-Refugium')).toHaveText('round the clock');
  await press(page.getByTestId('hours-ease'));
  await expect(page.getByTestId('ease-sentence')).toContainText(
    'Made at once, Green tangle would get 1.99 ×',
  );

  await page.goto('/sizing');
  await press(page.getByTestId('set-size-alga'));
  await press(page.getByRole('radio', { name: 'Red leaf' }));
  await press(page.getByTestId('set-size-up'));
  await type(page, 'size-room', '14');
  await press(page.getByTestId('find-lamps'));
  await expect(page.getByTestId('lamp-ways')).toContainText(
    /Too strong, and it cannot be dimmed: up to \d+\sµmol at 14\scm, and 100 is the most/,
  );
  await type(page, 'size-room', '3');
  await expect(page.getByText(/too little, it leans from beside/)).toBeVisible();
  await press(page.getByTestId('find-lamps'));
  await expect(page.getByTestId('lamp-ways')).toContainText('leaning from behind');
  await expect(page.getByTestId('outlook-nitrate')).toContainText(
    /Nitrate 9\.0\sppm would be down at 1\sppm in about \d+ weeks/,
  );
  await type(page, 'system-dosedNitratePpm', '2');
  await expect(page.getByTestId('outlook-nitrate')).toContainText('the algae work against it');

  await page.goto('/upkeep');
  await expect(page.getByTestId('due-salt')).toHaveText('in 12 days');
  await type(page, 'every-salt', '7');
  await expect(page.getByTestId('due-salt')).toContainText('2 days late');
  await press(page.getByTestId('done-salt'));
  await expect(page.getByTestId('due-salt')).toHaveText('in 7 days');
  await press(page.getByTestId('undone-salt'));
  await expect(page.getByTestId('due-salt')).toContainText('2 days late');
});
