import { type Alga, feedingShare } from '../feeding/algae';
import type { RigSpot } from '../optics/response';
import type { Tank } from '../optics/tank';
import { par } from '../spectrum/bands';
import { channelLevels } from '../spectrum/controls';
import { addScaled, zeroSpectrum } from '../spectrum/grid';
import { keptSpectrum } from '../spectrum/lamp';
import type { LampKind, Levels } from '../spectrum/lampKind';
import { wallWatts } from '../spectrum/watts';

export type Role = 'helper' | 'main';
export const ROLES: Readonly<Record<Role, string>> = { helper: 'helper', main: 'main filter' };
/** Where in the range an alga wants a role's mean light lies. Mark: rule of thumb. */
const AIM: Readonly<Record<Role, number>> = { helper: 0.2, main: 0.6 };
/** What a role wants over the mat, µmol. */
export const aimUmol = (a: Alga, role: Role): number => a.fromUmol + AIM[role] * (a.toUmol - a.fromUmol);

/** Where a mat lies, its top at a depth. */
export interface MatPlace {
  xCm: number;
  yCm: number;
  depthCm: number;
  lengthCm: number;
  widthCm: number;
}

/** Both odd, so that the place in the middle of the list is the middle of the mat. */
const COLUMNS = 5;
const ROWS = 5;
/** Places over a mat at which its light is read: the middles of 5 × 5 parts, inside the water. */
export function matPlaces(mat: MatPlace, tank: Pick<Tank, 'lengthCm' | 'widthCm'>): RigSpot[] {
  return Array.from({ length: COLUMNS * ROWS }, (_, i): RigSpot => ({
    xCm: Math.min(
      tank.lengthCm,
      Math.max(0, mat.xCm + (((i % COLUMNS) + 0.5) / COLUMNS - 0.5) * mat.lengthCm),
    ),
    yCm: Math.min(
      tank.widthCm,
      Math.max(0, mat.yCm + ((Math.floor(i / COLUMNS) + 0.5) / ROWS - 0.5) * mat.widthCm),
    ),
    depthCm: mat.depthCm,
    openShare: 1,
  }));
}

/** Photons that feed an alga per joule from the wall, µmol J⁻¹: for comparing lamps by growth per watt. */
export function feedingPerJoule(kind: LampKind, mix: Levels, a: Alga): number {
  const light = zeroSpectrum();
  const levels = channelLevels(kind, mix);
  levels.forEach((l, c) => addScaled(light, keptSpectrum(kind.channels[c]!), l));
  const watts = wallWatts(kind, Object.fromEntries(kind.channels.map((c, i) => [c.id, levels[i]!])));
  return watts > 0 ? (par(light) * (feedingShare(light, a) ?? 0)) / watts : 0;
}
