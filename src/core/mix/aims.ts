import { cam16 } from '../colour/cam16';
import { xyzOf, type Xyz } from '../colour/xyz';
import { varietyOf } from '../coral/glow';
import type { CoralForm } from '../coral/form';
import { formSeen } from '../coral/seen';
import { absorbedLight } from '../feeding/symbiont';
import { FIRST_NM, type Spectrum, integrate } from '../spectrum/grid';
import { PAR_FROM_NM, par } from '../spectrum/bands';
import { channelLevels, followsStrength, isLinear } from '../spectrum/controls';
import type { Levels, LampKind } from '../spectrum/lampKind';
import { channelWallWatts, fullWallWatts } from '../spectrum/watts';
import { emittedShares } from '../spectrum/drive';

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

/** Aims as scores, all "more is better". */
export type Scores = Record<
  'feeding' | 'glow' | 'variety' | 'look' | 'watts' | 'red' | 'violet' | 'uv' | 'par',
  number
>;

/** Share of blue photons (400-500) of PAR at the two ends of the look. Mark: rule of thumb. */
const ICY_SHARE = 0.4;
const DEEP_SHARE = 0.97;
/** Where a light lies between icy white, 0, and deep blue, 1, by the share of blue photons of its PAR. */
export const bluenessOf = (blueShare: number): number => (blueShare - ICY_SHARE) / (DEEP_SHARE - ICY_SHARE);
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
export interface Prepared {
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
  return {
    input,
    columns: sources.map((s) => ({
      par: par(s),
      usable: absorbedLight(s),
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

/** What every channel emits of a mix, strength, budgets and curves applied, shares of full. */
export const sharesOf = ({ input: { kind, strength } }: Prepared, mix: Levels): number[] =>
  emittedShares(
    kind,
    channelLevels(kind, mix).map((v) => v * strength),
  );

/** Scales what follows strength so that PAR is as wanted, as far as no control passes full. */
export function atWantedPar(p: Prepared, mix: Levels): Levels {
  const { kind, fixed, parWanted } = p.input;
  const moving = kind.controls.filter((c) => followsStrength(c) && c.kind !== 'onOff' && !(c.id in fixed));
  if (moving.length === 0) return mix;
  const parOf = (m: Levels) => {
    const shares = sharesOf(p, m);
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
  const { corals } = p.input;
  const shares = sharesOf(p, mix);
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
    blueness: bluenessOf(sum((c) => c.blue) / parHere),
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
export interface Way {
  lead: Lead;
  /** look wanted on this way, 0 icy white … 1 deep blue */
  look: number;
}

/** How much harder the leading aim is pressed, and how much it weighs at least. */
const PRESSED = 4;
const PRESSED_LEAST = 0.5;

/** A mix with its figures and scores. */
export interface Judged {
  mix: Levels;
  figures: DesignFigures;
  scores: Scores;
}
export function judged(p: Prepared, mix: Levels): Judged {
  const figures = figuresOf(p, mix);
  return { mix, figures, scores: scoresOf(p, figures) };
}

/** What a mix is worth on a way, the higher the better. */
export function worth(p: Prepared, { figures, scores: s }: Judged, { lead, look }: Way): number {
  const { aims } = p.input;
  const weight = (what: Lead, slider: number) =>
    LEAST + (lead === what ? PRESSED * Math.max(slider, PRESSED_LEAST) : slider);
  return (
    weight('feeding', aims.feeding) * s.feeding +
    weight('glow', aims.glow) * s.glow +
    1.5 * weight('variety', aims.variety) * s.variety +
    1.5 *
      weight(lead === 'whiter' || lead === 'bluer' ? lead : 'look', aims.lookWeight) *
      lookScore(figures, look) +
    0.5 * weight('thrift', aims.watts) * s.watts +
    PENALTY * (s.red + s.violet + s.uv) +
    PAR_PENALTY * s.par
  );
}

/** Whether a is better than b on every aim. */
export const beats = (a: Scores, b: Scores): boolean =>
  (Object.keys(a) as (keyof Scores)[]).every((k) => a[k] > b[k] + 1e-9);
