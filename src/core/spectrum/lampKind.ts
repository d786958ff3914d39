import { FIRST_NM, LAST_NM } from './grid';
import * as v from 'valibot';

import { between, id, list, name, share, shares, text, truth, whole } from '../shape/shape';

/** Values by id of a channel or control, 0..1. */
export type Levels = Readonly<Record<string, number>>;

/** Points of a printed or measured spectrum, in any order: [nm, value]. */
export const spectrumPoints = v.pipe(
  v.array(v.tuple([between(200, 1200, ' nm'), between(0, 1e9)]), 'give a list'),
  v.minLength(2, 'at least 2 points needed'),
  v.maxLength(2000, 'at most 2000 points allowed'),
);
export const spectrumQuantity = v.picklist(['energy', 'photon'], 'is "energy" or "photon"');

const groupShape = v.variant(
  'shape',
  [
    v.object({
      shape: v.literal('line'),
      peakNm: between(FIRST_NM, LAST_NM, ' nm'),
      fwhmNm: between(1, 300, ' nm'),
    }),
    v.object({
      shape: v.literal('table'),
      points: spectrumPoints,
      quantity: spectrumQuantity,
      efficacyUmolPerJ: between(0, 10),
      /** set when the table was solved for a phosphor white of this colour temperature */
      whiteCctK: v.optional(between(1000, 25_000, ' K')),
    }),
  ],
  'shape is "line" or "table"',
);
/** What the emitters of one group send out; the flux comes from count × watts. */
export type GroupShape = v.InferOutput<typeof groupShape>;

const emitterGroup = v.object({
  light: groupShape,
  count: whole(1, 500),
  /** electrical watts per emitter at full drive */
  wattsEach: between(0.01, 1000, ' W'),
  /** photons 360-780 nm that leave the lamp per emitter, µmol s⁻¹, where the maker states them; else they follow from the watts */
  fluxEachUmolPerS: v.optional(between(0, 10_000, ' µmol/s')),
  /** full beam angle of its own lens, where that differs from the lamp's */
  beamAngleDeg: v.optional(between(5, 175, '°')),
});
export type EmitterGroup = v.InferOutput<typeof emitterGroup>;

const dimming = v.object({
  /** below this drive level the channel stays dark */
  lowestLitShare: between(0, 0.9),
  /** measured points [drive level, light], rising, between 0,0 and 1,1; none = light is proportional to the drive */
  curve: v.pipe(
    v.array(v.tuple([share, share]), 'give a list'),
    v.maxLength(50, 'at most 50 points allowed'),
    v.check(
      (all) => all.every(([x, y], i) => x > (all[i - 1]?.[0] ?? 0) && x < 1 && y >= (all[i - 1]?.[1] ?? 0)),
      'rises from point to point, levels above 0 and below 1',
    ),
  ),
});
/** How a channel's light follows its drive. */
export type Dimming = v.InferOutput<typeof dimming>;
export const LINEAR: Dimming = { lowestLitShare: 0, curve: [] };

const channel = v.object({ id, name, groups: list(emitterGroup, 1), dimming });
/** What one drive signal lights. */
export type Channel = v.InferOutput<typeof channel>;

const controller = v.object({
  /** what kind of controller it is, in words */
  name,
  /** `levels` are set point by point; `switch`: circuits are only on or off */
  sets: v.picklist(['levels', 'switch'], 'is "levels" or "switch"'),
  /** most points a day it takes (for a switch: most times on and off of a circuit); null = any number */
  maxPoints: v.nullable(whole(1, 1000)),
  /** points stand at multiples of this many minutes after midnight */
  everyMin: whole(1, 240, ' min', 'give whole minutes'),
  /** step of the typed percents as a share: 0.01 = whole percents; 0 = any value */
  pointStepShare: between(0, 0.5),
  /** lowest share that can be typed apart from 0 */
  lowestShare: between(0, 0.9),
  /** how the lamp goes from one point to the next */
  interpolation: v.picklist(['ramp', 'hold'], 'is "ramp" or "hold"'),
  /**
   * a cap multiplies every level, or rescales the day so that its largest channel level equals the cap; a lamp that has none gets
   * the strength of the whole day in every typed value
   */
  capMeans: v.picklist(['multiplies', 'rescales', 'none'], 'is "multiplies", "rescales" or "none"'),
  /** what a percent of built-in easing is a percent of */
  easingOf: v.picklist(['lamp', 'cap', 'target'], 'is "lamp", "cap" or "target"'),
  /** it eases from a percent to another over days by itself */
  easesItself: truth,
  /** its clock goes with the wall when clocks change; else it keeps the time it was set in */
  followsClockChange: truth,
  /** cap and easing hold while an interlude runs */
  interludeUnderCap: truth,
  /** how its page is laid out: a row per time, or a row per colour */
  rows: v.picklist(['times', 'colours'], 'is "times" or "colours"'),
});
/** What the lamp's controller accepts. */
export type ControllerProfile = v.InferOutput<typeof controller>;

/** What most controllers are: any number of points, whole percents, even runs between them. */
export const PLAIN_CONTROLLER: ControllerProfile = {
  name: 'Points with ramps',
  sets: 'levels',
  maxPoints: null,
  everyMin: 1,
  pointStepShare: 0.01,
  lowestShare: 0,
  interpolation: 'ramp',
  capMeans: 'multiplies',
  easingOf: 'target',
  easesItself: false,
  followsClockChange: true,
  interludeUnderCap: true,
  rows: 'colours',
};

const control = v.variant(
  'kind',
  [
    v.object({ kind: v.picklist(['level', 'onOff']), id, name, drives: shares }),
    v.object({ kind: v.literal('brightness'), id, name }),
    v.object({
      kind: v.literal('tint'),
      id,
      name,
      /** what the two ends look like, for reading aloud */
      fromName: name,
      toName: name,
      /** channel shares at positions of the control, in rising order from 0 to 1; linear between them */
      stops: list(v.object({ at: share, shares }), 2),
    }),
    v.object({
      kind: v.literal('trim'),
      id,
      name,
      channelIds: list(id, 1),
      fromFactor: between(0, 10),
      toFactor: between(0, 10),
    }),
  ],
  'kind is "level", "onOff", "brightness", "tint" or "trim"',
);
/**
 * What the keeper can set on a lamp. Usually a `level` per channel; a level with several entries in `drives` ties channels
 * at these ratios, be it two colours on one key or a whole locked balance. `onOff` is a control with two values. `tint` and
 * `brightness` come as a pair: tint chooses a ratio between stops, brightness scales it. `trim` multiplies channels that
 * something else drives, between two factors.
 */
export type Control = v.InferOutput<typeof control>;

const rising = (all: number[]) => all.every((x, i) => i === 0 || x > all[i - 1]!);
const angles = (high: number) =>
  v.pipe(
    v.array(between(0, high, '°'), 'give a list'),
    v.minLength(1, 'at least 1 needed'),
    v.maxLength(400, 'at most 400 allowed'),
    v.check(rising, 'rises from angle to angle'),
  );
const photometry = v.pipe(
  v.object({
    name: text,
    verticalDeg: angles(180),
    horizontalDeg: angles(360),
    /** [horizontal][vertical], any unit */
    intensity: v.pipe(
      v.array(
        v.pipe(v.array(between(0, 1e12), 'give a list'), v.maxLength(400, 'at most 400 allowed')),
        'give a list',
      ),
      v.maxLength(400, 'at most 400 allowed'),
    ),
  }),
  v.check(
    (p) =>
      p.intensity.length === p.horizontalDeg.length &&
      p.intensity.every((row) => row.length === p.verticalDeg.length),
    'needs one row of intensities per horizontal angle, one value per vertical angle',
  ),
);
/**
 * How a lamp's optic throws light, relative: intensity over angles from its axis, from an LM-63 file (type C).
 * Rows follow `horizontalDeg` (0 = along the lamp's length), columns `verticalDeg` (0 = along the axis).
 */
export type Photometry = v.InferOutput<typeof photometry>;

const lampShape = v.object({
  id,
  name,
  source: v.picklist(['led', 'tube', 'halide'], 'is "led", "tube" or "halide"'),
  channels: v.pipe(
    list(channel, 1),
    v.maxLength(24, 'at most 24 channels'),
    v.check((all) => new Set(all.map((c) => c.id)).size === all.length, 'two channels share an id'),
  ),
  controls: v.pipe(list(control, 1), v.maxLength(24, 'at most 24 controls')),
  /** where emitters sit: spread over the face, gathered in one cluster in its middle, or lines along its length (tubes, bars) */
  layout: v.picklist(['spread', 'cluster', 'line'], 'is "spread", "cluster" or "line"'),
  /** wall watts that the lamp shares between its channels; null = every channel can be full at once */
  powerBudgetWatts: v.nullable(between(1, 5000, ' W')),
  /** what one lamp costs, in the keeper's own money; null = not given. Library prices are made up for comparison */
  price: v.nullable(between(0, 1e6)),
  /** full beam angle at half intensity, degrees */
  beamAngleDeg: between(5, 175, '°'),
  /** how its optic really throws light, in place of the beam angle; absent = the beam angle */
  optic: v.optional(v.nullable(photometry)),
  /** share of its light that a diffuser makes matt; absent = none */
  diffuserShare: v.optional(share),
  faceLengthCm: between(0, 300, ' cm'),
  faceWidthCm: between(0, 300, ' cm'),
  controller,
});
/** The lamp as physics. */
export type LampKind = v.InferOutput<typeof lampShape>;

export const lampKindSchema = v.pipe(
  lampShape,
  v.rawCheck(({ dataset, addIssue }) => {
    const problem = dataset.typed ? controlsProblem(dataset.value) : null;
    if (problem) addIssue({ message: problem });
  }),
);

/** Channels that a control alone decides the light of. */
export const drivenChannels = (c: Control): string[] => {
  if (c.kind === 'trim') return c.channelIds;
  if (c.kind === 'tint') return [...new Set(c.stops.flatMap((s) => Object.keys(s.shares)))];
  return c.kind === 'brightness' ? [] : Object.keys(c.drives);
};

/** What is wrong with the controls of a lamp, or null: every channel driven, ids once, tint and brightness as a pair. */
export function controlsProblem(kind: Pick<LampKind, 'channels' | 'controls'>): string | null {
  const { controls, channels } = kind;
  if (new Set(controls.map((c) => c.id)).size !== controls.length) return 'two controls share an id';
  const known = new Set(channels.map((c) => c.id));
  const stray = controls.flatMap(drivenChannels).find((channelId) => !known.has(channelId));
  if (stray !== undefined) return `a control drives "${stray}", which is no channel of this lamp`;
  const count = (what: Control['kind']) => controls.filter((c) => c.kind === what).length;
  if (count('tint') > 1 || count('tint') !== count('brightness'))
    return 'tint and brightness come as one pair';
  const driven = new Set(controls.filter((c) => c.kind !== 'trim').flatMap(drivenChannels));
  const dark = channels.find((c) => !driven.has(c.id));
  if (dark) return `nothing drives the channel ${dark.name}`;
  for (const c of controls) {
    if (c.kind !== 'tint') continue;
    const at = c.stops.map((s) => s.at);
    if (at.length < 2 || at[0] !== 0 || at[at.length - 1] !== 1 || !rising(at))
      return 'the stops of a tint rise from 0 to 1';
  }
  return null;
}
