import * as v from 'valibot';

import { ceilingFor, CEILINGS, type Pace, PACES } from '../easing/accustomed';
import { alga, type AlgaId } from '../feeding/algae';
import { between } from '../shape/shape';

export const wantsSchema = v.pipe(
  v.object({ fromUmol: between(0, 3000, ' µmol'), toUmol: between(1, 3000, ' µmol') }),
  v.check((w) => w.toUmol > w.fromUmol, 'ends above where it begins'),
);
/** A range of light, µmol m⁻² s⁻¹. */
export type Wants = v.InferOutput<typeof wantsSchema>;

const NEED_IDS = [
  'soft',
  'largePolyp',
  'smallPolyp',
  'nonPhotosynthetic',
  'clam',
  'anemone',
  'macroalgae',
] as const;
export type NeedId = (typeof NEED_IDS)[number];
export const needSchema = v.picklist(NEED_IDS, `is one of ${NEED_IDS.join(', ')}`);

/** What corals and their company want, µmol m⁻² s⁻¹ where they sit. Mark: rule of thumb. */
export const NEEDS: Record<NeedId, { name: string } & Wants> = {
  soft: { name: 'soft coral', fromUmol: 50, toUmol: 120 },
  largePolyp: { name: 'large-polyp coral', fromUmol: 80, toUmol: 180 },
  smallPolyp: { name: 'small-polyp coral', fromUmol: 180, toUmol: 400 },
  nonPhotosynthetic: { name: 'coral without algae', fromUmol: 0, toUmol: 80 },
  clam: { name: 'clam', fromUmol: 180, toUmol: 450 },
  anemone: { name: 'anemone', fromUmol: 150, toUmol: 400 },
  macroalgae: { name: 'macroalgae', fromUmol: 60, toUmol: 250 },
};

/** A ceiling of one coral's own lies between these. Mark: rule of thumb. */
export const BEARS_LEAST = 1.05;
export const BEARS_MOST = 2;

/** Where a keeper's own ranges stand: a zone. */
interface OwnNeeds {
  needs: Partial<Record<NeedId, Wants>>;
}
/** Who lives at a spot. */
interface Tenant {
  need: NeedId | null;
  wants: Wants | null;
  algaId?: AlgaId | null;
  bears?: number;
}

/** What a kind wants in a water: as the keeper has it, or the rule of thumb. */
export const wantsOfKind = (need: NeedId, { needs }: OwnNeeds): Wants => needs[need] ?? NEEDS[need];

/** The range a spot's tenant wants: its own, its alga's, or its kind's; null when nobody is known to live there. */
export const wantsOf = (spot: Tenant, zone: OwnNeeds): Wants | null => {
  if (spot.wants) return spot.wants;
  if (!spot.need) return null;
  if (spot.need === 'macroalgae' && spot.algaId && !zone.needs.macroalgae) {
    const { fromUmol, toUmol } = alga(spot.algaId);
    return { fromUmol, toUmol };
  }
  return wantsOfKind(spot.need, zone);
};

/** True for tenants that live by light: only these get used to it. */
export const livesByLight = (spot: Pick<Tenant, 'need'>): boolean => spot.need !== 'nonPhotosynthetic';

/** How tenants of a kind follow their light. */
export const kindPace = ({ need }: Pick<Tenant, 'need'>): Pace =>
  need === 'macroalgae' ? PACES.algae : PACES.coral;

/** How a tenant follows its light: as its kind, with the step that this one was said to bear where the usual ceiling stands. */
export function paceOf(spot: Pick<Tenant, 'need' | 'bears'>): Pace {
  const pace = kindPace(spot);
  return spot.bears === undefined
    ? pace
    : { ...pace, stretch: (spot.bears - 1) / (CEILINGS.usual - 1), kindStretch: pace.stretch };
}

/** A ceiling as it holds for a spot's tenant. */
export const ceilingOf = (spot: Pick<Tenant, 'need' | 'bears'>, ceiling: number): number =>
  ceilingFor(ceiling, paceOf(spot));

/** Corals beyond any band: a spot without a known coral is treated as the most careful one. */
export const lowerEdgeUmol = (spot: Tenant, zone: OwnNeeds): number =>
  Math.max(1, ((livesByLight(spot) ? wantsOf(spot, zone) : null) ?? wantsOfKind('soft', zone)).fromUmol);

/** So much of the lower edge of its range that steps of near darkness mean little, µmol. Mark: rule of thumb. */
export const floorUmolOf = (spot: Tenant, zone: OwnNeeds): number => 0.1 * lowerEdgeUmol(spot, zone);

/** Where light lies against what is wanted. */
export type Standing = 'below' | 'within' | 'above';
export const standingOf = (umol: number, { fromUmol, toUmol }: Wants): Standing =>
  umol < fromUmol ? 'below' : umol > toUmol ? 'above' : 'within';
