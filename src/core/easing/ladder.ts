import { bisect } from '../shape/bisect';
import { good, type Result } from '../shape/result';
import {
  accustom,
  ceilingFor,
  type DayLight,
  dliRatio,
  type Pace,
  stepRatio,
  type StepRatio,
} from './accustomed';
import { LONGEST_PLAN_DAYS, noPlan, type NoPlan } from './plan';

/** Somebody who has to grow used to the light. */
export interface Grower {
  accustomed: DayLight;
  pace: Pace;
  /** near darkness its ratios mean little: see `stepRatio`; absent = 0 */
  floorUmol?: number;
}

/**
 * What a keeper can set, as rungs of rising light: caps, hours, heights, mixtures of two days, places. A plan says on which
 * day which rung is taken.
 */
export interface Ladder {
  rungs: number;
  /** light of a day per grower on a rung; the day after the start matters where something else changes meanwhile */
  lightAt: (rung: number, day: number) => readonly DayLight[];
}

/** From a day on, a rung. */
export interface Rise {
  day: number;
  rung: number;
}

export interface Rules {
  /** step ratio that no coral may pass; other kinds by their pace */
  ceiling: number;
  /** hours leave the peak as it is: then only DLI can be judged */
  judge: 'both' | 'dli';
  /** lowest rung that may be taken */
  least: number;
  /** a ladder whose lowest rung changes nothing may wait on it */
  mayWait: boolean;
}

/** Waiting longer than this many time constants changes nothing any more. */
const SETTLED_TAUS = 12;
const SLACK = 1e-9;

/** A grower's step to a light, by the day's sum alone or by the larger of both. */
export const ratioIn = (
  judge: Rules['judge'],
  light: DayLight,
  { accustomed, floorUmol }: Grower,
): StepRatio =>
  judge === 'dli'
    ? { ratio: dliRatio(light, accustomed, floorUmol), by: 'DLI' }
    : stepRatio(light, accustomed, floorUmol);

const within = (
  light: readonly DayLight[],
  growers: readonly Grower[],
  ceiling: number,
  judge: Rules['judge'],
): boolean =>
  growers.every((g, i) => ratioIn(judge, light[i]!, g).ratio <= ceilingFor(ceiling, g.pace) * (1 + SLACK));

/** What everybody is used to after days of one light. */
export const accustomedAfter = (light: readonly DayLight[], growers: readonly Grower[], days = 1): Grower[] =>
  growers.map((g, i) => ({ ...g, accustomed: accustom(g.accustomed, light[i]!, days, g.pace) }));

/** Highest rung from `from` on, up or down, that everybody takes on a day; null when not even the lowest one. */
function highest(
  ladder: Ladder,
  growers: readonly Grower[],
  day: number,
  from: number,
  least: number,
  ceiling: number,
  judge: Rules['judge'],
): number | null {
  const fits = (rung: number) => within(ladder.lightAt(rung, day), growers, ceiling, judge);
  let k = Math.max(from, least);
  if (fits(k)) {
    while (k + 1 < ladder.rungs && fits(k + 1)) k += 1;
    return k;
  }
  while (k > least) {
    k -= 1;
    if (fits(k)) return k;
  }
  return null;
}

/**
 * The fastest plan under a ceiling: each day the highest rung that everybody takes. Lights rise with the rung, and who has
 * had more light takes more, so no plan under the ceiling is ahead of it on any day.
 * @param next the day after a day on which the next change may be
 * @returns only days on which the rung changes; the last is the top rung
 */
export function fastestRises(
  ladder: Ladder,
  start: readonly Grower[],
  rules: Rules,
  next: (day: number) => number = (day) => day + 1,
): Result<Rise[], NoPlan> {
  if (!(rules.ceiling > 1))
    return noPlan('a ceiling of 1 or less never lets light rise: give more than 1', 'ceiling');
  const patience = SETTLED_TAUS * Math.max(...start.map((g) => g.pace.tauDays), 1);
  const top = ladder.rungs - 1;
  const rises: Rise[] = [];
  let growers: readonly Grower[] = start;
  let rung = rules.least;
  for (let day = 0, unchanged = 0; day < LONGEST_PLAN_DAYS;) {
    const found = highest(ladder, growers, day, rung, rules.least, rules.ceiling, rules.judge);
    if (found === null && !rules.mayWait)
      return noPlan('not even the smallest setting this lamp has stays within the ceiling', 'stepShare');
    const taken = found ?? rules.least;
    const until = next(day);
    if (taken !== rung || rises.length === 0) {
      rises.push({ day, rung: taken });
      unchanged = 0;
    } else unchanged += until - day;
    rung = taken;
    if (rung === top) return good(rises);
    if (unchanged > patience)
      return noPlan(
        'the next step this lamp can be set to is larger than the ceiling allows: a higher ceiling, fewer lamps or more height would do',
        'stepShare',
      );
    for (; day < until; day += 1) growers = accustomedAfter(ladder.lightAt(rung, day), growers);
  }
  return noPlan(`this plan would take more than ${LONGEST_PLAN_DAYS} days`, 'ceiling');
}

/** The least ceiling is found to a billionth of a percent. */
const CEILING_HALVINGS = 44;

/**
 * At most as many changes as there are days given, each on one of them, the top rung reached by the last, with the smallest
 * worst step ratio that this allows (of a coral; other kinds by their pace). For a ceiling the highest rung each time is
 * the best one can do, so the least ceiling under which the top is reached is found by halving.
 * @param days days after the start, rising
 */
export function fewestRises(
  ladder: Ladder,
  start: readonly Grower[],
  days: readonly number[],
  rules: Pick<Rules, 'judge' | 'least'>,
): Result<Rise[], NoPlan> {
  const top = ladder.rungs - 1;
  const climb = (ceiling: number): Rise[] | null => {
    const rises: Rise[] = [];
    let growers: readonly Grower[] = start;
    let rung = rules.least;
    for (const [i, day] of days.entries()) {
      const found = highest(ladder, growers, day, rung, rules.least, ceiling, rules.judge);
      if (found === null) return null;
      if (found !== rung || i === 0) rises.push({ day, rung: found });
      rung = found;
      for (let d = day; d < (days[i + 1] ?? day); d += 1)
        growers = accustomedAfter(ladder.lightAt(rung, d), growers);
    }
    return rung === top ? rises : null;
  };
  let high = 2;
  while (!climb(high)) {
    high *= 2;
    if (high > 1e9)
      return noPlan(
        'a coral here is used to no light at all: give it some, or say what light it came from',
        'from',
      );
  }
  return good(climb(bisect((ceiling) => !climb(ceiling), 1, high, CEILING_HALVINGS))!);
}

/**
 * A straight line from one share to another over so many days, in whole rungs.
 * @param shares share of each rung, rising to 1
 */
export function lineRises(shares: readonly number[], fromShare: number, days: number, least = 0): Rise[] {
  const rises: Rise[] = [];
  let rung = -1;
  for (let day = 0; day <= days; day += 1) {
    const share = days === 0 ? 1 : fromShare + ((1 - fromShare) * day) / days;
    let k = least;
    while (k + 1 < shares.length && shares[k + 1]! <= share + SLACK) k += 1;
    if (day === days) k = shares.length - 1;
    if (k !== rung) rises.push({ day, rung: k });
    rung = k;
  }
  return rises;
}

/** True when nobody passes the ceiling on any day up to the last rise. */
export const staysUnder = (
  ladder: Ladder,
  start: readonly Grower[],
  rises: readonly Rise[],
  rules: Pick<Rules, 'ceiling' | 'judge'>,
  slack = 0,
): boolean =>
  follow(ladder, start, rises, (rises.at(-1)?.day ?? 0) + 1, rules.judge).every((day) =>
    day.ratios.every((r, i) => r.ratio <= ceilingFor(rules.ceiling, start[i]!.pace) * (1 + SLACK) + slack),
  );

/**
 * The shortest straight line under the ceiling, such as a controller can run by itself: the highest share of the first day, then
 * as few days as stay within it.
 * @param least it begins no higher and takes no fewer days than this
 */
export function selfRise(
  ladder: Ladder,
  shares: readonly number[],
  start: readonly Grower[],
  rules: Rules,
  least: { fromShare: number; days: number } = { fromShare: 1, days: 1 },
): Result<{ fromShare: number; days: number; rises: Rise[] }, NoPlan> {
  const first = highest(ladder, start, 0, rules.least, rules.least, rules.ceiling, rules.judge);
  if (first === null) return noPlan('not even the smallest percent stays within the ceiling', 'stepShare');
  const fromShare = Math.min(least.fromShare, shares[first]!);
  const holds = (days: number) =>
    staysUnder(ladder, start, lineRises(shares, fromShare, days, rules.least), rules);
  const longest = 730;
  let days = least.days;
  while (days <= longest && !holds(days)) days = Math.max(days + 1, Math.floor(days * 1.25));
  if (days > longest)
    return noPlan('no straight line of two years or less stays within the ceiling', 'ceiling');
  while (days > least.days && holds(days - 1)) days -= 1;
  return good({ fromShare, days, rises: lineRises(shares, fromShare, days, rules.least) });
}

/** One day of a plan as it is lived through. */
export interface LivedDay {
  rung: number;
  light: readonly DayLight[];
  /** what each grower is used to as the day begins */
  used: readonly DayLight[];
  ratios: StepRatio[];
}

/** Lives through a plan: light, what everybody is used to and the step ratios, day by day. Before its first rise nothing is lit. */
export function follow(
  ladder: Ladder,
  start: readonly Grower[],
  rises: readonly Rise[],
  days: number,
  judge: Rules['judge'] = 'both',
): LivedDay[] {
  let growers: readonly Grower[] = start;
  let next = 0;
  let rung = rises[0]?.rung ?? 0;
  return Array.from({ length: days }, (_, day) => {
    while (next < rises.length && rises[next]!.day <= day) rung = rises[next++]!.rung;
    const light = ladder.lightAt(rung, day);
    const used = growers.map((g) => g.accustomed);
    const ratios = light.map((l, i) => ratioIn(judge, l, growers[i]!));
    growers = accustomedAfter(light, growers);
    return { rung, light, used, ratios };
  });
}
