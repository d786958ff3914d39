import { aboveFloor, type DayLight } from '../easing/accustomed';
import { type Calibration, type ChannelPart, ratioBandShare } from './calibration';
import type { ByChannel } from './light';
import type { LitGroup } from './lit';
import type { UsedLight } from './replay';

export type Measure = 'dli' | 'peak';

/** What every channel gives of a place's light. */
export const partsOf = (groups: readonly LitGroup[], channels: ByChannel, measure: Measure): ChannelPart[] =>
  groups.flatMap((g, i) =>
    g.lampKind.channels.map((c, k) => ({
      ...{ groupId: g.groupId, channelId: c.id },
      light: channels[measure][i]![k]!,
    })),
  );

/**
 * Half width of the 90 % band of a step ratio, as a share of it; 0 where what is used to is said and not replayed.
 * @param parts what every channel gives of the new light, by the same measure
 */
export const stepBandShare = (
  cal: Calibration,
  parts: () => readonly ChannelPart[],
  light: DayLight,
  used: UsedLight,
  floorUmol: number,
  measure: Measure,
): number =>
  used.made
    ? ratioBandShare(cal, parts(), used.made[measure], (used.taken ?? used)[measure], [
        aboveFloor(light, floorUmol, measure),
        aboveFloor(used, floorUmol, measure),
      ])
    : 0;
