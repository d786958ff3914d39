import { normalBelow } from '../shape/normal';
import type { LogDoc, LogEventOf } from '../record/log';
import type { Sign } from '../record/log/sign';
import { floorUmolOf, type Wants } from '../record/needs';
import type { HistoryDoc } from '../record/history';
import type { Zone } from '../record/zone';
import { stepRatio } from '../easing/accustomed';
import { borneChance } from '../easing/borne';
import type { MetChange } from './replay';
import { triage } from './triage';

/** What one coral has shown of the light it likes, by the lights it lived under and what was seen then. */

export type Outcome = 'good' | 'tooMuch' | 'tooLittle';

/** Weeks under one light, and what was seen in them. */
export interface Episode {
  fromUtc: string;
  days: number;
  peakUmol: number;
  outcome: Outcome;
  /** something else that changed fits what was seen as well: it counts for less */
  confounded: boolean;
}

/** A step up, and whether it was borne. */
export interface Borne {
  atUtc: string;
  ratio: number;
  well: boolean;
}

/** A light shows what it does after this long, and a step up is over after so long. Marks: rule of thumb. */
const LEAST_DAYS = 21;
const STEP_DAYS = 21;
/** Steps of less than this teach nothing. Mark: rule of thumb. */
const LEAST_STEP = 1.05;
const DAY_MS = 86_400_000;

const OUTCOMES: Partial<Record<Sign, Outcome>> = {
  polypsOut: 'good',
  larger: 'good',
  asBefore: 'good',
  newColour: 'good',
  paling: 'tooMuch',
  tissue: 'tooMuch',
  browning: 'tooLittle',
};

/** Weeks under one light with what was last seen in them, and steps up with whether they were borne. */
export function livedThrough(
  zone: Zone,
  history: HistoryDoc,
  log: LogDoc,
  changes: readonly MetChange[],
  spot: number,
  nowUtc: string,
): { episodes: Episode[]; steps: Borne[] } {
  const tenant = zone.spots[spot]!;
  const signs = log.events
    .filter((e): e is LogEventOf<'sign'> => e.kind === 'sign' && e.spotId === tenant.id && e.atUtc <= nowUtc)
    .sort((a, b) => (a.atUtc < b.atUtc ? -1 : 1));
  const met = changes.filter((c) => c.atUtc <= nowUtc && c.after[spot]);
  const bad = (s: LogEventOf<'sign'>) => OUTCOMES[s.sign] === 'tooMuch' || s.sign === 'polypsIn';
  const after = (fromMs: number, toMs: number) =>
    signs.filter((s) => Date.parse(s.atUtc) >= fromMs && Date.parse(s.atUtc) < toMs);
  const episodes: Episode[] = [];
  const steps: Borne[] = [];
  met.forEach((c, i) => {
    const from = Date.parse(c.atUtc);
    const to = Date.parse(met[i + 1]?.atUtc ?? nowUtc);
    const ratio = c.before ? stepRatio(c.after[spot]!, c.used[spot]!, floorUmolOf(tenant, zone)).ratio : 1;
    const soon = after(from, Math.min(to, from + STEP_DAYS * DAY_MS));
    // nobody looked: nothing is known of how it was borne
    if (ratio >= LEAST_STEP && soon.length > 0) steps.push({ atUtc: c.atUtc, ratio, well: !soon.some(bad) });
    const seen = after(from + LEAST_DAYS * DAY_MS, to).filter((s) => OUTCOMES[s.sign]);
    const last = seen.at(-1);
    if (!last) return;
    const { causes } = triage(zone, history, log, changes, spot, last.sign, last.atUtc);
    const others = causes.filter((x) => x.what !== 'light' && x.what !== 'spectrum');
    episodes.push({
      ...{ fromUtc: c.atUtc, days: Math.round((to - from) / DAY_MS), peakUmol: c.after[spot]!.peak },
      outcome: OUTCOMES[last.sign]!,
      confounded: OUTCOMES[last.sign] !== 'good' && others.some((x) => x.fit >= CONFOUNDS),
    });
  });
  return { episodes, steps };
}
/** A cause that fits this well could be what was seen. As the triage words it: "fits well". */
const CONFOUNDS = 0.5;

/** How far the edges of one coral's range lie from its kind's, ln. Mark: rule of thumb. */
export const PRIOR_LN = 0.35;
/** How sharp an edge is: at the edge itself a coral shows it every second time, ln. Mark: rule of thumb. */
export const EDGE_LN = 0.15;
/** What was seen counts so much where something else could have done it. Mark: rule of thumb. */
const CONFOUNDED_WEIGHT = 0.3;
/** Below so many episodes the kind's range stands. */
export const LEAST_EPISODES = 3;
const CELLS = 61;
const REACH = 3;

/** Bounds of 90 %, and the middle. */
export interface Edge {
  low: number;
  mid: number;
  high: number;
}
export interface Shown {
  from: Edge;
  to: Edge;
  episodes: number;
  confounded: number;
}

/** Chance of an outcome under a light, for edges of a range. */
export function chanceOf(outcome: Outcome, umol: number, fromUmol: number, toUmol: number): number {
  const x = Math.log(Math.max(1, umol));
  const over = normalBelow((x - Math.log(toUmol)) / EDGE_LN);
  const under = normalBelow((Math.log(fromUmol) - x) / EDGE_LN);
  // who stands above the one edge does not stand below the other
  if (outcome === 'tooMuch') return over * (1 - under);
  if (outcome === 'tooLittle') return under * (1 - over);
  return (1 - over) * (1 - under);
}

/**
 * The edges of a coral's range after what it has shown: its kind's, each off by a normal of its logarithm, weighed by Bayes with the
 * outcome of every episode. µmol.
 */
export function shownRange(kind: Wants, episodes: readonly Episode[]): Shown {
  const at = (edge: number) =>
    Array.from(
      { length: CELLS },
      (_, i) => Math.log(Math.max(1, edge)) + PRIOR_LN * REACH * ((2 * i) / (CELLS - 1) - 1),
    );
  const [lows, highs] = [at(kind.fromUmol), at(kind.toUmol)];
  const prior = (i: number) => Math.exp(-0.5 * (REACH * ((2 * i) / (CELLS - 1) - 1)) ** 2);
  const low = new Float64Array(CELLS);
  const high = new Float64Array(CELLS);
  lows.forEach((l, i) =>
    highs.forEach((h, k) => {
      if (h <= l) return;
      let weight = prior(i) * prior(k);
      for (const e of episodes)
        weight *=
          Math.max(1e-9, chanceOf(e.outcome, e.peakUmol, Math.exp(l), Math.exp(h))) **
          (e.confounded ? CONFOUNDED_WEIGHT : 1);
      low[i]! += weight;
      high[k]! += weight;
    }),
  );
  return {
    from: edgeOf(lows, low),
    to: edgeOf(highs, high),
    episodes: episodes.length,
    confounded: episodes.filter((e) => e.confounded).length,
  };
}

/** How far the ceilings of corals of a kind differ, ln. Mark: rule of thumb. */
export const BEARS_PRIOR_LN = 0.2;
/** Below so many steps that were looked at the kind's ceiling stands. */
export const LEAST_STEPS = 3;

/**
 * The largest step at once that a coral bears, after steps it bore and steps it did not: its kind's ceiling, off by a normal of its
 * logarithm, weighed by Bayes. As ratios.
 */
export function shownCeiling(kindCeiling: number, steps: readonly Borne[]): Edge {
  const at = Array.from(
    { length: CELLS },
    (_, i) => Math.log(kindCeiling) + BEARS_PRIOR_LN * REACH * ((2 * i) / (CELLS - 1) - 1),
  );
  const weights = Float64Array.from(at, (c, i) => {
    const prior = Math.exp(-0.5 * (REACH * ((2 * i) / (CELLS - 1) - 1)) ** 2);
    return steps.reduce((w, { ratio, well }) => {
      const chance = borneChance(ratio, Math.exp(c));
      return w * Math.max(1e-9, well ? chance : 1 - chance);
    }, prior);
  });
  return edgeOf(at, weights);
}

/** The middle and 90 % of a weighed list of logarithms. */
function edgeOf(at: readonly number[], weights: Float64Array): Edge {
  const all = weights.reduce((s, w) => s + w, 0);
  const step = at[1]! - at[0]!;
  const quantile = (q: number) => {
    let sum = 0;
    for (let i = 0; i < at.length; i += 1) {
      const next = sum + weights[i]! / all;
      // a cell reaches half a step to either side
      if (next >= q) return Math.exp(at[i]! + step * ((q - sum) / Math.max(1e-12, next - sum) - 0.5));
      sum = next;
    }
    return Math.exp(at.at(-1)!);
  };
  return { low: quantile(0.05), mid: quantile(0.5), high: quantile(0.95) };
}
