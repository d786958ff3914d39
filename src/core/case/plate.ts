import type { Levels } from '../spectrum/lampKind';
import type { Plate } from '../record/caseDoc';

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
