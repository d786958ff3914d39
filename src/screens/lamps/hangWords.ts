import type { Criticism } from '@/core/case/critic';
import { allOf, counted, inWords } from '@/core/shape/counts';
import type { HangAim, HangWay, HungFigures } from '@/core/case/hang';
import { percent } from '@/core/shape/percent';
import { lengthWords } from '@/core/shape/units';
import { dims, hasCap } from '@/core/spectrum/controls';
import type { LampKind } from '@/core/spectrum/lampKind';
import type { Zone } from '@/core/record/zone';

import { timesUsed, umol, watts } from '../shared/words';

const AIMS: Record<HangAim, string> = {
  corals: 'Best for who lives here',
  even: 'Most even',
  glass: 'Least light on the panes',
  watts: 'Fewest watts',
  asNow: 'As they hang',
};

export const letterOf = (i: number): string => String.fromCharCode(65 + i);

/** An answer by name: what it is best at, and what else; all but the first are sought among those nearly as good for the corals. */
export const nameOf = (w: HangWay, i: number): string => {
  const by = hasCap(w.kind) ? ', by the cap alone' : dims(w.kind) ? ', by strength alone' : '';
  const named = (a: HangAim) => (a === 'asNow' ? `${AIMS[a]}${by}` : AIMS[a]);
  const names = [w.aim, ...w.also].map((a, k) => (k === 0 ? named(a) : named(a).toLowerCase()));
  const near = w.aim === 'corals' || w.aim === 'asNow' ? '' : ', near the best';
  return `${letterOf(i)} · ${names.join(', ')}${near}`;
};

/** What is set of a whole day’s strength: a cap, or the values where a lamp has none. */
export const strengthWords = (kind: LampKind, share: number): string =>
  hasCap(kind) ? `, cap ${percent(share)}` : dims(kind) ? `, its values at ${percent(share)} strength` : '';

/** How they hang, as one would do it. */
export function howWords({
  arrangement: a,
  lamps,
  figures,
  kind,
}: Pick<HangWay, 'arrangement' | 'lamps' | 'kind'> & {
  figures: Pick<HangWay['figures'], 'capShare'>;
}): string {
  const cap = strengthWords(kind, figures.capShare);
  if (!a) return `As they hang${cap}.`;
  const apart = lamps.length > 1 ? `, ${lengthWords(Math.round(lamps[1]!.xCm - lamps[0]!.xCm))} apart` : '';
  const across =
    Math.abs(a.acrossCm) < 1
      ? ', over the middle'
      : `, ${lengthWords(Math.abs(Math.round(a.acrossCm)))} ${a.acrossCm > 0 ? 'behind' : 'before'} the middle`;
  const along =
    Math.abs(a.alongCm) < 1
      ? ''
      : `, ${lengthWords(Math.abs(Math.round(a.alongCm)))} ${a.alongCm > 0 ? 'right' : 'left'} of it`;
  const turned = a.turnDeg === 90 ? ', turned a quarter' : '';
  const leans = a.tiltDeg > 0 ? `, leaning ${a.tiltDeg}° to the ${a.acrossCm > 0 ? 'front' : 'back'}` : '';
  const lens = a.lensDeg === undefined ? '' : `, lenses of ${a.lensDeg}°`;
  const sheet = (kind.diffuserShare ?? 0) > 0 ? ', a matt sheet before the emitters' : '';
  return `${lengthWords(Math.round(a.heightCm))} up${apart}${across}${along}${turned}${leans}${lens}${sheet}${cap}.`;
}

/** How many have the light they want. */
export const haveLight = (within: number, judged: number): string =>
  `${within} of ${judged} ${within === 1 ? 'has the light it wants' : 'have the light they want'}`;

/** Its figures in one line; `judged` = how many corals have a range. */
export function figureWords(f: HungFigures, judged: number, zone: Zone): string {
  const step =
    f.step && f.step.ratio > 1.02
      ? ` ${zone.spots[f.step.spot]!.name} would get ${timesUsed(f.step.ratio)}.`
      : '';
  return `${judged > 0 ? `${haveLight(f.within, judged)}; ` : ''}the darkest place has ${percent(1 - f.uneven)} of the mean, the panes up to ${umol(f.glassUmol)} µmol, ${percent(f.lostShare)} of the light misses the water, ${watts(f.watts)} at its brightest.${step}`;
}

/** What moving corals would do, and who finds no place; '' where all have what they want. */
export function criticWords({ moves, left, judged, after }: Criticism, zone: Zone): string {
  const names = left.map((i) => zone.spots[i]!.name);
  const nowhere = `no place on floor, rock or a rack has the light ${names.join(' or ')} wants`;
  if (moves.length === 0) return left.length === 0 ? '' : `${nowhere}.`;
  const where = moves.map(
    (m) => `${zone.spots[m.spot]!.name} ${m.to.name} (${umol(m.fromUmol)} → ${umol(m.toUmol)} µmol)`,
  );
  const all = after === judged ? allOf(judged) : `${inWords(after)} of ${inWords(judged)}`;
  return `with ${counted(moves.length, 'move')}, ${all} would have it: ${where.join('; ')}${left.length > 0 ? `; ${nowhere}` : ''}.`;
}

const CHANGED = 0.08;
/** What an answer gives up against another. */
export function givesUp(f: HungFigures, best: HungFigures): string {
  const more = (a: number, b: number) => b > 0 && a > b * (1 + CHANGED);
  const parts = [
    f.within < best.within ? `${best.within - f.within} fewer right` : '',
    more(f.uneven, best.uneven)
      ? `darkest place ${percent(1 - f.uneven)} in place of ${percent(1 - best.uneven)}`
      : '',
    more(f.glassUmol, best.glassUmol) ? `${umol(f.glassUmol - best.glassUmol)} µmol more on the panes` : '',
    more(f.lostShare, best.lostShare) ? `${percent(f.lostShare - best.lostShare)} more misses the water` : '',
    more(f.watts, best.watts) ? `${watts(f.watts - best.watts)} more` : '',
  ].filter(Boolean);
  return parts.length === 0 ? '' : `Gives up: ${parts.join(', ')}.`;
}
