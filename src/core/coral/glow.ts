import { type Appearance, cam16, ucsDistance } from '../colour/cam16';
import { xyzOf, type Xyz } from '../colour/xyz';
import { BANDS, type PerBand } from '../spectrum/bands';
import { FIRST_NM, type Spectrum, integrateWeighted } from '../spectrum/grid';
import type { CoralForm } from './form';
import { formSeen, regionWeights } from './seen';
import { thing } from './things';

/** Adapting luminance as a share of the white card's. Mark: standard practice in CAM16. */
const ADAPTING_SHARE = 0.2;

/** CAM16 of everything under one light. */
export function appearanceUnder(light: Spectrum, degree?: number): (xyz: Xyz) => Appearance {
  const white = xyzOf(light);
  return cam16({ white, adaptingLuminance: (ADAPTING_SHARE * white[1]) / Math.PI, degree });
}

export interface Glow {
  /** share of the coral's luminance that is fluorescence, over its regions alike, 0..1 */
  share: number;
  /** mean distance of its regions from rock under the same light, CAM16-UCS */
  fromRock: number;
  /** of each region */
  regions: { name: string; share: number; ucs: Appearance['ucs'] }[];
}

/** How much a coral glows under a light. Null without light. */
export function glowOf(form: CoralForm, light: Spectrum, look = appearanceUnder(light)): Glow | null {
  const seen = formSeen(form, light);
  if (!seen.some((r) => r.xyz[1] > 0)) return null;
  const rock = look(xyzOf(light.map((v, i) => v * thing('rock').reflectance[i]!))).ucs;
  const regions = seen.map((r) => ({
    name: r.region.name,
    share: r.xyz[1] > 0 ? r.fluorescent[1] / r.xyz[1] : 0,
    ucs: look(r.xyz).ucs,
  }));
  return {
    share: regions.reduce((sum, r) => sum + r.share, 0) / regions.length,
    fromRock: regions.reduce((sum, r) => sum + ucsDistance(r.ucs, rock), 0) / regions.length,
    regions,
  };
}

/** Spread of the tank's corals: mean distance of all their regions from their middle, CAM16-UCS. 0 for one colour. */
export function varietyOf(colours: readonly Appearance['ucs'][]): number {
  if (colours.length < 2) return 0;
  const middle = [0, 1, 2].map((k) => colours.reduce((sum, c) => sum + c[k]!, 0) / colours.length);
  return (
    colours.reduce((sum, c) => sum + ucsDistance(c, middle as unknown as Appearance['ucs']), 0) /
    colours.length
  );
}

/** Which bands feed a coral's glow: share of its fluorescent luminance by the band of the light that caused it. */
export function glowByBand(form: CoralForm, light: Spectrum): PerBand {
  const sums = Object.fromEntries(BANDS.map((b) => [b.id, 0])) as PerBand;
  for (const region of form.regions) {
    const y = regionWeights(region).fluorescent[1];
    for (const b of BANDS) sums[b.id] += integrateWeighted(light, y, b.fromNm, b.toNm);
  }
  const all = BANDS.reduce((sum, b) => sum + sums[b.id], 0);
  for (const b of BANDS) sums[b.id] = all > 0 ? sums[b.id] / all : 0;
  return sums;
}

/** Derivative of a coral's glow share with respect to each band: its change for one per cent more photons there, per cent. */
export function glowDerivative(form: CoralForm, light: Spectrum): PerBand {
  const share = (s: ArrayLike<number>) =>
    formSeen(form, s).reduce((sum, r) => sum + (r.xyz[1] > 0 ? r.fluorescent[1] / r.xyz[1] : 0), 0) /
    form.regions.length;
  const base = share(light);
  return Object.fromEntries(
    BANDS.map((b) => {
      const more = light.map((v, i) => (i + FIRST_NM >= b.fromNm && i + FIRST_NM < b.toNm ? v * 1.01 : v));
      return [b.id, share(more) - base];
    }),
  ) as PerBand;
}
