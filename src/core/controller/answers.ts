import { type Day, type Knot, parOf } from '../day/day';
import { lampDay, lampLevels, type ResolvedThread, threadBetween } from '../day/thread';
import { DAY_MINUTES, wrapMinute } from '../shape/ring';
import { hasCap, typedControls } from '../spectrum/controls';
import type { ControllerProfile, LampKind, Levels } from '../spectrum/lampKind';
import { seeded } from '../spectrum/random';
import { type ChannelWorth, fitSteps } from './fit';
import { type FitAim, type FitTerms, FIT_WEIGHTS, type FitWeights, fitCost } from './fitTerms';
import { behind, misfits } from './misfits';
import { settable } from './reduce';
import { threadFromValues } from './typed';

/** Moments are compared in steps of this. */
const STEP_MIN = 5;
const MOMENTS = DAY_MINUTES / STEP_MIN;
/** Light below this share of the peak is not a first or last light. Mark: rule of thumb. */
const LIT = 0.005;

/** A day's light, moment by moment. */
interface Sampled {
  par: Float64Array;
  /** [moment of the hours at home][band], one after the other */
  seen: Float64Array;
}
const room = (looked: readonly number[], bands: number): Sampled => ({
  par: new Float64Array(MOMENTS),
  seen: new Float64Array(looked.length * bands),
});
type Home = FitAsk['home'];

/** Light of a point of a day. */
interface PointLight {
  minute: number;
  par: number;
  bands: Float64Array;
}

const pointLight = ({ minute, levels }: Knot, worth: ChannelWorth): PointLight => {
  const bands = new Float64Array(worth.bands[0]?.length ?? 0);
  levels.forEach((v, c) => {
    if (v > 0) worth.bands[c]!.forEach((x, b) => (bands[b]! += v * x));
  });
  return { minute, par: parOf(levels, worth.par), bands };
};

/** Moments of the hours at home. */
function lookedAt({ fromMinute, toMinute }: Home): number[] {
  const span = wrapMinute(toMinute - fromMinute);
  return Array.from({ length: MOMENTS }, (_, i) => i).filter(
    (i) => wrapMinute(i * STEP_MIN - fromMinute) < span,
  );
}

/**
 * Light between two points lies on a line, or holds: only points are summed over channels.
 * @param at in the order of the day; @param out is filled: thousands of days are judged one after the other
 */
function sampled(
  at: readonly PointLight[],
  interpolation: Day['interpolation'],
  looked: readonly number[],
  out: Sampled,
  times = 1,
): Sampled {
  const { par, seen } = out;
  if (at.length === 0) {
    par.fill(0);
    seen.fill(0);
    return out;
  }
  const count = at[0]!.bands.length;
  // the point before each moment, and how far the way to the next is gone
  let point = at.length - 1;
  let next = 0;
  let looking = 0;
  let [a, b] = [at[point]!, at[0]!];
  let span = 0;
  for (let m = 0; m < MOMENTS; m += 1) {
    const minute = m * STEP_MIN;
    while (next < at.length && at[next]!.minute <= minute) {
      point = next;
      next += 1;
      span = 0;
    }
    if (span === 0) {
      [a, b] = [at[point]!, at[(point + 1) % at.length]!];
      span = wrapMinute(b.minute - a.minute) || DAY_MINUTES;
    }
    const gone = minute - a.minute;
    const way =
      interpolation === 'hold' || at.length === 1 ? 0 : (gone < 0 ? gone + DAY_MINUTES : gone) / span;
    par[m] = times * (a.par + (b.par - a.par) * way);
    if (looked[looking] !== m) continue;
    const from = looking * count;
    looking += 1;
    const [x, y] = [a.bands, b.bands];
    for (let k = 0; k < count; k += 1) seen[from + k] = times * (x[k]! + (y[k]! - x[k]!) * way);
  }
  return out;
}

/** First and last lit moment, from the middle of the longest dark; null when it is never dark or never lit. */
function litEnds(par: Float64Array): { first: number; last: number } | null {
  let peak = 0;
  for (let i = 0; i < MOMENTS; i += 1) if (par[i]! > peak) peak = par[i]!;
  const lit = (i: number) => par[i]! > LIT * peak && par[i]! > 0;
  let best = { start: 0, length: 0 };
  let litBefore = lit(MOMENTS - 1);
  for (let i = 0; i < MOMENTS; i += 1) {
    const litNow = lit(i);
    if (litBefore && !litNow) {
      let length = 1;
      while (length < MOMENTS && !lit((i + length) % MOMENTS)) length += 1;
      if (length > best.length) best = { start: i, length };
    }
    litBefore = litNow;
  }
  return best.length > 0 ? { first: best.start + best.length, last: best.start } : null;
}

const apart = (a: number, b: number) => wrapMinute(a - b + DAY_MINUTES / 2) - DAY_MINUTES / 2;

/** Judges a fitted day against the wanted one. */
function judge(want: Sampled, made: Sampled, turns: number): FitTerms {
  const [a, b] = [litEnds(want.par), litEnds(made.par)];
  let [off, seen, error, peak, top, wanted, given] = [0, 0, 0, 0, 0, 0, 0];
  const [wants, gives, wantsSeen, givesSeen] = [want.par, made.par, want.seen, made.seen];
  for (let i = 0; i < MOMENTS; i += 1) {
    const x = wants[i]!;
    const y = gives[i]!;
    const by = x > y ? x - y : y - x;
    if (by > error) error = by;
    if (x > peak) peak = x;
    if (y > top) top = y;
    wanted += x;
    given += y;
  }
  for (let i = 0; i < wantsSeen.length; i += 1) {
    const x = wantsSeen[i]!;
    const by = x - givesSeen[i]!;
    off += by > 0 ? by : -by;
    seen += x;
  }
  const share = (x: number, of: number) => (of > 0 ? x / of : x > 0 ? 1 : 0);
  return {
    // a day that is never dark, or always, is as far off as can be
    firstMin: a && b ? apart(b.first * STEP_MIN, a.first * STEP_MIN) : a || b ? DAY_MINUTES / 2 : 0,
    lastMin: a && b ? apart(b.last * STEP_MIN, a.last * STEP_MIN) : a || b ? DAY_MINUTES / 2 : 0,
    doseShare: share(given - wanted, wanted),
    lookShare: share(off, seen),
    peakShare: share(top - peak, peak),
    errorShare: share(error, peak),
    turns,
  };
}

export interface FitAnswer {
  /** what it is best for; several where they come out as one */
  aims: FitAim[];
  threads: ResolvedThread[];
  /** the cap it is to run under: another one where that gives back the dose */
  capShare: number;
  terms: FitTerms;
}

export interface FitAsk {
  kind: LampKind;
  threads: readonly ResolvedThread[];
  worth: ChannelWorth;
  controller: ControllerProfile;
  home: { fromMinute: number; toMinute: number };
  capShare: number;
  /** the lamp with its colours on circuits, where the controller switches them apart */
  wired?: LampKind;
  /** what a keeper weighs by hand: an answer of its own */
  own?: FitWeights;
}

/** The lamp as it hangs behind the controller. */
const targetOf = ({ kind, controller, wired }: FitAsk): LampKind => wired ?? behind(kind, controller);

const open = { capShare: 1, easingShare: 1 };
/** A cap gives back the dose where the brightest light then stays below this of the wanted. Mark: rule of thumb. */
const BRIGHTEST = 1.05;
/** Less of a dose is not worth another cap. */
const WORTH_A_CAP = 0.005;
/** Days with as many points are tried with fewer too, down to this. */
const FEWEST = 2;
/** Looking about is ended after so many days were judged, for each thing that is minded. */
const MOST_TRIED = 3000;
/** From how many of the best days looking about starts, and how often it starts anew near the best. */
const STARTS = 3;
const ANEW = 24;
/** An answer that is as good as this for another thing stands for both. Mark: rule of thumb. */
const AS_GOOD = 1.02;
/** Cost of a point up to which a day counts as losing nothing. */
const NOTHING_LOST = 0.0011;

/** Judges any day against the wanted one. */
export function fitJudge(ask: FitAsk) {
  const { kind, threads, worth, controller, home } = ask;
  const target = targetOf(ask);
  const day = lampDay(kind, threads, open);
  const looked = lookedAt(home);
  const bands = worth.bands[0]?.length ?? 0;
  const want = sampled(
    day.knots.map((k) => pointLight(k, worth)),
    day.interpolation,
    looked,
    room(looked, bands),
  );
  const tried = room(looked, bands);
  // most of a day is as it was in the one before
  const known = new WeakMap<ResolvedThread, PointLight>();
  const lightOf = (t: ResolvedThread) => {
    let light = known.get(t);
    if (!light) {
      const levels = lampLevels(target, t.mix, t.strengthShare);
      known.set(t, (light = pointLight({ minute: t.minute, levels }, worth)));
    }
    return light;
  };
  return (made: readonly ResolvedThread[], times = 1): FitTerms =>
    judge(want, sampled(made.map(lightOf), controller.interpolation, looked, tried, times), made.length);
}

/**
 * Several answers of a controller to a day, each the best for something a keeper minds; those that come out as one together. They start
 * from the days with the least largest error, with all points and with fewer, and go to the best day about them. Yields how far it is.
 */
export function* answerSteps(
  ask: FitAsk,
  weights: Readonly<Partial<Record<FitAim, FitWeights>>> = {
    // what is weighed by hand comes first
    ...(ask.own ? { own: ask.own } : {}),
    ...FIT_WEIGHTS,
  },
): Generator<number, FitAnswer[]> {
  const { kind, threads, worth, controller } = ask;
  if (threads.length === 0) return [];
  const terms = fitJudge(ask);
  const most = Math.min(controller.maxPoints ?? threads.length, Math.max(threads.length, FEWEST));
  const sizes = [...new Set([most, most - 1, Math.ceil(most / 2), 4, 3, FEWEST])].filter(
    (n) => n >= FEWEST && n <= most && (controller.sets !== 'switch' || n % 2 === 0),
  );
  const pool: ResolvedThread[][] = [];
  for (const [i, maxPoints] of sizes.entries()) {
    const steps = fitSteps(kind, threads, worth, { ...controller, maxPoints }, ask.wired);
    let next = steps.next();
    for (; !next.done; next = steps.next()) yield (0.5 * (i + next.value)) / sizes.length;
    if (next.value.threads.length > 0) pool.push(next.value.threads);
  }
  if (pool.length === 0) return [];
  const out: FitAnswer[] = [];
  const aims = Object.keys(weights) as FitAim[];
  const weightsOf = (aim: FitAim) => weights[aim]!;
  const costs = aims.map((aim) => (made: readonly ResolvedThread[]) => fitCost(terms(made), weightsOf(aim)));
  const each: ResolvedThread[][] = [];
  for (const [i, cost] of costs.entries()) {
    yield 0.5 + (0.5 * i) / aims.length;
    each.push(best(ask, [...pool, ...each], cost));
  }
  for (const [i, aim] of aims.entries()) {
    // what was found for something else may be better for this
    const found = each.reduce((a, b) => (costs[i]!(b) < costs[i]!(a) - 1e-12 ? b : a), each[i]!);
    const twin = out.find((o) => costs[i]!(o.threads) <= AS_GOOD * costs[i]!(found) + 1e-9);
    if (twin) twin.aims.push(aim);
    else out.push({ aims: [aim], threads: found, ...capped(ask, found, terms, weightsOf(aim)) });
  }
  return out;
}

/** The cap that gives an answer the wanted dose, where it can and its brightest stays that of the wanted day. */
function capped(
  ask: FitAsk,
  made: readonly ResolvedThread[],
  terms: ReturnType<typeof fitJudge>,
  weights: FitWeights,
): Pick<FitAnswer, 'capShare' | 'terms'> {
  const plain = terms(made);
  const { controller, capShare } = ask;
  if (
    !hasCap(targetOf(ask)) ||
    controller.capMeans !== 'multiplies' ||
    Math.abs(plain.doseShare) < WORTH_A_CAP ||
    plain.doseShare <= -1
  )
    return { capShare, terms: plain };
  const cap = Math.min(1, Math.round((100 * capShare) / (1 + plain.doseShare)) / 100);
  const after = terms(made, cap / capShare);
  return cap > 0 &&
    fitCost(after, weights) < fitCost(plain, weights) &&
    1 + after.peakShare <= Math.max(BRIGHTEST, 1 + Math.min(0, plain.peakShare))
    ? { capShare: cap, terms: after }
    : { capShare, terms: plain };
}

/** The best day about those of a pool: points moved in time, changed in level, put in and left out, as long as that betters it. */
function best(
  ask: FitAsk,
  pool: readonly (readonly ResolvedThread[])[],
  cost: (made: readonly ResolvedThread[]) => number,
): ResolvedThread[] {
  const { controller } = ask;
  const target = targetOf(ask);
  const wanted = wantedAt(ask);
  let tried = 0;
  const better = (start: readonly ResolvedThread[]) => {
    let at = { made: [...start], cost: cost(start) };
    for (let moved = true; moved && tried < MOST_TRIED;) {
      moved = false;
      for (const next of neighbours(target, at.made, wanted)) {
        if (tried >= MOST_TRIED) break;
        // levels and times are made settable; only circuits can come to be switched too often
        if (controller.sets === 'switch' && misfits(target, next).length > 0) continue;
        tried += 1;
        const c = cost(next);
        if (c < at.cost - 1e-9) {
          at = { made: next, cost: c };
          moved = true;
          break;
        }
      }
    }
    return at;
  };
  const placed = controller.sets === 'switch' ? [] : timed(ask, pool, wanted, cost);
  const starts = [...pool, ...placed]
    .map((made) => ({ made, cost: cost(made) }))
    .sort((a, b) => a.cost - b.cost);
  // nothing but its points counts against it, and there are no fewer that lose nothing
  if (starts[0]!.cost <= NOTHING_LOST * starts[0]!.made.length) return [...starts[0]!.made];
  let at = starts
    .slice(0, STARTS)
    .map((s) => better(s.made))
    .reduce((a, b) => (b.cost < a.cost ? b : a));
  // a point thrown elsewhere, always in the same way
  const random = seeded(11);
  for (let i = 0; i < ANEW && tried < MOST_TRIED; i += 1) {
    const next = better(thrown(target, at.made, wanted, random));
    if (next.cost < at.cost - 1e-9) at = next;
  }
  return at.made;
}

/** A point as the wanted day would have it: what it is at its time, or where it holds in the middle of so many minutes. */
function wantedAt({
  kind,
  threads,
  controller,
}: FitAsk): (minute: number, heldMin: number) => ResolvedThread {
  const target = behind(kind, controller);
  const { pointStepShare, lowestShare, interpolation } = controller;
  const known = new Map<string, ResolvedThread>();
  return (minute, heldMin) => {
    const at = wrapMinute(Math.round(minute + (interpolation === 'hold' ? heldMin / 2 : 0)));
    const key = `${minute} ${at}`;
    let made = known.get(key);
    if (!made) {
      const there = threadBetween(threads, at, kind);
      const typed = typedControls(target, there.mix, there.strengthShare);
      const values = Object.entries(typed).map(([id, v]) => [id, settable(v, pointStepShare, lowestShare)]);
      known.set(key, (made = threadFromValues(kind, minute, Object.fromEntries(values) as Levels)));
    }
    return made;
  };
}

/** Times are looked at this far apart, min, or farther where there are many points. Mark: rule of thumb. */
const PLACES_MIN = 15;
const MOST_PLACED = 1500;

/** Days that take from the wanted one what it is at their points: the times alone are chosen, each anew as long as that lowers the cost. */
function timed(
  { controller }: FitAsk,
  pool: readonly (readonly ResolvedThread[])[],
  wanted: ReturnType<typeof wantedAt>,
  cost: (made: readonly ResolvedThread[]) => number,
): ResolvedThread[][] {
  const day = (minutes: readonly number[]) =>
    minutes.map((m, i) => wanted(m, wrapMinute(minutes[(i + 1) % minutes.length]! - m) || DAY_MINUTES));
  return pool
    .filter((made) => made.length >= FEWEST)
    .slice(0, STARTS)
    .map((made) => {
      const every = Math.max(controller.everyMin, PLACES_MIN * Math.ceil(made.length / 4));
      const places = Array.from({ length: Math.floor(DAY_MINUTES / every) }, (_, i) => i * every);
      let at = made.map((t) => t.minute).sort((a, b) => a - b);
      let best = cost(day(at));
      let tried = 0;
      for (let moved = true; moved && tried < MOST_PLACED;) {
        moved = false;
        for (const i of at.keys()) {
          const rest = at.filter((_, k) => k !== i);
          for (const minute of places) {
            if (rest.includes(minute)) continue;
            const next = [...rest, minute].sort((a, b) => a - b);
            tried += 1;
            const c = cost(day(next));
            if (c >= best - 1e-9) continue;
            [at, best, moved] = [next, c, true];
            break;
          }
          if (moved) break;
        }
      }
      return day(at);
    });
}

/** A day with one of its points at another time, with the values of another point or those of the wanted day there. */
function thrown(
  kind: LampKind,
  made: readonly ResolvedThread[],
  wanted: ReturnType<typeof wantedAt>,
  random: () => number,
): readonly ResolvedThread[] {
  const { everyMin } = kind.controller;
  const i = Math.floor(random() * made.length);
  const from = made[Math.floor(random() * made.length)]!;
  const minute = Math.floor((random() * DAY_MINUTES) / everyMin) * everyMin;
  if (made.some((t, k) => k !== i && t.minute === minute)) return made;
  const point =
    kind.controller.sets !== 'switch' && random() < 0.7
      ? wanted(minute, Math.floor(random() * 4 + 1) * Math.max(30, everyMin))
      : { ...from, minute };
  const next = made.map((t, k) => (k === i ? point : t)).sort((a, b) => a.minute - b.minute);
  return misfits(kind, next).length > 0 ? made : next;
}

/** Days a step away. */
function* neighbours(
  kind: LampKind,
  made: readonly ResolvedThread[],
  wanted: ReturnType<typeof wantedAt>,
): Generator<ResolvedThread[]> {
  const { everyMin, pointStepShare, lowestShare, sets } = kind.controller;
  const sorted = (all: ResolvedThread[]) => all.sort((a, b) => a.minute - b.minute);
  const free = (minute: number, i: number) => !made.some((t, k) => k !== i && t.minute === minute);
  const replaced = (i: number, t: ResolvedThread) => sorted(made.map((old, k) => (k === i ? t : old)));
  for (const [i, t] of made.entries())
    for (const by of [1, -1, 2, -2, 4, -4, 12, -12]) {
      const minute = wrapMinute(t.minute + by * everyMin);
      if (free(minute, i)) yield replaced(i, { ...t, minute });
    }
  if (sets !== 'switch')
    for (const [i, t] of made.entries())
      for (const by of [0, 1, -1, 2, -2, 4, -4]) {
        const minute = wrapMinute(t.minute + by * everyMin);
        if (!free(minute, i)) continue;
        const others = made.filter((_, k) => k !== i).map((o) => wrapMinute(o.minute - minute));
        yield replaced(i, wanted(minute, Math.min(DAY_MINUTES, ...others)));
      }
  if (made.length > FEWEST) for (const i of made.keys()) yield made.filter((_, k) => k !== i);
  if (sets === 'switch' || !kind.controls.every((c) => c.kind === 'level')) return;
  const step = pointStepShare > 0 ? pointStepShare : 0.01;
  const from = (t: ResolvedThread, change: (v: number, id: string) => number) => {
    const typed = typedControls(kind, t.mix, t.strengthShare);
    const values: Levels = Object.fromEntries(
      Object.entries(typed).map(([id, v]) => [id, settable(change(v, id), pointStepShare, lowestShare)]),
    );
    return threadFromValues(kind, t.minute, values);
  };
  for (const [i, t] of made.entries()) {
    if (t.strengthShare > 0)
      for (const by of [1.02, 0.98, 1.1, 0.9, 1.4, 0.7])
        yield replaced(
          i,
          from(t, (v) => v * by),
        );
    for (const { id } of kind.controls)
      for (const by of [step, -step, 4 * step, -4 * step, 16 * step, -16 * step])
        yield replaced(
          i,
          from(t, (v, c) => (c === id ? v + by : v)),
        );
  }
}
