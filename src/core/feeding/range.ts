import { NINETY } from '../shape/normal';
/** A figure known only within bounds: lowest, likely, highest. */
export interface Range {
  low: number;
  mid: number;
  high: number;
}

/** Bounds with their geometric middle as the likely value. */
export const range = (low: number, high: number): Range => ({ low, mid: Math.sqrt(low * high), high });

export const scaled = (r: Range, by: number): Range => ({
  low: r.low * by,
  mid: r.mid * by,
  high: r.high * by,
});

/** Every bound with every bound: what can be, at the worst and at the best. */
export const extremes = (a: Range, b: Range): Range => ({
  low: a.low * b.low,
  mid: a.mid * b.mid,
  high: a.high * b.high,
});

/** 90 % of a normal distribution lie within this many standard deviations. */
export const NINETY_SD = NINETY;
/** Standard deviation of the logarithm when the bounds are a 90 % band. */
export const logSd = (r: Range): number => Math.log(r.high / r.low) / (2 * NINETY_SD);
export const ofLog = (mid: number, sd: number): Range => ({
  low: mid * Math.exp(-NINETY_SD * sd),
  mid,
  high: mid * Math.exp(NINETY_SD * sd),
});

/** The product of two figures that are wrong independently, each within its 90 % band. */
export const independent = (a: Range, b: Range): Range =>
  ofLog(a.mid * b.mid, Math.hypot(logSd(a), logSd(b)));

/** A figure known within bounds: "1.2-4.5". */
export function boundsWords({ low, high }: Pick<Range, 'low' | 'high'>): string {
  const places = high >= 9.95 ? 0 : high >= 0.995 ? 1 : high >= 0.0995 ? 2 : 3;
  const [a, b] = [low.toFixed(places), high.toFixed(places)];
  return a === b ? a : `${a}–${b}`;
}
