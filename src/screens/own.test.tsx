import { fireEvent, screen, waitFor } from '@testing-library/react';

import { newPlate } from '@/core/case/plate';
import { libraryLamp } from '@/core/library/lamps';
import { useSession } from '@/state/session';

import { Case } from './case/Case';
import { ThreadSheet } from './day/ThreadSheet';
import { Lamps } from './lamps/Lamps';
import { ExactStart } from './start/ExactStart';
import { Start } from './start/Start';
import { choose, demo, doc, fill, freshPlaces, open, press, show, tap, withLamp, text } from './test/kit';
import type * as Router from './test/router';
import { navigate, routeAt } from './test/router';

jest.mock('expo-router', () => jest.requireActual<typeof Router>('./test/router').mockRouter);
jest.mock(
  'react-native-gesture-handler',
  () => jest.requireActual<typeof Router>('./test/router').mockGestures,
);

freshPlaces();
beforeEach(() => routeAt());

const own = () => doc().lampKinds[0]!;
/** Opens the form of the case's only lamp. */
async function change(kindId: string, mix: Record<string, number>) {
  await open(withLamp(kindId, mix));
  show(Lamps);
  fireEvent.click(screen.getAllByRole('button', { name: `Open ${libraryLamp(kindId).name}` })[0]!);
  press('Change');
}
const value = (id: string) => (screen.getByTestId(id) as HTMLInputElement).value;

describe('an own lamp is changed', () => {
  test('tint and brightness: shares at three places; a missing one is asked for', async () => {
    await change('lib-tint', { brightness: 0.5, tint: 0.5 });
    expect([value('channel-0-white'), value('channel-0-middle'), value('channel-0-blue')]).toEqual([
      '100',
      '40',
      '0',
    ]);
    expect(value('channel-3-white')).toBe('');
    fill('channel-0-middle', '');
    tap('save-lamp');
    await waitFor(() => expect(screen.getByText(/Give all three shares, or none/)).toBeTruthy());
    fill('channel-0-middle', '55');
    tap('save-lamp');
    await waitFor(() => {
      const tint = own().controls.find((c) => c.kind === 'tint')!;
      expect(tint.kind === 'tint' && tint.stops[1]!.shares.white).toBeCloseTo(0.55, 9);
    });
    // what was set stays set
    expect(doc().plates[0]!.mix).toMatchObject({ brightness: 0.5, tint: 0.5 });
  });

  test('a balance: shares, trims with both factors, the rest on its own', async () => {
    await change('lib-balance', { balance: 0.5 });
    expect([value('channel-1-share'), value('channel-4-share')]).toEqual(['100', '']);
    fill('channel-4-share', '20');
    tap('save-lamp');
    await waitFor(() => {
      const balance = own().controls[0]!;
      expect(balance.kind === 'level' && balance.drives.white).toBeCloseTo(0.2, 9);
    });
    expect(own().controls.some((c) => c.id === 'white')).toBe(false);
  });

  test('from one way of setting to another: each on its own becomes on and off only', async () => {
    await change('lib-nine', { 'royal-blue': 0.5 });
    choose('On and off only');
    tap('lamp-more');
    choose('it holds, then jumps');
    choose('becomes the highest value of the day');
    choose('the cap');
    tap('save-lamp');
    await waitFor(() => expect(own().controls.every((c) => c.kind === 'onOff')).toBe(true));
    expect(own().controller).toMatchObject({ interpolation: 'hold', capMeans: 'rescales', easingOf: 'cap' });
    expect(doc().plates[0]!.mix).toEqual({ 'royal-blue': 0.5 });
  });

  test('a channel takes more emitters, a stated flux and a dimming curve; bad ones are named', async () => {
    await change('lib-blue-bar', { blue: 1 });
    expect(value('channel-0-1-peak')).toBe('470');
    press('More emitters in channel 1');
    fill('channel-0-2-peak', '900');
    fill('channel-0-2-count', '0');
    fill('channel-0-2-watts', '1');
    tap('save-lamp');
    await waitFor(() => expect(screen.getByText('▲ Give 360 to 780 nm.')).toBeTruthy());
    expect(screen.getByText('▲ Give 1 to 500.')).toBeTruthy();
    fill('channel-0-2-peak', '430');
    fill('channel-0-2-count', '6');
    fill('channel-0-2-flux', '1,8');
    press('How it dims');
    tap('droop-0');
    expect(value('curve-0')).toBe('25:27.1, 50:52.8, 75:77.1');
    expect(screen.queryByTestId('droop-0')).toBeNull();
    fireEvent.change(screen.getByLabelText('Measured points'), { target: { value: '60:40, 20:5' } });
    tap('save-lamp');
    await waitFor(() => expect(screen.getByText(/Give rising points such as 20:5, 60:40/)).toBeTruthy());
    fireEvent.change(screen.getByLabelText('Measured points'), { target: { value: '20:5, 60:40' } });
    fireEvent.change(screen.getByLabelText('Lights from'), { target: { value: '4' } });
    tap('save-lamp');
    await waitFor(() => expect(own().channels[0]!.groups).toHaveLength(3));
    expect(own().channels[0]!.groups[2]).toMatchObject({ count: 6, fluxEachUmolPerS: 1.8 });
    expect(own().channels[0]!.dimming).toEqual({
      lowestLitShare: 0.04,
      curve: [
        [0.2, 0.05],
        [0.6, 0.4],
      ],
    });
  });

  test('a tube lamp shows its cautions where it is typed', async () => {
    await change('lib-tubes', { broad: 1 });
    expect(screen.getByText(/hold mercury and send out UV/)).toBeTruthy();
    expect(screen.getByTestId('channel-0-table').textContent).toMatch(/points from 380 to 730 nm, photons/);
  });
});

describe('starting a tank by sentences', () => {
  const setting = (part: string, to: string) => {
    tap(`set-${part}`);
    fireEvent.click(screen.getByRole('radio', { name: to }));
  };
  test('everything has a usual answer; what is set stays, and begins a case whose first day is safe', async () => {
    show(Start);
    await waitFor(() => expect(text('start-day')).toMatch(/^\d+ µmol at Coral 1 at its brightest/));
    setting('size', '90 × 45 × 45 cm');
    setting('corals', 'three corals');
    setting('heightCm', '30 cm up');
    tap('set-kind');
    press('Take Blue-heavy eight-channel panel');
    expect(text('start-answers')).toContain('Over it: one lamp, blue-heavy eight-channel panel, 30 cm up.');
    expect(text('start-answers')).toContain('In it: three corals, soft corals, half way up.');
    tap('start-plain');
    await waitFor(() => expect(doc().name).toBe('My tank'));
    const [water] = doc().zones;
    expect(water!.tank).toMatchObject({ lengthCm: 90, widthCm: 45, depthCm: 45 });
    expect(water!.spots.map((s) => [s.xCm, s.need])).toEqual([
      [15, 'soft'],
      [45, 'soft'],
      [75, 'soft'],
    ]);
    expect(water!.groups[0]!.lamps[0]!.heightCm).toBe(30);
    expect(navigate).toHaveBeenCalledWith('/day');
  });

  test('a lamp that is another is typed field by field, and that is gone on with', async () => {
    show(Start);
    tap('start-exact');
    await waitFor(() => expect(screen.getByTestId('start-library')).toBeTruthy());
    expect(screen.queryByTestId('start-plain')).toBeNull();
  });
});

describe('starting a tank from a lamp of the library', () => {
  test('the nearest lamp fills the form, and the first day is safe', async () => {
    show(ExactStart);
    await waitFor(() => expect(screen.getByTestId('start-library')).toBeTruthy());
    tap('start-library');
    press('Begin from Two-circuit fixture');
    expect(value('lamp-name')).toBe('Two-circuit fixture');
    expect(value('channel-1-peak')).toBe('10000');
    for (const [id, v] of [
      ['case-name', 'Hall tank'],
      ['tank-length', '100'],
      ['tank-width', '50'],
      ['tank-depth', '50'],
      ['lamp-height', '25'],
      ['spot-0-name', 'Leather'],
      ['spot-0-x', '50'],
      ['spot-0-y', '25'],
      ['spot-0-depth', '30'],
    ] as const)
      fill(id, v);
    tap('start-submit');
    await waitFor(() => expect(doc().name).toBe('Hall tank'));
    const group = doc().zones[0]!.groups[0]!;
    expect(group.threads).toHaveLength(2);
    expect(group.threads[1]!.minute - group.threads[0]!.minute).toBeLessThan(480);
    // the circuit that is dark enough stands on the plate that the day uses
    expect(doc().plates[0]!.mix).toEqual({ [own().channels[0]!.id]: 0, [own().channels[1]!.id]: 1 });
    expect(group.threads.map((t) => t.mix)).toEqual(Array(2).fill({ plateId: doc().plates[0]!.id }));
    expect(navigate).toHaveBeenCalledWith('/day');
  });
});

describe('from Case and Day', () => {
  test('Case leads to lamps and plates', () => {
    show(Case);
    press(/^Add a lamp/);
    expect(navigate).toHaveBeenCalledWith('/lamps');
    press('Plates');
    expect(navigate).toHaveBeenCalledWith('/plates');
  });

  test('a lamp taken down keeps its plates for the one that follows', async () => {
    const bundle = demo();
    const bar = libraryLamp('lib-blue-bar');
    const zone = bundle.case.zones[0]!;
    await open({
      ...bundle,
      case: {
        ...bundle.case,
        lampKinds: [...bundle.case.lampKinds, bar],
        plates: [...bundle.case.plates, newPlate('b', 'Bar', bar.id, { blue: 1 })],
        zones: [
          {
            ...zone,
            groups: [
              ...zone.groups,
              {
                id: 'bar',
                name: 'Bar',
                lampKindId: bar.id,
                lamps: [{ id: 'l', name: 'front bar', xCm: 75, yCm: 8, heightCm: 15, turnDeg: 0 }],
                threads: [],
                capShare: 1,
              },
            ],
          },
        ],
      },
    });
    show(Case);
    press('Move lamp front bar');
    press('Take it down');
    expect(screen.getByText(/What its corals get can be measured only while it hangs/)).toBeTruthy();
    press('Take these lamps down');
    expect(doc().zones[0]!.groups).toHaveLength(1);
    expect(doc().plates.map((p) => p.id)).toContain('b');
    expect(doc().lampKinds).toHaveLength(2);
  });

  test('a thread of a tint lamp shows the light of its mix', async () => {
    await open(withLamp('lib-tint', { brightness: 0.7, tint: 0.2 }));
    const thread = doc().zones[0]!.groups[0]!.threads[0]!;
    show(() => (
      <ThreadSheet
        thread={thread}
        groups={[]}
        light={null}
        onClose={() => undefined}
        onOpen={() => undefined}
      />
    ));
    expect(screen.getByTestId('thread-umol').textContent).toBe('No light computed yet.');
    expect(screen.getAllByRole('img').length).toBeGreaterThan(0);
    expect(useSession.getState().past).toHaveLength(0);
  });
});
