import { deltaE, type Moved, type PatchColour } from '@/core/colour/patch';
import { type Grown, USUAL_OUTLINE } from '@/core/case/outlines';
import type { Judged } from '@/core/evidence/blind';
import { inWords, plural } from '@/core/shape/counts';
import { percent } from '@/core/shape/percent';
import { areaWords } from '@/core/shape/units';

/** How far apart shots of one day may lie where nobody has repeated one, ΔE. Mark: rule of thumb. */
export const USUAL_NOISE = 3;

/** What is usual counts as so many pairs of one's own. Mark: rule of thumb. */
const USUAL_COUNTS = 3;

/** The camera's own noise, ΔE. */
export interface Noise {
  /** mean difference of shots of one day */
  mean: number;
  /** what a difference is held against: a pair or two of one's own do not yet make a camera still */
  held: number;
}
/** Of a series; null = no day has two. */
export function noiseOf(all: readonly { day: string; colour: PatchColour }[]): Noise | null {
  const apart = all.flatMap((x, i) =>
    all.slice(i + 1).flatMap((y) => (y.day === x.day ? [deltaE(x.colour, y.colour)] : [])),
  );
  if (apart.length === 0) return null;
  const squares = apart.reduce((s, v) => s + v ** 2, USUAL_COUNTS * USUAL_NOISE ** 2);
  return {
    mean: apart.reduce((s, v) => s + v, 0) / apart.length,
    held: Math.sqrt(squares / (USUAL_COUNTS + apart.length)),
  };
}

const beyond = (v: number, noise: Noise | null) => v > 2 * (noise?.held ?? USUAL_NOISE);
const noiseWords = (noise: Noise | null) =>
  noise === null
    ? `the camera's own noise is not known (about ${USUAL_NOISE}, rule of thumb): take one shot twice on a day`
    : `two shots of one day differ by ${noise.mean.toFixed(1)}`;

export const apartWords = (v: number, noise: Noise | null): string =>
  `ΔE ${v.toFixed(1)}${beyond(v, noise) ? '' : ', within the noise'}`;

/** How a patch changed, and whether that is more than the camera's own doing. */
export function movedWords(
  { deltaE: v, lighter, stronger, hueDeg }: Moved,
  noise: Noise | null,
  what: string,
): string {
  const parts = [
    Math.abs(lighter) >= 2 ? (lighter > 0 ? 'paler' : 'darker') : '',
    Math.abs(stronger) >= 3 ? (stronger > 0 ? 'stronger in colour' : 'greyer') : '',
    Math.abs(hueDeg) >= 8 ? `turned by ${Math.round(Math.abs(hueDeg))}° in hue` : '',
  ].filter(Boolean);
  return beyond(v, noise)
    ? `${what} is ${parts.length > 0 ? parts.join(', ') : 'of another colour'} (ΔE ${v.toFixed(1)}; 1 is about what an eye sees side by side; ${noiseWords(noise)}).`
    : `No change of colour can be told from the camera (ΔE ${v.toFixed(1)}; ${noiseWords(noise)}).`;
}

/** What judging without dates came to. */
export function blindWords({ pairs, agreed, later, p }: Judged): string {
  if (agreed === 0)
    return `You said the same both times for none of ${inWords(pairs)} pairs: your eye tells nothing apart here.`;
  const side =
    p <= 0.05
      ? later * 2 > agreed
        ? 'the later one, more often than chance would'
        : 'the earlier one, more often than chance would'
      : 'now the one, now the other: as chance would';
  return `You said the same both times for ${inWords(agreed)} of ${inWords(pairs)} pairs. There you chose the later picture in ${inWords(later)} of ${inWords(agreed)}: ${side}.`;
}

const outlineNoise = (noise: number | null) =>
  noise === null
    ? `a hand draws one line twice to about ${percent(USUAL_OUTLINE)} of its area, rule of thumb: draw a second picture of a day to know yours`
    : `lines of one day differ by ${noise < 0.01 ? 'less than 1 %' : percent(noise)}`;
const signed = (share: number) => `${share < 0 ? '−' : '+'}${percent(Math.abs(share))}`;

/** How much more area an outline has than another, with its doubt. */
export const moreWords = ({ ratio, bandShare }: Grown): string =>
  Math.abs(Math.log(ratio)) <= bandShare ? 'no more than lines differ' : signed(ratio - 1);

/** How a coral grew between two outlines. */
export function grownWords(grown: Grown, [from, to]: readonly (number | null)[]): string {
  const { days, ratio, bandShare, noise } = grown;
  const areas = from != null && to != null ? `${areaWords(from)} → ${areaWords(to)}, ` : '';
  if (days === 0)
    return `Both pictures are of one day: their outlines differ by ${percent(Math.abs(ratio - 1))}. That is how steadily a hand draws, not growth.`;
  const doubt = `± ${percent(bandShare)}: ${outlineNoise(noise)}`;
  if (Math.abs(Math.log(ratio)) <= bandShare)
    return `No growth can be told: the outlines differ no more than a hand draws (${areas}${signed(ratio - 1)}; ${doubt}).`;
  const month = days > 0 ? `, ${signed(ratio ** (30 / days) - 1)} a month` : '';
  return `The outlined area: ${areas}${signed(ratio - 1)} in ${plural(days, 'day')}${month} (${doubt}). What grew towards the camera is not in it.`;
}
