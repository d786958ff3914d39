import type { Stand, WholeAim, WholeMix, WholeWay } from '@/core/case/whole';
import { formatHours } from '@/core/day/clock';
import { allOf, inWords, plural } from '@/core/shape/counts';
import { percent } from '@/core/shape/percent';
import type { LampKind } from '@/core/spectrum/lampKind';
import { ZONE_KINDS } from '@/core/record/chores';
import type { Zone } from '@/core/record/zone';

import { bandWords, kWh, timesUsed, umol, watts } from '../shared/words';
import { haveLight, letterOf } from './hangWords';

const AIMS: Record<WholeAim, string> = {
  corals: 'Best for who lives here',
  stay: 'With everybody left where they stand',
  even: 'Most even',
  running: 'Fewest watts',
  home: 'The look while you are home',
};

export const wholeName = ({ aim, also }: WholeWay, i: number): string =>
  `${letterOf(i)} · ${[aim, ...also].map((a, k) => (k === 0 ? AIMS[a] : AIMS[a].toLowerCase())).join(', ')}`;

/** What the first proposal comes to. */
export const bestWords = ({ judged, within, moves }: WholeWay): string =>
  judged === 0
    ? 'Nobody here lives by light; the proposals differ in evenness, watts and look.'
    : `As reckoned, ${within === judged ? (judged === 1 ? 'the one who lives by light' : allOf(judged)) : `${inWords(within)} of ${inWords(judged)}`} can have the light ${within === 1 ? 'it wants' : 'they want'}, ${moves === 0 ? 'and nobody has to be moved' : `with ${plural(moves, 'move')}`}.`;

/** What it does, in one line. */
export const wholeFigures = (w: WholeWay, { kind }: Pick<Zone, 'kind'>): string =>
  `${w.judged > 0 ? `${haveLight(w.within, w.judged)}, with ${w.moves === 0 ? 'no move' : plural(w.moves, 'move')}; ` : ''}the darkest place has ${percent(1 - w.uneven)} of the mean; ${watts(w.watts)} at its brightest, ${kWh(w.kWhPerDay)} kWh a day${ZONE_KINDS[kind].lookedAt ? `; light to look at for ${formatHours(w.seen[0] / 60)} of your ${formatHours(w.seen[1] / 60)} at home` : ''}.`;

const MIXES: Record<WholeMix['lead'], string> = {
  drafted: 'The mixes stay as drafted',
  feeding: 'The mix that feeds most',
  asSet: 'The mix all aims lead to',
  look: 'The mix nearest that look',
  whiter: 'A whiter mix',
  bluer: 'A bluer mix',
  thrift: 'The mix with fewest watts',
  variety: 'The mix with most variety',
  glow: 'The mix with most glow',
};
/** The mix, as it is typed in. */
export const mixWords = ({ mix }: WholeWay, kind: LampKind): string =>
  mix.levels === null
    ? `${MIXES.drafted}.`
    : `${MIXES[mix.lead]}: ${kind.controls.map((c) => `${c.name} ${Math.round(100 * (mix.levels![c.id] ?? 0))}`).join(', ')} %.`;
export const mixName = ({ mix }: WholeWay): string =>
  mix.lead === 'drafted'
    ? 'First light'
    : MIXES[mix.lead].replace(/^(The|A) (mix )?/, '').replace(/^./, (c) => c.toUpperCase());

export const dayWords = ({ laterMin }: WholeWay): string =>
  laterMin === 0
    ? 'The day stays as drafted.'
    : `The whole day ${formatHours(Math.abs(laterMin) / 60)} ${laterMin > 0 ? 'later' : 'earlier'}.`;

export const whoOf = ({ who }: Stand, zone: Zone): { name: string; id: string } =>
  who.spot === undefined ? zone.inHand![who.hand]! : zone.spots[who.spot]!;

/** Who would stand elsewhere, and who finds no place. */
export const standWords = (s: Stand, zone: Zone): string =>
  s.nowhere
    ? `${whoOf(s, zone).name}: no free place has light for it.`
    : `${whoOf(s, zone).name} ${s.to!.name}: ${umol(s.umol)} µmol ${bandWords(s.bandShare)}`;

export const wholeStep = ({ step }: WholeWay, zone: Zone): string =>
  step && step.ratio > 1.02
    ? `${zone.spots[step.spot]!.name}, which stays, would get ${timesUsed(step.ratio)}: ease it in.`
    : '';

const CHANGED = 0.08;
/** What it gives up against the first. */
export function wholeGivesUp(w: WholeWay, best: WholeWay): string {
  const parts = [
    w.within < best.within ? `${inWords(best.within - w.within)} fewer right` : '',
    w.moves > best.moves ? `${plural(w.moves - best.moves, 'move')} more` : '',
    w.uneven > best.uneven * (1 + CHANGED)
      ? `darkest place ${percent(1 - w.uneven)} in place of ${percent(1 - best.uneven)}`
      : '',
    w.watts > best.watts * (1 + CHANGED) ? `${watts(w.watts - best.watts)} more` : '',
    w.seen[0] < best.seen[0]
      ? `${formatHours((best.seen[0] - w.seen[0]) / 60)} less of it while you are home`
      : '',
  ].filter(Boolean);
  return parts.length === 0 ? '' : `Gives up: ${parts.join(', ')}.`;
}
