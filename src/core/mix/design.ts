import { percent } from '../shape/percent';
import { cam16 } from '../colour/cam16';
import { xyzOf, type Xyz } from '../colour/xyz';
import { varietyOf } from '../coral/glow';
import type { CoralForm } from '../coral/form';
import { formSeen } from '../coral/seen';
import { symbiontAbsorption } from '../feeding/symbiont';
import { FIRST_NM, type Spectrum, integrate, integrateWeighted, zeroSpectrum } from '../spectrum/grid';
import { PAR_FROM_NM, PAR_TO_NM, par } from '../spectrum/bands';
import { channelLevels, followsStrength, isLinear } from '../spectrum/controls';
import type { Levels, LampKind } from '../spectrum/lampKind';
import { channelWallWatts, fullWallWatts } from '../spectrum/watts';
import { emittedShares } from '../spectrum/drive';
import { seeded } from '../spectrum/random';

/** What the keeper wants of a mix; weights 0..1, a look from icy white (0) to deep blue (1). */
export interface Aims {
  feeding: number;
  glow: number;
  variety: number;
  look: number;
  lookWeight: number;
  /** thrift with watts */
  watts: number;
  /** red at most, share of PAR */
  redCeiling: number;
  /** violet at least, share of PAR */
  violetFloor: number;
}

export interface DesignInput {
  kind: LampKind;
  mix: Levels;
  /** locked controls with their values */
  fixed: Levels;
  /** light of each channel at full at the chosen coral, all lamps of the group, µmol m⁻² s⁻¹ nm⁻¹ */
  channels: Spectrum[];
  /** light of everything else lit there at that moment */
  beside: Spectrum;
  /** what strength and cap leave of a level at that moment */
  strength: number;
  /** PAR wanted there, this group and the rest together, µmol */
  parWanted: number;
  corals: { name: string; form: CoralForm }[];
  aims: Aims;
  seed: number;
}

/** Figures of a mix at the chosen coral: what aims are made of and reasons quote. */
export interface DesignFigures {
  /** usable share of PAR */
  usable: number;
  /** mean share of luminance that is fluorescence, and by coral */
  glow: number;
  glowByCoral: { name: string; glow: number }[];
  /** spread of the corals' colours, CAM16-UCS */
  variety: number;
  /** 0 icy white … 1 deep blue */
  blueness: number;
  red: number;
  violet: number;
  /** near UV photons over PAR */
  nearUv: number;
  watts: number;
  par: number;
}

export interface Answer {
  mix: Levels;
  figures: DesignFigures;
  /** what leads in it, on the way from growth to colour */
  lead: Lead;
  reasons: string[];
  givesUp: string[];
}

/** Aims as scores, all "more is better". */
export type Scores = Record<
  'feeding' | 'glow' | 'variety' | 'look' | 'watts' | 'red' | 'violet' | 'uv' | 'par',
  number
>;

/** Share of blue photons (400-500) of PAR at the two ends of the look. Mark: rule of thumb. */
const ICY_SHARE = 0.4;
const DEEP_SHARE = 0.97;
/** A spread of colours that counts as full, CAM16-UCS. Mark: rule of thumb. */
const FULL_VARIETY = 40;
/** Near UV above this share of PAR costs: hard on eyes and some tissue, little proven. Mark: rule of thumb. */
const UV_CEILING = 0.02;
/** Usable shares of lights in use lie within about this of one another. Mark: rule of thumb. */
const USABLE_SPAN = 0.4;
/** How hard a broken ceiling, floor or PAR weighs. */
const PENALTY = 40;
const PAR_PENALTY = 30;
/** PAR this near to what was wanted is as wanted. */
const PAR_SLACK = 0.01;
const WAYS: readonly Lead[] = ['feeding', 'asSet', 'look', 'variety', 'glow'];
/** Order of the answers, from growth to colour. */
const ORDER: readonly Lead[] = ['feeding', 'thrift', 'asSet', 'look', 'whiter', 'bluer', 'variety', 'glow'];
/** Leanings of the look that are tried when the ways lead to too few answers. */
const LEANS = [-0.3, 0.3, -0.15, -0.6];
const LEAST_ANSWERS = 3;
const MOST_ANSWERS = 5;
const POOL = 400;
const STARTS = 2;
const STEPS = [0.3, 0.12, 0.05, 0.02];
/** Pairs are tried at this step and finer, in so many rounds. */
const PAIR_STEP = 0.12;
const PAIR_ROUNDS = 2;
/** Answers with more photons in common than this are one. Mark: rule of thumb. */
const ALIKE = 0.97;
const NEARLY_ALIKE = 0.993;

interface Prepared {
  input: DesignInput;
  /** everything linear in channel shares, one column per channel and one for the rest */
  columns: {
    par: number;
    usable: number;
    red: number;
    violet: number;
    nearUv: number;
    blue: number;
    white: Xyz;
  }[];
  /** [coral][region]: X, Y, Z and the fluorescent Y of every column, one after the other */
  regions: Float64Array[][];
  watts: number[];
  fullWatts: number;
  linear: boolean;
}

export function prepare(input: DesignInput): Prepared {
  const sources = [...input.channels, input.beside];
  const absorption = symbiontAbsorption();
  return {
    input,
    columns: sources.map((s) => ({
      par: par(s),
      usable: integrateWeighted(s, absorption, PAR_FROM_NM, PAR_TO_NM),
      red: integrate(s, 620, 680),
      violet: integrate(s, 400, 430),
      nearUv: integrate(s, FIRST_NM, PAR_FROM_NM),
      blue: integrate(s, 400, 500),
      white: xyzOf(s),
    })),
    regions: input.corals.map((c) => {
      const seen = sources.map((s) => formSeen(c.form, s));
      return c.form.regions.map((_, r) =>
        Float64Array.from(seen.flatMap((one) => [...one[r]!.xyz, one[r]!.fluorescent[1]])),
      );
    }),
    watts: channelWallWatts(input.kind),
    fullWatts: fullWallWatts(input.kind),
    linear: isLinear(input.kind),
  };
}

/** Scales what follows strength so that PAR is as wanted, as far as no control passes full. */
export function atWantedPar(p: Prepared, mix: Levels): Levels {
  const { kind, fixed, strength, parWanted } = p.input;
  const moving = kind.controls.filter((c) => followsStrength(c) && c.kind !== 'onOff' && !(c.id in fixed));
  if (moving.length === 0) return mix;
  const parOf = (m: Levels) => {
    const shares = emittedShares(
      kind,
      channelLevels(kind, m).map((v) => v * strength),
    );
    return shares.reduce((sum, v, i) => sum + v * p.columns[i]!.par, p.columns[shares.length]!.par);
  };
  const moved = (m: Levels, to: (v: number) => number): Levels => {
    const next: Record<string, number> = { ...m };
    for (const c of moving) next[c.id] = to(m[c.id] ?? 0);
    return next;
  };
  let now = mix;
  // linear but for budgets and curves: then a few corrections settle it
  for (let k = 0; k < (p.linear ? 1 : 3); k += 1) {
    const still = parOf(moved(now, () => 0));
    const own = parOf(now) - still;
    const top = moving.reduce((most, c) => Math.max(most, now[c.id] ?? 0), 0);
    if (!(own > 1e-9) || !(top > 0)) return now;
    const factor = Math.min(1 / top, Math.max(0, parWanted - still) / own);
    if (Math.abs(factor - 1) < 1e-4) break;
    now = moved(now, (v) => v * factor);
  }
  return now;
}

/** Figures of a mix as it is. */
export function figuresOf(p: Prepared, mix: Levels): DesignFigures {
  const { kind, strength, corals } = p.input;
  const shares = emittedShares(
    kind,
    channelLevels(kind, mix).map((v) => v * strength),
  );
  const all = [...shares, 1];
  const sum = (pick: (c: Prepared['columns'][number]) => number) =>
    all.reduce((total, v, i) => total + v * pick(p.columns[i]!), 0);
  const parHere = sum((c) => c.par);
  const white: Xyz = [sum((c) => c.white[0]), sum((c) => c.white[1]), sum((c) => c.white[2])];
  const watts = shares.reduce((total, v, i) => total + v * p.watts[i]!, 0);
  if (!(white[1] > 0) || !(parHere > 0)) {
    const dark = corals.map((c) => ({ name: c.name, glow: 0 }));
    return {
      usable: 0,
      glow: 0,
      glowByCoral: dark,
      variety: 0,
      blueness: 0,
      red: 0,
      violet: 0,
      nearUv: 0,
      watts,
      par: 0,
    };
  }
  const look = cam16({ white, adaptingLuminance: (0.2 * white[1]) / Math.PI });
  const colours: ReturnType<typeof look>['ucs'][] = [];
  const glowByCoral = p.regions.map((regions, k) => {
    let glow = 0;
    for (const column of regions) {
      const xyz: [number, number, number] = [0, 0, 0];
      let fluorescent = 0;
      for (let i = 0, at = 0; i < all.length; i += 1, at += 4) {
        const v = all[i]!;
        if (v === 0) continue;
        xyz[0] += v * column[at]!;
        xyz[1] += v * column[at + 1]!;
        xyz[2] += v * column[at + 2]!;
        fluorescent += v * column[at + 3]!;
      }
      glow += xyz[1] > 0 ? fluorescent / xyz[1] / regions.length : 0;
      colours.push(look(xyz).ucs);
    }
    return { name: corals[k]!.name, glow };
  });
  return {
    usable: sum((c) => c.usable) / parHere,
    glow: glowByCoral.reduce((total, g) => total + g.glow, 0) / Math.max(1, glowByCoral.length),
    glowByCoral,
    variety: varietyOf(colours),
    blueness: (sum((c) => c.blue) / parHere - ICY_SHARE) / (DEEP_SHARE - ICY_SHARE),
    red: sum((c) => c.red) / parHere,
    violet: sum((c) => c.violet) / parHere,
    nearUv: sum((c) => c.nearUv) / parHere,
    watts,
    par: parHere,
  };
}

const lookScore = (f: DesignFigures, look: number) =>
  1 - Math.abs(Math.min(1.2, Math.max(-0.5, f.blueness)) - look);

/** The aims as scores. Red, violet and PAR count only where they are broken. */
export function scoresOf(p: Prepared, f: DesignFigures): Scores {
  const { aims, parWanted } = p.input;
  return {
    feeding: f.usable / USABLE_SPAN,
    glow: f.glow,
    variety: Math.min(1, f.variety / FULL_VARIETY),
    look: lookScore(f, aims.look),
    watts: 1 - f.watts / p.fullWatts,
    red: -Math.max(0, f.red - aims.redCeiling),
    violet: -Math.max(0, aims.violetFloor - f.violet),
    uv: -Math.max(0, f.nearUv - UV_CEILING),
    par: parWanted > 0 ? -Math.max(0, Math.abs(1 - f.par / parWanted) - PAR_SLACK) : 0,
  };
}

/** Every aim weighs something, so that nothing is given away for nothing. */
const LEAST = 0.02;

/** What leads in an answer: nothing beyond the sliders, or one aim pressed harder than they say. */
export type Lead = 'feeding' | 'asSet' | 'look' | 'whiter' | 'bluer' | 'thrift' | 'variety' | 'glow';
interface Way {
  lead: Lead;
  look: number;
}

/** How much harder the leading aim is pressed, and how much it weighs at least. */
const PRESSED = 4;
const PRESSED_LEAST = 0.5;

function worth(p: Prepared, s: Scores, { lead }: Way): number {
  const { aims } = p.input;
  const weight = (what: Lead, slider: number) =>
    LEAST + (lead === what ? PRESSED * Math.max(slider, PRESSED_LEAST) : slider);
  return (
    weight('feeding', aims.feeding) * s.feeding +
    weight('glow', aims.glow) * s.glow +
    1.5 * weight('variety', aims.variety) * s.variety +
    1.5 * weight(lead === 'whiter' || lead === 'bluer' ? lead : 'look', aims.lookWeight) * s.look +
    0.5 * weight('thrift', aims.watts) * s.watts +
    PENALTY * (s.red + s.violet + s.uv) +
    PAR_PENALTY * s.par
  );
}

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

/** Whether a is better than b on every aim. */
export const beats = (a: Scores, b: Scores): boolean =>
  (Object.keys(a) as (keyof Scores)[]).every((k) => a[k] > b[k] + 1e-9);

/**
 * Three to five distinct answers on the way from growth to colour. A generator: it yields how far it is (0..1), so that a
 * worker can report and stop.
 */
export function* designSteps(input: DesignInput): Generator<number, Answer[]> {
  const p = prepare(input);
  const random = seeded(input.seed);
  const free = input.kind.controls.filter((c) => !(c.id in input.fixed));
  const judge = (mix: Levels) => {
    const scaled = atWantedPar(p, mix);
    const figures = figuresOf(p, scaled);
    return { mix: scaled, figures, scores: scoresOf(p, figures) };
  };
  type Judged = ReturnType<typeof judge>;
  const start = judge({ ...input.mix, ...input.fixed });
  const pool: Judged[] = [start];
  for (let i = 0; i < POOL; i += 1) {
    pool.push(judge(randomMix(p, random)));
    if (i % 100 === 99) yield (0.3 * i) / POOL;
  }
  const found: { judged: Judged; lead: Lead }[] = [];
  /** Climbs from the best starts; `look` may lean the look to one side. */
  function* climb(way: Way): Generator<number, Judged> {
    const value = (j: Judged) => worth(p, { ...j.scores, look: lookScore(j.figures, way.look) }, way);
    const starts = [...pool, ...found.map((f) => f.judged)]
      .sort((a, b) => value(b) - value(a))
      .slice(0, STARTS);
    let best = starts[0]!;
    for (const [s, from] of starts.entries()) {
      let here = from;
      for (const step of STEPS) {
        let moved = true;
        for (let round = 0; moved && round < 6; round += 1) {
          moved = false;
          const consider = (change: Levels) => {
            const there = judge({ ...here.mix, ...change });
            if (value(there) > value(here) + 1e-7) {
              here = there;
              moved = true;
            }
          };
          for (const c of free) {
            if (c.kind === 'onOff') consider({ [c.id]: here.mix[c.id]! > 0 ? 0 : 1 });
            else
              for (const by of [step, -step]) {
                const to = Math.min(1, Math.max(0, (here.mix[c.id] ?? 0) + by));
                if (to !== here.mix[c.id]) consider({ [c.id]: to });
              }
          }
          // along a ceiling or floor only two together can move
          if (round < PAIR_ROUNDS && step <= PAIR_STEP) {
            for (const up of free) {
              for (const down of free) {
                const [x, y] = [here.mix[up.id] ?? 0, here.mix[down.id] ?? 0];
                if (up === down || x >= 1 || y <= 0) continue;
                if (up.kind === 'onOff' || down.kind === 'onOff') continue;
                consider({ [up.id]: Math.min(1, x + step), [down.id]: Math.max(0, y - step) });
              }
            }
          }
        }
      }
      yield (s + 0.5) / STARTS;
      if (value(here) > value(best)) best = here;
    }
    return best;
  }
  const rounded: Rounded[] = [];
  /** Every way's best among all that was found on any: a climb may end short of what another came upon. */
  const chosen = () =>
    rounded.map(({ lead, way }) => {
      const value = (r: Rounded) => worth(p, { ...r.scores, look: lookScore(r.figures, way.look) }, way);
      const best = rounded.reduce((a, b) => (value(b) > value(a) + 1e-9 ? b : a));
      return { ...best, lead };
    });
  const distinct = (alike = ALIKE): Rounded[] => {
    const all = chosen();
    return all
      .filter(
        (a, i) =>
          all.slice(0, i).every((b) => inCommon(light(a.mix), light(b.mix)) < alike) &&
          !pool.some((j) => beats(j.scores, a.scores)),
      )
      .slice(0, MOST_ANSWERS)
      .sort((a, b) => ORDER.indexOf(a.lead) - ORDER.indexOf(b.lead));
  };
  const { look } = input.aims;
  const ways: Way[] = [
    ...WAYS.map((lead): Way => ({ lead, look })),
    // where growth and colour want the same, look and watts still offer a choice
    { lead: 'thrift', look },
    ...LEANS.map((by): Way => ({
      lead: by < 0 ? 'whiter' : 'bluer',
      look: Math.min(1.1, Math.max(-0.1, look + by)),
    })),
  ];
  for (const [w, way] of ways.entries()) {
    if (w >= WAYS.length && distinct().length >= LEAST_ANSWERS) break;
    const climbing = climb(way);
    for (;;) {
      const step = climbing.next();
      if (!step.done) {
        // further ways are rare: they share the last of the road
        const done =
          w < WAYS.length
            ? (w + step.value) / (WAYS.length + 1)
            : 1 - 0.5 ** (w - WAYS.length + 1 + step.value) / (WAYS.length + 1);
        yield 0.3 + 0.7 * done;
        continue;
      }
      found.push({ judged: step.value, lead: way.lead });
      const mix = Object.fromEntries(
        Object.entries(step.value.mix).map(([id, v]) => [
          id,
          Math.round(Math.min(1, Math.max(0, v)) * 1000) / 1000,
        ]),
      );
      const figures = figuresOf(p, mix);
      rounded.push({ mix, figures, lead: way.lead, way, scores: scoresOf(p, figures) });
      break;
    }
  }
  function light(mix: Levels): Spectrum {
    const shares = emittedShares(
      input.kind,
      channelLevels(input.kind, mix).map((v) => v * input.strength),
    );
    const out = zeroSpectrum();
    shares.forEach((v, i) => input.channels[i]!.forEach((x, k) => (out[k]! += v * x)));
    return out;
  }
  const apart = distinct();
  // where the aims leave little room the answers lie close together
  const shown = apart.length >= LEAST_ANSWERS ? apart : distinct(NEARLY_ALIKE);
  return (shown.length > 0 ? shown : rounded.slice(0, 1)).map(({ mix, figures, lead }) => ({
    mix,
    figures,
    lead,
    ...reasonsFor(start.figures, figures, input.aims.look),
  }));
}

type Rounded = { mix: Levels; figures: DesignFigures; lead: Lead; way: Way; scores: Scores };
const inCommon = (a: Spectrum, b: Spectrum): number => {
  const [pa, pb] = [par(a), par(b)];
  if (!(pa > 0 && pb > 0)) return pa === pb ? 1 : 0;
  let sum = 0;
  for (let i = 40; i <= 340; i += 1) sum += Math.min(a[i]! / pa, b[i]! / pb);
  return sum;
};

/** Runs the design to its end. */
export function design(input: DesignInput): Answer[] {
  const steps = designSteps(input);
  for (;;) {
    const next = steps.next();
    if (next.done) return next.value;
  }
}

/** What an answer gains and gives up against the present mix; every sentence quotes a computed difference. */
export function reasonsFor(
  from: DesignFigures,
  to: DesignFigures,
  look: number,
): { reasons: string[]; givesUp: string[] } {
  const told: { gain: number; text: string }[] = [];
  const tell = (gain: number, least: number, text: string) => {
    if (Math.abs(gain) >= least) told.push({ gain: gain / least, text });
  };
  tell(to.usable - from.usable, 0.01, `usable light ${percent(from.usable)} → ${percent(to.usable)} of PAR`);
  tell(
    to.glow - from.glow,
    0.01,
    `glow ${percent(from.glow)} → ${percent(to.glow)} of what the corals send back`,
  );
  const corals = to.glowByCoral
    .map((c, i) => ({
      name: c.name,
      by: c.glow - from.glowByCoral[i]!.glow,
      from: from.glowByCoral[i]!.glow,
      to: c.glow,
    }))
    .sort((a, b) => Math.abs(b.by) - Math.abs(a.by));
  const most = corals[0];
  if (most) tell(most.by, 0.03, `${most.name} glows ${percent(most.from)} → ${percent(most.to)}`);
  tell(
    to.variety - from.variety,
    0.5,
    `spread of colours ${from.variety.toFixed(1)} → ${to.variety.toFixed(1)} (CAM16-UCS)`,
  );
  tell(
    Math.abs(from.blueness - look) - Math.abs(to.blueness - look),
    0.04,
    `look ${Math.round(100 * from.blueness)} → ${Math.round(100 * to.blueness)}, wanted ${Math.round(100 * look)} (0 icy white, 100 deep blue)`,
  );
  tell(from.red - to.red, 0.005, `red ${percent(from.red)} → ${percent(to.red)} of PAR`);
  tell(to.violet - from.violet, 0.01, `violet ${percent(from.violet)} → ${percent(to.violet)} of PAR`);
  tell(
    (from.watts - to.watts) / Math.max(1, from.watts),
    0.02,
    `${Math.round(from.watts)} → ${Math.round(to.watts)} W a lamp`,
  );
  tell(
    -Math.abs(to.par - from.par) / Math.max(1, from.par),
    0.02,
    `PAR ${Math.round(from.par)} → ${Math.round(to.par)} µmol: this lamp does not reach the same`,
  );
  const gains = told.filter((t) => t.gain > 0).sort((a, b) => b.gain - a.gain);
  const losses = told.filter((t) => t.gain < 0).sort((a, b) => a.gain - b.gain);
  return { reasons: gains.slice(0, 4).map((t) => t.text), givesUp: losses.slice(0, 3).map((t) => t.text) };
}

/** Starting points for the schools of keepers; neutral where nothing is proven. Mark: rule of thumb. */
export const SCHOOLS: readonly { id: string; name: string; about: string; aims: Aims }[] = [
  {
    id: 'even',
    name: 'Growth and colour alike',
    about: 'Nothing pushed hard: a start when you have no view yet.',
    aims: {
      feeding: 0.6,
      glow: 0.5,
      variety: 0.5,
      look: 0.7,
      lookWeight: 0.3,
      watts: 0.2,
      redCeiling: 0.06,
      violetFloor: 0.05,
    },
  },
  {
    id: 'growth',
    name: 'Growth first',
    about: 'Usable light and thrift; the look follows.',
    aims: {
      feeding: 1,
      glow: 0.2,
      variety: 0.2,
      look: 0.7,
      lookWeight: 0.1,
      watts: 0.5,
      redCeiling: 0.08,
      violetFloor: 0.03,
    },
  },
  {
    id: 'glow',
    name: 'Glow first',
    about: 'Fluorescence of these corals before all; reflecting pigment and fish lose.',
    aims: {
      feeding: 0.3,
      glow: 1,
      variety: 0.3,
      look: 0.95,
      lookWeight: 0.4,
      watts: 0.1,
      redCeiling: 0.02,
      violetFloor: 0.08,
    },
  },
  {
    id: 'natural',
    name: 'Natural look',
    about: 'Fish, sand and reflecting corals as under a clear sky; glow gives way.',
    aims: {
      feeding: 0.4,
      glow: 0.1,
      variety: 0.7,
      look: 0.25,
      lookWeight: 0.9,
      watts: 0.1,
      redCeiling: 0.1,
      violetFloor: 0.02,
    },
  },
  {
    id: 'violet',
    name: 'Strong violet',
    about: 'For those who hold that violet makes pigment; held by many, proven little.',
    aims: {
      feeding: 0.5,
      glow: 0.6,
      variety: 0.4,
      look: 0.85,
      lookWeight: 0.3,
      watts: 0.1,
      redCeiling: 0.04,
      violetFloor: 0.2,
    },
  },
];
