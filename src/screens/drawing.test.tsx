import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { act, fireEvent, render, screen, waitFor } from '@testing-library/react';

import { bareCalibration, hungGroups } from '@/core/case/calibration';
import type { PortraitInput } from '@/core/portrait/scene';
import { usePortrait } from '@/state/portrait';

import { demo } from './test/kit';

interface Asked {
  input: PortraitInput;
  goesOn: (share: number) => boolean;
  answer: (scene: unknown) => void;
}
const mockAsked: Asked[] = [];
jest.mock('@/workers/client', () => ({
  reckoner: () => ({
    portrait: (input: Asked['input'], goesOn: Asked['goesOn']) =>
      new Promise((answer) => mockAsked.push({ input, goesOn, answer })),
  }),
}));

const { case: doc } = demo();
const zone = doc.zones[0]!;
const groups = hungGroups(doc, zone);
const cal = bareCalibration(groups, zone);
const scene = (name: string) => ({ surfaces: [], name });

function Drawn() {
  const p = usePortrait(doc, zone, groups, cal, { fish: false, card: false, wide: false });
  return (
    <>
      <p data-testid="shown">{(p.scene as { name?: string } | null)?.name ?? 'nothing'}</p>
      <button onClick={p.cancel}>Stop</button>
      {p.goOn && <button onClick={p.goOn}>Go on</button>}
    </>
  );
}

test('the whole picture begins once the coarse one is there; what was stopped is not begun again until it is asked for', async () => {
  jest.spyOn(HTMLCanvasElement.prototype, 'getContext').mockReturnValue({} as never);
  render(
    <QueryClientProvider client={new QueryClient()}>
      <Drawn />
    </QueryClientProvider>,
  );
  await waitFor(() => expect(mockAsked.map((a) => a.input.coarse)).toEqual([true]));
  // longer than the page ever waits
  await act(() => new Promise((done) => setTimeout(done, 1400)));
  expect(mockAsked).toHaveLength(1);

  fireEvent.click(screen.getByText('Stop'));
  await waitFor(() => expect(screen.getByText('Go on')).toBeTruthy());
  expect(mockAsked[0]!.goesOn(0.5)).toBe(false);
  await act(() => new Promise((done) => setTimeout(done, 300)));
  expect(mockAsked).toHaveLength(1);

  fireEvent.click(screen.getByText('Go on'));
  await waitFor(() => expect(mockAsked).toHaveLength(2));
  expect(screen.queryByText('Go on')).toBeNull();
  act(() => mockAsked[1]!.answer(scene('coarse')));
  await waitFor(() => expect(screen.getByTestId('shown').textContent).toBe('coarse'));
  await waitFor(() => expect(mockAsked.map((a) => a.input.coarse)).toEqual([true, true, false]));
  act(() => mockAsked[2]!.answer(scene('whole')));
  await waitFor(() => expect(screen.getByTestId('shown').textContent).toBe('whole'));
});
