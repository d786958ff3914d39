import { bisect } from '../shape/bisect';
import { wrapMinute, DAY_MINUTES } from '../shape/ring';
import { finePercent } from '../shape/percent';
import { type Day, dli, levelsAt, litSpan } from '../day/day';
import { formatHours } from '../day/clock';
import { lampDay, type ResolvedThread } from '../day/thread';
import { circuitThreads } from '../controller/typed';
import { colourClass, type MixTurns, mixTurns } from '../library/colours';
import { dims } from '../spectrum/controls';
import type { Levels, LampKind } from '../spectrum/lampKind';
import type { Window } from '../record/zone';
import { blockDay, oppositeHours } from './hours';
import { type Corner, hasShape, type PatternId, patternsFor, type Shape, SHAPES } from './schools';

/** What a day is wanted to be. */
export interface WantedDay {
  kind: LampKind;
  base: Levels;
  home: Window;
  /** first and last light; null = as long as the school has it, ending when the hours at home do */
  lit: Window | null;
  /** days of the waters that are looked at, for one that is not */
  others: readonly Day[];
  /** mol m⁻² d⁻¹ at the coral, of this group */
  wantedDli: number;
  /** cap or strength as it is; raised where nothing else gives the light */
  capShare: number;
}

export interface PatternInput extends WantedDay {
  /** the group's DLI at the coral for threads under a cap: easing, rounding and drive in */
  dliOf: (threads: readonly ResolvedThread[], capShare: number) => number;
}

export interface PatternDay {
  threads: ResolvedThread[];
  capShare: number;
  dli: number;
  /** what gave beyond strength so that the light is reached, in words */
  gave: string[];
  /** why the wanted DLI is missed by more than 2 %; null when it is met */
  reason: string | null;
}

/** What all patterns are made for: a group under its cap, its light at the coral. */
export interface PatternsInput extends WantedDay {
  /** the water is looked at, and is shaped for those who look */
  lookedAt: boolean;
  easingShare: number;
  /** PAR of each channel at full at the coral */
  par: readonly number[];
  /** the day as it is */
  present: readonly ResolvedThread[];
}

/** One answer; several schools where the lamp cannot do what they differ by. */
export interface PatternAnswer {
  ids: PatternId[];
  day: PatternDay;
  /** it is the day as it is */
  isPresent: boolean;
}

/** Two days are one when they differ by less of their light. Mark: rule of thumb. */
const ONE_DAY = 0.01;
const COMPARE_MIN = 5;

/** Whether two days of a lamp are the same light at all times. */
export function sameDay(a: Day, b: Day): boolean {
  let [apart, all] = [0, 0];
  for (let m = 0; m < DAY_MINUTES; m += COMPARE_MIN) {
    const [x, y] = [levelsAt(a, m), levelsAt(b, m)];
    x.forEach((v, c) => {
      apart += Math.abs(v - y[c]!);
      all += v + y[c]!;
    });
  }
  return apart <= (ONE_DAY * all) / 2;
}

/** Every school's day, those that come out as one together; yields how far it is. */
export function* patternSteps(input: PatternsInput): Generator<number, PatternAnswer[]> {
  const { kind, par, easingShare } = input;
  const dayOf = (threads: readonly ResolvedThread[], capShare: number) =>
    lampDay(kind, threads, { capShare, easingShare });
  const present = input.present.length > 0 ? dayOf(input.present, input.capShare) : null;
  const out: (PatternAnswer & { lamp: Day })[] = [];
  const schools = patternsFor(input.lookedAt, litSpan(input.others) !== null);
  for (const [i, { id }] of schools.entries()) {
    yield i / schools.length;
    const day = patternDay(id, { ...input, dliOf: (threads, cap) => dli(dayOf(threads, cap), par) });
    const lamp = dayOf(day.threads, day.capShare);
    const twin = day.threads.length > 0 ? out.find((o) => sameDay(o.lamp, lamp)) : undefined;
    if (twin) twin.ids.push(id);
    else
      out.push({
        ids: [id],
        day,
        lamp,
        isPresent: present !== null && day.reason === null && sameDay(present, lamp),
      });
  }
  return out.map(({ ids, day, isPresent }) => ({ ids, day, isPresent }));
}

/** Lit hours beyond these are not offered. Mark: rule of thumb. */
const LONGEST_MIN = 16 * 60;
/** How near the wanted DLI counts as met. */
export const MET_SHARE = 0.02;
/** Caps are set in steps of this. */
const CAP_STEP = 0.01;

const wrap = (m: number) => wrapMinute(Math.round(m));
const near = (dli: number, wanted: number) => Math.abs(dli / wanted - 1);
const spanOf = ({ fromMinute, toMinute }: Window) => wrapMinute(toMinute - fromMinute) || DAY_MINUTES;

/** A day after a school that meets the wanted DLI at the coral within 2 %, or says why not. */
export function patternDay(id: PatternId, input: PatternInput): PatternDay {
  if (!(input.wantedDli > 0))
    return {
      ...{ threads: [], capShare: input.capShare, dli: 0, gave: [] },
      reason: 'no light is wanted: give a DLI above 0',
    };
  const block = hasShape(id) ? null : blockOf(id, input);
  if (!dims(input.kind)) return switchedDay(hasShape(id) ? SHAPES[id] : SHAPES.switched, block, input);
  return dimmedDay(
    block ? blockLayout(input.kind, block) : shapeLayout(SHAPES[id as keyof typeof SHAPES], input),
    input,
  );
}

/** When a water that is not looked at is lit. */
function blockOf(id: PatternId, { kind, others }: PatternInput): Window {
  const display = litSpan(others);
  const every = kind.controller.everyMin;
  const opposite = (hours: number): Window => {
    const { onMinute, offMinute } = oppositeHours(others, hours, every);
    return { fromMinute: onMinute, toMinute: offMinute };
  };
  if (id === 'half' || !display) return opposite(id === 'round' ? 24 : 12);
  if (id === 'round') return { fromMinute: 0, toMinute: 0 };
  if (id === 'opposite') return opposite(24 - (display.end - display.start) / 60);
  const snap = (m: number) => wrap(Math.round(m / every) * every);
  return { fromMinute: snap(display.start), toMinute: snap(display.end) };
}

function unrolledHome({ fromMinute, toMinute }: Window) {
  return { from: fromMinute, to: toMinute > fromMinute ? toMinute : toMinute + DAY_MINUTES };
}

/** Where a day's corners lie: minutes after a start, for a length that is free or not. */
interface Layout {
  cornersOf: (length: number) => Corner[];
  startOf: (corners: readonly Corner[]) => number;
  usual: number;
  /** null = its hours are given */
  longest: number | null;
}

const endOf = (corners: readonly Corner[]) => corners[corners.length - 1]![0];

function blockLayout(kind: LampKind, block: Window): Layout {
  const corners = blockDay(kind.controller, block.fromMinute, block.toMinute).map((t): Corner => [
    wrapMinute(t.minute - block.fromMinute),
    t.strengthShare,
    'base',
  ]);
  return { cornersOf: () => corners, startOf: () => block.fromMinute, usual: 0, longest: null };
}

function shapeLayout(shape: Shape, { kind, home: at, lit }: PatternInput): Layout {
  const home = unrolledHome(at);
  const held = (corners: Corner[]) =>
    kind.controller.interpolation === 'hold' ? heldCorners(corners) : corners;
  const shortest = endOf(shape.corners(0, home));
  if (!lit)
    return {
      cornersOf: (length) => held(shape.corners(length, home)),
      // it ends when the hours at home do
      startOf: (corners) => home.to - endOf(corners),
      usual: shape.usual,
      longest: Math.max(shape.usual, LONGEST_MIN - shortest),
    };
  const span = spanOf(lit);
  const from = wrapMinute(at.fromMinute - lit.fromMinute);
  const seen = { from: from >= span ? 0 : from, to: Math.min(span, from + spanOf(at)) };
  const made =
    shape.between && (from < span || from + spanOf(at) > DAY_MINUTES)
      ? shape.between(span, seen)
      : span >= shortest
        ? shape.corners(span - shortest, home)
        : shape.corners(0, home).map(([m, s, turn]): Corner => [(m * span) / shortest, s, turn]);
  const corners = held(made);
  return { cornersOf: () => corners, startOf: () => lit.fromMinute, usual: 0, longest: null };
}

/** The hours and slopes of a day as it is, for one mix: corners at its threads, as high as their light. */
function presentLayout(
  present: readonly ResolvedThread[],
  turn: keyof MixTurns,
  input: PatternInput,
): Layout {
  const light = present.map((t) => input.dliOf([t], 1));
  const most = Math.max(...light);
  const start = present[0]!.minute;
  const corners = present.map((t, i): Corner => [wrapMinute(t.minute - start), light[i]! / most, turn]);
  return { cornersOf: () => corners, startOf: () => start, usual: 0, longest: null };
}

/** The day as it is with its mix turned, for the wanted light; its hours and slopes stay. */
export function turnedDay(
  turn: keyof MixTurns,
  present: readonly ResolvedThread[],
  input: PatternInput,
): PatternDay {
  const none = { threads: [], capShare: input.capShare, dli: 0, gave: [] };
  if (!present.some((t) => input.dliOf([t], 1) > 0)) return { ...none, reason: 'the present day is dark' };
  if (!dims(input.kind))
    return { ...none, reason: 'its circuits cannot be dimmed, so another colour is another light' };
  return dimmedDay(presentLayout(present, turn, input), input);
}

/** Steps of this length stand for a slope on lamps that hold their values. Mark: rule of thumb. */
const HELD_STEP_MIN = 30;

/** All that can be set so that a day gives its light. */
interface Setting {
  /** of its strongest thread */
  strength: number;
  /** of the plateau, min */
  length: number;
  /** levels of the mix, in the same proportions */
  times: number;
  cap: number;
  /** how far the mix is opened towards everything full */
  opened: number;
}

/** Brings a mix up in its proportions, then opens it; circuits, tints and trims stay. */
function lifted(kind: LampKind, base: Levels, { times, opened }: Pick<Setting, 'times' | 'opened'>): Levels {
  return Object.fromEntries(
    Object.entries(base).map(([id, v]) => {
      if (kind.controls.find((c) => c.id === id)?.kind !== 'level') return [id, v];
      const up = Math.min(1, v * times);
      return [id, up + (1 - up) * opened];
    }),
  );
}

function dimmedDay(layout: Layout, input: PatternInput): PatternDay {
  const { kind, base, dliOf, wantedDli } = input;
  const every = kind.controller.everyMin;
  const top = Math.max(0, ...kind.controls.map((c) => (c.kind === 'level' ? (base[c.id] ?? 0) : 0)));
  const most: Setting = {
    strength: 1,
    length: layout.longest ?? layout.usual,
    times: top > 0 ? 1 / top : 1,
    cap: 1,
    opened: 1,
  };
  // a mix and its turns are asked for again and again while strength or hours are looked for
  let turned: { times: number; opened: number; turns: MixTurns } | null = null;
  const turnsOf = ({ times, opened }: Setting) => {
    if (turned?.times !== times || turned.opened !== opened)
      turned = { times, opened, turns: mixTurns(kind, lifted(kind, base, { times, opened })) };
    return turned.turns;
  };
  const threadsOf = (s: Setting): ResolvedThread[] => {
    const corners = layout.cornersOf(s.length);
    const start = layout.startOf(corners);
    const turns = turnsOf(s);
    const placed = corners.map(([m, share, turn]) => ({
      minute: wrap(Math.round((start + m) / every) * every),
      strengthShare: share * s.strength,
      mix: turns[turn],
    }));
    // of corners that fall together the later one says what follows
    return placed
      .filter((t, i) => !placed.slice(i + 1).some((later) => later.minute === t.minute))
      .sort((a, b) => a.minute - b.minute);
  };
  const dose = (s: Setting) => dliOf(threadsOf(s), s.cap);
  let set: Setting = { strength: 1, length: layout.usual, times: 1, cap: input.capShare, opened: 0 };
  const gave: (keyof Setting)[] = [];
  for (const what of ['length', 'times', 'cap', 'opened'] as const) {
    const now = dose(set);
    if (now >= wantedDli) break;
    const full = { ...set, [what]: most[what] };
    if (most[what] <= set[what] || dose(full) <= now * (1 + 1e-6)) continue;
    gave.push(what);
    if (dose(full) < wantedDli) set = full;
    else {
      const found = bisect((x) => dose({ ...set, [what]: x }) < wantedDli, set[what], most[what]);
      set = {
        ...set,
        [what]: what === 'cap' ? Math.min(1, Math.ceil(found / CAP_STEP - 1e-9) * CAP_STEP) : found,
      };
    }
  }
  if (dose(set) > wantedDli)
    set = { ...set, strength: bisect((s) => dose({ ...set, strength: s }) < wantedDli, 0, 1) };
  const give = (s: Setting) => {
    const rounded = { ...s, strength: round4(s.strength), times: round4(s.times), opened: round4(s.opened) };
    const threads = threadsOf(rounded);
    return { threads, capShare: rounded.cap, dli: dliOf(threads, rounded.cap), set: rounded };
  };
  // whole percents and minutes: look about for what rounds best
  let best = give({ ...set, length: Math.round(set.length) });
  const reachable = dose(set) >= wantedDli * (1 - MET_SHARE);
  for (let i = 1; reachable && i <= 60 && near(best.dli, wantedDli) > MET_SHARE / 4; i += 1) {
    for (const by of [i, -i]) {
      const stronger = { ...set, strength: Math.min(1, set.strength * (1 + by / 400)) };
      const longer = { ...set, length: Math.max(0, Math.round(set.length + by * every)) };
      for (const tried of layout.longest === null ? [stronger] : [stronger, longer]) {
        const made = give({ ...tried, length: Math.round(tried.length) });
        if (near(made.dli, wantedDli) < near(best.dli, wantedDli)) best = made;
      }
    }
  }
  const { threads, capShare, dli: reached } = best;
  const hours = formatHours(endOf(layout.cornersOf(best.set.length)) / 60);
  const words = gave.map((what) =>
    what === 'length'
      ? `it lasts longer, ${hours}`
      : what === 'times'
        ? `the mix is ${best.set.times.toFixed(2)} times as strong, in the same proportions`
        : what === 'cap'
          ? `the cap is ${finePercent(best.set.cap)} in place of ${finePercent(input.capShare)}`
          : 'the mix is opened towards everything full, so it looks otherwise',
  );
  const steps = `its steps of ${finePercent(kind.controller.pointStepShare)}${every > 1 ? ` and ${every} min` : ''} come no nearer than ${reached.toFixed(2)} mol: with the cap lower the same light is set in finer steps`;
  const short = `with everything at full it gives ${reached.toFixed(1)} mol in ${layout.longest === null ? 'these hours' : `${hours}, the longest day offered`}: hang the lamp lower, add light, or want less`;
  return {
    ...{ threads, capShare, dli: reached, gave: words },
    reason:
      near(reached, wantedDli) <= MET_SHARE ? null : reached < wantedDli && gave.length > 0 ? short : steps,
  };
}
const round4 = (v: number) => Math.round(v * 1e4) / 1e4;

/** Slopes as steps: the middle of each stretch is held. */
function heldCorners(corners: readonly Corner[]): Corner[] {
  return corners.flatMap(([m, s, turn], i): Corner[] => {
    const next = corners[i + 1];
    if (!next) return [[m, 0, turn]];
    if (next[1] === s) return [[m, s, s > 0 ? turn : next[2]]];
    const steps = Math.max(1, Math.round((next[0] - m) / HELD_STEP_MIN));
    return Array.from({ length: steps }, (_, k): Corner => {
      const w = (k + 0.5) / steps;
      return [m + ((next[0] - m) * k) / steps, s + (next[1] - s) * w, w < 0.5 ? turn : next[2]];
    });
  });
}

/** A day of circuits: blue ones all of it, the others inside; with hours that are given the inner ones give the dose. */
function switchedDay(shape: Shape, block: Window | null, input: PatternInput): PatternDay {
  const { kind, base, dliOf, wantedDli, capShare } = input;
  const used = kind.controls.filter((c) => c.kind === 'onOff' && (base[c.id] ?? 0) > 0);
  const circuits = used.length > 0 ? used : kind.controls.filter((c) => c.kind === 'onOff');
  const isBlue = (c: (typeof circuits)[number]) => ['blue', 'violet'].includes(colourClass(kind, c));
  const outer = circuits.some(isBlue) ? circuits.filter(isBlue) : circuits.slice(0, 1);
  const home = unrolledHome(input.home);
  const every = kind.controller.everyMin;
  const snap = (m: number) => Math.round(m / every) * every;
  const given = block ?? input.lit;
  /** @param share how much of the inner circuits' hours is used, about their middle */
  const build = (length: number, share: number): ResolvedThread[] => {
    const [from, to] = given
      ? [snap(given.fromMinute), snap(given.fromMinute + spanOf(given))]
      : [snap(home.to - length), snap(home.to)];
    const rows = kind.controls.map((c) => {
      const windows: [number, number][] = !circuits.some((x) => x.id === c.id)
        ? []
        : block || outer.some((o) => o.id === c.id)
          ? [[from, to]]
          : shape.inner(from, to, home).map(([a, b]) => {
              const [middle, half] = [(a + b) / 2, ((b - a) / 2) * share];
              return [middle - half, middle + half];
            });
      return {
        id: c.id,
        knots: windows
          .map(([a, b]) => [snap(a), snap(b)] as const)
          .filter(([a, b]) => b > a)
          .flatMap(([a, b]) =>
            b - a >= DAY_MINUTES
              ? [{ minute: 0, levels: [1] }]
              : [
                  { minute: wrap(a), levels: [1] },
                  { minute: wrap(b), levels: [0] },
                ],
          )
          .sort((x, y) => x.minute - y.minute),
      };
    });
    return circuitThreads(kind, rows);
  };
  const give = (x: number): PatternDay => {
    const threads = given ? build(0, x) : build(x, 1);
    return { threads, capShare, dli: dliOf(threads, capShare), gave: [], reason: null };
  };
  const most = given ? 1 : LONGEST_MIN;
  const all = give(most);
  const hours = given ? 'these hours' : `${formatHours(LONGEST_MIN / 60)}, the longest day offered`;
  if (all.dli < wantedDli * (1 - MET_SHARE))
    return {
      ...all,
      reason: `its circuits give ${all.dli.toFixed(1)} mol in ${hours}, and cannot be made stronger: hang the lamp lower or want less`,
    };
  const least = give(0);
  if (given && least.dli > wantedDli * (1 + MET_SHARE))
    return {
      ...least,
      reason: `its circuits cannot be dimmed and give ${least.dli.toFixed(1)} mol in these hours: want fewer hours, hang the lamp higher, or want more`,
    };
  const found = bisect((x) => give(x).dli < wantedDli, 0, most);
  let best = give(given ? found : Math.round(found));
  const unit = given ? 1 / 240 : 1;
  for (let by = 1; by <= 2 * every + 4; by += 1)
    for (const x of [found + by * unit, found - by * unit]) {
      const tried = give(Math.min(most, Math.max(0, given ? x : Math.round(x))));
      if (near(tried.dli, wantedDli) < near(best.dli, wantedDli)) best = tried;
    }
  return near(best.dli, wantedDli) <= MET_SHARE
    ? best
    : {
        ...best,
        reason: `its clock goes in steps of ${every} min: the nearest is ${best.dli.toFixed(2)} mol`,
      };
}
