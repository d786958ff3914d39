import { normalBelow } from '../shape/normal';

/** How sharp the step is that a coral just bears, ln. Mark: rule of thumb. */
export const BEARS_LN = 0.12;
/** A ceiling is where one step in ten is not borne: the quantile of that. Mark: rule of thumb. */
const RARE_Z = 1.2816;

/** Chance that a step is borne by a coral whose ceiling is so high: at the ceiling itself one in ten is not. */
export const borneChance = (ratio: number, ceiling: number): number =>
  normalBelow(RARE_Z - Math.log(ratio / ceiling) / BEARS_LN);
