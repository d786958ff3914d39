import type { Sides } from '../optics/sides';
import type { ShapeId } from './form';

/**
 * Share of the light on a flank that reaches the inside of a grown colony, between its own branches or leaves: the share of the sky seen
 * half-way in. Mark: rule of thumb.
 */
const INSIDE: Partial<Record<ShapeId, number>> = { branch: 0.35, table: 0.5, leather: 0.6, cup: 0.6 };

/** What its own shadow on the floor leaves of the light under a table or plate. Mark: rule of thumb. */
const OWN_SHADOW = 0.5;

/** Light on the parts of a coral by its form, µmol m⁻² s⁻¹, brightest side first. */
export function lightOnParts(shape: ShapeId | null, s: Sides): { part: string; umol: number }[] {
  const inside = shape && INSIDE[shape];
  const within = inside ? [{ part: 'inside the colony', umol: inside * s.flank }] : [];
  switch (shape) {
    case 'branch':
      return [{ part: 'tips', umol: s.down }, { part: 'flanks', umol: s.flank }, ...within];
    case 'table':
    case 'plate':
    case 'cup':
    case 'leather':
    case 'disc':
      return [
        { part: 'upper face', umol: s.down },
        { part: 'rim', umol: s.flank },
        ...within,
        { part: 'underside', umol: OWN_SHADOW * s.underside },
      ];
    case 'polyps':
    case 'tentacles':
    case 'anemone':
      // thin, and turned every way: a quarter of what a ball takes
      return [
        { part: 'a tentacle all round', umol: s.scalar / 4 },
        { part: 'foot', umol: s.flank },
      ];
    default:
      return [
        { part: 'upper face', umol: s.down },
        { part: 'sides', umol: s.flank },
      ];
  }
}
