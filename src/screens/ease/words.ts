import { counted, plural } from '@/core/shape/counts';
import { beyondCeiling } from '@/core/case/beyond';
import type { EaseAnswer, EaseCourse } from '@/core/case/easePlan';
import type { EasingMethod } from '@/core/record/history';
import type { Zone } from '@/core/record/zone';
import { ceilingOf, livesByLight } from '@/core/record/needs';
import { daysBetween, shortDate } from '@/state/time';

import { times, usedOf } from '../shared/words';

export const METHOD_WORDS: Record<EasingMethod, string> = {
  cap: 'By the cap',
  blend: 'From one day to the other',
  circuits: 'Circuit by circuit',
  hours: 'By hours',
  height: 'Hung higher, then lowered',
  places: 'Coral low first',
};

export const METHOD_NOTES: Record<EasingMethod, string> = {
  cap: 'The new day runs from the first step on, dimmed by the cap. One number each time.',
  blend: 'The old day goes over into the new one, mix and all: the whole table each time.',
  circuits: 'The first circuit by growing hours, then the next. Few numbers each time.',
  hours:
    'Short days in the middle of the lamp’s hours, longer at each step. Each is as bright as the whole day will be.',
  height: 'The lamps hang higher at first and come down. No number is typed at all.',
  places: 'The lamps stay as they are; the coral climbs through places of this tank’s own light.',
};

/** The page in one sentence. */
export function easeSentence(answer: EaseAnswer, zone: Zone, ceiling: number, today: string): string {
  const limit = answer.limits[0];
  if (!limit) return 'There is nobody here who could mind.';
  const who = zone.spots[limit.spot]!.name;
  const bears = ceilingOf(zone.spots[limit.spot]!, ceiling);
  const once = `Made at once, ${who} would get ${usedOf({ ...limit, ceiling: bears })}`;
  if (limit.ratio <= bears && !answer.refused && answer.steps.length <= 1)
    return `${once}: within the ceiling, no easing in is needed.`;
  if (answer.refused || !answer.course)
    return `${once}. ${answer.refused ? `No plan: ${answer.refused}.` : ''}`;
  const last = answer.itself ? answer.itself.days : daysBetween(today, answer.steps.at(-1)!.date);
  const over = beyondCeiling(answer.course, zone, ceiling, today);
  const range = answer.daysRange;
  const span =
    range && range[0] < range[1]
      ? `${plural(last, 'day')} (${range[0]} to ${range[1]}, by how fast corals follow)`
      : plural(last, 'day');
  return `${once}. ${answer.itself ? `The lamp rises by itself over ${span}` : `In ${counted(answer.steps.length, 'step')} it takes ${span}`}${over ? `, but ${zone.spots[over.spot]!.name} then still gets ${times(over.ratio)} on ${shortDate(over.date)}` : ` and nobody gets more than ${times(answer.course.worst.ratio)}`}.`;
}

/** What the plan makes of light that may be more than is reckoned; '' where it is known well enough. */
export function doubtWords({ doubt }: EaseAnswer, zone: Zone): string {
  if (!doubt) return '';
  const who = zone.spots[doubt.spot]!.name;
  const more = `${who} may get ${Math.round(doubt.share * 100)} % more than reckoned`;
  if (!doubt.allowed)
    return `${more}, and the plan does not allow for that: read its light at the first step.`;
  const less = doubt.daysLess ?? 0;
  return `${more}, and the plan allows for that.${less > 0 ? ` Readings under this light could make it ${plural(less, 'day')} shorter.` : ''}`;
}

/** When everybody is used to it. */
export function settledWords(course: EaseCourse, zone: Zone): string {
  const days = course.settled.flatMap((d, s) => (livesByLight(zone.spots[s]!) ? [{ d, s }] : []));
  if (days.length === 0) return '';
  const never = days.find((x) => x.d === null);
  if (never) return `${zone.spots[never.s]!.name} is not used to it for months yet.`;
  const last = days.reduce((m, x) => (x.d! > m.d! ? x : m));
  return last.d === 0
    ? 'Everybody is used to this light.'
    : `${zone.spots[last.s]!.name} is the last to be used to it (within 5 %), in ${plural(last.d!, 'day')}.`;
}
