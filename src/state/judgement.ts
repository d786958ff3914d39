import { type Judgement, judgeWater, type State } from '@/core/case/judgement';
import type { Calibration } from '@/core/case/calibration';
import type { ZoneLight } from '@/core/case/light';
import type { LitGroup } from '@/core/case/lit';
import type { DayLight } from '@/core/easing/accustomed';
import type { Zone } from '@/core/record/zone';

import { remembered } from './remembered';

/** The judgement of a water under a day, made once for all that show it. */
export const judgementOf = remembered(
  (
    state: State,
    zone: Zone,
    groups: readonly LitGroup[],
    light: ZoneLight,
    cal: Calibration,
    accustomed: readonly DayLight[] | null,
  ): Judgement => judgeWater({ state, zone, groups, light, cal, accustomed }),
);
