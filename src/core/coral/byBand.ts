import { feedingAbsorptance } from '../feeding/symbiont';
import { BANDS, type BandId, PAR_TO_NM } from '../spectrum/bands';
import { nmAt } from '../spectrum/grid';
import type { CoralForm } from './form';
import { regionWeights } from './seen';

export interface BandWork {
  band: BandId;
  /** share of the photons that the coral can use, 0..1 over all bands */
  feeds: number;
  /** share of the light that comes back from it to the eye, its glow counted by the band that excites it, 0..1 over all bands */
  lights: number;
}

/** What each band of a light does at a coral: feed it, and let it be seen. All 0 in the dark. */
export function bandWork(form: Pick<CoralForm, 'regions'>, light: ArrayLike<number>): BandWork[] {
  const usable = feedingAbsorptance();
  const weights = form.regions.map(regionWeights);
  const sums = BANDS.map(() => ({ feeds: 0, lights: 0 }));
  for (let i = 0; i < light.length; i += 1) {
    const nm = nmAt(i);
    const at = Math.max(
      0,
      BANDS.findIndex((b) => nm < b.toNm),
    );
    const sum = sums[nm >= BANDS.at(-1)!.toNm ? BANDS.length - 1 : at]!;
    if (nm <= PAR_TO_NM) sum.feeds += light[i]! * usable[i]!;
    for (const w of weights) sum.lights += light[i]! * (w.reflected[1][i]! + w.fluorescent[1][i]!);
  }
  const whole = (pick: 'feeds' | 'lights') => sums.reduce((all, s) => all + s[pick], 0) || 1;
  const [feeds, lights] = [whole('feeds'), whole('lights')];
  return BANDS.map((b, k) => ({
    band: b.id,
    feeds: sums[k]!.feeds / feeds,
    lights: sums[k]!.lights / lights,
  }));
}
