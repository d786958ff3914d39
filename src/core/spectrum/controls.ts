import type { LampKind } from './lamp';

/** Values by id of a channel or control, 0..1. */
export type Levels = Readonly<Record<string, number>>;

/**
 * What the keeper can set on a lamp. Usually a `level` per channel; a level with several entries in `drives` ties channels
 * at these ratios, be it two colours on one key or a whole locked balance. `onOff` is a control with two values. `tint` and
 * `brightness` come as a pair: tint chooses a ratio between stops, brightness scales it. `trim` multiplies channels that
 * something else drives, between two factors.
 */
export type Control =
  | { kind: 'level' | 'onOff'; id: string; name: string; drives: Levels }
  | { kind: 'brightness'; id: string; name: string }
  | {
      kind: 'tint';
      id: string;
      name: string;
      /** what the two ends look like, for reading aloud */
      fromName: string;
      toName: string;
      /** channel shares at positions of the control, in rising order from 0 to 1; linear between them */
      stops: { at: number; shares: Levels }[];
    }
  | { kind: 'trim'; id: string; name: string; channelIds: string[]; fromFactor: number; toFactor: number };

/** Controls whose value goes down with the strength of a thread; tint and trims stay as they are. */
export const followsStrength = (control: Control): boolean =>
  control.kind === 'level' || control.kind === 'brightness' || control.kind === 'onOff';

/** Whether any control dims: a lamp of circuits alone is on or off, and a cap does nothing to it. */
export const dims = (kind: Pick<LampKind, 'controls'>): boolean =>
  kind.controls.some((c) => c.kind === 'level' || c.kind === 'brightness');

/** One level per channel: what most lamps have. */
export const controlPerChannel = (channels: readonly { id: string; name: string }[]): Control[] =>
  channels.map((c) => ({ kind: 'level', id: c.id, name: c.name, drives: { [c.id]: 1 } }));

function tintShares(control: Extract<Control, { kind: 'tint' }>, at: number): Levels {
  const { stops } = control;
  const next = stops.findIndex((s) => s.at >= at);
  if (next < 0) return stops[stops.length - 1]!.shares;
  if (next === 0) return stops[0]!.shares;
  const [a, b] = [stops[next - 1]!, stops[next]!];
  const w = (at - a.at) / (b.at - a.at);
  const ids = new Set([...Object.keys(a.shares), ...Object.keys(b.shares)]);
  return Object.fromEntries([...ids].map((id) => [id, mixOf(a.shares[id] ?? 0, b.shares[id] ?? 0, w)]));
}
const mixOf = (a: number, b: number, w: number) => a + (b - a) * w;

/** Drive level of each channel, 0..1, in the order of the lamp's channels, for values of its controls; absent controls are 0. */
export function channelLevels(kind: Pick<LampKind, 'channels' | 'controls'>, values: Levels): number[] {
  const out = kind.channels.map(() => 0);
  const at = new Map(kind.channels.map((c, i) => [c.id, i]));
  const add = (shares: Levels, factor: number) => {
    for (const [id, share] of Object.entries(shares)) {
      const i = at.get(id);
      if (i !== undefined) out[i]! += share * factor;
    }
  };
  const brightness = kind.controls.find((c) => c.kind === 'brightness');
  for (const c of kind.controls) {
    const value = values[c.id] ?? 0;
    if (c.kind === 'level') add(c.drives, value);
    else if (c.kind === 'onOff') add(c.drives, value > 0 ? 1 : 0);
    else if (c.kind === 'tint') add(tintShares(c, value), brightness ? (values[brightness.id] ?? 0) : 1);
  }
  for (const c of kind.controls) {
    if (c.kind !== 'trim') continue;
    const factor = mixOf(c.fromFactor, c.toFactor, values[c.id] ?? 0);
    for (const id of c.channelIds) {
      const i = at.get(id);
      if (i !== undefined) out[i]! *= factor;
    }
  }
  return out.map((v) => Math.min(1, Math.max(0, v)));
}

/** Rounds a share to a multiple of the controller's step; 0 = no step. Half steps go up. */
export function toStep(share: number, stepShare: number): number {
  return stepShare > 0 ? Math.min(1, Math.round(share / stepShare + 1e-9) * stepShare) : share;
}

/** What is typed into the lamp for each control at a strength: mix × strength in whole steps. On/off is on where that is above 0. */
export function typedControls(kind: LampKind, mix: Levels, strengthShare: number): Levels {
  const step = kind.controller.pointStepShare;
  return Object.fromEntries(
    kind.controls.map((c) => {
      const value = mix[c.id] ?? 0;
      if (c.kind === 'onOff') return [c.id, value * strengthShare > 0 ? 1 : 0];
      return [c.id, toStep(followsStrength(c) ? value * strengthShare : value, step)];
    }),
  );
}

/** Every control at its fullest: levels, brightness and circuits at 1, tint in the middle, trims at their highest. */
export const allFull = (kind: LampKind): Levels =>
  Object.fromEntries(kind.controls.map((c) => [c.id, c.kind === 'tint' ? 0.5 : 1]));

/** Channels that a control alone decides the light of. */
export const drivenChannels = (control: Control): string[] => {
  if (control.kind === 'trim') return control.channelIds;
  if (control.kind === 'tint') return [...new Set(control.stops.flatMap((s) => Object.keys(s.shares)))];
  return control.kind === 'brightness' ? [] : Object.keys(control.drives);
};

/** What is wrong with the controls of a lamp, or null: every channel driven, ids once, tint and brightness as a pair. */
export function controlsProblem(kind: Pick<LampKind, 'channels' | 'controls'>): string | null {
  const { controls, channels } = kind;
  if (new Set(controls.map((c) => c.id)).size !== controls.length) return 'two controls share an id';
  const known = new Set(channels.map((c) => c.id));
  const stray = controls.flatMap(drivenChannels).find((id) => !known.has(id));
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
    if (
      at.length < 2 ||
      at[0] !== 0 ||
      at[at.length - 1] !== 1 ||
      at.some((v, i) => i > 0 && v <= at[i - 1]!)
    )
      return 'the stops of a tint rise from 0 to 1';
  }
  return null;
}
