/** 90 % of a normal distribution lies within this many standard errors. Mark: standard. */
export const NINETY = 1.645;

/**
 * Share of a standard normal distribution that lies below z.
 * Source: Abramowitz & Stegun, Handbook of Mathematical Functions, 7.1.26; off by less than 1e-7. Mark: standard.
 */
export function normalBelow(z: number): number {
  const x = Math.abs(z) / Math.SQRT2;
  const t = 1 / (1 + 0.3275911 * x);
  const poly =
    t * (0.254829592 + t * (-0.284496736 + t * (1.421413741 + t * (-1.453152027 + t * 1.061405429))));
  const upper = (poly * Math.exp(-x * x)) / 2;
  return z < 0 ? upper : 1 - upper;
}
