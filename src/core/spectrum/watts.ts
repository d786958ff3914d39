import type { Channel, LampKind } from './lampKind';

/** Emitter watts over wall watts. Mark: rule of thumb. */
export const DRIVER_EFFICIENCY = 0.88;

/** Electrical watts at the emitters of a channel at full drive. */
const channelEmitterWatts = (channel: Channel): number =>
  channel.groups.reduce((sum, g) => sum + g.count * g.wattsEach, 0);

/** Watts drawn from the wall by one lamp at these channel levels (rule of thumb for the driver). */
export function wallWatts(kind: LampKind, levels: Readonly<Record<string, number>>): number {
  return (
    kind.channels.reduce((sum, c) => sum + channelEmitterWatts(c) * (levels[c.id] ?? 0), 0) /
    DRIVER_EFFICIENCY
  );
}

/** Wall watts of each channel at full, in order. */
export const channelWallWatts = (kind: LampKind): number[] =>
  kind.channels.map((c) => channelEmitterWatts(c) / DRIVER_EFFICIENCY);

/** The same with every channel at full. */
export const fullWallWatts = (kind: LampKind): number =>
  Math.min(
    channelWallWatts(kind).reduce((a, b) => a + b, 0),
    kind.powerBudgetWatts ?? Infinity,
  );
