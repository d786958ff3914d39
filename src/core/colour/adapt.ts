import type { Xyz } from './xyz';

/** CAT16 cone matrix (Li et al. 2017, CAM16). Mark: standard (CIE 248:2022). */
const M16 = [
  [0.401288, 0.650173, -0.051461],
  [-0.250268, 1.204414, 0.045854],
  [-0.002079, 0.048952, 0.953127],
] as const;

/** D65 reference white, Y = 1 (CIE 15). Mark: standard. */
export const D65: Xyz = [0.95047, 1, 1.08883];

/**
 * Surround factor F of CAM16 for a dark room around a lit tank. Mark: literature (average 1.0, dim 0.9, dark 0.8).
 */
export const DARK_SURROUND = 0.8;
/** Adapting luminance as a share of the white's: the grey-world 20 %. Mark: standard practice in CAM16. */
const ADAPTING_SHARE = 0.2;
/** A nearly monochromatic violet leaves a cone almost unlit; its gain is held to this. Mark: rule of thumb. */
const GAIN_LIMIT = 20;

type Row = readonly [number, number, number];
const times = (m: readonly [Row, Row, Row], [a, b, c]: Xyz): [number, number, number] => [
  m[0][0] * a + m[0][1] * b + m[0][2] * c,
  m[1][0] * a + m[1][1] * b + m[1][2] * c,
  m[2][0] * a + m[2][1] * b + m[2][2] * c,
];

function inverse(m: readonly [Row, Row, Row]): [Row, Row, Row] {
  const [[a, b, c], [d, e, f], [g, h, i]] = m;
  const det = a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g);
  return [
    [(e * i - f * h) / det, (c * h - b * i) / det, (b * f - c * e) / det],
    [(f * g - d * i) / det, (a * i - c * g) / det, (c * d - a * f) / det],
    [(d * h - e * g) / det, (b * g - a * h) / det, (a * e - b * d) / det],
  ];
}
const M16_INVERSE = inverse(M16);

/**
 * Degree of adaptation D = F (1 − (1/3.6) e^((−L_A−42)/92)) of CAM16.
 * @param whiteLux illuminance on a white card, lux; its luminance is lux/π
 */
export function adaptationDegree(whiteLux: number, surround: number = DARK_SURROUND): number {
  const adaptingLuminance = (ADAPTING_SHARE * whiteLux) / Math.PI;
  return surround * (1 - Math.exp((-adaptingLuminance - 42) / 92) / 3.6);
}

export const toCones = (xyz: Xyz): [number, number, number] => times(M16, xyz);

/** Gains of the three cones that bring a white to another one, as far as the eye has adapted. */
export function coneGains(white: Xyz, wanted: Xyz, degree: number): [number, number, number] {
  const from = times(M16, white);
  const to = times(M16, wanted);
  return from.map((v, k) => {
    const full = to[k as 0 | 1 | 2] / Math.max(v, to[k as 0 | 1 | 2] / GAIN_LIMIT);
    return degree * full + 1 - degree;
  }) as [number, number, number];
}

/**
 * Adapts colours seen under a light to the D65 screen with incomplete adaptation (CAT16, one step).
 * @param white XYZ of a white card under the light (any scale above 0)
 * @param degree D, 0 = the eye of daylight, 1 = fully adapted: the card turns D65 white
 * @returns a function from XYZ (same scale as white) to adapted XYZ with the card's Y at 1
 */
export function adaptTo(white: Xyz, degree: number): (xyz: Xyz) => Xyz {
  const unit = white.map((v) => v / white[1]) as unknown as Xyz;
  const gains = coneGains(unit, D65, degree);
  const adapted = (xyz: Xyz): Xyz => {
    const [r, g, b] = times(M16, xyz);
    return times(M16_INVERSE, [r * gains[0], g * gains[1], b * gains[2]]);
  };
  const scale = 1 / (adapted(unit)[1] * white[1]);
  return (xyz) => adapted(xyz).map((v) => v * scale) as unknown as Xyz;
}
