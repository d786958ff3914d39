import type { LampKind } from './lampKind';

/** A lamp with one lens over all its emitters, full beam angle in degrees, in place of what throws its light now. */
export const withLens = ({ optic: _, ...kind }: LampKind, beamAngleDeg: number): LampKind => ({
  ...kind,
  beamAngleDeg,
  channels: kind.channels.map((c) => ({
    ...c,
    groups: c.groups.map(({ beamAngleDeg: __, ...g }) => g),
  })),
});
