import { type ZoneDay } from '@/core/case/light';
import type { LitGroup } from '@/core/case/lit';
import { zoneLitHours } from '@/core/case/light';
import { formatHours, formatTime } from '@/core/day/clock';
import { percent } from '@/core/shape/percent';

import { mol, plural, umol } from '../shared/words';

/** What stands under the title of Day: which lamps, how the draft stands to what runs, and the cap. */
export const dayUnder = (of: {
  groupName: string;
  /** differences between draft and running; null = nothing is known to run */
  changes: number | null;
  /** null = the lamp does not dim */
  capShare: number | null;
}): string =>
  [
    of.groupName,
    of.changes === null
      ? 'nothing known to be running'
      : of.changes === 0
        ? 'as it runs'
        : `not in the lamp yet: ${plural(of.changes, 'change')}`,
    of.capShare === null ? 'on or off' : `cap ${percent(of.capShare)}`,
  ].join(' · ');

/** The figures of a day at a coral, after its dose. */
export const dayFiguresWords = (
  day: ZoneDay,
  groups: readonly LitGroup[],
  spotName: string,
): { dose: string; rest: string } => ({
  dose: `${mol(day.dli)} mol`,
  rest: ` a day at ${spotName}; lit ${formatHours(zoneLitHours(groups))}; peak ${umol(day.peak)} µmol${day.peak > 0 ? ` at ${formatTime(day.peakMinute)}` : ''}.`,
});

/** A distant storm of a date, in words; null = there is none. */
export const stormWords = (flashes: readonly { atS: number; share: number }[]): string | null =>
  flashes.length > 0
    ? `A distant storm from ${formatTime(flashes[0]!.atS / 60)} to ${formatTime(flashes.at(-1)!.atS / 60)}: ${plural(flashes.length, 'flash', 'flashes')} of at most ${percent(Math.max(...flashes.map((f) => f.share)))} of the mix, too short to count as light; the marks under the line.`
    : null;
