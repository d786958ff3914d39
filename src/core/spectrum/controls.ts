import type { Control, LampKind, Levels } from './lampKind';

/** Controls whose value goes down with the strength of a thread; tint and trims stay as they are. */
export const followsStrength = (control: Control): boolean =>
  control.kind === 'level' || control.kind === 'brightness' || control.kind === 'onOff';

/** Whether any control dims: a lamp of circuits alone is on or off, and a cap does nothing to it. */
export const dims = (kind: Pick<LampKind, 'controls'>): boolean =>
  kind.controls.some((c) => c.kind === 'level' || c.kind === 'brightness');

/** What of the strength of a whole day goes into the typed values: all of it where the lamp has no cap of its own, else nothing. */
export const typedPart = (kind: Pick<LampKind, 'controls' | 'controller'>, capShare: number): number =>
  kind.controller.capMeans === 'none' && dims(kind) ? capShare : 1;

/** Whether a lamp has a cap that is typed in. */
export const hasCap = (kind: Pick<LampKind, 'controls' | 'controller'>): boolean =>
  dims(kind) && kind.controller.capMeans !== 'none';

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

/** What a control does, with channels as places in the lamp's order. */
interface Plan {
  levels: { id: string; onOff: boolean; drives: (readonly [channel: number, share: number])[] }[];
  tint: Extract<Control, { kind: 'tint' }> | undefined;
  brightness: string | undefined;
  trims: { id: string; channels: number[]; from: number; to: number }[];
  at: ReadonlyMap<string, number>;
}
const plans = new WeakMap<readonly Control[], { channels: unknown; plan: Plan }>();

/** The plan of a lamp's controls, kept with them: mixes are taken to channels thousands of times in a design. */
function planOf({ channels, controls }: Pick<LampKind, 'channels' | 'controls'>): Plan {
  const known = plans.get(controls);
  if (known && known.channels === channels) return known.plan;
  const at = new Map(channels.map((c, i) => [c.id, i]));
  const place = (id: string) => at.get(id) ?? -1;
  const plan: Plan = {
    at,
    levels: controls.flatMap((c) =>
      c.kind === 'level' || c.kind === 'onOff'
        ? [
            {
              id: c.id,
              onOff: c.kind === 'onOff',
              drives: Object.entries(c.drives)
                .map(([id, share]) => [place(id), share] as const)
                .filter(([i]) => i >= 0),
            },
          ]
        : [],
    ),
    tint: controls.find((c) => c.kind === 'tint'),
    brightness: controls.find((c) => c.kind === 'brightness')?.id,
    trims: controls.flatMap((c) =>
      c.kind === 'trim'
        ? [
            {
              id: c.id,
              channels: c.channelIds.map(place).filter((i) => i >= 0),
              from: c.fromFactor,
              to: c.toFactor,
            },
          ]
        : [],
    ),
  };
  plans.set(controls, { channels, plan });
  return plan;
}

/** Drive level of each channel, 0..1, in the order of the lamp's channels, for values of its controls; absent controls are 0. */
export function channelLevels(kind: Pick<LampKind, 'channels' | 'controls'>, values: Levels): number[] {
  const plan = planOf(kind);
  const out = new Array<number>(kind.channels.length).fill(0);
  for (const c of plan.levels) {
    const value = values[c.id] ?? 0;
    const level = c.onOff ? (value > 0 ? 1 : 0) : value;
    if (level !== 0) for (const [i, share] of c.drives) out[i]! += share * level;
  }
  if (plan.tint) {
    const brightness = plan.brightness ? (values[plan.brightness] ?? 0) : 1;
    for (const [id, share] of Object.entries(tintShares(plan.tint, values[plan.tint.id] ?? 0))) {
      const i = plan.at.get(id);
      if (i !== undefined) out[i]! += share * brightness;
    }
  }
  for (const t of plan.trims) {
    const factor = mixOf(t.from, t.to, values[t.id] ?? 0);
    for (const i of t.channels) out[i]! *= factor;
  }
  for (let i = 0; i < out.length; i += 1) out[i] = Math.min(1, Math.max(0, out[i]!));
  return out;
}

/** Whether light is proportional to every control: no tint, trims, circuits, budget, curve or lowest level. */
export const isLinear = (kind: LampKind): boolean =>
  kind.powerBudgetWatts === null &&
  kind.controls.every((c) => c.kind === 'level') &&
  kind.channels.every((c) => c.dimming.lowestLitShare === 0 && c.dimming.curve.length === 0);

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
