import { FIRST_NM, integrateWeighted, JOULE_NM_PER_UMOL, LAST_NM } from './grid';
import { par } from './bands';
import { cmf } from './observer';

/** Maximum luminous efficacy, lm W⁻¹ (K_m for photopic vision). Mark: standard (CIE). */
export const LUMENS_PER_WATT = 683.002;

/** Lux of a photon spectrum at a place (µmol m⁻² s⁻¹ nm⁻¹): 683.002 ∫ E_energy V dλ. */
export function lux(spectrum: ArrayLike<number>): number {
  return LUMENS_PER_WATT * integrateWeighted(spectrum, wattLuminosity(), FIRST_NM, LAST_NM);
}

let weights: Float64Array | undefined;
/** V(λ) × joules per µmol. */
function wattLuminosity(): Float64Array {
  weights ??= cmf().y.map((v, i) => (v * JOULE_NM_PER_UMOL) / (FIRST_NM + i));
  return weights;
}

/** Lux per µmol of PAR: a property of the mix. Null without PAR. */
export function luxPerPar(spectrum: ArrayLike<number>): number | null {
  const p = par(spectrum);
  return p > 0 ? lux(spectrum) / p : null;
}
