import { DAY_MINUTES } from '../shape/ring';
import {
  fullSeconds,
  fullSecondsUntil,
  kneeMinutes,
  levelsAt,
  litHours,
  parOf,
  secondsBetween,
} from '../day/day';
import { type DayLight, heldPeak } from '../easing/accustomed';
import type { Straight } from '../feeding/response';
import type { Lean } from '../optics/light';
import type { ResponseMatrix, SpotPlace } from '../optics/response';
import { ALGAE, takenByAlga } from '../feeding/algae';
import { absorbedLight, TYPICAL_SHARE } from '../feeding/symbiont';
import { bandPhotons, type PerBand } from '../spectrum/bands';
import { addScaled, GRID_SIZE, type Spectrum, zeroSpectrum } from '../spectrum/grid';
import { wallWatts } from '../spectrum/watts';
import {
  bandOf,
  type Calibration,
  type ChannelPart,
  type Doubt,
  doubtOf,
  gainOf,
  type Part,
} from './calibration';
import { channelIds, type HungGroup, lampKey, type LitGroup, rowFinder } from './lit';

/**
 * The light of a zone: per group, spot and channel the PAR and spectrum at full emission (summed over the group's lamps),
 * with the calibration's gains already in. What is lit follows from the groups' levels: light = Σ level × channel light.
 */
export interface ZoneLight {
  spots: number;
  /** [group][spot][channel] µmol m⁻² s⁻¹ at full */
  par: number[][][];
  /** the same of light as corals take it, in µmol of a typical light */
  taken: number[][][];
  /** [group][spot][channel] µmol m⁻² s⁻¹ nm⁻¹ at full */
  spectra: Spectrum[][][];
  /** [group][lamp][spot][channel] µmol m⁻² s⁻¹ at full */
  lampPar: number[][][][];
  /** [group][spot][channel] how that PAR moves with yellow substances and with the logarithm of the beam exponent */
  byYellow: number[][][];
  byBeam: number[][][];
  /** the same with the logarithm of a factor on the panes, and what the floor sends */
  byPane: number[][][];
  byFloor: number[][][];
  /** [group][lamp][spot][channel] how that lamp's PAR moves with its height, per cm */
  byHeight: number[][][][];
  /** the same per degree that it leans more */
  byLean: Lean<number[][][][]>;
  /** the spots, cm; empty where nothing is known of places */
  at: readonly SpotPlace[];
}

/** Where a matrix has the rows of groups: [group][lamp][channel]. @throws when it has no light of one of them */
function rowsOf(matrix: Pick<ResponseMatrix, 'names'>, groups: readonly HungGroup[]): number[][][] {
  const find = rowFinder(matrix.names);
  return groups.map(({ groupId, lampKind, lamps }) =>
    lamps.map((l) =>
      lampKind.channels.map((c) => {
        const row = find({ groupId, lampId: l.id, channelId: c.id });
        if (row === undefined) throw new Error(`no light was computed of ${c.name} of ${l.name}`);
        return row;
      }),
    ),
  );
}

/** A table of a matrix at full, summed over each group's lamps, with gains: [group][spot][channel]. */
const summedTable = (
  table: ArrayLike<number>,
  matrix: Pick<ResponseMatrix, 'rows' | 'spots'>,
  rows: readonly (readonly (readonly number[])[])[],
  gains: readonly (readonly number[])[],
): number[][][] =>
  rows.map((lamps, g) =>
    Array.from({ length: matrix.spots }, (_, s) =>
      gains[g]!.map((gain, c) =>
        lamps.reduce((sum, own) => sum + gain * table[s * matrix.rows + own[c]!]!, 0),
      ),
    ),
  );
const gainsOf = (groups: readonly HungGroup[], cal: Pick<Calibration, 'gains'> | null): number[][] =>
  groups.map((g) => g.lampKind.channels.map((c) => (cal ? gainOf(cal, g.groupId, c.id) : 1)));

/** Sums a response matrix over the lamps of each group. */
export function zoneLight(
  matrix: ResponseMatrix,
  groups: readonly HungGroup[],
  cal: Pick<Calibration, 'gains'> | null = null,
): ZoneLight {
  const rows = rowsOf(matrix, groups);
  const gains = gainsOf(groups, cal);
  const takenAtFull = takenOf(matrix);
  const spots = Array.from({ length: matrix.spots }, (_, s) => s);
  const summed = (table: Float64Array) => summedTable(table, matrix, rows, gains);
  const byLamp = (table: Float64Array) =>
    rows.map((lamps, g) =>
      lamps.map((own) =>
        spots.map((s) => own.map((row, c) => gains[g]![c]! * table[s * matrix.rows + row]!)),
      ),
    );
  return {
    spots: matrix.spots,
    par: summed(matrix.par),
    taken: summed(takenAtFull),
    byYellow: summed(matrix.byYellow),
    byBeam: summed(matrix.byBeam),
    byPane: summed(matrix.byPane),
    byFloor: summed(matrix.byFloor),
    byHeight: byLamp(matrix.byHeight),
    byLean: { right: byLamp(matrix.byLean.right), back: byLamp(matrix.byLean.back) },
    at: matrix.at,
    spectra: rows.map((lamps, g) =>
      spots.map((s) =>
        gains[g]!.map((gain, c) => {
          const out = zeroSpectrum();
          for (const own of lamps) {
            const at = s * matrix.rows + own[c]!;
            addScaled(out, matrix.spectra.subarray(at * GRID_SIZE, (at + 1) * GRID_SIZE), gain);
          }
          return out;
        }),
      ),
    ),
    lampPar: byLamp(matrix.par),
  };
}

/** The light of one of the groups alone. */
export const lightOfGroup = (light: ZoneLight, index: number): ZoneLight => ({
  spots: light.spots,
  par: [light.par[index]!],
  taken: [light.taken[index]!],
  spectra: [light.spectra[index]!],
  lampPar: [light.lampPar[index]!],
  byYellow: [light.byYellow[index]!],
  byBeam: [light.byBeam[index]!],
  byPane: [light.byPane[index]!],
  byFloor: [light.byFloor[index]!],
  byHeight: [light.byHeight[index]!],
  byLean: { right: [light.byLean.right[index]!], back: [light.byLean.back[index]!] },
  at: light.at,
});

/** Emitted shares per group at a minute. */
export const levelsOfGroups = (groups: readonly LitGroup[], minute: number): number[][] =>
  groups.map((g) => (g.day.knots.length > 0 ? levelsAt(g.day, minute) : channelIds(g.lampKind).map(() => 0)));

/** PAR at a spot under the given levels per group. */
export const parUnder = (light: ZoneLight, levels: readonly (readonly number[])[], spot: number): number =>
  levels.reduce((sum, l, g) => sum + parOf(l, light.par[g]![spot]!), 0);

/** Light at a spot as corals take it, µmol of a typical light, under the given levels per group. */
export const takenUnder = (
  light: Pick<ZoneLight, 'taken'>,
  levels: readonly (readonly number[])[],
  spot: number,
): number => levels.reduce((sum, l, g) => sum + parOf(l, light.taken[g]![spot]!), 0);

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
  groups.flatMap((g, i) => {
    const keys = g.lamps.map((l) => lampKey(g.groupId, l.id));
    return g.lampKind.channels.map((c, k): Part => {
      const level = levels[i]![k]!;
      return {
        groupId: g.groupId,
        channelId: c.id,
        par: level * light.par[i]![spot]![k]!,
        byYellow: level * light.byYellow[i]![spot]![k]!,
        byBeam: level * light.byBeam[i]![spot]![k]!,
        byPane: level * light.byPane[i]![spot]![k]!,
        byFloor: level * light.byFloor[i]![spot]![k]!,
        lamps: keys.map((key, n) => ({
          key,
          par: level * light.lampPar[i]![n]![spot]![k]!,
          byHeight: level * light.byHeight[i]![n]![spot]![k]!,
          byLean: {
            right: level * light.byLean.right[i]![n]![spot]![k]!,
            back: level * light.byLean.back[i]![n]![spot]![k]!,
          },
        })),
        at: light.at[spot] ?? null,
      };
    });
  });

/** Light as corals take it at a spot, by channel. */
export const takenParts = (
  light: Pick<ZoneLight, 'taken'>,
  groups: readonly HungGroup[],
  levels: readonly (readonly number[])[],
  spot: number,
): ChannelPart[] =>
  groups.flatMap((g, i) =>
    g.lampKind.channels.map((c, k) => ({
      ...{ groupId: g.groupId, channelId: c.id },
      light: levels[i]![k]! * light.taken[i]![spot]![k]!,
    })),
  );

const doubts = new WeakMap<ZoneLight, { cal: Calibration; at: Doubt[] }>();

/** Half width of the 90 % band of PAR at a spot under the given levels, as a share. What it is made of is found once for a light. */
export function bandUnder(
  cal: Calibration,
  light: ZoneLight,
  groups: readonly HungGroup[],
  levels: readonly (readonly number[])[],
  spot: number,
): number {
  let kept = doubts.get(light);
  if (kept?.cal !== cal) doubts.set(light, (kept = { cal, at: [] }));
  const full = () => groups.map((g) => g.lampKind.channels.map(() => 1));
  const own = (kept.at[spot] ??= doubtOf(cal, partsOf(light, groups, full(), spot)));
  return bandOf(cal, own, levels.flat());
}

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

export interface ZoneDay extends Required<DayLight> {
  peakMinute: number;
}

/** Light at full, [group][spot][channel]: PAR, and as corals take it in µmol of a typical light. */
export interface LightTable {
  par: readonly (readonly (readonly number[])[])[];
  taken: readonly (readonly (readonly number[])[])[];
}

/** What of a matrix is kept where spectra are not needed. */
export type KeptMatrix = Pick<ResponseMatrix, 'par' | 'rows' | 'spots' | 'names'> & { taken: Float64Array };
export const keptMatrix = (matrix: ResponseMatrix): KeptMatrix => {
  const { par, rows, spots, names } = matrix;
  return { par, rows, spots, names, taken: takenOf(matrix) };
};

/** Light of every row at every spot as who lives there takes it, µmol of a typical light, spot-major. */
function takenOf({ rows, spots, spectra, at }: ResponseMatrix): Float64Array {
  return Float64Array.from({ length: rows * spots }, (_, i) => {
    const light = spectra.subarray(i * GRID_SIZE, (i + 1) * GRID_SIZE);
    const grows = ALGAE.find((a) => a.id === at[Math.floor(i / rows)]?.algaId);
    return grows ? takenByAlga(light, grows) : absorbedLight(light) / TYPICAL_SHARE;
  });
}

/** Light at full per group, spot and channel, with the calibration's gains, when spectra are not needed. */
export function parTable(
  matrix: KeptMatrix | ResponseMatrix,
  groups: readonly HungGroup[],
  cal: Pick<Calibration, 'gains'> | null,
): LightTable {
  const rows = rowsOf(matrix, groups);
  const gains = gainsOf(groups, cal);
  const taken = 'taken' in matrix ? matrix.taken : takenOf(matrix);
  return {
    par: summedTable(matrix.par, matrix, rows, gains),
    taken: summedTable(taken, matrix, rows, gains),
  };
}

/** What each channel gave of a light as corals take it at one spot, [group][channel], and how that light ran. */
export interface ByChannel {
  dli: number[][];
  peak: number[][];
  runs: Straight[];
}

/** Light at moments of a stretch as it runs between them; of a whole day, round to the first. */
function straights(minutes: readonly number[], values: readonly number[], whole: boolean): Straight[] {
  if (whole && minutes.length === 1) return [{ minutes: DAY_MINUTES, from: values[0]!, to: values[0]! }];
  const out: Straight[] = [];
  for (let i = 0; i < minutes.length - (whole ? 0 : 1); i += 1) {
    const next = (i + 1) % minutes.length;
    const length = minutes[next]! - minutes[i]! + (next === 0 ? DAY_MINUTES : 0);
    out.push({ minutes: length, from: values[i]!, to: values[next]! });
  }
  return out;
}

/**
 * Light between two minutes of a day at every spot: its integral and its peak. Levels are computed once for all spots.
 * @param table light at full
 * @param made filled with what each channel gave of it, per spot
 */
export function lightBetween(
  { par, taken }: LightTable,
  groups: readonly LitGroup[],
  spots: number,
  fromMinute = 0,
  toMinute = DAY_MINUTES,
  made?: ByChannel[],
): DayLight[] {
  const whole = fromMinute <= 0 && toMinute >= DAY_MINUTES;
  const seconds = groups.map((g) =>
    whole ? fullSeconds(g.day) : secondsBetween(g.day, fromMinute, toMinute),
  );
  const inside = peakMinutes(groups).filter((m) => whole || (m >= fromMinute && m < toMinute));
  const minutes = [...inside, ...(whole ? [] : [fromMinute, Math.max(fromMinute, toMinute - 1e-6)])].sort(
    (a, b) => a - b,
  );
  const levels = minutes.map((m) => levelsOfGroups(groups, m % DAY_MINUTES));
  const out = new Array<DayLight>(spots);
  // many corals over many changes: plain loops, no closure per product
  for (let s = 0; s < spots; s += 1) {
    let [dose, takenDose] = [0, 0];
    for (let g = 0; g < groups.length; g += 1) {
      dose += dot(seconds[g]!, par[g]![s]!);
      takenDose += dot(seconds[g]!, taken[g]![s]!);
    }
    let [peak, takenTop] = [0, 0];
    let brightest = levels[0];
    const course = levels.map((l) => {
      let [here, takenHere] = [0, 0];
      for (let g = 0; g < groups.length; g += 1) {
        here += dot(l[g]!, par[g]![s]!);
        takenHere += dot(l[g]!, taken[g]![s]!);
      }
      if (here > peak) peak = here;
      if (takenHere > takenTop) [takenTop, brightest] = [takenHere, l];
      return takenHere;
    });
    const runs = straights(minutes, course, whole);
    const takenPeak = heldPeak(runs);
    out[s] = { dli: dose / 1e6, peak, taken: { dli: takenDose / 1e6, peak: takenPeak } };
    if (made) {
      const of = (times: readonly (readonly number[])[] | undefined, unit: number) =>
        groups.map((_, g) => taken[g]![s]!.map((v, c) => (times?.[g]?.[c] ?? 0) * v * unit));
      const held = takenTop > 0 ? takenPeak / takenTop : 1;
      made[s] = { dli: of(seconds, 1e-6), peak: of(brightest, held), runs };
    }
  }
  return out;
}

function dot(a: readonly number[], b: readonly number[]): number {
  let sum = 0;
  for (let i = 0; i < a.length; i += 1) sum += a[i]! * b[i]!;
  return sum;
}

/** A day's light at spots: exact DLI and the true peak of the sum of all groups. Levels are computed once for all of them. */
export function daysAt(light: ZoneLight, groups: readonly LitGroup[], spots: readonly number[]): ZoneDay[] {
  const seconds = groups.map((g) => fullSeconds(g.day));
  const minutes = peakMinutes(groups);
  const moments = minutes.map((m) => ({ minute: m, levels: levelsOfGroups(groups, m) }));
  const inOrder = minutes.map((_, i) => i).sort((a, b) => minutes[a]! - minutes[b]!);
  const sorted = inOrder.map((i) => minutes[i]!);
  return spots.map((spot) => {
    let peak = 0;
    let peakMinute = 0;
    for (const m of moments) {
      const value = parUnder(light, m.levels, spot);
      if (value > peak) [peak, peakMinute] = [value, wholeMinute(m.minute)];
    }
    const course = inOrder.map((i) => takenUnder(light, moments[i]!.levels, spot));
    const taken = {
      dli: takenUnder(light, seconds, spot) / 1e6,
      peak: heldPeak(straights(sorted, course, true)),
    };
    return { dli: parUnder(light, seconds, spot) / 1e6, peak, taken, peakMinute };
  });
}

/** The same at one spot. */
export const dayAt = (light: ZoneLight, groups: readonly LitGroup[], spot: number): ZoneDay =>
  daysAt(light, groups, [spot])[0]!;

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
