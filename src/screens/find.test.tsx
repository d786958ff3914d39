import { readFileSync } from 'node:fs';
import { join } from 'node:path';

import { fireEvent, screen } from '@testing-library/react';

import { watersCase } from '@/demo/lagoon';
import { closeFinding, useFinding } from '@/state/finding';
import { useSettings } from '@/state/settings';

import { figuresOf, linesAround } from '@/ui/touched';

import { Find } from './shell/Find';
import { isTold, WhatIs } from './shell/WhatIs';
import { Keys } from './shell/Keys';
import { findable, finds, wordsOn } from './shell/find';
import { TERMS, termsOf, wholeTerm } from './shared/terms';
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
    'term Percent of a whole',
  ]);
  expect(wordsOn('')).toEqual([]);
  const words = readFileSync(join(__dirname, '../../docs/words.md'), 'utf8');
  for (const t of TERMS) expect(words).toContain(`- **${t.name}**: ${wholeTerm(t)}\n`);
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

const named = (figure: string, ...around: string[]) => termsOf(figure, around).map((t) => t.name);

test('figures are found with their units and their words; times, dates, years, counts and steps are none', () => {
  const found = (text: string) => figuresOf(text).map((f) => f.figure);
  expect(found('; lit 11 h 30 min; peak 250 µmol at 14:05, estimate ± 53 %.')).toEqual([
    '11 h 30 min',
    '250 µmol',
    '± 53 %',
  ]);
  expect(found('250 µmol m⁻² s⁻¹')).toEqual(['250 µmol m⁻² s⁻¹']);
  expect(found('65 to 75 % of its light feeds, 0 to 0.3 mol beyond its use')).toEqual([
    '65 to 75 %',
    '0 to 0.3 mol',
  ]);
  expect(found('left 235 · right 15')).toEqual(['235', '15']);
  expect(found('Halide, 10 000 K: 73 nm')).toEqual(['10 000 K', '73 nm']);
  expect(found('2.0°')).toEqual(['2.0°']);
  for (const none of [
    'Tuesday 24 November, 15:40',
    '24 November 2026 · Display',
    '1 · While the old one hangs',
    '150 × 60 × 50 cm of water',
    '12 days without a change.',
    '19:30–07:30',
    'Daylight D65',
  ])
    expect(found(none)).toEqual([]);
  // a figure stands with its own words alone
  expect(figuresOf('92 % of today’s peak · 119 W of 248 W · PAR: estimate ± 53 %')[0]!.clause).toBe(
    '92 % of today’s peak',
  );
});

test('a figure is told by the nearest words that say what it is, and by what it is measured in', () => {
  expect(named('230 µmol', '230 µmol')).toEqual(['µmol (PAR)']);
  expect(named('1.00 ×', '1.00 × what it is used to')).toEqual(['× what it is used to']);
  expect(named('54 % of PAR', '54 % of PAR', 'Usable share (PUR/PAR)54 % of PAR')).toEqual([
    'Usable share (PUR)',
  ]);
  expect(named('62 %', '62 %', 'Uniformityleast 110 over mean62 %')).toEqual(['Evenness']);
  expect(named('94 %', 'left 94 %', 'left 94 % · PAR: estimate ± 53 %')).toEqual(['Percent of a whole']);
  expect(named('14', '14 in the library')).toEqual([]);
  const line = document.createElement('div');
  line.innerHTML = '<p><span>Light a day</span><b>6.0</b></p>';
  expect(linesAround(line.querySelector('b')!.firstChild!)).toEqual(['6.0', 'Light a day6.0']);
});

test('what a figure is, how it is made, how sure it is, and what is known of these waters', async () => {
  const asked = { figure: '230 µmol', around: ['230 µmol'] };
  expect(await isTold(asked)).toBe(true);
  expect(await isTold({ figure: '14', around: ['14 in the library'] })).toBe(false);
  show(() => <WhatIs asked={asked} onClose={() => undefined} />);
  const told = screen.getByTestId('what-is').textContent!;
  expect(told).toMatch(/A PAR meter reads this/);
  expect(told).toMatch(/How it is made.*corrected by your readings/);
  expect(told).toMatch(/How sure it is.*a third off/);
  expect(screen.getByRole('note').textContent).toBe('The light of Display: estimate, no reading yet.');
});
