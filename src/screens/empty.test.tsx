import { screen, waitFor } from '@testing-library/react';

import type { CaseBundle } from '@/core/record/documents';

import * as places from './places';
import { demo, freshPlaces, open, show, text } from './test/kit';
import type * as Router from './test/router';
import { routeAt } from './test/router';

jest.mock('expo-router', () => jest.requireActual<typeof Router>('./test/router').mockRouter);
jest.mock(
  'react-native-gesture-handler',
  () => jest.requireActual<typeof Router>('./test/router').mockGestures,
);

freshPlaces();
beforeEach(() => routeAt());

const emptied = (change: Partial<CaseBundle['case']['zones'][0]>): CaseBundle => {
  const b = demo();
  const zones = b.case.zones.map((z) => ({ ...z, ...change }));
  const history = { ...b.history, entries: change.groups ? [] : b.history.entries };
  return { ...b, history, case: { ...b.case, zones }, log: { ...b.log, events: [] } };
};
const all = Object.entries(places).sort(([a], [b]) => a.localeCompare(b));

describe.each([
  ['no coral', () => emptied({ spots: [] })],
  ['no lamp', () => emptied({ groups: [] })],
])('with %s', (_, bundle) => {
  test.each(all)('%s opens, and says nothing of what is not there', async (_name, Place) => {
    await open(bundle());
    show(Place);
    await waitFor(() => expect(screen.getAllByRole('heading').length).toBeGreaterThan(0));
    expect(document.body.textContent).not.toMatch(/NaN|undefined|null|no spot\b|0 corals/);
  });
});

test('lamps are not sought for nobody: who lives here is asked first', async () => {
  await open(emptied({ spots: [] }));
  for (const [id, Place] of [
    ['hang', places.HangPage],
    ['choose', places.ChoosePage],
  ] as const) {
    const shown = show(Place);
    await waitFor(() => expect(text(`${id}-nobody`)).toMatch(/^Say who lives here first/));
    expect(screen.queryByText(/cap \d+ %/)).toBeNull();
    shown.unmount();
  }
});
