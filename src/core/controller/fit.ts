import { type Day, type Knot, kneeMinutes, levelsAt, parOf, topOf } from '../day/day';
import { DAY_MINUTES } from '../shape/ring';
import { lampDay, lampLevels, type ResolvedThread, threadBetween } from '../day/thread';
import { BANDS } from '../spectrum/bands';
import { channelLevels, dims, typedControls } from '../spectrum/controls';
import type { Levels, ControllerProfile, LampKind } from '../spectrum/lampKind';
import { peakError } from './corners';
import { behind } from './misfits';
import { reduceSteps, settable } from './reduce';
import { circuitThreads, threadFromValues } from './typed';

/** What is lost when a day is fitted to a controller. */
export interface FitLoss {
  /** largest error in light at any moment over the day's peak PAR */
  peakErrorShare: number;
  /** DLI of the fitted day over the wanted, − 1 */
  dliChange: number;
  /** largest share of photons that lies in another band at any bright moment */
  spectralDriftShare: number;
}

export interface FittedDay {
  threads: ResolvedThread[];
  loss: FitLoss;
  /** the fitted lamp: the same light behind the other controller */
  kind: LampKind;
}

/** What light of each channel is worth where it is judged. */
export interface ChannelWorth {
  /** PAR at full, µmol m⁻² s⁻¹ */
  par: readonly number[];
  /** photons per band at full, in the order of the bands */
  bands: readonly (readonly number[])[];
}

const open = { capShare: 1, easingShare: 1 };
/** Moments dimmer than this share of the peak are not judged for colour. Mark: rule of thumb. */
const BRIGHT = 0.1;

/** Largest share of photons that changes its band, over all bright moments of both days. */
function spectralDrift(wanted: Day, fitted: Day, worth: ChannelWorth): number {
  const minutes = kneeMinutes([wanted, fitted]);
  const steps = minutes.flatMap((m, i) => [m, (m + ((minutes[i + 1] ?? DAY_MINUTES) - m) / 2) % DAY_MINUTES]);
  const peak = Math.max(0, ...steps.map((m) => parOf(levelsAt(wanted, m), worth.par)));
  const shares = (levels: readonly number[]) => {
    const sums = BANDS.map((_, b) => levels.reduce((sum, l, c) => sum + l * worth.bands[c]![b]!, 0));
    const all = sums.reduce((a, b) => a + b, 0);
    return all > 0 ? sums.map((v) => v / all) : null;
  };
  let worst = 0;
  for (const m of steps) {
    const [x, y] = [levelsAt(wanted, m), levelsAt(fitted, m)];
    if (parOf(x, worth.par) < BRIGHT * peak || parOf(y, worth.par) < BRIGHT * peak) continue;
    const [a, b] = [shares(x), shares(y)];
    if (a && b) worst = Math.max(worst, a.reduce((sum, v, i) => sum + Math.abs(v - b[i]!), 0) / 2);
  }
  return worst;
}

const total = (day: Day, par: readonly number[]): number => {
  // exact for days without a drive: mean of both ends of every stretch
  let sum = 0;
  day.knots.forEach((k, i) => {
    const last = i + 1 === day.knots.length;
    const next = day.knots[last ? 0 : i + 1]!;
    const span = next.minute - k.minute + (last ? DAY_MINUTES : 0);
    const end = day.interpolation === 'ramp' ? next.levels : k.levels;
    sum += (span * (parOf(k.levels, par) + parOf(end, par))) / 2;
  });
  return sum;
};

/** What is lost between two days of one lamp, before cap and drive. */
export function lossOf(wanted: Day, fitted: Day, worth: ChannelWorth): FitLoss {
  const want = total(wanted, worth.par);
  return {
    peakErrorShare: peakError(wanted, fitted, worth.par),
    dliChange: want > 0 ? total(fitted, worth.par) / want - 1 : 0,
    spectralDriftShare: spectralDrift(wanted, fitted, worth),
  };
}

/**
 * Fits a day to a controller: chosen points and values, and what is lost. Lamps whose controls are levels are fitted in their
 * controls, exactly; others (tint, trims) at times chosen by their light, with the settings the day has there.
 * @param wired the lamp with its colours on circuits, where the controller switches them apart. Yields how far it is.
 */
export function* fitSteps(
  kind: LampKind,
  threads: readonly ResolvedThread[],
  worth: ChannelWorth,
  controller: ControllerProfile,
  wired?: LampKind,
): Generator<number, FittedDay> {
  const target = wired ?? behind(kind, controller);
  const wanted = lampDay(kind, threads, open);
  const eased = (day: Pick<Day, 'knots' | 'interpolation'>) =>
    day.interpolation === 'hold' && controller.interpolation === 'ramp' ? jumpsAsRamps(day) : day;
  const made = (fitted: ResolvedThread[]): FittedDay => {
    const day = lampDay(target, fitted, open);
    // drive (lowest levels, curves, budget) is the lamp's own on both sides: levels are compared
    return {
      threads: fitted,
      kind: target,
      loss: lossOf({ ...wanted, ...eased(wanted), drive: undefined }, { ...day, drive: undefined }, worth),
    };
  };
  if (threads.length === 0) return made([]);
  const rules = {
    maxPoints: controller.maxPoints,
    stepShare: controller.pointStepShare,
    lowestShare: controller.lowestShare,
    everyMin: controller.everyMin,
    interpolation: controller.interpolation,
    keepDark: true,
  };
  if (controller.sets === 'switch') {
    return made(yield* switchSteps(wired ?? kind, threads, wanted, worth, controller));
  }
  const linear = kind.controls.every((c) => c.kind === 'level');
  if (linear) {
    const values = eased(controlDay(kind, threads));
    const par = kind.controls.map((c) => parOf(channelLevels(kind, { [c.id]: 1 }), worth.par));
    const reduced = yield* reduceSteps(values, par, rules);
    return made(reduced.knots.map((k) => threadFromValues(kind, k.minute, named(kind, k.levels))));
  }
  const reduced = yield* reduceSteps(eased(wanted), worth.par, rules);
  return made(
    reduced.knots.map((k, i) => {
      const next = reduced.knots[(i + 1) % reduced.knots.length]!;
      const span = (next.minute - k.minute + DAY_MINUTES) % DAY_MINUTES || DAY_MINUTES;
      const at =
        controller.interpolation === 'ramp' ? k.minute : Math.round(k.minute + span / 2) % DAY_MINUTES;
      const there = threadBetween(threads, at, kind);
      const typed = typedControls(target, there.mix, there.strengthShare);
      return threadFromValues(
        kind,
        k.minute,
        Object.fromEntries(
          Object.entries(typed).map(([id, v]) => [id, settable(v, rules.stepShare, rules.lowestShare)]),
        ),
      );
    }),
  );
}

/** A day that jumps, for a controller that only ramps: each jump within the minute before it. */
function jumpsAsRamps({ knots }: Pick<Day, 'knots'>): Pick<Day, 'knots' | 'interpolation'> {
  const out = new Map<number, readonly number[]>();
  knots.forEach((k, i) => {
    const before = knots[(i + knots.length - 1) % knots.length]!;
    const eve = (k.minute + DAY_MINUTES - 1) % DAY_MINUTES;
    if (!out.has(eve)) out.set(eve, before.levels);
    out.set(k.minute, k.levels);
  });
  return {
    interpolation: 'ramp',
    knots: [...out].map(([minute, levels]) => ({ minute, levels })).sort((a, b) => a.minute - b.minute),
  };
}

const named = (kind: LampKind, values: readonly number[]): Levels =>
  Object.fromEntries(kind.controls.map((c, i) => [c.id, values[i]!]));

/** A day of controls: what is typed at each thread, in the order of the controls. */
function controlDay(
  kind: LampKind,
  threads: readonly ResolvedThread[],
): Pick<Day, 'knots' | 'interpolation'> {
  const knots = threads
    .map((t): Knot => {
      const typed = typedControls(kind, t.mix, t.strengthShare);
      return { minute: t.minute, levels: kind.controls.map((c) => typed[c.id]!) };
    })
    .sort((a, b) => a.minute - b.minute);
  return { knots, interpolation: kind.controller.interpolation };
}

/** Strengths tried for a lamp that a timer switches as a whole, as shares of the day's brightest setting. */
const TIMER_STRENGTHS = Array.from({ length: 15 }, (_, i) => 0.3 + 0.05 * i);

/**
 * When something that is only on or off is on, so that the light of all day that is wrong is least: exact on the clock's own steps,
 * by dynamic programming over the ring.
 * @param wrongOff light that is missing per step while it is off; @param wrongOn light that is wrong while it is on
 * @returns on or off per step, switched at most `most` times a day
 */
export function switchPlan(wrongOff: readonly number[], wrongOn: readonly number[], most: number): boolean[] {
  const n = wrongOff.length;
  const wrong = [wrongOff, wrongOn];
  const pairs = Math.min(n, most - (most % 2));
  let best = { cost: Infinity, on: wrongOff.map(() => false) };
  for (const first of [0, 1]) {
    // cost[k][state] after each step, with k switchings so far
    let cost = Array.from({ length: pairs + 1 }, (_, k) =>
      [0, 1].map((s) => (k === 0 && s === first ? wrong[s]![0]! : Infinity)),
    );
    const from: Uint8Array[] = [];
    for (let i = 1; i < n; i += 1) {
      const back = new Uint8Array((pairs + 1) * 2);
      cost = cost.map((row, k) =>
        [0, 1].map((s) => {
          const stay = row[s]!;
          const turn = k > 0 ? cost[k - 1]![1 - s]! : Infinity;
          back[k * 2 + s] = turn < stay ? 1 : 0;
          return Math.min(stay, turn) + wrong[s]![i]!;
        }),
      );
      from.push(back);
    }
    cost.forEach((row, k) =>
      [0, 1].forEach((s) => {
        // the step over midnight is a switching too
        const used = k + (s === first ? 0 : 1);
        if (used > pairs || row[s]! >= best.cost - 1e-9) return;
        const on = new Array<boolean>(n);
        let [at, state] = [k, s];
        for (let i = n - 1; i >= 0; i -= 1) {
          on[i] = state === 1;
          if (i > 0 && from[i - 1]![at * 2 + state]) [at, state] = [at - 1, 1 - state];
        }
        best = { cost: row[s]!, on };
      }),
    );
  }
  return best.on;
}

/** Light that is wrong per step of a clock while the levels are these, µmol × min. */
function wrongWhile(day: Day, par: readonly number[], levels: readonly number[], every: number): number[] {
  const sums = new Array<number>(Math.floor(DAY_MINUTES / every)).fill(0);
  for (let m = 0; m < sums.length * every; m += 1) {
    const wanted = levelsAt(day, m + 0.5);
    sums[Math.floor(m / every)]! += par.reduce((sum, p, c) => sum + p * Math.abs(levels[c]! - wanted[c]!), 0);
  }
  return sums;
}

/** Times at which a plan switches, as knots of one level. */
const switchKnots = (on: readonly boolean[], every: number): Knot[] => {
  const knots = on.flatMap((v, i) =>
    v === on[(i + on.length - 1) % on.length] ? [] : [{ minute: i * every, levels: [v ? 1 : 0] }],
  );
  return knots.length > 0 ? knots : [{ minute: 0, levels: [on[0] ? 1 : 0] }];
};

/**
 * A day of switching. Circuits are planned one by one; a lamp that dims but hangs on a timer keeps one setting: its brightest mix,
 * at the strength that gets least light wrong.
 */
function* switchSteps(
  kind: LampKind,
  threads: readonly ResolvedThread[],
  wanted: Day,
  worth: ChannelWorth,
  { maxPoints, everyMin }: ControllerProfile,
): Generator<number, ResolvedThread[]> {
  const most = maxPoints ?? DAY_MINUTES;
  const off = kind.channels.map(() => 0);
  if (!dims(kind)) {
    const circuits: { id: string; knots: Knot[] }[] = [];
    for (const [i, c] of kind.controls.entries()) {
      yield i / kind.controls.length;
      // what its channels alone are worth
      const on = channelLevels(kind, { [c.id]: 1 });
      const par = worth.par.map((p, k) => (on[k]! > 0 ? p : 0));
      const plan = switchPlan(
        wrongWhile(wanted, par, off, everyMin),
        wrongWhile(wanted, par, on, everyMin),
        most,
      );
      circuits.push({ id: c.id, knots: switchKnots(plan, everyMin) });
    }
    return circuitThreads(kind, circuits);
  }
  const parAt = (t: ResolvedThread, factor = 1) =>
    parOf(lampLevels(kind, t.mix, t.strengthShare * factor), worth.par);
  const bright = [...threads].sort((a, b) => parAt(b) - parAt(a))[0]!;
  const wrongOff = wrongWhile(wanted, worth.par, off, everyMin);
  let best: { wrong: number; plan: boolean[]; strength: number } | null = null;
  for (const [i, share] of TIMER_STRENGTHS.entries()) {
    yield i / TIMER_STRENGTHS.length;
    const strength = bright.strengthShare * share;
    const wrongOn = wrongWhile(wanted, worth.par, lampLevels(kind, bright.mix, strength), everyMin);
    const plan = switchPlan(wrongOff, wrongOn, most);
    const wrong = plan.reduce((sum, v, k) => sum + (v ? wrongOn[k]! : wrongOff[k]!), 0);
    if (!best || wrong < best.wrong - 1e-9) best = { wrong, plan, strength };
  }
  return switchKnots(best!.plan, everyMin).map((k) => ({
    minute: k.minute,
    strengthShare: topOf([k]) > 0 ? best!.strength : 0,
    mix: bright.mix,
  }));
}
