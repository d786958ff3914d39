import { useMemo } from 'react';

import { litNow, draftOf, type Desk } from '@/state/desk';
import { useCalibration, useLight } from '@/state/light';
import type { LitGroup } from '@/core/case/lit';
import type { ZoneLight } from '@/core/case/light';
import type { Zone } from '@/core/record/zone';

/** A water of the case as it is lit, whichever lies on the desk. */
export function useWaterLight(
  desk: Desk,
  zone: Zone,
  nowMs: number,
  as: 'running' | 'draft',
): { groups: LitGroup[]; light: ZoneLight | null } {
  const own = useMemo(() => ({ ...desk, zone }), [desk, zone]);
  const groups = as === 'running' ? litNow(own, nowMs) : draftOf(own);
  const cal = useCalibration(desk.bundle, zone);
  const { light } = useLight(groups, zone, cal);
  return { groups, light };
}
