import { readFileSync } from 'node:fs';

import { drag, expect, figure, go, importText, open, press, pull, saved, takeAs, test, type } from './kit';

test('the demo: pull, thread, sheet, typed in, reload, undo, export, clear, import', async ({ page }) => {
  await open(page);
  await expect(page.getByText(/A made-up tank/).first()).toBeVisible();
  await expect(page.getByTestId('today-sentence')).toHaveText(
    'All five are within what they are used to; perhaps too much at Slate plate, Straw polyp; perhaps too little at Moss branch. The lamps run as typed in 12 days ago.',
  );
  const todayBefore = await figure(page.getByTestId('now-umol'));

  await go(page, 'Mix');
  await pull(page, /^Royal blue/, -60);
  await expect(page.getByRole('slider', { name: /^Royal blue/ })).toHaveAttribute(
    'aria-valuenow',
    /^(4[0-9]|5[0-9])$/,
  );
  await go(page, 'Day');
  const box = (await page.getByTestId('thread-17:30').boundingBox())!;
  await drag(page, { x: box.x + 20, y: box.y + 20 }, { x: 1, y: 40 });
  await expect(page.getByText(/not in the lamp yet: [23] changes/)).toBeVisible();

  // a sketch changes nothing that runs
  await go(page, 'Today');
  await expect(page.getByTestId('now-umol')).toHaveText(`${todayBefore} µmol`);

  await go(page, 'Day');
  await press(page.getByRole('button', { name: /^The sheet/ }));
  await expect(page.getByTestId('changes')).toContainText('17:30: strength 92 % →');
  await expect(page.getByTestId('safety')).toContainText('Safe to type in at once');
  await press(page.getByTestId('typed-all'));
  await expect(page.getByTestId('today-sentence')).toContainText('as typed in today');
  const todayAfter = await figure(page.getByTestId('now-umol'));
  expect(todayAfter).toBeLessThan(todayBefore);
  await expect(page.getByTestId('balance-Copper table')).toHaveText(/^0\.\d\d\s×$/);
  await saved(page);
  await page.reload();
  await expect(page.getByTestId('now-umol')).toHaveText(`${todayAfter} µmol`);

  // typed in can be undone while the session lasts
  await go(page, 'Day');
  await type(page, 'cap', '70');
  await press(page.getByRole('button', { name: /^The sheet/ }));
  await press(page.getByTestId('typed-all'));
  const third = await figure(page.getByTestId('now-umol'));
  expect(third).toBeLessThan(todayAfter);
  await press(page.getByTestId('undo'));
  await expect(page.getByTestId('now-umol')).toHaveText(`${todayAfter} µmol`);
  await press(page.getByTestId('redo'));
  await expect(page.getByTestId('now-umol')).toHaveText(`${third} µmol`);
  await saved(page);

  await go(page, 'Case');
  const waiting = page.waitForEvent('download');
  await press(page.getByRole('button', { name: /^Export the open case/ }));
  const exported = readFileSync((await (await waiting).path())!, 'utf8');
  await press(page.getByRole('button', { name: 'Delete the open case' }));
  await press(page.getByTestId('delete-confirm'));
  // with nothing left a fresh demo is laid out; the imported one stands beside it
  await expect(page.getByTestId('par-basis')).toBeVisible();
  await importText(page, exported);
  await takeAs(page, /of its own/);
  await expect(page.getByTestId('case-message')).toHaveText('Imported Reading-room lagoon (imported).');
  await go(page, 'Today');
  await expect(page.getByTestId('now-umol')).toHaveText(`${third} µmol`);
  const before = JSON.parse(exported);
  await go(page, 'Case');
  const again = page.waitForEvent('download');
  await press(page.getByRole('button', { name: /^Export the open case/ }));
  const after = JSON.parse(readFileSync((await (await again).path())!, 'utf8'));
  expect(after.case.zones).toEqual(before.case.zones);
  expect(after.history.entries).toEqual(before.history.entries);
});

test('the demo never replaces an own case, and the sheet can be taken along @phone', async ({
  page,
  context,
}) => {
  await open(page, '/sheet');
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await press(page.getByRole('button', { name: 'Copy' }));
  await expect(page.getByText('Copied.')).toBeVisible();
  const text = await page.evaluate(() => navigator.clipboard.readText());
  expect(text).toContain('Royal blue');
  expect(text).toContain('Cap 80 %');
  const waiting = page.waitForEvent('download');
  await press(page.getByRole('button', { name: 'CSV', exact: true }));
  const csv = readFileSync((await (await waiting).path())!, 'utf8').split('\r\n');
  expect(csv[0]).toBe(
    'time,Near UV (%),Violet (%),Royal blue (%),Blue (%),Cyan (%),Lime (%),Cool white (%),Deep red (%),cap (%)',
  );
  expect(csv[3]).toBe('14:05,40,70,82,74,48,30,55,15,80');

  // print: a layout of its own, on one page of either paper; keys and tabs go
  await page.emulateMedia({ media: 'print' });
  const printed = page.getByTestId('sheet-print');
  await expect(printed).toBeVisible();
  await expect(printed).toContainText(
    /24 November 2026 · cap 80\s% · [\d.]+\smol a day and at most \d+\sµmol/,
  );
  await expect(printed).toContainText('☐ ');
  await expect(page.getByTestId('sheet-state')).toBeHidden();
  // figures of at least 10 pt, and all of it between the margins
  const small = await printed.evaluate(
    (node) =>
      [...node.querySelectorAll('[role=cell]')].filter((c) => parseFloat(getComputedStyle(c).fontSize) < 13.3)
        .length,
  );
  expect(small).toBe(0);
  for (const format of ['A4', 'Letter']) {
    const pdf = await page.pdf({
      format,
      path: process.env.PRINTED && `${process.env.PRINTED}-${format}.pdf`,
    });
    expect(pdf.toString('latin1').match(/\/Type \/Page\b/g)).toHaveLength(1);
  }
  await expect(page.getByRole('button', { name: 'Print' })).toBeHidden();
  await expect(page.getByRole('tab', { name: 'Today' })).toBeHidden();
});

test('threads: add, step, remove, choose a mix, and the chain of any minute', async ({ page }) => {
  await open(page, '/day');
  await press(page.getByTestId('thread-14:05'));
  await expect(page.getByTestId('thread-umol')).toContainText('µmol at Copper table');
  await press(page.getByRole('button', { name: 'Time up' }));
  await expect(page.getByTestId('thread-time')).toHaveValue('14:10');
  await press(page.getByRole('radio', { name: 'Deep shelf' }));
  await press(page.getByRole('button', { name: 'Remove this thread' }));
  await expect(page.getByTestId('thread-14:10')).toHaveCount(0);
  // held, "Before" shows everything as it was before the last change
  const before = (await page.getByRole('button', { name: /^Before/ }).boundingBox())!;
  await drag(page, { x: before.x + 20, y: before.y + 20 }, { x: 0, y: 0 }, () =>
    expect(page.getByTestId('thread-14:10')).toBeVisible(),
  );
  await expect(page.getByTestId('thread-14:10')).toHaveCount(0);
  await press(page.getByTestId('undo'));
  await expect(page.getByTestId('thread-14:10')).toBeVisible();
  await press(page.getByTestId('undo'));
  await press(page.getByTestId('undo'));
  await expect(page.getByTestId('thread-14:05')).toBeVisible();

  const chain = page.getByRole('button', { name: /^Chain/ });
  if (!(await chain.isVisible())) await press(page.getByTestId('day-more'));
  await press(chain);
  await expect(page.getByTestId('chain-royal-blue')).toHaveText(
    'mix 82 % × strength of the thread 100 % = 82 % typed into the lamp × cap 80 % × easing 100 % = 65.6 % of full',
  );
  await type(page, 'chain-time', '9:35');
  await expect(page.getByTestId('chain-royal-blue')).toContainText('between its threads');
  await press(page.getByRole('button', { name: 'Done' }));

  // by keyboard on a wide screen
  if (!test.info().project.use.hasTouch) {
    await page.getByRole('slider', { name: 'Thread at 10:30' }).focus();
    await page.keyboard.press('ArrowRight');
    await expect(page.getByTestId('thread-10:35')).toBeVisible();
    await page.keyboard.press('Control+z');
    await expect(page.getByTestId('thread-10:30')).toBeVisible();
    await go(page, 'Mix');
    await page.getByRole('slider', { name: /^Violet/ }).focus();
    await page.keyboard.press('Shift+ArrowUp');
    await expect(page.getByRole('slider', { name: /^Violet/ })).toHaveAttribute('aria-valuenow', '80');
  }
});

test.describe('with pictures', () => {
  test.use({ pictures: true });
  test('@phone nothing moves from under a finger when the light comes', async ({ page }) => {
    await page.addInitScript(() => {
      const marks = window as unknown as { shifted: number };
      marks.shifted = 0;
      new PerformanceObserver((list) => {
        for (const e of list.getEntries()) marks.shifted += (e as unknown as { value: number }).value;
      }).observe({ type: 'layout-shift', buffered: true });
    });
    for (const [path, there] of [
      ['/', 'now-umol'],
      ['/mix', 'mix-umol'],
      ['/day', 'weave'],
      ['/corals', 'advice'],
    ] as const) {
      await open(page, path);
      await expect(page.getByTestId(there)).toBeVisible();
      // the share of the screen that moved, times how far: with no room kept free it was 0.10 to 0.49
      expect(
        await page.evaluate(() => (window as unknown as { shifted: number }).shifted),
        path,
      ).toBeLessThan(0.03);
    }
  });
});
