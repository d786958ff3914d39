import type { Lack, LampChoice } from '@/core/case/choose';
import type { Wish } from '@/core/case/chooseRank';
import { capital, inWords, plural } from '@/core/shape/counts';
import { percent } from '@/core/shape/percent';
import { BANDS } from '@/core/spectrum/bands';
import type { Zone } from '@/core/record/zone';

import { haveLight } from './hangWords';
import { bandWords, kWh, timesUsed, umol, watts } from '../shared/words';

const DAYS_PER_YEAR = 365;
/** Below this nothing of the wanted day is lost that could be seen. Mark: rule of thumb. */
const SEEN_SHARE = 0.05;
/** Below this a look is another one. Mark: rule of thumb. */
const FAR_OFF = 0.3;

export const WISHES: Record<Wish, string> = {
  corals: 'the light that is wanted',
  colours: 'the same colours',
  even: 'evenness',
  day: 'the shape of the day',
  running: 'energy',
  price: 'price',
  glass: 'little light on the panes',
};

export const countedName = ({ lamps, kind }: LampChoice): string => `${lamps.length} × ${kind.name}`;

/** What it does for the corals and the look. */
export const doesWords = ({ judged, figures, match, bandShare }: LampChoice): string =>
  `${judged > 0 ? `${haveLight(figures.within, judged)} (${bandWords(bandShare)}); ` : ''}${match < FAR_OFF ? 'its colours are far off' : `its colours match to ${percent(match)}`}; the darkest place has ${percent(1 - figures.uneven)} of the mean, the panes up to ${umol(figures.glassUmol)} µmol.`;

/** What so many of a kind would do, where another number is shown. */
export const countWords = ({ judged, figures, price }: LampChoice): string =>
  [
    judged > 0 ? `${figures.within} of ${judged} right` : '',
    `darkest ${percent(1 - figures.uneven)}`,
    watts(figures.watts),
    price === null ? '' : `about ${Math.round(price)}`,
  ]
    .filter(Boolean)
    .join(', ');

/** What it costs; a year only where a price of energy is known. */
export const costWords = (c: LampChoice, kwhPrice: number | null): string => {
  const year = c.kWhPerDay * DAYS_PER_YEAR;
  return `${watts(c.figures.watts)} at its brightest, ${kWh(c.kWhPerDay)} kWh a day${kwhPrice === null ? '' : `, about ${Math.round(year * kwhPrice)} a year`}; ${c.price === null ? 'its price is not known' : `${c.lamps.length === 1 ? 'price' : 'together'} about ${Math.round(c.price)}`}.`;
};

export const bestWords = (best: readonly Wish[]): string =>
  best.length === 0 ? '' : `The best of these for ${best.map((w) => WISHES[w]).join(', ')}.`;

const nameOf = ({ what }: Lack) => (what === 'dawn' ? 'a slow dawn' : BANDS.find((b) => b.id === what)!.name);
/** What is missing, a sentence each, with what would bring it. */
export const lackWords = (lack: Lack): string => {
  const has = lack.holds === 'token' ? `Hardly any ${nameOf(lack)}` : `Lacks ${nameOf(lack)}`;
  const circuits = lack.byCircuits ? ' its colours on circuits, switched one after the other, or' : '';
  return lack.addition
    ? `${has}:${circuits} a ${lack.addition.name}${lack.addition.price === null ? '' : ` (price about ${lack.addition.price})`} would bring it.`
    : `${has}${lack.byCircuits ? ': its colours on circuits, switched one after the other, would bring it' : '; no lamp of the library has it'}.`;
};

const HOW_SET = { levels: 'values', switch: 'on and off' } as const;
/** What its controller takes, and what it makes of the wanted day. */
export function controllerWords({ kind, day }: LampChoice): string {
  const p = kind.controller;
  const keys = plural(kind.controls.length, 'control');
  const points = p.maxPoints === null ? 'any number of points' : `${plural(p.maxPoints, 'point')} a day`;
  const late = [
    ['first', day.firstMin],
    ['last', day.lastMin],
  ] as const;
  const ends = late.flatMap(([which, min]) =>
    Math.abs(min) < 5 ? [] : [`${which} light ${Math.abs(min)} min ${min > 0 ? 'later' : 'earlier'}`],
  );
  const off =
    day.errorShare < SEEN_SHARE
      ? 'The day runs as it is drawn.'
      : `Its light is up to ${percent(day.errorShare)} of the peak away from the day as drawn${ends.length > 0 ? `, ${ends.join(', ')}` : ''}.`;
  return `${capital(keys)}, set by ${HOW_SET[p.sets === 'switch' ? 'switch' : 'levels']}, ${points}. ${off}`;
}

export const idleWords = ({ idle: [idle, all] }: LampChoice): string =>
  idle === 0 ? '' : `This look leaves ${idle} of its ${plural(all, 'emitter')} nearly dark.`;

export const stepWordsOf = ({ step, bandShare }: LampChoice, zone: Zone): string =>
  step && step.ratio > 1.02
    ? `${zone.spots[step.spot]!.name} would get ${timesUsed(step.ratio, 'it is', bandShare)}.`
    : '';

export const upTo = (n: number): string => (n === 1 ? 'one' : `up to ${inWords(n)}`);
