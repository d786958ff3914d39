import { photonObserver } from '../colour/xyz';
import type { CoralForm } from '../coral/form';
import { regionWeights } from '../coral/seen';
import { thing, type ThingId } from '../coral/things';
import { alga, type AlgaId } from '../feeding/algae';
import { algaReflectance } from '../refugium/look';
import { GRID_SIZE, sample, type Spectrum } from '../spectrum/grid';

type Triple = readonly [Float64Array, Float64Array, Float64Array];

/** Something that has a colour of its own under a light: what of every wavelength it gives back to the eye. */
export interface Surface {
  name: string;
  /** which coral or mat of the picture it belongs to; −1 = none */
  of: number;
  /** XYZ of what comes back is the sum of light × weight over the grid */
  weights: Triple;
}

const ends = (i: number) => (i === 0 || i === GRID_SIZE - 1 ? 0.5 : 1);

/** The eye's weights of a diffuse reflectance: a trapezoid, as every integral over the grid. */
export function weightsOf(reflectance: Spectrum): Triple {
  return photonObserver().map((o) => o.map((v, i) => v * ends(i) * reflectance[i]!)) as unknown as Triple;
}

/** What a pane's film sends back, and what open water does of the light in it. Mark: rule of thumb. */
const FILM = 0.05;
const VEIL = 0.22;
/** Skeleton and tissue of a coral that nobody has described: pale grey. Mark: drawing licence. */
const UNDESCRIBED = 0.42;

export const FIXED = [
  'card',
  'sand',
  'rock',
  'paleRock',
  'coralline',
  'algae',
  'pane',
  'veil',
  'detritus',
  'undescribed',
  'orangeFish',
  'yellowFish',
  'blueFish',
  'redFish',
] as const;
export type FixedSurface = (typeof FIXED)[number];
export const surfaceId = (name: FixedSurface): number => FIXED.indexOf(name);

/** Bare stone beside stone that life has darkened: how much more it sends back. Mark: drawing licence. */
const BARE = 1.45;

const FLAT: Partial<Record<FixedSurface, number>> = {
  card: 1,
  pane: FILM,
  veil: VEIL,
  undescribed: UNDESCRIBED,
};

function reflectanceOf(name: FixedSurface): Spectrum {
  const share = FLAT[name];
  if (share !== undefined) return sample(() => share);
  if (name === 'paleRock') return thing('rock').reflectance.map((v) => BARE * v);
  return thing(name as ThingId).reflectance;
}

let fixed: Surface[] | undefined;
/** What any tank is made of. */
export function fixedSurfaces(): Surface[] {
  fixed ??= FIXED.map((name): Surface => ({ name, of: -1, weights: weightsOf(reflectanceOf(name)) }));
  return fixed;
}

/** The surfaces of a coral's regions, in their order; one pale one where its form is not known. */
export const coralSurfaces = (form: CoralForm | null, of: number): Surface[] =>
  form === null
    ? [{ ...fixedSurfaces()[surfaceId('undescribed')]!, of }]
    : form.regions.map((region) => ({ name: region.name, of, weights: weighed(region) }));

/** Corals of one form are many: their weights are one, by which what is computed from them is known to be the same. */
const kept = new WeakMap<CoralForm['regions'][number], Triple>();
function weighed(region: CoralForm['regions'][number]): Triple {
  const known = kept.get(region);
  if (known) return known;
  const { reflected, fluorescent } = regionWeights(region);
  const weights = reflected.map((w, k) => w.map((v, i) => v + fluorescent[k]![i]!)) as unknown as Triple;
  kept.set(region, weights);
  return weights;
}

/** Everything that a picture of one thing by itself may show, in the order in which its scene counts. */
export const figureSurfaces = (what: { form: CoralForm | null } | { algaId: AlgaId }): Surface[] => [
  ...fixedSurfaces(),
  ...('algaId' in what ? [algaSurface(what.algaId, 0)] : coralSurfaces(what.form, 0)),
];

export const algaSurface = (id: AlgaId, of: number): Surface => ({
  name: alga(id).name,
  of,
  weights: weightsOf(algaReflectance(alga(id))),
});
