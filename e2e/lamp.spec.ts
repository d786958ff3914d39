import type { CaseBundle } from '@/core/record/documents';
import { CONTROLLERS } from '@/core/controller/profiles';
import { displayCase } from '@/demo/lagoon';
import { headFor } from '@/state/bench';
import { exportText, withId } from '@/core/record/caseFile';
import { draftGroups, rigOf } from '@/core/case/lit';
import { levelsOfGroups, parUnder, zoneLight } from '@/core/case/light';
import { computeResponse } from '@/core/optics/response';
import type { LampKind } from '@/core/spectrum/lampKind';

import { expect, go, importText, NOW, open, press, saved, test, type } from './kit';

type Page = import('@playwright/test').Page;

const toLoad = async (page: Page) => {
  await go(page, 'Day');
  await press(page.getByRole('button', { name: /^The sheet/ }));
  await press(page.getByTestId('to-load'));
  await expect(page.getByTestId('load-sentence')).toHaveText(/take this day|takes this day|No head/);
};
const fault = async (page: Page, name: string, id: string) => {
  await press(page.getByTestId('to-bench'));
  await press(page.getByRole('button', { name: new RegExp(`^${name}: `) }));
  const box = page.getByTestId(`fault-${id}`);
  const before = await box.getAttribute('aria-checked');
  await press(box);
  await expect(box).not.toHaveAttribute('aria-checked', before!);
};
const done = (page: Page) => press(page.getByRole('button', { name: 'Done' }));

test('@phone a day is loaded into two heads; a fault of one is told beside the other, and put back', async ({
  page,
}) => {
  await open(page, '/day');
  await type(page, 'cap', '75');
  await toLoad(page);
  await press(page.getByTestId('place-heads'));
  await expect(page.getByTestId('load-sentence')).toHaveText('Two heads take this day: 6 points, cap 75 %.');
  await press(page.getByTestId('load-now'));
  await expect(page.getByTestId('load-sentence')).toContainText('this day runs now');
  await expect(page.getByTestId('ending-Panels right')).toHaveText(/^✓/);
  await go(page, 'Today');
  await expect(page.getByTestId('today-sentence')).toContainText('The lamps run as loaded today');

  await go(page, 'Day');
  await type(page, 'cap', '70');
  await toLoad(page);
  await fault(page, 'Panels left', 'savesOnly');
  await done(page);
  await press(page.getByTestId('to-load'));
  await expect(page.getByTestId('load-sentence')).toContainText('cap 70 %');
  await press(page.getByTestId('load-now'));
  await expect(page.getByTestId('ending-Panels left')).toHaveText(/▲ Saved, but not activated/);
  await expect(page.getByTestId('ending-Panels right')).toHaveText(/^✓/);
  await expect(page.getByTestId('load-sentence')).toContainText(
    '1 of 2 heads runs the new day. It does not count',
  );
  await fault(page, 'Panels left', 'savesOnly');
  await done(page);
  await press(page.getByTestId('to-load'));
  await press(page.getByTestId('load-now'));
  await expect(page.getByTestId('load-sentence')).toContainText('this day runs now');
  // what was there before comes back
  await press(page.getByTestId('restore-Panels left'));
  await expect(page.getByTestId('load-sentence')).toContainText('Panels left runs again what it ran before');
  await saved(page);
});

/** A tank with one lamp behind each kind of controller, all with a day that each of them can hold. */
function sevenControllers(): CaseBundle {
  const bundle = displayCase(NOW.getTime(), 'Europe/Berlin');
  const zone = bundle.case.zones[0]!;
  const panel = bundle.case.lampKinds[0]!;
  const kinds = CONTROLLERS.map(({ id, profile }) => ({
    ...panel,
    id: `panel-${id}`,
    name: profile.name,
    controller: profile,
    controls: panel.controls.map((c) => ({ ...c, id: `${id}-${c.id}` })),
  }));
  const groups = kinds.map((kind, i) => ({
    ...zone.groups[0]!,
    id: `group-${i}`,
    name: kind.name,
    lampKindId: kind.id,
    capShare: 0.5,
    lamps: [{ id: `lamp-${i}`, name: 'one', xCm: 15 + 20 * i, yCm: 30, heightCm: 30, turnDeg: 0 }],
    threads: (
      [
        [540, 0.5],
        [720, 1],
        [1080, 0.5],
        [1260, 0],
      ] as const
    ).map(([minute, strengthShare]) => ({
      id: `t-${i}-${minute}`,
      minute,
      strengthShare,
      mix: { own: Object.fromEntries(kind.controls.map((c) => [c.id, 1])) },
    })),
  }));
  return withId(
    {
      ...bundle,
      case: { ...bundle.case, demo: false, lampKinds: kinds, plates: [], zones: [{ ...zone, groups }] },
      history: { ...bundle.history, entries: [] },
    },
    'seven',
    'Seven controllers',
  );
}

const TOLD: [fault: string, words: RegExp][] = [
  ['offline', /^\? It does not answer.*nothing was sent/],
  ['slow', /^✓ Read back and compared/],
  ['drops', /^✓ Read back and compared/],
  ['fewPoints', /^○ Takes at most 3 points, not 4: it runs what it ran before/],
  ['savesOnly', /^▲ Saved, but not activated/],
  ['manual', /^▲ It holds the new program but was left in manual/],
  ['capTwice', /^▲ It emits \d+(\.\d)?\s% of what it should: its cap acts twice/],
  ['colourDown', /^▲ Royal blue emits \d+(\.\d)?\s% where \d+(\.\d)?\s% was sent/],
  ['colourDead', /^▲ Royal blue gives no light where \d+(\.\d)?\s% was sent/],
  ['lampDead', /^▲ It gives no light where it should be lit/],
];

test('@phone every fault of every kind of head is told', async ({ page, request }) => {
  test.setTimeout(180_000);
  await open(page, '/case');
  await importText(page, exportText(sevenControllers()));
  await expect(page.getByTestId('case-message')).toHaveText('Imported Seven controllers.');
  const { case: doc } = sevenControllers();
  const place = async (kind: LampKind, name: string, faults: string[]): Promise<string> => {
    const made = await request.post('/api/bench/heads', { data: headFor(kind, name) });
    const { id } = (await made.json()) as { id: string };
    await request.post(`/api/bench/heads/${id}/faults`, { data: { faults } });
    return id;
  };
  await request.post('/api/bench/clock', { data: { minute: 940 } });
  await toLoad(page);
  for (const kind of doc.lampKinds) {
    // one head with each fault, behind each kind of controller: all kinds at once are more than a bench holds
    await request.post('/api/bench/reset', { data: {} });
    for (const [fault] of TOLD) await place(kind, `${kind.name}, ${fault}`, [fault]);
    await press(page.getByRole('radio', { name: kind.name, exact: true }));
    for (const [fault] of TOLD) await expect(page.getByTestId(`load-${kind.name}, ${fault}`)).toBeVisible();
    await press(page.getByTestId('load-now'));
    for (const [fault, words] of TOLD) {
      // what only switches has no cap that could act twice
      const expected =
        fault === 'capTwice' && kind.controller.sets === 'switch' ? /^✓ Read back and compared/ : words;
      await expect(page.getByTestId(`ending-${kind.name}, ${fault}`)).toHaveText(expected);
    }
  }
  await request.post('/api/bench/reset', { data: {} });
  for (const kind of doc.lampKinds) {
    const id = await place(kind, kind.name, ['clockReset']);
    await request.post(`/api/bench/heads/${id}/power`, { data: {} });
  }
  await press(page.getByTestId('to-bench'));
  for (const kind of doc.lampKinds)
    await expect(page.getByTestId(`head-${kind.name}`)).toContainText('Was it reset by a power cut?');
});

test('@phone heads of every kind are watched: clocks, manual, endless interludes, a day in a minute', async ({
  page,
}) => {
  await open(page, '/bench');
  await expect(page.getByTestId('bench-sentence')).toHaveText('No head stands on the bench yet.');
  await press(page.getByTestId('add-kinds'));
  await expect(page.getByTestId('bench-sentence')).toContainText('of seven need');
  const head = page.getByTestId('head-Ten slots');
  await press(page.getByRole('button', { name: /^Ten slots: / }));
  await press(page.getByTestId('fault-clockReset'));
  await expect(page.getByTestId('fault-clockReset')).toHaveAttribute('aria-checked', 'true');
  await press(page.getByTestId('cut-power'));
  await expect(head).toContainText('reset by a power cut');
  await press(page.getByTestId('set-clock'));
  await expect(head).not.toContainText('reset by a power cut');
  await press(page.getByTestId('endless'));
  await expect(head).toContainText('in an interlude');
  await done(page);
  await press(page.getByRole('radio', { name: 'a day a minute' }));
  await expect(head).toContainText('An interlude should have ended and did not');
  const clock = page.getByTestId('bench-clock');
  const before = await clock.textContent();
  await expect(clock).not.toHaveText(before!);
  await press(page.getByTestId('bench-now'));
  await expect(clock).toHaveText('15:40 on the bench.');
});

test('@phone readings at clock times prove a lamp that no software can talk to', async ({ page }) => {
  await open(page, '/prove');
  const { case: doc } = displayCase(NOW.getTime(), 'Europe/Berlin');
  const zone = doc.zones[0]!;
  const groups = draftGroups(doc, zone);
  const light = zoneLight(computeResponse(rigOf(groups, zone, zone.spots)), groups);
  // its clock stands two hours behind
  const shown = (minute: number) => Math.round(parUnder(light, levelsOfGroups(groups, minute - 120), 0));
  await expect(page.getByTestId('suggested')).toContainText('Read PAR at 10:');
  for (const [time, minute] of [
    ['10:45', 645],
    ['14:00', 840],
    ['18:15', 1095],
    ['19:30', 1170],
  ] as const) {
    await page.getByTestId('proof-time').fill(time);
    await page.getByTestId('proof-value').fill(String(shown(minute)));
    await press(page.getByTestId('proof-add'));
  }
  await expect(page.getByTestId('prove-sentence')).toContainText(/Most likely clock .* behind/);
  await press(page.getByTestId('keep-proof'));
  await go(page, 'Today');
  await expect(page.getByTestId('today-sentence')).toContainText(
    'Readings say the lamps do not run as typed in',
  );
  await press(page.getByTestId('undo'));
  await expect(page.getByTestId('today-sentence')).toContainText('The lamps run as typed in 12 days ago');
});
