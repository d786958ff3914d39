import { NINETY, PRIOR_SHARE } from '../meter/noise';
import { dot, times } from '../meter/linear';
import type { Levels } from '../spectrum/lampKind';
import { type Bent, channelIds, type HungGroup, lampKindOf } from './lit';
import type { CaseDoc } from '../record/caseDoc';
import type { MeterUse, RigGroup } from '../record/readings';
import type { Zone } from '../record/zone';

/** One unknown of a zone's light. */
export interface Parameter {
  what: 'gain' | 'yellow' | 'beam';
  groupId: string;
  channelId: string;
  /** as it is called beside its value */
  name: string;
  value: number;
  standardError: number;
  /** what the model says without readings */
  nominal: number;
}

/** What a reading said against what the calibrated model says. */
export interface Residual {
  sessionId: string;
  readingId: string;
  spotId: string | null;
  name: string;
  xCm: number;
  yCm: number;
  depthCm: number;
  levels: Record<string, Levels>;
  /** PAR that the reading stands for: the meter's word corrected for its response, the mix, and water on the sensor */
  observedUmol: number;
  /** one standard deviation of it, without the scale error that all readings of the meter share */
  sigmaUmol: number;
  predictedUmol: number;
  sigmas: number;
  suspect: boolean;
  dropped: boolean;
  /** it counts however far it lies off */
  trusted: boolean;
}

/** What was found of one meter: it shows `scale` times what is there. */
export interface MeterScale extends Pick<MeterUse, 'kind' | 'simulated'> {
  scale: number;
  standardError: number;
  trusted: boolean;
}

/** What is known of a zone's light beyond the model: from readings, or nothing. */
export interface Calibration extends Bent {
  /** readings that count */
  readings: number;
  /** true when readings of a simulated meter are among them */
  simulated: boolean;
  /** true while there are too few readings to tell channels apart */
  overallOnly: boolean;
  /** factor on every channel's light by group */
  gains: Record<string, Record<string, number>>;
  parameters: Parameter[];
  /** of the parameters, in their order */
  covariance: number[][];
  residuals: Residual[];
  /** scale of the meter used last: its variance, and its covariance with the parameters; readings cannot tell it from the lamps */
  meter: { variance: number; cross: number[] };
  /** each meter's own scale */
  meters: MeterScale[];
  /** how much wider than expected readings scatter; 1 = as expected */
  scatter: number;
}

/**
 * How much of a gain's doubt all channels share before any reading: what makes one wrong (height, lens, drive current, a
 * maker's optimism) usually makes all of them wrong. Mark: rule of thumb.
 */
export const SHARED = 0.6;
/** Doubt of the water's yellowness before any reading: this share of it, and this much more. Mark: rule of thumb. */
const YELLOW_DOUBT = [0.6, 0.05] as const;
/** Scale error of a meter nobody has named yet. Mark: rule of thumb. */
const ANY_METER = 0.05;
/** Doubt of a beam exponent before any reading, as a share. Mark: rule of thumb. */
const BEAM_DOUBT = 0.15;

export const gainOf = (cal: Pick<Calibration, 'gains'>, groupId: string, channelId: string): number =>
  cal.gains[groupId]?.[channelId] ?? 1;

/** The lamps of a zone as they hang in the case now. */
export const hungGroups = (doc: CaseDoc, zone: Zone): RigGroup[] =>
  zone.groups.map((g) => ({ groupId: g.id, name: g.name, lampKind: lampKindOf(doc, g), lamps: g.lamps }));

/** What is known before any reading: the model as it stands, and how far it may be off. */
export function bareCalibration(
  groups: readonly (HungGroup & { name: string })[],
  water: Zone['water'],
): Calibration {
  const parameters: Parameter[] = [
    ...groups.flatMap((g) =>
      g.lampKind.channels.map((c): Parameter => ({
        what: 'gain',
        groupId: g.groupId,
        channelId: c.id,
        name: groups.length > 1 ? `${c.name}, ${g.name}` : c.name,
        value: 1,
        standardError: PRIOR_SHARE,
        nominal: 1,
      })),
    ),
    {
      what: 'yellow',
      groupId: '',
      channelId: '',
      name: 'Yellow substances at 440 nm',
      value: water.yellow440PerM,
      standardError: YELLOW_DOUBT[0] * water.yellow440PerM + YELLOW_DOUBT[1],
      nominal: water.yellow440PerM,
    },
    ...groups
      .filter((g) => !g.lampKind.optic)
      .map((g): Parameter => ({
        what: 'beam',
        groupId: g.groupId,
        channelId: '',
        name: groups.length > 1 ? `Beam exponent, ${g.name}` : 'Beam exponent',
        value: 1,
        standardError: BEAM_DOUBT,
        nominal: 1,
      })),
  ];
  return {
    readings: 0,
    simulated: false,
    overallOnly: true,
    yellow440PerM: water.yellow440PerM,
    beams: {},
    gains: {},
    parameters,
    covariance: parameters.map((a, i) =>
      parameters.map((b, j) => {
        if (i === j) return a.standardError ** 2;
        return a.what === 'gain' && b.what === 'gain' ? SHARED * PRIOR_SHARE ** 2 : 0;
      }),
    ),
    residuals: [],
    meter: { variance: ANY_METER ** 2, cross: parameters.map(() => 0) },
    meters: [],
    scatter: 1,
  };
}

/** Light of one channel of one group at a place, as lit: what a band is made of. µmol m⁻² s⁻¹, gain included. */
export interface Part {
  groupId: string;
  channelId: string;
  par: number;
  byYellow: number;
  byBeam: number;
}

/** A channel of a group, wherever light is told apart by it. */
export const channelKey = (groupId: string, channelId: string): string => `${groupId} ${channelId}`;

/** Light that no channel is known to have given, of a coral's past before this tank: how far off it may be. Mark: rule of thumb. */
const START_DOUBT = 0.25;

/**
 * Half width of the 90 % band of a light over one that was grown used to, as a share. What both share, a lamp brighter than its model,
 * falls out; what differs, other colours or other lamps, stays. The water and beams are the same for both.
 * @param parts the light; @param made what each channel gave of the other, and @param total of all of it
 */
export function ratioBandShare(
  cal: Calibration,
  parts: readonly Part[],
  made: Readonly<Record<string, number>>,
  total: number,
): number {
  const sum = parts.reduce((s, p) => s + p.par, 0);
  if (!(sum > 0) || !(total > 0) || !Number.isFinite(total)) return 0;
  const apart = new Map<string, number>();
  const count = (key: string, share: number) => apart.set(key, (apart.get(key) ?? 0) + share);
  for (const p of parts) count(channelKey(p.groupId, p.channelId), p.par / sum);
  for (const [key, v] of Object.entries(made)) count(key, -v / total);
  const slopes = cal.parameters.map((p) => {
    const key = channelKey(p.groupId, p.channelId);
    const share = p.what === 'gain' ? (apart.get(key) ?? 0) : 0;
    if (p.what === 'gain') apart.delete(key);
    return share / p.value;
  });
  // lamps that no parameter speaks of: each group as doubtful as before any reading
  const strangers = new Map<string, number>();
  for (const [key, share] of apart) {
    const [group] = key.split(' ') as [string];
    strangers.set(group, (strangers.get(group) ?? 0) + share);
  }
  const start = 1 - Object.values(made).reduce((s, v) => s + v, 0) / total;
  const variance =
    Math.max(0, dot(slopes, times(cal.covariance, slopes))) +
    [...strangers.values()].reduce((s, v) => s + (PRIOR_SHARE * v) ** 2, 0) +
    (START_DOUBT * Math.max(0, start)) ** 2;
  return NINETY * Math.sqrt(variance);
}

/** How the sum of parts moves with every parameter. */
export function slopesOf(cal: Calibration, parts: readonly Part[]): number[] {
  return cal.parameters.map((p) =>
    parts.reduce((sum, part) => {
      if (p.what === 'yellow') return sum + part.byYellow;
      if (p.groupId !== part.groupId) return sum;
      if (p.what === 'beam') return sum + part.byBeam / p.value;
      return p.channelId === part.channelId ? sum + part.par / p.value : sum;
    }, 0),
  );
}

/**
 * Covariance of sums of parts, each as a share of itself; 0 for no light. Light of lamps that no parameter speaks of is as doubtful as
 * before any reading, everywhere alike.
 */
export function shareCovariance(cal: Calibration, sums: readonly (readonly Part[])[]): number[][] {
  const known = new Set(
    cal.parameters.filter((p) => p.what === 'gain').map((p) => channelKey(p.groupId, p.channelId)),
  );
  const shares = sums.map((parts) => {
    const sum = parts.reduce((s, p) => s + p.par, 0);
    const of = (v: number) => (sum > 0 ? v / sum : 0);
    const slopes = slopesOf(cal, parts).map(of);
    const stranger = parts.reduce(
      (s, p) => (known.has(channelKey(p.groupId, p.channelId)) ? s : s + p.par),
      0,
    );
    return { slopes, through: times(cal.covariance, slopes), stranger: of(stranger) };
  });
  return shares.map((a) =>
    shares.map((b) => dot(a.slopes, b.through) + PRIOR_SHARE ** 2 * a.stranger * b.stranger),
  );
}

/** Half width of the 90 % band of a sum of parts, as a share of it; 0 for no light. */
export const bandShare = (cal: Calibration, parts: readonly Part[]): number =>
  NINETY * Math.sqrt(Math.max(0, shareCovariance(cal, [parts])[0]![0]!));

/** Content key: the same key means the same light and the same bands. */
export const calibrationKey = (cal: Calibration): string =>
  cal.readings === 0 ? '' : JSON.stringify([cal.yellow440PerM, cal.beams, cal.gains, cal.covariance[0]]);

/** Levels differ by less than this when they are one light. Mark: rule of thumb. */
const ONE_LIGHT = 0.02;

/** Whether two sets of levels are one light; what a set does not name is dark. */
export function oneLight(a: Record<string, Levels>, b: Record<string, Levels>): boolean {
  const near = (x: Record<string, Levels>, y: Record<string, Levels>) =>
    Object.entries(x).every(([g, own]) =>
      Object.entries(own).every(([c, level]) => Math.abs(level - (y[g]?.[c] ?? 0)) < ONE_LIGHT),
    );
  return near(a, b) && near(b, a);
}

/** Readings of the newest session that were taken under the light that is shown. */
export function readUnder(
  cal: Pick<Calibration, 'residuals'>,
  groups: readonly HungGroup[],
  levels: readonly (readonly number[])[],
): Residual[] {
  const newest = cal.residuals.at(-1)?.sessionId;
  return cal.residuals.filter(
    (r) =>
      r.sessionId === newest &&
      groups.every((g, i) =>
        levelsIn(g, r.levels).every((level, c) => Math.abs(level - levels[i]![c]!) < ONE_LIGHT),
      ),
  );
}

/** The levels of a reading in the order of a group's channels. */
export const levelsIn = (group: HungGroup, levels: Record<string, Levels>): number[] =>
  channelIds(group.lampKind).map((id) => levels[group.groupId]?.[id] ?? 0);
