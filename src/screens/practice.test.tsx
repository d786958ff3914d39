import { screen } from '@testing-library/react';

import { REMEMBERED, SKILLS } from '@/core/learn/rounds';
import { changeSettings, useSettings } from '@/state/settings';

import { Practice } from './practice/Practice';
import { freshPlaces, press, show, tap, text } from './test/kit';
import type * as Router from './test/router';
import { routeAt } from './test/router';

jest.mock('expo-router', () => jest.requireActual<typeof Router>('./test/router').mockRouter);
jest.mock(
  'react-native-gesture-handler',
  () => jest.requireActual<typeof Router>('./test/router').mockGestures,
);

freshPlaces();
beforeEach(() => {
  routeAt('/practice');
  changeSettings({ practised: {} });
});

const practised = () => useSettings.getState().practised;

test('each answer is told with why and remembered; what was never asked comes next', () => {
  show(Practice);
  for (const { id } of SKILLS) {
    expect(text('practice-ask')).toMatch(/\?$/);
    expect(screen.queryByTestId('practice-why')).toBeNull();
    tap('answer-0');
    expect(text('practice-why')).toMatch(/^(Right\.|Not quite: )/);
    expect(practised()[id]).toEqual([text('practice-why').startsWith('Right.')]);
    // answered is answered
    expect(screen.queryByTestId('answer-0')).toBeNull();
    tap('practice-next');
  }
  expect(Object.keys(practised())).toHaveLength(SKILLS.length);
});

test('a skill is chosen by its name, and the weakest is asked next', () => {
  const well = Array<boolean>(REMEMBERED).fill(true);
  changeSettings({
    practised: Object.fromEntries(SKILLS.map(({ id }) => [id, id === 'chain' ? [true, false] : well])),
  });
  show(Practice);
  expect(screen.getByText(/^Percent of percent: /)).toBeTruthy();
  expect(screen.getByText('1 of 2 right')).toBeTruthy();
  expect(screen.getAllByText(`${REMEMBERED} of the last ${REMEMBERED} right`)).toHaveLength(
    SKILLS.length - 1,
  );
  press('Practise Three corals, three places');
  expect(
    screen.getByRole('img', { name: /^The tank from the front, to scale: A \d+ cm deep, B / }),
  ).toBeTruthy();
  press('Practise Lux and PAR');
  expect(text('practice-ask')).toMatch(/^A lux meter shows \d+/);
});

test('a coral of one’s own is seen under each of the lights that are asked about', () => {
  changeSettings({ practised: {} });
  show(Practice);
  press('Practise PAR by eye');
  expect(screen.getAllByRole('img', { name: /^Copper table under / })).toHaveLength(
    screen.getAllByRole('img', { name: /^Spectrum of / }).length,
  );
});
