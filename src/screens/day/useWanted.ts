import { useMemo } from 'react';

import { baseOf } from '@/core/case/baseOf';
import { lookedAtDays } from '@/core/case/lookedAt';
import type { PatternsInput } from '@/core/case/patterns';
import { dli } from '@/core/day/day';
import { lampDay } from '@/core/day/thread';
import { ZONE_KINDS } from '@/core/record/chores';
import { USUAL_HOME, type Window } from '@/core/record/zone';
import type { Desk } from '@/state/desk';

import { useDraftLight } from '../shared/useDraftLight';

/** What days of a group are shaped from: its lamp, mix and light at the chosen coral as they are, and when somebody is home. */
export function useWanted(desk: Desk) {
  const { doc, zone, spotIndex } = desk;
  const kind = desk.lampKind!;
  const drafted = useDraftLight(desk);
  const { groups, light } = drafted;
  const index = groups.findIndex((g) => g.groupId === desk.group!.id);
  const now = groups[index]!;
  const par = light !== null && spotIndex >= 0 ? light.par[index]![spotIndex]! : null;
  const ownDli = par ? dli(lampDay(kind, now.threads, now.day), par) : 0;
  const lookedAt = ZONE_KINDS[zone.kind].lookedAt;
  const home = zone.home ?? USUAL_HOME;
  const base = useMemo(
    () => (par && baseOf(kind, now.threads, par)) ?? desk.plate?.mix ?? {},
    [kind, now.threads, desk.plate, par],
  );
  const others = useMemo(
    () =>
      lookedAt
        ? []
        : lookedAtDays(
            doc,
            doc.zones.filter((z) => z.id !== zone.id),
          ),
    [lookedAt, doc, zone.id],
  );
  /** What is asked of the shapers for some light a day. @param lit hours that are given; null = as long as it takes */
  const inputFor = (wantedDli: number, lit: Window | null): PatternsInput | null =>
    par && wantedDli > 0
      ? {
          ...{ kind, base, home, lit: lookedAt ? lit : null, others, lookedAt, wantedDli, par },
          capShare: now.day.capShare,
          easingShare: now.day.easingShare,
          present: now.threads,
        }
      : null;
  return { ...drafted, now, ownDli, lookedAt, home, others, inputFor };
}
