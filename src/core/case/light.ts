import {
  DAY_MINUTES,
  dli,
  fullSeconds,
  fullSecondsUntil,
  kneeMinutes,
  levelsAt,
  litHours,
  parOf,
  secondsBetween,
} from '../day/day';
import type { DayLight } from '../easing/accustomed';
import { type ResponseMatrix } from '../optics/response';
import { bandPhotons, type PerBand } from '../spectrum/bands';
import { addScaled, GRID_SIZE, type Spectrum, zeroSpectrum } from '../spectrum/grid';
import { wallWatts } from '../spectrum/watts';
import { bandShare, type Calibration, gainOf, type Part } from './calibration';
import { channelIds, type HungGroup, type LitGroup } from './lit';

/**
 * The light of a zone: per group, spot and channel the PAR and spectrum at full emission (summed over the group's lamps),
 * with the calibration's gains already in. What is lit follows from the groups' levels: light = Σ level × channel light.
 */
export interface ZoneLight {
  spots: number;
  /** [group][spot][channel] µmol m⁻² s⁻¹ at full */
  par: number[][][];
  /** [group][spot][channel] µmol m⁻² s⁻¹ nm⁻¹ at full */
  spectra: Spectrum[][][];
  /** [group][lamp][spot][channel] µmol m⁻² s⁻¹ at full */
  lampPar: number[][][][];
  /** [group][spot][channel] how that PAR moves with yellow substances and with the logarithm of the beam exponent */
  byYellow: number[][][];
  byBeam: number[][][];
}

/** Sums a response matrix over the lamps of each group. The rows must be those of `rigOf(groups)`. */
export function zoneLight(
  matrix: ResponseMatrix,
  groups: readonly HungGroup[],
  cal: Pick<Calibration, 'gains'> | null = null,
): ZoneLight {
  const light: ZoneLight = {
    spots: matrix.spots,
    par: [],
    spectra: [],
    lampPar: [],
    byYellow: [],
    byBeam: [],
  };
  let row = 0;
  for (const g of groups) {
    const channels = g.lampKind.channels.length;
    const spots = Array.from({ length: matrix.spots }, (_, s) => s);
    const first = row;
    const gains = g.lampKind.channels.map((c) => (cal ? gainOf(cal, g.groupId, c.id) : 1));
    // a table's entries of the group's lamps, summed and scaled
    const summed = (table: Float64Array) =>
      spots.map((s) =>
        gains.map((gain, c) =>
          g.lamps.reduce((sum, _, l) => sum + gain * table[s * matrix.rows + first + l * channels + c]!, 0),
        ),
      );
    const spectra = spots.map(() => Array.from({ length: channels }, zeroSpectrum));
    const lampPar = g.lamps.map((_, l) =>
      spots.map((s) =>
        Array.from({ length: channels }, (__, c) => {
          const at = s * matrix.rows + row + l * channels + c;
          const gain = gains[c]!;
          addScaled(spectra[s]![c]!, matrix.spectra.subarray(at * GRID_SIZE, (at + 1) * GRID_SIZE), gain);
          return gain * matrix.par[at]!;
        }),
      ),
    );
    light.spectra.push(spectra);
    light.lampPar.push(lampPar);
    light.par.push(summed(matrix.par));
    light.byYellow.push(summed(matrix.byYellow));
    light.byBeam.push(summed(matrix.byBeam));
    row += g.lamps.length * channels;
  }
  return light;
}

/** The light of one of the groups alone. */
export const lightOfGroup = (light: ZoneLight, index: number): ZoneLight => ({
  spots: light.spots,
  par: [light.par[index]!],
  spectra: [light.spectra[index]!],
  lampPar: [light.lampPar[index]!],
  byYellow: [light.byYellow[index]!],
  byBeam: [light.byBeam[index]!],
});

/** Emitted shares per group at a minute. */
export const levelsOfGroups = (groups: readonly LitGroup[], minute: number): number[][] =>
  groups.map((g) => (g.day.knots.length > 0 ? levelsAt(g.day, minute) : channelIds(g.lampKind).map(() => 0)));

/** PAR at a spot under the given levels per group. */
export const parUnder = (light: ZoneLight, levels: readonly (readonly number[])[], spot: number): number =>
  levels.reduce((sum, l, g) => sum + parOf(l, light.par[g]![spot]!), 0);

/** Spectrum at a spot under the given levels per group. */
export function spectrumUnder(
  light: ZoneLight,
  levels: readonly (readonly number[])[],
  spot: number,
): Spectrum {
  const out = zeroSpectrum();
  levels.forEach((l, g) =>
    l.forEach((level, c) => {
      if (level > 0) addScaled(out, light.spectra[g]![spot]![c]!, level);
    }),
  );
  return out;
}

/** What a figure at a spot is made of, for its band: light of every group and channel times its level (or its seconds). */
export const partsOf = (
  light: ZoneLight,
  groups: readonly HungGroup[],
  levels: readonly (readonly number[])[],
  spot: number,
): Part[] =>
  groups.flatMap((g, i) =>
    g.lampKind.channels.map((c, k): Part => ({
      groupId: g.groupId,
      channelId: c.id,
      par: levels[i]![k]! * light.par[i]![spot]![k]!,
      byYellow: levels[i]![k]! * light.byYellow[i]![spot]![k]!,
      byBeam: levels[i]![k]! * light.byBeam[i]![spot]![k]!,
    })),
  );

/** Half width of the 90 % band of PAR at a spot under the given levels, as a share. */
export const bandUnder = (
  cal: Calibration,
  light: ZoneLight,
  groups: readonly HungGroup[],
  levels: readonly (readonly number[])[],
  spot: number,
): number => bandShare(cal, partsOf(light, groups, levels, spot));

/** PAR at a spot by lamp: name and µmol, in order. */
export function partsUnder(
  light: ZoneLight,
  groups: readonly LitGroup[],
  levels: readonly (readonly number[])[],
  spot: number,
): { name: string; umol: number }[] {
  return groups.flatMap((g, i) =>
    g.lamps.map((l, k) => ({ name: l.name, umol: parOf(levels[i]!, light.lampPar[i]![k]![spot]!) })),
  );
}

/** The minutes at which the sum of all groups can peak: every thread and knee, and the instant before it where light can jump. */
function peakMinutes(groups: readonly LitGroup[]): number[] {
  const knees = kneeMinutes(groups.map((g) => g.day));
  if (knees.length === 0) return [0];
  const jumps = (g: LitGroup) => g.day.knots.some((k, i) => k.minute === g.day.knots[i - 1]?.minute);
  return groups.some((g) => g.day.interpolation === 'hold' || g.day.drive || jumps(g))
    ? // where both are as bright, the minute at which it begins is named
      [...knees, ...knees.map((m) => (m + 1440 - 1e-6) % 1440)]
    : knees;
}

/** A whole minute of the day; the instant before a jump belongs to the minute before it, not to the one after. */
const wholeMinute = (m: number): number => {
  const next = Math.ceil(m);
  return (next !== m && next - m < 1e-5 ? Math.floor(m) : Math.round(m)) % DAY_MINUTES;
};

export interface ZoneDay extends DayLight {
  peakMinute: number;
}

/** PAR at full per group, spot and channel, with the calibration's gains, when spectra are not needed. */
export function parTable(
  matrix: Pick<ResponseMatrix, 'par' | 'rows' | 'spots'>,
  groups: readonly HungGroup[],
  cal: Pick<Calibration, 'gains'> | null,
): number[][][] {
  let row = 0;
  return groups.map((g) => {
    const channels = g.lampKind.channels.length;
    const first = row;
    row += g.lamps.length * channels;
    const gains = g.lampKind.channels.map((c) => (cal ? gainOf(cal, g.groupId, c.id) : 1));
    return Array.from({ length: matrix.spots }, (_, s) =>
      gains.map((gain, c) =>
        g.lamps.reduce(
          (sum, __, l) => sum + gain * matrix.par[s * matrix.rows + first + l * channels + c]!,
          0,
        ),
      ),
    );
  });
}

/**
 * Light between two minutes of a day at every spot: its integral and its peak. Levels are computed once for all spots.
 * @param par µmol at full [group][spot][channel]
 */
export function lightBetween(
  par: readonly (readonly (readonly number[])[])[],
  groups: readonly LitGroup[],
  spots: number,
  fromMinute = 0,
  toMinute = DAY_MINUTES,
): DayLight[] {
  const whole = fromMinute <= 0 && toMinute >= DAY_MINUTES;
  const seconds = groups.map((g) =>
    whole ? fullSeconds(g.day) : secondsBetween(g.day, fromMinute, toMinute),
  );
  const inside = peakMinutes(groups).filter((m) => whole || (m >= fromMinute && m < toMinute));
  const minutes = whole ? inside : [...inside, fromMinute, Math.max(fromMinute, toMinute - 1e-6)];
  const levels = minutes.map((m) => levelsOfGroups(groups, m % DAY_MINUTES));
  const out = new Array<DayLight>(spots);
  // many corals over many changes: plain loops, no closure per product
  for (let s = 0; s < spots; s += 1) {
    let dose = 0;
    for (let g = 0; g < groups.length; g += 1) dose += dot(seconds[g]!, par[g]![s]!);
    let peak = 0;
    for (const l of levels) {
      let here = 0;
      for (let g = 0; g < groups.length; g += 1) here += dot(l[g]!, par[g]![s]!);
      if (here > peak) peak = here;
    }
    out[s] = { dli: dose / 1e6, peak };
  }
  return out;
}

function dot(a: readonly number[], b: readonly number[]): number {
  let sum = 0;
  for (let i = 0; i < a.length; i += 1) sum += a[i]! * b[i]!;
  return sum;
}

/** A day's light at a spot: exact DLI and the true peak of the sum of all groups. */
export function dayAt(light: ZoneLight, groups: readonly LitGroup[], spot: number): ZoneDay {
  let peak = 0;
  let peakMinute = 0;
  for (const m of peakMinutes(groups)) {
    const value = parUnder(light, levelsOfGroups(groups, m), spot);
    if (value > peak) [peak, peakMinute] = [value, wholeMinute(m)];
  }
  const total = groups.reduce((sum, g, i) => sum + dli(g.day, light.par[i]![spot]!), 0);
  return { dli: total, peak, peakMinute };
}

/** The levels at the minute at which a spot is brightest. */
export const brightestLevels = (light: ZoneLight, groups: readonly LitGroup[], spot: number): number[][] =>
  levelsOfGroups(groups, dayAt(light, groups, spot).peakMinute);

/** Light at a spot from midnight to a minute, mol m⁻². */
export const dliUntil = (
  light: ZoneLight,
  groups: readonly LitGroup[],
  spot: number,
  minute: number,
): number =>
  groups.reduce((sum, g, i) => sum + parOf(fullSecondsUntil(g.day, minute), light.par[i]![spot]!), 0) / 1e6;

/** Dose per band at a spot, mol m⁻² d⁻¹; near UV and far red partly lie outside PAR. */
export function doseAt(light: ZoneLight, groups: readonly LitGroup[], spot: number): PerBand {
  const sum = zeroSpectrum();
  groups.forEach((g, i) =>
    fullSeconds(g.day).forEach((seconds, c) => addScaled(sum, light.spectra[i]![spot]![c]!, seconds / 1e6)),
  );
  return bandPhotons(sum);
}

/** Hours with any lamp of the zone lit. */
export const zoneLitHours = (groups: readonly LitGroup[]): number => litHours(...groups.map((g) => g.day));

/** Wall watts of all lamps at the given levels, and with everything at full. */
export function wattsUnder(groups: readonly LitGroup[], levels: readonly (readonly number[])[]): number {
  return groups.reduce((sum, g, i) => {
    const byId = Object.fromEntries(channelIds(g.lampKind).map((id, c) => [id, levels[i]![c]!]));
    return sum + g.lamps.length * wallWatts(g.lampKind, byId);
  }, 0);
}
