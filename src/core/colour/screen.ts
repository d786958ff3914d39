import type { Xyz } from './xyz';

/** 8-bit sRGB. */
export type Rgb = readonly [r: number, g: number, b: number];
type Triple = readonly [number, number, number];

/** Linear sRGB from XYZ (D65), IEC 61966-2-1. Mark: standard. */
export const linearSrgb = ([x, y, z]: Xyz): Triple => [
  3.2404541621 * x - 1.5371385128 * y - 0.4985314096 * z,
  -0.969266031 * x + 1.8760108454 * y + 0.0415560175 * z,
  0.0556434309 * x - 0.2040259135 * y + 1.0572251882 * z,
];

/** OKLab from linear sRGB (Ottosson 2020). Mark: literature. */
export function oklab([r, g, b]: Triple): Triple {
  const l = Math.cbrt(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b);
  const m = Math.cbrt(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b);
  const s = Math.cbrt(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b);
  return [
    0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s,
    1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s,
    0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s,
  ];
}

/** What a and b add to the cube roots of the eye's three responses in OKLab. */
const rootsOf = (a: number, b: number): Triple => [
  0.3963377774 * a + 0.2158037573 * b,
  -0.1055613458 * a - 0.0638541728 * b,
  -0.0894841775 * a - 1.291485548 * b,
];
const fromRoots = (l3: number, m3: number, s3: number): Triple => {
  const [l, m, s] = [l3 * l3 * l3, m3 * m3 * m3, s3 * s3 * s3];
  return [
    4.0767416621 * l - 3.3077115913 * m + 0.2309699292 * s,
    -1.2684380046 * l + 2.6097574011 * m - 0.3413193965 * s,
    -0.0041960863 * l - 0.7034186147 * m + 1.707614701 * s,
  ];
};

const SLACK = 1e-4;
const within = (v: number) => v >= -SLACK && v <= 1 + SLACK;
const inGamut = ([r, g, b]: Triple) => within(r) && within(g) && within(b);
/** Chroma is found to a millionth of itself. */
const HALVINGS = 20;
const encode = (v: number) => (v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055);
const byte = (v: number) => Math.round(255 * encode(Math.min(1, Math.max(0, v))));

/**
 * Brings a linear sRGB colour into the screen's gamut: chroma is reduced at constant OKLCh lightness and hue.
 * No channel is ever clipped on its own.
 */
export function intoGamut(rgb: Triple): Triple {
  if (inGamut(rgb)) return rgb;
  const [L, a, b] = oklab(rgb);
  if (L >= 1) return [1, 1, 1];
  if (L <= 0) return [0, 0, 0];
  const [dl, dm, ds] = rootsOf(a, b);
  let low = 0;
  let high = 1;
  for (let i = 0; i < HALVINGS; i += 1) {
    const mid = (low + high) / 2;
    if (inGamut(fromRoots(L + dl * mid, L + dm * mid, L + ds * mid))) low = mid;
    else high = mid;
  }
  return fromRoots(L + dl * low, L + dm * low, L + ds * low);
}

/** Screen colour of an adapted XYZ whose Y = 1 is the screen's white. */
export function screenRgb(xyz: Xyz): Rgb {
  return intoGamut(linearSrgb(xyz)).map(byte) as unknown as Rgb;
}

export const cssRgb = ([r, g, b]: Rgb): string => `rgb(${r}, ${g}, ${b})`;
