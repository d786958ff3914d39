import { REFERENCES } from '@/core/library/references';
import { atPar, sharedPhotons } from '@/core/mix/shape';
import type { CaseDoc } from '@/core/record/caseDoc';
import { par } from '@/core/spectrum/bands';
import { emissionSpectrum } from '@/core/spectrum/emission';
import { mixSpectrum } from '@/core/spectrum/lamp';

/** A light that can be laid behind the comb or compared with. */
export interface OtherLight {
  /** "light:ID", "plate:ID" or "own:ID" */
  key: string;
  name: string;
  spectrum: Float64Array;
}

/** All lights to lay behind: generic references, plates of the case, imported spectra. */
export const otherLights = (doc: CaseDoc): { key: string; name: string; group: string }[] => [
  ...REFERENCES.map((r) => ({ key: `light:${r.id}`, name: r.name, group: 'Generic, modelled' })),
  ...doc.plates.map((p) => ({ key: `plate:${p.id}`, name: p.name, group: 'Plates' })),
  ...doc.references.map((r) => ({ key: `own:${r.id}`, name: r.name, group: 'From files' })),
];

/** The light behind a key, or null when it is gone. */
export function otherLight(doc: CaseDoc, key: string | null): OtherLight | null {
  if (!key) return null;
  const [group, id] = [key.slice(0, key.indexOf(':')), key.slice(key.indexOf(':') + 1)];
  if (group === 'light') {
    const r = REFERENCES.find((x) => x.id === id);
    return r ? { key, name: r.name, spectrum: r.spectrum() } : null;
  }
  if (group === 'plate') {
    const p = doc.plates.find((x) => x.id === id);
    const kind = doc.lampKinds.find((k) => k.id === p?.lampKindId);
    return p && kind ? { key, name: p.name, spectrum: mixSpectrum(kind, p.mix) } : null;
  }
  const own = doc.references.find((x) => x.id === id);
  return own
    ? {
        key,
        name: own.name,
        spectrum: emissionSpectrum({ shape: 'table', points: own.points, quantity: own.quantity, flux: 1 }),
      }
    : null;
}

/** The other light scaled to the PAR of this one, and the share of photons both have in common. */
export function laidBehind(
  sum: Float64Array,
  other: OtherLight,
): { spectrum: Float64Array; shared: number | null } | null {
  const p = par(sum);
  return p > 0 && par(other.spectrum) > 0
    ? { spectrum: atPar(other.spectrum, p), shared: sharedPhotons(sum, other.spectrum) }
    : null;
}
