import { EQUAL_DOSE, type Result } from '@/core/case/experiment';
import type { Difference } from '@/core/evidence/compare';
import { type Experiment, MEASURED } from '@/core/record/experiment';
import { plural } from '@/core/shape/counts';
import { percent } from '@/core/shape/percent';

const DAYS = 30;
/** A mean in tenths of its unit: growth a day as percent a month, anything else as it is. */
const tenths = (e: Experiment, mean: number): number =>
  Math.round(10 * (MEASURED[e.measure].grows ? 100 * (Math.exp(DAYS * mean) - 1) : mean));
/** A difference from a mean, between what is printed of both: growth as points a month. */
const by = (e: Experiment, from: number, v: number): string => {
  const apart = tenths(e, from + v) - tenths(e, from);
  return `${apart > 0 ? '+' : apart < 0 ? '−' : ''}${(Math.abs(apart) / 10).toFixed(1)}`;
};

/** One phase in a few words. */
export const meanWords = (e: Experiment, mean: number): string => {
  const { grows, unit } = MEASURED[e.measure];
  return [(tenths(e, mean) / 10).toFixed(1), grows ? '% a month' : unit].filter(Boolean).join(' ');
};

/** @param from the mean it differs from */
function differs(e: Experiment, from: number, d: Difference): string {
  const { grows, unit: of } = MEASURED[e.measure];
  const unit = grows ? ' points a month' : of === '' ? ' points' : ` ${of}`;
  const band = d.interval95
    ? ` (${by(e, from, d.interval95[0])} to ${by(e, from, d.interval95[1])} in 95 of 100 such experiments)`
    : ', and one fragment alone says nothing of chance';
  const chance = Math.max(1, Math.round(100 * d.p));
  return `${by(e, from, d.difference)}${unit}${band}. Chance alone would set them as far apart in ${d.p < 0.005 ? 'fewer than 1' : chance} of 100 deals`;
}

/** The answer, in plain sentences. */
export function resultWords(e: Experiment, { effect, back, phases }: Result): string {
  if (!effect) return 'Nothing can be compared before A and B are both measured.';
  const [a, b] = phases;
  const told = effect.p <= 0.05;
  const first = `B ${meanWords(e, b!.mean)}, A ${meanWords(e, a!.mean)}: ${differs(e, a!.mean, effect)}: ${told ? 'more than chance, so B may have done it if nothing else changed' : 'no difference can be told from chance'}.`;
  if (!back || !told) return first;
  const gone = back.p <= 0.05 && Math.sign(back.difference) === -Math.sign(effect.difference);
  return `${first} With A again ${differs(e, b!.mean, back)}: ${gone ? 'it went as A came back, which speaks for B' : 'it did not go as A came back, which speaks against B, or for an effect that lasts'}.`;
}

/** What can be seen at all, before it begins. */
export const powerWords = (e: Experiment, share: number | null): string =>
  !MEASURED[e.measure].grows
    ? `How large a difference can be found depends on how much your own values scatter from one fragment to the next: with ${plural(e.fragments.length, 'fragment')} it must be larger than that.`
    : share === null
      ? 'With one fragment nothing can be told from chance: take two at least.'
      : `With ${plural(e.fragments.length, 'fragment')} over ${e.phaseDays} days, four of five such experiments would find a difference of ${percent(share)} of growth or more; less would stay unseen. Fragments are taken to scatter by 30 % (rule of thumb).`;

/** Whether B is also more light, or less. */
export const doseWords = (ratio: number | null): string =>
  ratio === null
    ? ''
    : Math.abs(ratio - 1) <= EQUAL_DOSE
      ? `Both lights give the fragments the same dose to within ${percent(EQUAL_DOSE)}, as reckoned.`
      : `▲ Under B the fragments get ${percent(ratio)} of the dose of A: what shows may be the dose and not the change.`;
