import { readFileSync } from 'node:fs';

import ICAL from 'ical.js';

import { drag, expect, figure, go, NOW, open, press, saved, test, type } from './kit';

type Page = import('@playwright/test').Page;
const later = async (page: Page, days: number) => {
  await saved(page);
  await page.clock.setFixedTime(new Date(NOW.getTime() + days * 86_400_000));
  await page.reload();
  await saved(page);
};
const agree = async (page: Page) => {
  for (const i of [0, 1, 2]) {
    const question = page.getByTestId(`high-${i}`);
    if (await question.isVisible()) await press(question);
  }
};

test('@phone a lamp is added, planned, missed, a coral pales, held, gone on, finished', async ({ page }) => {
  await open(page, '/case');
  await press(page.getByRole('button', { name: /Hang one more/ }));
  await page.getByTestId('lamp-x').fill('75');
  await press(page.getByTestId('keep-lamp'));
  await go(page, 'Day');
  // what is below moves down as the day is judged
  await expect(page.getByTestId('verdict')).toContainText('Ease this in');
  await press(page.getByRole('button', { name: /^The sheet/ }));
  await expect(page.getByTestId('safety')).toContainText(/Ease this in: Moss branch would get/);
  await press(page.getByTestId('to-ease'));
  // the coral under the new lamp limits it
  await expect(page.getByTestId('ease-sentence')).toContainText('Made at once, Moss branch would get 1.9');
  await expect(page.getByTestId('step-0')).toContainText('cap 53 %');
  await press(page.getByTestId('set-steps'));
  await press(page.getByRole('radio', { name: 'Few changes' }));
  await press(page.getByRole('radio', { name: 'Tue', exact: true }));
  await expect(page.getByTestId('step-3')).toContainText('cap 80 %');
  await agree(page);
  // the numbers of each step, for a calendar of another kind
  const waiting = page.waitForEvent('download');
  await press(page.getByTestId('ease-calendar'));
  const text = readFileSync((await (await waiting).path())!, 'utf8');
  const events = new ICAL.Component(ICAL.parse(text))
    .getAllSubcomponents('vevent')
    .map((e) => new ICAL.Event(e));
  expect(events.map((e) => e.startDate.toString())).toEqual([
    '2026-11-24',
    '2026-12-01',
    '2026-12-08',
    '2026-12-15',
  ]);
  expect(events[3]!.summary).toBe('Step 4 of 4: cap 80 %');
  expect(events[1]!.description).toMatch(/µmol at its brightest.*Largest step ratio 1\.\d\d\s×/);
  await press(page.getByTestId('start-plan'));
  await expect(page.getByTestId('today-sentence')).toContainText('as typed in today');
  await expect(page.getByTestId('easing-step')).toContainText(/Step 2 of 4 on Tue 1 Dec: cap \d\d\s%/);

  // three days missed
  await later(page, 10);
  await press(page.getByTestId('due'));
  await expect(page.getByTestId('plan-late')).toContainText('It was due 3 days ago');
  await expect(page.getByTestId('plan-preview')).toBeVisible();
  const before = await figure(page.getByTestId('now-umol'));
  await press(page.getByTestId('plan-keep'));
  await expect.poll(() => figure(page.getByTestId('now-umol'))).toBeGreaterThan(before);

  // two days later a coral pales: hold
  await later(page, 12);
  await go(page, 'Log');
  await press(page.getByTestId('log-sign'));
  await press(page.getByRole('radiogroup', { name: 'Which' }).getByRole('radio', { name: 'Moss branch' }));
  await press(page.getByTestId('sign-paling'));
  await expect(page.getByTestId('sign-advice')).toContainText(/^Paling, and the light rose 2 days ago/);
  await press(page.getByTestId('sign-act'));
  await expect(page.getByTestId('plan-preview')).toBeVisible();
  await press(page.getByTestId('plan-keep'));
  await expect(page.getByTestId('plan-keep')).toHaveCount(0);
  await press(page.getByRole('button', { name: /^Easing in: / }));
  await press(page.getByRole('radio', { name: 'Pause' }));
  await press(page.getByTestId('plan-keep'));
  await expect(page.getByText('Paused; what runs now stays.')).toBeVisible();

  // and on again, to the end
  await later(page, 30);
  await press(page.getByRole('button', { name: /^Easing in: / }));
  await expect(page.getByTestId('plan-preview')).toBeVisible();
  await press(page.getByTestId('plan-keep'));
  await go(page, 'Today');
  for (let day = 30; day < 90; day += 7) {
    await later(page, day);
    const due = page.getByTestId('due');
    // what is due is named once it is reckoned
    await expect(due).not.toHaveText(/^A step of/);
    if (!/Next step/.test((await due.textContent())!)) continue;
    await press(due);
    await expect(page.getByTestId('plan-preview')).toBeVisible();
    await press(page.getByTestId('plan-keep'));
    await expect(page.getByTestId('plan-keep')).toHaveCount(0);
    if (/No easing-in step/.test((await page.getByTestId('easing-step').textContent())!)) break;
  }
  await expect(page.getByTestId('easing-step')).toHaveText('No easing-in step is planned.');
  await go(page, 'Log');
  await press(page.getByTestId('set-lane'));
  await press(page.getByRole('radio', { name: 'Easing', exact: true }));
  await expect(page.getByText(/Step \d of \d of Lamp 3 added: cap 80\s%/)).toBeVisible();
  await press(page.getByTestId('set-lane'));
  await press(page.getByRole('radio', { name: 'Light', exact: true }));
  await expect(page.getByTestId('line-light').first()).toContainText(/→ 80\s%.*µmol/);
});

test('@phone too much at once is cut tonight; an outage put in later counts; a moved coral is asked about', async ({
  page,
}) => {
  await open(page, '/day');
  await type(page, 'cap', '100');
  for (const time of ['10:30', '19:00']) {
    await press(page.getByTestId(`thread-${time}`));
    await type(page, 'thread-strength', '100');
    await press(page.getByRole('button', { name: 'Done', exact: true }));
  }
  await press(page.getByRole('button', { name: /^The sheet/ }));
  await press(page.getByTestId('typed-all'));
  await press(page.getByTestId('today-rescue'));
  await expect(page.getByTestId('rescue-sentence')).toContainText(/gets 1\.\d\d\s× what it is used to/);
  await expect(page.getByTestId('rescue-back')).toContainText('14 days of rest');
  await press(page.getByTestId('rescue-typed'));
  await press(page.getByRole('button', { name: 'To Today' }));
  await expect(page.getByTestId('today-sentence')).toContainText(
    /^All five are within what they are used to; .*perhaps too little at .*Moss branch/,
  );
  await expect(page.getByTestId('easing-step')).toContainText(
    /Climb back after a cutStep 2 of \d+ on Tue 8 Dec/,
  );

  // backdated: three days without power before the change make it larger than it seemed
  await go(page, 'Log');
  const line = page.getByTestId('line-light').filter({ hasText: '80 % → 100 %' });
  const ratio = async () => Number(/→ (\d\.\d\d)\s×/.exec((await line.locator('..').textContent())!)![1]);
  const calm = await ratio();
  await press(page.getByTestId('log-outage'));
  await press(page.getByRole('radio', { name: 'Earlier' }));
  await page.getByTestId('event-date').fill('2026-11-21');
  await page.getByTestId('event-time').fill('00:00');
  await page.getByTestId('outage-date').fill('2026-11-24');
  await page.getByTestId('outage-time').fill('00:00');
  await press(page.getByTestId('keep-event'));
  // the rest of the climb is offered anew, from what the corals are used to after it
  await expect(page.getByTestId('plan-preview')).toContainText('Tue 24 Nov: cap');
  await press(page.getByRole('button', { name: 'Done', exact: true }));
  await expect(page.getByTestId('line-event')).toContainText('Power out: all lamps');
  await expect.poll(ratio).toBeGreaterThan(calm * 1.2);
  await press(page.getByTestId('undo'));
  await expect.poll(ratio).toBe(calm);

  // a coral dragged on the chart has moved in the tank, until it is said that it always stood there
  await go(page, 'Tank');
  const mark = page.getByTestId('mark-top-Straw polyp');
  await mark.scrollIntoViewIfNeeded();
  const box = (await mark.boundingBox())!;
  await drag(page, { x: box.x + box.width / 2, y: box.y + box.height / 2 }, { x: 60, y: -30 });
  await expect(page.getByTestId('just-moved')).toContainText(
    'Straw polyp counts as moved in the tank just now',
  );
  await press(page.getByTestId('moved-corrected'));
  await expect(page.getByTestId('just-moved')).toHaveCount(0);
});
