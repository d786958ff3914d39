import type { Levels } from '../spectrum/lampKind';
import type { Plate } from './types';

/** A plate without history. */
export const newPlate = (id: string, name: string, lampKindId: string, mix: Levels, notes = ''): Plate => ({
  id,
  name,
  lampKindId,
  notes,
  mix,
  locked: [],
  versions: [],
});
