import { readFileSync } from 'node:fs';
import { join } from 'node:path';

import { fireEvent, screen } from '@testing-library/react';

import { watersCase } from '@/demo/lagoon';
import { closeFinding, useFinding } from '@/state/finding';
import { useSettings } from '@/state/settings';

import { Find } from './shell/Find';
import { Keys } from './shell/Keys';
import { findable, finds, wordsOn } from './shell/find';
import { TERMS } from './shared/terms';
import { freshPlaces, show } from './test/kit';
import type * as Router from './test/router';
import { navigate, routeAt } from './test/router';

jest.mock('expo-router', () => jest.requireActual<typeof Router>('./test/router').mockRouter);

freshPlaces();
beforeEach(() => routeAt());

const { case: doc } = watersCase(Date.UTC(2026, 10, 24), 'UTC');
const all = findable(doc);
const names = (typed: string, recent: string[] = []) => finds(all, typed, recent).map((f) => f.name);

test('every place, plate, coral, lamp, thread, action and word is found by its name', () => {
  for (const [typed, name] of [
    ['tank', 'Tank'],
    ['copper', 'Copper table'],
    ['deep sh', 'Deep shelf'],
    ['17:30', '17:30 Late light'],
    ['carbon', 'Log: Carbon'],
    ['dli', 'mol a day (DLI)'],
    ['refug', 'Refugium'],
    ['print program', 'Sheet to type into the lamp'],
    ['cop tab', 'Copper table'],
  ] as const)
    expect(names(typed)).toContain(name);
  expect(names('tank')[0]).toBe('Tank');
  expect(names('zzz')).toEqual([]);
  // the same once, and every one leads somewhere or says something
  expect(new Set(all.map((f) => f.id)).size).toBe(all.length);
  for (const f of all) expect(f.to ?? f.means).toBeTruthy();
});

test('with nothing typed the latest come first', () => {
  expect(names('', ['page /fit', 'spot lagoon-2'])[0]).toBe('Fit the day to a controller');
  expect(names('').length).toBeGreaterThan(5);
});

test('the words of a page are those it uses, and the docs explain them all alike', () => {
  expect(wordsOn('6.0 mol a day at Copper table; cap 80 %, estimate ± 37 %')).toEqual([
    'term mol a day (DLI)',
    'term ± and “perhaps”',
    'term Cap',
  ]);
  expect(wordsOn('')).toEqual([]);
  const words = readFileSync(join(__dirname, '../../docs/words.md'), 'utf8');
  for (const t of TERMS) expect(words).toContain(`- **${t.name}**: ${t.means}\n`);
  expect(words.match(/^- /gm)).toHaveLength(TERMS.length);
});

test('by keyboard: typed, moved down, entered; a word is explained on the spot', () => {
  const closed = jest.fn();
  show(() => <Find onClose={closed} />);
  const field = screen.getByTestId('find');
  fireEvent.change(field, { target: { value: 'moss' } });
  fireEvent.keyDown(field, { key: 'Enter' });
  expect(navigate).toHaveBeenCalledWith('/tank');
  expect(useSettings.getState().spotId).toBe(doc.zones[0]!.spots.find((s) => s.name === 'Moss branch')!.id);
  expect(closed).toHaveBeenCalled();
  fireEvent.change(field, { target: { value: 'pur' } });
  fireEvent.click(screen.getByRole('button', { name: /^Usable share \(PUR\)/ }));
  expect(screen.getByTestId('find-means').textContent).toMatch(/feeds the algae in a coral/);
  fireEvent.change(field, { target: { value: 'qqq' } });
  expect(screen.getByRole('status').textContent).toMatch(/Nothing here is called “qqq”/);
});

test('the list of keys is reached from where things are found, and says what each does', async () => {
  show(() => <Find onClose={() => undefined} />);
  fireEvent.click(screen.getByTestId('show-keys'));
  expect(useFinding.getState().open).toBe('keys');
  closeFinding();
  show(() => <Keys onClose={() => undefined} />);
  const list = screen.getByTestId('keys').textContent;
  for (const key of ['/', '?', 'Ctrl Z', 'Escape', 'Arrows']) expect(list).toContain(key);
});
