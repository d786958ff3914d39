import { screen, waitFor } from '@testing-library/react';

import { libraryLamp } from '@/core/library/lamps';
import { typedNow } from '@/state/typed';

import { ChoosePage } from './lamps/Choose';
import { choose, doc, edit, freshPlaces, show, tap, text } from './test/kit';
import type * as Router from './test/router';
import { navigate, routeAt, routeParams } from './test/router';

jest.mock('expo-router', () => jest.requireActual<typeof Router>('./test/router').mockRouter);
jest.mock(
  'react-native-gesture-handler',
  () => jest.requireActual<typeof Router>('./test/router').mockGestures,
);

freshPlaces();
beforeEach(() => routeAt('/choose', { of: 'mine', most: '1' }));
const there = () => waitFor(() => expect(screen.getByTestId('choices')).toBeTruthy(), { timeout: 60_000 });

test('lamps stand in the order of what counts, each with what it does, costs and lacks, and one leads to the swap', async () => {
  const tint = libraryLamp('lib-tint');
  edit((b) => ({ ...b, case: { ...b.case, lampKinds: [...b.case.lampKinds, tint] } }));
  show(ChoosePage);
  await there();
  const kinds = doc().lampKinds.length;
  expect(screen.getAllByTestId(/^choice-\d+$/)).toHaveLength(kinds);
  expect(text('choice-0')).toMatch(
    /^1 · 1 × .*\d of \d have the light they want \(± \d+ %\); its colours match to \d+ %; the darkest place has \d+ % of the mean, the panes up to \d+ µmol\.\d+ W at its brightest, [\d.]+ kWh a day.*; (price about \d+|its price is not known)\./,
  );
  expect(text('choose-sentence')).toMatch(/^By what counts here: 1 × /);
  expect(text('choice-detail')).toMatch(/\d+ cm up.*\d+ controls?, set by .*The day runs as it is drawn\./);
  const first = text('choice-0');
  tap('choice-1');
  expect(routeParams()).toMatchObject({ lamp: expect.any(String) });
  expect(text('choice-0')).toBe(first);
  tap('choose-set-beside');
  expect(screen.getByTestId('choose-beside').textContent).toMatch(/^1 × .*kWh a day/);
  tap('choose-set-beside');
  expect(screen.queryByTestId('choose-beside')).toBeNull();
  tap('choose-swap');
  expect(navigate).toHaveBeenCalledWith('/swap');
  const swap = typedNow(`swap in ${doc().zones[0]!.id}`);
  expect(swap.of('count', '')[0]).toBe('1');
  expect(doc().lampKinds.some((k) => k.id === swap.of('kind', '')[0])).toBe(true);
});

test('what counts, how many and of which lamps is set in the sentence and stays in the address', async () => {
  show(ChoosePage);
  await there();
  tap('set-price');
  choose('for much');
  expect(routeParams()).toMatchObject({ price: 'much' });
  expect(text('choose-asked')).toContain('price for much');
  tap('set-most');
  choose('up to two');
  expect(routeParams()).toMatchObject({ most: '2' });
  await there();
  // with up to two of each, what another number of the chosen would do stands beside it
  expect(text('choice-counts')).toMatch(/^With (one|two): \d of 5 right, darkest \d+ %, \d+ W/);
});

test('what the address says wrongly counts as usual', async () => {
  routeAt('/choose', { of: 'mine', most: '99', price: 'nonsense', lamp: 'gone', beside: 'gone,too' });
  show(ChoosePage);
  expect(text('choose-asked')).toMatch(/up to two of a kind.*price for little/);
  await there();
  expect(text('choice-detail')).toMatch(/cm up/);
  expect(screen.queryByTestId('choose-beside')).toBeNull();
});

test('without a lamp a first light is wanted, and the tank is planned with what is chosen', async () => {
  edit((b) => ({
    ...b,
    case: { ...b.case, zones: b.case.zones.map((z, i) => (i === 0 ? { ...z, groups: [] } : z)) },
  }));
  show(ChoosePage);
  expect(text('choose')).toMatch(/no lamp is drafted yet.*a careful first day, blue leading/);
  expect(text('choose-asked')).toMatch(/^For a first light: one of a kind/);
  await there();
  tap('choose-swap');
  expect(navigate).toHaveBeenCalledWith(expect.stringMatching(/^\/whole\?lamp=.+&count=1$/));
});

test('a group without a day has no look to match', () => {
  edit((b) => ({
    ...b,
    case: {
      ...b.case,
      zones: b.case.zones.map((z, i) =>
        i === 0 ? { ...z, groups: z.groups.map((g) => ({ ...g, threads: [] })) } : z,
      ),
    },
  }));
  show(ChoosePage);
  expect(text('choose')).toMatch(/have no day yet that could be matched/);
});
