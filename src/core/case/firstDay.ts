import { daysAt, zoneLight } from './light';
import { draftGroups, rigOf } from './lit';
import { newPlate } from './plate';
import { bundleOf, type CaseBundle } from '../record/documents';
import type { Group, HungLamp, Spot, Thread, Zone } from '../record/zone';
import { livesByLight, lowerEdgeUmol, wantsOf } from '../record/needs';
import { startLight } from './replay';
import type { Plate } from '../record/caseDoc';
import type { Levels, LampKind } from '../spectrum/lampKind';
import { CEILINGS, type DayLight, unknownStart } from '../easing/accustomed';
import { controlLight } from '../library/colours';
import { dims, hasCap } from '../spectrum/controls';
import type { LightPort } from '../optics/port';

/** Level that a first mix gives a colour, by the centre of its light. Mark: rule of thumb. */
function firstLevel(nm: number, broad: boolean): number {
  if (broad) return 0.3;
  return nm < 400 ? 0.3 : nm < 430 ? 0.6 : nm < 485 ? 0.7 : nm < 515 ? 0.35 : 0.1;
}
/** A careful first mix: blue carries it, everything else is kept low; circuits that have no blue beside them are on. */
export function firstMix(kind: LampKind): Levels {
  const lights = kind.controls.map((c) => controlLight(kind, c));
  const blueCircuit = kind.controls.some((c, i) => c.kind === 'onOff' && lights[i]!.nm < 500);
  return Object.fromEntries(
    kind.controls.map((c, i) => {
      const { nm, broad } = lights[i]!;
      switch (c.kind) {
        case 'level':
          return [c.id, Object.keys(c.drives).length > 1 && nm < 500 ? 0.6 : firstLevel(nm, broad)];
        case 'onOff':
          return [c.id, nm < 500 || !blueCircuit ? 1 : 0];
        case 'brightness':
          return [c.id, 0.7];
        case 'tint':
          return [c.id, 0.6];
        case 'trim':
          return [c.id, Math.min(1, Math.max(0, (1 - c.fromFactor) / (c.toFactor - c.fromFactor || 1)))];
      }
    }),
  );
}

/** A long soft day: two hours up, six at full, two down. */
export const FIRST_DAY: readonly (readonly [minute: number, strengthShare: number])[] = [
  [10 * 60, 0],
  [12 * 60, 1],
  [18 * 60, 1],
  [20 * 60, 0],
];

export function firstGroup(
  kind: LampKind,
  lamps: HungLamp[],
  name: string,
  id: () => string,
): { group: Group; plate: Plate } {
  const plate = newPlate(id(), 'First light', kind.id, firstMix(kind));
  const points = dims(kind) ? FIRST_DAY : switchedDay();
  const threads: Thread[] = points.map(([minute, strengthShare]) => ({
    id: id(),
    minute,
    strengthShare,
    mix: { plateId: plate.id },
  }));
  return { plate, group: { id: id(), name, lampKindId: kind.id, lamps, threads, capShare: 1 } };
}

/** A lamp that cannot be dimmed begins with this many hours, or fewer. Mark: rule of thumb. */
const FIRST_HOURS = 8;
/** On at noon for so many hours. */
export const switchedDay = (hours = FIRST_HOURS): [minute: number, strengthShare: number][] => [
  [12 * 60, 1],
  [12 * 60 + Math.round(hours * 60), 0],
];

/** What a tenant may get at once, not knowing more: what it is used to or what its kind begins at, and µmol never above its range. */
function mayGet(spot: Spot, zone: Zone): DayLight & { topUmol: number } {
  const used =
    livesByLight(spot) && spot.cameFrom ? startLight(spot, zone) : unknownStart(lowerEdgeUmol(spot, zone));
  return { ...used, topUmol: wantsOf(spot, zone)?.toUmol ?? Infinity };
}

/** Sets of circuits, the first mix's first, then from all of them down. */
function circuitSets(kind: LampKind): Levels[] {
  const ids = kind.controls.map((c) => c.id).slice(0, MOST_CIRCUITS);
  const all = Array.from({ length: 2 ** ids.length - 1 }, (_, n): Levels =>
    Object.fromEntries(kind.controls.map((c) => [c.id, (n + 1) & (1 << ids.indexOf(c.id)) ? 1 : 0])),
  );
  return [firstMix(kind), ...all];
}
/** More circuits than this are not told apart here. */
const MOST_CIRCUITS = 8;

/**
 * A first safe strength. For lamps that dim the largest whole-percent cap under which nobody gets more than it may, at its brightest and
 * over the day. Lamps that do not dim are lit by the circuits that give most without passing it at their brightest, and so many hours
 * that none passes it over the day; where no circuit is dark enough, by the darkest: the judgement of that day says so.
 */
export async function safeFirst(
  bundle: CaseBundle,
  zone: Zone,
  group: Group,
  lights: Pick<LightPort, 'response'>,
): Promise<Group> {
  const kind = bundle.case.lampKinds.find((k) => k.id === group.lampKindId)!;
  if (zone.spots.length === 0) return { ...group, capShare: dims(kind) ? 0.1 : 1 };
  const may = zone.spots.map((s) => mayGet(s, zone));
  const matrix = await lights.response(rigOf(draftGroups(bundle.case, zone), zone, zone.spots));
  /** how many times what it may get the worst of them gets, and how much light all get together */
  const tried = (own: Group) => {
    const groups = draftGroups(bundle.case, {
      ...zone,
      groups: zone.groups.map((g) => (g.id === own.id ? own : g)),
    });
    const days = daysAt(
      zoneLight(matrix, groups),
      groups,
      zone.spots.map((_, i) => i),
    );
    return {
      group: own,
      peak: Math.max(...days.map((d, i) => Math.max(d.taken.peak / may[i]!.peak, d.peak / may[i]!.topUmol))),
      dli: Math.max(...days.map((d, i) => d.taken.dli / may[i]!.dli)),
      sum: days.reduce((sum, d) => sum + d.peak, 0),
    };
  };
  if (dims(kind)) {
    const { peak, dli } = tried(group);
    let percent = Math.min(100, Math.floor((1 / Math.max(peak, dli, 1e-9)) * 100 + 1e-9));
    const over = (at: Group) => Math.max(tried(at).peak, tried(at).dli) > 1 + 1e-9;
    // where the values carry the strength their steps may round it up again
    while (percent > 1 && !hasCap(kind) && over({ ...group, capShare: percent / 100 })) percent -= 1;
    return { ...group, capShare: Math.max(1, percent) / 100 };
  }
  const ways = circuitSets(kind).map((own) =>
    tried({ ...group, threads: group.threads.map((t) => ({ ...t, mix: { own } })) }),
  );
  const fit = ways.filter((w) => w.peak <= CEILINGS.usual && w.sum > 0);
  const [first] = ways;
  const best = fit.includes(first!)
    ? { ...first!, group }
    : fit.length > 0
      ? fit.reduce((a, b) => (b.sum > a.sum ? b : a))
      : ways.filter((w) => w.sum > 0).reduce((a, b) => (b.peak < a.peak ? b : a), first!);
  const hours = Math.floor((FIRST_HOURS / Math.max(best.dli, 1e-9)) * 4) / 4;
  const [on, off] = best.group.threads;
  const lit = Math.max(0.25, Math.min(FIRST_HOURS, hours));
  return { ...best.group, threads: [on!, { ...off!, minute: 12 * 60 + Math.round(lit * 60) }] };
}

/** A first day with its circuits on its plate: what stands on Mix is what runs. */
function onPlate(plate: Plate, group: Group): { plate: Plate; group: Group } {
  const mix = group.threads[0]?.mix;
  return mix && 'own' in mix
    ? {
        plate: { ...plate, mix: mix.own },
        group: { ...group, threads: group.threads.map((t) => ({ ...t, mix: { plateId: plate.id } })) },
      }
    : { plate, group };
}

/** Places a lamp more may get, as shares of the tank: over its middle first. */
const ROOM: readonly (readonly [x: number, y: number])[] = [0.5, 0.25, 0.75, 0.125, 0.875].flatMap((x) =>
  [0.5, 0.25, 0.75].map((y) => [x, y] as const),
);

/** Where over a water there is most room for a lamp more: never on top of another where the tank has another place. */
export function roomFor({ tank, groups }: Pick<Zone, 'tank' | 'groups'>): { xCm: number; yCm: number } {
  const hung = groups.flatMap((g) => g.lamps);
  const places = ROOM.map(([x, y]) => ({ xCm: x * tank.lengthCm, yCm: y * tank.widthCm }));
  const free = (p: (typeof places)[number]) =>
    Math.min(...hung.map((l) => Math.hypot(l.xCm - p.xCm, l.yCm - p.yCm)), Infinity);
  return places.reduce((best, p) => (free(p) > free(best) + 1e-9 ? p : best));
}

/** An added lamp starts no stronger than this: its light comes on top of what corals have. Mark: rule of thumb. */
const ADDED_SHARE = 0.1;

/** A lamp more over a water: where there is room, with a first day of its own that is safe by itself and low. */
export async function addedLamp(of: {
  bundle: CaseBundle;
  zone: Zone;
  kind: LampKind;
  name: string;
  lampName: string;
  heightCm: number;
  id: () => string;
  lights: Pick<LightPort, 'response'>;
}): Promise<{ group: Group; plate: Plate }> {
  const { bundle, zone, kind, id } = of;
  const lamp = { id: id(), name: of.lampName, ...roomFor(zone), heightCm: of.heightCm, turnDeg: 0 };
  const { group, plate } = firstGroup(kind, [lamp], of.name, id);
  const { lampKinds, plates } = bundle.case;
  const known = lampKinds.some((k) => k.id === kind.id);
  const doc = {
    ...bundle.case,
    lampKinds: known ? lampKinds : [...lampKinds, kind],
    plates: [...plates, plate],
  };
  const safe = await safeFirst({ ...bundle, case: doc }, { ...zone, groups: [group] }, group, of.lights);
  return onPlate(plate, dims(kind) ? { ...safe, capShare: Math.min(safe.capShare, ADDED_SHARE) } : safe);
}

/** A keeper's first case: one water, one group of lamps, and a first day that is safe for what lives there. */
export async function newCase(input: {
  id: () => string;
  name: string;
  timeZone: string;
  tank: Zone['tank'];
  kind: LampKind;
  lamps: HungLamp[];
  spots: Spot[];
  /** who lives here lives under this very lamp already: its day is typed as it runs, not made safe */
  usedTo?: boolean;
  lights: Pick<LightPort, 'response'>;
}): Promise<CaseBundle> {
  const caseId = input.id();
  const { group, plate } = firstGroup(input.kind, input.lamps, 'Lamps', input.id);
  const zone: Zone = {
    id: input.id(),
    name: 'Display',
    kind: 'display',
    timeZone: input.timeZone,
    tank: input.tank,
    water: { yellow440PerM: 0.15, scatterPerM: 0.05 },
    carbonDate: null,
    rippleSlope: 0.05,
    needs: {},
    groups: [group],
    spots: input.spots,
  };
  const bundle = bundleOf({
    format: 'chromatheca-case',
    version: 5,
    id: caseId,
    name: input.name,
    demo: false,
    zones: [zone],
    lampKinds: [input.kind],
    plates: [plate],
    references: [],
    forms: [],
  });
  const first = input.usedTo
    ? { ...group, usedTo: true }
    : await safeFirst(bundle, zone, group, input.lights);
  const begun = onPlate(plate, first);
  return {
    ...bundle,
    case: { ...bundle.case, plates: [begun.plate], zones: [{ ...zone, groups: [begun.group] }] },
  };
}
