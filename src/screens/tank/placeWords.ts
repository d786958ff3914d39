import { capital, several, inWords, plural } from '@/core/shape/counts';
import { BLUE_SHARE, LIGHT_NAMES, lookApart } from '@/core/case/card';
import type { CoralPlace } from '@/core/case/placing';
import { times } from '@/core/case/verdict';
import { aboutHours, formatHours } from '@/core/day/clock';
import type { InHand } from '@/core/record/zone';
import { percent } from '@/core/shape/percent';
import { lengthFigure, lengthWords } from '@/core/shape/units';
import type { Desk } from '@/state/desk';

import { umol } from '../shared/words';

/** The best place, and what stands in its way. */
export function firstWords(p: CoralPlace, all: readonly CoralPlace[], ceiling: number): string {
  const right = all.filter((x) => x.placed.place === 'within');
  const count = capital(inWords(right.length));
  const are = right.length === 1 ? `${count} place is` : `${count} places are`;
  const many =
    right.length === 0
      ? 'No place is right for it without doubt; the nearest is'
      : p.placed.place !== 'within'
        ? `${are} right for it, but ${hindered(right, p, ceiling)}`
        : right.length === 1
          ? `${are} right for it:`
          : `${are} right for it; the best is`;
  return `${many} ${p.name}: ${umol(p.umol)} µmol, ${whenWords(p, ceiling)}.`;
}

/** What makes a place that is nearly right the better one. */
function hindered(right: readonly CoralPlace[], p: CoralPlace, ceiling: number): string {
  const days = (x: CoralPlace) => x.afterDays ?? Infinity;
  const first = right.reduce((a, b) => (days(b) < days(a) ? b : a));
  return days(first) <= days(p)
    ? 'in another coral’s way; nearly right is'
    : first.afterDays === null
      ? `${whenWords(first, ceiling)}; nearly right is`
      : `only ${whenWords(first, ceiling)}; sooner, and nearly right, is`;
}

export const letter = (i: number): string => String.fromCharCode(65 + i);

export const whenWords = ({ afterDays }: CoralPlace, ceiling: number): string =>
  afterDays === 0
    ? 'at once'
    : afterDays === null
      ? `more than ${times(ceiling)} at once, with no darker place to begin at`
      : `after ${plural(afterDays, 'day')} where it is darker`;

/** How likely its light is within what the coral wants, in tens: no more is known. */
export const rightWords = ({ placed }: CoralPlace): string =>
  `right in ${Math.min(9, Math.max(1, Math.round(10 * placed.within)))} of 10`;

/** Where it lies, the way there, and its neighbours. */
export function moreWords(
  p: CoralPlace,
  way: readonly { place: number; fromDay: number }[],
  all: readonly CoralPlace[],
  { zone }: Desk,
): string {
  const parts = [
    `${lengthWords(Math.round(p.xCm))} from the left, ${lengthFigure(Math.round(p.yCm))} from the front.`,
    way.length > 1
      ? `On the way: ${way
          .map((s) => `day ${s.fromDay} ${all[s.place]!.name} (${umol(all[s.place]!.umol)} µmol)`)
          .join(', ')}.`
      : '',
    way.length === 0 ? 'The lamps would have to be dimmed for it, or it shaded, first.' : '',
    p.nearest
      ? `${zone.spots[p.nearest.spot]!.name} is ${lengthWords(Math.round(p.nearest.cm))} away${p.nearest.stings ? ', within reach of stings' : ''}.`
      : '',
    p.shades.length > 0 ? `It would shade ${several(p.shades.map((s) => zone.spots[s]!.name))}.` : '',
  ];
  return parts.filter(Boolean).join(' ');
}

/** How the light here looks beside what it comes from, and what that does to its colours, honestly. */
export function lookWords(
  { light, origin, cameFrom }: Pick<InHand, 'light' | 'origin' | 'cameFrom'>,
  own: { blueShare: number; hours: number },
): string {
  const apart = lookApart(light!, own.blueShare);
  const here = `${percent(own.blueShare)} of the light here is blue, of ${LIGHT_NAMES[light!]} about ${percent(BLUE_SHARE[light!])}`;
  const colour = {
    alike: 'its colours have no reason in the light to change, and may all the same',
    whiter: 'what glowed there will look plainer here at once, and its own colours may change over months',
    bluer: 'it will glow more here at once, and its own colours may change over months',
  }[apart];
  const hours =
    cameFrom && Math.abs(own.hours - cameFrom.hours) >= 1
      ? ` The day here is lit for ${aboutHours(own.hours)}, there ${formatHours(cameFrom.hours)}.`
      : '';
  const wild = origin === 'wild' ? ' A wild coral has the longer way: expect it to brown first.' : '';
  return `${here}: ${colour}.${hours}${wild} Nobody can promise a colour (rules of thumb).`;
}
