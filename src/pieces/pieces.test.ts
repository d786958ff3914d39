import fc from 'fast-check';

import { xyzOf } from '@/core/colour/xyz';
import { keptSpectrum } from '@/core/spectrum/lamp';
import { libraryLamp } from '@/core/library/lamps';
import { emissionSpectrum } from '@/core/spectrum/emission';
import { demoPanel } from '@/demo/panel';

import { combSpan, crestsOf } from './combShape';
import { SHOWN_FROM_NM, stripPixels } from './pixels';
import { fineness, FULL_PULL_PX, pullTo } from './pull';
import {
  contourPaths,
  contourValues,
  type Label,
  overlap,
  placeLabels,
  placeRichest,
  textWidth,
  valueAt,
} from './soundingShape';
import { spread, tintPixels, weavePixels, WEAVE_ROWS, weaveShare } from './weaveShape';

test('grips stand on their channel’s peak, never closer than 12 nm; a white finds its own place', () => {
  const crests = crestsOf(demoPanel);
  const at = Object.fromEntries(crests.map((c) => [c.id, c.nm]));
  expect(at).toMatchObject({
    'near-uv': 388,
    violet: 419,
    'royal-blue': 451,
    blue: 471,
    cyan: 498,
    'deep-red': 661,
  });
  const nms = crests.map((c) => c.nm).sort((a, b) => a - b);
  nms.slice(1).forEach((nm, i) => expect(nm - nms[i]!).toBeGreaterThanOrEqual(12));
  expect(crests.filter((c) => c.caution).map((c) => c.id)).toEqual(['near-uv', 'violet']);
  const [from, to] = combSpan(crests);
  expect(from).toBeLessThan(388);
  expect(to).toBeGreaterThanOrEqual(700);
});

test('two channels of one colour stand side by side, each called by its own light', () => {
  const [blue, control] = [demoPanel.channels[2]!, demoPanel.controls[2]!];
  const twin: typeof demoPanel = {
    ...demoPanel,
    channels: [blue, { ...blue, id: 'twin' }],
    controls: [control, { ...control, id: 'twin', drives: { twin: 1 } } as typeof control],
  };
  const [a, b] = crestsOf(twin);
  expect(Math.abs(a!.nm - b!.nm)).toBeGreaterThanOrEqual(12);
  expect([a!.light, b!.light]).toEqual(['451 nm', '451 nm']);
});

test('a white is called by its colour temperature, light of two colours by both, one of all by no wavelength', () => {
  const called = (id: string) => crestsOf(libraryLamp(id)).map((c) => c.light);
  expect(called('lib-refugium-day')).toEqual(['about 6500 K']);
  expect(called('lib-refugium-fixed')).toEqual(['660 + 452 nm']);
  expect(called('lib-tint')[0]).toBe('all colours');
  // lime is broad and no white; its grip stands beside its peak, where there is room
  const lime = crestsOf(demoPanel).find((c) => c.id === 'lime')!;
  expect(lime.light).toMatch(/^55\d \+ 45\d nm$/);
});

test('a pull of 200 px is nothing to full; drifting sideways makes it finer, never backwards', () => {
  expect(pullTo(0, FULL_PULL_PX, 0)).toBe(1);
  expect(pullTo(0.5, -50, 0)).toBeCloseTo(0.25, 12);
  expect(pullTo(0.9, 500, 0)).toBe(1);
  expect(pullTo(0.1, -500, 0)).toBe(0);
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 400 }), fc.integer({ min: 0, max: 400 }), (a, b) => {
      const [near, far] = [Math.min(a, b), Math.max(a, b)];
      expect(fineness(far)).toBeLessThanOrEqual(fineness(near));
      expect(fineness(-far)).toBe(fineness(far));
      expect(fineness(far)).toBeGreaterThanOrEqual(0.2);
    }),
  );
});

test('a strip is brightest where the power is, and black without light', () => {
  const { pixels, columns } = stripPixels(
    emissionSpectrum({ shape: 'line', peakNm: 450, fwhmNm: 15, flux: 1 }),
  );
  const sum = (nm: number) => [0, 1, 2].reduce((s, k) => s + pixels[(nm - SHOWN_FROM_NM) * 4 + k]!, 0);
  expect(columns * 4).toBe(pixels.length);
  expect(sum(450)).toBeGreaterThan(sum(430));
  expect(sum(430)).toBeGreaterThan(sum(400));
  expect(sum(600)).toBe(0);
  const dark = stripPixels(new Float64Array(421)).pixels;
  expect(dark.every((v, i) => v === (i % 4 === 3 ? 255 : 0))).toBe(true);
});

test('the weave puts each wavelength at its height and each time in its column', () => {
  const blue = emissionSpectrum({ shape: 'line', peakNm: 450, fwhmNm: 10, flux: 1 });
  const columns = 8;
  const pixels = weavePixels(
    [{ full: [blue], levelsAt: (minute) => [minute < 4 ? 0 : 1] }],
    columns,
    (c) => c,
    1,
  );
  const bright = (column: number, share: number) => {
    const at = (Math.round(share * (WEAVE_ROWS - 1)) * columns + column) * 4;
    return pixels[at]! + pixels[at + 1]! + pixels[at + 2]!;
  };
  expect(bright(2, weaveShare(450))).toBe(0);
  expect(bright(6, weaveShare(450))).toBeGreaterThan(100);
  expect(bright(6, weaveShare(650))).toBe(0);
  // half the level is darker
  const half = weavePixels(
    [{ full: [blue], levelsAt: (minute) => [minute < 4 ? 0.3 : 1] }],
    columns,
    (c) => c,
    1,
  );
  const row = Math.round(weaveShare(450) * (WEAVE_ROWS - 1)) * columns;
  expect(half[(row + 1) * 4 + 2]!).toBeLessThan(half[(row + 6) * 4 + 2]!);
});

test('the ribbon is bluer where the day is, by the white card, and clear where it is dark', () => {
  const [blue, white] = [demoPanel.channels[2]!, demoPanel.channels.find((c) => /white/i.test(c.name))!].map(
    (c) => keptSpectrum(c),
  );
  const source = {
    full: [blue!, white!],
    levelsAt: (minute: number) =>
      [
        [0, 0],
        [1, 0.2],
        [1, 1],
        [0.4, 0.4],
      ][minute]!,
  };
  const out = tintPixels([source.full.map(xyzOf)], [source], 4, (c) => c, 1);
  const bluish = (c: number) => out[c * 4 + 2]! / (out[c * 4]! + out[c * 4 + 1]!);
  expect(out[3]).toBe(0);
  expect(out[7]).toBe(255);
  expect(bluish(1)).toBeGreaterThan(1.15 * bluish(2));
  // the same mix, dimmer, has the same colour
  expect([...out.slice(8, 11)]).toEqual([...out.slice(12, 15)]);
});

test('handles never overlap, stay inside and in order, and keep their wish where there is room', () => {
  fc.assert(
    fc.property(
      fc.array(fc.double({ min: 0, max: 358, noNaN: true }), { minLength: 1, maxLength: 6 }),
      (raw) => {
        const wishes = [...raw].sort((a, b) => a - b);
        const out = spread(wishes, 54, 0, 358);
        out.forEach((c, i) => {
          expect(c).toBeGreaterThanOrEqual(27 - 1e-6);
          expect(c).toBeLessThanOrEqual(358 - 27 + 1e-6);
          if (i > 0) expect(c - out[i - 1]!).toBeGreaterThanOrEqual(54 - 1e-6);
        });
      },
    ),
  );
  expect(spread([100, 200, 300], 54, 0, 358)).toEqual([100, 200, 300]);
  expect(spread([], 54, 0, 358)).toEqual([]);
  expect(
    spread(
      Array.from({ length: 10 }, () => 5),
      54,
      0,
      358,
    ),
  ).toHaveLength(10);
});

test('labels of the chart never collide, stay on it, and the most important find room first', () => {
  const bounds = { x0: 0, y0: 0, x1: 358, y1: 143 };
  fc.assert(
    fc.property(
      fc.array(
        fc.record({
          x: fc.double({ min: 0, max: 358, noNaN: true }),
          y: fc.double({ min: 0, max: 143, noNaN: true }),
          width: fc.integer({ min: 10, max: 120 }),
          height: fc.integer({ min: 10, max: 32 }),
          gap: fc.constantFrom(0, 4, 10),
        }),
        { minLength: 1, maxLength: 25 },
      ),
      (raw) => {
        const labels = raw.map((l, i): Label => ({ ...l, id: `l${i}` }));
        const marks = labels
          .filter((l) => l.gap > 0)
          .map((l) => ({ x0: l.x - 3, y0: l.y - 3, x1: l.x + 3, y1: l.y + 3 }));
        const placed = placeLabels(labels, marks, bounds);
        const boxes = [...placed.values()].map((p) => p.box);
        boxes.forEach((box, i) => {
          expect(box.x0 >= 0 && box.y0 >= 0 && box.x1 <= 358 && box.y1 <= 143).toBe(true);
          [...marks, ...boxes.slice(0, i)].forEach((other) => expect(overlap(box, other)).toBe(false));
        });
        // alone on an empty chart the first always stands, if it can at all
        const first = labels[0]!;
        if (first.gap > 0 && first.width < 100) expect(placeLabels([first], [], bounds).size).toBe(1);
      },
    ),
  );
  // where the rich set leaves one out, the poor one that holds all is taken, and made only then
  const at = (id: string, width: number): Label => ({ id, x: 50, y: 50, width, height: 30, gap: 4 });
  const poor = jest.fn(() => ({ labels: [at('a', 20), at('b', 20)] }));
  const rich = () => ({ labels: [at('a', 90), at('b', 90)] });
  const tight = { x0: 0, y0: 30, x1: 100, y1: 70 };
  const chosen = placeRichest([rich, poor], () => true, [], tight);
  expect([chosen.placed.size, chosen.set.labels[0]!.width]).toEqual([2, 20]);
  const wide = placeRichest([rich, poor], () => true, [], { x0: -200, y0: -200, x1: 300, y1: 300 });
  expect(wide.set.labels[0]!.width).toBe(90);
  expect(poor).toHaveBeenCalledTimes(1);
  expect(textWidth('Copper table', 12)).toBeGreaterThan(textWidth('Moss', 12));
});

test('contours lie where the value is, leave the edge out, and keep clear of rock', () => {
  const [nx, ny] = [24, 12];
  const values = Float64Array.from({ length: nx * ny }, (_, i) => (i % nx) * 10);
  const sheet = { nx, ny, values, project: (gx: number, gy: number) => [gx * 10, gy * 10] as const };
  const [c] = contourPaths(sheet, [115]);
  // 115 lies between the cells of 110 and 120, whose middles are at 11.5 and 12.5
  for (const [x] of c!.along) expect(x).toBeCloseTo(120, 0);
  expect(c!.along.length).toBeGreaterThan(0);
  for (const part of c!.line.split('M').slice(1)) {
    const points = part.split('L').map((p) => p.split(',').map(Number));
    points.slice(1).forEach(([x], i) => {
      const flat = (p: number[]) => p[0]! >= 239.9 || p[1]! <= 0.1 || p[1]! >= 119.9;
      expect(flat(points[i]!) && flat([x!, points[i + 1]![1]!])).toBe(false);
    });
  }
  expect(valueAt(sheet, 12, 6)).toBeCloseTo(115, 9);
  values[5 * nx + 5] = NaN;
  expect(valueAt(sheet, 5.5, 5.5)).toBeNaN();
  expect(() => contourPaths(sheet, [50])).not.toThrow();
  expect(contourValues(12, 395)).toEqual([100, 200, 300]);
  expect(contourValues(0, 47)).toEqual([10, 20, 30, 40]);
  expect(contourValues(5, 5)).toEqual([]);
});
