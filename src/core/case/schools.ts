import type { MixTurns } from '../library/colours';

/** Ways to shape a day that keepers argue for. A pattern is a function of lamp, wanted DLI, hours at home and hours wanted. */
export interface Pattern {
  id: PatternId;
  name: string;
  about: string;
  gives: string;
  givesUp: string;
}
export type PatternId =
  | 'broad'
  | 'summit'
  | 'evening'
  | 'paleNoon'
  | 'watched'
  | 'rest'
  | 'violet'
  | 'switched'
  | 'opposite'
  | 'half'
  | 'round'
  | 'along';

/** Of a water that is looked at. */
const LOOKED_AT: readonly Pattern[] = [
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

/** Of a water that nobody looks at, such as a refugium: what differs is when it is lit, and for how long. */
const UNSEEN: readonly Pattern[] = [
  {
    id: 'opposite',
    name: 'While the display is dark',
    about: 'Lit all the while the display is not.',
    gives: 'The smallest swing of pH over a day.',
    givesUp: 'Light from the cabinet at night; the hours follow the display’s.',
  },
  {
    id: 'half',
    name: 'Half the clock',
    about: 'Twelve hours, about the middle of the display’s night.',
    gives: 'A dark half for algae to respire in, most of it opposite to the display.',
    givesUp: 'Some hours lit together with the display, or none lit at all.',
  },
  {
    id: 'round',
    name: 'Round the clock',
    about: 'Never dark, at a lower strength for the same light a day.',
    gives: 'The lowest peak for the dose; nothing to switch.',
    givesUp: 'Some algae shed or reproduce without a night; more hours of light leak out.',
  },
  {
    id: 'along',
    name: 'With the display',
    about: 'On and off with the display.',
    gives: 'One day for everything; dark when people sleep.',
    givesUp: 'pH falls further at night.',
  },
];

export const PATTERNS: readonly Pattern[] = [...LOOKED_AT, ...UNSEEN];
export const patternOf = (id: PatternId): Pattern => PATTERNS.find((p) => p.id === id)!;
/** What is offered to a water. @param lookedAt somebody looks at it @param others it has a display to go by */
export const patternsFor = (lookedAt: boolean, others: boolean): readonly Pattern[] =>
  lookedAt ? LOOKED_AT : UNSEEN.filter((p) => others || p.id === 'half' || p.id === 'round');

/** Patterns with a shape of their own; the others are blocks of hours. */
type ShapeId = Exclude<PatternId, 'opposite' | 'half' | 'round' | 'along'>;

/** A corner of a day: minutes after its first light, share of the strength, and which turn of the mix. */
export type Corner = readonly [minute: number, strength: number, turn: keyof MixTurns];

export interface Shape {
  /** plateau or like length it begins with, and how far it may grow, minutes */
  usual: number;
  corners: (length: number, home: { from: number; to: number }) => Corner[];
  /** the same between a first and a last light that are given, where the hours at home lie in it; minutes after the first */
  between?: (span: number, home: { from: number; to: number }) => Corner[];
  /** the inner circuits' share of the outer ones' hours, as windows of 0..1; absolute windows where they follow the keeper */
  inner: (from: number, to: number, home: { from: number; to: number }) => [number, number][];
}

const within = (from: number, to: number, a: number, b: number): [number, number][] => [
  [from + (to - from) * a, from + (to - from) * b],
];

export const SHAPES: Readonly<Record<ShapeId, Shape>> = {
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
    between: (span, { from, to }) => {
      const before: Corner[] =
        from > 60
          ? [
              [0, 0, 'blue'],
              [Math.min(90, from / 2), 0.8, 'blue'],
              [from - 15, 0.8, 'blue'],
            ]
          : [[0, 0, 'blue']];
      const after: Corner[] =
        span - to > 90
          ? [
              [to, 1, 'white'],
              [to + 30, 0.8, 'blue'],
              [span - 45, 0.8, 'blue'],
            ]
          : [[Math.max(from + 30, Math.min(to, span - 60)), 1, 'white']];
      return [...before, [Math.max(from, 0) + 15, 1, 'white'], ...after, [span, 0, 'blue']];
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

export const hasShape = (id: PatternId): id is ShapeId => id in SHAPES;
