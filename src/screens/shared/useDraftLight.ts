import { type Judgement, judgeWater } from '@/core/case/judgement';
import type { ZoneLight } from '@/core/case/light';
import type { LitGroup } from '@/core/case/lit';
import type { CivilDay } from '@/core/day/wallClock';
import { type Desk, draftOf } from '@/state/desk';
import { judgementOf, useCeiling, useDraftState } from '@/state/judgement';
import { useAccustomed, useCalibration, useLight } from '@/state/light';
import { useNowMs } from '@/state/time';

import { basisAt } from './words';

export interface DraftLight {
  groups: LitGroup[];
  light: ZoneLight | null;
  error: string | null;
  /** what its PAR is at the chosen coral: estimate or fitted, and how sure */
  basis: string;
  /** of the draft, or of another day of these lamps; null while the light is not known */
  judge: (day?: LitGroup[]) => Judgement | null;
  /** of levels that would be the brightest of a day */
  judgeMix: (levels: number[][]) => Judgement | null;
}

/** The draft of the zone on the desk, lit: the plain day, or that of a date. */
export function useDraftLight(desk: Desk, on: CivilDay | null = null): DraftLight {
  const groups = draftOf(desk, on);
  const calibration = useCalibration(desk.bundle, desk.zone);
  const { light, error } = useLight(groups, desk.zone, calibration);
  const nowMs = useNowMs();
  const accustomed = useAccustomed(desk.zone, desk.bundle, calibration, nowMs);
  const { state, ceiling, usedToIt } = useDraftState(desk, nowMs);
  const basis = basisAt(calibration, light, groups, desk.spotIndex);
  const school = useCeiling();
  // another day than the draft is none that runs
  const judge = (day?: LitGroup[]) =>
    light &&
    judgementOf(
      ...([day ? 'draft' : state, desk.zone, day ?? groups, light, calibration] as const),
      accustomed?.perSpot ?? null,
      day ? school : ceiling,
      usedToIt,
    );
  const judgeMix = (levels: number[][]) =>
    light &&
    judgeWater({
      state: 'mix',
      zone: desk.zone,
      groups,
      light,
      cal: calibration,
      accustomed: accustomed?.perSpot ?? null,
      ceiling,
      usedToIt,
      levels,
    });
  return { groups, light, error, basis, judge, judgeMix };
}
