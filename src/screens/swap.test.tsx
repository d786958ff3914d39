import { act, screen, waitFor } from '@testing-library/react';

import { undo, useSession } from '@/state/session';

import { SwapPage } from './lamps/Swap';
import { choose, doc, edit, fill, freshPlaces, show, tap, text } from './test/kit';
import type * as Router from './test/router';
import { navigate, routeAt } from './test/router';

jest.mock('expo-router', () => jest.requireActual<typeof Router>('./test/router').mockRouter);
jest.mock(
  'react-native-gesture-handler',
  () => jest.requireActual<typeof Router>('./test/router').mockGestures,
);
const zone = () => doc().zones[0]!;
const entries = () => useSession.getState().bundle!.history.entries;

freshPlaces();
beforeEach(() => routeAt('/swap'));

test('the corals come first; the new lamps are matched to them, swapped in one step and back in one', async () => {
  const page = show(SwapPage);
  expect(text('swap-read')).toMatch(
    /No coral was read since these lamps were last typed in.*cannot be done any more/,
  );
  expect(screen.getByTestId('swap-look').getAttribute('aria-disabled')).toBe('true');
  tap('set-count');
  fill('swap-count', '9');
  expect(screen.getByText('▲ Give 1 to 6.')).toBeTruthy();
  fill('swap-count', '2');
  tap('set-kind');
  choose('Full-spectrum nine-channel panel');
  // what is chosen is kept, however long it takes until the new one comes
  page.unmount();
  show(SwapPage);
  expect(text('swap-asked')).toContain('two × Full-spectrum nine-channel panel');
  tap('swap-look');
  await waitFor(() => expect(screen.getByTestId('swap-corals')).toBeTruthy(), { timeout: 30_000 });
  expect(text('swap-sentence')).toMatch(
    /As reckoned they would get (about \d\.\d ×|\d\.\d × to \d\.\d ×) of the light they have \(± \d+ %\)|give too little/,
  );
  expect(text('swap-how')).toMatch(
    /2 lamps \d+ cm up, .* from the left, cap \d+ %. Its colours match to \d+ %/,
  );
  expect(text('swap-corals')).toMatch(/Copper table\d+ → \d+ µmol.*mol a day\d\.\d × ± \d+ %/);
  expect(text('swap-first')).toMatch(/^Set its cap to \d+ % before it hangs/);
  // it cannot be skipped unseen
  expect(screen.getByTestId('swap-it').getAttribute('aria-disabled')).toBe('true');
  choose('I have no readings');
  tap('swap-it');
  const [before, ran] = [zone().groups, entries().length];
  tap('swap-take');
  expect(zone().groups).toHaveLength(1);
  expect(zone().groups[0]).toMatchObject({ name: 'Full-spectrum nine-channel panel' });
  expect(zone().groups[0]!.lamps).toHaveLength(2);
  expect(entries().slice(ran)).toMatchObject([{ groupId: before[0]!.id, threads: [] }]);
  expect(navigate).toHaveBeenCalledWith('/sheet');
  act(() => undo());
  expect(zone().groups).toEqual(before);
  expect(entries()).toHaveLength(ran);
});

test('without a lamp there is nothing to swap', () => {
  edit((b) => ({
    ...b,
    case: { ...b.case, zones: b.case.zones.map((z) => ({ ...z, groups: [] })) },
    history: { ...b.history, entries: [] },
  }));
  show(SwapPage);
  expect(screen.getByText('No lamp hangs here that could come down.')).toBeTruthy();
});
