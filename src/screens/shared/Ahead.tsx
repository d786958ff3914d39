import { plural } from '@/core/shape/counts';
import type { EaseCourse } from '@/core/case/easePlan';
import { livesByLight } from '@/core/record/needs';
import type { Zone } from '@/core/record/zone';
import { type Situation, useForecast } from '@/state/ease';
import { localDate, shortDate } from '@/state/time';
import { Type } from '@/ui/Type';

import { times } from './words';

/** The coming weeks: what rises, when everybody is used to it. */
export function aheadWords(course: EaseCourse, zone: Zone, today: string): string {
  const { worst, ratios } = course;
  const spots = zone.spots.flatMap((s, i) => (livesByLight(s) ? [i] : []));
  if (spots.length === 0) return '';
  const days = spots.map((s) => ({ s, d: course.settled[s] ?? null }));
  const last = days.reduce((a, b) => ((b.d ?? Infinity) > (a.d ?? Infinity) ? b : a));
  const name = zone.spots[last.s]!.name;
  const used =
    last.d === 0
      ? 'Everybody stays used to this light in the coming weeks.'
      : last.d === null
        ? `${name} is not used to its light within six weeks.`
        : `In ${plural(last.d, 'day')} the last of them, ${name}, is used to it.`;
  const now = Math.max(...spots.map((s) => ratios[0]![s]!));
  // a step still to come that is larger than today's is worth a word
  return worst.ratio > now * 1.02 && worst.date > today
    ? `At most ${times(worst.ratio)} on ${shortDate(worst.date)} at ${zone.spots[worst.spot]!.name}. ${used}`
    : used;
}

/** The coming weeks in a sentence: what runs, and the steps still to come. */
export function Ahead(s: Situation) {
  const course = useForecast(s);
  // its line is kept until it is there: what lies below does not move under a finger
  if (!course)
    return s.zone.spots.some(livesByLight) ? (
      <Type kind="label" roomLines={1} aria-hidden>
        {''}
      </Type>
    ) : null;
  return (
    <Type kind="label" testID="ahead">
      {aheadWords(course, s.zone, localDate(s.nowMs, s.zone.timeZone))}
    </Type>
  );
}
