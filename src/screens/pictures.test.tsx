import { act, fireEvent, screen, waitFor } from '@testing-library/react';

import type { Photo } from '@/core/record/log/photo';
import { undo, useSession } from '@/state/session';

import { Pictures } from './pictures/Pictures';
import { choose, doc, edit, fill, freshPlaces, press, show, tap, text } from './test/kit';
import type * as Router from './test/router';
import { navigate, routeAt } from './test/router';

jest.mock('expo-router', () => jest.requireActual<typeof Router>('./test/router').mockRouter);
jest.mock(
  'react-native-gesture-handler',
  () => jest.requireActual<typeof Router>('./test/router').mockGestures,
);
const mockPick = jest.fn<unknown, []>();
const mockKept = jest.fn();
jest.mock('@/ui/files', () => ({
  ...jest.requireActual<object>('@/ui/files'),
  pickPicture: async () => mockPick(),
  keepBlob: (name: string) => mockKept(name),
}));
const mockAdd = jest.fn<unknown, []>();
const mockMeans: Record<string, readonly number[]> = {};
const mockRemoved = jest.fn();
jest.mock('@/state/photos', () => ({
  MOST_PX: 1600,
  roomLeft: async () => 512e6,
  addPhoto: async () => mockAdd(),
  removePhoto: async (id: string) => mockRemoved(id),
  photoQuery: (id: string) => ({
    queryKey: ['photo', id],
    queryFn: async () => (id === 'gone' ? null : { url: `blob:${id}`, blob: { size: 1 } }),
  }),
  meanQuery: (id: string, at: { x: number } | undefined) => ({
    queryKey: ['mean', id, at],
    queryFn: async () => mockMeans[`${id} ${at!.x}`] ?? [120, 120, 120],
    enabled: at !== undefined,
  }),
}));
const photos = () => useSession.getState().bundle!.log.events.filter((e): e is Photo => e.kind === 'photo');
const grey = { x: 0.1, y: 0.9 };
const patch = { x: 0.5, y: 0.5 };
const photo = (id: string, day: string, more: Partial<Photo> = {}): Photo => ({
  ...{ id, zoneId: doc().zones[0]!.id, atUtc: `2026-${day}T12:00:00.000Z`, note: '', kind: 'photo' },
  ...{ spotId: doc().zones[0]!.spots[0]!.id, widthPx: 800, heightPx: 600, bytes: 90_000, lit: '' },
  ...more,
});
const series = (...all: Photo[]) => edit((b) => ({ ...b, log: { ...b.log, events: all } }));

freshPlaces();
beforeEach(() => {
  routeAt('/pictures');
  jest.clearAllMocks();
});

test('a picture is made smaller and kept with what ran; why not is said, and nothing is lost by it', async () => {
  show(Pictures);
  expect(text('pictures-sentence')).toMatch(/^No picture of Copper table yet/);
  await waitFor(() => expect(text('pictures-room')).toContain('about 512 MB'));
  const file = { size: 4_200_000, lastModified: Date.parse('2026-11-20T12:00:00Z') };
  mockPick.mockReturnValue({ name: 'table.jpg', file });
  mockAdd.mockReturnValueOnce({ problem: 'This browser has no room left for it.' });
  tap('picture-add');
  await waitFor(() => expect(text('picture-told')).toBe('table.jpg: This browser has no room left for it.'));
  expect(photos()).toEqual([]);
  mockAdd.mockReturnValueOnce({ blob: { size: 350_000 }, widthPx: 1600, heightPx: 1200 });
  tap('picture-add');
  await waitFor(() => expect(photos()).toHaveLength(1));
  expect(photos()[0]).toMatchObject({
    ...{
      atUtc: '2026-11-20T12:00:00.000Z',
      widthPx: 1600,
      bytes: 350_000,
      lit: 'Reading noon, Panels at 80 %',
    },
  });
  expect(text('picture-told')).toMatch(
    /at most 1600 px, 350 KB of 4\.2 MB\. The full picture stays where you took it from/,
  );
  mockPick.mockReturnValue({ name: 'film.mov', problem: 'It is larger than 40 MB: choose a smaller one.' });
  tap('picture-add');
  await waitFor(() => expect(text('picture-told')).toMatch(/^film\.mov: It is larger/));
  act(() => undo());
  expect(photos()).toEqual([]);
});

test('two are compared: what speaks against it, points by tap and by keys, the patch in colour beyond the noise', async () => {
  mockMeans['b 0.5'] = [170, 120, 120];
  series(photo('a', '06-01', { grey, patch }), photo('b', '11-20', { grey, patch }));
  show(Pictures);
  tap('thumbnail-a');
  tap('thumbnail-b');
  expect(text('pictures-unlike')).toMatch(/^▲ Not alike: the lamps were set otherwise/);
  await waitFor(() =>
    expect(text('patch')).toMatch(/^The patch is .*stronger in colour.*ΔE \d+\.\d.*noise is not known/),
  );
  choose('patch');
  fireEvent(
    screen.getByTestId('pointed-a'),
    Object.assign(new MouseEvent('click', { bubbles: true }), { offsetX: 0, offsetY: 0 }),
  );
  await waitFor(() => expect(photos().find((p) => p.id === 'a')!.patch!.x).not.toBe(0.5));
  choose('over one another');
  expect(screen.getByTestId('pictures-over')).toBeTruthy();
  expect(screen.getByText(/Set the first and second point on both/)).toBeTruthy();
  press(/^Keep .*1 June?.* as a file$/);
  await waitFor(() => expect(mockKept).toHaveBeenCalledWith('Copper table 2026-06-01.jpg'));
  tap('remove-a');
  expect(photos()).toHaveLength(2);
  tap('remove-a');
  expect(photos().map((p) => p.id)).toEqual(['b']);
  expect(mockRemoved).toHaveBeenCalledWith('a');
});

test('a burnt card balances nothing, and a picture that is elsewhere is told so', async () => {
  mockMeans['c 0.1'] = [255, 255, 255];
  series(photo('c', '06-01', { grey, patch }), photo('gone', '11-20', { grey, patch }));
  show(Pictures);
  await waitFor(() => expect(screen.getByText('not in this browser')).toBeTruthy());
  tap('thumbnail-c');
  tap('thumbnail-gone');
  await waitFor(() => expect(text('patch')).toMatch(/burnt out or black/));
  press(/^Keep .*20 Nov.* as a file$/);
  await waitFor(() => expect(text('picture-told')).toMatch(/^This picture is not in this browser/));
});

test('judged blind: pairs without dates, each twice; then how often the eye agreed with itself', async () => {
  series(photo('a', '06-01'), photo('b', '08-01'), photo('c', '10-01'));
  show(Pictures);
  choose('browner');
  tap('blind-begin');
  expect(text('blind-asked')).toBe('Which is browner? 1 of 6');
  for (let i = 0; i < 6; i += 1) tap('blind-left');
  // with its sides changed, always left is never the same picture
  expect(text('blind-told')).toBe(
    'Which is browner: You said the same both times for none of three pairs: your eye tells nothing apart here.',
  );
  tap('blind-again');
  tap('blind-begin');
  tap('blind-stop');
  expect(screen.getByTestId('blind-begin')).toBeTruthy();
});

test('a coral outlined corner by corner on two pictures: its growth, its area once the points’ distance is known, taken away again', () => {
  const points = { first: { x: 0.1, y: 0.5 }, second: { x: 0.6, y: 0.5 } };
  const square = (side: number) =>
    [
      [-1, -1],
      [1, -1],
      [1, 1],
      [-1, 1],
    ].map(([x, y]) => ({ x: 0.5 + (x! * side) / 2, y: 0.5 + ((y! * side) / 2) * (800 / 600) }));
  series(photo('a', '09-20', { outline: square(0.3), ...points }), photo('b', '11-19', points));
  show(Pictures);
  tap('thumbnail-a');
  tap('thumbnail-b');
  expect(text('growth')).toMatch(/^To see how much it grew, draw around the coral on both/);
  choose('outline');
  tap('corners-b');
  for (const [x, y] of [
    [0.3, 0.3],
    [0.7, 0.3],
    [0.7, 0.7],
  ] as const) {
    fireEvent.keyDown(screen.getByRole('slider', { name: /^next corner on .*19 Nov.*from the left/ }), {
      key: 'Home',
    });
    fireEvent.keyDown(screen.getByRole('slider', { name: /^next corner on .*19 Nov.*from above/ }), {
      key: 'Home',
    });
    for (let i = 0; i < x * 20; i += 1)
      fireEvent.keyDown(screen.getByRole('slider', { name: /^next corner on .*19 Nov.*from the left/ }), {
        key: 'PageUp',
      });
    for (let i = 0; i < y * 20; i += 1)
      fireEvent.keyDown(screen.getByRole('slider', { name: /^next corner on .*19 Nov.*from above/ }), {
        key: 'PageUp',
      });
    tap('corner-b');
  }
  tap('close-b');
  const outline = photos().find((p) => p.id === 'b')!.outline!;
  expect(outline.map((p) => [p.x.toFixed(2), p.y.toFixed(2)])).toEqual([
    ['0.30', '0.30'],
    ['0.70', '0.30'],
    ['0.70', '0.70'],
  ]);
  expect(text('growth')).toMatch(
    /^The outlined area: −\d+ % in 60 days, −\d+ % a month \(± 9 %: a hand draws/,
  );
  fill('points-apart', '10');
  expect(photos().find((p) => p.id === 'b')!.apartCm).toBe(10);
  expect(text('growth')).toMatch(/^The outlined area: 36 cm² → 24 cm²/);
  tap('no-line-b');
  expect(photos().find((p) => p.id === 'b')!.outline).toBeUndefined();
});

test('light for the camera is drafted at the hour of the last picture, then typed in with the sheet', () => {
  series(photo('a', '11-20'));
  show(Pictures);
  const interludes = () => doc().zones[0]!.groups[0]!.extras?.interludes ?? [];
  tap('camera-light');
  expect(interludes()).toMatchObject([
    // 13:00 in Berlin is over today
    { kind: 'photograph', date: '2026-11-25', fromMinute: 780, minutes: 20, mixName: 'Reading noon' },
  ]);
  expect(text('picture-told')).toMatch(/^Drafted for .*: it comes once it is typed into the lamp\.$/);
  expect(text('camera-light')).toBe('Type it in');
  tap('camera-light');
  expect(navigate).toHaveBeenCalledWith('/sheet');
});
