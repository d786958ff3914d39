import { wavelengthColours } from '@/core/colour/look';
import { at, indexOfNm } from '@/core/spectrum/grid';

/** What strips and weaves show of the spectrum, nm. */
export const SHOWN_FROM_NM = 375;
export const SHOWN_TO_NM = 705;

/** Lightness of a power share as the eye has it: its cube root (CIE L*), so that weak light is still seen. */
const FILM_STEPS = 4096;
const FILM = Float64Array.from({ length: FILM_STEPS + 1 }, (_, i) => Math.cbrt(i / FILM_STEPS));

/**
 * @returns the pixel of a wavelength at a share, 0..1, of the largest power: red, green, blue, full, as little-endian machines keep
 * them, which all are that browsers run on
 */
export function wavelengthPixel(nm: number, dim: number): (share: number) => number {
  const [red, green, blue] = wavelengthColours()[indexOfNm(nm)]!;
  const [r, g, b] = [red * dim, green * dim, blue * dim];
  const film = FILM;
  return (share) => {
    const f = film[(share * FILM_STEPS + 0.5) | 0]!;
    return -16777216 | (((b * f + 0.5) | 0) << 16) | (((g * f + 0.5) | 0) << 8) | ((r * f + 0.5) | 0);
  };
}

/** One row of pixels, a column per nm: the spectrum as a spectrograph records it, its largest power brightest. */
export function stripPixels(
  spectrum: ArrayLike<number>,
  dim = 1,
): { pixels: Uint8ClampedArray; columns: number } {
  const columns = SHOWN_TO_NM - SHOWN_FROM_NM + 1;
  const pixels = new Int32Array(columns);
  let top = 0;
  for (let i = 0; i < columns; i += 1) top = Math.max(top, at(spectrum, SHOWN_FROM_NM + i));
  for (let i = 0; i < columns; i += 1) {
    const nm = SHOWN_FROM_NM + i;
    pixels[i] = wavelengthPixel(nm, dim)(top > 0 ? at(spectrum, nm) / top : 0);
  }
  return { pixels: new Uint8ClampedArray(pixels.buffer), columns };
}
