import { act, screen, waitFor } from '@testing-library/react';

import { undo, useSession } from '@/state/session';

import { WholePage } from './lamps/Whole';
import { choose, doc, edit, fill, freshPlaces, press, show, tap, text } from './test/kit';
import type * as Router from './test/router';
import { navigate, routeAt, routeParams } from './test/router';

jest.mock('expo-router', () => jest.requireActual<typeof Router>('./test/router').mockRouter);
jest.mock(
  'react-native-gesture-handler',
  () => jest.requireActual<typeof Router>('./test/router').mockGestures,
);
const zone = () => doc().zones[0]!;
const group = () => zone().groups[0]!;
const found = () => waitFor(() => expect(screen.getByTestId('whole-A')).toBeTruthy(), { timeout: 40_000 });
const withHand = (lamps = true) =>
  edit((b) => ({
    ...b,
    case: {
      ...b.case,
      zones: b.case.zones.map((z, i) =>
        i === 0
          ? {
              ...z,
              inHand: [{ id: 'bush', name: 'Bush', need: 'smallPolyp' as const, formId: null }],
              ...(lamps ? {} : { groups: [], spots: [] }),
            }
          : z,
      ),
    },
  }));

freshPlaces();
beforeEach(() => routeAt('/whole'));

test('proposals stand with what they do; parts of one are drafted, and who is in hand gets its place', async () => {
  withHand();
  show(WholePage);
  expect(text('whole-sentence')).toContain('sought together');
  await found();
  expect(text('whole-sentence')).toMatch(/^As reckoned, .* of six can have|^As reckoned, all six can have/);
  expect(text('whole-A')).toMatch(
    /^A · Best for who lives here.*\d of 6 have.*kWh a day; light to look at for 2 h/,
  );
  expect(text('whole-how')).toMatch(/cm up.*cap \d+ %/);
  const before = zone();
  tap('whole-take-lamps');
  expect(group().lamps.map((l) => l.heightCm)).not.toEqual(before.groups[0]!.lamps.map((l) => l.heightCm));
  expect(group().threads).toEqual(before.groups[0]!.threads);
  act(() => undo());
  expect(zone()).toEqual(before);
  await found();
  press(
    /^[A-E] · .*The look while you are home.* Shows it$|^[A-E] · .*the look while you are home.* Shows it$/,
  );
  expect(routeParams().way).toMatch(/^[B-E]$/);
  tap('whole-take-day');
  expect(group().threads.map((t) => t.minute)).not.toEqual(before.groups[0]!.threads.map((t) => t.minute));
  expect(group().lamps).toEqual(before.groups[0]!.lamps);
  act(() => undo());
  await found();
  tap('stands-bush');
  expect(zone().inHand).toBeUndefined();
  expect(zone().spots.at(-1)).toMatchObject({ name: 'Bush', need: 'smallPolyp', arrived: '2026-11-24' });
  act(() => undo());
  expect(zone()).toEqual(before);
  press('Bush: opens it');
  expect(navigate).toHaveBeenCalledWith('/place?hand=bush');
});

test('a tank without lamps is planned with lamps that nobody has drafted, and drafted in one step', async () => {
  withHand(false);
  routeAt('/whole', { lamp: 'lib-nine', count: '1', low: '20' });
  show(WholePage);
  expect(text('whole-asked')).toMatch(/^One of .* between 20 cm and 60 cm over the water/);
  await found();
  tap('whole-take');
  expect(group()).toMatchObject({ lampKindId: 'lib-nine', lamps: [{ name: 'Lamp 1' }] });
  expect(group().threads.length).toBeGreaterThan(2);
  const plate = group().threads[0]!.mix;
  expect(doc().plates.some((p) => 'plateId' in plate && p.id === plate.plateId)).toBe(true);
  expect(useSession.getState().bundle!.history.entries.filter((e) => e.groupId === group().id)).toEqual([]);
  act(() => undo());
  expect(zone().groups).toEqual([]);
});

test('what is asked wrongly is said; with nobody there it says who is to be named', async () => {
  withHand();
  const page = show(WholePage);
  tap('set-low');
  fill('whole-low', '0');
  expect(screen.getByText('▲ Give 1 to 300 cm.')).toBeTruthy();
  fill('whole-low', '30');
  expect(routeParams().low).toBe('30');
  tap('set-look');
  choose('Natural look');
  expect(routeParams().look).toBe('natural');
  page.unmount();
  edit((b) => ({
    ...b,
    case: {
      ...b.case,
      zones: b.case.zones.map((z, i) => (i === 0 ? { ...z, spots: [], inHand: undefined } : z)),
    },
  }));
  show(WholePage);
  expect(text('whole-sentence')).toMatch(/^Say who lives here/);
});
