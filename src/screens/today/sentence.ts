import { type Judgement } from '@/core/case/judgement';
import { verdict } from '@/core/case/verdict';
import { several } from '@/core/shape/counts';

import { SURE } from '../shared/words';

/** Today in one sentence a person would say. */
export function todaySentence(input: {
  /** of what runs; null while its light is not known */
  judged: Judgement | null;
  tenants: { one: string; many: string };
  /** names of groups of which nothing is known */
  unknown: readonly string[];
  groups: number;
  lamps: number;
  /** "12 days ago" */
  since: string | null;
  /** how it is known, and whether readings say otherwise */
  sure?: 'typedIn' | 'loaded' | 'proven' | 'doubted';
}): string {
  const { judged, tenants, unknown, groups, lamps, since, sure = 'typedIn' } = input;
  if (groups === 0) return 'No lamp hangs over this water yet.';
  if (since === null)
    return 'Nothing is known to be running. Type the day into the lamp, then say so on the sheet.';
  const runs = `${
    sure === 'doubted'
      ? `Readings say the ${lamps === 1 ? 'lamp does' : 'lamps do'} not run`
      : `The ${lamps === 1 ? 'lamp runs' : 'lamps run'}`
  } as ${SURE[sure]} ${since}${unknown.length > 0 ? `; of ${several(unknown)} nothing is known` : ''}.`;
  return judged?.stepsKnown && judged.corals.length > 0 ? `${verdict(judged, tenants)} ${runs}` : runs;
}
