import type { Calibration } from '@/core/case/calibration';
import { levelsOfGroups, type ZoneLight } from '@/core/case/light';
import type { LitGroup } from '@/core/case/lit';
import { brightestMinute, type Plateau, plateaus } from '@/core/case/plateaus';
import { type Desk, draftOf, runningOf } from '@/state/desk';
import { useCalibration, useLight } from '@/state/light';
import { changeSettings, useSettings } from '@/state/settings';
import { doseShares, sharesAt } from '@/core/case/rows';
import { type FieldState, useField } from '@/state/tank';
import { useNowMs, wallMinute } from '@/state/time';

export type Whose = 'running' | 'draft';
export type What = 'now' | 'plateau' | 'dli';

/** One light over the tank: whose lamps, which moment or day. */
export interface ChosenLight {
  whose: Whose;
  groups: LitGroup[];
  /** light at the spots */
  light: ZoneLight | null;
  error: string | null;
  field: FieldState;
  /** what each row of the field counts for: PAR now or at the plateau, or mol a day */
  shares: Float64Array;
  /** levels at the moment; at the plateau for a day's dose */
  levels: number[][];
  minute: number;
}

export interface TankLight extends ChosenLight {
  cal: Calibration;
  what: What;
  list: Plateau[];
  /** the light it is set against; null = none */
  against: ChosenLight | null;
  againstName: string;
}

/** Which light the chart speaks of, as chosen and remembered. */
export function useTankLight(desk: Desk): TankLight {
  const { bundle, zone } = desk;
  const nowMs = useNowMs();
  const cal = useCalibration(bundle, zone);
  const chosen = useSettings((s) => s.tank);
  const running = runningOf(desk, nowMs).groups;
  const draft = draftOf(desk);
  const whose: Whose = chosen.whose === 'running' && running.length === 0 ? 'draft' : chosen.whose;
  const own = whose === 'running' ? running : draft;
  const other = whose === 'running' ? draft : running;
  const { light, error } = useLight(own, zone, cal);
  const set = useLight(other, zone, cal);
  const field = useField(own, zone, cal);
  const list = plateaus(own);
  const now = wallMinute(nowMs, zone.timeZone);
  const plateau = list.find((p) => p.minute === chosen.minute)?.minute ?? brightestMinute(light, own);
  const minute = chosen.what === 'now' ? now : plateau;

  const lightOf = (
    groups: LitGroup[],
    at: number,
    whoseLight: Whose,
    spots: { light: ZoneLight | null; error: string | null },
    cells: FieldState,
  ): ChosenLight => ({
    whose: whoseLight,
    groups,
    ...spots,
    field: cells,
    shares: chosen.what === 'dli' ? doseShares(groups, cal) : sharesAt(groups, at, cal),
    levels: levelsOfGroups(groups, at),
    minute: at,
  });
  const otherPlateau = list.find((p) => p.minute === chosen.againstMinute);
  const againstOther = chosen.against === 'other' && other.length > 0;
  const otherField = useField(againstOther ? other : own, zone, cal);
  const against = againstOther
    ? lightOf(
        other,
        chosen.what === 'now' ? now : brightestMinute(set.light, other),
        whose === 'running' ? 'draft' : 'running',
        set,
        otherField,
      )
    : chosen.against === 'plateau' && otherPlateau && chosen.what === 'plateau'
      ? lightOf(own, otherPlateau.minute, whose, { light, error }, field)
      : null;
  const againstName = againstOther
    ? whose === 'running'
      ? 'the draft'
      : 'what runs'
    : against
      ? otherPlateau!.name
      : '';
  const mine = lightOf(own, minute, whose, { light, error }, field);
  return { ...mine, cal, what: chosen.what, list, against, againstName };
}

export const chooseTank = (change: Partial<ReturnType<typeof useSettings.getState>['tank']>): void =>
  changeSettings({ tank: { ...useSettings.getState().tank, ...change } });
