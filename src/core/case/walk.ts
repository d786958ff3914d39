import { oneLight } from './calibration';
import { levelsOfGroups } from './light';
import { channelIds, type LitGroup } from './lit';
import { levelsById, plateaus } from './plateaus';
import type { CaseDoc } from '../record/caseDoc';
import type { Reading, Session } from '../record/readings';
import type { Zone } from '../record/zone';
import { formatTime } from '../day/clock';
import { groundDepth } from '../optics/tank';
import { channelLevels } from '../spectrum/controls';
import { emittedShares } from '../spectrum/drive';

/** A place that a session walks to. */
export interface Stop {
  spotId: string | null;
  name: string;
  xCm: number;
  yCm: number;
  depthCm: number;
}

/** Where a session goes: the spots, a grid at a depth, or both. */
export interface WalkPlan {
  places: 'spots' | 'grid' | 'both';
  gridColumns: number;
  gridRows: number;
  gridDepthCm: number;
}

/** Places of a session in the order they are walked: spots in the keeper's order, then the grid in a serpentine. */
export function stopsOf(zone: Zone, plan: WalkPlan): Stop[] {
  const spots = zone.spots.map(({ id, name, xCm, yCm, depthCm }): Stop => ({
    spotId: id,
    name,
    xCm,
    yCm,
    depthCm,
  }));
  const grid: Stop[] = [];
  const { gridColumns: columns, gridRows: rows } = plan;
  for (let j = 0; j < rows; j += 1) {
    for (let k = 0; k < columns; k += 1) {
      const i = j % 2 === 0 ? k : columns - 1 - k;
      const xCm = Math.round(((i + 0.5) / columns) * zone.tank.lengthCm);
      const yCm = Math.round(((j + 0.5) / rows) * zone.tank.widthCm);
      const depthCm = Math.round(Math.min(plan.gridDepthCm, groundDepth(zone.tank, xCm, yCm)) * 10) / 10;
      grid.push({ spotId: null, name: `${String.fromCharCode(65 + j)}${i + 1}`, xCm, yCm, depthCm });
    }
  }
  return plan.places === 'spots' ? spots : plan.places === 'grid' ? grid : [...spots, ...grid];
}

/** What can be lit while readings are taken. */
export interface Lighting {
  id: string;
  label: string;
  /** emitted shares by group and channel; what is lit by hand may be lit at a share of its drive */
  levelsAt: (share: number) => Reading['levels'];
  /** whether the keeper says at what percent it was lit */
  scaled: boolean;
  /** where it moves with the day: emitted shares at another minute */
  dayAt?: (minute: number) => Reading['levels'];
}

/** Everything that can be lit: the day's plateaus, now, all at full, a plate by hand (an interlude), each colour alone. */
export function lightings(doc: CaseDoc, groups: readonly LitGroup[], nowMinute: number): Lighting[] {
  const day = (minute: number) => levelsById(groups, levelsOfGroups(groups, minute));
  const dayAt = (minute: number) => {
    const levels = day(minute);
    return () => levels;
  };
  /** drives of one group or of all, scaled and sent through budget and dimming as the lamp does it */
  const driven = (drives: readonly (readonly number[] | null)[]) => (share: number) =>
    levelsById(
      groups,
      groups.map((g, i) =>
        drives[i]
          ? emittedShares(
              g.lampKind,
              drives[i].map((d) => d * share),
            )
          : channelIds(g.lampKind).map(() => 0),
      ),
    );
  const only = (group: number, drive: readonly number[]) =>
    driven(groups.map((_, g) => (g === group ? drive : null)));
  return [
    ...plateaus(groups).map((p): Lighting => ({
      id: `plateau:${p.minute}`,
      label: `${formatTime(p.minute)} ${p.name}`,
      levelsAt: dayAt(p.minute),
      scaled: false,
    })),
    { id: 'now', label: 'The day, this moment', levelsAt: dayAt(nowMinute), scaled: false, dayAt: day },
    {
      id: 'full',
      label: 'Everything at full',
      levelsAt: driven(groups.map((g) => channelIds(g.lampKind).map(() => 1))),
      scaled: true,
    },
    ...groups.flatMap((g, i) =>
      doc.plates
        .filter((p) => p.lampKindId === g.lampKind.id)
        .map((p): Lighting => ({
          id: `plate:${p.id}:${g.groupId}`,
          label: `${p.name}, by hand${groups.length > 1 ? `, ${g.name}` : ''}`,
          levelsAt: only(i, channelLevels(g.lampKind, p.mix)),
          scaled: true,
        })),
    ),
    ...groups.flatMap((g, i) =>
      g.lampKind.channels.map((c, k): Lighting => ({
        id: `alone:${g.groupId}/${c.id}`,
        label: `${c.name} alone${groups.length > 1 ? `, ${g.name}` : ''}`,
        levelsAt: only(
          i,
          g.lampKind.channels.map((_, m) => (m === k ? 1 : 0)),
        ),
        scaled: true,
      })),
    ),
  ];
}

const samePlace = (a: Stop, b: Pick<Reading, 'spotId' | 'xCm' | 'yCm' | 'depthCm'>): boolean =>
  a.spotId !== null
    ? a.spotId === b.spotId
    : b.spotId === null && a.xCm === b.xCm && a.yCm === b.yCm && a.depthCm === b.depthCm;

/** The reading of a session at a stop under a light, if it is already there. */
export const readingAt = (session: Session, stop: Stop, levels: Reading['levels']): Reading | undefined =>
  session.readings.find((r) => samePlace(stop, r) && oneLight(r.levels, levels));

/**
 * What a session has read at a stop under a lighting: where that moves with the day, whatever was read under the day at its own
 * minute; the latest of it.
 */
export const readUnderDay = (
  session: Session,
  stop: Stop,
  { dayAt }: Pick<Lighting, 'dayAt'>,
  minuteOf: (atUtc: string) => number,
): Reading | undefined =>
  dayAt &&
  session.readings.findLast((r) => samePlace(stop, r) && oneLight(r.levels, dayAt(minuteOf(r.atUtc))));

/** What was lit, in a few words: the lone colour, or how many channels. */
export function litWords(reading: Reading, session: Session, groupsInCase: number): string {
  const lit = Object.entries(reading.levels).flatMap(([g, own]) =>
    Object.entries(own).flatMap(([c, level]) => (level > 0 ? [{ g, c, level }] : [])),
  );
  if (lit.length === 1) {
    const { g, c, level } = lit[0]!;
    const group = session.rig?.find((x) => x.groupId === g);
    const channel = group?.lampKind.channels.find((x) => x.id === c)?.name ?? c;
    return `${channel} alone at ${Math.round(level * 100)} %${groupsInCase > 1 && group ? `, ${group.name}` : ''}`;
  }
  return `${lit.length} ${lit.length === 1 ? 'channel' : 'channels'} lit`;
}

/** A reading with its levels under the names a file gives them. */
export const withNames = (r: Reading, session: Session) => ({
  ...r,
  levels: Object.fromEntries(
    Object.entries(r.levels).flatMap(([g, own]) => {
      const group = session.rig?.find((x) => x.groupId === g);
      return Object.entries(own).map(([c, level]) => [
        `${group?.name ?? g} / ${group?.lampKind.channels.find((x) => x.id === c)?.name ?? c}`,
        level,
      ]);
    }),
  ),
});

/** Levels that a file names, under the ids of the lamps that hang here; null when it names none of them. */
export function levelsByName(
  named: Record<string, number> | null,
  groups: readonly LitGroup[],
): Reading['levels'] | null {
  if (!named) return null;
  let found = false;
  const levels = Object.fromEntries(
    groups.map((g) => [
      g.groupId,
      Object.fromEntries(
        channelIds(g.lampKind).map((id) => {
          const channel = g.lampKind.channels.find((c) => c.id === id)!;
          const value = named[`${g.name} / ${channel.name}`] ?? named[channel.name];
          if (value !== undefined) found = true;
          return [id, value ?? 0];
        }),
      ),
    ]),
  );
  return found ? levels : null;
}

/** A meter held by hand is off by so much before anything is wrong. Mark: rule of thumb. */
const BY_HAND = 0.15;
/** What would give a reading within this factor is likely lit. Mark: rule of thumb. */
const ALIKE = 1.25;
const MOST_LIKELY = 3;

/**
 * Whether the first reading of a session speaks of another light than the one it is said to be of.
 * @param shown by the meter; @param expected on that meter under what is said to be lit, ± a share at 90 %
 * @param others what the meter would show under whatever else may be lit
 * @returns null where it is as expected; else what would give it, the nearest first
 */
export function likelyLit<L extends { shown: number }>(
  shown: number,
  expected: number,
  bandShare: number,
  others: readonly L[],
): L[] | null {
  const off = Math.max(BY_HAND, bandShare);
  if (shown >= expected * (1 - off) && shown <= expected * (1 + off)) return null;
  const far = (l: L) => Math.abs(Math.log(Math.max(shown, 1e-9) / Math.max(l.shown, 1e-9)));
  return others
    .filter((l) => far(l) <= Math.log(ALIKE))
    .sort((a, b) => far(a) - far(b))
    .slice(0, MOST_LIKELY);
}
