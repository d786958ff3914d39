import { readFileSync } from 'node:fs';

import type { Page } from '@playwright/test';

import { plainSpot, type Group } from '@/core/record/zone';
import type { CaseBundle } from '@/core/record/documents';
import { lampLibrary } from '@/core/library/lamps';
import { displayCase } from '@/demo/lagoon';
import { exportText } from '@/core/record/caseFile';
import { drag, expect, figure, go, importText, NOW, open, press, saved, test, type } from './kit';

const lamp = (id: string) => lampLibrary().find((l) => l.kind.id === id)!.kind;

/** The demo's water with a panel, a pair of tubes and a bar, each a group with its own clock. */
function mixedTank(): CaseBundle {
  const bundle = displayCase(NOW.getTime(), 'Europe/Berlin');
  const zone = bundle.case.zones[0]!;
  const group = (id: string, name: string, kindId: string, yCm: number): Group => {
    const kind = lamp(kindId);
    const mix = Object.fromEntries(kind.controls.map((c) => [c.id, 1]));
    return {
      id,
      name,
      lampKindId: kindId,
      lamps: [{ id: `${id}-1`, name, xCm: 75, yCm, heightCm: 22, turnDeg: 0 }],
      threads: [
        { id: `${id}-on`, minute: 600, strengthShare: 1, mix: { own: mix } },
        { id: `${id}-off`, minute: 1200, strengthShare: 0, mix: { own: mix } },
      ],
      capShare: 1,
    };
  };
  return {
    ...bundle,
    case: {
      ...bundle.case,
      id: 'mixed',
      name: 'Mixed tank',
      demo: false,
      lampKinds: [...bundle.case.lampKinds, lamp('lib-tubes'), lamp('lib-blue-bar')],
      zones: [
        {
          ...zone,
          groups: [
            ...zone.groups,
            group('tubes', 'Tubes', 'lib-tubes', 18),
            group('bar', 'Bar', 'lib-blue-bar', 46),
          ],
          spots: zone.spots.map((s) => plainSpot(s)),
        },
      ],
    },
    history: { ...bundle.history, caseId: 'mixed' },
    readings: { ...bundle.readings, caseId: 'mixed' },
    log: { ...bundle.log, caseId: 'mixed' },
  };
}

const dayMol = (page: Page) => figure(page.getByTestId('day-figures'));
const link = async (page: Page, name: string) => {
  const key = page.getByRole('button', { name, exact: true });
  if (!(await key.isVisible())) await press(page.getByTestId('day-more'));
  await press(key);
};
const kept = async (page: Page, press: () => Promise<void>) => {
  const waiting = page.waitForEvent('download');
  await press();
  const file = await waiting;
  return { name: file.suggestedFilename(), text: readFileSync((await file.path())!, 'utf8') };
};

test('shape a day: several threads, the whole of it, µmol for a strength, a mix edited in place and saved back', async ({
  page,
}) => {
  await open(page, '/day');
  await expect(page.getByTestId('weave')).toBeVisible();
  const box = (await page.getByTestId('thread-10:30').boundingBox())!;
  await drag(page, { x: box.x + 20, y: box.y + 20 }, { x: 36, y: 0 });
  await expect(page.getByTestId('thread-10:30')).toHaveCount(0);
  await press(page.getByTestId('undo'));

  if (!(await page.getByRole('button', { name: 'Several threads' }).isVisible()))
    await press(page.getByTestId('day-more'));
  await press(page.getByRole('button', { name: 'Several threads' }));
  await press(page.getByRole('checkbox', { name: 'Thread at 17:30' }));
  await press(page.getByRole('checkbox', { name: 'Thread at 19:00' }));
  await expect(page.getByTestId('several-said')).toHaveText('2 threads chosen.');
  await press(page.getByRole('button', { name: 'Shift the chosen threads up' }));
  await expect(page.getByRole('checkbox', { name: 'Thread at 17:45' })).toBeVisible();
  await press(page.getByRole('button', { name: 'Copy half an hour later' }));
  await expect(page.getByRole('checkbox', { name: 'Thread at 18:15' })).toBeVisible();
  await press(page.getByRole('button', { name: 'Remove', exact: true }));
  await press(page.getByRole('button', { name: 'Done' }));

  const before = await dayMol(page);
  await press(page.getByRole('button', { name: 'Whole day' }));
  await press(page.getByRole('button', { name: 'Plateau up' }));
  await type(page, 'day-length', '10');
  await expect(page.getByTestId('day-length')).toHaveValue('10');
  await press(page.getByRole('button', { name: /^Mirror/ }));
  await press(page.getByRole('button', { name: 'Done' }));
  expect(await dayMol(page)).not.toBe(before);
  await saved(page);
  await page.reload();
  await expect(page.getByTestId('weave')).toBeVisible();

  await open(page, '/day');
  const strongest = page.getByTestId(/^thread-\d\d:\d\d$/).nth(2);
  await press(strongest);
  await type(page, 'thread-umol-field', '120');
  await expect(page.getByTestId('thread-umol')).toContainText(/1[12]\d\sµmol at Copper table/);
  await type(page, 'thread-umol-field', '5000');
  await expect(page.getByRole('alert')).toContainText(
    /This mix gives .* to .*\sµmol here under the present cap/,
  );
  await type(page, 'thread-umol-field', '120');
  await press(page.getByTestId('edit-mix'));
  const violet = Number(await page.getByTestId('mix-violet').inputValue());
  await press(page.getByRole('button', { name: 'Violet up' }));
  await expect(page.getByTestId('mix-violet')).toHaveValue(String(violet + 1));
  await press(page.getByTestId('save-back'));
  await expect(page.getByTestId('save-back')).toHaveCount(0);
  await expect(page.getByTestId('mix-violet')).toHaveValue(String(violet + 1));
});

test('patterns at equal light: what really changes is said, one is taken, and the beauty is moved @phone', async ({
  page,
}) => {
  await open(page, '/day');
  const present = await dayMol(page);
  await link(page, 'A day as I want it');
  await expect(page.getByTestId('wanted-said')).toContainText('The same light a day');
  const shaped = async (name: string) => {
    await press(page.getByTestId('set-want-school'));
    await press(page.getByRole('radio', { name, exact: true }));
    await expect(page.getByTestId('want')).toContainText(`shaped as ${name}`);
  };
  for (const name of ['Brief height', 'Slow dusk', 'Pale noon', 'White pauses', 'On and off']) {
    await shaped(name);
    await expect(page.getByTestId('wanted-said')).toContainText('The same light a day');
  }
  await press(page.getByTestId('set-want-home'));
  await type(page, 'home-from', '19:00');
  await expect(page.getByTestId('beauty-said')).toContainText(/white light about .* later/);
  await shaped('White for company');
  await press(page.getByTestId('take-wanted'));
  await expect(page.getByTestId('day-took')).toContainText(
    'White for company is drafted: not in the lamp yet',
  );
  expect(Math.abs((await dayMol(page)) / present - 1)).toBeLessThan(0.02);
  await press(page.getByTestId('undo'));
  await link(page, 'A day as I want it');
  await press(page.getByTestId('set-want-mol'));
  await press(page.getByRole('radio', { name: 'another' }));
  await type(page, 'wanted-dli', '60');
  await expect(page.getByTestId('wanted')).toContainText('the longest day offered');
  await type(page, 'wanted-dli', '4');
  await expect(page.getByTestId('wanted-said')).toContainText('less light a day');
  await press(page.getByRole('radio', { name: 'as much as now' }));
  await press(page.getByTestId('take-beauty'));
  await go(page, 'Day');
  expect(Math.abs((await dayMol(page)) / present - 1)).toBeLessThan(0.02);
});

test('an interlude with a certain end, a moon and clouds: drafted, typed in, seen on Today @phone', async ({
  page,
}) => {
  await open(page, '/day');
  await link(page, 'Night, interludes, weather, clock');
  await press(page.getByTestId('set-interlude-when'));
  await page.getByTestId('interlude-minutes').fill('9000');
  await press(page.getByTestId('add-interlude'));
  await expect(page.getByTestId('interlude-error')).toContainText('Minutes: give 1 to 720');
  await page.getByTestId('interlude-minutes').fill('30');
  await page.getByTestId('interlude-time').fill('15:30');
  await press(page.getByTestId('add-interlude'));
  await expect(page.getByTestId('interludes')).toContainText('Tue 24 Nov 15:30–16:00, as a camera wants it');
  await expect(page.getByTestId('interludes')).toContainText(
    /Reading noon at 60\s%; (costs|adds) .*\smol that day at Copper table/,
  );
  await press(page.getByTestId('moon-on'));
  await expect(page.getByTestId('moon-said')).toContainText(
    /µmol at the brightest coral, in the dark from 22:00 to 06:00/,
  );
  await type(page, 'moon-umol', '50');
  await expect(page.getByRole('alert')).toContainText('Give 0 to 1 µmol');
  await type(page, 'moon-umol', '0.3');
  await press(page.getByRole('radio', { name: 'As the real moon' }));
  await expect(page.getByTestId('moon-tonight')).toContainText(/Tonight the moon is \d+\s% lit/);
  await press(page.getByRole('radio', { name: 'Passing' }));
  await press(page.getByRole('radio', { name: 'Now and then' }));
  await expect(page.getByTestId('storm-caution')).toContainText('photosensitive epilepsy');
  await press(page.getByRole('button', { name: 'Leave them off' }));
  await expect(page.getByTestId('weather-said')).toContainText(/Of the next 30 days \d+ (has|have) clouds/);
  await press(page.getByRole('radio', { name: 'Now and then' }));
  await press(page.getByTestId('storm-agree'));
  await type(page, 'flash-rate', '8');
  await expect(page.getByRole('alert')).toContainText('Give 0.1 to 3 a second');
  await type(page, 'flash-rate', '2');
  await expect(page.getByTestId('clock-said')).toContainText('the day has 23 hours');

  await go(page, 'Day');
  await press(page.getByRole('radio', { name: 'Today', exact: true }));
  const withIt = await dayMol(page);
  await press(page.getByRole('radio', { name: 'The plain day' }));
  expect(await dayMol(page)).not.toBe(withIt);
  await press(page.getByRole('button', { name: /^The sheet/ }));
  await expect(page.getByTestId('sheet-extras')).toContainText(
    'Interlude Tue 24 Nov 15:30–16:00: Reading noon at 60 %.',
  );
  await expect(page.getByTestId('changes')).toContainText('interludes added');
  await press(page.getByTestId('typed-all'));
  await expect(page.getByTestId('interlude-now')).toContainText('Interlude until 16:00');
});

test('a stepped dawn with tubes and a bar: bars of hours, planned together, as a calendar @phone', async ({
  page,
}) => {
  await open(page, '/case');
  await importText(page, exportText(mixedTank()));
  await go(page, 'Day');
  await expect(page.getByTestId('on-bars')).toBeVisible();
  await press(page.getByTestId('plan-circuits'));
  await type(page, 'dawn-first', '9:00');
  await type(page, 'dawn-last', '20:00');
  for (let i = 0; i < 2; i += 1) await press(page.getByRole('button', { name: /^Step of the dawn.* up/ }));
  await expect(page.getByTestId('dawn-stagger')).toHaveText('30 min between two circuits');
  await expect(page.getByTestId('dawn-total')).toContainText(/mol a day, peak .*\sµmol/);
  const names = await page.getByTestId(/^dawn-Tubes/).allTextContents();
  expect(names[0]).toContain('09:00–20:00');
  expect(names[1]).toContain('09:30–19:30');
  await expect(page.getByTestId('dawn-Bar, as a whole')).toHaveText('keeps its own day');
  await press(page.getByRole('checkbox', { name: 'Plan Bar, as a whole' }));
  await expect(page.getByTestId('dawn-Bar, as a whole')).toContainText('10:00–19:00');
  await press(page.getByTestId('take-dawn'));
  // one end by hand
  const end = page.getByTestId(/^end-Tubes.*-from$/).first();
  await end.scrollIntoViewIfNeeded();
  const box = (await end.boundingBox())!;
  await drag(page, { x: box.x + box.width / 2, y: box.y + box.height / 2 }, { x: 40, y: 0 });
  await expect(page.getByTestId(/^bar-Tubes/).first()).not.toContainText('09:00-');
  await press(page.getByTestId('undo'));
  await expect(page.getByTestId(/^bar-Tubes/).first()).toContainText('09:00–20:00');
  // unlike lamps under one percent
  await type(page, 'all-caps', '50');
  // the bar goes from 100 to 50 %, the panels from 80 to 40 %
  await expect(page.getByTestId('cap')).toHaveValue('40');
  await press(page.getByRole('radio', { name: 'Tubes', exact: true }));
  await press(page.getByRole('button', { name: /^The sheet/ }));
  const calendar = await kept(page, () => press(page.getByTestId('calendar')));
  expect(calendar.name).toBe('tubes.ics');
  expect(calendar.text).toContain('DTSTART;TZID=Europe/Berlin:20261124T090000');
  expect(calendar.text).toContain('RRULE:FREQ=DAILY');
});

test('fit to four whole hours and to a wall timer: what is lost, kept, and typed in its order @phone', async ({
  page,
}) => {
  await open(page, '/fit');
  await press(page.getByRole('button', { name: 'Four whole-hour slots' }));
  await expect(page.getByTestId('fit-sentence')).toContainText('the day has 6 points; it takes 4');
  await press(page.getByTestId('fit-day'));
  await expect(page.getByTestId('fit-truest-said')).toContainText(/^4 points: .* light/);
  await expect(page.getByRole('button', { name: /^Keep the day: / })).not.toHaveCount(1);
  await press(page.getByTestId('keep-truest'));
  await expect(page.getByTestId('day-took')).toContainText('fitted to Four whole-hour slots is drafted');
  await expect(page.getByTestId(/^thread-\d\d:00$/)).toHaveCount(4);
  await press(page.getByTestId('undo'));
  await link(page, 'Fit to a controller');
  await press(page.getByRole('button', { name: 'Wall timer' }));
  await press(page.getByTestId('fit-day'));
  await expect(page.getByTestId('fit-truest-said')).toContainText('2 points: ');
  await press(page.getByTestId('adopt-controller'));
  await press(page.getByTestId('fit-day'));
  await expect(page.getByTestId('fit-truest-said')).toContainText('2 points: ');
  await press(page.getByTestId('keep-truest'));
  await expect(page.getByTestId(/^thread-\d\d:[03]0$/)).toHaveCount(2);
  await press(page.getByRole('button', { name: /^The sheet/ }));
  await expect(page.getByTestId('misfit')).toHaveCount(0);
  // a day that the controller cannot take is said on the sheet
  await press(page.getByTestId('undo'));
  await expect(page.getByTestId('misfit')).toContainText('Wall timer cannot take this day');
  await press(page.getByTestId('to-fit'));
  await press(page.getByTestId('doable'));
  await expect(page.getByTestId('doable-days')).toBeVisible();
});

test('a foreign day from a file: refused when it is bad, matched at the coral, taken with its cap @phone', async ({
  page,
}) => {
  await open(page, '/sheet');
  // a file that is kept sooner goes without its light, and says so
  await expect(page.getByText(/mol a day and at most .* at Copper table/).first()).toBeAttached();
  const day = await kept(page, () => press(page.getByTestId('day-json')));
  expect(day.name).toBe('panels.day.json');
  const csv = await kept(page, () => press(page.getByRole('button', { name: 'CSV', exact: true })));
  const choose = async (button: string, name: string, text: string) => {
    const waiting = page.waitForEvent('filechooser');
    await press(page.getByTestId(button));
    await (await waiting).setFiles({ name, mimeType: 'application/json', buffer: Buffer.from(text) });
  };
  await choose('read-day-csv', 'bad.csv', csv.text.replace('14:05', '44:05'));
  await expect(page.getByTestId('csv-problem')).toContainText(
    /bad\.csv was not taken: line \d: "44:05" is no time of day/,
  );
  await choose('read-day-csv', 'other.csv', csv.text.replace('Violet', 'Ultraviolet'));
  await expect(page.getByTestId('csv-problem')).toContainText('this lamp has no “Ultraviolet”');
  await choose('read-day-csv', 'same.csv', csv.text);
  await expect(page.getByText('6 points read from same.csv')).toBeVisible();

  await page.goto('/carry');
  await choose('open-day', 'broken.json', '{"format":"chromatheca-day","version":1}');
  await expect(page.getByTestId('day-problem')).toContainText(/broken\.json was not taken: name: is missing/);
  await choose('open-day', 'case.json', '{"format":"chromatheca-file"}');
  await expect(page.getByTestId('day-problem')).toContainText('This is a whole case');
  // made for another lamp: deeper violet, no white
  const foreign = JSON.parse(day.text);
  foreign.name = 'Friend’s reef';
  // light that belongs to another lamp is refused; without any its lamps are hung here
  foreign.lampKind = lamp('lib-balance');
  await choose('open-day', 'half.day.json', JSON.stringify(foreign));
  await expect(page.getByTestId('day-problem')).toContainText(
    /light\.channels: has \d+ spectra for \d channels/,
  );
  delete foreign.light;
  foreign.threads = foreign.threads.map((t: { strengthShare: number }) => ({
    ...t,
    mix: { balance: 0.9, 'violet-trim': 0.8, 'cyan-trim': 0.5, white: 0.1 },
  }));
  await choose('open-day', 'friend.day.json', JSON.stringify(foreign));
  await type(page, 'source-height', '18');
  await press(page.getByTestId('match-day'));
  await expect(page.getByTestId('carried-said')).toContainText(/\d+\s% alike in colour; cap \d/);
  await expect(page.getByTestId('carried-step')).toContainText('what any coral is used to');
  const there = /([\d.]+)\smol a day there, ([\d.]+)\smol here/.exec(
    (await page.getByTestId('carried-said').textContent())!,
  )!;
  expect(Math.abs(Number(there[2]) / Number(there[1]) - 1)).toBeLessThan(0.05);
  await press(page.getByTestId('take-carried'));
  await expect(page.getByTestId('day')).toBeVisible();
  expect(Math.abs((await dayMol(page)) / Number(there[2]) - 1)).toBeLessThan(0.03);
  // what was made for its own lamp comes back as it was
  await press(page.getByTestId('undo'));
  await saved(page);
});
