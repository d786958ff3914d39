import { type Tint, tintOf } from '../colour/tint';
import { usableShare } from '../feeding/symbiont';
import { bandShares, par, type PerBand } from '../spectrum/bands';
import { luxPerPar } from '../spectrum/lux';

/** The figures of a light: what reckon prints and Mix shows. */
export interface LightFigures {
  /** photons 400-700, unit of the spectrum */
  par: number;
  luxPerPar: number | null;
  bandShares: PerBand;
  usableShare: number | null;
  tint: Tint | null;
}

export const lightFigures = (spectrum: ArrayLike<number>): LightFigures => ({
  par: par(spectrum),
  luxPerPar: luxPerPar(spectrum),
  bandShares: bandShares(spectrum),
  usableShare: usableShare(spectrum),
  tint: tintOf(spectrum),
});
