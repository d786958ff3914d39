import { GRID_SIZE, type Spectrum, zeroSpectrum } from '../spectrum/grid';
import { adaptationDegree, adaptTo } from './adapt';
import { linearSrgb, oklab, type Rgb, screenRgb } from './screen';
import { type Xyz, xyzOf } from './xyz';

/**
 * How bright a white card is drawn: the share of the screen's white. Below 1 so that a very blue light still has room
 * for its colour at constant lightness; more saturated lights are drawn as light as this grey. Mark: rule of thumb.
 */
export const CARD_ON_SCREEN = 0.42;

export interface Eye {
  /** degree of adaptation 0..1; undefined = from the light's own luminance in a dark room (CAM16) */
  degree?: number;
}

/** A light prepared for looking: everything seen under it shares one adaptation. */
export interface SeenUnder {
  light: Spectrum;
  degree: number;
  /** screen colour of what sends back this photon spectrum; `dim` scales brightness only */
  colour: (returned: ArrayLike<number>, dim?: number) => Rgb;
  /** the same from XYZ in the scale of the light */
  colourOf: (xyz: Xyz, dim?: number) => Rgb;
  white: Xyz;
}

/**
 * Prepares the look under a light (photon spectrum at a place). Null without visible light.
 */
export function seeUnder(light: Spectrum, eye: Eye = {}): SeenUnder | null {
  const white = xyzOf(light);
  if (!(white[1] > 0)) return null;
  const degree = eye.degree ?? adaptationDegree(white[1]);
  const adapted = adaptTo(white, degree);
  // a nearly pure violet or blue of the same luminance would be lighter than any screen: the card keeps its lightness
  const [lightness] = oklab(linearSrgb(adapted(white)));
  const card = CARD_ON_SCREEN / Math.max(1, lightness) ** 3;
  const colourOf = (xyz: Xyz, dim = 1): Rgb =>
    screenRgb(adapted(xyz).map((v) => v * card * dim) as unknown as Xyz);
  return {
    light,
    degree,
    white,
    colour: (returned, dim = 1) => colourOf(xyzOf(returned), dim),
    colourOf,
  };
}

/**
 * Screen colour of a white card under a light of this XYZ, at constant lightness; null in the dark.
 * @param used the light that the eye is used to
 */
export function cardUnder(white: Xyz, used: Xyz, degree: number): Rgb | null {
  if (!(white[1] > 0) || !(used[1] > 0)) return null;
  const seen = adaptTo(used, degree)(white);
  const card = seen.map((v) => v / seen[1]) as unknown as Xyz;
  const [lightness] = oklab(linearSrgb(card));
  const dim = CARD_ON_SCREEN / Math.max(1, lightness) ** 3;
  return screenRgb(card.map((v) => v * dim) as unknown as Xyz);
}

/** Light sent back by a diffuse reflector. */
export function reflected(light: ArrayLike<number>, reflectance: ArrayLike<number>): Spectrum {
  const out = zeroSpectrum();
  for (let i = 0; i < out.length; i += 1) out[i] = light[i]! * reflectance[i]!;
  return out;
}

let pure: Rgb[] | undefined;
/** Screen colour of each grid wavelength at equal, bright power, for strips and weaves; violet and red ends fade with the eye. */
export function wavelengthColours(): Rgb[] {
  pure ??= Array.from({ length: GRID_SIZE }, (_, i) => {
    const line = zeroSpectrum();
    line[i] = 1;
    const [x, y, z] = xyzOf(line);
    const sum = x + y + z;
    // equal brightness for all wavelengths, held a little lower where the screen has no bright primary
    const level = sum > 0 ? 0.18 / Math.max(y / sum, 0.06) : 0;
    return screenRgb([(x / sum) * level, (y / sum) * level, (z / sum) * level]);
  });
  return pure;
}
