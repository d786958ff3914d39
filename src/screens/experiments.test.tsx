import { act, screen, waitFor } from '@testing-library/react';

import { undo } from '@/state/session';

import { Experiments } from './experiments/Experiments';
import { choose, doc, edit, fill, freshPlaces, show, tap, text, onZone } from './test/kit';
import { freshFiles, offered } from './test/files';
import type * as Router from './test/router';
import { routeAt, routeParams } from './test/router';

jest.mock('expo-router', () => jest.requireActual<typeof Router>('./test/router').mockRouter);
jest.mock('@/ui/files', () => jest.requireActual<typeof import('./test/files')>('./test/files').mockFiles);

const all = () => doc().zones[0]!.experiments ?? [];
const asked = () => all()[0]!;

freshPlaces();
beforeEach(() => {
  routeAt('/experiments');
  freshFiles();
});

const begin = () => {
  show(Experiments);
  tap('experiment-new');
  expect(screen.getByText('▲ Ask a question, in at most 120 characters.')).toBeTruthy();
  fill('experiment-name', 'Does violet make it grow?');
  fill('experiment-change', 'violet 20 → 60');
  tap('experiment-new');
};
/** A tank in which it was weighed: A slower than B. */
const weighed = (rates: readonly number[]) => {
  const from = ['2026-06-15', '2026-08-10', '2026-10-05'];
  const to = ['2026-07-27', '2026-09-21', '2026-11-16'];
  edit((b) => ({
    ...b,
    case: {
      ...b.case,
      zones: b.case.zones.map((z, i) =>
        i > 0
          ? z
          : {
              ...z,
              experiments: [
                {
                  ...{
                    id: 'e',
                    name: 'Does violet make it grow?',
                    change: 'violet up',
                    measure: 'mass' as const,
                  },
                  ...{ start: '2026-06-01', phases: 'ABA' as const, phaseDays: 42, restDays: 14 },
                  fragments: [0, 1, 2, 3].map((k) => ({
                    id: `f${k}`,
                    name: `Piece ${k}`,
                    spotId: z.spots[0]!.id,
                  })),
                  values: rates.flatMap((rate, phase) =>
                    [0, 1, 2, 3].flatMap((k) => [
                      {
                        phase,
                        fragmentId: `f${k}`,
                        at: 'start' as const,
                        value: 800 + 10 * k,
                        date: from[phase]!,
                      },
                      {
                        ...{ phase, fragmentId: `f${k}`, at: 'end' as const, date: to[phase]! },
                        value: (800 + 10 * k) * Math.exp(42 * (rate + k * 1e-4)),
                      },
                    ]),
                  ),
                },
              ],
            },
      ),
    },
  }));
};

test('a question is asked, set in its sentence, and measured; what it could show stands there before', async () => {
  begin();
  expect(asked()).toMatchObject({ name: 'Does violet make it grow?', start: '2026-11-24', phaseDays: 42 });
  expect(routeParams().of).toBe(asked().id);
  expect(text('experiments-sentence')).toBe('Nothing can be compared before A and B are both measured.');
  const before = /find a difference of (\d+) %/.exec(text('power'))![1]!;
  tap('fragments');
  tap('fragment-add');
  expect(asked().fragments).toHaveLength(6);
  expect(Number(/find a difference of (\d+) %/.exec(text('power'))![1]!)).toBeLessThan(Number(before));
  tap('set-restDays');
  fill('experiment-restDays', '2.5');
  expect(screen.getByText('▲ Give 0 to 120 whole days.')).toBeTruthy();
  fill('experiment-restDays', '0');
  tap('set-phases');
  choose('A, then B, then A again');
  expect(text('phase-2')).toMatch(/^A againmeasured /);
  expect(text('measure-when')).toMatch(/^Due today/);
  fill('measure-Fragment 1', '-4');
  expect(screen.getByText('▲ Give a number above 0, or nothing.')).toBeTruthy();
  fill('measure-Fragment 1', '812,5');
  expect(asked().values).toEqual([
    { phase: 0, fragmentId: asked().fragments[0]!.id, at: 'start', value: 812.5, date: '2026-11-24' },
  ]);
  fill('measured-on', '2026-12-01');
  expect(screen.getByText('▲ That is still to come.')).toBeTruthy();
  fill('measured-on', '2026-11-20');
  expect(asked().values[0]!.date).toBe('2026-11-20');
  fill('measure-Fragment 1', '');
  expect(asked().values).toEqual([]);
  tap('set-measure');
  choose('a score of your own');
  expect(text('power')).toMatch(/^How large a difference can be found/);
  tap('set-measure');
  choose('weighed mass');
  tap('experiment-calendar');
  const dates = await offered('experiment.ics');
  expect(dates.match(/BEGIN:VEVENT/g)).toHaveLength(9);
  tap('experiment-remove');
  expect(all()).toEqual([]);
  act(() => undo());
  expect(all()).toHaveLength(1);
});

test('the answer in plain sentences: an effect that goes as A comes back, one that does not, and none', async () => {
  weighed([0.004, 0.006, 0.004]);
  const page = show(Experiments);
  expect(text('experiments-sentence')).toMatch(
    /^B 20\.\d % a month, A 13\.\d % a month: \+7\.0 points a month \(\+\d\.\d to \+\d\.\d in 95 of 100 such experiments\)\. Chance alone would set them as far apart in 3 of 100 deals: more than chance, so B may have done it if nothing else changed\. With A again −.*: it went as A came back/,
  );
  await waitFor(() => expect(screen.queryByTestId('spoilers')).toBeTruthy());
  expect(text('spoilers')).toMatch(/▲ Thu 12 Nov, in A: the lamps were set otherwise/);
  page.unmount();
  weighed([0.004, 0.006, 0.006]);
  const again = show(Experiments);
  expect(text('experiments-sentence')).toMatch(/it did not go as A came back/);
  again.unmount();
  weighed([0.004, 0.00402]);
  show(Experiments);
  expect(text('experiments-sentence')).toMatch(/no difference can be told from chance\.$/);
  expect(text('phase-2')).toMatch(/A again/);
  expect(screen.getByText('not measured')).toBeTruthy();
});

const mockMeans: Record<string, readonly number[]> = {};
jest.mock('@/state/photos', () => ({
  photoQuery: (id: string) => ({ queryKey: ['photo', id], queryFn: async () => null }),
  meanQuery: (id: string, at: { x: number } | undefined) => ({
    queryKey: ['mean', id, at],
    queryFn: async () => mockMeans[`${id} ${at!.x}`] ?? [120, 120, 120],
    enabled: at !== undefined,
  }),
}));

test('measures from pictures: colour through the card, and scores given without knowing which light it was', async () => {
  weighed([]);
  const spots = doc().zones[0]!.spots.slice(0, 2);
  const ends = ['2026-07-27', '2026-09-21', '2026-11-16'];
  edit((b) => ({
    ...b,
    case: {
      ...b.case,
      zones: b.case.zones.map((z) => ({
        ...z,
        experiments: z.experiments!.map((e) => ({
          ...e,
          measure: 'lightness' as const,
          fragments: spots.map((s, k) => ({ id: `f${k}`, name: s.name, spotId: s.id })),
        })),
      })),
    },
    log: {
      ...b.log,
      events: ends.slice(0, 2).flatMap((day, phase) =>
        spots.map((s) => ({
          ...{
            id: `p${phase} ${s.id}`,
            zoneId: b.case.zones[0]!.id,
            atUtc: `${day}T12:00:00.000Z`,
            note: '',
          },
          ...{ kind: 'photo' as const, spotId: s.id, widthPx: 800, heightPx: 600, bytes: 1000, lit: '' },
          ...{ grey: { x: 0.1, y: 0.9 }, patch: { x: 0.5, y: 0.5 } },
        })),
      ),
    },
  }));
  for (const s of spots) mockMeans[`p1 ${s.id} 0.5`] = [170, 170, 170];
  show(Experiments);
  await waitFor(() => expect(screen.getByTestId('take-from-pictures')).toBeTruthy());
  tap('take-from-pictures');
  expect(asked().values.map((v) => [v.phase, v.date, v.value.toFixed(1)])).toEqual([
    [0, '2026-07-27', '49.5'],
    [0, '2026-07-27', '49.5'],
  ]);
  await waitFor(() => expect(screen.getByTestId('take-from-pictures')).toBeTruthy());
  tap('take-from-pictures');
  expect(asked().values[2]!.value).toBeGreaterThan(65);
  expect(text('experiments-sentence')).toMatch(/^B \d\d\.\d L\*, A 49\.5 L\*: \+\d\d\.\d L\*/);
  // what was measured in another way goes with it, which is said before, and comes back with undo
  tap('set-measure');
  expect(
    screen.getByText(/^\S+ values measured so far will be dropped if you choose another\./),
  ).toBeTruthy();
  choose('a score given blind');
  expect(asked().values).toEqual([]);
  await waitFor(() => expect(screen.getByTestId('score-begin')).toBeTruthy());
  tap('score-begin');
  expect(text('score-asked')).toBe('Picture 1 of 8');
  for (let i = 0; i < 8; i += 1) choose('7');
  expect(text('score-told')).toMatch(
    /^Kept\. When a picture came a second time your score differed by 0\.0 on average\.$/,
  );
  expect(asked().values).toHaveLength(4);
  expect(asked().values.every((v) => v.value === 7 && v.at === 'end')).toBe(true);
  act(() => undo());
  act(() => undo());
  expect(asked().values).toHaveLength(4);
  expect(asked().measure).toBe('lightness');
});

test('pictures are of corals: fragments at one coral cannot be told apart', async () => {
  weighed([]);
  edit(
    onZone((z) => ({
      ...z,
      experiments: z.experiments!.map((e) => ({ ...e, measure: 'area' as const })),
    })),
  );
  show(Experiments);
  await waitFor(() => expect(screen.getByTestId('from-pictures')).toBeTruthy());
  expect(text('from-pictures')).toMatch(/^Pictures are of corals: say under Fragments/);
});
