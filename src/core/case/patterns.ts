import { bisect } from '../shape/bisect';
import { wrapMinute, DAY_MINUTES } from '../shape/ring';
import { dli } from '../day/day';
import { lampDay, type ResolvedThread } from '../day/thread';
import { circuitThreads } from '../controller/typed';
import { colourClass, type MixTurns, mixTurns } from '../library/colours';
import { dims } from '../spectrum/controls';
import type { Levels, LampKind } from '../spectrum/lampKind';
import type { Window } from '../record/zone';

/** Ways to shape a day that keepers argue for. A pattern is a function of lamp, wanted DLI and hours at home. */
export interface Pattern {
  id: PatternId;
  name: string;
  about: string;
  gives: string;
  givesUp: string;
}
export type PatternId =
  'broad' | 'summit' | 'evening' | 'paleNoon' | 'watched' | 'rest' | 'violet' | 'switched';

export const PATTERNS: readonly Pattern[] = [
  {
    id: 'broad',
    name: 'Broad day',
    about: 'One mix, only scaled: even slopes and a long plateau.',
    gives: 'A steady dose at a moderate peak; nothing to tune.',
    givesUp: 'The tank looks the same all day.',
  },
  {
    id: 'summit',
    name: 'Brief height',
    about: 'Four hours up, a short top, four hours down; blue at both ends.',
    gives: 'Long soft light, much time to look at blue.',
    givesUp: 'The same dose needs a higher peak; hours near the top are few.',
  },
  {
    id: 'evening',
    name: 'Slow dusk',
    about: 'Quickly up, an early plateau, then hours of falling blue.',
    gives: 'Blue when people come home, strong light while they are away.',
    givesUp: 'Nobody sees the bright tank.',
  },
  {
    id: 'paleNoon',
    name: 'Pale noon',
    about: 'Blue at both ends, whiter in the middle.',
    gives: 'The tint of a day outside; fish and rock show at noon.',
    givesUp: 'Less glow while it is brightest; the white hours may fall into working hours.',
  },
  {
    id: 'watched',
    name: 'White for company',
    about: 'Blue until somebody is home, white while they look.',
    gives: 'Every white photon is seen.',
    givesUp: 'The brightest hours come late; whether corals mind is not proven.',
  },
  {
    id: 'rest',
    name: 'White pauses',
    about: 'White, green and red drop out for the middle third of the plateau.',
    gives: 'A stretch of pure blue at full strength; some hold that colour gains by it.',
    givesUp: 'Non-fluorescent corals look dull then; the benefit is not proven.',
  },
  {
    id: 'violet',
    name: 'Violet first and last',
    about: 'Violet alone for two hours before and after, at its full strength.',
    gives: 'More violet a day without a stronger violet.',
    givesUp: 'Dim, deep-coloured ends; violet looks dimmer than it is: mind your eyes.',
  },
  {
    id: 'switched',
    name: 'On and off',
    about: 'Light at full, then dark, without slopes.',
    gives: 'Fits any clock; the lowest peak for the dose.',
    givesUp: 'Fish are startled; there is no dawn.',
  },
];

/** A corner of a pattern: minutes after its first light, share of the strength, and which turn of the mix. */
type Corner = readonly [minute: number, strength: number, turn: keyof MixTurns];

interface Shape {
  /** plateau or like length it begins with, and how far it may grow, minutes */
  usual: number;
  corners: (length: number, home: { from: number; to: number }) => Corner[];
  /** the inner circuits' share of the outer ones' hours, as windows of 0..1; absolute windows where they follow the keeper */
  inner: (from: number, to: number, home: { from: number; to: number }) => [number, number][];
}

const within = (from: number, to: number, a: number, b: number): [number, number][] => [
  [from + (to - from) * a, from + (to - from) * b],
];

const SHAPES: Readonly<Record<PatternId, Shape>> = {
  broad: {
    usual: 420,
    corners: (l) => [
      [0, 0, 'base'],
      [90, 1, 'base'],
      [90 + l, 1, 'base'],
      [180 + l, 0, 'base'],
    ],
    inner: (a, b) => [[Math.min(a + 30, (a + b) / 2), Math.max(b - 30, (a + b) / 2)]],
  },
  summit: {
    usual: 90,
    corners: (l) => [
      [0, 0, 'blue'],
      [240, 1, 'base'],
      [240 + l, 1, 'base'],
      [480 + l, 0, 'blue'],
    ],
    inner: (a, b) => within(a, b, 0.325, 0.675),
  },
  evening: {
    usual: 300,
    corners: (l) => [
      [0, 0, 'base'],
      [60, 1, 'base'],
      [60 + l, 1, 'base'],
      [180 + l, 0.45, 'blue'],
      [360 + l, 0, 'blue'],
    ],
    inner: (a, b) => within(a, b, 0, 0.55),
  },
  paleNoon: {
    usual: 240,
    corners: (l) => [
      [0, 0, 'blue'],
      [90, 0.7, 'blue'],
      [180, 1, 'white'],
      [180 + l, 1, 'white'],
      [270 + l, 0.7, 'blue'],
      [360 + l, 0, 'blue'],
    ],
    inner: (a, b) => within(a, b, 0.25, 0.75),
  },
  watched: {
    usual: 300,
    corners: (l, home) => {
      const look = Math.min(300, Math.max(120, home.to - home.from));
      return [
        [0, 0, 'blue'],
        [90, 0.8, 'blue'],
        [90 + l, 0.8, 'blue'],
        [120 + l, 1, 'white'],
        [120 + l + look - 60, 1, 'white'],
        [120 + l + look, 0, 'blue'],
      ];
    },
    inner: (a, b, home) => {
      const from = Math.max(a, home.from);
      return from < b ? [[from, b]] : within(a, b, 0.7, 1);
    },
  },
  rest: {
    usual: 480,
    corners: (l) => [
      [0, 0, 'base'],
      [90, 1, 'base'],
      [90 + l / 3 - 15, 1, 'base'],
      [90 + l / 3 + 15, 1, 'blue'],
      [90 + (2 * l) / 3 - 15, 1, 'blue'],
      [90 + (2 * l) / 3 + 15, 1, 'base'],
      [90 + l, 1, 'base'],
      [180 + l, 0, 'base'],
    ],
    inner: (a, b) => [...within(a, b, 0, 1 / 3), ...within(a, b, 2 / 3, 1)],
  },
  violet: {
    usual: 330,
    corners: (l) => [
      [0, 0, 'violet'],
      [20, 1, 'violet'],
      [120, 1, 'violet'],
      [165, 1, 'base'],
      [165 + l, 1, 'base'],
      [210 + l, 1, 'violet'],
      [310 + l, 1, 'violet'],
      [330 + l, 0, 'violet'],
    ],
    inner: (a, b) => [[Math.min(a + 120, (a + b) / 2), Math.max(b - 120, (a + b) / 2)]],
  },
  switched: {
    usual: 480,
    corners: (l) => [
      [0, 0, 'base'],
      [2, 1, 'base'],
      [2 + l, 1, 'base'],
      [4 + l, 0, 'base'],
    ],
    inner: (a, b) => [[a, b]],
  },
};

export interface PatternInput {
  kind: LampKind;
  base: Levels;
  home: Window;
  /** mol m⁻² d⁻¹ at the coral, of this group */
  wantedDli: number;
  /** the group's DLI at the coral for threads: cap, rounding and drive in */
  dliOf: (threads: readonly ResolvedThread[]) => number;
}

export interface PatternDay {
  threads: ResolvedThread[];
  dli: number;
  /** why the wanted DLI is missed by more than 2 %; null when it is met */
  reason: string | null;
}

/** What all patterns are made for: a group under its cap, its light at the coral. */
export interface PatternsInput {
  kind: LampKind;
  base: Levels;
  home: Window;
  /** mol m⁻² d⁻¹ at the coral, of this group */
  wantedDli: number;
  capShare: number;
  easingShare: number;
  /** PAR of each channel at full at the coral */
  par: readonly number[];
}

/** Every pattern's day; yields how far it is. */
export function* patternSteps(input: PatternsInput): Generator<number, Record<PatternId, PatternDay>> {
  const { kind, base, home, wantedDli, par } = input;
  const dliOf = (threads: readonly ResolvedThread[]) => dli(lampDay(kind, threads, input), par);
  const out: Partial<Record<PatternId, PatternDay>> = {};
  for (const [i, p] of PATTERNS.entries()) {
    yield i / PATTERNS.length;
    out[p.id] = patternDay(p.id, { kind, base, home, wantedDli, dliOf });
  }
  return out as Record<PatternId, PatternDay>;
}

/** Lit hours beyond these are not offered. Mark: rule of thumb. */
const LONGEST_MIN = 16 * 60;
/** How near the wanted DLI counts as met. */
export const MET_SHARE = 0.02;

const wrap = (m: number) => wrapMinute(Math.round(m));
const near = (dli: number, wanted: number) => Math.abs(dli / wanted - 1);
const hoursWords = (minutes: number) => `${Math.round(minutes / 6) / 10} h`;

/** A day after a pattern that meets the wanted DLI at the coral within 2 %, or says why not. It ends when the hours at home do. */
export function patternDay(id: PatternId, input: PatternInput): PatternDay {
  if (!(input.wantedDli > 0))
    return { threads: [], dli: 0, reason: 'no light is wanted: give a DLI above 0' };
  return dims(input.kind) ? dimmedDay(SHAPES[id], input) : switchedDay(SHAPES[id], input);
}

function unrolledHome({ fromMinute, toMinute }: Window) {
  return { from: fromMinute, to: toMinute > fromMinute ? toMinute : toMinute + DAY_MINUTES };
}

/** Steps of this length stand for a slope on lamps that hold their values. Mark: rule of thumb. */
const HELD_STEP_MIN = 30;

function dimmedDay(shape: Shape, input: PatternInput): PatternDay {
  const { kind, base, dliOf, wantedDli } = input;
  const turns = mixTurns(kind, base);
  const home = unrolledHome(input.home);
  const every = kind.controller.everyMin;
  const threads = (strength: number, length: number): ResolvedThread[] => {
    const corners = shape.corners(length, home);
    const end = home.to - corners[corners.length - 1]![0];
    const placed = (kind.controller.interpolation === 'hold' ? heldCorners(corners) : corners).map(
      ([m, s, turn]) => ({
        minute: wrap(Math.round((end + m) / every) * every),
        strengthShare: s * strength,
        mix: turns[turn],
      }),
    );
    // of corners that fall together the later one says what follows
    return placed
      .filter((t, i) => !placed.slice(i + 1).some((later) => later.minute === t.minute))
      .sort((a, b) => a.minute - b.minute);
  };
  const corners = shape.corners(0, home);
  const longest = Math.max(shape.usual, LONGEST_MIN - corners[corners.length - 1]![0]);
  const give = (strength: number, length: number, reason: string | null = null): PatternDay => {
    const made = threads(strength, length);
    return { threads: made, dli: dliOf(made), reason };
  };
  let [strength, length] = [1, shape.usual];
  if (give(1, length).dli < wantedDli) {
    if (give(1, longest).dli < wantedDli * (1 - MET_SHARE)) {
      const most = give(1, longest);
      return {
        ...most,
        reason: `at full strength under the present cap it gives ${most.dli.toFixed(1)} mol in ${hoursWords(longest + corners[corners.length - 1]![0])}, the longest day offered: raise the cap, hang the lamp lower, or want less`,
      };
    }
    length = bisect((l) => give(1, l).dli < wantedDli, shape.usual, longest);
  } else strength = bisect((s) => give(s, length).dli < wantedDli, 0, 1);
  // whole percents and minutes: look about for what rounds best
  let best = give(round4(strength), Math.round(length));
  for (let i = 1; i <= 60 && near(best.dli, wantedDli) > MET_SHARE / 4; i += 1) {
    for (const by of [i, -i]) {
      const tried = give(
        round4(Math.min(1, strength * (1 + by / 400))),
        Math.max(0, Math.round(length + by * (strength === 1 ? 1 : 0))),
      );
      if (near(tried.dli, wantedDli) < near(best.dli, wantedDli)) best = tried;
      const longer = give(round4(strength), Math.max(0, Math.round(length + by * every)));
      if (near(longer.dli, wantedDli) < near(best.dli, wantedDli)) best = longer;
    }
  }
  return near(best.dli, wantedDli) <= MET_SHARE
    ? best
    : {
        ...best,
        reason: `its steps of ${Math.round(kind.controller.pointStepShare * 1000) / 10} %${every > 1 ? ` and ${every} min` : ''} come no nearer than ${best.dli.toFixed(2)} mol: with the cap lower the same light is set in finer steps`,
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
function switchedDay(shape: Shape, input: PatternInput): PatternDay {
  const { kind, base, dliOf, wantedDli } = input;
  const used = kind.controls.filter((c) => c.kind === 'onOff' && (base[c.id] ?? 0) > 0);
  const circuits = used.length > 0 ? used : kind.controls.filter((c) => c.kind === 'onOff');
  const isBlue = (c: (typeof circuits)[number]) => ['blue', 'violet'].includes(colourClass(kind, c));
  const outer = circuits.some(isBlue) ? circuits.filter(isBlue) : circuits.slice(0, 1);
  const home = unrolledHome(input.home);
  const every = kind.controller.everyMin;
  const snap = (m: number) => Math.round(m / every) * every;
  const build = (length: number): ResolvedThread[] => {
    const [from, to] = [snap(home.to - length), snap(home.to)];
    const rows = kind.controls.map((c) => {
      const windows: [number, number][] = !circuits.some((x) => x.id === c.id)
        ? []
        : outer.some((o) => o.id === c.id)
          ? [[from, to]]
          : shape.inner(from, to, home);
      return {
        id: c.id,
        knots: windows
          .map(([a, b]) => [snap(a), snap(b)] as const)
          .filter(([a, b]) => b > a)
          .flatMap(([a, b]) => [
            { minute: wrap(a), levels: [1] },
            { minute: wrap(b), levels: [0] },
          ])
          .sort((x, y) => x.minute - y.minute),
      };
    });
    return circuitThreads(kind, rows);
  };
  const give = (length: number): PatternDay => {
    const threads = build(length);
    return { threads, dli: dliOf(threads), reason: null };
  };
  const most = give(LONGEST_MIN);
  if (most.dli < wantedDli * (1 - MET_SHARE)) {
    return {
      ...most,
      reason: `its circuits give ${most.dli.toFixed(1)} mol in ${hoursWords(LONGEST_MIN)}, the longest day offered, and cannot be made stronger: hang the lamp lower or want less`,
    };
  }
  const length = bisect((l) => give(l).dli < wantedDli, 0, LONGEST_MIN);
  let best = give(Math.round(length));
  for (let by = 1; by <= 2 * every + 4; by += 1) {
    for (const tried of [
      give(Math.max(0, Math.round(length) + by)),
      give(Math.max(0, Math.round(length) - by)),
    ])
      if (near(tried.dli, wantedDli) < near(best.dli, wantedDli)) best = tried;
  }
  return near(best.dli, wantedDli) <= MET_SHARE
    ? best
    : {
        ...best,
        reason: `its clock goes in steps of ${every} min: the nearest is ${best.dli.toFixed(2)} mol`,
      };
}
