import type { Criticism } from './criticism';
import { FIELD_SHARE, type FieldBox, FIELD_PRIOR, fieldWeights } from '../meter/places';
import { NINETY } from '../meter/noise';
import { dot, times } from '../meter/linear';
import type { Levels } from '../spectrum/lampKind';
import type { Lean } from '../optics/light';
import type { SpotPlace } from '../optics/response';
import { type Bent, channelIds, type HungGroup, lampKey, lampKindOf } from './lit';
import type { CaseDoc } from '../record/caseDoc';
import type { MeterUse, RigGroup } from '../record/readings';
import type { Zone } from '../record/zone';

/** One unknown of a zone's light. */
export interface Parameter {
  /** light of a channel, of a lamp; how much higher a lamp hangs, cm; how much more it leans, degrees; the rest as factors. `field`: what no other explains at a place */
  what:
    'gain' | 'lamp' | 'height' | 'leanRight' | 'leanBack' | 'beam' | 'yellow' | 'panes' | 'floor' | 'field';
  groupId: string;
  channelId: string;
  /** of `lampKey`, for what is a lamp's own */
  lampId: string;
  /** as it is called beside its value */
  name: string;
  value: number;
  standardError: number;
  /** what the model says without readings, and how unsure it is, as a share for what counts as a factor */
  nominal: number;
  before: number;
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
  /** so far off that it counts for next to nothing */
  dropped: boolean;
  /** it counts however far it lies off */
  trusted: boolean;
  /** what would explain it, where it does not fit: the likeliest first */
  fitsIf: string[];
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
  /** factor on every channel's light by group */
  gains: Record<string, Record<string, number>>;
  parameters: Parameter[];
  /** of the parameters, in their order: of their logarithms, of cm for heights, of m⁻¹ for yellowness */
  covariance: number[][];
  /** the box in which places are told apart */
  box: FieldBox;
  residuals: Residual[];
  /** scale of the meter used last: its variance, and its covariance with the parameters; readings cannot tell it from the lamps */
  meter: { variance: number; cross: number[] };
  /** each meter's own scale */
  meters: MeterScale[];
  /** how much wider than expected readings scatter; 1 = as expected */
  scatter: number;
  /** when what was left over says that the model is wrong in kind; absent or null = it does not */
  criticism?: Criticism | null;
}

/**
 * What may be wrong of a lamp before any reading, one standard deviation of the logarithm: shared by all lamps of a kind (a maker's
 * optimism, drive current), of each colour, of each hung lamp (film, age, a string of emitters that is dark). Mark: rule of thumb.
 */
export const DOUBT = {
  ...{
    kind: 0.25,
    channel: 0.15,
    lamp: 0.12,
    heightCm: 1.5,
    leanDeg: 4,
    beam: 0.25,
    panes: 0.35,
    floor: 0.4,
  },
} as const;
/** Doubt of the water's yellowness before any reading: this share of it, and this much more, m⁻¹. Mark: rule of thumb. */
export const yellowDoubt = (yellow440PerM: number): number => 0.6 * yellow440PerM + 0.15;
/** Light of a lamp that nothing is known of may be off by this. */
export const PRIOR_SHARE = Math.hypot(DOUBT.kind, DOUBT.channel, DOUBT.lamp);
/** What a meter that nobody has named yet may be off, by its scale and its response. Mark: rule of thumb. */
const ANY_METER = 0.1;

export const gainOf = (cal: Pick<Calibration, 'gains'>, groupId: string, channelId: string): number =>
  cal.gains[groupId]?.[channelId] ?? 1;

/** The lamps of a zone as they hang in the case now. */
export const hungGroups = (doc: CaseDoc, zone: Zone): RigGroup[] =>
  zone.groups.map((g) => ({ groupId: g.id, name: g.name, lampKind: lampKindOf(doc, g), lamps: g.lamps }));

/** Whether a parameter is counted by its logarithm. */
export const byLog = (what: Parameter['what']): boolean =>
  !['height', 'leanRight', 'leanBack', 'field', 'yellow'].includes(what);

/** What is known before any reading: the model as it stands, and how far it may be off. */
export function bareCalibration(
  groups: readonly (HungGroup & { name: string })[],
  { water, tank }: Pick<Zone, 'water' | 'tank'>,
): Calibration {
  const one = groups.length < 2;
  const made = (
    what: Parameter['what'],
    name: string,
    sd: number,
    of: Partial<Pick<Parameter, 'groupId' | 'channelId' | 'lampId' | 'nominal'>> = {},
  ): Parameter => {
    const nominal = of.nominal ?? (byLog(what) ? 1 : 0);
    return {
      ...{ what, groupId: '', channelId: '', lampId: '', ...of, name, value: nominal, nominal },
      standardError: byLog(what) ? nominal * sd : sd,
      before: sd,
    };
  };
  const lamps = groups.flatMap((g) =>
    g.lamps.map((l) => ({
      groupId: g.groupId,
      lampId: l.id,
      unsure: l.leanUnsure === true,
      name: one ? l.name : `${l.name}, ${g.name}`,
    })),
  );
  const { kind, channel, lamp, heightCm, leanDeg, beam, panes, floor } = DOUBT;
  const parameters: Parameter[] = [
    ...groups.flatMap((g) =>
      g.lampKind.channels.map((c) =>
        made('gain', one ? c.name : `${c.name}, ${g.name}`, Math.hypot(kind, channel), {
          groupId: g.groupId,
          channelId: c.id,
        }),
      ),
    ),
    ...lamps.map(({ name, groupId, lampId }) =>
      made('lamp', `Light of lamp ${name}`, lamp, { groupId, lampId }),
    ),
    ...lamps.map(({ name, groupId, lampId }) =>
      made('height', `Lamp ${name} hangs higher by`, heightCm, { groupId, lampId }),
    ),
    ...lamps
      .filter((l) => l.unsure)
      .flatMap(({ name, groupId, lampId }) => [
        made('leanRight', `Lamp ${name} leans to the right by`, leanDeg, { groupId, lampId }),
        made('leanBack', `Lamp ${name} leans to the back by`, leanDeg, { groupId, lampId }),
      ]),
    made('yellow', 'Yellow substances at 440 nm', yellowDoubt(water.yellow440PerM), {
      nominal: water.yellow440PerM,
    }),
    ...groups
      .filter((g) => !g.lampKind.optic)
      .map((g) =>
        made('beam', one ? 'Beam exponent' : `Beam exponent, ${g.name}`, beam, { groupId: g.groupId }),
      ),
    made('panes', 'Light the panes throw back', panes),
    made('floor', 'Light the floor throws back', floor),
    ...FIELD_PRIOR.map(() => made('field', 'What nothing else explains', FIELD_SHARE)),
  ];
  const kindOf = new Map(groups.map((g) => [g.groupId, g.lampKind.id]));
  const fields = parameters.findIndex((p) => p.what === 'field');
  const field = FIELD_PRIOR;
  return {
    readings: 0,
    simulated: false,
    yellow440PerM: water.yellow440PerM,
    beams: {},
    gains: {},
    parameters,
    covariance: parameters.map((a, i) =>
      parameters.map((b, j) => {
        if (a.what === 'field' && b.what === 'field') return field[i - fields]![j - fields]!;
        if (i === j) return (byLog(a.what) ? a.standardError / a.nominal : a.standardError) ** 2;
        // what makes one colour of a lamp wrong makes all of them wrong, and all lamps of its kind
        return a.what === 'gain' && b.what === 'gain' && kindOf.get(a.groupId) === kindOf.get(b.groupId)
          ? kind ** 2
          : 0;
      }),
    ),
    box: { lengthCm: tank.lengthCm, widthCm: tank.widthCm, depthCm: tank.depthCm },
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
  byPane: number;
  byFloor: number;
  /** what of it each hung lamp of its group gives, by `lampKey`; in one order for all channels */
  lamps: readonly { key: string; par: number; byHeight: number; byLean: Lean<number> }[];
  /** where it falls; null where nothing is known of places */
  at: SpotPlace | null;
}

/** A channel of a group, wherever light is told apart by it; ids may hold any characters. */
export const channelKey = (groupId: string, channelId: string): string =>
  `${groupId.length} ${groupId} ${channelId}`;

const groupOfKey = (key: string): string => {
  const from = key.indexOf(' ') + 1;
  return key.slice(from, from + Number.parseInt(key, 10));
};

/** Light that no channel is known to have given, of a coral's past before this tank: how far off it may be. Mark: rule of thumb. */
const START_DOUBT = 0.25;

/** What a channel gives of a light. */
export interface ChannelPart {
  groupId: string;
  channelId: string;
  light: number;
}

/**
 * Half width of the 90 % band of a light over one that was grown used to, as a share. What both share, a lamp brighter than its model,
 * falls out; what differs, other colours or other lamps, stays. The water and beams are the same for both.
 * @param parts the light; @param made what each channel gave of the other, and @param total of all of it
 * @param counts shares with which either counts in the ratio: less than 1 where it is near darkness
 */
export function ratioBandShare(
  cal: Calibration,
  parts: readonly ChannelPart[],
  made: Readonly<Record<string, number>>,
  total: number,
  [above, below]: readonly [number, number] = [1, 1],
): number {
  const sum = parts.reduce((s, p) => s + p.light, 0);
  if (!(sum > 0) || !(total > 0) || !Number.isFinite(total)) return 0;
  const apart = new Map<string, number>();
  const count = (key: string, share: number) => apart.set(key, (apart.get(key) ?? 0) + share);
  for (const p of parts) count(channelKey(p.groupId, p.channelId), (above * p.light) / sum);
  for (const [key, v] of Object.entries(made)) count(key, (-below * v) / total);
  const slopes = cal.parameters.map((p) => {
    const key = channelKey(p.groupId, p.channelId);
    const share = p.what === 'gain' ? (apart.get(key) ?? 0) : 0;
    if (p.what === 'gain') apart.delete(key);
    return share;
  });
  // lamps that no parameter speaks of: each group as doubtful as before any reading
  const strangers = new Map<string, number>();
  for (const [key, share] of apart) {
    const group = groupOfKey(key);
    strangers.set(group, (strangers.get(group) ?? 0) + share);
  }
  const start = 1 - Object.values(made).reduce((s, v) => s + v, 0) / total;
  const variance =
    Math.max(0, dot(slopes, times(cal.covariance, slopes))) +
    [...strangers.values()].reduce((s, v) => s + (PRIOR_SHARE * v) ** 2, 0) +
    (START_DOUBT * below * Math.max(0, start)) ** 2;
  return NINETY * Math.sqrt(variance);
}

const lampSlope = (what: Parameter['what'], l: Part['lamps'][number]): number =>
  what === 'lamp'
    ? l.par
    : what === 'height'
      ? l.byHeight
      : what === 'leanRight'
        ? l.byLean.right
        : l.byLean.back;

/** How each part moves with every parameter: with its logarithm, per cm, per m⁻¹. */
function slopesByPart(cal: Calibration, parts: readonly Part[]): number[][] {
  const place = parts[0]?.at ?? null;
  const near = place && fieldWeights(cal.box, place);
  const { lamps } = spokenOf(cal);
  // a group's parts name its lamps in one order
  const orders = new Map<string, Map<string, number>>();
  return parts.map((part) => {
    let order = orders.get(part.groupId);
    if (!order) orders.set(part.groupId, (order = new Map(part.lamps.map((l, i) => [l.key, i]))));
    let node = -1;
    return cal.parameters.map((p, i) => {
      if (p.what === 'field') return near ? part.par * near.weights[(node += 1)]! : 0;
      if (p.what === 'yellow') return part.byYellow;
      if (p.what === 'panes') return part.byPane;
      if (p.what === 'floor') return part.byFloor;
      if (p.groupId !== part.groupId) return 0;
      if (p.what === 'beam') return part.byBeam;
      if (p.what === 'gain') return part.channelId === p.channelId ? part.par : 0;
      const at = order.get(lamps[i]!);
      return at === undefined ? 0 : lampSlope(p.what, part.lamps[at]!);
    });
  });
}

/** The same of their sum. */
export function slopesOf(cal: Calibration, parts: readonly Part[]): number[] {
  const each = slopesByPart(cal, parts);
  return cal.parameters.map((_, i) => each.reduce((sum, slopes) => sum + slopes[i]!, 0));
}

/**
 * Covariance of sums of parts, each as a share of itself; 0 for no light. Light of lamps that no parameter speaks of is as doubtful as
 * before any reading, everywhere alike.
 */
export function shareCovariance(cal: Calibration, sums: readonly (readonly Part[])[]): number[][] {
  const { channels } = spokenOf(cal);
  const shares = sums.map((parts) => {
    const sum = parts.reduce((s, p) => s + p.par, 0);
    const of = (v: number) => (sum > 0 ? v / sum : 0);
    const slopes = slopesOf(cal, parts).map(of);
    const stranger = parts.reduce(
      (s, p) => (channels.has(channelKey(p.groupId, p.channelId)) ? s : s + p.par),
      0,
    );
    const at = parts[0]?.at ?? null;
    return {
      slopes,
      through: times(cal.covariance, slopes),
      stranger: of(stranger),
      // what the nodes of the field cannot follow, and what they found that the light does not follow
      apart: sum > 0 && at ? unfollowed(cal, at) : 0,
      at,
    };
  });
  return shares.map((a, i) =>
    shares.map(
      (b, j) =>
        dot(a.slopes, b.through) +
        PRIOR_SHARE ** 2 * a.stranger * b.stranger +
        (i === j || (a.at !== null && a.at === b.at) ? Math.min(a.apart, b.apart) : 0),
    ),
  );
}

const spoken = new WeakMap<Calibration, { channels: Set<string>; lamps: string[] }>();
/** Channels that a calibration has a parameter of, and of each of its parameters the lamp it is of. */
function spokenOf(cal: Calibration): { channels: Set<string>; lamps: string[] } {
  let known = spoken.get(cal);
  if (!known) {
    const gains = cal.parameters.filter((p) => p.what === 'gain');
    const channels = new Set(gains.map((p) => channelKey(p.groupId, p.channelId)));
    spoken.set(cal, (known = { channels, lamps: cal.parameters.map((p) => lampKey(p.groupId, p.lampId)) }));
  }
  return known;
}

/** Variance at a place beside that of the parameters: the field there that light is not bent by, and what its nodes leave out. */
function unfollowed(cal: Calibration, at: SpotPlace): number {
  const { weights, left } = fieldWeights(cal.box, at);
  let node = -1;
  const mean = cal.parameters.reduce(
    (s, p) => (p.what === 'field' ? s + weights[(node += 1)]! * p.value : s),
    0,
  );
  return left * FIELD_SHARE ** 2 + mean ** 2;
}

/** Half width of the 90 % band of a sum of parts, as a share of it; 0 for no light. */
export const bandShare = (cal: Calibration, parts: readonly Part[]): number =>
  bandOf(
    cal,
    doubtOf(cal, parts),
    parts.map(() => 1),
  );

/** What a band at a place is made of, by part at full: it grows with their levels. */
export interface Doubt {
  par: number[];
  slopes: number[][];
  /** no parameter speaks of it */
  strange: boolean[];
  /** variance at the place beside that of the parameters */
  apart: number;
}

export function doubtOf(cal: Calibration, parts: readonly Part[]): Doubt {
  const { channels } = spokenOf(cal);
  const at = parts[0]?.at ?? null;
  return {
    par: parts.map((p) => p.par),
    slopes: slopesByPart(cal, parts),
    strange: parts.map((p) => !channels.has(channelKey(p.groupId, p.channelId))),
    apart: at ? unfollowed(cal, at) : 0,
  };
}

/** Half width of the 90 % band of parts at these levels, as a share of their sum; 0 for no light. */
export function bandOf(cal: Calibration, { par, slopes, strange, apart }: Doubt, levels: readonly number[]) {
  let sum = 0;
  let stranger = 0;
  const all = cal.parameters.map(() => 0);
  levels.forEach((level, k) => {
    if (level === 0) return;
    sum += level * par[k]!;
    if (strange[k]) stranger += level * par[k]!;
    const own = slopes[k]!;
    for (let i = 0; i < all.length; i += 1) all[i]! += level * own[i]!;
  });
  if (!(sum > 0)) return 0;
  const variance = Math.max(0, dot(all, times(cal.covariance, all))) + (PRIOR_SHARE * stranger) ** 2;
  return NINETY * Math.sqrt(variance / sum ** 2 + apart);
}

/** Content key: the same key means the same light and the same bands. */
export const calibrationKey = (cal: Calibration): string =>
  cal.readings === 0
    ? ''
    : JSON.stringify([
        cal.yellow440PerM,
        cal.beams,
        cal.lamps,
        cal.panes,
        cal.floor,
        cal.gains,
        cal.covariance[0],
      ]);

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
