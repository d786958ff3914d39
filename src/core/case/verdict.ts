import { allOf, capital, inWords, several } from '../shape/counts';
import {
  byGravity,
  type CoralJudgement,
  type Judgement,
  largestStep,
  type Place,
  type State,
  type Step,
} from './judgement';

/** The words of a judgement: one wording for every place that says something of too much and too little light. */

/** From half a tenth of doubt on a second place says nothing. Mark: rule of thumb. */
const COARSE = 0.05;
/**
 * A step ratio, "×" after it; beyond 10 it says so. As coarse as its doubt: two places where it is known, else one.
 * @param bandShare half width of its 90 % band, as a share of it
 */
export const times = (ratio: number, bandShare = 0): string =>
  ratio >= 10 ? 'over 10 ×' : `${ratio.toFixed(ratio * bandShare < COARSE ? 2 : 1)} ×`;
/** A step as coarse as its doubt, but never so coarse that it would stand on the other side of what may be changed at once. */
export const timesOf = ({
  ratio,
  bandShare,
  ceiling,
}: Pick<Step, 'ratio' | 'bandShare' | 'ceiling'>): string => {
  const over = (v: number) => v > ceiling + 1e-9;
  return over(Number(ratio.toFixed(1))) === over(ratio) ? times(ratio, bandShare) : times(ratio);
};

/** Each place with a mark told apart by its shape. */
export const PLACES: Record<Place, { sign: string; words: string }> = {
  below: { sign: '▽', words: 'too little' },
  perhapsBelow: { sign: '▽', words: 'perhaps too little' },
  within: { sign: '○', words: 'right' },
  perhapsAbove: { sign: '▲', words: 'perhaps too much' },
  above: { sign: '▲', words: 'too much' },
};

export const OF_STATE: Record<State, string> = {
  runs: 'as it runs',
  draft: 'as drafted',
  mix: 'as a day’s brightest',
  water: 'in that water',
};

/** A step ratio and what it is of. */
export const timesUsed = (ratio: number, whom = 'it is', bandShare = 0): string =>
  `${times(ratio, bandShare)} what ${whom} used to`;

/** A ratio's doubt is named from here on: below it the two printed places are known. */
const KNOWN = 0.02;
/** "± 12 %" of a ratio, or '' where its two places are known. */
export const giveOrTake = (share: number): string => (share < KNOWN ? '' : `± ${percentOf(share)} %`);
const bandOf = (share: number) => giveOrTake(share).replace(/.+/, ' ($&)');
/** A step beyond what a tenant is used to, with its doubt in brackets. */
export const usedOf = (step: Pick<Step, 'ratio' | 'bandShare' | 'ceiling'>): string =>
  `${timesOf(step)} what it is used to${bandOf(step.bandShare)}`;
/** A coral's step with its doubt, under words that say of what state it is; null when it has none. */
export const ratioOf = ({ step }: CoralJudgement): string | null =>
  step && `${timesOf(step)}${bandOf(step.bandShare)}`;
/** A coral's step with its doubt, and of what state it is; null when it has none. */
export const stepOf = ({ step }: CoralJudgement, state: State): string | null =>
  step && `${usedOf(step)}, ${OF_STATE[state]}`;

/** What those who live here are called: "coral", "corals". */
interface Tenants {
  one: string;
  many: string;
}

/** So many are named on a side of a sentence, and of many one; where there are more, Tank's list has them all. */
const MOST_NAMED = 5;
const MANY = 12;

/** Who has too much or too little for what it wants, first who surely has; '' when all that are judged have what they want. */
export function offWords({ corals }: Judgement): string {
  const most = corals.filter((c) => c.placed && c.placed.place !== 'within').length > MANY ? 2 : MOST_NAMED;
  const at = (place: Place) => {
    const names = corals.filter((c) => c.placed?.place === place).map((c) => c.name);
    return names.length > most ? several(names, most) : names.join(', ');
  };
  const side = (sure: Place, unsure: Place) =>
    at(sure) === ''
      ? at(unsure) && `${PLACES[unsure].words} at ${at(unsure)}`
      : `${PLACES[sure].words} at ${at(sure)}${at(unsure) && `, perhaps at ${at(unsure)}`}`;
  const [above, below] = [side('above', 'perhapsAbove'), side('below', 'perhapsBelow')];
  const sureBelow = at('below') !== '' && at('above') === '';
  return (sureBelow ? [below, above] : [above, below]).filter(Boolean).join('; ');
}

/** A peak of lamps that are only on or off: no hours and no cap ease that in. */
export const peakStays = ({ dims, worst }: Pick<Judgement, 'dims' | 'worst'>): boolean =>
  !dims && worst?.step?.by === 'peak';

/** Whose step is too large and what to do; '' when none is, or none is known. */
export function largeWords({ corals, state, dims }: Judgement): string {
  const over = corals.filter((c) => c.step?.large).sort((a, b) => byGravity(a.step!, b.step!));
  const worst = over[0];
  if (!worst) return '';
  const { by, harmful } = worst.step!;
  const others = over.length - 1;
  const more =
    others > 0
      ? `${state === 'runs' ? '' : ','} and ${inWords(others)} ${others === 1 ? 'other' : 'others'} too much at once`
      : '';
  const of = `${timesOf(worst.step!)} what it is used to`;
  if (state === 'runs') {
    const act = harmful ? (dims ? 'lower the cap tonight' : 'give less light tonight') : 'ease it in';
    return `${worst.name} gets ${of}${more}: ${act}`;
  }
  const state_ = state === 'mix' ? ` ${OF_STATE.mix}` : '';
  const would = `${worst.name} would get ${of}${state_}, by ${by === 'DLI' ? 'the day’s light' : 'its peak'}${more}`;
  if (state === 'water') return would;
  return `${peakStays({ dims, worst }) ? 'Make it darker first' : 'Ease this in'}: ${would}`;
}

/**
 * The verdict of a water in one sentence, the gravest first. It speaks of steps and of ranges, and says what it could not look at.
 */
export function verdict(j: Judgement, who: Tenants): string {
  const { corals, state, worst, stepsKnown } = j;
  if (corals.length === 0) return 'No spot to judge.';
  const off = offWords(j);
  if (!stepsKnown)
    return `What the ${who.many} are used to is being replayed.${off ? ` ${capital(off)}.` : ''}`;
  const and = off ? `; ${off}` : '';
  if (j.usedToIt && state === 'draft')
    return `As you say they are used to it, typing it in is no step for them${and}.`;
  // who is named already is not named again
  const andIt = corals.length === 1 ? and.replaceAll(` at ${corals[0]!.name}`, ' for it') : and;
  const large = largeWords(j);
  if (large) return `${large}${andIt}.`;
  const stepped = corals.filter((c) => c.step);
  if (!worst) return off ? `${capital(off)}.` : `Nobody here lives by light.`;
  if (state !== 'runs') {
    // what already has too much is not called safe for rising little
    const rises = corals.some((c) => c.placed?.place === 'above' && (c.step?.ratio ?? 0) > 1);
    const most = `at most ${timesOf(largestStep(j)!)} what any ${who.one} is used to`;
    return `${rises ? 'No step is large' : 'Safe to type in at once'}: ${most}${and}.`;
  }
  const all = stepped.length === 1 ? `${stepped[0]!.name} is` : `${capital(allOf(stepped.length))} are`;
  return `${all} within what ${stepped.length === 1 ? 'it is' : 'they are'} used to${andIt}.`;
}

/** Who stands elsewhere than before, in words; '' when nobody does. */
export function movedWords(before: Judgement, after: Judgement): string {
  return after.corals
    .flatMap((c, i) => {
      const was = before.corals[i]?.placed?.place;
      const is = c.placed?.place;
      return was && is && was !== is ? [`${c.name} from ${PLACES[was].words} to ${PLACES[is].words}`] : [];
    })
    .join('; ');
}

/** What readings did to a judgement: how far the doubt fell at the lit spots, and whom it moved; '' where nothing is lit. */
export function fittedWords(before: Judgement, after: Judgement, who: Tenants): string {
  // in the dark there is nothing to be unsure of
  const lit = after.corals.filter((c, i) => c.peak.umol > 0 && before.corals[i]);
  if (lit.length === 0) return '';
  const doubt = ({ corals }: Judgement) =>
    lit.reduce((sum, c) => sum + corals[c.spot]!.peak.bandShare, 0) / lit.length;
  const [was, is] = [percentOf(doubt(before)), percentOf(doubt(after))];
  const fell = was === is ? `the mean ± stays at ${is} %` : `the mean ± went from ${was} to ${is} %`;
  const moved = movedWords(before, after);
  if (!after.corals.some((c) => c.placed)) return `At your spots ${fell}.`;
  return `At your ${who.many} ${fell}; ${moved === '' ? 'each is judged as before' : `judged anew: ${moved}`}.`;
}
const percentOf = (share: number) => Math.round(share * 100);

/** How many have what they want, and who has not: the verdict of a chart of light. */
export function rangeVerdict(j: Judgement, who: Tenants): string {
  const judged = j.corals.filter((c) => c.placed);
  const whose = OF_STATE[j.state];
  if (judged.length === 0) return `No ${who.one} is known here yet; the light is shown ${whose}.`;
  const right = judged.filter((c) => c.placed!.place === 'within').length;
  const all = judged.length;
  const off = offWords(j);
  if (!off)
    return `${all === 1 ? `The ${who.one} has the light it wants` : `${capital(allOf(all))} ${who.many} have the light they want`} at the day’s brightest, ${whose}.`;
  if (all === 1) return `At the day’s brightest, ${whose}: ${off}.`;
  const none = right > 0 ? capital(inWords(right)) : all === 2 ? 'Neither' : 'None';
  const have = right < 2 ? 'has what it wants' : 'have what they want';
  return `${none} of ${inWords(all)} ${who.many} ${have} at the day’s brightest, ${whose}: ${off}.`;
}
