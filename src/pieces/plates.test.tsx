import { fireEvent, render, screen } from '@testing-library/react';

import { seeUnder, surfaceColours } from '@/core/colour/look';
import { cssRgb } from '@/core/colour/screen';
import { FORMS, libraryForm } from '@/core/coral/form';
import { THINGS } from '@/core/coral/things';
import { lampLibrary } from '@/core/library/lamps';
import { mixSpectrum } from '@/core/spectrum/lamp';
import { demoPanel } from '@/demo/panel';

import { Comb } from './Comb';
import { crestsOf } from './combShape';
import { CoralFigure } from './CoralFigure';
import { DASHES, DashSample, Outlines } from './Outlines';
import { type SceneCoral, TankPlate } from './TankPlate';
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
const scene: SceneCoral[] = ['green-tip-branch', 'purple-table', 'yellow-polyps'].map((id, i) => ({
  id,
  name: id,
  form: libraryForm(id)!,
  across: 0.2 + 0.3 * i,
  down: 0.3 + 0.2 * i,
  back: i / 2,
  light,
}));
const fills = (root: Element) =>
  [...root.querySelectorAll('path')]
    .map((p) => p.getAttribute('fill') ?? '')
    .concat([...root.querySelectorAll('path')].map((p) => p.getAttribute('stroke') ?? ''));

describe('the tank plate', () => {
  const draw = (of: Float64Array, corals = scene, fish = true) => {
    const { container, unmount } = render(
      <TankPlate
        light={of}
        corals={corals.map((c) => ({ ...c, light: of }))}
        fish={fish}
        width={360}
        name="tank"
      />,
    );
    const all = fills(container).join(' ');
    const card = screen.getByTestId('white-card').getAttribute('fill');
    unmount();
    return { all, card };
  };

  test('card, sand and rock are what the core computes', () => {
    const { all, card } = draw(light);
    const surfaces = surfaceColours(light);
    expect(card).toBe(cssRgb(surfaces.card));
    expect(all).toContain(cssRgb(surfaces.sand));
    expect(all).toContain(cssRgb(surfaces.rock));
    // and so are coralline, algae, detritus and every fish
    const seen = seeUnder(light)!;
    for (const t of THINGS)
      expect(all).toContain(cssRgb(seen.colour(light.map((v, i) => v * t.reflectance[i]!))));
  });

  test('another light, another tank; no light, all black', () => {
    expect(draw(red).all).not.toBe(draw(light).all);
    const dark = draw(new Float64Array(421));
    expect(dark.card).toBe('rgb(0, 0, 0)');
    expect(dark.all.match(/rgb\([^)]*\)/g)!.every((c) => c === 'rgb(0, 0, 0)')).toBe(true);
  });

  test('every saturated pixel is computed: apart from black shades and lines without fill nothing else is named', () => {
    const rest = draw(light)
      .all.replace(/rgb\([^)]*\)/g, '')
      .split(/\s+/)
      .filter(Boolean);
    expect(new Set(rest)).toEqual(new Set(['#000000', 'none']));
  });

  test('fish swim only where they are wanted; corals keep their place', () => {
    expect(draw(light, scene, false).all.length).toBeLessThan(draw(light, scene, true).all.length);
    const { container } = render(<TankPlate light={light} corals={scene} width={360} name="tank" />);
    const moves = [...container.querySelectorAll('g')]
      .map((g) => g.getAttribute('transform'))
      .filter(Boolean);
    // four fish and three corals
    expect(moves).toHaveLength(7);
    expect(moves.every((m) => !/NaN/.test(m!))).toBe(true);
  });
});

describe('a coral by itself', () => {
  test.each(FORMS.map((f) => [f.name, f] as const))(
    '%s is drawn with a name, in as many colours as it has regions',
    (_, form) => {
      const { container } = render(
        <CoralFigure form={form} light={light} size={100} name={`${form.name}, large`} />,
      );
      expect(screen.getByRole('img', { name: `${form.name}, large` })).toBeTruthy();
      const colours = new Set(fills(container).filter((f) => f.startsWith('rgb')));
      expect(colours.size).toBeGreaterThanOrEqual(Math.min(2, form.regions.length));
    },
  );
});

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
  const kind = lampLibrary().find((l) => l.kind.id === 'lib-tint')!.kind;
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

describe('growth in the picture', () => {
  test('coralline and algae stay on the paper wherever corals sit, and without corals there is none', () => {
    const corners: SceneCoral[] = [0, 1].flatMap((across) =>
      [0, 1].map((down) => ({ ...scene[0]!, id: `${across}${down}`, across, down, back: 0.5 })),
    );
    for (const corals of [corners, [], scene]) {
      const { container, unmount } = render(
        <TankPlate light={light} corals={corals} width={360} name="tank" />,
      );
      for (const p of container.querySelectorAll('path'))
        expect(p.getAttribute('d')).not.toMatch(/NaN|undefined/);
      unmount();
    }
  });

  test('a scene moved by nothing is drawn alike', () => {
    const draw = () => {
      const { container, unmount } = render(
        <TankPlate light={light} corals={scene} width={360} name="tank" />,
      );
      const { innerHTML } = container;
      unmount();
      return innerHTML;
    };
    expect(draw()).toBe(draw());
  });
});
