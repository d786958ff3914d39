import { channelLevels, dims, followsStrength, hasCap, typedControls, typedPart } from '../spectrum/controls';
import type { Levels, LampKind } from '../spectrum/lampKind';
import { driveOf, throughDrive } from '../spectrum/drive';
import { capped, type Day, type Knot, levelsAt, overall, typedAt } from './day';

/** A thread with its mix already looked up: values of the lamp's controls. */
export interface ResolvedThread {
  minute: number;
  strengthShare: number;
  mix: Levels;
}

/** Knots of a day from threads, in order of time; `levels` says what a thread's mix and strength make of the channels. */
export const threadKnots = (
  threads: readonly ResolvedThread[],
  levels: (thread: ResolvedThread) => number[],
): Knot[] =>
  threads.map((t) => ({ minute: t.minute, levels: levels(t) })).sort((a, b) => a.minute - b.minute);

/** Channel levels of a thread as its lamp has them: what is typed into the controls, in whole steps, taken to channels. */
export const lampLevels = (kind: LampKind, mix: Levels, strengthShare: number): number[] =>
  channelLevels(kind, typedControls(kind, mix, strengthShare));

/** A day of a lamp from its threads. */
export function lampDay(
  kind: LampKind,
  threads: readonly ResolvedThread[],
  shares: { capShare: number; easingShare: number },
): Day {
  const drive = driveOf(kind);
  // whole steps are those of what is typed: with the day's strength in it where the lamp has no cap
  const part = typedPart(kind, shares.capShare);
  const levels = (t: ResolvedThread) => {
    const typed = lampLevels(kind, t.mix, t.strengthShare * part);
    return part > 0 && part < 1 ? typed.map((x) => x / part) : typed;
  };
  return {
    knots: threadKnots(threads, levels),
    capShare: dims(kind) ? shares.capShare : 1,
    easingShare: shares.easingShare,
    interpolation: kind.controller.interpolation,
    capMeans: kind.controller.capMeans === 'rescales' ? 'rescales' : 'multiplies',
    ...(drive ? { drive } : {}),
  };
}

/** A factor of the chain and what is left after it. */
export interface ChainFactor {
  name: string;
  factor: number;
  /** level after this factor, 0..1 */
  after: number;
}

/** Name of the step in a chain at which something besides threads sets the level. */
export const ACTED = 'moon, clouds or interlude';

/** Typed levels of the threads alone at a minute. */
const plainAt = (threads: readonly ResolvedThread[], kind: LampKind, minute: number): number[] =>
  typedAt(lampDay(kind, threads, { capShare: 1, easingShare: 1 }), minute);

/**
 * The chain of one channel at a minute: between threads the typed level runs between its neighbours; at a thread it is
 * mix share × strength in whole steps. Then cap, easing, lowest lit level, power budget, dimming curve: light.
 */
export function chainAt(
  threads: readonly ResolvedThread[],
  day: Day,
  kind: LampKind,
  channelId: string,
  minute: number,
): ChainFactor[] {
  const c = kind.channels.findIndex((x) => x.id === channelId);
  const thread = threads.find((t) => t.minute === minute);
  const typed = typedAt(day, minute)[c] ?? 0;
  const chain: ChainFactor[] = [];
  const push = (name: string, factor: number, after: number) => chain.push({ name, factor, after });
  if (thread) {
    const own = kind.controls.filter((x) => x.kind === 'level' && (x.drives[channelId] ?? 0) > 0);
    const single = own.length === 1 ? own[0]! : null;
    const mix = single ? (thread.mix[single.id] ?? 0) : (channelLevels(kind, thread.mix)[c] ?? 0);
    push('mix', mix, mix);
    push('strength of the thread', thread.strengthShare, mix * thread.strengthShare);
    if (typedPart(kind, 0) > 0)
      push(
        'typed into the lamp',
        1,
        single ? (typedControls(kind, thread.mix, thread.strengthShare)[single.id] ?? 0) : typed,
      );
    const share = single && single.kind === 'level' ? single.drives[channelId]! : 1;
    if (single && share !== 1) push('its part of the control', share, typed);
  } else {
    const plain = plainAt(threads, kind, minute)[c] ?? 0;
    push(day.interpolation === 'ramp' ? 'between its threads' : 'held from its thread', plain, plain);
  }
  // moon, clouds and interludes take the place of what the threads say
  const said = chain[chain.length - 1]!.after;
  if (Math.abs(said - typed) > 1e-9) push(ACTED, said > 0 ? typed / said : 1, typed);
  const factor = overall(day);
  if (day.capMeans === 'rescales')
    push(
      'cap, rescaled',
      day.easingShare > 0 ? factor / day.easingShare : 0,
      day.easingShare > 0 ? (typed * factor) / day.easingShare : 0,
    );
  else push(hasCap(kind) || !dims(kind) ? 'cap' : 'strength of the day', day.capShare, typed * day.capShare);
  push('easing', day.easingShare, typed * factor);
  const { drive } = day;
  if (!drive) return chain;
  const levels = capped(day, typedAt(day, minute));
  const { lit, budgetShare, light } = throughDrive(drive, levels);
  let after = lit[c]!;
  if (drive.dimming[c]!.lowestLitShare > 0)
    push('lowest lit level', after > 0 || levels[c] === 0 ? 1 : 0, after);
  if (drive.budgetWatts !== null) {
    after *= budgetShare;
    push('power budget', budgetShare, after);
  }
  if (drive.dimming[c]!.curve.length > 0) push('dimming curve', after > 0 ? light[c]! / after : 1, light[c]!);
  return chain;
}

/**
 * What is lit at a minute as a thread of its own: strength interpolated, mix = value / strength, so that adding it changes
 * nothing but rounding. Tint and trims are interpolated, circuits keep what the thread before says. A dark moment keeps the
 * mix of the nearest thread.
 */
export function threadBetween(
  threads: readonly ResolvedThread[],
  minute: number,
  kind: LampKind,
): { strengthShare: number; mix: Levels } {
  if (threads.length === 0) return { strengthShare: 0, mix: {} };
  const { controls, controller } = kind;
  const sorted = [...threads].sort((a, b) => a.minute - b.minute);
  const knots = sorted.map((t) => ({
    minute: t.minute,
    levels: [
      t.strengthShare,
      ...controls.map((c) => (t.mix[c.id] ?? 0) * (followsStrength(c) ? t.strengthShare : 1)),
    ],
  }));
  const before = [...sorted].reverse().find((t) => t.minute <= minute) ?? sorted[sorted.length - 1]!;
  const [strengthShare = 0, ...values] = levelsAt(
    { knots, capShare: 1, easingShare: 1, interpolation: controller.interpolation },
    minute,
  );
  if (strengthShare <= 0) {
    const nearest = [...sorted].sort((a, b) => Math.abs(a.minute - minute) - Math.abs(b.minute - minute))[0]!;
    return { strengthShare: 0, mix: nearest.mix };
  }
  return {
    strengthShare,
    mix: Object.fromEntries(
      controls.map((c, i) => {
        if (c.kind === 'onOff') return [c.id, before.mix[c.id] ?? 0];
        return [c.id, Math.min(1, followsStrength(c) ? values[i]! / strengthShare : values[i]!)];
      }),
    ),
  };
}
