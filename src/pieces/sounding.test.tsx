import { fireEvent, render, screen } from '@testing-library/react';
import type * as Router from '@/screens/test/router';

import { Sounding } from './Sounding';
import type { SoundingMark, SoundingView } from './soundingShape';

jest.mock(
  'react-native-gesture-handler',
  () => jest.requireActual<typeof Router>('@/screens/test/router').mockGestures,
);

const view: SoundingView = {
  kind: 'top',
  acrossCm: 100,
  downCm: 50,
  airCm: 0,
  nx: 20,
  ny: 10,
  values: Float64Array.from({ length: 200 }, (_, i) => 20 + (i % 20) * 20),
  layered: false,
};
const mark = (change: Partial<SoundingMark>): SoundingMark => ({
  id: 'spot a',
  kind: 'coral',
  name: 'Moss',
  across: 50,
  down: 25,
  figure: '240',
  read: null,
  standing: 'within',
  ...change,
});
const lamp = mark({
  id: 'lamp g l',
  kind: 'lamp',
  name: 'left',
  figure: '',
  standing: null,
  wide: 30,
  high: 12,
  across: 20,
  down: 20,
});
const props = {
  view,
  format: (v: number) => String(Math.round(v)),
  suits: null,
  signed: false,
  marks: [mark({}), lamp],
  read: [],
  solids: [],
  probe: null,
  selected: null,
  width: 400,
  name: 'From above: µmol of light 20 cm deep',
  onProbe: jest.fn(),
  onSelect: jest.fn(),
  onMove: jest.fn(),
};
const texts = () => Array.from(document.querySelectorAll('text')).map((t) => t.textContent);
const paths = () => Array.from(document.querySelectorAll('path')).map((p) => p.getAttribute('d') ?? '');
beforeEach(() => jest.clearAllMocks());

test('prints names, figures, contours and soundings; the sign of a coral stands beside its figure', () => {
  render(<Sounding {...props} />);
  expect(screen.getByRole('group', { name: props.name })).toBeTruthy();
  expect(texts()).toEqual(expect.arrayContaining(['Moss', '240 ○', 'left', '100', '200', '300']));
  // soundings of the model between the lines: read off the same values
  const printed = texts()
    .map(Number)
    .filter((n) => Number.isFinite(n));
  expect(printed.length).toBeGreaterThan(8);
  printed.forEach((n) => expect(n >= 20 && n <= 400).toBe(true));
});

test('what was read under this light stands with the coral, too much and too little by shape', () => {
  const { rerender } = render(<Sounding {...props} marks={[mark({ read: '251', standing: 'above' })]} />);
  expect(texts()).toEqual(expect.arrayContaining(['240 ▲', 'read 251']));
  const high = paths().length;
  rerender(<Sounding {...props} marks={[mark({ standing: 'below' })]} />);
  expect(texts()).toContain('240 ▽');
  expect(paths().length).toBe(high);
  rerender(<Sounding {...props} marks={[mark({ standing: null, kind: 'spot', figure: '12' })]} />);
  expect(texts()).toContain('12');
});

test('differences carry their sign, losses are dashed and nothing is wanted of them', () => {
  const values = view.values as Float64Array;
  render(
    <Sounding
      {...props}
      signed
      view={{ ...view, values: values.map((v) => v - 200) }}
      format={(v) => (v > 0 ? `+${Math.round(v)}` : String(Math.round(v)))}
    />,
  );
  expect(texts()).toEqual(expect.arrayContaining(['+100', '-100']));
  const dashed = Array.from(document.querySelectorAll('path[stroke-dasharray]'));
  expect(dashed.length).toBeGreaterThan(0);
});

test('what suits is drawn as ground: dots below, hatching above, two strong lines', () => {
  const { container, rerender } = render(<Sounding {...props} />);
  const count = () => (container.innerHTML.match(/url\(#(dots|hatch)-top\)/g) ?? []).length;
  expect(count()).toBe(0);
  rerender(<Sounding {...props} suits={{ from: 100, to: 300 }} />);
  expect(count()).toBe(2);
});

test('a section has air, waves and lamps above the water; rock is drawn in both', () => {
  const rock = {
    id: 'r',
    name: 'r',
    shape: 'mound' as const,
    xCm: 50,
    yCm: 25,
    lengthCm: 30,
    widthCm: 20,
    topCm: 20,
    bottomCm: 50,
  };
  const { container, rerender } = render(
    <Sounding
      {...props}
      solids={[rock]}
      view={{ ...view, kind: 'front', airCm: 30, layered: true }}
      marks={[{ ...lamp, down: -24 }]}
    />,
  );
  expect(container.querySelector('svg')!.getAttribute('height')).toBe(String(30 * 3.98 + 1 + 50 * 3.98 + 1));
  expect(paths().some((d) => d.includes('q4,-3.2'))).toBe(true);
  expect(paths().some((d) => d.includes('A'))).toBe(true);
  rerender(<Sounding {...props} solids={[rock, { ...rock, id: 's', shape: 'block' }]} />);
  expect(container.querySelectorAll('ellipse')).toHaveLength(1);
});

test('marks move by keys: a centimetre, coarse with Shift, lamps over the rim and up, corals never out of the water', () => {
  const { rerender } = render(<Sounding {...props} />);
  const coral = () => screen.getByRole('slider', { name: 'Moss, from above' });
  fireEvent.keyDown(coral(), { key: 'ArrowRight' });
  fireEvent.keyDown(coral(), { key: 'ArrowLeft', shiftKey: true });
  fireEvent.keyDown(coral(), { key: 'ArrowUp' });
  fireEvent.keyDown(coral(), { key: 'End' });
  expect(props.onMove.mock.calls).toEqual([
    ['spot a', 51, 25],
    ['spot a', 40, 25],
    ['spot a', 50, 24],
    ['spot a', 100, 25],
  ]);
  expect(coral().getAttribute('aria-valuetext')).toBe('50 cm across, 25 cm down, 240');
  // focus alone opens nothing; Enter does
  fireEvent.focus(coral());
  expect(props.onSelect).not.toHaveBeenCalled();
  fireEvent.keyDown(coral(), { key: 'Enter' });
  expect(props.onSelect).toHaveBeenCalledWith('spot a');
  const hung = () => screen.getByRole('slider', { name: /^Lamp left/ });
  fireEvent.keyDown(hung(), { key: 'Home' });
  expect(props.onMove).toHaveBeenLastCalledWith('lamp g l', -40, 20);
  rerender(
    <Sounding
      {...props}
      view={{ ...view, kind: 'front', airCm: 30, layered: true }}
      marks={[{ ...lamp, down: -1 }]}
    />,
  );
  // a lamp in section goes up and down, never into the water
  fireEvent.keyDown(hung(), { key: 'ArrowDown', shiftKey: true });
  expect(props.onMove).toHaveBeenLastCalledWith('lamp g l', 20, -1);
  fireEvent.keyDown(hung(), { key: 'ArrowUp', shiftKey: true });
  expect(props.onMove).toHaveBeenLastCalledWith('lamp g l', 20, -11);
});
