import { absorbedLight, TYPICAL_SHARE } from '../feeding/symbiont';
import { par } from '../spectrum/bands';
import type { Spectrum } from '../spectrum/grid';
import type { ZoneLight } from './light';

/** The light of one group at one place, where only its spectra at full there are known. */
export function lightThere(spectra: readonly Spectrum[]): ZoneLight {
  const full = spectra.map((s) => par(s));
  const none = spectra.map(() => 0);
  return {
    spots: 1,
    par: [[full]],
    taken: [[spectra.map((s) => absorbedLight(s) / TYPICAL_SHARE)]],
    spectra: [[[...spectra]]],
    lampPar: [[[full]]],
    byYellow: [[none]],
    byBeam: [[none]],
    byPane: [[none]],
    byFloor: [[none]],
    byHeight: [[[none]]],
    byLean: { right: [[[none]]], back: [[[none]]] },
    at: [],
  };
}
