import type { Spot } from '@/core/record/zone';
import { changeSettings } from '@/state/settings';
import type { SetPart } from '@/ui/Sentence';

/** The chosen coral, the same everywhere, as a part of a sentence. */
export const spotPart = (spots: readonly Spot[], spot: Spot | null | undefined): SetPart | string =>
  !spot
    ? 'no spot'
    : spots.length < 2
      ? spot.name
      : {
          id: 'spot',
          name: 'Coral',
          value: spot.name,
          chosen: spot.id,
          options: spots.map((s) => ({ value: s.id, label: s.name })),
          onChoose: (id) => changeSettings({ spotId: id }),
        };
