import { fireEvent, render, screen } from '@testing-library/react';

import { libraryLamp } from '@/core/library/lamps';
import { mixSpectrum } from '@/core/spectrum/lamp';
import { demoPanel } from '@/demo/panel';

import { Comb } from './Comb';
import { crestsOf } from './combShape';
import { DASHES, DashSample, Outlines } from './Outlines';
import { TintRail } from './TintRail';

jest.mock('react-native-gesture-handler', () => {
  const chain: unknown = new Proxy(() => chain, { get: () => () => chain });
  return {
    Gesture: { Pan: () => chain },
    GestureDetector: ({ children }: { children: unknown }) => children,
  };
});
HTMLCanvasElement.prototype.getContext = (() => null) as never;

const light = mixSpectrum(demoPanel, { violet: 0.5, 'royal-blue': 0.7, blue: 0.5, 'cool-white': 0.3 });
const red = mixSpectrum(demoPanel, { 'deep-red': 1 });
describe('outlines', () => {
  test('one line per light, told apart without colour, with a name', () => {
    const { container } = render(
      <Outlines
        lights={[
          { name: 'a', spectrum: light },
          { name: 'b', spectrum: red },
          { name: 'dark', spectrum: new Float64Array(421) },
        ]}
        width={400}
        height={120}
        name="three outlines"
      />,
    );
    expect(screen.getByRole('img', { name: 'three outlines' })).toBeTruthy();
    const lines = [...container.querySelectorAll('path')];
    expect(lines).toHaveLength(3);
    expect(new Set(lines.map((l) => l.getAttribute('stroke-dasharray') ?? '')).size).toBe(3);
    expect(lines.every((l) => !/NaN/.test(l.getAttribute('d')!))).toBe(true);
    expect(new Set(DASHES).size).toBe(4);
    render(<DashSample index={5} />);
  });
});

describe('the comb', () => {
  const props = {
    crests: crestsOf(demoPanel),
    levels: { violet: 0.5 },
    sum: mixSpectrum(demoPanel, { violet: 0.5 }),
    most: mixSpectrum(demoPanel, Object.fromEntries(demoPanel.channels.map((c) => [c.id, 1]))),
    width: 358,
    stepShare: 0.01,
    selected: 'violet',
    onSelect: jest.fn(),
    onPull: jest.fn(),
    onRelease: jest.fn(),
    onStep: jest.fn(),
  };
  beforeEach(() => jest.clearAllMocks());

  test('grips say name, wavelength and value, and step by keyboard', () => {
    render(<Comb {...props} />);
    const violet = screen.getByRole('slider', { name: 'Violet, 419 nm' });
    expect(violet.getAttribute('aria-valuetext')).toBe('50 % of full');
    fireEvent.keyDown(violet, { key: 'ArrowUp' });
    expect(props.onStep).toHaveBeenLastCalledWith('violet', 0.51);
    fireEvent.keyDown(violet, { key: 'PageDown' });
    expect(props.onStep).toHaveBeenLastCalledWith('violet', 0.4);
    fireEvent.keyDown(violet, { key: 'End' });
    expect(props.onStep).toHaveBeenLastCalledWith('violet', 1);
    fireEvent.keyDown(violet, { key: 'x' });
    expect(props.onStep).toHaveBeenCalledTimes(3);
  });

  test('a locked control says so; another light lies dashed behind', () => {
    const { rerender } = render(<Comb {...props} locked={['violet']} />);
    expect(screen.getByText('locked')).toBeTruthy();
    expect(screen.queryByTestId('comb-behind')).toBeNull();
    rerender(<Comb {...props} behind={props.sum} />);
    expect(screen.getByTestId('comb-behind').getAttribute('stroke-dasharray')).toBe('6 3');
  });

  test('no grip leaves the paper, even when another light is far taller', () => {
    const tall = props.sum.map((v) => v * 400);
    const { container } = render(<Comb {...props} behind={tall} levels={{ violet: 1, 'royal-blue': 1 }} />);
    for (const c of container.querySelectorAll('circle'))
      expect(Number(c.getAttribute('cy'))).toBeGreaterThan(0);
    const d = screen.getByTestId('comb-behind').getAttribute('d')!;
    expect(d).not.toMatch(/-\d/);
  });
});

test('the tint rail is a slider with steps of the lamp, still when it is locked', () => {
  const kind = libraryLamp('lib-tint');
  const onStep = jest.fn();
  const rail = (locked: boolean) => (
    <TintRail
      kind={kind}
      tintId="tint"
      brightnessId="brightness"
      value={0.4}
      width={340}
      stepShare={0.01}
      locked={locked}
      onPull={() => undefined}
      onRelease={() => undefined}
      onStep={onStep}
    />
  );
  render(rail(false));
  const grip = screen.getByRole('slider', { name: 'Tint' });
  expect(grip.getAttribute('aria-valuenow')).toBe('40');
  fireEvent.keyDown(grip, { key: 'ArrowLeft' });
  expect(onStep).toHaveBeenLastCalledWith('tint', 0.39);
  fireEvent.keyDown(grip, { key: 'Home' });
  expect(onStep).toHaveBeenLastCalledWith('tint', 0);
});
