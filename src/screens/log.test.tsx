import { act, fireEvent, screen, waitFor, within } from '@testing-library/react';

import type { LogEvent } from '@/core/record/log';

import { METRIC, sayIn } from '@/core/shape/units';
import { setCap } from '@/state/commands/days';
import { setExperiment } from '@/state/commands/experiments';
import { run, undo, useSession } from '@/state/session';
import { changeSettings } from '@/state/settings';

import { SpotSheet } from './case/SpotSheet';
import { Log } from './log/Log';
import { followUnits } from './shell/units';
import { LampSheet } from './sheet/LampSheet';
import { choose, doc, edit, fill, freshPlaces, press, show, tap, text, wholeDemo } from './test/kit';
import type * as Router from './test/router';
import { routeAt } from './test/router';

jest.mock('expo-router', () => jest.requireActual<typeof Router>('./test/router').mockRouter);
jest.mock(
  'react-native-gesture-handler',
  () => jest.requireActual<typeof Router>('./test/router').mockGestures,
);
const mockPick = jest.fn<Promise<unknown>, []>();
jest.mock('expo-document-picker', () => ({ getDocumentAsync: () => mockPick() }));
const events = () => useSession.getState().bundle!.log.events;
const file = (name: string, content: string) =>
  mockPick.mockResolvedValueOnce({
    assets: [{ name, size: content.length, file: { text: async () => content } }],
  });

freshPlaces();
beforeEach(() => {
  routeAt('/log');
  // with the tests of the water that the refugium's keeper made
  edit((b) => ({ ...b, log: { ...b.log, events: wholeDemo().log.events.filter((e) => e.kind === 'test') } }));
});

test('where it shows, what saw it, and to which hue: kept with the sign, and what changed before is told', async () => {
  show(Log);
  tap('log-sign');
  choose('tips');
  choose('the camera');
  tap('sign-hueMoved');
  tap('hue-violet');
  expect(events().at(-1)).toMatchObject({
    ...{ kind: 'sign', sign: 'hueMoved', region: 'tips', by: 'camera', hue: 'violet' },
  });
  await waitFor(
    () => expect(text('triage')).toMatch(/did not change in the 12 days of which it is known what ran/),
    {
      timeout: 20_000,
    },
  );
  expect(screen.getAllByTestId('cause-chemistry').length).toBeGreaterThan(0);
  tap('sign-done');
  expect(
    screen.getByRole('button', { name: /^\d\d:\d\d Copper table: tips turned violet \(camera\)$/ }),
  ).toBeTruthy();
  // and again from its line
  press(/Copper table: tips turned violet/);
  await waitFor(() => expect(screen.getByTestId('triage')).toBeTruthy(), { timeout: 20_000 });
  act(() => undo());
  expect(events().some((e) => e.kind === 'sign')).toBe(false);
});

test('a test in other units, its doubts as it is typed, and what was measured last beside it', () => {
  show(Log);
  tap('log-test');
  expect(screen.getByText('last: 9')).toBeTruthy();
  fill('test-nitratePpm', '90');
  expect(text('test-live')).toMatch(/Nitrate is rarely 90 ppm/);
  fill('test-nitratePpm', '');
  fill('test-phosphatePpm', '20 ppb');
  fill('test-alkalinityDkh', '3 meq');
  fill('test-salinityPpt', '1.0264');
  fill('test-temperatureC', '78');
  fill('test-calciumPpm', '420 stones');
  tap('keep-event');
  expect(screen.getByText('▲ Give 0 to 2000 ppm, or nothing.')).toBeTruthy();
  fill('test-calciumPpm', '420 ppm');
  tap('keep-event');
  const kept = events().at(-1)! as unknown as Record<string, number>;
  expect(kept.phosphatePpm).toBeCloseTo(0.0613, 4);
  expect(kept.alkalinityDkh).toBeCloseTo(8.41, 2);
  expect(kept.salinityPpt).toBeCloseTo(35, 0);
  expect(kept.temperatureC).toBeCloseTo(25.56, 2);
  expect(kept.calciumPpm).toBe(420);
  expect(kept).not.toHaveProperty('ph');
});

test('care and what befell a coral in two taps; what was dosed last is offered', async () => {
  show(Log);
  tap('log-care');
  choose('dosed');
  tap('keep-event');
  expect(screen.getByText('▲ Say what was dosed.')).toBeTruthy();
  fill('care-of', 'amino 2 ml');
  tap('keep-event');
  expect(events().at(-1)).toMatchObject({ kind: 'care', what: 'additive', of: 'amino 2 ml' });
  tap('log-care');
  expect(screen.getByText('last time: amino 2 ml')).toBeTruthy();
  choose('dosed');
  fill('care-of', 'iodine');
  expect(text('care-live')).toMatch(/One at a time/);
  press('Done');
  tap('log-befell');
  choose('knocked over');
  tap('keep-event');
  expect(screen.getByRole('button', { name: /^\d\d:\d\d Copper table: knocked over$/ })).toBeTruthy();
  // and on paper, drawn only to be printed
  const print = jest.fn();
  globalThis.print = print;
  tap('log-report');
  await waitFor(() => expect(print).toHaveBeenCalledTimes(1));
  expect(text('log-print')).toContain('Copper table: knocked over');
  act(() => void globalThis.dispatchEvent(new Event('afterprint')));
  expect(screen.queryByTestId('log-print')).toBeNull();
});

test('the log is searched by words, coral and dates', () => {
  show(Log);
  tap('log-befell');
  tap('keep-event');
  tap('log-find');
  fill('log-words', 'NITRATE 13');
  expect(screen.getAllByTestId(/^line-/)).toHaveLength(1);
  fill('log-words', '');
  choose('Copper table');
  expect(screen.getAllByTestId(/^line-/)).toHaveLength(1);
  tap('log-unsought');
  const all = screen.getAllByTestId(/^line-/).length;
  fill('log-from', '2026-11-10');
  expect(screen.getAllByTestId(/^line-/).length).toBeLessThan(all);
  fill('log-to', '2026-11-1');
  fill('log-from', '2027-01-01');
  expect(screen.queryAllByTestId(/^line-/)).toHaveLength(0);
  expect(screen.getByText('Nothing of this kind yet.')).toBeTruthy();
});

test('entries are read in from a file once, with its wrong lines named and nothing half read', async () => {
  show(Log);
  const before = events().length;
  const head = 'instant (UTC),kind,coral,what,note\n';
  file('bad.csv', `${head}2026-11-01T10:00:00.000Z,note,,,fine\nnever,note,,,no`);
  tap('log-read');
  await waitFor(() =>
    expect(text('log-read-told')).toMatch(/line 3: atUtc give an instant.*Nothing was read in\./),
  );
  expect(events()).toHaveLength(before);
  file('good.csv', `${head}2026-11-01T10:00:00.000Z,note,,,fine`);
  tap('log-read');
  await waitFor(() => expect(text('log-read-told')).toMatch(/^one entry read in from good\.csv\.$/));
  expect(events()).toHaveLength(before + 1);
  file('good.csv', `${head}2026-11-01T10:00:00.000Z,note,,,fine`);
  tap('log-read');
  await waitFor(() => expect(text('log-read-told')).toMatch(/one entry stood here already/));
  expect(events()).toHaveLength(before + 1);
});

test('before another change is typed in, it is said what cannot have shown yet', async () => {
  routeAt('/sheet');
  run(setCap(doc().zones[0]!.groups[0]!.id, 0.7));
  run(
    setExperiment(doc().zones[0]!.id, {
      ...{ id: 'e', name: 'Violet?', change: '', measure: 'mass', start: '2026-11-01', phases: 'AB' },
      ...{ phaseDays: 42, restDays: 7, fragments: [{ id: 'f', name: 'Piece', spotId: null }], values: [] },
    }),
  );
  show(LampSheet);
  await waitFor(() => expect(screen.getByTestId('too-soon')).toBeTruthy(), { timeout: 20_000 });
  expect(text('too-soon')).toMatch(
    /^The light last changed 12 days ago: what that does to colour cannot have shown yet/,
  );
  expect(text('spoils')).toBe(
    '▲ “Violet?” is being measured until Sun 20 Dec: another change of light would spoil it.',
  );
});

test('what a coral has shown stands beside its kind’s range, and is taken only by the keeper', async () => {
  const spot = () => doc().zones[0]!.spots[0]!;
  show(() => <SpotSheet zone={doc().zones[0]!} spot={spot()} onClose={() => undefined} />);
  await waitFor(() => expect(screen.getByTestId('shown-open')).toBeTruthy(), { timeout: 20_000 });
  tap('shown-open');
  expect(text('shown')).toMatch(/^0 stretches .*below three its kind's 180 to 400 µmol stand/);
  expect(screen.queryByTestId('shown-take')).toBeNull();
  act(() => lived());
  await waitFor(() => expect(screen.getByTestId('shown-take')).toBeTruthy(), { timeout: 20_000 });
  expect(text('shown')).toMatch(
    /^By three stretches .* it wants from \d+ µmol \(\d+ to \d+\) to \d+ µmol \(\d+ to \d+\); its kind 180 to 400\./,
  );
  tap('shown-take');
  expect((screen.getByTestId('wants-to') as HTMLInputElement).value).toMatch(/^\d+$/);
  expect(spot().wants).toBeNull();
});

/** Three lights of two months each, under which a coral was looked at. */
function lived() {
  edit((b) => {
    const entry = b.history.entries[0]!;
    const at = (day: string) => `2026-${day}T08:00:00.000Z`;
    return {
      ...b,
      history: {
        ...b.history,
        entries: [0.8, 0.7, 0.6].map((capShare, i) => ({
          ...{ ...entry, id: `e${i}`, capShare },
          atUtc: at(['05-01', '07-01', '09-01'][i]!),
        })),
      },
      log: {
        ...b.log,
        events: ['06-20', '08-20', '10-20'].map((day, i) => ({
          ...{ id: `s${i}`, zoneId: entry.zoneId, atUtc: at(day), note: '' },
          ...{ kind: 'sign' as const, spotId: b.case.zones[0]!.spots[0]!.id, sign: 'larger' as const },
        })),
      },
    };
  });
}

test('what was expected of a change is asked later, coral by coral; an answer is a sign too, and how often it came is told', () => {
  const [a, b] = doc().zones[0]!.spots;
  const told = (id: string, askDate: string, came?: 'well'): LogEvent => ({
    ...{ id, zoneId: doc().zones[0]!.id, atUtc: '2026-10-20T12:00:00.000Z', note: '', kind: 'foretold' },
    ...{ of: 'Panels typed in', askDate },
    corals: [a!, b!].map((s) => ({ spotId: s.id, chance: 0.8, ...(came ? { came } : {}) })),
  });
  edit((x) => ({
    ...x,
    log: {
      ...x.log,
      events: [told('past', '2026-09-01', 'well'), told('f', '2026-11-20'), told('later', '2026-12-20')],
    },
  }));
  routeAt('/log', { entry: 'f' });
  const page = show(Log);
  expect(
    screen.getByRole('radiogroup', { name: /^Copper table: expected to go well in 8 of 10/ }),
  ).toBeTruthy();
  page.unmount();
  routeAt('/log', { entry: 'f' });
  const again = show(Log);
  fireEvent.click(
    within(screen.getByRole('radiogroup', { name: /^Copper table/ })).getByRole('radio', { name: 'paled' }),
  );
  expect(events().find((e) => e.id === 'f')).toMatchObject({ corals: [{ came: 'paled' }, {}] });
  expect(events().at(-1)).toMatchObject({
    kind: 'sign',
    sign: 'paling',
    spotId: a!.id,
    note: 'Panels typed in',
  });
  expect(text('track')).toMatch(
    /^Of three answers so far two were “well”; by the chances given it should have been about two\.$/,
  );
  act(() => undo());
  expect(events().some((e) => e.kind === 'sign')).toBe(false);
  again.unmount();
  routeAt('/log', { entry: 'later' });
  show(Log);
  expect(screen.getByText(/^You are asked from .*20 Dec/)).toBeTruthy();
});

test('typing a change in keeps what is to be expected of it', async () => {
  act(() => void run(setCap(doc().zones[0]!.groups[0]!.id, 0.85)));
  show(LampSheet);
  await waitFor(() => expect(screen.getByTestId('typed-all')).toBeTruthy(), { timeout: 20_000 });
  await waitFor(() => expect(screen.queryByTestId('changes')).toBeTruthy());
  await new Promise((r) => setTimeout(r, 300));
  tap('typed-all');
  await waitFor(() => expect(events().at(-1)).toMatchObject({ kind: 'foretold', askDate: '2026-12-15' }));
});

test('an entry of another year says so, by the clock that is read', () => {
  const old: LogEvent = {
    ...{ id: 'old', kind: 'note', zoneId: doc().zones[0]!.id, note: 'first lamps' },
    atUtc: '2019-11-18T14:40:00.000Z',
  };
  edit((b) => ({ ...b, log: { ...b.log, events: [...b.log.events, old] } }));
  changeSettings({ units: { ...METRIC, clock: '12 h' } });
  sayIn({ ...METRIC, clock: '12 h' });
  show(Log);
  expect(screen.getByText(/^Mon 18 Nov 2019$/)).toBeTruthy();
  expect(screen.getByRole('button', { name: /^\d{1,2}:40 pm first lamps$/ })).toBeTruthy();
  expect(screen.getAllByText(/^\d{1,2}:40p$/).length).toBeGreaterThan(0);
  changeSettings({ units: METRIC });
  sayIn(METRIC);
});

test('a temperature is typed and said in Fahrenheit where that is chosen, and kept in Celsius', () => {
  followUnits();
  changeSettings({ units: { ...METRIC, temperature: '°F' } });
  show(Log);
  tap('log-test');
  fill('test-temperatureC', '20');
  tap('keep-event');
  expect(screen.getByText(/Give 32 to 113 °F, or nothing\./)).toBeTruthy();
  fill('test-temperatureC', '78');
  tap('keep-event');
  expect(events().at(-1)).toMatchObject({ kind: 'test', temperatureC: expect.closeTo(25.556, 3) });
  expect(screen.getByRole('button', { name: /Water test: temperature 78 °F$/ })).toBeTruthy();
  // and comes back as it was typed, here and beside the next one
  press(/Water test: temperature 78 °F$/);
  expect((screen.getByTestId('test-temperatureC') as HTMLInputElement).value).toBe('78');
  tap('keep-event');
  tap('log-test');
  expect(screen.getByText('last: 78')).toBeTruthy();
  act(() => changeSettings({ units: METRIC }));
});
