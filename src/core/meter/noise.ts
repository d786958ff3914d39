/** Noise of a borrowed quantum meter: 5 % + 1 µmol unless it says otherwise. Mark: rule of thumb. */
export const METER_NOISE_SHARE = 0.05;
export const METER_NOISE_UMOL = 1;
/** The same of a lux meter, in its unit. Mark: rule of thumb. */
export const METER_NOISE_LUX = 20;
/** Readings of one meter repeat to this, beside 1 µmol: its scale error falls out of a comparison with itself. Mark: rule of thumb. */
export const REPEAT_SHARE = 0.03;
export const repeatNoise = (umol: number): number => Math.hypot(REPEAT_SHARE * umol, METER_NOISE_UMOL);
/** What is known of a channel's gain before any reading: 1 ± 0.25. Mark: rule of thumb. */
export const PRIOR_SHARE = 0.25;
/** With so few readings a channel not read alone keeps this standard error. Mark: rule of thumb. */
export const UNREAD_SHARE = 0.1;
/** From this many readings on channels are told apart. Mark: rule of thumb. */
export const LEAST_READINGS = 3;
export { NINETY } from '../shape/normal';
/** Gains that a fit may find. Mark: rule of thumb. */
export const GAIN_BOUNDS = [0.05, 5] as const;
