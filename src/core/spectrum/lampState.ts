import type { Dimming } from './lampKind';
import type { Emission } from './emission';
import { GRID_SIZE, nmAt, type Spectrum } from './grid';

/** What a hung lamp has been through. */
export interface LampState {
  /** hours lit so far; absent = as new */
  hoursRun?: number;
  /** how much warmer its emitters run at full than its data say, °C; absent = as they say */
  warmerC?: number;
}

/**
 * Light of emitters driven by current droops as they get brighter: level·(1 − k·level)/(1 − k). k lies at 0.05-0.15 where the current is
 * set, at 0 where it is chopped. Mark: typical data sheets, rule of thumb.
 */
const DROOP = 0.1;
/** Points of that as a lamp keeps them, a quarter apart. */
export const droopCurve = (k = DROOP): Dimming['curve'] =>
  [0.25, 0.5, 0.75].map((level): [number, number] => [
    level,
    Math.round((1000 * level * (1 - k * level)) / (1 - k)) / 1000,
  ]);

/** Hours after which 70 % of the light is left; typical ones lie at 30 to 60 thousand. Mark: typical data sheets, rule of thumb. */
const L70_HOURS = 45_000;
/** From here on an emitter counts as red, nm. */
const RED_FROM_NM = 590;
/** Light lost, as a share per °C, and nm by which a peak moves per °C. Mark: typical data sheets, rule of thumb. */
const WARM = {
  red: { lossPerC: 0.005, nmPerC: 0.12 },
  other: { lossPerC: 0.0015, nmPerC: 0.04 },
} as const;

const warmAt = (nm: number) => (nm >= RED_FROM_NM ? WARM.red : WARM.other);
/** Share of its light at a wavelength that a lamp gives in its state. */
export const stateShare = (nm: number, { hoursRun = 0, warmerC = 0 }: LampState): number =>
  0.7 ** (hoursRun / L70_HOURS) * Math.max(0, 1 - warmAt(nm).lossPerC * warmerC);

/** An emission with its peak where warmth has moved it; a table stays where it was measured. */
export const moved = (e: Emission, { warmerC = 0 }: LampState): Emission =>
  e.shape !== 'table' ? { ...e, peakNm: e.peakNm + warmAt(e.peakNm).nmPerC * warmerC } : e;

/** Takes from a spectrum, in place, what its lamp's state has lost. */
export function wear(spectrum: Spectrum, state: LampState): Spectrum {
  for (let i = 0; i < GRID_SIZE; i += 1) spectrum[i]! *= stateShare(nmAt(i), state);
  return spectrum;
}
