import { cardUnder } from '@/core/colour/look';
import type { Xyz } from '@/core/colour/xyz';
import { at } from '@/core/spectrum/grid';

import { wavelengthPixel, SHOWN_FROM_NM, SHOWN_TO_NM } from './pixels';

const EVERY_NM = 3;
export const WEAVE_ROWS = Math.floor((SHOWN_TO_NM - SHOWN_FROM_NM) / EVERY_NM) + 1;

/** Lamps that share their levels: channel spectra at the coral at full, and the levels at a minute of the day. */
export interface WeaveSource {
  full: readonly ArrayLike<number>[];
  levelsAt: (minute: number) => readonly number[];
}

/**
 * The field of time × wavelength as pixels: a column per time, long wavelengths on top, brightness by power, the
 * strongest pixel of the field brightest.
 * @param minuteOf the minute that a column stands for
 */
export function weavePixels(
  sources: readonly WeaveSource[],
  columns: number,
  minuteOf: (column: number) => number,
  dim: number,
): Uint8ClampedArray {
  // a column after the other, as it is summed
  const power = new Float32Array(columns * WEAVE_ROWS);
  const nmOf = (row: number) => SHOWN_TO_NM - row * EVERY_NM;
  for (const source of sources) {
    const rows = source.full.map((full) =>
      Float32Array.from({ length: WEAVE_ROWS }, (_, row) => at(full, nmOf(row))),
    );
    for (let column = 0; column < columns; column += 1) {
      const levels = source.levelsAt(minuteOf(column));
      const base = column * WEAVE_ROWS;
      for (let c = 0; c < levels.length; c += 1) {
        const level = levels[c]!;
        if (level === 0) continue;
        const full = rows[c]!;
        for (let row = 0; row < WEAVE_ROWS; row += 1) power[base + row]! += level * full[row]!;
      }
    }
  }
  let top = 0;
  for (let i = 0; i < power.length; i += 1) if (power[i]! > top) top = power[i]!;
  const perTop = top > 0 ? 1 / top : 0;
  const pixels = new Int32Array(columns * WEAVE_ROWS);
  for (let row = 0; row < WEAVE_ROWS; row += 1) {
    const pixel = wavelengthPixel(nmOf(row), dim);
    for (let column = 0; column < columns; column += 1)
      pixels[row * columns + column] = pixel(power[column * WEAVE_ROWS + row]! * perTop);
  }
  return new Uint8ClampedArray(pixels.buffer);
}

/** The eye is wholly used to the day's light: what is left to see is by how much an hour is bluer or whiter. Mark: rule of thumb. */
const USED = 1;

/** The colour that a white card has through the day to an eye used to the whole of it, a pixel per column; dark hours are clear. */
export function tintPixels(
  whites: readonly (readonly Xyz[])[],
  sources: readonly WeaveSource[],
  columns: number,
  minuteOf: (column: number) => number,
  dim: number,
): Uint8ClampedArray {
  const used: [number, number, number] = [0, 0, 0];
  const seen = Array.from({ length: columns }, (_, column) => {
    const white: [number, number, number] = [0, 0, 0];
    sources.forEach((source, s) =>
      source.levelsAt(minuteOf(column)).forEach((level, c) => {
        for (let k = 0; k < 3; k += 1) white[k]! += level * whites[s]![c]![k]!;
      }),
    );
    for (let k = 0; k < 3; k += 1) used[k]! += white[k]!;
    return white;
  });
  const out = new Uint8ClampedArray(columns * 4);
  seen.forEach((white, column) => {
    const rgb = cardUnder(white, used, USED);
    if (rgb) out.set([rgb[0] * dim, rgb[1] * dim, rgb[2] * dim, 255], column * 4);
  });
  return out;
}

/** Height of a wavelength in the field, as a share from the top. */
export const weaveShare = (nm: number): number => (SHOWN_TO_NM - nm) / (SHOWN_TO_NM - SHOWN_FROM_NM);

/**
 * Spreads labels of one width along a line so that none overlap, each as near its wish as can be, order kept.
 * @returns centres; when there is too little room they are spaced evenly
 */
export function spread(wishes: readonly number[], labelWidth: number, from: number, to: number): number[] {
  const n = wishes.length;
  if (n === 0) return [];
  if (n * labelWidth >= to - from) {
    return wishes.map((_, i) => from + ((i + 0.5) * (to - from)) / n);
  }
  const order = wishes.map((_, i) => i).sort((a, b) => wishes[a]! - wishes[b]!);
  // groups of touching labels, each centred on the mean of its wishes
  const blocks: { members: number[]; centre: number }[] = [];
  const half = (b: { members: number[] }) => (b.members.length * labelWidth) / 2;
  const settle = (b: { members: number[]; centre: number }) => {
    const mean = b.members.reduce((s, i) => s + wishes[i]!, 0) / b.members.length;
    b.centre = Math.min(to - half(b), Math.max(from + half(b), mean));
  };
  for (const i of order) {
    let block = { members: [i], centre: wishes[i]! };
    settle(block);
    let last = blocks[blocks.length - 1];
    while (last && last.centre + half(last) > block.centre - half(block) + 1e-9) {
      blocks.pop();
      block = { members: [...last.members, ...block.members], centre: 0 };
      settle(block);
      last = blocks[blocks.length - 1];
    }
    blocks.push(block);
  }
  const out = new Array<number>(n);
  for (const b of blocks) b.members.forEach((i, k) => (out[i] = b.centre - half(b) + (k + 0.5) * labelWidth));
  return out;
}

/** A thread's handle, px; as high as a finger needs. */
export const HANDLE = { width: 54, height: 44 } as const;
