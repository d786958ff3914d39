import { wavelengthColours } from '@/core/colour/look';
import { at, indexOfNm } from '@/core/spectrum/grid';

/** What strips and weaves show of the spectrum, nm. */
export const SHOWN_FROM_NM = 375;
export const SHOWN_TO_NM = 705;

/** Lightness of a power share as the eye has it: its cube root (CIE L*), so that weak light is still seen. */
const FILM_STEPS = 4096;
const FILM = Float64Array.from({ length: FILM_STEPS + 1 }, (_, i) => Math.cbrt(i / FILM_STEPS));
const film = (share: number) => FILM[Math.round(Math.min(1, Math.max(0, share)) * FILM_STEPS)]!;

/** Writes the pixel of a wavelength at a share of the largest power. */
export function putWavelength(
  into: Uint8ClampedArray,
  at: number,
  nm: number,
  share: number,
  dim: number,
): void {
  const [r, g, b] = wavelengthColours()[indexOfNm(nm)]!;
  const f = film(share) * dim;
  into[at] = r * f;
  into[at + 1] = g * f;
  into[at + 2] = b * f;
  into[at + 3] = 255;
}

/** One row of pixels, a column per nm: the spectrum as a spectrograph records it, its largest power brightest. */
export function stripPixels(
  spectrum: ArrayLike<number>,
  dim = 1,
): { pixels: Uint8ClampedArray; columns: number } {
  const columns = SHOWN_TO_NM - SHOWN_FROM_NM + 1;
  const pixels = new Uint8ClampedArray(columns * 4);
  let top = 0;
  for (let i = 0; i < columns; i += 1) top = Math.max(top, at(spectrum, SHOWN_FROM_NM + i));
  for (let i = 0; i < columns; i += 1) {
    const nm = SHOWN_FROM_NM + i;
    putWavelength(pixels, i * 4, nm, top > 0 ? at(spectrum, nm) / top : 0, dim);
  }
  return { pixels, columns };
}
