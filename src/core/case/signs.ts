import { CEILINGS } from '../easing/accustomed';
import type { Sign } from '../record/log/sign';

export interface SignAdvice {
  words: string;
  /** what is proposed for the easing under way, or to the keeper without one */
  propose: 'hold' | 'back' | 'rescue' | null;
  /** for how many days */
  days: number;
}

/** Light counts as changed lately within so many days. Mark: rule of thumb. */
const LATELY_DAYS = 21;

/**
 * What a sign on a coral says about its light, and what to do about the steps.
 * @param known days since the light last rose here (null = not known to), the coral's step ratio, whether a plan is under way
 */
export function signAdvice(
  sign: Sign,
  known: { roseDaysAgo: number | null; ratio: number | null; easing: boolean; algae?: boolean },
): SignAdvice {
  const { roseDaysAgo, ratio, easing } = known;
  const lately = roseDaysAgo !== null && roseDaysAgo <= LATELY_DAYS;
  const when = lately
    ? roseDaysAgo === 0
      ? 'the light rose today'
      : `the light rose ${roseDaysAgo === 1 ? 'yesterday' : `${roseDaysAgo} days ago`}`
    : 'the light has not risen lately';
  const much = ratio !== null && ratio > CEILINGS.gentle;
  if (known.algae) return algaeAdvice(sign, when, lately && much, easing);
  switch (sign) {
    case 'paling':
      return much
        ? {
            words: `Paling, and ${when}: too much light is likely. Go back a step and stay there.`,
            propose: 'back',
            days: 10,
          }
        : lately
          ? {
              words: `Paling, and ${when}. Hold still and look again in a week; hungry water pales corals too.`,
              propose: 'hold',
              days: 7,
            }
          : {
              words: `Paling, but ${when}: look at nutrients, a gross light error and neighbours first.`,
              propose: easing ? 'hold' : null,
              days: 7,
            };
    case 'polypsIn':
      return {
        words: lately
          ? `Polyps in, and ${when}. Hold for some days; fish, flow and chemistry do that as well.`
          : `Polyps in, but ${when}: look at flow, fish and chemistry before the lamp.`,
        propose: lately || easing ? 'hold' : null,
        days: 4,
      };
    case 'tissue':
      return {
        words: lately
          ? `Losing tissue, and ${when}: cut the light tonight and save fragments.`
          : `Losing tissue, but ${when}: something else is likely; save fragments, test the water, then judge the light.`,
        propose: lately ? 'rescue' : easing ? 'hold' : null,
        days: 14,
      };
    case 'newColour':
      return lately
        ? {
            words: `New colour, and ${when}. That is a caution, not yet a success: a coral under too much light turns prettier first. Hold for a week and watch it.`,
            propose: 'hold',
            days: 7,
          }
        : { words: `New colour, and ${when}: it is likely to be its own.`, propose: null, days: 0 };
    case 'browning':
      return {
        words: `Browning, and ${when}. Before the lamp is touched: what changed lately, yellow water, nutrients, neglect? New settings tend to prolong it.`,
        propose: easing ? 'hold' : null,
        days: 7,
      };
    case 'polypsOut':
    case 'larger':
      return { words: 'A good sign. Nothing needs changing for it.', propose: null, days: 0 };
    case 'asBefore':
      return {
        words: 'As before: worth as much in the log as a change. Nothing needs doing.',
        propose: null,
        days: 0,
      };
    case 'deeper':
      return {
        words: lately
          ? `Deeper in colour, and ${when}: it may be taking more pigment on against it. Hold and watch that it does not turn brown.`
          : `Deeper in colour, but ${when}: food and nutrients deepen it as light does. Nothing needs changing.`,
        propose: lately && easing ? 'hold' : null,
        days: 7,
      };
    case 'hueMoved':
      return {
        words: lately
          ? `Another hue, and ${when}. See that it is not the lamp’s own tint or the camera: look again under the same light before anything is changed.`
          : `Another hue, but ${when}: it is likely to be its own, or the camera’s.`,
        propose: lately && easing ? 'hold' : null,
        days: 7,
      };
  }
}

/** The same for algae: too much light, or too little in the water, look alike on them. */
function algaeAdvice(sign: Sign, when: string, tooMuch: boolean, easing: boolean): SignAdvice {
  switch (sign) {
    case 'paling':
      return tooMuch
        ? {
            words: `Pale, and ${when} beyond what it is used to: too much light is likely. Go back a step, or move it away from the lamp.`,
            propose: 'back',
            days: 5,
          }
        : {
            words: `Pale, and ${when}: hungry water pales algae as much as light does. Test nitrate and phosphate before the lamp is touched.`,
            propose: easing ? 'hold' : null,
            days: 5,
          };
    case 'tissue':
      return {
        words: `Falling apart, and ${when}. Take out what is white or soft today, before it gives back what it took up; keep days and light steady, and test the water.`,
        propose: tooMuch ? 'back' : easing ? 'hold' : null,
        days: 7,
      };
    case 'asBefore':
    case 'larger':
      return { words: 'As it should be. Nothing needs doing.', propose: null, days: 0 };
    default:
      return {
        words: `Dark with a film on it, and ${when}: little flow, or its own shade. Turn and rinse it, take the worst out, and look at the flow before the lamp.`,
        propose: easing ? 'hold' : null,
        days: 5,
      };
  }
}
