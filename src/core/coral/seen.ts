import { photonObserver, type Xyz } from '../colour/xyz';
import { GRID_SIZE, type Spectrum, withoutTails, zeroSpectrum } from '../spectrum/grid';
import type { CoralForm, Region } from './form';
import { CHROMOS, type Protein, protein, type ProteinId, symbiontDepth } from './pigments';

/**
 * A region as optics. Light goes through pigment to the pale base and back: R = pale · e^(−depth). What is absorbed is shared
 * among the pigments by their part of the depth; a fluorescent protein gives back `yield` of its share, at wavelengths longer
 * than the one absorbed, of which the part sent towards the eye escapes. So photons out never exceed photons in, and what is
 * absorbed is not also reflected.
 */
export interface RegionOptics {
  reflectance: Spectrum;
  /** per protein: absorbed share of the incident photons at each wavelength */
  absorbed: { protein: Protein; share: Spectrum }[];
}

/** Share of emitted photons that leave towards the eye; the rest goes down and is lost. Mark: rule of thumb. */
export const ESCAPE = 0.5;

export function regionOptics(region: Region): RegionOptics {
  const depth = symbiontDepth().map((v) => v * region.brown);
  for (const c of CHROMOS) {
    const amount = region.chromo[c.id] ?? 0;
    if (amount > 0) for (let i = 0; i < GRID_SIZE; i += 1) depth[i]! += amount * c.depth * c.absorption[i]!;
  }
  const parts = (Object.entries(region.proteins) as [ProteinId, number][])
    .filter(([, amount]) => amount > 0)
    .map(([id, amount]) => {
      const p = protein(id);
      return { protein: p, own: p.excitation.map((v) => v * amount * p.depth) };
    });
  // chlorophyll glows faintly wherever there are symbionts
  if (region.brown > 0) {
    const p = protein('chlorophyll');
    parts.push({ protein: p, own: p.excitation.map((v) => v * region.brown * p.depth) });
  }
  for (const { own } of parts) for (let i = 0; i < GRID_SIZE; i += 1) depth[i]! += own[i]!;
  const through = depth.map((v) => Math.exp(-v));
  return {
    reflectance: through.map((v) => v * region.pale),
    absorbed: parts.map(({ protein: p, own }) => ({
      protein: p,
      share: own.map((v, i) => (depth[i]! > 0 ? (v / depth[i]!) * (1 - through[i]!) : 0)),
    })),
  };
}

export interface SeenLight {
  reflected: Spectrum;
  fluorescent: Spectrum;
}

/** Light that comes back from a region: reflected, and fluorescent (a Donaldson matrix, applied). */
export function lightFrom(optics: RegionOptics, light: ArrayLike<number>): SeenLight {
  const reflected = optics.reflectance.map((v, i) => v * light[i]!);
  const fluorescent = zeroSpectrum();
  for (const { protein: p, share } of optics.absorbed) {
    let taken = 0;
    for (let i = 0; i < GRID_SIZE; i += 1) {
      // only what was absorbed at shorter wavelengths comes out here
      fluorescent[i]! += ESCAPE * p.yield * p.emission[i]! * taken;
      taken += share[i]! * light[i]!;
    }
  }
  return { reflected, fluorescent };
}

/**
 * The eye's weights of a region: XYZ of what comes back is the sum of light × weight over the grid. Made once per region, so
 * that a frame costs dot products and no spectra.
 */
export interface RegionWeights {
  region: Region;
  reflected: readonly [Float64Array, Float64Array, Float64Array];
  fluorescent: readonly [Float64Array, Float64Array, Float64Array];
}

const kept = new WeakMap<Region, RegionWeights>();

export function regionWeights(region: Region): RegionWeights {
  const made = kept.get(region);
  if (made) return made;
  const optics = regionOptics(region);
  // a trapezoid, as every integral over the grid: half weight at both ends
  const observer = photonObserver().map((o) => o.map((v, i) => (i === 0 || i === GRID_SIZE - 1 ? v / 2 : v)));
  const reflected = observer.map((o) => o.map((v, i) => v * optics.reflectance[i]!));
  const fluorescent = observer.map((o) => {
    const weight = zeroSpectrum();
    for (const { protein: p, share } of optics.absorbed) {
      // what the emission at longer wavelengths is worth to the eye
      let ahead = 0;
      for (let i = GRID_SIZE - 1; i >= 0; i -= 1) {
        weight[i]! += ESCAPE * p.yield * share[i]! * ahead;
        ahead += p.emission[i]! * o[i]!;
      }
    }
    return weight;
  });
  for (const w of [...reflected, ...fluorescent]) withoutTails(w);
  const weights = { region, reflected, fluorescent } as unknown as RegionWeights;
  kept.set(region, weights);
  return weights;
}

const dot = (w: Float64Array, light: ArrayLike<number>) => {
  let sum = 0;
  const n = w.length;
  for (let i = 0; i < n; i += 1) sum += w[i]! * light[i]!;
  return sum;
};
const apply = (w: RegionWeights['reflected'], light: ArrayLike<number>): Xyz => [
  dot(w[0], light),
  dot(w[1], light),
  dot(w[2], light),
];

export interface RegionSeen {
  region: Region;
  reflected: Xyz;
  fluorescent: Xyz;
  /** both together: what the eye gets */
  xyz: Xyz;
}

/** XYZ of every region of a form under a light (Y in lux). */
export function formSeen(form: CoralForm, light: ArrayLike<number>): RegionSeen[] {
  return form.regions.map((region) => {
    const w = regionWeights(region);
    const reflected = apply(w.reflected, light);
    const fluorescent = apply(w.fluorescent, light);
    return {
      region,
      reflected,
      fluorescent,
      xyz: [reflected[0] + fluorescent[0], reflected[1] + fluorescent[1], reflected[2] + fluorescent[2]],
    };
  });
}
