import { BANDS, type BandId } from '../spectrum/bands';
import { allFull } from '../spectrum/controls';
import type { LampKind } from '../spectrum/lampKind';
import { type Spectrum, addScaled, integrate, nmAt, zeroSpectrum } from '../spectrum/grid';
import { emittedShares } from '../spectrum/drive';
import { keptSpectrum, mixSpectrum } from '../spectrum/lamp';

/** Bands in which a lamp's own emitters may be only a token: the violet-to-cyan side that people buy lamps for. */
export const BLUE_BANDS: readonly BandId[] = ['nearUv', 'violet', 'royalBlue', 'blue', 'cyan'];
/** Below this share of photons with all blues full, a band is a token. Mark: rule of thumb. */
export const TOKEN_SHARE = 0.02;
/** Centre of gravity below which a channel counts among the blues, nm. Mark: rule of thumb. */
const BLUES_UNTIL_NM = 505;

/** Photon-weighted centre of a channel's light, nm. */
export function centreNm(spectrum: Spectrum): number {
  let sum = 0;
  let moment = 0;
  spectrum.forEach((v, i) => {
    sum += v;
    moment += v * nmAt(i);
  });
  return sum > 0 ? moment / sum : 0;
}

/** Which of a lamp's channels are blues. */
const bluesOf = (kind: LampKind): boolean[] =>
  kind.channels.map((c) => centreNm(keptSpectrum(c)) < BLUES_UNTIL_NM);

/** Whether it has blue that is lit without the rest: of others the tails of their light say nothing. */
export const hasBlues = (kind: LampKind): boolean => bluesOf(kind).includes(true);

/**
 * The light of a lamp with every blue channel full and the rest dark, whatever its controls tie together; all of its light where no
 * channel is a blue: its blue comes with the rest, as of a white or of red and blue in one.
 */
export function allBlues(kind: LampKind): Spectrum {
  const blues = bluesOf(kind);
  const drive = blues.map((blue) => (blue || !blues.includes(true) ? 1 : 0));
  const sum = zeroSpectrum();
  emittedShares(kind, drive).forEach((share, i) => addScaled(sum, keptSpectrum(kind.channels[i]!), share));
  return sum;
}

export interface BandHold {
  id: BandId;
  /** share of all photons with all blues full (blue bands) or with everything full (the others), 0..1 */
  share: number;
  holds: 'real' | 'token' | 'none';
}
/** Nothing at all: below this the tail of a neighbour is all there is. Mark: rule of thumb. */
const NONE_SHARE = 0.004;

/** What a lamp really holds of each band. */
export function bandsHeld(kind: LampKind): BandHold[] {
  const blues = allBlues(kind);
  const all = mixSpectrum(kind, allFull(kind));
  return BANDS.map(({ id, fromNm, toNm }) => {
    const light = BLUE_BANDS.includes(id) ? blues : all;
    const total = integrate(light);
    const share = total > 0 ? integrate(light, fromNm, toNm) / total : 0;
    return { id, share, holds: share < NONE_SHARE ? 'none' : share < TOKEN_SHARE ? 'token' : 'real' };
  });
}
