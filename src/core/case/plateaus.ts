import { greatest } from 'd3-array';

import { dayAt, levelsOfGroups, parUnder, type ZoneLight } from './light';
import { channelIds, type LitGroup } from './lit';
import type { Reading, RigGroup } from '../record/readings';

/** A time of the day at which its light is steady and like no other: readings belong to one of these. */
export interface Plateau {
  minute: number;
  name: string;
}

/** Mixes closer than this angle are one tint, degrees. Mark: rule of thumb. */
const ONE_TINT_DEG = 4;

/** The day's distinct plateaus: per tint the brightest thread, in order of time. */
export function plateaus(groups: readonly LitGroup[]): Plateau[] {
  const threads = groups.flatMap((g) =>
    g.threads.filter((t) => t.strengthShare > 0).map((t) => ({ minute: t.minute, name: t.mixName })),
  );
  const lit = threads
    .map((t) => ({ ...t, levels: levelsOfGroups(groups, t.minute).flat() }))
    .map((t) => ({ ...t, sum: t.levels.reduce((s, v) => s + v, 0) }))
    .filter((t) => t.sum > 0)
    .sort((a, b) => b.sum - a.sum);
  const out: typeof lit = [];
  for (const t of lit) if (out.every((o) => angle(o.levels, t.levels) > ONE_TINT_DEG)) out.push(t);
  return out.sort((a, b) => a.minute - b.minute).map(({ minute, name }) => ({ minute, name }));
}

function angle(a: readonly number[], b: readonly number[]): number {
  const dot = a.reduce((s, v, i) => s + v * b[i]!, 0);
  return (Math.acos(Math.min(1, dot / (Math.hypot(...a) * Math.hypot(...b)))) * 180) / Math.PI;
}

/** The minute at which the zone is brightest: where the sum over its spots peaks, or of the levels where there is none. */
export function brightestMinute(light: ZoneLight | null, groups: readonly LitGroup[]): number {
  const spots = Array.from({ length: light?.spots ?? 0 }, (_, s) => s);
  const candidates =
    spots.length > 0
      ? spots.map((s) => dayAt(light!, groups, s).peakMinute)
      : plateaus(groups).map((p) => p.minute);
  const total = (minute: number) => {
    const levels = levelsOfGroups(groups, minute);
    return spots.length > 0
      ? spots.reduce((sum, s) => sum + parUnder(light!, levels, s), 0)
      : levels.flat().reduce((sum, v) => sum + v, 0);
  };
  return greatest(candidates, (a, b) => total(a) - total(b) || b - a) ?? NOON;
}
const NOON = 720;

/** Levels per group as a reading keeps them: by group and channel. */
export const levelsById = (
  groups: readonly LitGroup[],
  levels: readonly (readonly number[])[],
): Reading['levels'] =>
  Object.fromEntries(
    groups.map((g, i) => [
      g.groupId,
      Object.fromEntries(channelIds(g.lampKind).map((id, c) => [id, levels[i]![c]!])),
    ]),
  );

/** Lamps as they hang, kept by value beside what was read under them. */
export const rigGroups = (groups: readonly LitGroup[]): RigGroup[] =>
  groups.map(({ groupId, name, lampKind, lamps }) => ({ groupId, name, lampKind, lamps }));
