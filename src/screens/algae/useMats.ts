import { useSame } from '@/ui/useSame';
import { useMemo } from 'react';

import { type LitGroup, runningAt } from '@/core/case/lit';
import {
  laidMats,
  laidWays,
  litMats,
  type LitMat,
  type LoggedMat,
  loggedMat,
  overlitMats,
} from '@/core/refugium/mats';
import { AS_NOW, pastLight } from '@/core/refugium/past';
import type { Overlit } from '@/core/refugium/overlit';
import { type Desk, litNow } from '@/state/desk';
import { useAccustomed, useCalibration, useLight } from '@/state/light';
import { utcIso } from '@/state/time';

/** A mat with the light it has and what its harvests say. */
export type MatState = LitMat & LoggedMat & { overlit: Overlit | null };

export interface Mats {
  mats: MatState[];
  groups: LitGroup[];
  whose: 'running' | 'draft';
  error: string | null;
  pending: boolean;
}

const HOUR_MS = 3_600_000;

/** The algae of the water on the desk: light over each mat, how it feeds them, and what their harvests say. */
export function useMats(desk: Desk, nowMs: number): Mats {
  const { zone, bundle } = desk;
  const cal = useCalibration(bundle, zone);
  const groups = useSame(litNow(desk, nowMs));
  const lived = useAccustomed(zone, bundle, cal, nowMs);
  const whose = runningAt(bundle.history, zone, utcIso(nowMs)).length > 0 ? 'running' : 'draft';
  const laid = useMemo(() => laidMats(zone), [zone]);
  const { light, error } = useLight(groups, laid.zone, cal);
  const lit = useMemo(() => litMats(zone, laid, light, groups, cal), [zone, laid, light, groups, cal]);
  const ways = useMemo(() => laidWays(zone, lit), [zone, lit]);
  const out = useLight(groups, ways.laid.zone, cal);
  const over = useMemo(() => overlitMats(lit, ways, out.light, groups), [lit, ways, out.light, groups]);
  // to the hour: harvests and tests are looked back at by days
  const hour = Math.floor(nowMs / HOUR_MS);
  const logged = useMemo(
    () =>
      lit.map((m) =>
        loggedMat(m, bundle.log, (hour + 1) * HOUR_MS, ({ fromUtc, toUtc }) =>
          m.here && lived
            ? pastLight(lived.changes, zone.spots.indexOf(m.spot), m.here, fromUtc, toUtc)
            : AS_NOW,
        ),
      ),
    [lit, lived, zone, bundle.log, hour],
  );
  const mats = useMemo(
    () => lit.map((m, i): MatState => ({ ...m, ...logged[i]!, overlit: over[i]! })),
    [lit, logged, over],
  );
  return { mats, groups, whose, error, pending: light === null && lit.length > 0 && groups.length > 0 };
}
