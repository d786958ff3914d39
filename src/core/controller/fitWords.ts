import { formatHours } from '../day/clock';
import { plural } from '../shape/counts';
import { finePercent } from '../shape/percent';
import { dims } from '../spectrum/controls';
import type { FitAnswer, FitAsk } from './answers';
import { COUNT_WORDS } from './counts';
import type { ByHand, FitAim, FitWeights } from './fitTerms';

export const FIT_AIMS: Readonly<Record<FitAim, string>> = {
  own: 'As you weigh it',
  truest: 'Truest',
  sameDose: 'Same light a day',
  sameEvening: 'Same evening',
  fewest: 'Fewest points',
};

/** What can be weighed, and in which words. */
export const FIT_TERMS: Readonly<Record<keyof FitWeights, string>> = {
  hours: 'first and last light',
  dose: 'light a day',
  look: 'the look while somebody is home',
  peak: 'the peak',
  error: 'every single moment',
  turn: 'few points',
};

/** What is weighed by hand, in a line: "light a day counts for much; few points for nothing". */
export const weighedWords = (byHand: ByHand): string =>
  (Object.keys(FIT_TERMS) as (keyof FitWeights)[])
    .filter((t) => (byHand[t] ?? 'usual') !== 'usual')
    .map((t) => `${FIT_TERMS[t]} ${COUNT_WORDS[byHand[t]!]}`)
    .join(', ');

/** Less than this earlier or later is not worth naming, min. */
const LEAST_MIN = 5;

/** What an answer keeps and loses, in a few sentences. */
export function fitWords(
  { terms: t, capShare }: FitAnswer,
  ask: Pick<FitAsk, 'capShare' | 'controller' | 'kind' | 'wired'>,
): string {
  const light = (name: string, off: number) =>
    Math.abs(off) < LEAST_MIN
      ? null
      : `${name} ${formatHours(Math.abs(off) / 60)} ${off > 0 ? 'later' : 'earlier'}`;
  const hours = [light('first light', t.firstMin), light('last light', t.lastMin)].filter(Boolean);
  const share = (v: number) => `${(Math.abs(v) * 100).toFixed(Math.abs(v) < 0.0995 ? 1 : 0)} %`;
  const small = 0.005;
  const parts = [
    hours.length > 0 ? hours.join(', ') : 'first and last light as wanted',
    Math.abs(t.doseShare) < small
      ? 'the same light a day'
      : `${share(t.doseShare)} ${t.doseShare > 0 ? 'more' : 'less'} light a day`,
    t.lookShare < small
      ? 'the look while somebody is home as wanted'
      : `${share(t.lookShare)} of the light while somebody is home is another`,
    Math.abs(t.peakShare) < small
      ? null
      : `its peak ${share(t.peakShare)} ${t.peakShare > 0 ? 'higher' : 'lower'}`,
    t.errorShare < small ? null : `at most ${share(t.errorShare)} of the peak off at any moment`,
  ].filter(Boolean);
  const what = ask.controller.sets === 'switch' && !dims(ask.wired ?? ask.kind) ? 'time' : 'point';
  const cap =
    capShare === ask.capShare
      ? ''
      : ` The cap gives back the dose: ${finePercent(capShare)} in place of ${finePercent(ask.capShare)}.`;
  const told = parts.join('; ');
  return `${plural(t.turns, what)}: ${told}.${cap}`;
}
