import { act, fireEvent, screen, waitFor, within } from '@testing-library/react';

import { undo } from '@/state/session';

import { PlacePage } from './tank/PlaceCoral';
import { underOneAnother } from './tank/PlacePlan';
import { choose, doc, edit, fill, freshPlaces, show, tap, text, onZone } from './test/kit';
import type * as Router from './test/router';
import { navigate, routeAt, routeParams } from './test/router';

jest.mock('expo-router', () => jest.requireActual<typeof Router>('./test/router').mockRouter);
jest.mock(
  'react-native-gesture-handler',
  () => jest.requireActual<typeof Router>('./test/router').mockGestures,
);
jest.mock('@/ui/files', () => jest.requireActual<typeof import('./test/files')>('./test/files').mockFiles);
const spots = () => doc().zones[0]!.spots;
const found = () => waitFor(() => expect(screen.getByTestId('place-0')).toBeTruthy(), { timeout: 30_000 });

freshPlaces();
beforeEach(() => routeAt('/place'));

test('a coral in hand is told its places, with the way there, and is put at one; undo takes it back', async () => {
  routeAt('/place', { kind: 'smallPolyp', peak: '150', hours: '9' });
  show(PlacePage);
  expect(text('in-hand')).toContain('small-polyp coral');
  expect(text('in-hand')).toContain('150 µmol for 9 h');
  await found();
  expect(text('place-sentence')).toMatch(
    /place.* µmol, (at once|after \d+ days? where it is darker|by no way)/,
  );
  expect(text('place-0')).toMatch(/cm deep.*\d+ µmol ± \d+ %.*mol a day; \d\.\d × what it comes from/);
  expect(screen.getAllByText(/right in [1-9] of 10$/).length).toBeGreaterThan(3);
  expect(text('place-more')).toMatch(/from the left.*is \d+ cm away/);
  // the plan has each place once
  const marks = within(screen.getByTestId('place-plan')).getAllByRole('slider');
  const lettered = marks.flatMap((m) => /^([A-Z]+), from above$/.exec(m.getAttribute('aria-label')!) ?? []);
  const letters = lettered.filter((l) => /^[A-Z]+$/.test(l)).join('');
  expect(new Set(letters).size).toBe(letters.length);
  expect(letters).toHaveLength(screen.getAllByTestId(/^place-\d+$/).length);
  tap('set-name');
  fill('hand-name', 'Violet branch');
  const before = spots().length;
  tap('take-place');
  expect(spots()).toHaveLength(before + 1);
  expect(spots().at(-1)).toMatchObject({
    ...{ name: 'Violet branch', need: 'smallPolyp', arrived: '2026-11-24' },
    cameFrom: { peakUmol: 150, hours: 9 },
  });
  expect(navigate).toHaveBeenCalledWith(expect.stringMatching(/^\/(tank|ease\?of=running&coral=)/));
  act(() => undo());
  expect(spots()).toHaveLength(before);
});

test('places one under another are one mark', () => {
  const at = (xCm: number, yCm = 0) => ({ xCm, yCm });
  expect(underOneAnother([at(0), at(30), at(3), at(6), at(30, 4)], 5)).toEqual([[0, 2], [1, 4], [3]]);
});

test('on a phone a mark of several places goes on to the next when it is touched again', async () => {
  const width = jest.spyOn(document.documentElement, 'clientWidth', 'get').mockReturnValue(390);
  const resized = () => act(() => void window.dispatchEvent(new Event('resize')));
  resized();
  routeAt('/place', { kind: 'smallPolyp', peak: '150', hours: '9' });
  show(PlacePage);
  await found();
  const mark = screen.getByRole('slider', { name: /^A[A-Z]+, from above$/ });
  const letters = mark.getAttribute('aria-label')!.split(',')[0]!;
  const opened = [...letters].map(() => {
    fireEvent.keyDown(mark, { key: 'Enter' });
    return text('place-more');
  });
  expect(new Set(opened).size).toBe(letters.length);
  width.mockRestore();
  resized();
});

test('what is said of it is set in the sentence and stays in the address; an empty spot is offered', async () => {
  edit(
    onZone((z) => ({
      ...z,
      spots: [
        ...z.spots,
        { ...z.spots[0]!, id: 'ledge', name: 'Left ledge', need: null, xCm: 20, yCm: 40, depthCm: 30 },
      ],
    })),
  );
  show(PlacePage);
  expect(text('in-hand')).toContain('from a light nobody knows');
  tap('set-kind');
  choose('soft coral, 50–120 µmol');
  expect(routeParams().kind).toBe('soft');
  tap('set-from');
  fill('hand-peak', '9999');
  expect(screen.getByText('▲ Give 1 to 3000 µmol, or nothing.')).toBeTruthy();
  fill('hand-peak', '90');
  expect(routeParams().peak).toBe('90');
  await found();
  expect(screen.getByText(/^[A-Z] · Left ledge, 30 cm deep$/)).toBeTruthy();
  fireEvent.click(screen.getByRole('button', { name: /^Left ledge: / }));
  tap('take-place');
  expect(spots().find((s) => s.id === 'ledge')).toMatchObject({ need: 'soft', name: 'Coral 7' });
  expect(spots()).toHaveLength(6);
});

test('a coral is kept in hand, told more of, and given its place later; one undo has it in hand again', async () => {
  const hands = () => doc().zones[0]!.inHand ?? [];
  routeAt('/place', { kind: 'soft' });
  show(PlacePage);
  tap('set-name');
  fill('hand-name', 'Grey leather');
  tap('hand-keep');
  expect(hands()).toEqual([{ id: hands()[0]!.id, name: 'Grey leather', need: 'soft', formId: null }]);
  expect(routeParams().hand).toBe(hands()[0]!.id);
  // what is said of it from now on is stored with it
  fill('hand-name', '');
  expect(screen.getByText('▲ Give it a name.')).toBeTruthy();
  fill('hand-name', 'Grey leather, small');
  tap('set-size');
  fill('hand-size', '0');
  expect(screen.getByText('▲ Give 1 to 200 cm, or nothing.')).toBeTruthy();
  fill('hand-size', '4');
  tap('set-from');
  fill('hand-peak', '80');
  fill('hand-hours', '10');
  expect(hands()[0]).toMatchObject({
    ...{ name: 'Grey leather, small', sizeCm: 4 },
    cameFrom: { peakUmol: 80, hours: 10 },
  });
  fill('hand-peak', '');
  expect(hands()[0]).not.toHaveProperty('cameFrom');
  await found();
  const before = spots().length;
  tap('take-place');
  expect(hands()).toEqual([]);
  expect(spots()).toHaveLength(before + 1);
  expect(spots().at(-1)).toMatchObject({ name: 'Grey leather, small', sizeCm: 4, arrived: '2026-11-24' });
  act(() => undo());
  expect(spots()).toHaveLength(before);
  expect(hands()).toHaveLength(1);
  tap('hand-gone');
  expect(hands()).toEqual([]);
});

test('without a lamp, and without a coral yet, it says so', async () => {
  edit(onZone((z) => ({ ...z, spots: [] })));
  const page = show(PlacePage);
  await found();
  page.unmount();
  edit((b) => ({
    ...b,
    case: { ...b.case, zones: b.case.zones.map((z) => ({ ...z, groups: [] })) },
    history: { ...b.history, entries: [] },
  }));
  show(PlacePage);
  expect(text('place-sentence')).toMatch(/Without a lamp/);
});

test('a card of who gives it away is read with its gaps, and says honestly what its colours may do here', async () => {
  show(PlacePage);
  tap('cards');
  tap('card-questions');
  await waitFor(() => expect(text('card-told')).toMatch(/^The questions: (copied|kept as a file)\.$/));
  fill('card-text', 'hello');
  expect(text('card-read')).toMatch(/^Nothing of it is understood/);
  fill(
    'card-text',
    'coral: Sunset table\nlight at its brightest: about 200\nkind of light: white\norigin: wild',
  );
  expect(text('card-read')).toBe('It says: Sunset table, white, wild.');
  fill(
    'card-text',
    'coral: Sunset table\nlight at its brightest: 200 µmol\nlit for: 6 h\nkind of light: white\norigin: wild',
  );
  tap('card-take');
  expect(routeParams()).toMatchObject({ peak: '200', hours: '6', light: 'white', origin: 'wild' });
  expect(text('in-hand')).toMatch(/called Sunset table, from 200 µmol for 6 h of white, wild\.$/);
  await found();
  expect(text('place-look')).toMatch(
    /of the light here is blue, of white about 60 %: it will glow more here at once.*The day here is lit for \d+ h( 30 min)?, there 6 h\. A wild coral has the longer way.*Nobody can promise a colour/,
  );
  tap('hand-keep');
  expect(doc().zones[0]!.inHand![0]).toMatchObject({ light: 'white', origin: 'wild' });
  tap('card-own');
  await waitFor(() => expect(text('card-told')).toMatch(/^The card of Copper table: /));
});
