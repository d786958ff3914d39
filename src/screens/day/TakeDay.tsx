import type { RefObject } from 'react';
import type { View } from 'react-native';

import { levelsOfGroups, parUnder, type ZoneLight } from '@/core/case/light';
import type { LitGroup } from '@/core/case/lit';
import { formatTime } from '@/core/day/clock';
import { DAY_MINUTES } from '@/core/shape/ring';
import type { Desk } from '@/state/desk';
import { TakeKeys } from '@/ui/TakeAlong';

import { formats } from '../shared/formats';

/** Minutes between the rows of the table. */
export const EVERY_MIN = 15;
export const minutesEvery = (minutes: number): number[] =>
  Array.from({ length: DAY_MINUTES / minutes }, (_, i) => i * minutes);

/** The weave as a drawing, a picture or a table: µmol at the chosen coral and every channel through the day. */
export function TakeDay({
  box,
  desk: { zone, spot, spotIndex },
  groups,
  light,
}: {
  box: RefObject<View | null>;
  desk: Desk;
  groups: readonly LitGroup[];
  light: ZoneLight;
}) {
  const channels = groups.flatMap((g) =>
    g.lampKind.channels.map((c) => (groups.length > 1 ? `${g.name}: ${c.name}` : c.name)),
  );
  return (
    <TakeKeys
      box={box}
      name="day"
      caption={`${zone.name}: light through the drafted day at ${spot!.name}, µmol m⁻² s⁻¹. Computed.`}
      csv={async () =>
        (await formats()).tableCsv(
          ['time', `PAR at ${spot!.name} (µmol m⁻² s⁻¹)`, ...channels.map((c) => `${c} (% of full)`)],
          minutesEvery(EVERY_MIN).map((m) => {
            const levels = levelsOfGroups(groups, m);
            return [
              formatTime(m),
              Math.round(parUnder(light, levels, spotIndex) * 10) / 10,
              ...levels.flat().map((v) => Math.round(v * 1000) / 10),
            ];
          }),
        )
      }
    />
  );
}
