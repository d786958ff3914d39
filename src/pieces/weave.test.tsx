import { render, screen } from '@testing-library/react';

import { Weave, type WeaveThread } from './Weave';
import { Handle } from './WeaveHandle';
import type * as Router from '../screens/test/router';

jest.mock(
  'react-native-gesture-handler',
  () => jest.requireActual<typeof Router>('../screens/test/router').mockGestures,
);

const nothing = () => undefined;
const thread = (minute: number): WeaveThread => ({ id: `t${minute}`, minute, strengthShare: 1, umol: 100 });
const weave = (minutes: number[], more: Partial<Parameters<typeof Weave>[0]> = {}) =>
  render(
    <Weave
      handle={Handle}
      sources={[]}
      parAt={() => 100}
      knees={[]}
      threads={minutes.map(thread)}
      from={480}
      to={1320}
      width={358}
      fieldHeight={150}
      selected={null}
      spotName="Copper table"
      onSelect={nothing}
      onMove={nothing}
      onRelease={nothing}
      onStep={nothing}
      onOpen={nothing}
      onMinute={nothing}
      {...more}
    />,
  );
const boxes = () =>
  screen.getAllByTestId(/^thread-\d/).map((h) => ({
    left: parseFloat(h.style.left),
    top: parseFloat(h.style.top),
    width: parseFloat(h.style.width),
    said: h.textContent,
  }));

test.each([4, 9, 14, 26])('%i threads are told apart: none touches another, each says its time', (n) => {
  weave(Array.from({ length: n }, (_, i) => 500 + i * 30));
  const all = boxes();
  expect(all).toHaveLength(n);
  for (const [i, a] of all.entries()) {
    expect(a.width).toBeGreaterThanOrEqual(20);
    expect(a.left).toBeGreaterThanOrEqual(0);
    expect(a.left + a.width).toBeLessThanOrEqual(358);
    for (const b of all.slice(i + 1))
      expect(a.top !== b.top || a.left + a.width <= b.left || b.left + b.width <= a.left).toBe(true);
    const minute = 500 + i * 30;
    expect(a.said!.replace(':', '').slice(0, 4)).toBe(
      `${String(Math.floor(minute / 60)).padStart(2, '0')}${String(minute % 60).padStart(2, '0')}`,
    );
  }
});

test('the day that runs lies dashed behind a drafted one; hours at home are marked, over midnight too', () => {
  const { container, unmount } = weave([500, 900]);
  const dashed = () => container.querySelectorAll('path[stroke-dasharray]').length;
  expect(dashed()).toBe(0);
  expect(screen.queryByText('at home')).toBeNull();
  unmount();
  const { container: drawn } = weave([500, 900], {
    ghost: { parAt: () => 60, knees: [] },
    home: { fromMinute: 1200, toMinute: 600 },
  });
  expect(drawn.querySelectorAll('path[stroke-dasharray]')).toHaveLength(1);
  // evening and morning of the window
  expect(screen.getAllByText('at home')).toHaveLength(2);
});
