import { act, within, fireEvent, screen, waitFor } from '@testing-library/react';

import { levelsOfGroups, parUnder, zoneLight } from '@/core/case/light';
import { draftGroups, rigOf } from '@/core/case/lit';
import { levelsById, rigGroups } from '@/core/case/plateaus';
import type { Reading, Session } from '@/core/record/readings';
import { must } from '@/core/fixtures/result';
import { parseReadingsCsv } from '@/core/formats/readingsCsv';
import { computeResponse } from '@/core/optics/response';
import { undo, useSession } from '@/state/session';
import { useSettings } from '@/state/settings';
import { download } from '@/ui/files';
import { reckoner } from '@/workers/client';

import { BeforeAfterPage } from './readings/BeforeAfter';
import { CalibrationPage } from './readings/Calibration';
import { Readings } from './readings/Readings';
import { Tank } from './tank/Tank';
import { choose, demo, edit, freshPlaces, press, show, tap, text } from './test/kit';
import type * as Router from './test/router';
import { navigate, routeAt } from './test/router';

jest.mock('expo-router', () => jest.requireActual<typeof Router>('./test/router').mockRouter);
jest.mock(
  'react-native-gesture-handler',
  () => jest.requireActual<typeof Router>('./test/router').mockGestures,
);
jest.mock('@/ui/files', () => ({ ...jest.requireActual('@/ui/files'), download: jest.fn() }));
jest.mock('@/workers/client', () => {
  const real = jest.requireActual('@/workers/client').reckoner();
  const offered = { ...real };
  return { reckoner: () => offered };
});
const kept = jest.mocked(download);
const worker = reckoner() as unknown as Record<string, jest.Mock>;

freshPlaces();
const real = { ...worker };
beforeEach(() => routeAt('/readings'));
afterEach(() => void Object.assign(worker, real));

const bundle = demo();
const zone = bundle.case.zones[0]!;
const groups = draftGroups(bundle.case, zone);
const light = zoneLight(computeResponse(rigOf(groups, zone, zone.spots)), groups);
const noon = levelsOfGroups(groups, 845);
const channels = groups[0]!.lampKind.channels;
const sessions = () => useSession.getState().bundle!.readings.sessions;

const reading = (spot: number, levels: number[][], shown: number, id: string): Reading => {
  const { id: spotId, name, xCm, yCm, depthCm } = zone.spots[spot]!;
  const atUtc = '2026-11-24T12:00:00.000Z';
  return {
    id,
    spotId,
    name,
    xCm,
    yCm,
    depthCm,
    atUtc,
    tries: [shown],
    bands: null,
    levels: levelsById(groups, levels),
  };
};
const session = (id: string, readings: Reading[], change: Partial<Session> = {}): Session => ({
  id,
  zoneId: zone.id,
  name: `Evening ${id}`,
  atUtc: '2026-11-24T12:00:00.000Z',
  meter: { kind: 'ideal', immersionFactor: 1, sensorAboveCm: 0, simulated: false },
  pumpsOn: false,
  lit: '',
  counts: true,
  rig: rigGroups(groups),
  readings,
  ...change,
});
const withSessions = (...all: Session[]) =>
  edit((b) => ({ ...b, readings: { ...b.readings, sessions: all } }));
const par = (levels: number[][], spot: number) => parUnder(light, levels, spot);
const alone = (c: number) => [channels.map((_, k) => (k === c ? 1 : 0))];

describe('Calibration', () => {
  test('sums that do not add up are named with their likely causes, and the other route stands beside the fit', async () => {
    withSessions(
      session('a', [
        ...channels.map((_, c) => reading(1, alone(c), par(alone(c), 1), `solo${c}`)),
        reading(1, noon, 0.65 * par(noon, 1), 'all'),
      ]),
    );
    show(CalibrationPage);
    await waitFor(() => expect(text('sum-Plum table')).toBe('Plum table: does not add up'));
    expect(screen.getByText(/Perhaps the lamp shares a power budget/)).toBeTruthy();
    expect(text('calibration-sentence')).toContain('Some sums of single colours do not add up.');
    await waitFor(() => expect(text('solo')).toMatch(/Plum table.*Violet \d+ ± \d/));
    // the sum of the colours is what the model had them at
    const sum = Number(/(\d{3}) ± \d+ %; fit/.exec(text('solo'))![1]);
    expect(Math.abs(sum / par(noon, 1) - 1)).toBeLessThan(0.02);
  });

  test('a gross reading is pointed out by name, at the top, and said in the sentence', async () => {
    withSessions(
      session(
        'a',
        [0, 1, 2, 3, 4].map((s) => reading(s, noon, (s === 2 ? 3 : 1) * par(noon, s), `r${s}`)),
      ),
    );
    show(CalibrationPage);
    await waitFor(() => expect(text('calibration-sentence')).toContain('1 reading does not fit'));
    expect(text('residuals')).toMatch(/^▲ Moss branch8 channels lit · hardly counts in the fit/);
  });

  test('a reading left out is listed with its reason and comes back by one tap, and goes again', async () => {
    withSessions(
      session(
        'a',
        [0, 1, 2, 3, 4].map((s) => reading(s, noon, (s === 2 ? 3 : 1) * par(noon, s), `r${s}`)),
      ),
    );
    show(CalibrationPage);
    await waitFor(() =>
      expect(text('parameters')).toMatch(/Moss branch: hardly countsread \d+, the others say/),
    );
    press('Bring back: Moss branch');
    await waitFor(() => expect(text('parameters')).toContain('Moss branch: counts, as you said'));
    expect(text('residuals')).not.toContain('hardly counts in the fit');
    press('Leave to the fit: Moss branch');
    await waitFor(() => expect(text('parameters')).toContain('Moss branch: hardly counts'));
  });

  test('a meter’s scale that was fitted is said, and the meter taken at its word by one tap', async () => {
    const lux = { ...session('b', []).meter, kind: 'lux' as const };
    const more = [0, 1, 2, 3, 4].map((s) => reading(s, noon, par(noon, s), `p${s}`));
    const luxAs = [0, 1, 2, 3, 4].map((s) => reading(s, noon, 25 * par(noon, s), `l${s}`));
    withSessions(session('a', more), session('b', luxAs, { meter: lux }));
    show(CalibrationPage);
    await waitFor(() => expect(text('parameters')).toMatch(/Scale of: .*it shows \d+ % too (much|little)/));
    press(/^Take at its word: Lux/);
    await waitFor(() => expect(text('parameters')).toContain('Taken at its word, as you said.'));
    expect(sessions()[1]!.meter.trusted).toBe(true);
    press(/^Fit the scale of: Lux/);
    expect(sessions()[1]!.meter.trusted).toBe(false);
  });

  test('what a fit means is said: how far ± fell, and whose standing it changed', async () => {
    withSessions(
      session(
        'a',
        [0, 1, 2, 3, 4].map((s) => reading(s, noon, 0.5 * par(noon, s), `r${s}`)),
      ),
    );
    show(CalibrationPage);
    await waitFor(() =>
      expect(text('calibration-sentence')).toMatch(
        /5 readings fitted\..* At your corals the mean ± went from \d\d to \d+ %; judged anew: .*Copper table from \D+ to \D+too little/,
      ),
    );
  });

  test('the next best reading is one tap away, with its colour already chosen', async () => {
    show(CalibrationPage);
    await waitFor(() =>
      expect(text('visit')).toMatch(
        /^In 10 minutes the mean ± over the corals would fall from \d\d % to \d+ %, by \d readings:$/,
      ),
    );
    const few = within(screen.getByTestId('visit-stops')).getAllByText(/^\d · .* at /).length;
    choose('40 minutes');
    expect(within(screen.getByTestId('visit-stops')).getAllByText(/^\d+ · /).length).toBeGreaterThan(few);
    tap('read-next');
    expect(navigate).toHaveBeenCalledWith({
      pathname: '/readings',
      params: expect.objectContaining({
        read: expect.any(String),
        lit: expect.stringMatching(/^(now|alone:)/),
      }),
    });
    expect(zone.spots.map((s) => s.id)).toContain(useSettings.getState().spotId);
  });

  test('few readings say that they are few; a fit that fails leaves the bare model and says so', async () => {
    withSessions(session('a', [reading(0, noon, 260, 'one')]));
    const page = show(CalibrationPage);
    await waitFor(() => expect(text('calibration-sentence')).toContain('1 reading fitted. At your corals'));
    page.unmount();
    worker.calibrate = jest.fn(() => Promise.reject(new Error('no room')));
    withSessions(session('b', [reading(1, noon, 260, 'two')]));
    show(CalibrationPage);
    await waitFor(() =>
      expect(screen.getByText(/could not be fitted: no room\. The bare model is shown/)).toBeTruthy(),
    );
    expect(text('calibration-sentence')).toContain('No reading counts yet');
  });
});

test('a long fit says how far it is, can be stopped and is asked for again', async () => {
  let report: ((share: number) => boolean) | undefined;
  worker.calibrate = jest.fn(
    (_doc: unknown, _zone: unknown, _all: unknown, onProgress: (share: number) => boolean) => {
      report = onProgress;
      return new Promise(() => undefined);
    },
  );
  withSessions(session('a', [reading(0, noon, 260, 'one')]));
  show(CalibrationPage);
  await waitFor(() => expect(worker.calibrate).toHaveBeenCalledTimes(1));
  act(() => void report!(0.42));
  expect(text('fitting')).toBe('Fitting 42 %');
  press('Stop');
  await waitFor(() => expect(screen.getByTestId('fit-again')).toBeTruthy());
  let goesOn = true;
  act(() => {
    goesOn = report!(0.5);
  });
  expect(goesOn).toBe(false);
  tap('fit-again');
  await waitFor(() => expect(worker.calibrate).toHaveBeenCalledTimes(2));
});

describe('the list of sessions', () => {
  test('a session is set aside, let count, written as CSV that reads back, thinned and removed; all of it undoes', async () => {
    withSessions(session('a', [reading(0, noon, 240, 'r0'), reading(1, noon, 255, 'r1')]));
    show(Readings);
    press(/^Evening a,/);
    press('Set it aside');
    expect(sessions()[0]!.counts).toBe(false);
    press('Let it count');
    press('Write these readings as CSV');
    await waitFor(() => expect(kept).toHaveBeenCalled());
    const [name, csv] = kept.mock.calls.at(-1)!;
    expect(name).toBe('readings-2026-11-24.csv');
    const back = must(parseReadingsCsv(csv));
    expect(back.readings.map((r) => [r.name, r.xCm, r.tries[0]])).toEqual([
      ['Copper table', 40, 240],
      ['Plum table', 104, 255],
    ]);
    expect(back.readings[0]!.levels!['Panels / Violet']).toBeCloseTo(noon[0]![1]!, 3);
    press('Remove the reading at Copper table');
    expect(sessions()[0]!.readings).toHaveLength(1);
    // the last one takes its session with it
    press('Remove the reading at Plum table');
    expect(sessions()).toEqual([]);
    act(() => undo());
    act(() => undo());
    expect(sessions()[0]!.readings).toHaveLength(2);
    await waitFor(() => expect(screen.getByRole('button', { name: /^Evening a,/ })).toBeTruthy());
  });

  test('without lamps nothing can be read, and it says why', () => {
    edit((b) => ({
      ...b,
      case: { ...b.case, zones: b.case.zones.map((z) => ({ ...z, groups: [] })) },
      history: { ...b.history, entries: [] },
    }));
    show(Readings);
    expect(screen.getByTestId('start-session').getAttribute('aria-disabled')).toBe('true');
    expect(screen.getByText(/No lamp hangs over this water yet/)).toBeTruthy();
  });

  test('one reading from elsewhere: the meter used last, at that spot; later that day it goes on with it', async () => {
    act(() => useSettings.setState({ meter: 'lux' }));
    routeAt('/readings', { read: zone.spots[2]!.id });
    const page = show(Readings);
    // nothing was read before: there is no last time
    expect(screen.getByText('Read with: Lux meter.')).toBeTruthy();
    tap('eyes-shaded');
    expect(sessions().map((s) => s.meter.kind)).toEqual(['lux']);
    expect(navigate).toHaveBeenLastCalledWith({
      pathname: '/readings',
      params: { at: sessions()[0]!.id, read: zone.spots[2]!.id },
    });
    page.unmount();
    routeAt('/readings', { read: zone.spots[1]!.id });
    show(Readings);
    tap('eyes-shaded');
    expect(sessions()).toHaveLength(1);
    expect(navigate).toHaveBeenLastCalledWith({
      pathname: '/readings',
      params: { at: sessions()[0]!.id, read: zone.spots[1]!.id },
    });
  });

  test('a walk through the day keeps what it read, each with the light of its minute', async () => {
    withSessions(session('w', []));
    act(() => useSettings.setState((s) => ({ readings: { ...s.readings, lit: 'now' } })));
    routeAt('/readings', { at: 'w', read: zone.spots[1]!.id });
    const page = show(Readings);
    expect(screen.getByText('Plum table')).toBeTruthy();
    const type = (digits: string) => [...digits].forEach((d) => tap(`key-${d}`));
    await waitFor(() => expect(text('walk-expected')).toMatch(/expects \d+/));
    const expected = Number(/expects (\d+)/.exec(text('walk-expected'))![1]);
    type(String(expected));
    // what is half typed outlives the page
    expect(text('walk-value')).toBe(String(expected));
    tap('another-try');
    page.unmount();
    jest.setSystemTime(Date.now() + 3 * 3_600_000);
    show(Readings);
    await waitFor(() => expect(screen.getByText(/1 place read/)).toBeTruthy());
    expect(text('walk-tries')).toMatch(/^Read at \d\d:\d\d: \d+ µmol, kept with the light of that minute\./);
    type('120');
    tap('another-try');
    const [first, second] = sessions()[0]!.readings;
    expect(first!.tries).toEqual([expected]);
    expect(second!.tries).toEqual([120]);
    expect(second!.levels).not.toEqual(first!.levels);
  });

  test('a session on a grid asks for one that fits the tank', () => {
    show(Readings);
    tap('start-session');
    tap('eyes-shaded');
    choose('on a grid');
    fireEvent.change(screen.getByTestId('grid-columns'), { target: { value: '40' } });
    fireEvent.change(screen.getByTestId('immersion'), { target: { value: '9' } });
    tap('walk');
    expect(screen.getByText('▲ Give 1 to 12 columns, 1 to 8 rows, and 0 to 50 cm.')).toBeTruthy();
    fireEvent.change(screen.getByTestId('grid-columns'), { target: { value: '4' } });
    tap('walk');
    expect(screen.getByText(/▲ Give 0\.5 to 3/)).toBeTruthy();
    expect(sessions()).toEqual([]);
    fireEvent.change(screen.getByTestId('immersion'), { target: { value: '1,21' } });
    tap('walk');
    expect(sessions()[0]!.meter.immersionFactor).toBe(1.21);
    expect(useSettings.getState().readings.gridColumns).toBe(4);
  });
});

describe('Before and after', () => {
  const evening = (id: string, factor: (s: number) => number, counts = true) =>
    session(
      id,
      zone.spots.map((_, s) => reading(s, noon, factor(s) * par(noon, s), `${id}${s}`)),
      { counts },
    );

  test('places sorted by change, real ones told from noise; sessions set aside are compared all the same', async () => {
    withSessions(
      evening('a', () => 1, false),
      evening('b', (s) => (s === 3 ? 1.6 : 1.01)),
    );
    show(BeforeAfterPage);
    await waitFor(() => expect(text('changes')).toMatch(/^Slate plate/));
    expect(text('changes')).toMatch(/^Slate platebeyond noise, .*\+60 %/);
    expect(text('changes')).toMatch(/Copper tablewithin noise/);
    expect(text('evenness-table')).toMatch(/Mean\d+\d+/);
    tap('set-before');
    choose(/^Evening b/);
    await waitFor(() => expect(text('evenness-verdict')).toBe('Choose two different sessions.'));
  });

  test('what was read under another light is brought under the later one, and said', async () => {
    const late = levelsOfGroups(groups, 1050);
    withSessions(
      evening('a', () => 1),
      session(
        'b',
        zone.spots.map((_, s) => reading(s, late, par(late, s), `b${s}`)),
      ),
    );
    show(BeforeAfterPage);
    await waitFor(() =>
      expect(text('evenness-verdict')).toContain('All were read under another light before'),
    );
    // the lamps are the same: nothing changed but what was lit
    expect(text('changes')).not.toContain('beyond noise');
    expect(text('changes')).toMatch(/[+−][0-3] %/);
    expect(text('changes')).toContain(`${Math.round(par(noon, 0))} read before`);
  });

  test('two that share no places say so, and one alone asks for another', async () => {
    withSessions(
      session('a', [reading(0, noon, 240, 'a0'), reading(1, noon, 240, 'a1')]),
      session('b', [reading(2, noon, 200, 'b2'), reading(3, noon, 150, 'b3')]),
    );
    const page = show(BeforeAfterPage);
    await waitFor(() => expect(text('evenness-verdict')).toContain('share fewer than two places'));
    page.unmount();
    withSessions(session('a', [reading(0, noon, 240, 'a0')]));
    show(BeforeAfterPage);
    expect(screen.getByText(/There is one session yet/)).toBeTruthy();
  });
});

describe('the chart while its light is computed', () => {
  test('says how far it is, can be stopped, and is asked for again', async () => {
    let go: (() => void) | undefined;
    worker.field = jest.fn(
      (_rig: unknown, _grid: unknown, onProgress: (share: number) => boolean) =>
        new Promise((_, reject) => {
          onProgress(0.4);
          go = () => {
            if (!onProgress(0.6)) reject(new Error('cancelled'));
          };
        }),
    );
    show(Tank);
    await waitFor(() => expect(text('field-progress')).toBe('Light in the water: 40 %'));
    press('Stop');
    await waitFor(() => expect(screen.getByText('The light in the water is not computed yet.')).toBeTruthy());
    // the worker was told: its next report is answered with no
    act(() => go!());
    expect(worker.field).toHaveBeenCalledTimes(1);
    tap('field-again');
    await waitFor(() => expect(worker.field).toHaveBeenCalledTimes(2));
  });

  test('an error names itself and offers another try; the rest of the page stands', async () => {
    worker.field = jest.fn(() => Promise.reject(new Error('out of memory')));
    show(Tank);
    await waitFor(() =>
      expect(screen.getByText(/could not be computed: out of memory\. Nothing is lost\./)).toBeTruthy(),
    );
    tap('tank-more');
    expect(screen.getByTestId('to-readings')).toBeTruthy();
    press('Compute it again');
    await waitFor(() => expect(worker.field).toHaveBeenCalledTimes(2));
  });

  test('the check of the model shows progress, stops, fails and tells what it found', async () => {
    worker.field = jest.fn(() => new Promise(() => undefined));
    routeAt('/tank', { open: 'check' });
    let report: ((share: number) => boolean) | undefined;
    let settle: ((found: unknown) => void) | undefined;
    let fail: ((error: Error) => void) | undefined;
    worker.check = jest.fn((_zone: unknown, _groups: unknown, onProgress: (share: number) => boolean) => {
      report = onProgress;
      return new Promise((resolve, reject) => {
        settle = resolve;
        fail = reject;
      });
    });
    show(Tank);
    tap('check-start');
    act(() => void report!(0.31));
    expect(text('check-progress')).toBe('Traced 31 %');
    fireEvent.click(screen.getAllByRole('button', { name: 'Stop' }).at(-1)!);
    expect(screen.getByTestId('check-start')).toBeTruthy();
    let goesOn = true;
    act(() => {
      goesOn = report!(0.5);
    });
    expect(goesOn).toBe(false);
    tap('check-start');
    await act(async () => fail!(new Error('stopped')));
    expect(screen.getByText(/The check did not end: stopped/)).toBeTruthy();
    tap('check-start');
    await act(async () =>
      settle!({ cells: 72, agree: 60, medianOff: 0.02, p95Off: 0.08, photons: 6e5, leftOut: ['Bar'] }),
    );
    expect(text('check-found')).toContain('60 of 72 cells agree');
    expect(screen.getByText(/Fewer than 95 of 100 cells agree/)).toBeTruthy();
    expect(screen.getByText(/Left out of both: Bar/)).toBeTruthy();
  });
});
