import { ended } from '../shape/ended';
import { par, PAR_FROM_NM, PAR_TO_NM } from '../spectrum/bands';
import { nmAt, type Spectrum, zeroSpectrum } from '../spectrum/grid';
import { followsStrength } from '../spectrum/controls';
import type { Control, Levels } from '../spectrum/lampKind';
import { seeded } from '../spectrum/random';
import {
  atWantedPar,
  beats,
  type DesignFigures,
  type DesignInput,
  type Judged,
  judged,
  type Lead,
  type Prepared,
  prepare,
  sharesOf,
  type Way,
  worth,
} from './aims';
import { reasonsFor } from './reasons';

export interface Answer {
  mix: Levels;
  figures: DesignFigures;
  /** what leads in it, on the way from growth to colour */
  lead: Lead;
  reasons: string[];
  givesUp: string[];
}

/** What is pressed, one after the other. */
const LEADS: readonly Lead[] = ['feeding', 'asSet', 'look', 'variety', 'glow'];
/** Leanings of the look that are tried when the leads come to too few answers. */
const LEANS = [-0.3, 0.3, -0.15, -0.6];
/** Order of the answers, from growth to colour. */
const ORDER: readonly Lead[] = ['feeding', 'thrift', 'asSet', 'look', 'whiter', 'bluer', 'variety', 'glow'];
const LEAST_ANSWERS = 3;
const MOST_ANSWERS = 5;
/** Random mixes to start from, and how many of the best are climbed from. */
const POOL = 400;
const STARTS = 2;
/** Steps of a climb, coarse to fine, each in at most so many rounds. */
const STEPS = [0.3, 0.12, 0.05, 0.02];
const ROUNDS = 6;
/** Pairs are tried at this step and finer, in so many rounds. */
const PAIR_STEP = 0.12;
const PAIR_ROUNDS = 2;
/** Answers with more photons in common than this are one. Mark: rule of thumb. */
const ALIKE = 0.97;
const NEARLY_ALIKE = 0.993;
/** Share of the work that making the pool is. */
const POOL_WORK = 0.3;

/** A random mix within what is locked, at the wanted PAR: what answers are held against. */
export function randomMix(p: Prepared, random: () => number): Levels {
  const { kind, fixed } = p.input;
  const mix = Object.fromEntries(
    kind.controls.map((c) => [
      c.id,
      c.id in fixed ? fixed[c.id]! : c.kind === 'onOff' ? Number(random() < 0.5) : random() ** 1.5,
    ]),
  );
  return atWantedPar(p, mix);
}

interface Found extends Judged {
  way: Way;
}

/**
 * Three to five distinct answers on the way from growth to colour: for each way of weighing the aims a climb from the best of a
 * pool of random mixes, then every way's best among all that was found. A generator: it yields how far it is (0..1), so that a
 * worker can report and stop.
 */
export function* designSteps(input: DesignInput): Generator<number, Answer[]> {
  const p = prepare(input);
  const start = judged(p, atWantedPar(p, { ...input.mix, ...input.fixed }));
  const pool = [start];
  const random = seeded(input.seed);
  for (let i = 0; i < POOL; i += 1) {
    pool.push(judged(p, randomMix(p, random)));
    if (i % 100 === 99) yield (POOL_WORK * i) / POOL;
  }

  const tops: Judged[] = [];
  const found: Found[] = [];
  for (const [w, way] of waysOf(input.aims.look).entries()) {
    if (w >= LEADS.length && distinct(p, found, pool, ALIKE).length >= LEAST_ANSWERS) break;
    const climbing = climb(p, [...pool, ...tops], way);
    let step = climbing.next();
    for (; !step.done; step = climbing.next()) yield POOL_WORK + (1 - POOL_WORK) * wayDone(w, step.value);
    tops.push(step.value);
    const moderate = judged(p, inSteps(p, moderated(p, step.value, way).mix));
    const beaten = pool.some((j) => beats(j.scores, moderate.scores));
    found.push({ ...(beaten ? judged(p, inSteps(p, step.value.mix)) : moderate), way });
  }

  const apart = distinct(p, found, pool, ALIKE);
  // where the aims leave little room the answers lie close together
  const shown = apart.length >= LEAST_ANSWERS ? apart : distinct(p, found, pool, NEARLY_ALIKE);
  return (shown.length > 0 ? shown : found.slice(0, 1)).map(({ mix, figures, way }) => ({
    mix,
    figures,
    lead: way.lead,
    ...reasonsFor(start.figures, figures, input.aims.look),
  }));
}

/** A mix of less extreme levels that is worth so much less is as good. Mark: rule of thumb. */
const AS_GOOD = 0.01;
/** How far towards levels that are all alike, the farthest first. */
const TOWARDS = [1, 0.8, 0.6, 0.45, 0.3, 0.2, 0.12, 0.06, 0.03];

/** Less than this is not worth typing in where nothing was. Mark: rule of thumb. */
const TRICKLE = 0.03;

/** The same with its levels drawn as near to one another as costs no more than a hundredth of its worth. */
export function moderated(p: Prepared, best: Judged, way: Way): Judged {
  const dials = p.input.kind.controls.filter(
    (c) => followsStrength(c) && c.kind !== 'onOff' && !(c.id in p.input.fixed),
  );
  const level = (c: Control) => best.mix[c.id] ?? 0;
  const mean = dials.reduce((sum, c) => sum + level(c), 0) / Math.max(1, dials.length);
  const value = worth(p, best, way);
  for (const by of TOWARDS) {
    const near = Object.fromEntries(
      dials.map((c) => {
        const to = level(c) + by * (mean - level(c));
        return [c.id, to < TRICKLE ? level(c) : to];
      }),
    );
    const there = judged(p, atWantedPar(p, { ...best.mix, ...near }));
    if (worth(p, there, way) >= value - AS_GOOD * Math.abs(value)) return there;
  }
  return best;
}

/** The ways of weighing the aims, in the order they are tried. */
const waysOf = (look: number): Way[] => [
  ...LEADS.map((lead): Way => ({ lead, look })),
  // where growth and colour want the same, look and watts still offer a choice
  { lead: 'thrift', look },
  ...LEANS.map((by): Way => ({
    lead: by < 0 ? 'whiter' : 'bluer',
    look: Math.min(1.1, Math.max(-0.1, look + by)),
  })),
];

/** Share of the climbs that is done; ways beyond the leads are rare and share the last of the road. */
const wayDone = (way: number, ofIt: number): number =>
  way < LEADS.length
    ? (way + ofIt) / (LEADS.length + 1)
    : 1 - 0.5 ** (way - LEADS.length + 1 + ofIt) / (LEADS.length + 1);

/** The best that a way comes to from its best starts. Yields how far it is, 0..1. */
function* climb(p: Prepared, from: readonly Judged[], way: Way): Generator<number, Judged> {
  const value = (j: Judged) => worth(p, j, way);
  const starts = [...from].sort((a, b) => value(b) - value(a)).slice(0, STARTS);
  let best = starts[0]!;
  for (const [s, startAt] of starts.entries()) {
    let here = startAt;
    for (const step of STEPS) {
      for (let round = 0; round < ROUNDS; round += 1) {
        const there = bettered(p, here, step, round < PAIR_ROUNDS && step <= PAIR_STEP, value);
        if (there === here) break;
        here = there;
      }
    }
    yield (s + 0.5) / STARTS;
    if (value(here) > value(best)) best = here;
  }
  return best;
}

/**
 * One round of changes, each kept where it is worth more: every free control by a step, and with `pairs` every two against each
 * other, for along a ceiling or floor only two together can move.
 */
function bettered(
  p: Prepared,
  from: Judged,
  step: number,
  pairs: boolean,
  value: (j: Judged) => number,
): Judged {
  let here = from;
  const at = (c: Control) => here.mix[c.id] ?? 0;
  const attempt = (change: Levels) => {
    const there = judged(p, atWantedPar(p, { ...here.mix, ...change }));
    if (value(there) > value(here) + 1e-7) here = there;
  };
  const free = p.input.kind.controls.filter((c) => !(c.id in p.input.fixed));
  const [switches, dials] = [free.filter((c) => c.kind === 'onOff'), free.filter((c) => c.kind !== 'onOff')];
  for (const c of free) {
    if (switches.includes(c)) attempt({ [c.id]: at(c) > 0 ? 0 : 1 });
    else
      for (const by of [step, -step]) {
        const to = Math.min(1, Math.max(0, at(c) + by));
        if (to !== at(c)) attempt({ [c.id]: to });
      }
  }
  if (!pairs) return here;
  for (const up of dials) {
    for (const down of dials) {
      if (up === down || at(up) >= 1 || at(down) <= 0) continue;
      attempt({ [up.id]: Math.min(1, at(up) + step), [down.id]: Math.max(0, at(down) - step) });
    }
  }
  return here;
}

/** A mix in steps that its lamp can take; where it knows none, in thousandths. */
const inSteps = ({ input: { kind } }: Prepared, mix: Levels): Levels => {
  const step = kind.controller.pointStepShare || 0.001;
  return Object.fromEntries(
    Object.entries(mix).map(([id, v]) => [
      id,
      Math.round(Math.min(1, Math.max(0, Math.round(v / step) * step)) * 1e6) / 1e6,
    ]),
  );
};

/** Every way's best among all that was found on any, for a climb may end short of what another came upon; without twins. */
function distinct(p: Prepared, found: readonly Found[], pool: readonly Judged[], alike: number): Found[] {
  const bests = found.map(({ way }): Found => {
    const best = found.reduce((a, b) => (worth(p, b, way) > worth(p, a, way) + 1e-9 ? b : a));
    return { ...best, way };
  });
  const lights = bests.map((b) => lightOf(p, b.mix));
  return bests
    .filter(
      (a, i) =>
        lights.slice(0, i).every((light) => inCommon(lights[i]!, light) < alike) &&
        !pool.some((j) => beats(j.scores, a.scores)),
    )
    .slice(0, MOST_ANSWERS)
    .sort((a, b) => ORDER.indexOf(a.way.lead) - ORDER.indexOf(b.way.lead));
}

/** Light of a mix at the chosen coral, without what else is lit there. */
function lightOf(p: Prepared, mix: Levels): Spectrum {
  const out = zeroSpectrum();
  sharesOf(p, mix).forEach((v, i) => p.input.channels[i]!.forEach((x, k) => (out[k]! += v * x)));
  return out;
}

/** Share of photons that two lights of equal PAR have in common. */
function inCommon(a: Spectrum, b: Spectrum): number {
  const [pa, pb] = [par(a), par(b)];
  if (!(pa > 0 && pb > 0)) return pa === pb ? 1 : 0;
  return a.reduce((sum, v, i) => {
    const nm = nmAt(i);
    return nm < PAR_FROM_NM || nm > PAR_TO_NM ? sum : sum + Math.min(v / pa, b[i]! / pb);
  }, 0);
}

/** Runs the design to its end. */
export const design = (input: DesignInput): Answer[] => ended(designSteps(input));
