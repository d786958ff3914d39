import { act, screen, waitFor } from '@testing-library/react';

import { litRunning, rigOf } from '@/core/case/lit';
import { parOf, levelsAt } from '@/core/day/day';
import { Bench } from '@/heads/bench';
import { pageLine, setLine } from '@/state/bench';
import { createCase, undo, useSession } from '@/state/session';
import { withId } from '@/core/record/caseFile';
import type { BenchState, HeadMake } from '@/wire/wire';
import { computeResponse } from '@/core/optics/response';
import { zoneLight } from '@/core/case/light';

import { BenchPage } from './lampside/BenchPage';
import { Load } from './lampside/Load';
import { Prove } from './lampside/Prove';
import {
  choose,
  demo,
  doc,
  edit,
  fill,
  freshPlaces,
  NOW,
  open,
  press,
  show,
  tap,
  text,
  onZone,
} from './test/kit';
import type * as Router from './test/router';
import { navigate, routeAt } from './test/router';

jest.mock('expo-router', () => jest.requireActual<typeof Router>('./test/router').mockRouter);

freshPlaces();
let bench: Bench;
beforeEach(() => {
  routeAt();
  bench = new Bench(() => Date.now(), 15 * 60 + 40);
  setLine(pageLine(bench, async () => undefined));
});
afterEach(() => setLine(null));

const entries = () => useSession.getState().bundle!.history.entries;
const post = (path: string, body: unknown) => act(async () => void bench.handle('POST', path, body));
const state = () => bench.handle('GET', '/heads', null).body as BenchState;
const cap = (capShare: number) =>
  edit(onZone((z) => ({ ...z, groups: z.groups.map((g) => ({ ...g, capShare })) })));

describe('Into the lamp', () => {
  test('two heads of one name are told apart, and one shows which lamp it is', async () => {
    show(Load);
    await waitFor(() => expect(screen.getByTestId('place-heads')).toBeTruthy());
    tap('place-heads');
    await waitFor(() => expect(screen.getByTestId('load-Panels left')).toBeTruthy());
    const made = bench.handle('GET', '/heads/head-1', null).body as HeadMake;
    const { name, profile, controls } = made;
    bench.handle('POST', '/heads', { name, profile, controls });
    await waitFor(() => expect(screen.getByTestId('find-Panels left (2)')).toBeTruthy());
    tap('find-Panels left (2)');
    await waitFor(() =>
      expect(text('load-sentence')).toMatch(/^Panels left \(2\) is dimly lit for a minute/),
    );
    expect(bench.handle('GET', '/heads/head-3', null).body).toMatchObject({ mode: 'look' });
    expect(bench.handle('GET', '/heads/head-1', null).body).toMatchObject({ mode: 'program' });
    bench.handle('POST', '/heads/head-3/faults', { faults: ['offline'] });
    tap('find-Panels left (2)');
    await waitFor(() => expect(text('load-sentence')).toMatch(/did not show itself: no answer/));
  });

  test('heads are placed, the day is loaded, read back, and runs; what was held can be put back', async () => {
    cap(0.7);
    show(Load);
    await waitFor(() => expect(screen.getByTestId('place-heads')).toBeTruthy());
    tap('place-heads');
    await waitFor(() => expect(text('load-sentence')).toBe('Two heads take this day: 6 points, cap 70 %.'));
    expect(text('load-safety')).toMatch(
      /^Safe to type in at once: at most 0\.8\d × what any coral is used to; perhaps too/,
    );
    await waitFor(() => expect(screen.getAllByText(/1 difference from what it holds/)).toHaveLength(2));
    tap('load-now');
    await waitFor(() =>
      expect(text('load-sentence')).toMatch(/^Read back from every head and compared: this day runs now/),
    );
    expect(text('ending-Panels left')).toMatch(/^✓/);
    expect(entries().at(-1)).toMatchObject({ capShare: 0.7, sure: 'loaded' });
    cap(0.6);
    tap('load-now');
    await waitFor(() => expect(entries().at(-1)!.capShare).toBe(0.6));
    tap('restore-Panels left');
    await waitFor(() => expect(text('load-sentence')).toMatch(/Panels left runs again what it ran before/));
    const held = bench.handle('GET', '/heads/head-1/schedule', null).body as { active: { capShare: number } };
    expect(held.active.capShare).toBe(0.7);
    act(() => undo());
    expect(entries().at(-1)!.capShare).toBe(0.7);
  });

  test('an answer that comes when another case is open types nothing into that one', async () => {
    cap(0.7);
    show(Load);
    await waitFor(() => expect(screen.getByTestId('place-heads')).toBeTruthy());
    tap('place-heads');
    await waitFor(() => expect(text('load-sentence')).toMatch(/^Two heads take/));
    await waitFor(() => expect(screen.getByTestId('load-now')).not.toHaveProperty('disabled', true));
    tap('load-now');
    const other = withId(demo(), 'other', 'Other');
    await act(async () => {
      await createCase({ ...other, case: { ...other.case, demo: false } });
    });
    await waitFor(() =>
      expect(text('load-sentence')).toMatch(/^Loaded, but not written down: it belongs to/),
    );
    expect(entries()).toHaveLength(1);
    expect(useSession.getState().bundle!.case.id).toBe('other');
  });

  test('partial success is told per head, and nothing counts as running', async () => {
    cap(0.7);
    show(Load);
    await waitFor(() => expect(screen.getByTestId('place-heads')).toBeTruthy());
    tap('place-heads');
    await waitFor(() => expect(state().heads).toHaveLength(2));
    await post('/heads/head-2/faults', { faults: ['savesOnly'] });
    await waitFor(() => expect(text('load-sentence')).toMatch(/^Two heads take/));
    tap('load-now');
    await waitFor(
      () => expect(text('load-sentence')).toMatch(/^1 of 2 heads runs the new day\. It does not count/),
      { timeout: 15_000 },
    );
    expect(text('ending-Panels right')).toMatch(/▲ Saved, but not activated/);
    expect(entries()).toHaveLength(1);
  });

  test('a load that raises light too far asks for easing in first; a lamp not over the water gets its cap', async () => {
    cap(1);
    edit((b) => ({
      ...b,
      history: { ...b.history, entries: b.history.entries.map((e) => ({ ...e, capShare: 0.4 })) },
    }));
    show(Load);
    await waitFor(() =>
      expect(text('load-safety')).toMatch(/^Ease this in: .* would get 2\.42 × what it is used to/),
    );
    tap('load-ease');
    expect(navigate).toHaveBeenCalledWith('/ease?of=draft');
    await waitFor(() => expect(screen.getByTestId('place-heads')).toBeTruthy());
    tap('place-heads');
    await waitFor(() => expect(screen.getByTestId('load-now').textContent).toBe('Load it all the same'));
    choose('not yet');
    tap('cap-first');
    await waitFor(() => expect(text('load-sentence')).toMatch(/^The cap stands in 2 heads/));
    expect(entries()).toHaveLength(1);
  });
});

describe('Bench', () => {
  test('a bench that does not answer is away, here and where a lamp is loaded; once it answers its heads are there', async () => {
    const line = pageLine(bench, async () => undefined);
    let away = true;
    setLine({
      ...line,
      send: async (method, path, body, answer) =>
        away
          ? { ok: false, message: 'no answer', code: 'lost', lost: true }
          : line.send(method, path, body, answer),
    });
    const words = /^The bench is away: no answer\. Its heads keep what they hold/;
    const { unmount } = show(Load);
    await waitFor(() => expect(text('load-sentence')).toMatch(words));
    unmount();
    show(BenchPage);
    await waitFor(() => expect(text('bench-sentence')).toMatch(words));
    away = false;
    await waitFor(() => expect(text('bench-sentence')).toBe('No head stands on the bench yet.'), {
      timeout: 4000,
    });
  });

  test('heads of every kind, faults by tap, alarms in words', async () => {
    show(BenchPage);
    await waitFor(() => expect(text('bench-sentence')).toBe('No head stands on the bench yet.'));
    tap('add-heads');
    await waitFor(() => expect(state().heads).toHaveLength(2));
    await waitFor(() =>
      expect(screen.getByTestId('head-Panels left').textContent).toContain('It holds no program yet'),
    );
    press(/^Panels left/);
    tap('manual');
    await waitFor(() =>
      expect(screen.getByTestId('head-Panels left').textContent).toContain('It was left in manual'),
    );
    tap('manual');
    tap('fault-clockReset');
    await waitFor(() => expect(state().heads[0]!.faults).toEqual(['clockReset']));
    tap('cut-power');
    await waitFor(() =>
      expect(screen.getByTestId('head-Panels left').textContent).toMatch(/reset by a power cut/),
    );
    tap('set-clock');
    tap('endless');
    await waitFor(() => expect(state().heads[0]!.mode).toBe('look'));
    tap('fault-offline');
    await waitFor(() => expect(screen.getByTestId('head-Panels left').textContent).toContain('no answer'));
    tap('remove-head');
    await waitFor(() => expect(state().heads).toHaveLength(1));
    tap('add-kinds');
    await waitFor(() => expect(state().heads).toHaveLength(8));
    choose('a day a minute');
    await waitFor(() => expect(state().speed).toBe(1440));
  });
});

describe('Prove', () => {
  const zone = () => doc().zones[0]!;
  const truth = (factor: number, late = 0) => {
    const groups = entries().map((e) => litRunning(e));
    const light = zoneLight(computeResponse(rigOf(groups, zone(), zone().spots)), groups);
    return (minute: number) => factor * parOf(levelsAt(groups[0]!.day, minute - late), light.par[0]![0]!);
  };
  const add = (time: string, value: number) => {
    fill('proof-time', time);
    fill('proof-value', String(value));
    tap('proof-add');
  };

  test('as planned and a clock off are told apart; bad input is said; the verdict says how sure running is', async () => {
    const place = show(Prove);
    await waitFor(() => expect(text('suggested')).toMatch(/^Read PAR at \d\d:\d\d at Copper table/));
    await waitFor(() =>
      expect(screen.getByTestId('proof-add').getAttribute('aria-disabled')).not.toBe('true'),
    );
    tap('proof-add');
    expect(screen.getByText(/Give a time of day/)).toBeTruthy();
    fill('proof-time', '10:45');
    fill('proof-value', 'bright');
    tap('proof-add');
    expect(screen.getByText(/Give 0 to 5000 µmol/)).toBeTruthy();
    const late = truth(1, 120);
    for (const [time, m] of [
      ['10:45', 645],
      ['14:00', 840],
      ['18:15', 1095],
      ['19:30', 1170],
    ] as const)
      add(time, late(m));
    await waitFor(() =>
      expect(text('prove-sentence')).toMatch(/^Most likely clock (1 h 45|2 h|2 h 15).* behind/),
    );
    tap('keep-proof');
    expect(entries()[0]!.sure).toBe('doubted');
    expect(text('sure')).toContain('doubted');
    act(() => undo());
    press('Remove the reading at 10:45');
    expect(screen.getByTestId('proof-readings').textContent).not.toContain('10:45');
    // they are a document: with undo, and there when the place is opened again, also on another day
    act(() => undo());
    expect(text('proof-readings')).toContain('10:45');
    expect(useSession.getState().bundle!.readings.proofs.map((p) => [p.minute, p.kind, p.spotId])).toEqual(
      [645, 840, 1095, 1170].map((m) => [m, 'par', doc().zones[0]!.spots[0]!.id]),
    );
    place.unmount();
    jest.setSystemTime(NOW + 86_400_000);
    show(Prove);
    expect(text('proof-readings')).toMatch(/10:45Copper table, yesterday/);
  });

  test('what the eye sees and what its display shows are readings too, without a spot', async () => {
    show(Prove);
    await waitFor(() =>
      expect(screen.getByTestId('proof-add').getAttribute('aria-disabled')).not.toBe('true'),
    );
    choose('whether it is lit');
    choose('dark');
    expect(screen.queryByTestId('proof-value')).toBeNull();
    for (const time of ['03:00', '11:00', '14:00', '16:00', '17:30']) {
      fill('proof-time', time);
      tap('proof-add');
    }
    expect(text('proof-readings')).toMatch(/14:00by eye, .*dark/);
    await waitFor(() => expect(text('prove-sentence')).toMatch(/^Most likely .* dark/));
    expect(useSession.getState().bundle!.readings.proofs.every((p) => p.spotId === null)).toBe(true);
    choose('the percent its display shows');
    fill('proof-time', '14:00');
    fill('proof-value', '120');
    tap('proof-add');
    expect(screen.getByText(/Give 0 to 100 %/)).toBeTruthy();
  });

  test('without anything running it says so', async () => {
    await open({ ...demo(), history: { ...demo().history, entries: [] } });
    show(Prove);
    expect(text('prove-sentence')).toMatch(/^Nothing is known to be running here/);
    expect(NOW).toBeGreaterThan(0);
  });
});
