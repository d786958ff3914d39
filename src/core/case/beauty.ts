import { bisect } from '../shape/bisect';
import { wrapMinute, DAY_MINUTES } from '../shape/ring';
import { type Day, fullSeconds, levelsAt, parOf } from '../day/day';
import { dayLength, unrolled } from '../day/moves';
import { lampLevels, type ResolvedThread } from '../day/thread';
import { circuitThreads, threadFromValues } from '../controller/typed';
import { channelLevels, dims, toStep, typedControls } from '../spectrum/controls';
import type { Levels, LampKind } from '../spectrum/lampKind';
import type { Window } from '../record/zone';

/** A re-timed day: the wanted look falls into the hours at home, and each coral's dose stays what it was. */
export interface Retimed {
  threads: ResolvedThread[];
  /** largest change of any channel's daily light, as a share of the day's PAR */
  doseErrorShare: number;
  /** what stood in the way; null when it could be done */
  reason: string | null;
}

export interface RetimeInput {
  kind: LampKind;
  threads: readonly ResolvedThread[];
  home: Window;
  /** the mix that is to be seen then */
  look: Levels;
  /** threads as they would be lit: cap, rounding, drive */
  dayOf: (threads: readonly ResolvedThread[]) => Day;
  /** PAR of each channel at full at the coral */
  par: readonly number[];
}

/** Slopes of a re-timed day, minutes: first light, into the look, out of it. Mark: rule of thumb. */
const RISE = 60;
const TURN = 20;
const FALL = 30;
/** A re-timed day grows at most to this, minutes. */
const LONGEST = 16 * 60;

/** Daily light per channel that moved, over all: what "the same dose" is worth. */
function doseError(before: Day, after: Day, par: readonly number[]): number {
  const [a, b] = [fullSeconds(before), fullSeconds(after)];
  const all = parOf(a, par);
  return all > 0 ? Math.max(0, ...par.map((p, c) => Math.abs((b[c] ?? 0) - (a[c] ?? 0)) * p)) / all : 0;
}

/**
 * Moves the beauty, keeps the dose. Light per channel and day is kept, and with it the dose of every band at every coral.
 * Lamps of levels get a companion mix outside the hours at home that holds what the look leaves over; circuits keep their
 * hours and change when they are on; lamps with a tint are moved as a whole.
 */
export function moveBeauty(input: RetimeInput): Retimed {
  const { kind, threads } = input;
  const before = input.dayOf(threads);
  const done = (made: ResolvedThread[], reason: string | null = null): Retimed => ({
    threads: made,
    doseErrorShare: doseError(before, input.dayOf(made), input.par),
    reason,
  });
  if (threads.length < 2) return done([...threads], 'there is no day yet to be moved: give it two threads');
  if (!dims(kind)) return done(movedCircuits(input));
  if (!kind.controls.every((c) => c.kind === 'level')) return done(movedWhole(input), WHOLE);
  return retimedLevels(input, before, done);
}

const WHOLE =
  'this lamp’s colours hang together: the day was moved as a whole, so that its best match with the look falls into the hours at home';

const homeOf = ({ fromMinute, toMinute }: Window) => ({
  from: fromMinute,
  to: toMinute > fromMinute ? toMinute : toMinute + DAY_MINUTES,
});
const wrap = (m: number) => wrapMinute(Math.round(m));

function retimedLevels(
  input: RetimeInput,
  before: Day,
  done: (threads: ResolvedThread[], reason?: string | null) => Retimed,
): Retimed {
  const { kind, threads, look, dayOf, par } = input;
  const step = kind.controller.pointStepShare;
  const home = homeOf(input.home);
  const ids = kind.controls.map((c) => c.id);
  const parOfControl = ids.map((id) => parOf(channelLevels(kind, { [id]: 1 }), par));
  const dose = controlSeconds(kind, threads).map((s) => s / 60);
  const peak = Math.max(0, ...threads.map((t) => parOf(lampLevels(kind, t.mix, t.strengthShare), par)));

  for (let length = Math.max(dayLength(threads), RISE + TURN + FALL + 60); length <= LONGEST; length += 15) {
    const end = home.to;
    const start = end - length;
    const inner = Math.max(home.from, start + RISE + TURN);
    const times = [start, start + RISE, inner - TURN, inner, end - FALL, end];
    if (times[4]! <= times[3]!) break;
    // what a minute of companion and of look is worth: slopes count by half
    const atRest = RISE / 2 + (times[2]! - times[1]!) + TURN / 2;
    const atHome = TURN / 2 + (times[4]! - times[3]!) + FALL / 2;
    const looks = ids.map((id) => look[id] ?? 0);
    const lookPar = looks.reduce((sum, v, c) => sum + v * parOfControl[c]!, 0);
    if (!(lookPar > 0)) return done([...threads], 'the wanted look is dark: choose another plate');
    const scale = Math.min(
      peak / lookPar,
      ...looks.flatMap((v, c) => (v > 0 ? [1 / v, dose[c]! > 0 ? dose[c]! / (v * atHome) : Infinity] : [])),
    );
    // a channel that the day has none of stays dark, even if the look asks for it
    const homeLevels = looks.map((v, c) =>
      dose[c]! <= 0 ? 0 : Math.min(1, Math.max(v * scale, (dose[c]! - atRest) / atHome)),
    );
    const rest = homeLevels.map((b, c) => (dose[c]! - b * atHome) / atRest);
    if (rest.some((a) => a > 1 + 1e-9) || homeLevels.some((b, c) => b * atHome > dose[c]! + 1e-6)) continue;
    const rounded = ids.map((_, c) => bestSteps(homeLevels[c]!, dose[c]!, atHome, atRest, step));
    const values = (which: 'home' | 'rest') =>
      Object.fromEntries(ids.map((id, c) => [id, rounded[c]![which]]));
    const build = (factor: number): ResolvedThread[] => {
      const set = (which: 'home' | 'rest') =>
        Object.fromEntries(
          Object.entries(values(which)).map(([id, v]) => [id, toStep(Math.min(1, v * factor), step)]),
        );
      const lit = [set('rest'), set('rest'), set('home'), set('home')].map((v, i) =>
        threadFromValues(kind, wrap(times[i + 1]!), v),
      );
      return [
        { ...lit[0]!, minute: wrap(times[0]!), strengthShare: 0 },
        ...lit,
        { ...lit[3]!, minute: wrap(times[5]!), strengthShare: 0 },
      ];
    };
    let made = build(1);
    if (before.drive) {
      // light does not follow the level there: strengths are set so that the day's light is kept
      const want = parOf(fullSeconds(before), par);
      made = build(bisect((f) => parOf(fullSeconds(dayOf(build(f))), par) < want, 0.3, 2));
    }
    return done(made);
  }
  return done(
    [...threads],
    'the dose does not fit into a day that ends when the hours at home do: give more hours, or a look that uses more of the lamp’s colours',
  );
}

/** The pair of settable values whose dose is nearest to what is wanted, the look moved by two steps at most. */
function bestSteps(homeLevel: number, dose: number, atHome: number, atRest: number, step: number) {
  const rest = (home: number) => Math.min(1, Math.max(0, (dose - home * atHome) / atRest));
  if (step <= 0) return { home: homeLevel, rest: rest(homeLevel) };
  let best = { home: 0, rest: 0, off: Infinity };
  for (let k = -2; k <= 2; k += 1) {
    const home = Math.min(1, Math.max(0, toStep(homeLevel, step) + k * step));
    if (homeLevel === 0 && home > 0) continue;
    const r = toStep(rest(home), step);
    const off = Math.abs(home * atHome + r * atRest - dose);
    if (off < best.off - 1e-9) best = { home, rest: r, off };
  }
  return { home: toStep(best.home, step), rest: best.rest };
}

/** Seconds at full of each control, as typed. */
function controlSeconds(kind: LampKind, threads: readonly ResolvedThread[]): number[] {
  const knots = threads
    .map((t) => {
      const typed = typedControls(kind, t.mix, t.strengthShare);
      return { minute: t.minute, levels: kind.controls.map((c) => typed[c.id]!) };
    })
    .sort((a, b) => a.minute - b.minute);
  return fullSeconds({ knots, capShare: 1, easingShare: 1, interpolation: kind.controller.interpolation });
}

/** Circuits keep how long they are on; those of the look are on while somebody is home, the others before. */
function movedCircuits({ kind, threads, home: window, look }: RetimeInput): ResolvedThread[] {
  const home = homeOf(window);
  const seconds = controlSeconds(kind, threads);
  return circuitThreads(
    kind,
    kind.controls.map((c, i) => {
      const minutes = Math.min(DAY_MINUTES - 1, Math.round(seconds[i]! / 60));
      if (minutes <= 0) return { id: c.id, knots: [] };
      const wanted = (look[c.id] ?? 0) > 0;
      const to = wanted ? home.to : Math.max(home.from, home.to - 60);
      return {
        id: c.id,
        knots: [
          { minute: wrap(to - minutes), levels: [1] },
          { minute: wrap(to), levels: [0] },
        ].sort((a, b) => a.minute - b.minute),
      };
    }),
  );
}

/** The day moved as a whole to where most of its light in the hours at home looks as wanted. */
function movedWhole({ kind, threads, home: window, look, dayOf, par }: RetimeInput): ResolvedThread[] {
  const home = homeOf(window);
  const all = unrolled(threads);
  const wanted = channelLevels(kind, look).map((v, c) => v * par[c]!);
  const norm = (v: readonly number[]) => Math.hypot(...v) || 1;
  const likeness = (levels: readonly number[]) => {
    const seen = levels.map((v, c) => v * par[c]!);
    return seen.reduce((sum, v, c) => sum + v * wanted[c]!, 0) / norm(wanted) / norm(seen);
  };
  let best = { score: -1, made: [...threads] };
  for (let shift = -720; shift < 720; shift += 15) {
    const made = all
      .map((t) => ({ ...t, minute: wrap(t.minute + shift) }))
      .sort((a, b) => a.minute - b.minute);
    const day = dayOf(made);
    let score = 0;
    for (let m = home.from; m < home.to; m += 15) {
      const levels = levelsAt(day, wrap(m));
      score += likeness(levels) * (parOf(levels, par) > 0 ? 1 : 0) - Math.abs(shift) * 1e-5;
    }
    if (score > best.score) best = { score, made };
  }
  return best.made;
}
