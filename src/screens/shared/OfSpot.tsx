import type { Spot } from '@/core/record/zone';
import { Sentence } from '@/ui/Sentence';

import { spotPart } from './spotPart';

/** Of which coral a page speaks, to be set; nothing where there is none. */
export const OfSpot = ({
  says,
  spots,
  spot,
}: {
  says: string;
  spots: readonly Spot[];
  spot: Spot | null | undefined;
}) => (spot ? <Sentence parts={[`${says} `, spotPart(spots, spot), '.']} /> : null);
