import { act, fireEvent, screen, waitFor } from '@testing-library/react';

import type { Zone } from '@/core/record/zone';
import { undo, useSession } from '@/state/session';

import { HangPage } from './lamps/Hang';
import type * as Files from './test/files';
import { freshFiles, offered } from './test/files';
import { choose, doc, edit, fill, freshPlaces, press, show, tap, text, onZone } from './test/kit';
import type * as Router from './test/router';
import { routeAt, routeParams } from './test/router';

jest.mock('expo-router', () => jest.requireActual<typeof Router>('./test/router').mockRouter);
jest.mock(
  'react-native-gesture-handler',
  () => jest.requireActual<typeof Router>('./test/router').mockGestures,
);
jest.mock('@/ui/files', () => jest.requireActual<typeof Files>('./test/files').mockFiles);
const group = () => doc().zones[0]!.groups[0]!;
const found = () => waitFor(() => expect(screen.getByTestId('way-A')).toBeTruthy(), { timeout: 20_000 });

freshPlaces();
beforeEach(() => {
  routeAt('/hang');
  freshFiles();
});

test('answers stand with what they do and give up; one is drafted in a tap and taken back in one', async () => {
  show(HangPage);
  expect(text('hang-sentence')).toContain('being tried');
  await found();
  expect(text('hang-sentence')).toMatch(/^Now \d of 5 have the light they want; the darkest place has \d+ %/);
  expect(text('way-A')).toMatch(/^A · Best for who lives here.*\d+ cm up, \d+ cm apart/);
  expect(text('way-figures')).toMatch(/of 5 have the light they want.*µmol.*W at its brightest\./);
  tap('take-ways-to-hang');
  press('Numbers of ways-to-hang as CSV');
  const table = (await offered('ways-to-hang.csv')).trim().split('\r\n');
  expect(table[0]).toMatch(/^way,corals off what they want .*,most on a pane \(µmol\)$/);
  expect(table.filter((l) => /^[A-Z],/.test(l))).toHaveLength(screen.getAllByTestId(/^way-[A-Z]$/).length);
  expect(table.filter((l) => l.startsWith('tried,')).length).toBeGreaterThan(20);
  press(/^B · .* Shows it$/);
  expect(screen.getByText(/^Gives up: /)).toBeTruthy();
  const before = group();
  tap('draft-hang');
  await waitFor(() => expect(group().lamps[0]!.heightCm).not.toBe(before.lamps[0]!.heightCm));
  expect(group().lamps.map((l) => l.id)).toEqual(before.lamps.map((l) => l.id));
  act(() => undo());
  expect(group()).toEqual(before);
});

test('who would have to stand elsewhere is said; a coral that was carried there is put there, and undo takes it back', async () => {
  // a table that would rather have less
  const less = (z: Zone) => ({
    ...z,
    spots: z.spots.map((s) =>
      s.name === 'Plum table' ? { ...s, wants: { fromUmol: 100, toUmol: 178 } } : s,
    ),
  });
  edit((b) => ({ ...b, case: { ...b.case, zones: b.case.zones.map((z, i) => (i === 0 ? less(z) : z)) } }));
  show(HangPage);
  await found();
  expect(text('hang-critic')).toMatch(
    /^As they hang, with one move, four of five would have it: Plum table on .* \(\d+ → 1\d\d µmol\); no place on floor, rock or a rack has the light Straw polyp wants\.$/,
  );
  const spots = () => doc().zones[0]!.spots;
  const before = spots();
  const key = screen.getAllByTestId(/^moved-/)[0]!;
  const id = key.getAttribute('data-testid')!.slice('moved-'.length);
  fireEvent.click(key);
  const [was, is] = [before, spots()].map((all) => all.find((s) => s.id === id)!);
  expect([is!.xCm, is!.yCm, is!.depthCm]).not.toEqual([was!.xCm, was!.yCm, was!.depthCm]);
  expect(useSession.getState().bundle!.log.events.at(-1)).toMatchObject({ kind: 'moved', spotId: id });
  act(() => undo());
  expect(spots()).toEqual(before);
});

test('limits and a place to keep darker are set in the sentence and stay in the address; bad ones are refused', async () => {
  show(HangPage);
  await found();
  tap('set-low');
  fill('hang-low', '0');
  expect(screen.getByText('▲ Give 1 to 300 cm.')).toBeTruthy();
  fill('hang-low', '40');
  expect(routeParams().low).toBe('40');
  tap('set-calm');
  choose('Straw polyp');
  tap('set-most');
  fill('hang-most', '55');
  expect(routeParams()).toMatchObject({ calm: 'demo-straw', most: '55' });
  tap('set-lens');
  fill('hang-lens', '60, 300');
  expect(screen.getByText('▲ Give up to 8 angles from 5 to 175°, or nothing.')).toBeTruthy();
  fill('hang-lens', '60, 90');
  expect(routeParams().lens).toBe('60,90');
  expect(text('hang-asked')).toContain('with their own lenses or 60°, 90°');
  expect(text('hang-asked')).toContain('no more than 55 µmol at Straw polyp');
  await waitFor(() => expect(screen.getByTestId('way-A').textContent).toMatch(/[4-6]\d cm up/), {
    timeout: 20_000,
  });
});

test('without a lamp it says what is missing', () => {
  edit(onZone((z) => ({ ...z, groups: [] })));
  show(HangPage);
  expect(screen.getByText('There is no lamp to hang yet.')).toBeTruthy();
});
