/**
 * Photosynthesis against light: P = P_s (1 − e^(−αE/P_s)) e^(−βE/P_s), its maximum 1, Ek = 1/α (Platt, Gallegos & Harrison 1980).
 * Only for comparing days of one tenant; never growth. Light in µmol of a typical light as corals take it. Mark: literature.
 */

/** Light that runs straight from one value to another for some minutes. */
export interface Straight {
  minutes: number;
  from: number;
  to: number;
}

/** β/α of light that harms: what is published lies at 0-0.02. Mark: literature, middle. */
export const INHIBITION = 0.01;

/** P_s of a response whose maximum is 1. */
const topOf = (r: number): number => (r > 0 ? (1 + r) * ((1 + r) / r) ** r : 1);

/** Share of its greatest photosynthesis at a light. @param ekUmol where it begins to saturate */
export function photosynthesis(eUmol: number, ekUmol: number, inhibition = INHIBITION): number {
  if (!(eUmol > 0)) return 0;
  const top = topOf(inhibition);
  const x = eUmol / ekUmol / top;
  return top * (1 - Math.exp(-x)) * Math.exp(-inhibition * x);
}

/** Ek of a tenant that is used to a peak: with the power of it, within the limits of its kind. Mark: exponent rule of thumb, 0.4-0.8. */
export const ekUsedTo = (
  middleUmol: number,
  [low, high]: readonly [number, number],
  usedPeakUmol: number,
  rangeMiddleUmol: number,
): number => Math.min(high, Math.max(low, middleUmol * (usedPeakUmol / rangeMiddleUmol) ** EK_FOLLOWS));
const EK_FOLLOWS = 0.6;

/** From this many times Ek on light is excess. Mark: rule of thumb. */
export const EXCESS_FROM = 1.5;

/** What a day does at a tenant. */
export interface DayResponse {
  /** photosynthesis over that of all lit hours at its greatest */
  yieldShare: number;
  /** photosynthesis over what it would be if no light were too much */
  feedShare: number;
  hoursAbove: number;
  /** light beyond EXCESS_FROM × Ek, mol m⁻² d⁻¹ */
  excessMol: number;
}

/** Simpson's rule over stretches of light that runs straight, in so many parts each. */
const PARTS = 8;

/**
 * The response over a day of straight stretches.
 * @param stretches minutes, and light at both ends, µmol
 */
export function dayResponse(
  stretches: readonly Straight[],
  ekUmol: number,
  inhibition = INHIBITION,
): DayResponse {
  let [made, given, lit, above, excess] = [0, 0, 0, 0, 0];
  for (const { minutes, from, to } of stretches) {
    if (!(from > 0 || to > 0)) continue;
    lit += minutes;
    given += (minutes * (from + to)) / 2;
    above += minutes * shareAbove(from, to, ekUmol);
    excess += minutes * meanOver(from, to, EXCESS_FROM * ekUmol);
    for (let k = 0; k < PARTS; k += 1) {
      const at = (x: number) => photosynthesis(from + ((to - from) * (k + x)) / PARTS, ekUmol, inhibition);
      made += ((minutes / PARTS) * (at(0) + 4 * at(0.5) + at(1))) / 6;
    }
  }
  return {
    yieldShare: lit > 0 ? made / lit : 0,
    feedShare: given > 0 ? (made * ekUmol) / given : 0,
    hoursAbove: above / 60,
    excessMol: (excess * 60) / 1e6,
  };
}

/** Share of a straight stretch that lies above a bound. */
const shareAbove = (from: number, to: number, bound: number): number => {
  const [low, high] = [Math.min(from, to), Math.max(from, to)];
  return low > bound ? 1 : high > bound ? (high - bound) / (high - low) : 0;
};
/** Mean of what of a straight stretch lies above a bound. */
const meanOver = (from: number, to: number, bound: number): number => {
  const share = shareAbove(from, to, bound);
  if (share === 0) return 0;
  const [low, high] = [Math.min(from, to), Math.max(from, to)];
  return share === 1 ? (low + high) / 2 - bound : (share * (high - bound)) / 2;
};
