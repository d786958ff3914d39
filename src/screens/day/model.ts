import { plural } from '@/core/shape/counts';
import { type ZoneDay, zoneLitHours } from '@/core/case/light';
import type { LitGroup } from '@/core/case/lit';
import { formatHours, formatTime } from '@/core/day/clock';
import { litSpan } from '@/core/day/day';
import { type Flash, flashesOn, stormMinute } from '@/core/day/extras';
import type { CivilDay } from '@/core/day/wallClock';
import type { Group } from '@/core/record/zone';
import { percent } from '@/core/shape/percent';

import { mol, umol } from '../shared/words';

/** What stands under the title of Day: which lamps, how the draft stands to what runs, and the cap. */
export const dayUnder = (of: {
  groupName: string;
  /** differences between draft and running; null = nothing is known to run */
  changes: number | null;
  /** its cap or strength, or that it has none */
  cap: string;
}): string =>
  [
    of.groupName,
    of.changes === null
      ? 'nothing known to be running'
      : of.changes === 0
        ? 'as it runs'
        : `not in the lamp yet: ${plural(of.changes, 'change')}`,
    of.cap,
  ].join(' · ');

/** The figures of a day at a coral, after its dose. */
export const dayFiguresWords = (
  day: ZoneDay,
  groups: readonly LitGroup[],
): { dose: string; rest: string } => ({
  dose: `${mol(day.dli)} mol`,
  rest: `; lit ${formatHours(zoneLitHours(groups))}; peak ${umol(day.peak)} µmol${day.peak > 0 ? ` at ${formatTime(day.peakMinute)}` : ''}`,
});

/** A distant storm of a date, in words; null = there is none. */
export const stormWords = (flashes: readonly { atS: number; share: number }[]): string | null =>
  flashes.length > 0
    ? `A distant storm from ${formatTime(flashes[0]!.atS / 60)} to ${formatTime(flashes.at(-1)!.atS / 60)}: ${plural(flashes.length, 'flash', 'flashes')} of at most ${percent(Math.max(...flashes.map((f) => f.share)))} of the mix, too short to count as light; the marks under the line.`
    : null;

/** The window shown: lit hours with an hour around them, at least ten hours; the whole day when it is mostly lit. */
export function windowOf(groups: readonly LitGroup[]): { from: number; to: number } {
  const span = litSpan(groups.map((g) => g.day));
  if (!span || span.end - span.start > 1200) return { from: 0, to: 1440 };
  const short = Math.max(0, 600 - (span.end - span.start)) / 2;
  return {
    from: Math.floor((span.start - 60 - short) / 60) * 60,
    to: Math.ceil((span.end + 60 + short) / 60) * 60,
  };
}

/** Flashes of a group's storm on a date, about its last light. */
export function stormOf(group: Group, on: CivilDay): Flash[] {
  const { weather } = group.extras ?? {};
  if (!weather || group.threads.length === 0) return [];
  return flashesOn(weather, on, stormMinute(group.threads));
}

/** The middle of the widest gap between threads that is not the night: where a new thread is wanted most. */
export function roomiestMinute(minutes: number[]): number {
  const sorted = [...minutes].sort((a, b) => a - b);
  if (sorted.length < 2) return sorted.length === 0 ? 720 : (sorted[0]! + 180) % 1440;
  let best = { gap: 0, middle: 720 };
  for (let i = 1; i < sorted.length; i += 1) {
    const gap = sorted[i]! - sorted[i - 1]!;
    if (gap > best.gap) best = { gap, middle: sorted[i - 1]! + gap / 2 };
  }
  const rounded = Math.round(best.middle / 5) * 5;
  return sorted.includes(rounded) ? Math.round(best.middle) : rounded;
}
