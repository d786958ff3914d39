import { adaptationDegree, coneGains, DARK_SURROUND, toCones } from './adapt';
import type { Xyz } from './xyz';

/** Surround of CAM16: F, c and N_c. Mark: standard (CIE 248:2022). */
export const SURROUNDS = {
  average: { f: 1, c: 0.69, nc: 1 },
  dark: { f: DARK_SURROUND, c: 0.525, nc: 0.8 },
} as const;
/** Luminance of the background as percent of the white's: the grey world. Mark: standard practice. */
const BACKGROUND = 20;

export interface Viewing {
  /** XYZ of a white card under the light, any scale */
  white: Xyz;
  /** adapting luminance, cd/m² */
  adaptingLuminance: number;
  /** degree of adaptation; default from the formula */
  degree?: number;
  surround?: { f: number; c: number; nc: number };
}

/** Appearance correlates of CAM16 and its uniform space CAM16-UCS (Li et al. 2017). */
export interface Appearance {
  J: number;
  C: number;
  h: number;
  M: number;
  /** J′, a′, b′ of CAM16-UCS */
  ucs: readonly [number, number, number];
}

/**
 * Prepares CAM16 for one light; the function takes XYZ in the scale of the white.
 * Source: Li et al. 2017, "Comprehensive color solutions: CAM16, CAT16, and CAM16-UCS"; CIE 248:2022. Mark: standard.
 */
export function cam16({
  white,
  adaptingLuminance,
  degree,
  surround = SURROUNDS.dark,
}: Viewing): (xyz: Xyz) => Appearance {
  const scale = 100 / white[1];
  const white100 = white.map((v) => v * scale) as unknown as Xyz;
  const d = degree ?? adaptationDegree((adaptingLuminance * Math.PI) / (BACKGROUND / 100), surround.f);
  // gains relative to the equal-energy white of the model, not to D65
  const gains = coneGains(white100, [100, 100, 100], d);
  const la5 = 5 * adaptingLuminance;
  const k4 = (1 / (la5 + 1)) ** 4;
  const fl = 0.2 * k4 * la5 + 0.1 * (1 - k4) ** 2 * Math.cbrt(la5);
  const n = BACKGROUND / 100;
  const z = 1.48 + Math.sqrt(n);
  const nbb = 0.725 * (1 / n) ** 0.2;
  const compress = (v: number) => {
    const x = ((fl * Math.abs(v)) / 100) ** 0.42;
    return (Math.sign(v) * 400 * x) / (x + 27.13) + 0.1;
  };
  const cones = (xyz: Xyz) =>
    toCones(xyz).map((v, i) => compress(v * gains[i]!)) as unknown as [number, number, number];
  const achromatic = ([r, g, b]: readonly [number, number, number]) => (2 * r + g + b / 20 - 0.305) * nbb;
  const aw = achromatic(cones(white100));
  const chroma = (1.64 - 0.29 ** n) ** 0.73;
  const fl4 = fl ** 0.25;
  return (xyz) => {
    const [r, g, b] = cones([xyz[0] * scale, xyz[1] * scale, xyz[2] * scale]);
    const p = r - (12 * g) / 11 + b / 11;
    const q = (r + g - 2 * b) / 9;
    const hue = Math.atan2(q, p);
    const J = 100 * Math.max(0, achromatic([r, g, b]) / aw) ** (surround.c * z);
    const e = 0.25 * (Math.cos(hue + 2) + 3.8);
    const t = ((50000 / 13) * surround.nc * nbb * e * Math.hypot(p, q)) / Math.max(1e-9, r + g + 1.05 * b);
    const C = t ** 0.9 * Math.sqrt(J / 100) * chroma;
    const M = C * fl4;
    const m = Math.log(1 + 0.0228 * M) / 0.0228;
    return {
      J,
      C,
      h: ((hue * 180) / Math.PI + 360) % 360,
      M,
      ucs: [(1.7 * J) / (1 + 0.007 * J), m * Math.cos(hue), m * Math.sin(hue)],
    };
  };
}

/** Distance in CAM16-UCS; about 1 is just seen side by side. */
export const ucsDistance = (a: Appearance['ucs'], b: Appearance['ucs']): number =>
  Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);
