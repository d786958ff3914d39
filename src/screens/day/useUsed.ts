import { wantsOf } from '@/core/record/needs';
import type { Desk } from '@/state/desk';
import { useAccustomed, useCalibration } from '@/state/light';
import { useNowMs } from '@/state/time';

/** What narrows how the tenant of a spot answers a day: the middle of what it wants, and the peak it is used to, where that is known. */
export interface Used {
  rangeMiddleUmol: number | null;
  peak: number | null;
}

/** That of every spot of the water on the desk, the same for all that show it. */
export function useUsed({ zone, bundle }: Pick<Desk, 'zone' | 'bundle'>): (spot: number) => Used {
  const accustomed = useAccustomed(zone, bundle, useCalibration(bundle, zone), useNowMs());
  return (spot) => {
    const wants = wantsOf(zone.spots[spot]!, zone);
    const used = accustomed?.known ? accustomed.perSpot[spot] : undefined;
    return {
      rangeMiddleUmol: wants ? (wants.fromUmol + wants.toUmol) / 2 : null,
      peak: used ? (used.taken ?? used).peak : null,
    };
  };
}
