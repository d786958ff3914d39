import type { Day } from '../day/day';
import { extraDay, type Extras } from '../day/extras';
import type { ResolvedThread } from '../day/thread';
import { shifted } from '../day/moves';
import { behindWall, type CivilDay, dayNumber } from '../day/wallClock';
import type { Lean, RowName } from '../optics/light';
import type { Rig, RigSpot } from '../optics/response';
import { lampRows } from '../optics/rig';
import type { LampKind } from '../spectrum/lampKind';
import type { CaseDoc } from '../record/caseDoc';
import type { Group, HungLamp, Thread, Zone } from '../record/zone';
import type { HistoryDoc, Runnable, RunningEntry, SelfRise } from '../record/history';

export interface LitThread extends ResolvedThread {
  mixName: string;
}

/** A group ready to be lit: its lamps, its day as knots in the order of the lamp kind's channels. */
export interface LitGroup {
  groupId: string;
  name: string;
  lampKind: LampKind;
  lamps: HungLamp[];
  threads: LitThread[];
  /** all that acts on its threads is in */
  day: Day;
  extras?: Extras;
}

export const channelIds = (kind: LampKind): string[] => kind.channels.map((c) => c.id);

export function lampKindOf(doc: CaseDoc, group: Group): LampKind {
  const kind = doc.lampKinds.find((k) => k.id === group.lampKindId);
  if (!kind) throw new Error(`group ${group.name} has no lamp kind ${group.lampKindId}`);
  return kind;
}

/** A thread's mix by value, with the name it is spoken of. */
export function resolveThread(doc: CaseDoc, thread: Thread): LitThread {
  const { mix } = thread;
  const plate = 'plateId' in mix ? doc.plates.find((p) => p.id === mix.plateId) : undefined;
  return {
    minute: thread.minute,
    strengthShare: thread.strengthShare,
    mix: 'own' in mix ? mix.own : (plate?.mix ?? {}),
    mixName: 'own' in mix ? 'its own mix' : (plate?.name ?? 'no plate'),
  };
}

function lit(
  source: Pick<
    RunningEntry,
    'groupId' | 'groupName' | 'lampKind' | 'lamps' | 'capShare' | 'easingShare' | 'extras'
  >,
  threads: LitThread[],
  on: CivilDay | null,
): LitGroup {
  return {
    groupId: source.groupId,
    name: source.groupName,
    lampKind: source.lampKind,
    lamps: source.lamps,
    threads: [...threads].sort((a, b) => a.minute - b.minute),
    day: extraDay(source.lampKind, threads, source, source.extras, on),
    ...(source.extras ? { extras: source.extras } : {}),
  };
}

/**
 * A draft group as it would be lit, on a date when that is given. Its cap is the whole of its strength: easing plans belong to
 * running.
 */
export const litDraft = (doc: CaseDoc, group: Group, on: CivilDay | null = null): LitGroup =>
  lit(
    {
      groupId: group.id,
      groupName: group.name,
      lampKind: lampKindOf(doc, group),
      lamps: group.lamps,
      capShare: group.capShare,
      easingShare: 1,
      ...(group.extras ? { extras: group.extras } : {}),
    },
    group.threads.map((t) => resolveThread(doc, t)),
    on,
  );

/** What runs, on a date when that is given; a lamp that keeps its own time is shown by the wall. */
export function litRunning(entry: RunningEntry, on: CivilDay | null = null): LitGroup {
  const behind = on && !entry.lampKind.controller.followsClockChange ? behindWall(on, entry.atUtc) : 0;
  const threads = behind === 0 ? entry.threads : shifted(entry.threads, behind);
  const easingShare = entry.easingShare * riseShare(entry.rise, on?.date ?? null);
  return lit({ ...entry, easingShare }, threads, on);
}

/** What a group would run, by value. */
export const litRunnable = (target: Runnable, on: CivilDay | null = null): LitGroup =>
  lit({ ...target, easingShare: 1 }, target.threads, on);

/** Share of its light that a controller that eases by itself gives on a date; without a date where it leads to. */
export function riseShare(rise: SelfRise | undefined, date: string | null): number {
  if (!rise) return 1;
  if (date === null) return rise.toShare;
  const way = rise.days > 0 ? (dayNumber(date) - dayNumber(rise.date)) / rise.days : 1;
  return rise.fromShare + (rise.toShare - rise.fromShare) * Math.min(1, Math.max(0, way));
}

/** All groups of a zone as drafted. */
export const draftGroups = (doc: CaseDoc, zone: Zone, on: CivilDay | null = null): LitGroup[] =>
  zone.groups.map((g) => litDraft(doc, g, on));

/** What each group of a zone ran at an instant (UTC ISO), in the order of the zone's groups, removed groups last. */
export function runningAt(history: HistoryDoc, zone: Zone, atUtc: string): RunningEntry[] {
  const latest = new Map<string, RunningEntry>();
  for (const e of entriesOf(history, zone.id)) if (e.atUtc <= atUtc) latest.set(e.groupId, e);
  return zone.groups.flatMap((g) => latest.get(g.id) ?? []);
}

/** A zone's history in order of time. */
export const entriesOf = (history: HistoryDoc, zoneId: string): RunningEntry[] =>
  history.entries
    .filter((e) => e.zoneId === zoneId)
    .sort((a, b) => (a.atUtc < b.atUtc ? -1 : a.atUtc > b.atUtc ? 1 : 0));

/** The light the corals would get if this group's draft were typed in now: the rest stays as it runs. */
export const afterTyping = (
  doc: CaseDoc,
  history: HistoryDoc,
  zone: Zone,
  groupId: string,
  nowUtc: string,
): LitGroup[] => {
  const running = runningAt(history, zone, nowUtc);
  return zone.groups.flatMap((g) => {
    if (g.id === groupId) return [litDraft(doc, g)];
    const entry = running.find((e) => e.groupId === g.id);
    return entry ? [litRunning(entry)] : [];
  });
};

/** How one hung lamp shines and hangs otherwise than is said. */
export interface LampBent {
  gain: number;
  higherCm: number;
  /** leans more than is said to the right and to the back, degrees; absent = as said */
  lean?: Lean<number>;
}

/** What of a calibration bends light; its gains come in afterwards. */
export interface Bent {
  yellow440PerM: number;
  /** factor on the beam exponent by group */
  beams: Readonly<Record<string, number>>;
  /** by `lampKey`: factor on a lamp's light, and how much higher it hangs than is said, cm; absent = as said */
  lamps?: Readonly<Record<string, LampBent>>;
  /** factors on what the panes and the floor throw back; absent = 1 */
  panes?: number;
  floor?: number;
}
/** A hung lamp, wherever what is known is told apart by it. */
export const lampKey = (groupId: string, lampId: string): string => `${groupId} ${lampId}`;

/** Nothing hangs lower than this, cm. */
const LOWEST_CM = 1;
/** No matt floor throws back more. Mark: rule of thumb. */
const WHITEST = 0.95;

const tankOf = ({ tank }: Pick<Zone, 'tank'>, bent: Bent | null): Zone['tank'] => {
  const { panes = 1, floor = 1 } = bent ?? {};
  if (panes === 1 && floor === 1) return tank;
  const wall = (share: number) => Math.min(1, share * panes);
  const { left, right, front, back } = tank.walls;
  return {
    ...tank,
    walls: { left: wall(left), right: wall(right), front: wall(front), back: wall(back) },
    floorReflectance: Math.min(Math.max(WHITEST, tank.floorReflectance), tank.floorReflectance * floor),
  };
};
/** A lamp as readings say that it hangs and shines. */
const hungBy = (bent: Bent | null, groupId: string, lamp: HungLamp) => {
  const { gain = 1, higherCm = 0, lean } = bent?.lamps?.[lampKey(groupId, lamp.id)] ?? {};
  const higher = higherCm === 0 ? lamp : { ...lamp, heightCm: Math.max(LOWEST_CM, lamp.heightCm + higherCm) };
  return { hanging: lean ? leant(higher, lean) : higher, gain };
};
const MOST_LEAN_DEG = 60;
/** A lamp leaning so much more, degrees to the right and to the back. */
function leant(lamp: HungLamp, { right, back }: Lean<number>): HungLamp {
  const toward = ((lamp.tiltTowardDeg ?? 0) * Math.PI) / 180;
  const [x, y] = [
    (lamp.tiltDeg ?? 0) * Math.cos(toward) + right,
    (lamp.tiltDeg ?? 0) * Math.sin(toward) + back,
  ];
  const tiltDeg = Math.min(MOST_LEAN_DEG, Math.hypot(x, y));
  return { ...lamp, tiltDeg, tiltTowardDeg: (Math.atan2(y, x) * 180) / Math.PI };
}

const waterOf = (zone: Pick<Zone, 'water'>, bent: Bent | null) =>
  bent ? { ...zone.water, yellow440PerM: bent.yellow440PerM } : zone.water;
const beamOf = (bent: Bent | null, groupId: string): number => bent?.beams[groupId] ?? 1;

/** Lamps of a group as they hang, without a day. */
export type HungGroup = Pick<LitGroup, 'groupId' | 'lampKind' | 'lamps'>;

/** The rows of light that groups make, in the order in which every rig has them: by group, then lamp, then channel. */
export const rowNames = (groups: readonly HungGroup[]): RowName[] =>
  groups.flatMap(({ groupId, lampKind, lamps }) =>
    lamps.flatMap((l) => lampKind.channels.map((c) => ({ groupId, lampId: l.id, channelId: c.id }))),
  );

/** Finds rows of light by their names. */
export function rowFinder(names: readonly (RowName | null)[]): (of: RowName) => number | undefined {
  const text = (n: RowName) => JSON.stringify([n.groupId, n.lampId, n.channelId]);
  const at = new Map(names.flatMap((n, i) => (n ? [[text(n), i] as const] : [])));
  return (of) => at.get(text(of));
}
/** True when some light holds a row for every lamp and channel of groups. */
export const holdsRows = (names: readonly (RowName | null)[], groups: readonly HungGroup[]): boolean => {
  const find = rowFinder(names);
  return rowNames(groups).every((n) => find(n) !== undefined);
};

/** The rig of groups, its rows named. */
export function rigOf(
  groups: readonly HungGroup[],
  zone: Pick<Zone, 'tank' | 'water'>,
  spots: readonly RigSpot[],
  bent: Bent | null = null,
): Rig {
  const names = rowNames(groups);
  return {
    tank: tankOf(zone, bent),
    water: waterOf(zone, bent),
    rows: groups
      .flatMap((g) =>
        g.lamps.flatMap((l) => {
          const { hanging, gain } = hungBy(bent, g.groupId, l);
          const rows = (of: HungLamp) => lampRows(g.lampKind, of, beamOf(bent, g.groupId), gain);
          if (!l.leanUnsure) return rows(hanging);
          const [right, back] = [
            { right: 1, back: 0 },
            { right: 0, back: 1 },
          ].map((by) => rows(leant(hanging, by)));
          return rows(hanging).map((row, i) => ({
            ...row,
            leaning: { right: right![i]!.emitters, back: back![i]!.emitters },
          }));
        }),
      )
      .map((row, i) => ({ ...row, of: names[i]! })),
    spots: spots.map(({ xCm, yCm, depthCm, openShare, algaId }) => ({
      ...{ xCm, yCm, depthCm, openShare },
      ...(algaId ? { algaId } : {}),
    })),
  };
}

const opticsKeys = new WeakMap<LampKind, string>();

/** What of a lamp kind makes its light, as text; kept with the kind, which never changes in place. */
function opticsKey(kind: LampKind): string {
  let key = opticsKeys.get(kind);
  if (key === undefined) {
    key = JSON.stringify([
      kind.channels.map((c) => [c.id, c.groups]),
      kind.beamAngleDeg,
      kind.faceLengthCm,
      kind.faceWidthCm,
      kind.layout,
      kind.optic ?? null,
      kind.diffuserShare ?? 0,
    ]);
    opticsKeys.set(kind, key);
  }
  return key;
}

/** Content key of a rig: the same key means the same light from every row, under the same names. */
export const rigKey = (
  groups: readonly HungGroup[],
  zone: Pick<Zone, 'tank' | 'water'>,
  spots: readonly RigSpot[],
  bent: Bent | null = null,
): string =>
  JSON.stringify([
    tankOf(zone, bent),
    waterOf(zone, bent),
    spots.map((s) => [s.xCm, s.yCm, s.depthCm, s.openShare, ...(s.algaId ? [s.algaId] : [])]),
    groups.map((g) => [
      g.groupId,
      opticsKey(g.lampKind),
      beamOf(bent, g.groupId),
      g.lamps.map((l) => {
        const { hanging, gain } = hungBy(bent, g.groupId, l);
        return [
          ...[l.id, l.xCm, l.yCm, hanging.heightCm, l.turnDeg],
          ...[hanging.tiltDeg ?? 0, hanging.tiltTowardDeg ?? 0, l.screenShare ?? 1],
          ...(l.leanUnsure ? ['leans'] : []),
          ...(gain === 1 ? [] : [gain]),
          ...(l.hoursRun || l.warmerC ? ['state', l.hoursRun ?? 0, l.warmerC ?? 0] : []),
        ];
      }),
    ]),
  ]);
