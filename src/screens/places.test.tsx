import { act, fireEvent, screen, waitFor, within } from '@testing-library/react';

import { typeIn } from '@/state/commands/running';
import { flush, run, undo, useSession } from '@/state/session';
import { changeSettings, useSettings } from '@/state/settings';

import { Case } from './case/Case';
import { Day } from './day/Day';
import { Mix } from './mix/Mix';
import { LampSheet } from './sheet/LampSheet';
import { Banners } from './shell/Banners';
import { Strip, Tabs } from './shell/Places';
import { demo, edit, freshPlaces, onGroup, open, show, tap, text } from './test/kit';
import type * as Router from './test/router';
import { navigate, routeAt } from './test/router';
import { Today } from './today/Today';

jest.mock('expo-router', () => jest.requireActual<typeof Router>('./test/router').mockRouter);
jest.mock(
  'react-native-gesture-handler',
  () => jest.requireActual<typeof Router>('./test/router').mockGestures,
);

freshPlaces();
beforeEach(() => routeAt());

describe('Today', () => {
  test('speaks from running: sentence, figure, parts, next change, light so far, balance', async () => {
    show(Today);
    expect(text('today-sentence')).toContain('The lamps run as typed in 12 days ago.');
    await waitFor(() => expect(text('now-umol')).toBe('230 µmol'));
    expect(text('next-change')).toBe('Next 17:30: Late light, 205 µmol');
    await waitFor(() =>
      expect(text('so-far')).toMatch(/^[34]\.\d+ mol today at Copper table; the running day gives 6\.0/),
    );
    expect(text('balance-Straw polyp')).toBe('1.00 ×');
    expect(text('stillness')).toMatch(/^12 days without a change/);
    expect(text('easing-step')).toBe('No easing-in step is planned.');
  });

  test('of many corals eight are weighed; the others are a key away', async () => {
    const bundle = demo();
    const [display, ...rest] = bundle.case.zones;
    const more = Array.from({ length: 6 }, (_, i) => ({
      ...display!.spots[0]!,
      ...{ id: `more-${i}`, name: `More ${i}` },
    }));
    const zones = [{ ...display!, spots: [...display!.spots, ...more] }, ...rest];
    await open({ ...bundle, case: { ...bundle.case, zones } });
    show(Today);
    await waitFor(() => expect(screen.getAllByTestId(/^balance-(?!others)/)).toHaveLength(8));
    expect(text('balance-others')).toBe('All 11 on Tank');
    expect(screen.getByText(/used to, of the eight farthest from it; the long mark/)).toBeTruthy();
    tap('balance-others');
    expect(navigate).toHaveBeenCalledWith('/tank');
  });

  test('records older than the way they are reckoned are told of it once', async () => {
    changeSettings({ reckonedBy: 0 });
    show(Today);
    expect(text('reckoned-anew')).toMatch(
      /Reckoned anew since you were here.*What you typed in is unchanged\./,
    );
    tap('told-anew');
    expect(screen.queryByTestId('reckoned-anew')).toBeNull();
    expect(useSettings.getState().reckonedBy).toBeGreaterThan(0);
  });

  test('a sketch changes nothing here; what is typed in does', async () => {
    show(Today);
    await waitFor(() => expect(text('now-umol')).toBe('230 µmol'));
    edit(onGroup((g) => ({ ...g, capShare: 0.1 })));
    expect(text('now-umol')).toBe('230 µmol');
    const entry = useSession.getState().bundle!.history.entries[0]!;
    act(() => void run(typeIn({ ...entry, id: 'half', capShare: 0.4, atUtc: '2026-11-24T14:00:00.000Z' })));
    await waitFor(() => expect(text('now-umol')).toBe('115 µmol'));
    expect(text('today-sentence')).toContain('as typed in today');
    act(() => undo());
    await waitFor(() => expect(text('now-umol')).toBe('230 µmol'));
  });

  test('too much light is said first, and by whom', async () => {
    show(Today);
    await waitFor(() => expect(text('now-umol')).toBe('230 µmol'));
    const entry = useSession.getState().bundle!.history.entries[0]!;
    const threads = entry.threads.map((t) => ({ ...t, strengthShare: 1 }));
    act(
      () =>
        void run(
          typeIn({
            ...entry,
            id: 'all',
            usedTo: false,
            capShare: 1,
            threads,
            atUtc: '2026-11-24T14:30:00.000Z',
          }),
        ),
    );
    await waitFor(() =>
      expect(text('today-sentence')).toMatch(
        /gets \d\.\d × what it is used to and four others too much at once: lower the cap tonight/,
      ),
    );
  });

  test('with nothing known to run it says so and leads to the sheet', async () => {
    await open({ ...demo(), history: { ...demo().history, entries: [] } });
    show(Today);
    expect(text('today-sentence')).toMatch(/^Nothing is known to be running/);
    expect(screen.queryByTestId('now-umol')).toBeNull();
    fireEvent.click(screen.getByTestId('due'));
    expect(navigate).toHaveBeenCalledWith('/sheet');
  });
});

describe('Mix', () => {
  test('names its moment, its figures and every spot against what its coral wants', async () => {
    show(Mix);
    await waitFor(() => expect(text('mix-umol')).toBe('250 µmol'));
    expect(text('mix')).toContain('14:05 at Copper table');
    // what stands beside what is pulled follows in slices
    await waitFor(() => expect(text('figures')).toContain('129 W of 248 W'));
    expect(text('figures')).toMatch(/Usable share \(PUR\/PAR\)\d\d % of PAR/);
    expect(text('par-Straw polyp')).toMatch(/^1\d\d µmol$/);
    expect(screen.getAllByRole('slider')).toHaveLength(8);
  });

  test('a typed level changes the plate, says which threads change, and refuses nonsense', async () => {
    show(Mix);
    await waitFor(() => expect(text('mix-umol')).toBe('250 µmol'));
    const field = screen.getByTestId('level-royal-blue');
    fireEvent.change(field, { target: { value: 'much' } });
    fireEvent.blur(field);
    expect(screen.getByText('▲ 0 to 100')).toBeTruthy();
    fireEvent.change(field, { target: { value: '40' } });
    fireEvent.blur(field);
    expect(
      useSession.getState().bundle!.case.plates.find((p) => p.id === 'demo-noon')!.mix['royal-blue'],
    ).toBe(0.4);
    expect(text('threads-changed')).toMatch(/^Changes 14:05 250 → \d+ µmol at Copper table\.$/);
    fireEvent.keyDown(screen.getByRole('slider', { name: /^Royal blue/ }), { key: 'ArrowUp' });
    expect(
      useSession.getState().bundle!.case.plates.find((p) => p.id === 'demo-noon')!.mix['royal-blue'],
    ).toBe(0.41);
  });

  test('the eye caution stands beside a violet crest', async () => {
    show(Mix);
    await waitFor(() => expect(text('mix-umol')).toBe('250 µmol'));
    fireEvent.focus(screen.getByRole('slider', { name: /^Violet/ }));
    expect(screen.getAllByText(/Violet and near UV look dimmer than they are/)).toHaveLength(1);
  });

  test('plates are copied, renamed and removed', async () => {
    show(Mix);
    fireEvent.click(screen.getByRole('button', { name: /choose, copy, rename/ }));
    fireEvent.click(screen.getByRole('button', { name: 'Copy as a new plate' }));
    const name = screen.getByLabelText('Name') as HTMLInputElement;
    expect(name.value).toBe('Reading noon, copy');
    fireEvent.change(name, { target: { value: 'Night reading' } });
    fireEvent.blur(name);
    const plates = () => useSession.getState().bundle!.case.plates.map((p) => p.name);
    expect(plates()).toContain('Night reading');
    fireEvent.click(screen.getByRole('button', { name: 'Remove' }));
    expect(plates()).not.toContain('Night reading');
  });
});

describe('Day', () => {
  test('says dose, lit hours and peak at the chosen coral, and the cap in µmol', async () => {
    show(Day);
    await waitFor(() =>
      expect(text('day-figures')).toBe(
        '6.0 mol a day at Copper table; lit 11 h 30 min; peak 250 µmol at 14:05, estimate ± 53 %.',
      ),
    );
    tap('doses-fold');
    expect(text('doses')).toContain('royal blue');
    const cap = screen.getByTestId('cap');
    fireEvent.change(cap, { target: { value: '120' } });
    fireEvent.blur(cap);
    expect(screen.getByText('▲ Cap: give 0 to 100 %.')).toBeTruthy();
    fireEvent.change(cap, { target: { value: '40' } });
    fireEvent.blur(cap);
    expect(text('day-figures')).toContain('peak 125 µmol');
    expect(text('day')).toContain('not in the lamp yet: 1 change');
    fireEvent.click(screen.getByTestId('set-spot'));
    fireEvent.click(screen.getByRole('radio', { name: 'Straw polyp' }));
    expect(text('day-figures')).toContain('at Straw polyp');
  });

  test('a thread is opened by keyboard, moved, refused on another’s minute, and given another mix', async () => {
    show(Day);
    await waitFor(() => expect(screen.getByTestId('weave')).toBeTruthy());
    fireEvent.keyDown(screen.getByRole('slider', { name: 'Thread at 17:30' }), { key: 'Enter' });
    const time = screen.getByTestId('thread-time');
    fireEvent.change(time, { target: { value: '14:05' } });
    fireEvent.blur(time);
    expect(screen.getByText('▲ Another thread stands at 14:05.')).toBeTruthy();
    fireEvent.change(time, { target: { value: '18.10' } });
    fireEvent.blur(time);
    fireEvent.click(screen.getByRole('radio', { name: 'Deep shelf' }));
    const thread = useSession
      .getState()
      .bundle!.case.zones[0]!.groups[0]!.threads.find((t) => t.minute === 1090)!;
    expect(thread.mix).toEqual({ plateId: 'demo-dusk' });
    fireEvent.click(screen.getByRole('button', { name: 'Open in Mix' }));
    expect(navigate).toHaveBeenCalledWith('/mix');
  });

  test('a thread is stepped past its neighbours, copied, its mix edited here and kept as a plate, and removed', async () => {
    const threads = () => useSession.getState().bundle!.case.zones[0]!.groups[0]!.threads;
    await open(
      onGroup((g) => ({
        ...g,
        threads: g.threads.map((t) => (t.minute === 1140 ? { ...t, minute: 1055 } : t)),
      }))(demo()),
    );
    show(Day);
    await waitFor(() => expect(screen.getByTestId('weave')).toBeTruthy());
    fireEvent.keyDown(screen.getByRole('slider', { name: 'Thread at 17:30' }), { key: 'Enter' });
    // 17:35 is taken: five minutes on from there
    fireEvent.click(screen.getByRole('button', { name: 'Time up' }));
    expect(threads().map((t) => t.minute)).toContain(1060);
    expect(threads().filter((t) => t.minute === 1055)).toHaveLength(1);
    fireEvent.click(screen.getByRole('button', { name: 'Strength down' }));
    expect(threads().find((t) => t.minute === 1060)!.strengthShare).toBe(0.91);
    fireEvent.click(screen.getByTestId('edit-mix'));
    fireEvent.click(screen.getByRole('button', { name: 'Violet up' }));
    expect(threads().find((t) => t.minute === 1060)!.mix).toMatchObject({
      own: { violet: 0.73 },
      fromPlateId: 'demo-late',
    });
    fireEvent.click(screen.getByRole('button', { name: 'Keep its mix as a new plate' }));
    const plates = useSession.getState().bundle!.case.plates;
    expect(plates.at(-1)).toMatchObject({ name: 'From 17:40', mix: { violet: 0.73 } });
    expect(threads().find((t) => t.minute === 1060)!.mix).toEqual({ plateId: plates.at(-1)!.id });
    fireEvent.click(screen.getByTestId('copy-thread'));
    expect((screen.getByTestId('thread-time') as HTMLInputElement).value).toBe('18:10');
    fireEvent.click(screen.getByRole('button', { name: 'Remove this thread' }));
    expect(threads().some((t) => t.minute === 1090)).toBe(false);
    expect(screen.queryByTestId('thread-time')).toBeNull();
  });

  test('a strength asked for as light: taken where the mix can, else told what it can', async () => {
    show(Day);
    await waitFor(() => expect(screen.getByTestId('weave')).toBeTruthy());
    fireEvent.keyDown(screen.getByRole('slider', { name: 'Thread at 14:05' }), { key: 'Enter' });
    await waitFor(() => expect(text('thread-umol')).toMatch(/^250 µmol at Copper table/));
    const ask = (value: string) => {
      const field = screen.getByTestId('thread-umol-field');
      fireEvent.change(field, { target: { value } });
      fireEvent.blur(field);
    };
    ask('125');
    const noon = () =>
      useSession.getState().bundle!.case.zones[0]!.groups[0]!.threads.find((t) => t.minute === 845)!;
    expect(noon().strengthShare).toBeCloseTo(0.5, 2);
    ask('900');
    expect(screen.getByText(/This mix gives 0 to 250 µmol here under the present cap/)).toBeTruthy();
    ask('-1');
    expect(screen.getByText('▲ Give µmol from 0 on.')).toBeTruthy();
    expect(noon().strengthShare).toBeCloseTo(0.5, 2);
  });

  test('a day without threads is dark and says how to begin', async () => {
    await open(onGroup((g) => ({ ...g, threads: [] }))(demo()));
    show(Day);
    expect(screen.getByText(/This day has no threads: the lamps stay dark/)).toBeTruthy();
    await waitFor(() => expect(text('day-figures')).toContain('0 mol a day'));
    fireEvent.click(screen.getByRole('button', { name: 'Add a thread' }));
    expect((screen.getByTestId('thread-time') as HTMLInputElement).value).toBe('12:00');
  });
});

describe('the eye', () => {
  test('its degree is stepped, remembered for every plate, and goes back to what the light says', async () => {
    show(Mix);
    await waitFor(() => expect(screen.getByTestId('figures')).toBeTruthy());
    fireEvent.click(screen.getByTestId('whose-eye'));
    const usual = Number(
      /takes part of a light’s tint for white: of this light (\d+) %/.exec(document.body.textContent!)![1],
    );
    expect(screen.getByText(`Adapted ${usual} %, as usual`)).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: 'Adaptation up' }));
    const { eyeDegree } = useSettings.getState();
    expect(eyeDegree! * 100).toBeGreaterThan(usual);
    expect(eyeDegree! * 20).toBeCloseTo(Math.round(eyeDegree! * 20), 9);
    act(() => useSettings.setState({ eyeDegree: 0.98 }));
    fireEvent.click(screen.getByRole('button', { name: 'Adaptation up' }));
    expect(useSettings.getState().eyeDegree).toBe(1);
    fireEvent.click(screen.getByRole('button', { name: 'As usual' }));
    expect(useSettings.getState().eyeDegree).toBeNull();
  });
});

describe('the sheet', () => {
  test('lists what differs, what to type, whether it is safe; past the ceiling dated caps', async () => {
    edit(
      onGroup((g) => ({
        ...g,
        capShare: 1,
        threads: g.threads.map((t) => (t.minute === 630 ? { ...t, strengthShare: 0.9 } : t)),
      })),
    );
    show(LampSheet);
    expect(text('sheet-state')).toBe('Not in the lamp yet: 2 changes.');
    expect(text('changes')).toContain('10:30: strength 34 % → 90 %');
    expect(text('sheet-cap')).toBe('Cap 100 %');
    const row = screen.getAllByRole('row').find((r) => r.textContent!.startsWith('Royal blue'))!;
    expect(
      within(row)
        .getAllByRole('cell')
        .map((c) => c.textContent),
    ).toEqual(['0', '77', '82', '79', '24', '0']);
    await waitFor(() =>
      expect(text('safety')).toMatch(
        /^Ease this in: .* would get 1\.\d\d × what it is used to, by the day’s light, and four others too much at once; perhaps too much at Plum table, Slate plate, Straw polyp/,
      ),
    );
    // on the screen and on paper
    for (const words of [
      /Set the cap before this lamp hangs over corals/,
      /manual wins over any number here/,
    ])
      expect(screen.getAllByText(words)).toHaveLength(2);
    fireEvent.click(screen.getByTestId('to-ease'));
    expect(navigate).toHaveBeenCalledWith('/ease?of=draft');
    fireEvent.click(screen.getByTestId('typed-all'));
    expect(useSession.getState().bundle!.history.entries.at(-1)!.capShare).toBe(1);
    expect(navigate).toHaveBeenCalledWith('/');
  });

  test('typed in at a time given: bad and future times are refused', async () => {
    edit(onGroup((g) => ({ ...g, capShare: 0.7 })));
    show(LampSheet);
    await waitFor(() => expect(text('safety')).toMatch(/^Safe to type in at once/));
    fireEvent.click(screen.getByRole('radio', { name: 'Earlier' }));
    fireEvent.click(screen.getByTestId('typed-all'));
    expect(screen.getByText(/Time: give a time of day such as 14:30/)).toBeTruthy();
    fireEvent.change(screen.getByTestId('typed-time'), { target: { value: '23:00' } });
    fireEvent.click(screen.getByTestId('typed-all'));
    expect(screen.getByText(/still to come/)).toBeTruthy();
    fireEvent.change(screen.getByTestId('typed-date'), { target: { value: '2026-11-23' } });
    fireEvent.click(screen.getByTestId('typed-all'));
    expect(useSession.getState().bundle!.history.entries.at(-1)!.atUtc).toBe('2026-11-23T22:00:00.000Z');
  });
});

describe('Case and the frame', () => {
  test('a tank cannot be nonsense, and a smaller one says what PAR becomes', async () => {
    show(Case);
    tap('set-water-size');
    const depth = screen.getByTestId('zone-depthCm');
    fireEvent.change(depth, { target: { value: '2' } });
    fireEvent.blur(depth);
    expect(screen.getByText('▲ Give 5 to 300 cm.')).toBeTruthy();
    fireEvent.change(depth, { target: { value: '40' } });
    fireEvent.blur(depth);
    expect(useSession.getState().bundle!.case.zones[0]!.spots.every((s) => s.depthCm <= 40)).toBe(true);
    expect(text('par-basis')).toBe('PAR is an estimate, no reading yet.');
    await waitFor(() => expect(screen.getByText('open, demo')).toBeTruthy());
  });

  test('a spot is moved within the water only, and removed', () => {
    show(Case);
    tap('case-corals');
    fireEvent.click(screen.getByRole('button', { name: 'Edit Moss branch' }));
    fireEvent.change(screen.getByTestId('spot-depth'), { target: { value: '70' } });
    fireEvent.click(screen.getByTestId('keep-spot'));
    expect(screen.getByText('▲ Give 0 to 50 cm.')).toBeTruthy();
    fireEvent.change(screen.getByTestId('spot-depth'), { target: { value: '30' } });
    fireEvent.click(screen.getByTestId('keep-spot'));
    const spots = () => useSession.getState().bundle!.case.zones[0]!.spots;
    expect(spots().find((s) => s.name === 'Moss branch')!.depthCm).toBe(30);
    fireEvent.click(screen.getByRole('button', { name: 'Edit Moss branch' }));
    fireEvent.click(screen.getByRole('button', { name: 'Remove this spot' }));
    expect(spots()).toHaveLength(4);
  });

  test('one reading moves every figure and can be undone', async () => {
    show(Case);
    fireEvent.click(screen.getByTestId('new-reading'));
    expect(navigate).toHaveBeenCalledWith({ pathname: '/readings', params: { read: 'demo-copper' } });
    const { id: spotId, name, xCm, yCm, depthCm } = demo().case.zones[0]!.spots[0]!;
    const atUtc = '2026-11-24T14:40:00.000Z';
    const at = { id: 'r', spotId, name, xCm, yCm, depthCm, atUtc, tries: [300], bands: null };
    edit((b) => ({
      ...b,
      readings: {
        ...b.readings,
        sessions: [
          {
            ...{ id: 's', zoneId: b.case.zones[0]!.id, name: 's', atUtc, lit: '', counts: true, rig: null },
            meter: { kind: 'ideal', immersionFactor: 1, sensorAboveCm: 0, simulated: false },
            pumpsOn: false,
            readings: [{ ...at, levels: { 'demo-panels': { 'royal-blue': 1 } } }],
          },
        ],
      },
    }));
    await waitFor(() => expect(text('par-basis')).toBe('PAR is fitted to 1 reading.'));
    act(() => undo());
    await waitFor(() => expect(text('par-basis')).toContain('estimate, no reading yet'));
  });

  test('tabs name the place; the strip carries undo, before and the sign of autosave', async () => {
    routeAt('/sheet');
    show(Tabs);
    expect(screen.getByRole('tab', { name: 'Day' }).getAttribute('aria-selected')).toBe('true');
    fireEvent.click(screen.getByRole('tab', { name: 'Mix' }));
    expect(navigate).toHaveBeenCalledWith('/mix');
    show(Strip);
    expect(text('save-sign')).toBe('Saved');
    expect(screen.getByTestId('undo').getAttribute('aria-label')).toBe('Nothing to undo');
    edit(onGroup((g) => ({ ...g, capShare: 0.5 })));
    expect(screen.getByTestId('undo').getAttribute('aria-label')).toBe('Undo: test');
    fireEvent.click(screen.getByTestId('undo'));
    expect(useSession.getState().bundle!.case.zones[0]!.groups[0]!.capShare).toBe(0.8);
    await act(flush);
  });

  test('a refused edit, a stale tab and a full store each say what to do', () => {
    show(Banners);
    edit(onGroup((g) => ({ ...g, capShare: 3 })));
    expect(text('refusal')).toMatch(/^Not done \(test\): .*capShare must be at most 1/);
    fireEvent.click(screen.getByRole('button', { name: 'Close' }));
    expect(screen.queryByTestId('refusal')).toBeNull();
    act(() =>
      useSession.setState({
        save: { kind: 'failed', full: true, message: 'The browser has no room left for this site.' },
      }),
    );
    expect(text('save-failed')).toMatch(/free some room in the browser, then try again, or export/);
    act(() => useSession.setState({ save: { kind: 'stale' } }));
    expect(text('stale')).toMatch(/no longer saves/);
  });
});
