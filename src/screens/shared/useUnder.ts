import type { Levels } from '@/core/spectrum/lampKind';
import type { Desk } from '@/state/desk';

import { useMoment } from '../corals/useMoment';
import { levelsOfMix } from '../mix/view';
import type { Seen } from './Look';

/**
 * The tank as the chosen lamps would light it by a mix, at the moment and strength that Mix speaks of; null until the light is known.
 */
export function useUnder(desk: Desk): (mix: Levels) => Seen | null {
  const { light, groups, levels, index, strength } = useMoment(desk);
  return (mix) =>
    light && index >= 0
      ? {
          desk,
          groups,
          light,
          levels: levels.map((l, g) => (g === index ? levelsOfMix(groups[g]!, mix, strength) : l)),
        }
      : null;
}
