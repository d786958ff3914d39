import { placed } from '../case/judgement';
import { formSeen } from '../coral/seen';
import { FORMS } from '../coral/form';
import { type Day, levelsAt, parOf } from '../day/day';
import { accustom, CEILINGS, steadyDay, stepRatio } from '../easing/accustomed';
import { colourClass } from '../library/colours';
import { libraryLamp } from '../library/lamps';
import { computeResponse } from '../optics/response';
import { lampRows } from '../optics/rig';
import { plainTank } from '../optics/tank';
import { NEEDS } from '../record/needs';
import { bisect } from '../shape/bisect';
import { FIRST_NM, integrate, LAST_NM, type Spectrum } from '../spectrum/grid';
import { mixSpectrum } from '../spectrum/lamp';
import type { Levels } from '../spectrum/lampKind';
import { luxPerPar } from '../spectrum/lux';
import { seeded } from '../spectrum/random';
import { lengthWords } from '../shape/units';

/*
 * Questions to practise on. Each is drawn from a seed and has one right answer, which the functions that serve every screen compute;
 * what is wrong lies far enough from it that nobody is asked to split hairs.
 */

export const SKILLS = [
  { id: 'eye', name: 'PAR by eye', about: 'why blue light is stronger than it looks' },
  { id: 'lights', name: 'What lights a colour', about: 'which band makes a coral glow' },
  { id: 'chain', name: 'Percent of percent', about: 'what is left of a colour behind strength and cap' },
  { id: 'meter', name: 'Lux and PAR', about: 'what a lux meter says of light for corals' },
  { id: 'ease', name: 'No step too large', about: 'how far a cap may go tonight' },
  { id: 'undo', name: 'Out of too much', about: 'how far back after a step that was too large' },
  {
    id: 'place',
    name: 'Three corals, three places',
    about: 'how light falls off with depth and to the side',
  },
  { id: 'proof', name: 'What the lamp does', about: 'two readings that tell whether it runs what was typed' },
] as const;
export type SkillId = (typeof SKILLS)[number]['id'];

export interface Round {
  skill: SkillId;
  ask: string;
  /** lights that are shown with it, by name */
  lights: { name: string; spectrum: Spectrum }[];
  /** a tank from the front with its lamp and the places that are asked about, cm */
  front?: {
    tank: { lengthCm: number; depthCm: number };
    lamp: { xCm: number; heightCm: number; lengthCm: number };
    places: { name: string; xCm: number; depthCm: number }[];
  };
  answers: string[];
  /** which answer is right */
  right: number;
  /** how it comes out, in a sentence or two */
  why: string;
}

type Random = () => number;
const pick = <T>(random: Random, list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
const between = (random: Random, from: number, to: number, step: number): number =>
  from + step * Math.floor(random() * ((to - from) / step + 1));
/** Two significant digits: what is asked by eye is not known better. */
const coarse = (x: number): number => Number(x.toPrecision(2));

/** How far apart two answers lie at least, as a factor. Mark: rule of thumb. */
export const APART = 1.25;
const ANSWERS = 4;

const shuffled = <T>(random: Random, list: readonly T[]): T[] =>
  list
    .map((item) => ({ item, at: random() }))
    .sort((a, b) => a.at - b.at)
    .map(({ item }) => item);

/**
 * Answers around a right figure, in rising order: the usual error, then other errors and mere factors as they fall, so that the right one
 * stands anywhere; none nearer than `APART` to another.
 * @param most nothing is offered above it
 */
function figures(
  random: Random,
  right: number,
  [usual, ...errors]: readonly number[],
  most = Infinity,
): { list: number[]; right: number } {
  const list = [coarse(right)];
  const others = [...errors, ...[0.6, 1.6, 0.4, 2.4, 0.25, 4].map((f) => right * f)];
  for (const wrong of [usual!, ...shuffled(random, others)].map(coarse)) {
    if (list.length === ANSWERS) break;
    if (wrong > 0 && wrong <= most && list.every((x) => Math.max(x / wrong, wrong / x) >= APART))
      list.push(wrong);
  }
  list.sort((a, b) => a - b);
  return { list, right: list.indexOf(coarse(right)) };
}

const lamp = () => libraryLamp('lib-eight-blue');
/** A mix of the lamp whose blue colours and other ones stand at shares. */
const mixOf = (blue: number, other: number): Spectrum => {
  const kind = lamp();
  const isBlue = new Set(['blue', 'violet']);
  const mix: Levels = Object.fromEntries(
    kind.controls.map((c) => [c.id, isBlue.has(colourClass(kind, c)) ? blue : other]),
  );
  return mixSpectrum(kind, mix);
};

function eye(random: Random): Round {
  const blue = mixOf(1, between(random, 0, 0.05, 0.05));
  const white = mixOf(between(random, 0.2, 0.4, 0.1), 1);
  const luxBoth = between(random, 3000, 8000, 1000);
  const [inBlue, inWhite] = [luxPerPar(blue)!, luxPerPar(white)!];
  const [umol, ofWhite] = [luxBoth / inBlue, luxBoth / inWhite];
  const { list, right } = figures(random, umol, [ofWhite, (umol + ofWhite) / 2]);
  return {
    skill: 'eye',
    ask: `Two tanks look equally bright: ${luxBoth} lux at the coral in both. Under the whiter one a PAR meter reads ${coarse(ofWhite)} µmol. What does it read under the bluer one?`,
    lights: [
      { name: 'the whiter one', spectrum: white },
      { name: 'the bluer one', spectrum: blue },
    ],
    answers: list.map((x) => `${x} µmol`),
    right,
    why: `The eye hardly sees blue: of this blue light a µmol makes ${Math.round(inBlue)} lux, of the white ${Math.round(inWhite)}. At ${luxBoth} lux the blue tank has ${(inWhite / inBlue).toFixed(1)} × the light for corals.`,
  };
}

/** Luminance of what glows in a coral under a light. */
const glowing = (form: (typeof FORMS)[number], light: Spectrum): number =>
  formSeen(form, light).reduce((sum, r) => sum + r.fluorescent[1], 0);

function lights(random: Random): Round {
  const kind = lamp();
  const form = pick(
    random,
    FORMS.filter((f) => glowing(f, mixOf(1, 1)) > 0),
  );
  const colours = kind.controls
    .map((c) => {
      const alone = mixSpectrum(kind, { [c.id]: 1 });
      // for as many photons, not the same drive: a colour with more emitters would win by their number
      return { name: c.name, glow: glowing(form, alone) / integrate(alone, FIRST_NM, LAST_NM), alone };
    })
    .sort((a, b) => b.glow - a.glow);
  const [best, ...rest] = colours;
  const clear = rest.filter((c) => best!.glow > APART * c.glow);
  const shown = shuffled(random, [best!, ...shuffled(random, clear).slice(0, ANSWERS - 1)]);
  const part = (glow: number) => `${Math.round((100 * glow) / best!.glow)}`;
  return {
    skill: 'lights',
    ask: `A coral like “${form.name}” stands under one colour at a time, each with as many photons. Under which does it glow the most?`,
    lights: shown.map((c) => ({ name: c.name, spectrum: c.alone })),
    answers: shown.map((c) => c.name),
    right: shown.indexOf(best!),
    why: `If its glow under ${best!.name} is 100, it is ${shown
      .filter((c) => c !== best)
      .map((c) => `${part(c.glow)} under ${c.name}`)
      .join(', ')}. Its proteins take up short waves and give back longer ones.`,
  };
}

function chain(random: Random): Round {
  const [cap, strength, colour] = [
    between(random, 50, 80, 10),
    between(random, 40, 90, 10),
    between(random, 30, 90, 10),
  ];
  const percent = (cap * strength * colour) / 10_000;
  const { list, right } = figures(
    random,
    percent,
    [Math.min(cap, strength, colour), (strength * colour) / 100, (cap + strength + colour) / 3],
    100,
  );
  return {
    skill: 'chain',
    ask: `The plate has blue at ${colour} %, the thread stands at ${strength} % of its height, the cap at ${cap} %, and the cap multiplies. At how much of full is blue driven?`,
    lights: [],
    answers: list.map((x) => `${x} %`),
    right,
    why: `Each is a percent of what the one before it left: ${colour} % × ${strength} % × ${cap} % = ${percent.toFixed(1)} %.`,
  };
}

function meter(random: Random): Round {
  const light = mixOf(1, between(random, 0, 0.6, 0.1));
  const reading = between(random, 2000, 9000, 500);
  const per = luxPerPar(light)!;
  const sun = reading / SUN_LUX_PER_UMOL;
  const { list, right } = figures(random, reading / per, [sun, reading / 100]);
  return {
    skill: 'meter',
    ask: `A lux meter shows ${reading} at a coral under this light. About how much PAR is that?`,
    lights: [{ name: 'the light', spectrum: light }],
    answers: list.map((x) => `${x} µmol`),
    right,
    why: `By this spectrum ${Math.round(per)} lux are one µmol. The factor for sunlight (${SUN_LUX_PER_UMOL} lux) would say ${coarse(sun)}: it holds for no blue lamp.`,
  };
}

/** Lux of one µmol of daylight. Mark: literature (Thimijan & Heins 1983, HortScience 18: sunlight, 54). */
const SUN_LUX_PER_UMOL = 54;
/** Hours of both days, h. */
const DAY_HOURS = 10;

function ease(random: Random): Round {
  const used = between(random, 80, 200, 10);
  const full = Math.round(used * between(random, 1.6, 2.6, 0.1));
  const now = steadyDay(used, DAY_HOURS);
  const most = CEILINGS.usual;
  const under = (share: number) => steadyDay(full * share, DAY_HOURS);
  const cap = 100 * bisect((share) => stepRatio(under(share), now).ratio <= most, 0, 1);
  const { list, right } = figures(random, cap, [100, (100 * used) / full, 100 / most], 100);
  return {
    skill: 'ease',
    ask: `A coral is used to ${used} µmol. A new lamp gives it ${full} µmol at its cap of 100 %, for the same hours. How high may the cap stand tonight, if no step is to be over ${most} ×?`,
    lights: [],
    answers: list.map((x) => `${x} %`),
    right,
    why: `${most} × ${used} µmol are ${Math.round(most * used)} µmol: ${Math.round(cap)} % of ${full}. At 100 % at once the step would be ${stepRatio(under(1), now).ratio.toFixed(1)} ×.`,
  };
}

function undo(random: Random): Round {
  const used = between(random, 60, 160, 10);
  const got = Math.round((used * between(random, 2.6, 4, 0.2)) / 10) * 10;
  const days = between(random, 2, 5, 1);
  const most = CEILINGS.usual;
  const light = steadyDay(got, DAY_HOURS);
  const by = accustom(steadyDay(used, DAY_HOURS), light, days);
  const tonight =
    got * bisect((share) => stepRatio(steadyDay(got * share, DAY_HOURS), by).ratio <= most, 0, 1);
  const { list, right } = figures(random, tonight, [most * used, used, got], got);
  return {
    skill: 'undo',
    ask: `A coral was used to ${used} µmol. ${days} days ago a new lamp went straight to ${got} µmol, for the same hours. To how much should it go back tonight, so that the coral has at most ${most} × what it is used to by now?`,
    lights: [],
    answers: list.map((x) => `${x} µmol`),
    right,
    why: `In ${days} days it has grown used to about ${coarse(by.peak)} µmol; ${most} × that are ${coarse(tonight)}. It has had ${(got / used).toFixed(1)} × in one step: watch it, and let it rise again slowly.`,
  };
}

/** The practice tank and how its lamp hangs over its middle, cm; three depths by three distances to the side. */
const TANK = plainTank(90, 50, 50);
const DEPTHS_CM = [8, 20, 34];
const ASIDE_CM = [0, 18, 36];
/** Who is to be placed. */
const GUESTS = ['soft', 'largePolyp', 'smallPolyp'] as const;
const ORDERS = [
  [0, 1, 2],
  [0, 2, 1],
  [1, 0, 2],
  [1, 2, 0],
  [2, 0, 1],
  [2, 1, 0],
];
/** Light at a place is guessed no better than this: the right order keeps it from every edge of a range. Mark: rule of thumb. */
const MARGIN = 1.06;

function place(random: Random): Round {
  const spots = DEPTHS_CM.flatMap((depthCm) =>
    ASIDE_CM.map((aside) => ({ xCm: TANK.lengthCm / 2 + aside, yCm: 25, depthCm, aside, openShare: 1 })),
  );
  const heightCm = between(random, 15, 30, 5);
  const xCm = TANK.lengthCm / 2;
  const rows = lampRows(lamp(), { xCm, yCm: 25, turnDeg: 0, heightCm });
  const matrix = computeResponse({
    tank: TANK,
    water: { yellow440PerM: 0.12, scatterPerM: 0.05 },
    rows,
    spots,
  });
  const full = spots.map((_, i) => rows.reduce((sum, _row, r) => sum + matrix.par[i * rows.length + r]!, 0));
  const standing = (umol: number, guest: number) =>
    [umol / MARGIN, umol, umol * MARGIN].map((u) => placed(u, 0, NEEDS[GUESTS[guest]!]).place === 'within');
  // with room to spare, and at all if it were a little off
  const suits = (umol: readonly number[]) =>
    ORDERS.filter((order) => order.every((guest, i) => standing(umol[i]!, guest).every(Boolean)));
  const might = (umol: readonly number[]) =>
    ORDERS.filter((order) => order.every((guest, i) => standing(umol[i]!, guest).some(Boolean)));
  // three places and a drive at which exactly one order suits all three
  const found = spots.flatMap((_, a) =>
    spots.flatMap((__, b) =>
      spots.flatMap((___, c) => {
        const three = [a, b, c];
        // named from the top down, the nearest to the middle first
        if (!(a < b && b < c)) return [];
        return [0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1].flatMap((drive) => {
          const umol = three.map((i) => full[i]! * drive);
          const good = suits(umol);
          return good.length === 1 && might(umol).length === 1 ? [{ three, umol, order: good[0]! }] : [];
        });
      }),
    ),
  );
  const { three, umol, order } = pick(random, found);
  const where = three.map((i, k) => {
    const { depthCm, aside } = spots[i]!;
    const side = aside === 0 ? 'under the middle of the lamp' : `${lengthWords(aside)} beside its middle`;
    return `${'ABC'[k]} ${lengthWords(depthCm)} deep ${side}`;
  });
  const known = Math.floor(random() * 3);
  const said = (o: readonly number[]) =>
    o.map((guest, i) => `${'ABC'[i]} ${NEEDS[GUESTS[guest]!].name}`).join(', ');
  const shown = shuffled(random, [
    order,
    ...shuffled(
      random,
      ORDERS.filter((o) => o !== order),
    ).slice(0, ANSWERS - 1),
  ]);
  const ranges = GUESTS.map((g) => `${NEEDS[g].name} ${NEEDS[g].fromUmol} to ${NEEDS[g].toUmol}`).join(', ');
  return {
    skill: 'place',
    ask: `A lamp hangs ${lengthWords(heightCm)} over the water of a tank. The places: ${where.join('; ')}. A meter reads ${coarse(umol[known]!)} µmol at ${'ABC'[known]}. Who belongs where, so that each has the µmol it wants (${ranges})?`,
    lights: [],
    front: {
      tank: TANK,
      lamp: { xCm, heightCm, lengthCm: lamp().faceLengthCm },
      places: three.map((i, k) => ({ name: 'ABC'[k]!, ...spots[i]! })),
    },
    answers: shown.map(said),
    right: shown.indexOf(order),
    why: `Computed for this lamp: ${umol.map((u, i) => `${coarse(u)} µmol at ${'ABC'[i]}`).join(', ')}. Light spreads on its way down and to the side; far to the side a lower place can have more than a higher one, since the beam has come that far.`,
  };
}

/** What a lamp may do in place of what was typed. */
const FAULTS: { say: string; of: (typed: Day) => Day }[] = [
  { say: 'It runs what was typed', of: (d) => d },
  {
    say: 'Its clock is an hour slow',
    of: (d) => ({ ...d, knots: d.knots.map((k) => ({ ...k, minute: k.minute + 60 })) }),
  },
  { say: 'It does not take the cap', of: (d) => ({ ...d, capShare: 1 }) },
  {
    say: 'White stays dark',
    of: (d) => ({ ...d, knots: d.knots.map((k) => ({ ...k, levels: [k.levels[0]!, 0] })) }),
  },
  { say: 'It jumps at each typed time and draws no ramp', of: (d) => ({ ...d, interpolation: 'hold' }) },
];

function proof(random: Random): Round {
  const parAtFull = [between(random, 150, 250, 10), between(random, 140, 220, 10)];
  const capPercent = between(random, 50, 70, 5);
  const levels = [between(random, 0.7, 1, 0.1), between(random, 0.6, 0.9, 0.1)];
  const typed: Day = {
    interpolation: 'ramp',
    ...{ capShare: capPercent / 100, easingShare: 1 },
    knots: [
      { minute: 600, levels: [0, 0] },
      { minute: 720, levels },
      { minute: 1080, levels },
      { minute: 1200, levels: [0, 0] },
    ],
  };
  const at = (day: Day) => [690, 840].map((minute) => parOf(levelsAt(day, minute), parAtFull));
  const [early, noon] = at(typed);
  const fault = pick(random, FAULTS);
  const [readEarly, readNoon] = at(fault.of(typed));
  const shown = shuffled(random, [
    fault,
    ...shuffled(
      random,
      FAULTS.filter((f) => f !== fault),
    ).slice(0, ANSWERS - 1),
  ]);
  const read = (x: number) => `${coarse(x)} µmol`;
  return {
    skill: 'proof',
    ask: `Typed: blue and white rise from 10:00 to 12:00, stand until 18:00 and fall until 20:00, under a cap of ${capPercent} %. Run like that, a coral has ${read(early!)} at 11:30 and ${read(noon!)} at 14:00. A meter reads ${read(readEarly!)} at 11:30 and ${read(readNoon!)} at 14:00. What does the lamp do?`,
    lights: [],
    answers: shown.map((f) => f.say),
    right: shown.indexOf(fault),
    why: `At 11:30 and 14:00: ${shown
      .map((f) => {
        const [a, b] = at(f.of(typed));
        return `${f.say[0]!.toLowerCase()}${f.say.slice(1)}, ${coarse(a!)} and ${coarse(b!)} µmol`;
      })
      .join('; ')}. A reading on the slope tells clock and ramp, one on the plateau cap and colours.`,
  };
}

const MAKERS: Record<SkillId, (random: Random) => Round> = {
  ...{ eye, lights, chain, meter, ease },
  ...{ undo, place, proof },
};

/** A question of a skill. The same seed makes the same one. */
export const roundOf = (skill: SkillId, seed: number): Round => MAKERS[skill](seeded(seed));

/** How the last answers to each skill came out, the newest last. */
export type Practised = Readonly<Record<string, readonly boolean[]>>;
/** So many answers are remembered of each skill. */
export const REMEMBERED = 8;

/** Share of right answers, as if one of each kind stood before them; null = never asked. */
export const scoreOf = (of: readonly boolean[] | undefined): number | null =>
  of === undefined || of.length === 0 ? null : (of.filter(Boolean).length + 1) / (of.length + 2);

/** The skill that is to be asked next: one that never was, in their order, else the weakest. */
export function weakest(practised: Practised): SkillId {
  const scored = SKILLS.map(({ id }) => ({ id, score: scoreOf(practised[id]) ?? -1 }));
  return scored.reduce((a, b) => (b.score < a.score ? b : a)).id;
}

/** What is remembered once one more was answered. */
export const answered = (practised: Practised, skill: SkillId, right: boolean): Practised => ({
  ...practised,
  [skill]: [...(practised[skill] ?? []), right].slice(-REMEMBERED),
});
