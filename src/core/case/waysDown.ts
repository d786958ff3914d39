import { dims } from '../spectrum/controls';
import { AS_PRINTED, type DayLight, peakRatio } from '../easing/accustomed';
import { ceilingOf, floorUmolOf, livesByLight, wantsOf } from '../record/needs';
import type { Place, Zone } from '../record/zone';
import { circuitsOf, windowsOf } from './dawn';
import { daysAt, type ZoneLight } from './light';
import { type LitGroup, litRunnable } from './lit';

/**
 * What is left where lamps that cannot be dimmed are too bright at their brightest, which no hours make darker: fewer circuits, more
 * height, a screen, corals lower down. Each with what it would take; what does not do it is not in the list.
 */
export type WayDown =
  | { kind: 'circuits'; groupId: string; on: string[]; words: string; worst: Worst }
  | { kind: 'higher'; byCm: number; worst: Worst }
  | { kind: 'screen'; passShare: number; worst: Worst }
  | { kind: 'lower'; places: { spot: number; depthCm: number; umol: number }[] };

/** Who gets most of what it may get. */
export interface Worst {
  spot: number;
  /** µmol at its brightest, and that over what it is used to */
  umol: number;
  ratio: number;
}

/** Nobody hangs a lamp higher than this for it, cm, and finer than this it is not said. Mark: rule of thumb. */
const HIGHEST_CM = 120;
const STEP_CM = 5;
/** No lamp of a case hangs higher over its water than this, cm. */
const MOST_HEIGHT_CM = 300;
/** A screen that lets through less is none any more; screens are told in steps of this. Mark: rule of thumb. */
const DARKEST_SCREEN = 0.15;
const SCREEN_STEP = 0.05;

export interface WaysAsk {
  zone: Zone;
  groups: readonly LitGroup[];
  /** what each spot's tenant is used to */
  used: readonly DayLight[];
  /** the largest step of a coral that is to be made at once */
  ceiling: number;
  /** light of lamps as they then hang, at places */
  lightOf: (groups: readonly LitGroup[], places: readonly Place[]) => Promise<ZoneLight>;
}

const ratioAt = ({ used, zone }: WaysAsk, spot: number, day: DayLight): number =>
  peakRatio(day, used[spot]!, floorUmolOf(zone.spots[spot]!, zone));

/** How many times what it may get at its brightest a spot's tenant gets: against what it is used to, and against its range. */
const overOf = (ask: WaysAsk, spot: number, day: DayLight): number => {
  const s = ask.zone.spots[spot]!;
  const step = livesByLight(s) ? ratioAt(ask, spot, day) / (ceilingOf(s, ask.ceiling) + AS_PRINTED) : 0;
  return Math.max(step, day.peak / (wantsOf(s, ask.zone)?.toUmol ?? Infinity));
};

/** How many times what it may get the worst of them gets. */
function worstOf(ask: WaysAsk, days: readonly DayLight[]): Worst & { over: number } {
  return days.reduce<Worst & { over: number }>(
    (worst, day, spot) => {
      const over = overOf(ask, spot, day);
      return over > worst.over ? { spot, umol: day.peak, ratio: ratioAt(ask, spot, day), over } : worst;
    },
    { spot: 0, umol: days[0]?.peak ?? 0, ratio: 0, over: 0 },
  );
}

/** A group with only some of its circuits, at the times at which it is lit. */
const onlyCircuits = (group: LitGroup, on: readonly string[]): LitGroup => {
  const mixed = (mix: Readonly<Record<string, number>>) =>
    Object.fromEntries(Object.entries(mix).map(([id, v]) => [id, on.includes(id) ? v : 0]));
  // a cap does nothing to circuits
  const { groupId, name: groupName, lampKind, lamps, extras } = group;
  const threads = group.threads.map((t) => ({ ...t, mix: mixed(t.mix) }));
  return litRunnable({
    groupId,
    groupName,
    lampKind,
    lamps,
    threads,
    capShare: 1,
    ...(extras ? { extras } : {}),
  });
};

/** @returns null where nothing is too bright, or the lamps dim */
export async function waysDown(ask: WaysAsk): Promise<WayDown[] | null> {
  const { zone, groups, lightOf } = ask;
  const fixed = groups.filter((g) => !dims(g.lampKind));
  const all = zone.spots.map((_, i) => i);
  const daysOf = (light: ZoneLight, of: readonly LitGroup[]) => daysAt(light, of, all);
  const light = await lightOf(groups, zone.spots);
  const now = worstOf(ask, daysOf(light, groups));
  if (fixed.length === 0 || now.over <= 1) return null;
  const out: WayDown[] = [];

  const circuits = circuitsOf(fixed).filter(
    (c) =>
      windowsOf(
        groups.find((g) => g.groupId === c.groupId)!,
        c.controlId,
      ).length > 0,
  );
  const tried = circuits.map((c) => {
    const of = groups.map((g) => (g.groupId === c.groupId ? onlyCircuits(g, [c.controlId!]) : g));
    return { c, worst: worstOf(ask, daysOf(light, of)) };
  });
  const dark = tried.filter((t) => t.worst.over <= 1).sort((a, b) => b.worst.over - a.worst.over)[0];
  if (circuits.length > 1 && dark)
    out.push({
      kind: 'circuits',
      groupId: dark.c.groupId,
      on: [dark.c.controlId!],
      words: dark.c.name,
      worst: dark.worst,
    });

  const raised = (byCm: number) =>
    groups.map((g) =>
      fixed.includes(g) ? { ...g, lamps: g.lamps.map((l) => ({ ...l, heightCm: l.heightCm + byCm })) } : g,
    );
  const at = async (steps: number) => {
    const of = raised(steps * STEP_CM);
    return worstOf(ask, daysOf(await lightOf(of, zone.spots), of));
  };
  const room = MOST_HEIGHT_CM - Math.max(...fixed.flatMap((g) => g.lamps.map((l) => l.heightCm)));
  let [low, high] = [0, Math.max(0, Math.floor(Math.min(HIGHEST_CM, room) / STEP_CM))];
  let found = await at(high);
  if (found.over <= 1) {
    while (high - low > 1) {
      const middle = Math.floor((low + high) / 2);
      const here = await at(middle);
      if (here.over <= 1) [high, found] = [middle, here];
      else low = middle;
    }
    out.push({ kind: 'higher', byCm: high * STEP_CM, worst: found });
  }

  // lamps that dim beside them keep their light: the screen is sized by what is left for the others
  const screened = (passShare: number) =>
    groups.map((g) =>
      fixed.includes(g)
        ? { ...g, lamps: g.lamps.map((l) => ({ ...l, screenShare: passShare * (l.screenShare ?? 1) })) }
        : g,
    );
  for (let steps = Math.floor(1 / now.over / SCREEN_STEP + 1e-9); steps > 0; steps -= 1) {
    const passShare = steps * SCREEN_STEP;
    if (passShare < DARKEST_SCREEN) break;
    const of = screened(passShare);
    const worst = worstOf(ask, daysOf(await lightOf(of, zone.spots), of));
    if (worst.over > 1) continue;
    out.push({ kind: 'screen', passShare, worst });
    break;
  }

  const days = daysOf(light, groups);
  const over = all.filter((i) => overOf(ask, i, days[i]!) > 1);
  const depths = over.flatMap((spot) => {
    const s = zone.spots[spot]!;
    const steps = Math.floor((zone.tank.depthCm - s.depthCm) / STEP_CM);
    return Array.from({ length: Math.max(0, steps) }, (_, k) => ({
      spot,
      depthCm: s.depthCm + (k + 1) * STEP_CM,
    }));
  });
  if (depths.length > 0) {
    const places = depths.map((d): Place => ({ ...zone.spots[d.spot]!, depthCm: d.depthCm }));
    const there = daysAt(
      await lightOf(groups, places),
      groups,
      places.map((_, i) => i),
    );
    const lower = over.map((spot) => {
      const k = depths.findIndex((d, i) => d.spot === spot && overOf(ask, spot, there[i]!) <= 1);
      return k < 0 ? null : { spot, depthCm: depths[k]!.depthCm, umol: there[k]!.peak };
    });
    if (lower.every((x) => x !== null)) out.push({ kind: 'lower', places: lower });
  }
  return out;
}
