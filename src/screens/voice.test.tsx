import { cleanup, screen, waitFor } from '@testing-library/react';

import type { CaseBundle } from '@/core/record/documents';
import { newPlate } from '@/core/case/plate';
import { freeze } from '@/state/commands/running';
import { changeSettings, useSettings } from '@/state/settings';
import type * as Files from './test/files';

import { Day } from './day/Day';
import { Load } from './lampside/Load';
import { Log } from './log/Log';
import { Mix } from './mix/Mix';
import { LampSheet } from './sheet/LampSheet';
import { choose, demo, edit, freshPlaces, onGroup, open, show, tap, text } from './test/kit';
import type * as Router from './test/router';
import { routeAt } from './test/router';
import { Tank } from './tank/Tank';
import { Today } from './today/Today';

jest.mock('expo-router', () => jest.requireActual<typeof Router>('./test/router').mockRouter);
jest.mock(
  'react-native-gesture-handler',
  () => jest.requireActual<typeof Router>('./test/router').mockGestures,
);
jest.mock('@/ui/files', () => jest.requireActual<typeof Files>('./test/files').mockFiles);

freshPlaces();
beforeEach(() => routeAt());

const CORALS = demo().case.zones[0]!.spots.map((s) => s.name);
const cap = (capShare: number, all = false) =>
  onGroup((g) => ({
    ...g,
    capShare,
    threads: all ? g.threads.map((t) => (t.strengthShare > 0 ? { ...t, strengthShare: 1 } : t)) : g.threads,
  }));
/** What is drafted as if it had been typed in just now. */
const typedIn = (b: CaseBundle): CaseBundle => {
  const zone = b.case.zones[0]!;
  const entry = freeze(b.case, zone, zone.groups[0]!, {
    id: 'now',
    atUtc: '2026-11-24T14:30:00.000Z',
    usedTo: false,
  });
  return { ...b, history: { ...b.history, entries: [...b.history.entries, entry] } };
};
const SITUATIONS: [name: string, draft: (b: CaseBundle) => CaseBundle, large: boolean][] = [
  ['as the demo is', (b) => b, false],
  ['a cap a little higher', cap(0.85), false],
  ['full strength all day', cap(1, true), true],
  ['a fifth of it', cap(0.2), false],
];

/** What a screen says of each coral, by the end of the ids of its rows. */
const rows = (prefix: string) =>
  Object.fromEntries(CORALS.map((c) => [c, screen.queryByTestId(`${prefix}-${c}`)?.textContent ?? '']));
const ratio = (said: string) => /[\d.]+ ×|over 10 ×/.exec(said)?.[0] ?? '';
const ratios = (prefix: string) =>
  Object.fromEntries(Object.entries(rows(prefix)).map(([coral, said]) => [coral, ratio(said)]));
const SAFE = /Safe to type in|No step is large|within what/;

describe.each(SITUATIONS)('%s', (situation, draft, large) => {
  /** Who stands beside its range on the chart's rows, with the word. */
  const off = (standing: Record<string, string>) =>
    Object.entries(standing).filter(([, said]) => !said.includes('right'));
  const agrees = (sentence: string, standing: Record<string, string>) => {
    for (const [coral, said] of off(standing)) {
      expect(sentence).toContain(coral);
      expect(sentence.toLowerCase()).toContain(said.replace(/^\S+ (perhaps )?/, ''));
    }
  };

  test('running: Today and Tank say the same of every coral', async () => {
    await open(typedIn(draft(demo())));
    const today = show(Today);
    await waitFor(() => expect(screen.getByTestId(`balance-${CORALS[0]}`)).toBeTruthy());
    const balance = ratios('balance');
    const sentence = text('today-sentence');
    expect(SAFE.test(sentence)).toBe(!large);
    expect(screen.queryByTestId('today-rescue') !== null).toBe(large);
    today.unmount();
    show(Tank);
    await waitFor(() => expect(screen.getByTestId(`used-${CORALS[0]}`)).toBeTruthy());
    tap('other-corals');
    expect(ratios('used')).toEqual(balance);
    expect(text('used-of')).toMatch(/× what each is used to, as it runs$/);
    expect(text(`used-${CORALS[0]}`)).toMatch(/as it runs$/);
    agrees(sentence, rows('standing'));
    agrees(text('tank-sentence'), rows('standing'));
    if (large) expect(text('tank-sentence')).toContain(`gets ${/gets ([\d.]+ ×)/.exec(sentence)![1]}`);
    cleanup();
    // a draft that is in the lamp is judged as what runs: Day says what Today says, and offers what Today offers
    show(Day);
    await waitFor(() => expect(text('verdict')).not.toContain('being replayed'));
    if (!large) expect(sentence).toContain(text('verdict'));
    expect(text('verdict')).not.toContain('Safe to type in');
    expect(screen.queryByTestId('verdict-rescue') !== null).toBe(large);
    expect(screen.queryByTestId('verdict-ease')).toBeNull();
  });

  test('drafted: Tank, Day, Mix, the sheet and loading say the same of every coral', async () => {
    await open(demo());
    edit(draft);
    changeSettings({ tank: { ...useSettings.getState().tank, whose: 'draft' } });
    const tank = show(Tank);
    await waitFor(() => expect(screen.getByTestId(`used-${CORALS[0]}`)).toBeTruthy());
    // a draft that differs from what runs is named, in light, on every place
    const drafted = () =>
      situation === 'as the demo is'
        ? expect(screen.queryByTestId('draft-line')).toBeNull()
        : expect(text('draft-line')).toMatch(
            /^Drafted, not in the lamp yet: \d changes?, [\d.]+ instead of 6\.0 mol a day at Copper table\.$/,
          );
    tap('other-corals');
    const used = ratios('used');
    const standing = rows('standing');
    // a draft that is in the lamp already is judged as what it is
    const whose = situation === 'as the demo is' ? 'as it runs' : 'as drafted';
    expect(text('used-of').endsWith(whose)).toBe(true);
    expect(text(`used-${CORALS[0]}`).endsWith(whose)).toBe(true);
    drafted();
    tank.unmount();

    const sheet = show(LampSheet);
    await waitFor(() => expect(screen.getByTestId(`ratio-${CORALS[0]}`)).toBeTruthy());
    expect(ratios('ratio')).toEqual(used);
    const safety = text('safety');
    agrees(safety, standing);
    expect(SAFE.test(safety)).toBe(!large);
    sheet.unmount();

    for (const Place of [Today, Log]) {
      const place = show(Place);
      await waitFor(drafted);
      place.unmount();
    }

    const day = show(Day);
    await waitFor(() => expect(text('verdict')).not.toContain('being replayed'));
    const verdict = screen.getByTestId('verdict').parentElement!.textContent!;
    agrees(verdict, standing);
    expect(ratio(verdict)).toBe(ratio(safety));
    expect(screen.queryByTestId('verdict-ease') !== null).toBe(large);
    day.unmount();

    const load = show(Load);
    await waitFor(() => expect(text('load-safety')).toBe(safety));
    load.unmount();

    show(Mix);
    await waitFor(() => expect(screen.getByTestId('mix-step')).toBeTruthy());
    // near darkness a ratio has a doubt of its own, which Mix names beside it
    expect(text('mix-step').replace(/ \(± \d+ %\)/, '')).toContain(
      `${used[CORALS[0]!]} what it is used to, ${whose}`,
    );
    expect(rows('mix-standing')).toEqual(standing);
    drafted();
    expect(screen.queryByTestId('verdict-ease') !== null).toBe(large);
  });
});

test('a plate that no lit thread uses is judged by its own light, and says so', async () => {
  await open(demo());
  const kind = demo().case.lampKinds[0]!;
  const full = newPlate(
    'every',
    'Everything',
    kind.id,
    Object.fromEntries(kind.controls.map((c) => [c.id, 1])),
  );
  edit((b) => ({ ...b, case: { ...b.case, plates: [...b.case.plates, full] } }));
  changeSettings({ plateId: 'every' });
  show(Mix);
  await waitFor(() => expect(screen.getByTestId('mix-step')).toBeTruthy());
  expect(text('mix-step')).toMatch(/▲ 1\.[3-9]\d × what it is used to( \(± \d+ %\))?, as a day’s brightest/);
  expect(screen.getByText(/no lit thread uses this plate/)).toBeTruthy();
  // it is no day: there is nothing to ease in yet
  expect(screen.queryByTestId('verdict-ease')).toBeNull();
});

test('who is said to be used to a light makes no step when it is typed in, and its range still holds', async () => {
  await open({ ...demo(), history: { ...demo().history, entries: [] } });
  edit(cap(1, true));
  show(LampSheet);
  await waitFor(() => expect(text('safety')).toMatch(/^Ease this in/));
  choose('They are used to it');
  await waitFor(() =>
    expect(text('safety')).toMatch(
      /^As you say they are used to it, .*; perhaps too much at Plum table, Slate plate, Straw polyp/,
    ),
  );
  expect(screen.queryByTestId(`ratio-${CORALS[0]}`)).toBeNull();
  expect(screen.queryByTestId('to-ease')).toBeNull();
});
