import type { Extras } from '../day/extras';
import type { ResolvedThread } from '../day/thread';
import { carryToLamp } from '../mix/carry';
import { livesByLight } from '../record/needs';
import type { HungLamp, Zone } from '../record/zone';
import { dims } from '../spectrum/controls';
import { mixSpectrum } from '../spectrum/lamp';
import type { LampKind } from '../spectrum/lampKind';
import { FIRST_DAY, firstMix, switchedDay } from './firstDay';
import { type LitGroup, litRunnable } from './lit';

/** Other lamps in place of a group's: its day carried to them, hung about where they hung. */

const NEW_GROUP = 'in its place';

/** How deep those live, on average, whose light is to be kept, cm. */
export function depthOfLiving({ spots, tank }: Zone): number {
  const living = spots.filter((s) => livesByLight(s) && s.need !== null);
  return living.length > 0 ? living.reduce((s, x) => s + x.depthCm, 0) / living.length : tank.depthCm / 2;
}

/**
 * The threads of a group's day for another lamp: each mix carried, strengths so that the day keeps its shape; the strongest is at full.
 * @param through transmission on the way to the corals, on the grid
 * @returns with how near the colours come, 0..1, the worst of the mixes
 */
export function carriedThreads(
  old: LitGroup,
  kind: LampKind,
  through: Float64Array,
): { threads: ResolvedThread[]; match: number } {
  const mixes = new Map<string, { mix: Record<string, number>; match: number; parRatio: number }>();
  for (const t of old.threads) {
    const key = JSON.stringify(t.mix);
    if (mixes.has(key)) continue;
    const source = mixSpectrum(old.lampKind, t.mix);
    mixes.set(
      key,
      source.some((v) => v > 0)
        ? carryToLamp(source, kind, through)
        : { mix: Object.fromEntries(kind.controls.map((c) => [c.id, 0])), match: 1, parRatio: 1 },
    );
  }
  const of = (t: ResolvedThread) => mixes.get(JSON.stringify(t.mix))!;
  const wanted = old.threads.map((t) => t.strengthShare / of(t).parRatio);
  const most = Math.max(1e-9, ...wanted);
  const threads = old.threads.map((t, i): ResolvedThread => ({
    minute: t.minute,
    strengthShare: dims(kind) ? Math.round((1000 * wanted[i]!) / most) / 1000 : Number(wanted[i]! > 0),
    mix: of(t).mix,
  }));
  return { threads, match: Math.min(1, ...[...mixes.values()].map((m) => m.match)) };
}

/** So many lamps evenly about the middle of the old ones, at the height of the first. */
export const spreadAbout = (old: LitGroup, count: number, zone: Zone): HungLamp[] =>
  spreadOver(
    count,
    old.lamps.reduce((s, l) => s + l.xCm, 0) / old.lamps.length,
    old.lamps[0]!.heightCm,
    zone,
  );

const spreadOver = (count: number, middleCm: number, heightCm: number, { tank }: Zone): HungLamp[] =>
  Array.from({ length: count }, (_, i) => ({
    ...{ id: `new-${i + 1}`, name: count === 1 ? 'new' : `new ${i + 1}` },
    xCm: Math.min(tank.lengthCm, Math.max(0, middleCm + ((i - (count - 1) / 2) / count) * tank.lengthCm)),
    ...{ yCm: tank.widthCm / 2, heightCm, turnDeg: 0 },
  }));

/** A group of its own in place of another. */
export const inPlaceOf = (
  old: LitGroup,
  kind: LampKind,
  lamps: readonly HungLamp[],
  threads: readonly ResolvedThread[],
  capShare: number,
  extras?: Extras,
): LitGroup =>
  litRunnable({
    ...{ groupId: `${old.groupId} ${NEW_GROUP}`, groupName: kind.name, lampKind: kind, lamps: [...lamps] },
    ...{ capShare, threads: threads.map((t) => ({ ...t, mixName: 'carried' })) },
    ...(extras ? { extras } : {}),
  });

/** Lamps that nobody has drafted yet: a first mix and a first day, evenly over the tank. */
export function firstLit(kind: LampKind, count: number, zone: Zone): LitGroup {
  const points = dims(kind) ? FIRST_DAY : switchedDay();
  return litRunnable({
    ...{ groupId: FIRST_GROUP, groupName: kind.name, lampKind: kind, capShare: 1 },
    lamps: spreadOver(count, zone.tank.lengthCm / 2, USUAL_HEIGHT_CM, zone),
    threads: points.map(([minute, strengthShare]) => ({
      ...{ minute, strengthShare, mix: firstMix(kind), mixName: 'First light' },
    })),
  });
}
/** The group of lamps that nobody has drafted yet. */
const FIRST_GROUP = 'first lamps';
/** Where lamps hang until it is said. Mark: rule of thumb. */
const USUAL_HEIGHT_CM = 25;
