import { dayAt, zoneLight } from './light';
import { draftGroups, rigOf } from './lit';
import { newPlate } from './plate';
import { bundleOf, type CaseBundle } from '../record/documents';
import type { Group, HungLamp, Spot, Thread, Zone } from '../record/zone';
import { lowerEdgeUmol } from '../record/needs';
import type { Plate } from '../record/caseDoc';
import type { Levels, LampKind } from '../spectrum/lampKind';
import { unknownStart } from '../easing/accustomed';
import { controlLight } from '../library/colours';
import { dims } from '../spectrum/controls';
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
const FIRST_DAY: readonly (readonly [minute: number, strengthShare: number])[] = [
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
  const points = dims(kind) ? FIRST_DAY : switchedDay(FIRST_HOURS);
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
const switchedDay = (hours: number): [minute: number, strengthShare: number][] => [
  [12 * 60, 1],
  [12 * 60 + Math.round(hours * 60), 0],
];

/**
 * A first safe strength: for lamps that dim the largest whole-percent cap under which no spot peaks above the lower edge of
 * its coral's band; for lamps that do not, hours short enough that no spot gets more than that edge gives in 8 hours.
 */
export async function safeFirst(
  bundle: CaseBundle,
  zone: Zone,
  group: Group,
  lights: Pick<LightPort, 'response'>,
): Promise<Group> {
  const kind = bundle.case.lampKinds.find((k) => k.id === group.lampKindId)!;
  if (zone.spots.length === 0) return { ...group, capShare: dims(kind) ? 0.1 : 1 };
  const groups = draftGroups(bundle.case, zone);
  const light = zoneLight(await lights.response(rigOf(groups, zone, zone.spots)), groups);
  if (dims(kind)) {
    const shares = zone.spots.map(
      (s: Spot, i) => lowerEdgeUmol(s, zone) / Math.max(dayAt(light, groups, i).peak, 1e-9),
    );
    const cap = Math.floor(Math.min(...shares) * 100) / 100;
    return { ...group, capShare: Math.max(0.01, Math.min(1, cap)) };
  }
  const hours = zone.spots.map((s, i) => {
    const { dli } = dayAt(light, groups, i);
    return (FIRST_HOURS * unknownStart(lowerEdgeUmol(s, zone)).dli) / Math.max(dli, 1e-9);
  });
  const first = Math.max(0.25, Math.min(FIRST_HOURS, Math.floor(Math.min(...hours) * 4) / 4));
  const [on, off] = group.threads;
  return {
    ...group,
    threads: [on!, { ...off!, minute: 12 * 60 + Math.round(first * 60) }],
  };
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
  const safe = { ...zone, groups: [await safeFirst(bundle, zone, group, input.lights)] };
  return { ...bundle, case: { ...bundle.case, zones: [safe] } };
}
