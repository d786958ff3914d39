import { act, fireEvent, screen, waitFor, within } from '@testing-library/react';

import { CONTROLLERS } from '@/core/controller/profiles';
import { typedControls } from '@/core/spectrum/controls';
import { libraryLamp } from '@/core/library/lamps';
import { zoneLight } from '@/core/case/light';
import { litDraft, resolveThread, rigOf } from '@/core/case/lit';
import { dli } from '@/core/day/day';
import { computeResponse } from '@/core/optics/response';
import { par } from '@/core/spectrum/bands';
import type { Group } from '@/core/record/zone';
import { dayFile } from '@/state/dayFiles';
import { undo } from '@/state/session';
import { reckoner } from '@/workers/client';

import { mol as molWords } from './shared/words';
import { Around } from './day/Around';
import { CarryPage } from './day/Carry';
import { Day } from './day/Day';
import { FitPage } from './day/Fit';
import { Patterns } from './day/Patterns';
import { Schools } from './day/schools/Schools';
import { LampSheet } from './sheet/LampSheet';
import { Today } from './today/Today';
import {
  choose,
  demo,
  doc,
  edit,
  fill,
  freshPlaces,
  onGroup,
  open,
  press,
  show,
  tap,
  text,
  withLamp,
  onZone,
} from './test/kit';
import type * as Files from './test/files';
import { downloads, freshFiles, giveFile, offered } from './test/files';
import type * as Router from './test/router';
import { navigate, routeAt } from './test/router';

jest.mock('expo-router', () => jest.requireActual<typeof Router>('./test/router').mockRouter);
jest.mock(
  'react-native-gesture-handler',
  () => jest.requireActual<typeof Router>('./test/router').mockGestures,
);
jest.mock('@/ui/files', () => jest.requireActual<typeof Files>('./test/files').mockFiles);
jest.mock('@/workers/client', () => {
  const real = jest.requireActual('@/workers/client').reckoner();
  const offered = { ...real };
  return { reckoner: () => offered };
});

freshPlaces();
const worker = reckoner() as unknown as Record<string, unknown>;
const real = { ...worker };
beforeEach(() => {
  routeAt();
  freshFiles();
  Object.assign(worker, real);
});

const group = () => doc().zones[0]!.groups[0]!;
const minutes = () =>
  group()
    .threads.map((t) => t.minute)
    .sort((a, b) => a - b);

/** The demo with a pair of tubes beside the panels. */
function withTubes() {
  const bundle = demo();
  const zone = bundle.case.zones[0]!;
  const kind = libraryLamp('lib-tubes');
  const on = Object.fromEntries(kind.controls.map((c) => [c.id, 1]));
  const tubes: Group = {
    id: 'tubes',
    name: 'Tubes',
    lampKindId: kind.id,
    lamps: [{ id: 't1', name: 'pair', xCm: 75, yCm: 12, heightCm: 20, turnDeg: 0 }],
    threads: [
      { id: 'a', minute: 600, strengthShare: 1, mix: { own: on } },
      { id: 'b', minute: 1080, strengthShare: 0, mix: { own: on } },
    ],
    capShare: 1,
  };
  return {
    ...bundle,
    case: {
      ...bundle.case,
      lampKinds: [...bundle.case.lampKinds, kind],
      zones: [{ ...zone, groups: [...zone.groups, tubes] }],
    },
  };
}

describe('Day', () => {
  test('several threads move, scale, copy and go together; each is one step of undo', async () => {
    show(Day);
    await waitFor(() => expect(screen.getByTestId('weave')).toBeTruthy());
    tap('day-more');
    press('Several threads');
    expect(text('several-said')).toMatch(/Choose threads/);
    press('All');
    expect(text('several-said')).toBe('6 threads chosen.');
    const before = minutes();
    press('Shift the chosen threads down');
    expect(minutes()).toEqual(before.map((m) => m - 15));
    press('None');
    fireEvent.click(screen.getByRole('checkbox', { name: 'Thread at 13:50' }));
    press('Strength of the chosen threads down');
    expect(group().threads.find((t) => t.minute === 830)!.strengthShare).toBeCloseTo(1 / 1.05, 5);
    press('Copy half an hour later');
    expect(minutes()).toContain(860);
    press('Remove');
    expect(minutes()).not.toContain(860);
    act(() => undo());
    act(() => undo());
    expect(minutes()).not.toContain(860);
    expect(group().threads).toHaveLength(6);
  });

  test('the whole day: shifted, stretched, its plateau set, scaled, mirrored; nonsense is refused', async () => {
    show(Day);
    await waitFor(() => expect(screen.getByTestId('weave')).toBeTruthy());
    press('Whole day');
    press('Shift the day up');
    expect(minutes()[0]).toBe(535);
    fill('day-length', '9');
    expect(minutes().at(-1)! - minutes()[0]!).toBe(540);
    fill('day-length', '40');
    expect(screen.getByRole('alert').textContent).toMatch(/below 24/);
    fill('day-length', '9');
    press('Stretch the day up');
    expect(minutes().at(-1)! - minutes()[0]!).toBe(570);
    fill('plateau-length', '5');
    expect(screen.getByTestId('plateau-length')).toHaveProperty('value', '5');
    press('Scale the day down');
    expect(Math.max(...group().threads.map((t) => t.strengthShare))).toBeCloseTo(1 / 1.05, 5);
    const strengths = () =>
      [...group().threads].sort((a, b) => a.minute - b.minute).map((t) => t.strengthShare);
    const forward = strengths();
    press('Mirror: morning becomes evening');
    expect(strengths()).toEqual([...forward].reverse());
    // mol a day by the cap: linear, and no more than there is
    const given = Number(/([\d.]+) mol/.exec(text('whole-said'))![1]);
    const cap = group().capShare;
    fill('day-mol', String(given / 2));
    expect(group().capShare / cap).toBeCloseTo(0.5, 1);
    fill('day-mol', '90');
    expect(screen.getByRole('alert').textContent).toMatch(/Give 0 to [\d.]+ mol, which is all/);
  });

  test('a day moved past midnight lies on the weave as one, its pictures in its order', async () => {
    show(Day);
    await waitFor(() => expect(screen.getByTestId('weave')).toBeTruthy());
    const pictures = () =>
      screen
        .getAllByRole('img', { name: /^The tank at \d\d:\d\d/ })
        .map((e) => e.getAttribute('aria-label')!);
    const hours = () => [...new Set(pictures().map((name) => /\d\d:\d\d/.exec(name)![0]))];
    expect(hours()).toEqual(['10:30', '14:05', '17:30', '19:00']);
    press('Whole day');
    for (let i = 0; i < 24; i += 1) press('Shift the day up');
    press('Done');
    await waitFor(() => expect(hours()).toEqual(['16:30', '20:05', '23:30', '01:00']));
    expect(text('day')).toContain('not in the lamp yet: 1 change');
  });

  test('a day is kept by name, taken, kept anew under its name, and forgotten', async () => {
    show(Day);
    await waitFor(() => expect(screen.getByTestId('weave')).toBeTruthy());
    press('Whole day');
    const was = minutes();
    fill('day-name', 'Summer ');
    tap('keep-day');
    expect(text('kept-days')).toMatch(/^Summer6 threads, cap 80 %/);
    expect(screen.getByTestId('day-name')).toHaveProperty('value', '');
    press('Shift the day up');
    fill('cap', '40');
    expect(minutes()).not.toEqual(was);
    press('Take the day Summer');
    expect(minutes()).toEqual(was);
    expect(group().capShare).toBe(0.8);
    // threads that say what a plate says are that plate's again
    expect(group().threads.some((t) => 'plateId' in t.mix)).toBe(true);
    fill('cap', '40');
    fill('day-name', 'Summer');
    press('Keep it in place of that one');
    expect(doc().days).toHaveLength(1);
    expect(text('kept-days')).toMatch(/cap 40 %/);
    press('Forget the day Summer');
    expect(doc().days).toBeUndefined();
  });

  test('both meanings of a cap stand in µmol; floors and ceilings speak; a colour runs longer until its floor is met', async () => {
    show(Day);
    await waitFor(() => expect(screen.getByTestId('doses-fold')).toBeTruthy());
    tap('doses-fold');
    tap('day-more');
    expect(text('cap-here')).toMatch(/^Brightest moment \d+ µmol; it multiplies every thread/);
    expect(text('cap-there')).toMatch(
      /^On a lamp whose cap becomes the day’s largest channel level, .* would be \d+ µmol at /,
    );
    tap('dose-limits');
    fill('floor-violet', '1,1');
    fill('ceiling-violet', '0.5');
    expect(screen.getByRole('alert').textContent).toMatch(/ceiling lies below/);
    fill('ceiling-violet', '');
    fill('ceiling-red', '0.05');
    fill('ceiling-red', 'much');
    expect(screen.getAllByRole('alert').at(-1)!.textContent).toMatch(/0 to 100 mol/);
    expect(text('limit-violet')).toBe('▼ below 1.1');
    expect(text('limit-red')).toBe('▲ above 0.05');
    tap('run-longer');
    expect(text('longer-by')).toMatch(/^2 h longer/);
    tap('longer-needed');
    expect(text('longer-doses')).toMatch(/violet0\.\d\d → 1\.1\d mol/);
    tap('take-longer');
    expect(screen.queryByTestId('limit-violet')).toBeNull();
    expect(group().threads.length).toBeGreaterThan(6);
    act(() => undo());
    expect(text('limit-violet')).toBe('▼ below 1.1');
  });

  test('what it gives and takes: per coral, saturation, energy, and a cost once a price is given', async () => {
    show(Day);
    await waitFor(() => expect(screen.getByTestId('gives-fold')).toBeTruthy());
    tap('gives-fold');
    expect(text('gives')).toMatch(
      /Straw polyppeak .* h above saturation, \d+ (to \d+ )?% of its light feeds/,
    );
    expect(text('energy')).toMatch(/^0\.\d\d kWh a day$/);
    fill('kwh-price', '0,4');
    expect(text('energy')).toMatch(/kWh a day, 1\d\d a year$/);
    fill('kwh-price', '-1');
    expect(screen.getByRole('alert').textContent).toMatch(/Give a price/);
  });

  test('the chain is edited where it is read: strength, cap, and a thread put at the minute', async () => {
    show(Day);
    await waitFor(() => expect(screen.getByTestId('weave')).toBeTruthy());
    tap('day-more');
    press('Chain: the factors of any minute');
    fill('chain-strength', '50');
    expect(group().threads.find((t) => t.minute === 845)!.strengthShare).toBe(0.5);
    fill('chain-cap', '60');
    expect(group().capShare).toBe(0.6);
    fill('chain-cap', '160');
    expect(screen.getByRole('alert').textContent).toMatch(/Cap: give 0 to 100/);
    fill('chain-time', '12:00');
    tap('chain-add');
    expect(minutes()).toContain(720);
    tap('chain-thread');
    expect(screen.getByTestId('thread-time')).toHaveProperty('value', '12:00');
    tap('copy-thread');
    expect(screen.getByTestId('thread-time')).toHaveProperty('value', '12:30');
  });

  test('an own mix remembers its plate and is saved back to it', async () => {
    show(Day);
    await waitFor(() => expect(screen.getByTestId('weave')).toBeTruthy());
    tap('day-more');
    press('Chain: the factors of any minute');
    tap('chain-thread');
    tap('edit-mix');
    const plate = () => doc().plates.find((p) => p.id === 'demo-noon')!.mix.violet!;
    press('Violet down');
    expect(plate()).toBe(0.7);
    expect(group().threads.find((t) => t.minute === 845)!.mix).toMatchObject({ fromPlateId: 'demo-noon' });
    tap('save-back');
    expect(plate()).toBe(0.69);
    expect(group().threads.find((t) => t.minute === 845)!.mix).toEqual({ plateId: 'demo-noon' });
  });

  test('a date is drawn with what acts on it, storms by their marks; a date that is none is refused', async () => {
    edit(
      onZone((z) => ({
        ...z,
        groups: z.groups.map((g) => ({
          ...g,
          extras: {
            weather: { seed: 3, depthShare: 0.4, cloudyShare: 1, storms: true, flashesPerSecond: 2 },
          },
        })),
      })),
    );
    show(Day);
    await waitFor(() => expect(screen.getByTestId('weave')).toBeTruthy());
    const plain = text('day-figures');
    choose('Another date');
    fill('day-date', 'tomorrow');
    expect(screen.getByRole('alert').textContent).toMatch(/Date: give a date/);
    let storm: string | null = null;
    for (let d = 1; d <= 28 && storm === null; d += 1) {
      fill('day-date', `2026-12-${String(d).padStart(2, '0')}`);
      expect(text('day-figures')).not.toBe(plain);
      storm = screen.queryByTestId('storm-said')?.textContent ?? null;
    }
    expect(storm).toMatch(
      /^A distant storm from \d\d:\d\d to \d\d:\d\d: \d+ flashes of at most \d+ % of the mix/,
    );
    choose('The plain day');
    expect(text('day-figures')).toBe(plain);
  });

  test('circuits are bars: stepped by key, planned together, put in order', async () => {
    await open(withTubes());
    show(Day);
    await waitFor(() => expect(screen.getByTestId('on-bars')).toBeTruthy());
    const tubes = () => doc().zones[0]!.groups[1]!;
    const [first, second] = libraryLamp('lib-tubes').controls.map((c) => `Tubes, ${c.name}`);
    expect(text(`bar-${first}`)).toBe('10:00–18:00 · 8 h');
    fireEvent.keyDown(screen.getByRole('slider', { name: `${first} on` }), { key: 'ArrowLeft' });
    expect(text(`bar-${first}`)).toBe('09:55–18:00 · 8 h 5 min');
    tap('plan-circuits');
    expect(text('dawn-Panels, as a whole')).toBe('keeps its own day');
    press(`${second} earlier in the order`);
    fill('dawn-last', '19:00');
    expect(text(`dawn-${second}`)).toMatch(/^09:55–19:00/);
    expect(text(`dawn-${first}`)).toMatch(/^10:15–18:40/);
    expect(text('dawn-total')).toMatch(/mol a day, peak/);
    fill('dawn-first', 'noon');
    expect(screen.getByRole('alert').textContent).toMatch(/First light: give a time/);
    fireEvent.click(screen.getByRole('checkbox', { name: `Plan ${first}` }));
    expect(text(`dawn-${first}`)).toBe('stays: 8 h 5 min');
    tap('take-dawn');
    expect(text(`bar-${second}`)).toBe('09:55–19:00 · 9 h 5 min');
    expect(text(`bar-${first}`)).toBe('09:55–18:00 · 8 h 5 min');
    expect(tubes().threads.map((t) => t.minute)).toEqual([595, 1080, 1140]);
  });
});

describe('A day as I want it', () => {
  test('a dark day asks for a light first; hours and what is wanted are checked; one is taken and Day says so', async () => {
    edit(onGroup((g) => ({ ...g, threads: [] })));
    show(Patterns);
    await waitFor(() => expect(screen.getByText(/The present day is dark/)).toBeTruthy());
    choose('another');
    fill('wanted-dli', '-3');
    expect(screen.getByRole('alert').textContent).toMatch(/above 0, to 100/);
    fill('wanted-dli', '5');
    await waitFor(() => expect(screen.getByTestId('take-wanted')).toBeTruthy());
    tap('set-want-home');
    fill('home-from', 'late');
    expect(screen.getByRole('alert').textContent).toMatch(/give a time of day/);
    fill('home-from', '22:00');
    expect(screen.getByRole('alert').textContent).toMatch(/two different times/);
    fill('home-from', '19:00');
    expect(doc().zones[0]!.home).toEqual({ fromMinute: 1140, toMinute: 1320 });
    // what is shown is still that of the former hours: it cannot be taken
    tap('take-wanted');
    expect(group().threads).toHaveLength(0);
    const ready = () =>
      waitFor(() => expect(screen.getByTestId('take-wanted').getAttribute('aria-disabled')).not.toBe('true'));
    await ready();
    choose('Slow dusk');
    choose('between two times');
    fill('lit-from', '09:00');
    fill('lit-to', '21:00');
    expect(text('want')).toBe(
      'I want 5.0 mol of light a day at Copper table from 09:00 to 21:00; somebody is home 19:00 to 22:00; shaped as Slow dusk.',
    );
    await ready();
    tap('take-wanted');
    expect(group().threads[0]!.minute).toBe(540);
    expect(group().threads.at(-1)!.minute).toBe(1260);
    // it is the day one has now, and is offered no more
    await waitFor(() => expect(screen.getByText('Slow dusk is the day you have.')).toBeTruthy());
    expect(screen.queryByTestId('pattern-evening')).toBeNull();
  });

  test('more than strength can give: the mix and the cap give too, which is said and taken with it', async () => {
    edit(onGroup((g) => ({ ...g, capShare: 0.5 })));
    show(Patterns);
    await waitFor(() => expect(screen.getByTestId('take-wanted')).toBeTruthy());
    choose('between two times');
    choose('another');
    fill('wanted-dli', '12');
    await waitFor(() => expect(text('wanted')).toMatch(/the cap is \d+ % in place of 50 %/));
    await waitFor(() =>
      expect(screen.getByTestId('take-wanted').getAttribute('aria-disabled')).not.toBe('true'),
    );
    tap('take-wanted');
    expect(group().capShare).toBeGreaterThan(0.5);
    act(() => undo());
    expect(group().capShare).toBe(0.5);
  });

  test('patterns that cannot be computed are said, and nothing is lost', async () => {
    worker.patterns = () => Promise.reject(new Error('the worker stopped'));
    show(Patterns);
    await waitFor(() => expect(screen.getByText(/could not be computed: the worker stopped/)).toBeTruthy());
    expect(group().threads).toHaveLength(6);
  });

  test('the beauty is moved with the chosen look, and a controller that cannot take the day is named', async () => {
    edit((b) => ({
      ...b,
      case: {
        ...b.case,
        lampKinds: b.case.lampKinds.map((k) => ({ ...k, controller: { ...k.controller, maxPoints: 4 } })),
      },
    }));
    show(Patterns);
    await waitFor(() => expect(screen.getByTestId('beauty-said')).toBeTruthy());
    choose('Late light');
    expect(text('beauty')).toMatch(
      /Its controller cannot take it as it stands: the day has 6 points; it takes 4/,
    );
    expect(text('beauty-said')).toMatch(/^The same light a day/);
    const lit = () => litDraft(doc(), group());
    const before = lit();
    tap('take-beauty');
    expect(lit().threads).not.toEqual(before.threads);
    act(() => undo());
    expect(lit().threads).toEqual(before.threads);
  });
});

describe('Fit to a controller', () => {
  const pick = (id: string) => press(CONTROLLERS.find((c) => c.id === id)!.profile.name);

  test('a day is fitted, its loss said, kept with the controller in one step', async () => {
    show(FitPage);
    await waitFor(() => expect(screen.getByTestId('fit-day')).toBeTruthy());
    pick('four-slots');
    tap('fit-day');
    await waitFor(() => expect(screen.getByTestId('fitted')).toBeTruthy());
    expect(text('fit-truest-said')).toMatch(/^\d points: .*(first|last) light/);
    const answers = screen.getAllByTestId(/^fit-[a-zA-Z]+-said$/);
    expect(answers.length).toBeGreaterThan(1);
    fireEvent.click(screen.getAllByRole('button', { name: 'Its points' })[0]!);
    expect(within(screen.getByTestId('fit-points')).getAllByRole('row').length).toBeLessThanOrEqual(4);
    // what was found for a day is gone when the day is another
    const dimmed = group().threads.map((t) => ({ ...t, strengthShare: t.strengthShare * 0.5 }));
    edit(onGroup((g) => ({ ...g, threads: dimmed })));
    expect(screen.queryByTestId('fitted')).toBeNull();
    act(() => undo());
    expect(screen.queryByTestId('fitted')).toBeNull();
    tap('fit-day');
    await waitFor(() => expect(screen.getByTestId('fitted')).toBeTruthy());
    tap('keep-truest');
    expect(navigate).toHaveBeenCalledWith(expect.objectContaining({ pathname: '/day' }));
    expect(minutes().every((m) => m % 60 === 0)).toBe(true);
    expect(doc().lampKinds[0]!.controller.name).toBe('Four whole-hour slots');
    act(() => undo());
    expect(doc().lampKinds[0]!.controller.name).not.toBe('Four whole-hour slots');
    expect(minutes()).toHaveLength(6);
  });

  test('what counts is weighed by hand: an answer of its own, before the others', async () => {
    show(FitPage);
    await waitFor(() => expect(screen.getByTestId('fit-day')).toBeTruthy());
    pick('four-slots');
    tap('weigh');
    for (const term of ['dose', 'look', 'peak', 'error', 'turn']) {
      tap(`set-weigh-${term}`);
      choose('for nothing');
    }
    tap('fit-day');
    await waitFor(() => expect(screen.getByTestId('fit-own-said')).toBeTruthy());
    expect(screen.getAllByTestId(/^fit-[a-zA-Z]+-said$/)[0]!.dataset.testid).toBe('fit-own-said');
    expect(text('fit-own')).toContain('Light a day for nothing, the look while somebody is home for nothing');
    tap('set-weigh-hours');
    choose('for nothing');
    expect(screen.getByText(/let something count/)).toBeTruthy();
  });

  test('colours are hung on the circuits of a clock: each is switched for itself, and plates become circuits', async () => {
    show(FitPage);
    await waitFor(() => expect(screen.getByTestId('fit-day')).toBeTruthy());
    pick('two-circuits');
    expect(text('wiring')).toMatch(/^Circuits of the clock: .* on 1, .* on 1\.$/);
    const kind = () => doc().lampKinds[0]!;
    const last = kind().controls.at(-1)!;
    const plates = doc().plates.filter((p) => p.lampKindId === kind().id).length;
    tap(`set-circuit-of-${last.id}`);
    choose('circuit 2');
    tap('fit-day');
    await waitFor(() => expect(screen.getByTestId('fitted')).toBeTruthy());
    fireEvent.click(screen.getAllByRole('button', { name: 'Its points' })[0]!);
    expect(text('fit-points')).toMatch(/Circuit 1: .* on · Circuit 2: .* (on|off)/);
    const first = screen.getAllByTestId(/^keep-/)[0]!;
    fireEvent.click(first);
    expect(kind().controls.map((c) => c.id)).toEqual(['circuit-1', 'circuit-2']);
    expect(kind().controls[1]!.name).toBe(`Circuit 2: ${last.name}`);
    expect(doc().plates.filter((p) => p.lampKindId === kind().id)).toHaveLength(plates);
    for (const p of doc().plates.filter((x) => x.lampKindId === kind().id))
      expect(Object.values(p.mix).every((v) => v === 0 || v === 1)).toBe(true);
    act(() => undo());
    expect(kind().controls.length).toBeGreaterThan(2);
  });

  test('a circuit that is switched on at the minute of a dark thread is lit there once it is kept', async () => {
    const [dark, lit] = [group().threads[0]!, group().threads[2]!];
    const at = (id: string, minute: number, strengthShare: number) => ({ ...lit, id, minute, strengthShare });
    const square = [at(dark.id, 540, 0), at('a', 541, 1), at('b', 1200, 1), at('c', 1201, 0)];
    edit(onGroup((g) => ({ ...g, threads: square })));
    show(FitPage);
    await waitFor(() => expect(screen.getByTestId('fit-day')).toBeTruthy());
    pick('two-circuits');
    tap(`set-circuit-of-${doc().lampKinds[0]!.controls.at(-1)!.id}`);
    choose('circuit 2');
    tap('fit-day');
    await waitFor(() => expect(screen.getByTestId('fitted')).toBeTruthy());
    fireEvent.click(screen.getAllByRole('button', { name: 'Its points' })[0]!);
    const told = within(screen.getByTestId('fit-points')).getAllByRole('row');
    const lights = told.map((r) => [r.textContent!.slice(0, 5), / on\b/.test(r.textContent!)]);
    expect(lights[0]).toEqual(['09:00', true]);
    fireEvent.click(screen.getAllByTestId(/^keep-/)[0]!);
    const kept = group().threads.map((t) => [
      `${String(Math.floor(t.minute / 60)).padStart(2, '0')}:${String(t.minute % 60).padStart(2, '0')}`,
      t.strengthShare > 0,
    ]);
    expect(kept).toEqual(lights);
  });

  test('progress has a figure and a stop; a failure changes nothing and says so', async () => {
    let report: ((share: number) => boolean) | undefined;
    worker.fitDay = jest.fn((...input: unknown[]) => {
      report = input[1] as typeof report;
      return new Promise(() => undefined);
    });
    show(FitPage);
    await waitFor(() => expect(screen.getByTestId('fit-day')).toBeTruthy());
    pick('ten-slots');
    tap('fit-day');
    act(() => void report!(0.4));
    expect(text('fit-progress')).toBe('Fitting, 40 %');
    press('Stop');
    expect(screen.queryByTestId('fit-progress')).toBeNull();
    expect(report!(0.5)).toBe(false);
    worker.fitDay = jest.fn(() => Promise.reject(new Error('the worker stopped')));
    tap('fit-day');
    await waitFor(() => expect(screen.getByText(/could not be fitted: the worker stopped/)).toBeTruthy());
    expect(minutes()).toHaveLength(6);
  });

  test('days a controller can do well give the present light', async () => {
    show(FitPage);
    await waitFor(() => expect(screen.getByTestId('fit-day')).toBeTruthy());
    pick('ten-slots');
    tap('doable');
    expect(text('fit-progress')).toMatch(/^Shaping, \d+ %/);
    await waitFor(() => expect(text('doable-days')).toMatch(/3 days with the present light/));
    fireEvent.click(screen.getAllByRole('button', { name: /^Take / })[0]!);
    expect(navigate).toHaveBeenCalledWith(expect.objectContaining({ pathname: '/day' }));
    // the controller that the day was made for comes along
    expect(doc().lampKinds[0]!.controller.name).toBe('Ten slots');
    worker.doable = () => Promise.reject(new Error('the worker stopped'));
    tap('doable');
    await waitFor(() => expect(screen.getByText(/could not be fitted: the worker stopped/)).toBeTruthy());
  });

  test('the controller of a lamp is edited line by line, and every line is checked', async () => {
    show(FitPage);
    await waitFor(() => expect(screen.getByTestId('edit-controller')).toBeTruthy());
    tap('edit-controller');
    const own = () => doc().lampKinds[0]!.controller;
    choose('Ten slots');
    expect(own()).toEqual(CONTROLLERS.find((c) => c.id === 'ten-slots')!.profile);
    fill('max-points', '2,5');
    expect(screen.getByRole('alert').textContent).toMatch(/a whole number from 1 to 1000/);
    fill('max-points', '');
    expect(own().maxPoints).toBeNull();
    fill('every-min', '30');
    fill('point-step', '5');
    fill('lowest-share', '10');
    choose('holds the last values');
    choose('becomes the highest value of the day');
    choose('it keeps its own time');
    choose('they do not');
    choose('time');
    expect(own()).toMatchObject({
      everyMin: 30,
      pointStepShare: 0.05,
      lowestShare: 0.1,
      interpolation: 'hold',
      capMeans: 'rescales',
      followsClockChange: false,
      interludeUnderCap: false,
      rows: 'times',
    });
    expect(text('profile-words')).toBe(
      'holds each value, any number of points, every 30 min, steps of 5 %, nothing between 0 and 10 %, own clock',
    );
  });
});

describe('Carry a day here', () => {
  test('nothing foreign yet says where it comes from; bad files are named; a day file of the same lamp is itself', async () => {
    show(CarryPage);
    await waitFor(() => expect(screen.getByText(/Nothing of other hardware/)).toBeTruthy());
    giveFile({ name: 'x.json', text: '{"format":"chromatheca-plate"}' });
    tap('open-day');
    await waitFor(() =>
      expect(text('day-problem')).toMatch(/x\.json was not taken: .*no Chromatheca day.*Choose a day file/),
    );
    giveFile({ name: 'y.json', problem: 'The disk is gone.' });
    tap('open-day');
    await waitFor(() => expect(text('day-problem')).toMatch(/y\.json was not taken: The disk is gone\./));
    const lit = litDraft(doc(), group());
    giveFile(dayFile(lit, group(), doc().zones[0]!.spots[0]!, null));
    tap('open-day');
    await waitFor(() => expect(screen.queryByTestId('day-problem')).toBeNull());
    await waitFor(() =>
      expect(screen.getByTestId('match-day').getAttribute('aria-disabled')).not.toBe('true'),
    );
    fill('source-height', '900');
    expect(screen.getByRole('alert').textContent).toMatch(/Height: give 1 to 300/);
    fill('source-height', '24');
    tap('match-day');
    await waitFor(() => expect(screen.getByTestId('carried')).toBeTruthy());
    expect(text('carried-said')).toMatch(/^100 % alike in colour; cap 80 %/);
    tap('take-carried');
    const kind = doc().lampKinds[0]!;
    const typed = (g: Group) =>
      g.threads.map((t) => {
        const r = resolveThread(doc(), t);
        return typedControls(kind, r.mix, r.strengthShare);
      });
    const back = typed(group());
    act(() => undo());
    const was = typed(group());
    back.forEach((row, i) =>
      Object.entries(row).forEach(([id, v]) => expect(Math.abs(v - was[i]![id]!)).toBeLessThan(0.0101)),
    );
  });

  test('a file that tells its light is matched to that, whatever hangs here and however deep', async () => {
    const lit = litDraft(doc(), group());
    const zone = doc().zones[0]!;
    const light = zoneLight(computeResponse(rigOf([lit], zone, zone.spots)), [lit]);
    // there the coral had three fifths of the light it would have here
    const theirs = light.spectra[0]![0]!.map((s) => s.map((v) => 0.6 * v));
    const { text: written } = dayFile(lit, group(), { ...zone.spots[1]!, depthCm: 31 }, theirs);
    const mol = dli(lit.day, theirs.map(par));
    show(CarryPage);
    await waitFor(() => expect(screen.getByTestId('open-day')).toBeTruthy());
    giveFile({ name: 'there.day.json', text: written });
    tap('open-day');
    await waitFor(() =>
      expect(text('carry-as')).toBe(
        `Matched to the light it had there: ${molWords(mol)} mol a day at ${zone.spots[1]!.name}, 31 cm deep.`,
      ),
    );
    expect(screen.queryByTestId('source-height')).toBeNull();
    tap('match-day');
    await waitFor(() => expect(screen.getByTestId('carried')).toBeTruthy());
    const [there, here] = [...text('carried-said').matchAll(/([\d.]+) mol/g)].map((m) => Number(m[1]));
    expect(Math.abs(here! / there! - 1)).toBeLessThan(0.03);
    expect(Math.abs(there! / mol - 1)).toBeLessThan(0.03);
    choose('the light its lamps would give here');
    expect(screen.getByTestId('source-height')).toBeTruthy();
    // a file whose light is another lamp's is refused
    const wrong = JSON.parse(written);
    wrong.light.channels.pop();
    giveFile({ name: 'wrong.day.json', text: JSON.stringify(wrong) });
    tap('open-day');
    await waitFor(() =>
      expect(text('day-problem')).toMatch(/light\.channels: has \d spectra for \d channels/),
    );
  });

  test('another group’s day is matched; what the lamp has no light for is said', async () => {
    await open(withTubes());
    show(CarryPage);
    await waitFor(() => expect(screen.getByRole('button', { name: 'The day of Tubes' })).toBeTruthy());
    press('The day of Tubes');
    await waitFor(() =>
      expect(screen.getByTestId('match-day').getAttribute('aria-disabled')).not.toBe('true'),
    );
    tap('match-day');
    await waitFor(() => expect(screen.getByTestId('carried')).toBeTruthy());
    expect(text('carried-said')).toMatch(/\d+ % alike in colour/);
    expect(text('carried-step')).toMatch(
      /^Safe to type in at once: at most \d\.\d × what any coral is used to; /,
    );
    worker.carryDay = () => Promise.reject(new Error('no light'));
    tap('match-day');
    await waitFor(() => expect(screen.getByText(/could not be matched: no light/)).toBeTruthy());
  });
});

describe('Night, interludes, weather, clock', () => {
  test('interludes are checked field by field, listed with their cost, and removed', async () => {
    show(Around);
    await waitFor(() => expect(screen.getByTestId('add-interlude')).toBeTruthy());
    // how the tank looks in it: to a camera, or to who sits before it
    await waitFor(() =>
      expect(screen.getByRole('img', { name: 'The tank in this interlude, through a camera' })).toBeTruthy(),
    );
    choose('dim, so that polyps open');
    expect(screen.getByRole('img', { name: 'The tank in this interlude' })).toBeTruthy();
    expect(text('interlude-sentence')).toMatch(
      /^For 15 min from 15:40 on Tue 24 Nov, light dim, so that polyps open: .* at 30 %; then the day goes on\.$/,
    );
    tap('set-interlude-when');
    const wrong: [string, string, RegExp][] = [
      ['interlude-time', 'soon', /From: give a time/],
      ['interlude-date', '31.12.', /Date: give a date/],
      ['interlude-minutes', '0', /Minutes: give 1 to 720/],
      ['interlude-strength', '200', /Strength: give 0 to 100/],
    ];
    for (const [field, value, message] of wrong) {
      if (!screen.queryByTestId(field)) tap('set-interlude-how');
      const before = (screen.getByTestId(field) as HTMLInputElement).value;
      fill(field, value);
      tap('add-interlude');
      expect(text('interlude-error')).toMatch(message);
      fill(field, before);
    }
    tap('add-interlude');
    await waitFor(() =>
      expect(text('interludes')).toMatch(/Tue 24 Nov 15:40–15:55, dim, so that.*(costs|adds)/),
    );
    choose('dim and white, for hands in the water');
    expect(screen.getByText(/Plug out before hands go in/)).toBeTruthy();
    press(/^Remove the interlude of/);
    expect(group().extras).toBeUndefined();
  });

  test('a moon is faint or refused, fixed or real; a lamp of circuits has none', async () => {
    show(Around);
    await waitFor(() => expect(text('moon-on')).toBe('A faint moon'));
    fill('moon-umol', '0.5');
    await waitFor(() => expect(text('moon-said')).toMatch(/^Blue at 1 %: 0\.\d µmol/));
    fill('moon-from', '23:00');
    expect(group().extras!.moon!.fromMinute).toBe(1380);
    tap('moon-threads');
    expect(group().threads).toHaveLength(10);
    expect(group().extras).toBeUndefined();
    act(() => undo());
    expect(group().threads).toHaveLength(6);
    choose('As the real moon');
    fill('moon-latitudeDeg', '95');
    expect(screen.getByRole('alert').textContent).toMatch(/−90 to 90/);
    fill('moon-latitudeDeg', '-20');
    expect(text('moon-tonight')).toMatch(/Tonight the moon is \d+ % lit; up/);
    press('No moonlight');
    expect(group().extras).toBeUndefined();
    await open(withLamp('lib-two-circuit', {}));
    expect(screen.getByText(/on or off: it has no faint night/)).toBeTruthy();
    expect(screen.getByText(/Clouds need a lamp that dims and ramps/)).toBeTruthy();
  });

  test('storms ask first and only once, clouds have a ceiling, drift shows the year', async () => {
    show(Around);
    choose('Passing');
    fill('cloud-depth', '80');
    expect(screen.getByRole('alert').textContent).toMatch(/0 to 50 %/);
    fill('cloud-depth', '40');
    fill('cloudy-share', '100');
    await waitFor(() =>
      expect(text('weather-said')).toMatch(/Of the next 30 days 30 have clouds; they take \d+ %/),
    );
    const seed = group().extras!.weather!.seed;
    press('Other weather: draw the clouds anew');
    expect(group().extras!.weather!.seed).not.toBe(seed);
    choose('Now and then');
    expect(group().extras!.weather!.storms).toBe(false);
    tap('storm-agree');
    expect(group().extras!.weather!.storms).toBe(true);
    choose('As the sun');
    fill('drift-latitude', '70');
    expect(screen.getAllByRole('alert').at(-1)!.textContent).toMatch(/−66 to 66/);
    fill('drift-latitude', '50');
    fill('drift-most', '45');
    expect(text('drift-year')).toMatch(/Sun 21 Jun\D*16 h .*45 min longer at each end/);
    expect(text('drift-year')).toMatch(/45 min shorter at each end/);
    expect(text('clock-said')).toMatch(/the skipped hour is not lit.* as much light as any other\.$/);
  });

  test('a lamp that keeps its own time says what a clock change does to it', async () => {
    edit((b) => ({
      ...b,
      case: {
        ...b.case,
        lampKinds: b.case.lampKinds.map((k) => ({
          ...k,
          controller: { ...k.controller, followsClockChange: false },
        })),
      },
    }));
    show(Around);
    await waitFor(() =>
      expect(text('clock-said')).toMatch(/keeps its own time: from then on its day runs an hour later/),
    );
  });
});

describe('The sheet', () => {
  test('follows the controller’s page, names what cannot be typed in, and gives files', async () => {
    edit((b) => ({
      ...b,
      case: {
        ...b.case,
        lampKinds: b.case.lampKinds.map((k) => ({
          ...k,
          controller: { ...k.controller, rows: 'times' as const, maxPoints: 4, name: 'Four slots' },
        })),
      },
    }));
    show(LampSheet);
    // before the light is there a day file goes without it, and that is said; with it nothing is
    tap('day-json');
    expect(screen.getByText(/^This file goes without the light at Copper table/)).toBeTruthy();
    expect(JSON.parse(downloads.at(-1)!.text).light).toBeUndefined();
    await waitFor(() => expect(screen.getByTestId('safety')).toBeTruthy());
    const heads = within(screen.getAllByRole('table', { name: /^Percents/ }).at(-1)!).getAllByRole(
      'columnheader',
    );
    expect(heads.map((h) => h.textContent)).toEqual([
      'time',
      ...doc().lampKinds[0]!.controls.map((c) => c.name),
    ]);
    expect(text('misfit')).toMatch(
      /Four slots cannot take this day as it stands: the day has 6 points; it takes 4/,
    );
    tap('to-fit');
    expect(navigate).toHaveBeenCalledWith('/fit');
    tap('day-json');
    expect(downloads.at(-1)!.name).toBe('panels.day.json');
    expect(JSON.parse(downloads.at(-1)!.text).light.channels).toHaveLength(
      doc().lampKinds[0]!.channels.length,
    );
    expect(screen.queryByText(/goes without the light/)).toBeNull();
    press('CSV');
    const csv = await offered('panels-sheet.csv');
    giveFile({ name: 'day.csv', text: csv.replace('08:40', '07:10') });
    tap('read-day-csv');
    await waitFor(() => expect(minutes()[0]).toBe(430));
    giveFile({ name: 'day.csv', text: csv.replace('Near UV', 'Ultra') });
    tap('read-day-csv');
    await waitFor(() =>
      expect(text('csv-problem')).toMatch(/this lamp has no “Ultra”.*Head the columns Near UV/),
    );
  });

  test('a lamp that dims but hangs on a timer has a calendar as one circuit', async () => {
    const timer = CONTROLLERS.find((c) => c.id === 'wall-timer')!.profile;
    edit((b) => ({
      ...b,
      case: { ...b.case, lampKinds: b.case.lampKinds.map((k) => ({ ...k, controller: timer })) },
    }));
    show(LampSheet);
    tap('calendar');
    expect(await offered('panels.ics')).toMatch(/DTSTART;TZID=Europe\/Berlin:20261124T103000/);
  });

  test('circuits become a calendar', async () => {
    await open(withTubes());
    show(LampSheet);
    choose('Tubes');
    expect(text('sheet-cap')).toBe('On and off');
    tap('calendar');
    expect((await offered('tubes.ics')).match(/BEGIN:VEVENT/g)).toHaveLength(2);
  });
});

test('Today names an interlude that is still to come, and one that runs', async () => {
  const interlude = {
    id: 'i',
    kind: 'viewing' as const,
    date: '2026-11-24',
    fromMinute: 1200,
    minutes: 60,
    strengthShare: 0.5,
    mix: { violet: 1 },
    mixName: 'Late light',
  };
  const run = (fromMinute: number) =>
    edit((b) => ({
      ...b,
      history: {
        ...b.history,
        entries: b.history.entries.map((e) => ({
          ...e,
          extras: { interludes: [{ ...interlude, fromMinute }] },
        })),
      },
    }));
  run(1200);
  show(Today);
  await waitFor(() => expect(text('interlude-now')).toBe('Interlude 20:00–21:00: Late light.'));
  run(930);
  expect(text('interlude-now')).toMatch(/^Interlude until 16:30: Late light at 50 %/);
});

describe('Where keepers disagree', () => {
  const ready = (school: string) =>
    waitFor(() => expect(screen.getByTestId(`try-${school}`).getAttribute('aria-disabled')).not.toBe('true'));

  test('schools stand beside each other at the same light; what is not proven is said; one is tried', async () => {
    show(Schools);
    await ready('blue');
    expect(text('schools-asked')).toMatch(
      /^Mostly blue, or white\? Every way with as much light a day as now, 6\.0 mol, at Copper table\.$/,
    );
    const row = (name: string) =>
      within(screen.getByRole('rowheader', { name }).parentElement!)
        .getAllByRole('cell')
        .map((c) => parseFloat(c.textContent!));
    // of the same light corals take more of blue; it looks darker
    const taken = row('Light a day as corals take it');
    expect(taken[0]).toBeGreaterThan(taken[2]!);
    const lux = row('How bright it looks at its peak');
    expect(lux[0]).toBeLessThan(lux[2]!);
    // what does not differ is said once
    expect(text('alike')).toMatch(/^Alike in all: peak 250 µmol, lit 11 h 30 min/);
    expect(screen.queryByRole('rowheader', { name: 'Peak' })).toBeNull();
    expect(text('unproven')).toMatch(/grows better under mostly blue/);
    tap('try-blue');
    const [made] = doc().zones[0]!.experiments!.slice(-1);
    expect(made).toMatchObject({ name: 'Mostly blue, or white?', measure: 'chroma', phases: 'AB' });
    expect(made!.change).toMatch(/^Mostly blue in place of the present day/);
    const kept = doc().days!.find((d) => d.name === 'Mostly blue')!;
    expect(kept.threads).toHaveLength(group().threads.length);
    expect(navigate).toHaveBeenLastCalledWith({ pathname: '/experiments', params: { of: made!.id } });
    // one step of history takes back both
    act(() => undo());
    expect(doc().zones[0]!.experiments?.some((e) => e.id === made!.id)).not.toBe(true);
    expect(doc().days?.some((d) => d.name === 'Mostly blue')).not.toBe(true);
  });

  test('a question by its address; nothing proven is said as that; a day is taken and then is the one there is', async () => {
    routeAt('/schools', { ask: 'pause' });
    show(Schools);
    await ready('rest');
    expect(text('proven')).toBe('Nothing that is known here.');
    tap('take-rest');
    expect(navigate).toHaveBeenLastCalledWith({ pathname: '/day', params: { took: 'White pauses' } });
    await waitFor(() =>
      expect(screen.getByTestId('school-rest').textContent).toMatch(/It is the day you have\./),
    );
    expect(screen.queryByTestId('try-rest')).toBeNull();
  });

  test('a dark day, and days that cannot be computed, are said', async () => {
    edit(onGroup((g) => ({ ...g, threads: [] })));
    const first = show(Schools);
    await waitFor(() => expect(screen.getByText(/The drafted day is dark/)).toBeTruthy());
    first.unmount();
    worker.disputes = () => Promise.reject(new Error('the worker stopped'));
    edit(onGroup((g) => ({ ...g, threads: demo().case.zones[0]!.groups[0]!.threads })));
    show(Schools);
    await waitFor(() => expect(screen.getByText(/could not be computed: the worker stopped/)).toBeTruthy());
  });
});

test('the day is taken along as a table: µmol at the coral and every channel, each quarter of an hour', async () => {
  show(Day);
  await waitFor(() => expect(text('day-figures')).toMatch(/mol/));
  if (!screen.queryByTestId('take-day')) tap('day-more');
  tap('take-day');
  press('Numbers of day as CSV');
  const [head, ...rows] = (await offered('day.csv')).trim().split(/\r?\n/);
  expect(head).toMatch(/^time,PAR at Copper table \(µmol m⁻² s⁻¹\),.*\(% of full\)/);
  expect(rows).toHaveLength(96);
  const at = (time: string) =>
    rows
      .find((r) => r.startsWith(`${time},`))!
      .split(',')
      .slice(1)
      .map(Number);
  expect(at('00:00').every((v) => v === 0)).toBe(true);
  expect(at('14:00')[0]).toBeGreaterThan(100);
  expect(at('14:00')).toHaveLength(1 + demo().case.lampKinds[0]!.channels.length);
});
