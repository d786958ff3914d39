import fc from 'fast-check';

import { emissionSpectrum } from '@/core/spectrum/emission';
import { demoPanel } from '@/demo/panel';

import { combSpan, crestsOf } from './combShape';
import { SHOWN_FROM_NM, stripPixels } from './pixels';
import { fineness, FULL_PULL_PX, pullTo } from './pull';
import { spread, weavePixels, WEAVE_ROWS, weaveShare } from './weaveShape';

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

test('two channels of one colour stand side by side', () => {
  const twin = {
    ...demoPanel,
    channels: [demoPanel.channels[2]!, { ...demoPanel.channels[2]!, id: 'twin' }],
  };
  const [a, b] = crestsOf(twin);
  expect(Math.abs(a!.nm - b!.nm)).toBeGreaterThanOrEqual(12);
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
