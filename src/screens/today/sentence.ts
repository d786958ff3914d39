import type { SpotSafety } from '@/core/case/safety';
import { CEILINGS, DISASTER } from '@/core/easing/accustomed';

import { inWords, SURE, times } from '../shared/words';

/** Today in one sentence a person would say. */
export function todaySentence(input: {
  safety: readonly SpotSafety[];
  spotNames: readonly string[];
  /** a ceiling as it holds at a spot; absent = as for corals */
  takes?: (spot: number, ceiling: number) => number;
  /** names of groups of which nothing is known */
  unknown: readonly string[];
  groups: number;
  /** "12 days ago" */
  since: string | null;
  /** how it is known, and whether readings say otherwise */
  sure?: 'typedIn' | 'loaded' | 'proven' | 'doubted';
}): string {
  const {
    safety,
    spotNames,
    unknown,
    groups,
    since,
    sure = 'typedIn',
    takes = (_, ceiling) => ceiling,
  } = input;
  if (groups === 0) return 'No lamp hangs over this water yet.';
  if (since === null)
    return 'Nothing is known to be running. Type the day into the lamp, then say so on the sheet.';
  const runs = `${sure === 'doubted' ? 'Readings say the lamps do not run' : 'The lamps run'} as ${SURE[sure]} ${since}${
    unknown.length > 0 ? `; of ${unknown.join(' and ')} nothing is known` : ''
  }.`;
  if (safety.length === 0) return runs;
  const over = safety
    .filter((s) => s.ratio > takes(s.spot, CEILINGS.usual))
    .sort((a, b) => b.ratio - a.ratio);
  const worst = over[0];
  if (worst) {
    const rest = over.length - 1;
    return `${spotNames[worst.spot]} gets ${times(worst.ratio)} what it is used to${rest > 0 ? ` and ${inWords(rest)} more too much` : ''}: ${
      worst.ratio > takes(worst.spot, DISASTER) ? 'lower the cap tonight' : 'ease it in'
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
