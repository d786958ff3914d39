import type { EyeId } from '@/core/portrait/lookers';

/** Who looks, and how bright it is drawn, in words. */
export const EYES: Record<EyeId, string> = {
  adapted: 'an eye used to the tank',
  fresh: 'an eye fresh from daylight',
  camera: 'a phone’s camera',
};
export const BRIGHTNESS = {
  real: 'as bright as it is',
  evened: 'evened, to judge hues',
} as const;
/** Lux, as coarse as a picture is. */
export const luxWords = (lux: number): string =>
  lux < 0.05
    ? 'dark'
    : lux >= 1000
      ? `${(lux / 1000).toFixed(lux >= 9950 ? 0 : 1)} klux`
      : `${lux >= 10 ? Math.round(lux) : lux.toFixed(1)} lux`;
