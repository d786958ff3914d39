import { par, PAR_FROM_NM, PAR_TO_NM } from '../spectrum/bands';
import { channelLevels, followsStrength } from '../spectrum/controls';
import type { Control, Levels, LampKind } from '../spectrum/lampKind';
import { type Spectrum, addScaled, indexOfNm, zeroSpectrum } from '../spectrum/grid';
import { keptSpectrum, mixSpectrum } from '../spectrum/lamp';
import { boundedFit } from './boundedFit';

/** The part of a spectrum that recipes are fitted on: 301 samples 400..700 nm. */
export const fitted = (spectrum: Spectrum): Float64Array =>
  spectrum.subarray(indexOfNm(PAR_FROM_NM), indexOfNm(PAR_TO_NM) + 1);

const norm = (a: ArrayLike<number>) => Math.hypot(...Array.from(a));

export interface Carried {
  /** one per column, 0..1 */
  levels: number[];
  /** 1 − ‖residual‖ / ‖source‖ over 400..700 nm, equal weight */
  match: number;
  /** PAR of the result over PAR of the source */
  parRatio: number;
}

/**
 * Carries a light to other channels: bounded least squares (0..1) of photon spectra, 400..700 nm, equal weight, no
 * regularisation.
 * @param source photon spectrum; @param columns the target's photon spectra at level 1
 * @throws RangeError when the source has no photons 400..700 nm
 */
export function carrySpectrum(source: Spectrum, columns: readonly Spectrum[]): Carried {
  const target = fitted(source);
  const size = norm(target);
  if (!(size > 0)) throw new RangeError('the source has no photons from 400 to 700 nm');
  const { x: levels } = boundedFit(columns.map(fitted), target);
  const result = sumOf(columns, levels);
  return {
    levels,
    match: 1 - norm(target.map((v, i) => v - fitted(result)[i]!)) / size,
    parRatio: par(result) / par(source),
  };
}

function sumOf(columns: readonly Spectrum[], levels: readonly number[]): Spectrum {
  const sum = zeroSpectrum();
  levels.forEach((level, i) => {
    if (level !== 0) addScaled(sum, columns[i]!, level);
  });
  return sum;
}

export interface CarriedMix {
  mix: Levels;
  /** 1 − ‖residual‖ / ‖source‖ at equal PAR, so that only the colour is judged */
  match: number;
  /** PAR of the lamp under this mix over PAR of the source */
  parRatio: number;
  spectrum: Spectrum;
}

/** Half the strength is given up only for this much more match. Mark: rule of thumb. */
export const MATCH_PER_HALVING = 0.05;
/** Positions of a tint control that are tried before the best is refined. */
const TINT_STEPS = 21;
/** Share of the lamp's strength at which only colour is judged. */
const COLOUR_ONLY = 0.05;
const GOLDEN = (Math.sqrt(5) - 1) / 2;

/** How far a result is from a source of another strength: the source is scaled to the result's PAR. */
export function matchAtEqualPar(source: Spectrum, result: Spectrum): number {
  const p = par(source);
  if (!(p > 0)) return 0;
  const scale = par(result) / p;
  if (!(scale > 0)) return 0;
  const target = fitted(source).map((v) => v * scale);
  return 1 - norm(target.map((v, i) => v - fitted(result)[i]!)) / norm(target);
}

/**
 * Carries a light to a lamp kind as its controls allow: tied channels stay tied, circuits are on or off, a tint has its
 * ratios. The source may be stronger than the lamp: then the colour is kept and the strength is what the lamp can give.
 * @param through transmission on the way to the coral, on the grid; both lights are compared behind it
 * @param fixed controls that are locked, with their values
 */
export function carryToLamp(
  source: Spectrum,
  kind: LampKind,
  through?: Spectrum,
  fixed: Levels = {},
): CarriedMix {
  const seen = (s: Spectrum) => (through ? s.map((v, i) => v * through[i]!) : s);
  const wanted = seen(source);
  if (!(par(wanted) > 0)) throw new RangeError('the source has no photons from 400 to 700 nm');
  const spectra = kind.channels.map((c) => seen(keptSpectrum(c)));
  const locked = new Set(Object.keys(fixed));
  const circuits = kind.controls.filter((c) => c.kind === 'onOff' && !locked.has(c.id));
  const tint = kind.controls.find((c) => c.kind === 'tint');
  const free = kind.controls.filter((c) => followsStrength(c) && c.kind !== 'onOff' && !locked.has(c.id));
  const trims = kind.controls.filter((c): c is Trim => c.kind === 'trim' && !locked.has(c.id));
  // trims begin where they multiply by one
  const rest: Record<string, number> = Object.fromEntries([
    ...trims.map((t) => [t.id, neutralTrim(t)]),
    ...Object.entries(fixed),
  ]);

  /** Best levels for given circuits, tint and trims, at a scale of the source. */
  const solve = (set: Levels, scale: number): Levels => {
    const base = light({ ...set, ...Object.fromEntries(free.map((c) => [c.id, 0])) });
    const columns = free.map((c) => {
      const one = light({ ...set, ...Object.fromEntries(free.map((f) => [f.id, f.id === c.id ? 1 : 0])) });
      return fitted(one.map((v, i) => v - base[i]!));
    });
    const target = fitted(wanted).map((v, i) => v * scale - fitted(base)[i]!);
    const { x } = boundedFit(columns, target);
    return { ...set, ...Object.fromEntries(free.map((c, i) => [c.id, x[i]!])) };
  };
  function light(mix: Levels): Spectrum {
    return sumOf(spectra, channelLevels(kind, mix));
  }
  const judge = (mix: Levels) => {
    const l = light(mix);
    return par(l) > 0 ? matchAtEqualPar(wanted, l) : -Infinity;
  };
  /** The mix whose match is worth its strength, over falling scales of the source. */
  const atAnyStrength = (set: Levels): { mix: Levels; match: number } => {
    const scales = free.length === 0 ? [1] : strengths(wanted, spectra);
    const judged = scales.map((scale) => {
      const mix = free.length === 0 ? set : solve(set, scale);
      const match = judge(mix);
      const strength = par(light(mix)) / par(wanted);
      return { mix, match, worth: match + MATCH_PER_HALVING * Math.log2(Math.min(1, strength) + 1e-9) };
    });
    return judged.reduce((a, b) => (b.worth > a.worth + 1e-9 ? b : a));
  };

  /** How well the colour alone can be met: so weak a source that no level reaches full. */
  const most = spectra.reduce((sum, s) => sum + par(s), 0) / par(wanted);
  const colourOf = (set: Levels): number => judge(free.length === 0 ? set : solve(set, COLOUR_ONLY * most));

  const combinations = circuits.reduce<Levels[]>(
    (sets, c) =>
      sets.flatMap((s) => [
        { ...s, [c.id]: 1 },
        { ...s, [c.id]: 0 },
      ]),
    [rest],
  );
  const withTint = combinations.flatMap((set) => {
    if (!tint || locked.has(tint.id)) return [set];
    const at = (t: number) => colourOf({ ...set, [tint.id]: t });
    const grid = Array.from({ length: TINT_STEPS }, (_, i) => i / (TINT_STEPS - 1));
    const top = grid.reduce((b, t) => (at(t) > at(b) ? t : b), 0);
    let [low, high] = [Math.max(0, top - 1 / (TINT_STEPS - 1)), Math.min(1, top + 1 / (TINT_STEPS - 1))];
    while (high - low > 0.002) {
      const a = high - GOLDEN * (high - low);
      const b = low + GOLDEN * (high - low);
      if (at(a) >= at(b)) high = b;
      else low = a;
    }
    return [{ ...set, [tint.id]: (low + high) / 2 }];
  });
  let set = withTint.reduce((a, b) => (colourOf(b) > colourOf(a) ? b : a));
  // trims one after the other, twice round: they are few and nearly independent
  for (let round = 0; round < 2; round += 1) {
    for (const t of trims) {
      for (let v = 0; v <= 1.0001; v += 0.05) {
        const tried = { ...set, [t.id]: Math.min(1, v) };
        if (colourOf(tried) > colourOf(set) + 1e-9) set = tried;
      }
    }
  }
  const best = atAnyStrength(set);
  // what is really emitted, power budget and curves included
  const spectrum = mixSpectrum(kind, best.mix);
  const sent = seen(spectrum);
  return {
    mix: best.mix,
    match: matchAtEqualPar(wanted, sent),
    parRatio: par(sent) / par(wanted),
    spectrum,
  };
}

type Trim = Extract<Control, { kind: 'trim' }>;
const neutralTrim = (t: Trim) =>
  t.toFactor === t.fromFactor
    ? 0
    : Math.min(1, Math.max(0, (1 - t.fromFactor) / (t.toFactor - t.fromFactor)));

/** Scales of the source that are tried, strongest first: as it is, then down in steps from what the lamp could give at most. */
function strengths(wanted: Spectrum, spectra: readonly Spectrum[]): number[] {
  const most = spectra.reduce((sum, s) => sum + par(s), 0) / par(wanted);
  const scales = [1];
  for (let s = Math.min(1, most) * 0.95; s > 0.02 * Math.min(1, most); s *= 0.85) scales.push(s);
  return scales;
}
