import { act, screen, waitFor, within } from '@testing-library/react';

import { runnable } from '@/core/case/runnable';
import type { EasingPlan, RunningEntry } from '@/core/record/history';
import { libraryLamp } from '@/core/library/lamps';
import { livesByLight } from '@/core/record/needs';
import { typeIn } from '@/state/commands/running';
import { run, undo, useSession } from '@/state/session';
import { useSettings } from '@/state/settings';

import { Ease } from './ease/Ease';
import { SpotSheet } from './case/SpotSheet';
import { Log } from './log/Log';
import { Rescue } from './rescue/Rescue';
import { freshFiles, offered } from './test/files';
import type * as Files from './test/files';
import {
  onGroup,
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
  wholeDemo,
  withLamp,
  onZone,
} from './test/kit';
import type * as Router from './test/router';
import { navigate, routeAt } from './test/router';
import { Tank } from './tank/Tank';
import { Today } from './today/Today';

jest.mock('expo-router', () => jest.requireActual<typeof Router>('./test/router').mockRouter);
jest.mock(
  'react-native-gesture-handler',
  () => jest.requireActual<typeof Router>('./test/router').mockGestures,
);
jest.mock('@/ui/files', () => jest.requireActual<typeof Files>('./test/files').mockFiles);

freshPlaces();
beforeEach(() => {
  routeAt();
  freshFiles();
});

const history = () => useSession.getState().bundle!.history;
const log = () => useSession.getState().bundle!.log.events;
const cap = (capShare: number) => edit(onGroup((g) => ({ ...g, capShare })));
/** Begins; high light is agreed to where it is asked. */
async function begin(): Promise<void> {
  [0, 1, 2].forEach((i) => screen.queryByTestId(`high-${i}`) && tap(`high-${i}`));
  // what is asked stands still for a moment first
  await waitFor(() =>
    expect(screen.getByTestId('start-plan').getAttribute('aria-disabled')).not.toBe('true'),
  );
  tap('start-plan');
}
/** The demo as if it had run at a low cap for long. */
const quiet = async (change: Partial<RunningEntry> = {}, plans: EasingPlan[] = []) => {
  const b = demo();
  const entry = { ...b.history.entries[0]!, capShare: 0.4, atUtc: '2026-10-01T10:00:00.000Z', ...change };
  await open({ ...b, history: { ...b.history, entries: [entry], plans } });
};
/** Typed in after what ran, without being used to it. */
const typedIn = (change: Partial<RunningEntry>) =>
  edit((b) => {
    const [first, ...more] = b.history.entries;
    const entry = { ...first!, id: 'up', usedTo: false, atUtc: '2026-11-24T08:00:00.000Z', ...change };
    return { ...b, history: { ...b.history, entries: [first!, ...more, entry] } };
  });
const planUnder = (): EasingPlan => {
  const entry = demo().history.entries[0]!;
  return {
    id: 'p',
    zoneId: 'demo-display',
    name: 'Higher cap',
    createdUtc: '2026-11-20T10:00:00.000Z',
    targets: [runnable(entry)],
    from: [runnable({ ...entry, capShare: 0.4 })],
    method: 'cap',
    schedule: { kind: 'fastest' },
    // begun as a large step: what follows keeps to it
    ceiling: 1.9,
    steps: [
      { date: '2026-11-20', setting: 0.55, doneUtc: '2026-11-20T10:00:00.000Z' },
      { date: '2026-11-24', setting: 0.65, doneUtc: null },
      { date: '2026-11-28', setting: 1, doneUtc: null },
    ],
    state: 'active',
    deeds: [],
  };
};

describe('Plan a change', () => {
  test('says what it would be at once, plans by the school, and begins with the first step', async () => {
    await quiet();
    show(Ease);
    await waitFor(() =>
      expect(text('ease-sentence')).toMatch(
        /^Made at once, .* would get 1\.94 × what it is used to\. In \w+ steps it takes \d+ days \(\d+ to \d+, by how fast corals follow\) and nobody gets more than 1\.\d\d ×\.$/,
      ),
    );
    const days = () => Number(/takes (\d+) days/.exec(text('ease-sentence'))![1]);
    const usual = days();
    expect(text('step-0')).toMatch(/^cap 5[12] %$/);
    choose('Gentle, 1.15 ×');
    await waitFor(() => expect(days()).toBeGreaterThan(usual));
    expect(useSettings.getState().ease.school).toBe('gentle');
    choose('Own');
    fill('own-ceiling', '9');
    expect(screen.getByText(/Give 1\.01 to 3/)).toBeTruthy();
    choose('Usual, 1.3 ×');
    await waitFor(() => expect(days()).toBe(usual));
    choose('And at once');
    expect(text('at-once')).toMatch(/1\.94 × today, 1\.\d\d × after 3 days/);
    expect(text('settled')).toMatch(/is the last to be used to it \(within 5 %\), in \d+ days/);

    await begin();
    expect(history().entries.at(-1)!.capShare).toBeLessThan(0.53);
    expect(history().plans[0]).toMatchObject({
      state: 'active',
      method: 'cap',
      ceiling: 1.3,
      name: 'Cap 40 % → 80 %',
    });
    expect(history().plans[0]!.steps[0]!.doneUtc).not.toBeNull();
    expect(navigate).toHaveBeenCalledWith('/');
    act(() => undo());
    expect(history().plans).toEqual([]);
    expect(history().entries).toHaveLength(1);
  });

  test('few changes on Sundays, a line, months, a later start; bad numbers are said', async () => {
    await quiet();
    show(Ease);
    await waitFor(() => expect(screen.getByTestId('ease-steps')).toBeTruthy());
    choose('Few changes');
    choose('Sun');
    fill('ease-changes', '3');
    await waitFor(() =>
      expect(within(screen.getByTestId('ease-steps')).getAllByText(/^Sun /).length).toBe(3),
    );
    expect(screen.getByTestId('start-plan').textContent).toBe('Begin on Sun 29 Nov');
    fill('ease-changes', '900');
    expect(screen.getByText(/Give 1 to 60/)).toBeTruthy();
    choose('Straight line');
    fill('ease-days', '10');
    await waitFor(() => expect(text('ease-sentence')).toContain('it takes 10 days'));
    choose('Over months');
    await waitFor(() => expect(text('ease-sentence')).toMatch(/In 1\d steps it takes 1\d\d days/));
    choose('As fast as the ceiling lets');
    tap('set-begins');
    fill('ease-start', '2026-11-01');
    expect(screen.getByText(/That day is past/)).toBeTruthy();
    fill('ease-start', '2026-12-01');
    await waitFor(() => expect(screen.getByTestId('start-plan').textContent).toBe('Begin on Tue 1 Dec'));
    await begin();
    expect(history().entries).toHaveLength(1);
    expect(history().plans[0]!.steps[0]).toMatchObject({ date: '2026-12-01', doneUtc: null });
  });

  test('a plan for what was asked a moment ago cannot be begun', async () => {
    await quiet();
    show(Ease);
    await waitFor(() => expect(screen.getByTestId('ease-steps')).toBeTruthy());
    const start = () => screen.getByTestId('start-plan');
    const open = () => start().getAttribute('aria-disabled') !== 'true';
    await begin();
    expect(history().plans).toHaveLength(1);
    act(() => undo());
    expect(history().plans).toHaveLength(0);
    await waitFor(() => expect(open()).toBe(true));
    const before = start().textContent;
    tap('set-begins');
    fill('ease-start', '2026-12-01');
    // the former plan is still there to be looked at
    expect(start().textContent).toBe(before);
    expect(open()).toBe(false);
    tap('start-plan');
    expect(history().plans).toHaveLength(0);
    await waitFor(() => expect(open()).toBe(true));
    expect(start().textContent).toBe('Begin on Tue 1 Dec');
    tap('start-plan');
    expect(history().plans[0]!.steps[0]!.date).toBe('2026-12-01');
  });

  test('high light asks its three questions first', async () => {
    await quiet();
    cap(1);
    edit(onGroup((g) => ({ ...g, lamps: g.lamps.map((l) => ({ ...l, heightCm: 12 })) })));
    show(Ease);
    await waitFor(() => expect(screen.getByTestId('high-light')).toBeTruthy());
    expect(screen.getByTestId('start-plan').getAttribute('aria-disabled')).toBe('true');
    [0, 1, 2].forEach((i) => tap(`high-${i}`));
    expect(screen.getByTestId('start-plan').getAttribute('aria-disabled')).not.toBe('true');
    choose('young');
    expect(useSettings.getState().ease.stage).toBe('young');
  });

  test('a controller that eases by itself is told its numbers and what they are of', async () => {
    const b = demo();
    const kind = {
      ...b.case.lampKinds[0]!,
      controller: { ...b.case.lampKinds[0]!.controller, easesItself: true, easingOf: 'lamp' as const },
    };
    const entry = { ...b.history.entries[0]!, lampKind: kind, capShare: 0.4 };
    await open({ ...b, case: { ...b.case, lampKinds: [kind] }, history: { ...b.history, entries: [entry] } });
    show(Ease);
    await waitFor(() =>
      expect(text('ease-itself')).toMatch(/Start5\d % of the lamp.*End80 % of the lamp.*Days\d+/),
    );
    await begin();
    const last = history().entries.at(-1)!;
    expect(last.capShare).toBe(0.8);
    expect(last.rise).toMatchObject({ date: '2026-11-24', toShare: 1 });
    expect(last.rise!.fromShare).toBeLessThan(0.66);
    expect(history().plans[0]!.state).toBe('finished');
  });

  test('nothing to ease in is said, and what runs already can be', async () => {
    show(Ease);
    expect(screen.getByText(/What is eased in|For light that rose/)).toBeTruthy();
    await waitFor(() => expect(text('ease-sentence')).toMatch(/within the ceiling, no easing in is needed/));
    expect(screen.queryByTestId('start-plan')).toBeNull();
    await open({ ...demo(), history: { ...demo().history, entries: [] } });
    edit(onZone((z) => ({ ...z, groups: [] })));
    expect(screen.getByText(/Nothing is known to be running yet/)).toBeTruthy();
  });
});

test('a plan of the same lamps is replaced and says so; one of other lamps is counted in', async () => {
  await quiet({ capShare: 0.44, planId: 'p' }, [
    planUnder(),
    {
      ...planUnder(),
      id: 'q',
      name: 'Bar longer',
      targets: [{ ...planUnder().targets[0]!, groupId: 'bar', capShare: 0.02 }],
    },
  ]);
  show(Ease);
  await waitFor(() => expect(screen.getByText(/takes the place of .*: Higher cap/)).toBeTruthy());
  expect(screen.getByText(/^Bar longer is still being eased in. Both are counted together/)).toBeTruthy();
  await waitFor(() => expect(screen.getByTestId('start-plan')).toBeTruthy());
  await begin();
  expect(history().plans.map((p) => [p.name, p.state])).toEqual([
    ['Higher cap', 'stopped'],
    ['Bar longer', 'active'],
    ['Cap 44 % → 80 %', 'active'],
  ]);
});

describe('Run it', () => {
  test('a step that is due is the one thing to do; late or not, it is typed in and the rest follows', async () => {
    await quiet({ capShare: 0.44, planId: 'p' }, [planUnder()]);
    show(Today);
    await waitFor(() => expect(screen.getByTestId('easing-step')).toBeTruthy());
    expect(screen.getByTestId('due').textContent).toBe('Next step: cap 52 %');
    expect(text('easing-step')).toMatch(
      /Higher capStep 2 of 3 on Tue 24 Nov: cap 52 %\. The last on Sat 28 Nov/,
    );
    tap('due');
    await waitFor(() => expect(text('plan-preview')).toContain('Sat 28 Nov'));
    expect(text('plan-step')).toBe('cap 52 %');
    tap('plan-keep');
    expect(history().entries.at(-1)).toMatchObject({ capShare: 0.52, planId: 'p' });
    await waitFor(() => expect(text('easing-step')).toMatch(/Step 3 of 3 on Sat 28 Nov/));
  });

  test('after days without power every place names the same smaller step, and the light of each', async () => {
    await quiet({ capShare: 0.44, planId: 'p' }, [{ ...planUnder(), ceiling: 1.3 }]);
    edit((b) => ({
      ...b,
      log: {
        ...b.log,
        events: [
          {
            id: 'dark',
            zoneId: 'demo-display',
            note: '',
            kind: 'outage',
            atUtc: '2026-11-21T00:00:00.000Z',
            toUtc: '2026-11-24T00:00:00.000Z',
            groupIds: null,
          },
        ],
      },
    }));
    const today = show(Today);
    await waitFor(() => expect(screen.getByTestId('due').textContent).toMatch(/^Next step: cap \d\d %$/));
    const cap = /cap \d\d %/.exec(text('due'))![0];
    expect(Number(cap.match(/\d+/)![0])).toBeLessThan(52);
    await waitFor(() => expect(text('plan-row')).toContain(`${cap}. The last on`));
    const [, last] = /The last on (\w+ \d+ \w+)\. Planned anew/.exec(text('plan-row'))!;
    tap('due');
    await waitFor(() => expect(text('plan-step')).toBe(cap));
    expect(text('plan-preview')).toContain(`In the end${last}`);
    // the end is the target's own light, brighter than the step's
    const umolOf = (id: string) => Number(/^(\d+) µmol/.exec(text(id))![1]);
    expect(umolOf('plan-last-light')).toBeGreaterThan(1.3 * umolOf('plan-next-light'));
    const ratio = Number(/at most ([\d.]+) ×/.exec(text('plan-next-light'))![1]);
    expect(ratio).toBeLessThanOrEqual(1.3);
    tap('plan-keep');
    expect(history().entries.at(-1)!.capShare).toBeCloseTo(Number(cap.match(/\d+/)![0]) / 100, 9);
    today.unmount();
    show(Log);
    await waitFor(() => expect(text('plan-row')).toContain(`The last on ${last}`));
  });

  test('a plan’s own brisk step is not scolded; the same light without a plan is', async () => {
    const at = async (planId?: string) => {
      await quiet({ capShare: 0.4 }, [{ ...planUnder(), ceiling: 1.5 }]);
      const entry = history().entries[0]!;
      edit((b) => ({
        ...b,
        history: {
          ...b.history,
          entries: [
            entry,
            {
              ...entry,
              id: 'step',
              capShare: 0.57,
              usedTo: false,
              atUtc: '2026-11-24T14:30:00.000Z',
              ...(planId ? { planId } : {}),
            },
          ],
        },
      }));
      const shown = show(Today);
      await waitFor(() => expect(screen.queryAllByTestId(/^balance-/).length).toBeGreaterThan(0));
      const said = text('today-sentence');
      shown.unmount();
      return said;
    };
    expect(await at('p')).toMatch(/within what they are used to/);
    expect(await at()).toMatch(/1\.4\d × what it is used to.*: ease it in/);
  });

  test('not yet: hold; a step back; pause and on; stop', async () => {
    await quiet({ capShare: 0.44, planId: 'p' }, [planUnder()]);
    show(Today);
    await waitFor(() => expect(screen.getByTestId('easing-step')).toBeTruthy());
    press('Easing in: Higher cap');
    choose('Not yet: hold');
    fill('hold-days', '0');
    expect(screen.getByText(/Give 1 to 90/)).toBeTruthy();
    fill('hold-days', '5');
    await waitFor(() => expect(text('plan-preview')).toMatch(/Next stepSun 29 Nov: cap/));
    tap('plan-keep');
    expect(history().plans[0]!.steps[1]!.date).toBe('2026-11-29');
    expect(history().plans[0]!.deeds.at(-1)).toMatchObject({
      what: 'held',
      words: 'Higher cap: hold 5 days.',
    });
    expect(history().entries).toHaveLength(1);
    press('Easing in: Higher cap');
    choose('Pause');
    tap('plan-keep');
    await waitFor(() => expect(text('easing-step')).toContain('Paused'));
    press('Easing in: Higher cap');
    await waitFor(() => expect(text('plan-preview')).toMatch(/Next step/));
    tap('plan-keep');
    expect(history().plans[0]!.state).toBe('active');
    press('Easing in: Higher cap');
    choose('Stop');
    tap('plan-keep');
    expect(text('easing-step')).toBe('No easing-in step is planned.');
  });

  test('too much light leads to what to do tonight; the coming weeks are said', async () => {
    show(Today);
    await waitFor(() =>
      expect(text('ahead')).toBe('Everybody stays used to this light in the coming weeks.'),
    );
    const entry = history().entries[0]!;
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
    await waitFor(() => expect(screen.getByTestId('today-rescue')).toBeTruthy());
    await waitFor(() => expect(text('ahead')).toMatch(/^In \d+ days the last of them, .*, is used to it\.$/));
  });
});

describe('The log', () => {
  test('is written from what ran, with the light before and after; events in two taps, changed and removed', async () => {
    const b = demo();
    const first = { ...b.history.entries[0]!, capShare: 0.6 };
    const second = { ...first, id: 'b', capShare: 0.8, usedTo: false, atUtc: '2026-11-22T10:00:00.000Z' };
    await open({ ...b, history: { ...b.history, entries: [first, second] } });
    show(Log);
    await waitFor(() =>
      expect(screen.getAllByTestId('line-light')[0]!.textContent).toMatch(
        /cap 60 % → 80 %.*190 → 250 µmol, 4.50 → 6.0 mol/,
      ),
    );
    expect(screen.getByText('1.00 → 1.31 ×')).toBeTruthy();
    expect(text('log-sentence')).toBe(
      '2 days since the light last changed; it changed on 2 days of the last 90.',
    );

    tap('log-outage');
    choose('Earlier');
    fill('event-date', '2026-11-20');
    fill('event-time', '9:00');
    fill('outage-time', '8:00');
    tap('keep-event');
    expect(screen.getByText(/It came back after it went/)).toBeTruthy();
    fill('outage-date', '2026-11-22');
    fill('outage-time', '10:30');
    tap('keep-event');
    expect(log()[0]).toMatchObject({
      kind: 'outage',
      atUtc: '2026-11-20T08:00:00.000Z',
      toUtc: '2026-11-22T09:30:00.000Z',
      groupIds: null,
    });
    // the step after it was larger than it seemed
    await waitFor(() => expect(screen.getByText(/→ 1\.[5-7]\d ×/)).toBeTruthy());
    press(/Power out: all lamps/);
    expect((screen.getByTestId('outage-time') as HTMLInputElement).value).toBe('10:30');
    tap('remove-event');
    expect(log()).toEqual([]);
    act(() => undo());
    expect(log()).toHaveLength(1);

    tap('log-note');
    tap('keep-event');
    expect(screen.getByText(/Write what happened/)).toBeTruthy();
    fill('event-note', 'Salinity 35');
    tap('keep-event');
    expect(log().at(-1)).toMatchObject({
      kind: 'note',
      note: 'Salinity 35',
      atUtc: new Date(NOW).toISOString(),
    });
    choose('Notes');
    expect(screen.queryAllByTestId('line-light')).toEqual([]);
    tap('log-csv');
    expect((await offered('log.csv')).split('\r\n')).toHaveLength(6);
    expect(await offered('log.csv')).toContain('Salinity 35');
    tap('log-lanes');
    tap('take-log-on-one-axis');
    press('Numbers of log-on-one-axis as CSV');
    const lanes = (await offered('log-on-one-axis.csv')).split('\r\n');
    expect(lanes[0]).toBe('line,at (UTC),value');
    expect(lanes.some((l) => /^"?light at .*2026-11-\d\dT.*Z,\d+/.test(l))).toBe(true);
  });

  test('carbon and lens are steps of their own and lead to easing in', async () => {
    show(Log);
    tap('log-carbon');
    fill('carbon-yellow', '9');
    tap('keep-event');
    expect(screen.getByText(/Give 0 to 5 per metre/)).toBeTruthy();
    fill('carbon-yellow', '0.03');
    tap('keep-event');
    expect(log()[0]).toMatchObject({ kind: 'carbon', yellowBefore: 0.12, yellowAfter: 0.03 });
    expect(doc().zones[0]).toMatchObject({ water: { yellow440PerM: 0.03 }, carbonDate: '2026-11-24' });
    await waitFor(() => expect(navigate).toHaveBeenCalledWith('/ease?of=running'));
    act(() => undo());
    expect(doc().zones[0]!.water.yellow440PerM).toBe(0.12);
    tap('log-lens');
    tap('keep-event');
    expect(log()[0]).toMatchObject({ kind: 'lens', groupId: null, gainShare: 0.08 });
    await waitFor(() =>
      expect(screen.getByTestId('line-event').textContent).toMatch(/Lens wiped: about 8 % more light/),
    );
  });

  test('a sign is two taps, and says what it means for the steps', async () => {
    await quiet({ capShare: 0.44, planId: 'p' }, [planUnder()]);
    typedIn({ capShare: 0.56, atUtc: '2026-11-23T10:00:00.000Z' });
    show(Log);
    await waitFor(() => expect(screen.getAllByTestId('line-light')).toHaveLength(2));
    await waitFor(() => expect(screen.getAllByTestId('line-light')[0]!.textContent).toContain('µmol'));
    tap('log-sign');
    tap('sign-newColour');
    expect(log()[0]).toMatchObject({ kind: 'sign', sign: 'newColour', spotId: 'demo-copper' });
    expect(text('sign-advice')).toMatch(/the light rose yesterday\. That is a caution, not yet a success/);
    tap('sign-act');
    await waitFor(() => expect(text('plan-preview')).toMatch(/Next stepTue 1 Dec/));
    tap('plan-keep');
    expect(history().plans[0]!.deeds.at(-1)!.what).toBe('held');
  });
});

describe('Rescue', () => {
  test('what was done at once is what runs: the cut is reckoned from it, not from what ran before', async () => {
    await quiet();
    cap(1);
    routeAt('/ease', { of: 'draft' });
    show(Ease);
    await waitFor(() => expect(screen.getByTestId('to-rescue')).toBeTruthy());
    tap('to-rescue');
    expect(history().entries.at(-1)).toMatchObject({ capShare: 1, usedTo: false });
    expect(navigate).toHaveBeenCalledWith('/rescue');
    show(Rescue);
    await waitFor(() =>
      expect(text('rescue-sentence')).toMatch(/gets 2\.42 × what it is used to: cut tonight/),
    );
  });

  test('circuits that are too bright are made darker, not switched off for weeks', async () => {
    const fixed = withLamp('lib-two-circuit', { blue: 1, white: 1 });
    await open(fixed);
    const ran = wholeDemo().history.entries[0]!;
    const on = { strengthShare: 1, mix: { blue: 1, white: 1 }, mixName: 'on' };
    edit((b) => ({
      ...b,
      history: {
        ...b.history,
        entries: [
          { ...ran, capShare: 0.4 },
          {
            ...ran,
            ...{ id: 'fixed', usedTo: false, capShare: 1, atUtc: '2026-11-24T08:00:00.000Z' },
            lampKind: fixed.case.lampKinds[0]!,
            threads: [
              { ...on, minute: 720 },
              { ...on, minute: 780, strengthShare: 0 },
            ],
          },
        ],
      },
    }));
    show(Rescue);
    await waitFor(() =>
      expect(text('rescue-sentence')).toMatch(/: make its light darker tonight\. It happens/),
    );
    expect(screen.queryByTestId('rescue-cut')).toBeNull();
    await waitFor(() => expect(screen.getByText(/^Hung \d+ cm higher/)).toBeTruthy());
  });

  test('nothing to cut is said; too much is cut in one step with the way back planned', async () => {
    show(Rescue);
    await waitFor(() => expect(text('rescue-sentence')).toMatch(/nothing needs cutting/));
    await quiet();
    typedIn({ capShare: 1 });
    await waitFor(() =>
      expect(text('rescue-sentence')).toMatch(/gets 2\.42 × what it is used to: cut tonight/),
    );
    await waitFor(() => expect(text('rescue-cut')).toBe('cap 40 %'));
    choose('A little more');
    await waitFor(() => expect(text('rescue-cut')).toBe('cap 46 %'));
    await waitFor(() => expect(text('rescue-back')).toMatch(/Then 14 days of rest and, from Tue 8 Dec/));
    expect(screen.getByText(/Gloves and eye protection/)).toBeTruthy();
    await waitFor(() => expect(screen.getByTestId('darker').textContent).toMatch(/cm deep/));
    tap('rescue-typed');
    expect(history().entries.at(-1)!.capShare).toBe(0.46);
    const plan = history().plans[0]!;
    expect(plan).toMatchObject({ state: 'active', ceiling: 1.1, name: 'Climb back after a cut' });
    expect(plan.steps[1]!.date >= '2026-12-08').toBe(true);
    expect(plan.steps.at(-1)!.setting).toBe(1);
    expect(text('rescue-sentence')).toMatch(/^The cut counts as typed in/);
  });

  test('named is who is furthest beyond what it can take, not who merely gets most', async () => {
    await quiet();
    const careful = doc().zones[0]!.spots.findLast(livesByLight)!;
    edit(
      onZone((z) => ({
        ...z,
        spots: z.spots.map((s) => (s.id === careful.id ? s : { ...s, bears: 2 })),
      })),
    );
    typedIn({ capShare: 0.6 });
    show(Rescue);
    await waitFor(() =>
      expect(text('rescue-sentence')).toMatch(new RegExp(`^${careful.name} gets 1\\.4\\d ×`)),
    );
    expect(text('rescue-rows').startsWith(careful.name)).toBe(true);
  });

  test('a plan that goes on as a large step does not make harm harmless', async () => {
    await quiet({}, [{ ...planUnder(), ceiling: 3 }]);
    typedIn({ capShare: 1, planId: 'p' });
    show(Rescue);
    await waitFor(() =>
      expect(text('rescue-sentence')).toMatch(/gets 2\.42 × what it is used to: cut tonight/),
    );
  });

  test('where nobody lives by light nobody is said to be reckoned', async () => {
    await quiet();
    edit(
      onZone((z) => ({ ...z, spots: z.spots.map((s) => ({ ...s, need: 'nonPhotosynthetic' as const })) })),
    );
    show(Rescue);
    await waitFor(() => expect(text('rescue-sentence')).toMatch(/^Nobody who lives by light is known here/));
  });

  test('of many corals eight stand in sight; the others are a key away', async () => {
    await quiet();
    edit(
      onZone((z) => ({
        ...z,
        spots: Array.from({ length: 12 }, (_, i) => ({ ...z.spots[0]!, id: `m${i}`, name: `Many ${i}` })),
      })),
    );
    show(Rescue);
    await waitFor(() => expect(text('other-ratios')).toMatch(/The other four/));
    expect(screen.getAllByText(/^Many \d+$/)).toHaveLength(8);
    tap('other-ratios');
    expect(screen.getAllByText(/^Many \d+$/)).toHaveLength(12);
  });

  test('lamps of circuits are cut by circuits and hours', async () => {
    const kind = libraryLamp('lib-tubes');
    const mix = Object.fromEntries(kind.controls.map((c) => [c.id, 1]));
    const threads = [
      { minute: 600, strengthShare: 1, mix, mixName: 'on' },
      { minute: 1260, strengthShare: 0, mix, mixName: 'off' },
    ];
    await quiet({ lampKind: kind, threads, capShare: 1, usedTo: false, atUtc: '2026-11-24T08:00:00.000Z' });
    edit(
      onZone((z) => ({
        ...z,
        spots: z.spots.map((s) => ({ ...s, cameFrom: { peakUmol: 20, hours: 4 } })),
      })),
    );
    show(Rescue);
    await waitFor(() =>
      expect(screen.getByTestId('rescue-cut').textContent).toMatch(/\d\d:\d\d–\d\d:\d\d|off/),
    );
    expect(screen.getByText(/cannot be dimmed/)).toBeTruthy();
  });
});

describe('Corals that come and move', () => {
  test('a new one comes today at the light it came from; bad figures are said', async () => {
    const spot = { ...doc().zones[0]!.spots[0]!, id: 'new', name: 'Frag' };
    show(() => <SpotSheet zone={doc().zones[0]!} spot={spot} onClose={() => undefined} />);
    expect((screen.getByTestId('arrived') as HTMLInputElement).value).toBe('11/24/2026');
    fill('came-peak', '80');
    tap('keep-spot');
    expect(screen.getByText(/Give both, 1 to 3000 µmol/)).toBeTruthy();
    fill('came-hours', '9');
    tap('keep-spot');
    expect(doc().zones[0]!.spots.at(-1)).toMatchObject({
      arrived: '2026-11-24',
      cameFrom: { peakUmol: 80, hours: 9 },
    });
  });

  test('a move is asked about on Tank, and leads to easing in', async () => {
    edit((b) => ({
      ...b,
      log: {
        ...b.log,
        events: [
          {
            id: 'm',
            zoneId: 'demo-display',
            atUtc: '2026-11-24T14:30:00.000Z',
            note: '',
            kind: 'moved',
            spotId: 'demo-copper',
            from: { xCm: 14, yCm: 14, depthCm: 44, openShare: 1 },
            to: { xCm: 40, yCm: 32, depthCm: 17, openShare: 1 },
          },
        ],
      },
    }));
    show(Tank);
    await waitFor(() =>
      expect(text('just-moved')).toMatch(/Copper table counts as moved.*It gets 1\.\d\d × that|gets 2/),
    );
    tap('other-corals');
    await waitFor(() => expect(text('used-Plum table')).toBe('1.00 ×'));
    tap('moved-ease');
    expect(navigate).toHaveBeenCalledWith('/ease?of=running&coral=demo-copper');
    tap('moved-corrected');
    expect(log()).toEqual([]);
    expect(screen.queryByTestId('just-moved')).toBeNull();
  });

  test('a coral climbs through the tank instead of the lamps being dimmed', async () => {
    edit(
      onZone((z) => ({
        ...z,
        spots: z.spots.map((s, i) =>
          i === 0 ? { ...s, arrived: '2026-11-24', cameFrom: { peakUmol: 90, hours: 8 } } : s,
        ),
      })),
    );
    routeAt('/ease', { of: 'running', coral: 'demo-copper' });
    show(Ease);
    await waitFor(() => expect(screen.getByTestId('set-method')).toBeTruthy());
    tap('set-method');
    await waitFor(() => expect(screen.getByRole('radio', { name: 'Coral low first' })).toBeTruthy());
    choose('Coral low first');
    await waitFor(() => expect(text('step-0')).toMatch(/cm from left, .* cm deep/));
    await begin();
    expect(history().entries).toHaveLength(1);
    expect(history().plans[0]).toMatchObject({ method: 'places', targets: [] });
    expect(doc().zones[0]!.spots[0]!.depthCm).toBeGreaterThan(17);
    expect(log()[0]).toMatchObject({ kind: 'moved', spotId: 'demo-copper' });
  });
});
