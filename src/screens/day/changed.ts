import { type DayFigures, dayFigures } from '@/core/case/dayFigures';
import { levelsOfGroups, parUnder, type ZoneLight } from '@/core/case/light';
import type { LitGroup } from '@/core/case/lit';
import type { Judgement } from '@/core/case/judgement';
import { verdict } from '@/core/case/verdict';
import type { Zone } from '@/core/record/zone';
import { kneeMinutes } from '@/core/day/day';
import { extraDay } from '@/core/day/extras';
import type { ResolvedThread } from '@/core/day/thread';
import type { DayCurve } from '@/pieces/dayCurve';

import { tenantsOf } from '../shared/words';
import type { Used } from './useUsed';

/** The groups with another day for one of them; its lamps hang and shine as they do. */
export const withThreads = (
  groups: readonly LitGroup[],
  groupId: string,
  threads: readonly ResolvedThread[],
  capShare?: number,
): LitGroup[] =>
  groups.map((g) =>
    g.groupId === groupId
      ? {
          ...g,
          threads: threads.map((t) => ({ ...t, mixName: 'its own mix' })),
          day: extraDay(
            g.lampKind,
            threads,
            { capShare: capShare ?? g.day.capShare, easingShare: g.day.easingShare },
            g.extras,
            null,
          ),
        }
      : g,
  );

/** The light of groups through the day at a spot, for drawing. */
export const curveOf = (light: ZoneLight, groups: readonly LitGroup[], spot: number): DayCurve => ({
  parAt: (minute) => parUnder(light, levelsOfGroups(groups, minute), spot),
  knees: kneeMinutes(groups.map((g) => g.day)),
});

export const figuresOf = (
  light: ZoneLight,
  groups: readonly LitGroup[],
  zone: Zone,
  spot: number,
  used: Used,
): DayFigures => dayFigures(light, groups, spot, zone.spots[spot]!.need, used);

/** What a change would be for the corals, before it is taken. */
export const stepWords = (judged: Judgement | null, zone: Zone): string =>
  judged ? verdict(judged, tenantsOf(zone.spots)) : '';
