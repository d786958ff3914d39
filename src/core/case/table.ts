import { formatTime } from '../day/clock';
import { parOf } from '../day/day';
import type { ZoneLight } from './light';
import type { LitGroup } from './lit';

/** What is typed into a lamp: a row per thread, a column per channel, in the lamp's own percents before its cap. */
export interface LampTable {
  times: string[];
  channels: { name: string; percents: number[] }[];
  capPercent: number;
}

const percent = (share: number) => Math.round(share * 10_000) / 100;

export function lampTable(group: LitGroup): LampTable {
  return {
    times: group.day.knots.map((k) => formatTime(k.minute)),
    channels: group.lampKind.channels.map((c, i) => ({
      name: c.name,
      percents: group.day.knots.map((k) => percent(k.levels[i]!)),
    })),
    capPercent: percent(group.day.capShare),
  };
}

/** The largest change in PAR that rounding to the lamp's steps makes at a spot, over all threads. */
export function roundingEffect(
  group: LitGroup,
  light: ZoneLight,
  groupIndex: number,
  spot: number,
): { umol: number; time: string } {
  let worst = { umol: 0, time: '' };
  group.day.knots.forEach((knot) => {
    const thread = group.threads.find((t) => t.minute === knot.minute)!;
    const difference = group.lampKind.channels.map(
      (c, i) => knot.levels[i]! - (thread.mix[c.id] ?? 0) * thread.strengthShare,
    );
    const umol = group.day.capShare * parOf(difference, light.par[groupIndex]![spot]!);
    if (Math.abs(umol) > Math.abs(worst.umol)) worst = { umol, time: formatTime(knot.minute) };
  });
  return worst;
}
