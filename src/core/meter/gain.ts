/** Noise of a borrowed quantum meter: 5 % + 1 µmol unless it says otherwise. Mark: rule of thumb. */
export const METER_NOISE_SHARE = 0.05;
export const METER_NOISE_UMOL = 1;
/** Without any reading: prior of the overall gain, 1 ± 0.25. Mark: rule of thumb. */
export const PRIOR_SHARE = 0.25;
/** Channels not read alone keep at least this standard error. Mark: rule of thumb. */
const UNREAD_SHARE = 0.1;
/** 90 % of a normal distribution lies within this many standard errors. Mark: standard. */
const NINETY = 1.645;

export interface Gain {
  /** true light over modelled light */
  gain: number;
  readings: number;
  /** half width of the band shown beside PAR, as a share: ± 25 % for the bare model, a 90 % band once there is a reading */
  bandShare: number;
}

/** Models further than this from a reading deserve a second look at lamp, height or unit. Mark: rule of thumb. */
export const ODD_GAIN = 3;

/**
 * One overall gain from readings: noise-weighted least squares through the origin; a single reading is met exactly.
 * @param pairs reading and the model's value for the same levels without gain, µmol m⁻² s⁻¹
 */
export function overallGain(pairs: readonly { valueUmol: number; modelUmol: number }[]): Gain {
  let top = 0;
  let bottom = 0;
  for (const { valueUmol, modelUmol } of pairs) {
    const weight = 1 / (METER_NOISE_SHARE * valueUmol + METER_NOISE_UMOL) ** 2;
    top += weight * valueUmol * modelUmol;
    bottom += weight * modelUmol * modelUmol;
  }
  if (!(top > 0)) return { gain: 1, readings: 0, bandShare: PRIOR_SHARE };
  const gain = top / bottom;
  const error = Math.hypot(1 / Math.sqrt(bottom) / gain, UNREAD_SHARE);
  return { gain, readings: pairs.length, bandShare: NINETY * error };
}
