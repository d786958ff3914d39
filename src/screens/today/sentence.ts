import type { EaseCourse } from '@/core/case/easePlan';
import type { SpotSafety } from '@/core/case/safety';
import { livesByLight, type Zone } from '@/core/case/types';
import { CEILINGS, DISASTER } from '@/core/easing/accustomed';
import { shortDate } from '@/state/time';

import { inWords, plural, times } from '../shared/words';

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

/** Today in one sentence a person would say. */
export function todaySentence(input: {
  safety: readonly SpotSafety[];
  spotNames: readonly string[];
  /** names of groups of which nothing is known */
  unknown: readonly string[];
  groups: number;
  /** "12 days ago" */
  since: string | null;
}): string {
  const { safety, spotNames, unknown, groups, since } = input;
  if (groups === 0) return 'No lamp hangs over this water yet.';
  if (since === null)
    return 'Nothing is known to be running. Type the day into the lamp, then say so on the sheet.';
  const runs = `The lamps run as typed in ${since}${
    unknown.length > 0 ? `; of ${unknown.join(' and ')} nothing is known` : ''
  }.`;
  if (safety.length === 0) return runs;
  const over = safety.filter((s) => s.ratio > CEILINGS.usual).sort((a, b) => b.ratio - a.ratio);
  const worst = over[0];
  if (worst) {
    const rest = over.length - 1;
    return `${spotNames[worst.spot]} gets ${times(worst.ratio)} what it is used to${rest > 0 ? ` and ${inWords(rest)} more too much` : ''}: ${
      worst.ratio > DISASTER ? 'lower the cap tonight' : 'ease it in'
    }. ${runs}`;
  }
  const all =
    safety.length === 1
      ? `${spotNames[safety[0]!.spot]} is`
      : safety.length === 2
        ? 'Both are'
        : `All ${inWords(safety.length)} are`;
  return `${all} within what ${safety.length === 1 ? 'it is' : 'they are'} used to. ${runs}`;
}
