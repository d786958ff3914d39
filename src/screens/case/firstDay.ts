import { dayAt, zoneLight } from '@/core/case/light';
import { draftGroups, rigOf } from '@/core/case/lit';
import {
  type CaseBundle,
  type Group,
  type HungLamp,
  lowerEdgeUmol,
  type Plate,
  type Spot,
  type Thread,
  type Zone,
} from '@/core/case/types';
import type { Levels } from '@/core/day/thread';
import type { LampKind } from '@/core/spectrum/lamp';
import { computeResponse } from '@/core/optics/response';

/** A careful first mix: blue carries it, everything else is kept low. Mark: rule of thumb. */
export function firstMix(kind: LampKind): Levels {
  return Object.fromEntries(
    kind.channels.map((c) => {
      const light = c.groups[0]!.light;
      if (light.shape === 'table') return [c.id, 0.3];
      const nm = light.peakNm;
      return [c.id, nm < 400 ? 0.3 : nm < 430 ? 0.6 : nm < 485 ? 0.7 : nm < 515 ? 0.35 : 0.1];
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
  const plate: Plate = { id: id(), name: 'First light', lampKindId: kind.id, notes: '', mix: firstMix(kind) };
  const threads: Thread[] = FIRST_DAY.map(([minute, strengthShare]) => ({
    id: id(),
    minute,
    strengthShare,
    mix: { plateId: plate.id },
  }));
  return { plate, group: { id: id(), name, lampKindId: kind.id, lamps, threads, capShare: 1 } };
}

/** The largest whole-percent cap under which no spot of the zone peaks above the lower edge of its coral's band. */
export function safeFirstCap(bundle: CaseBundle, zone: Zone): number {
  const groups = draftGroups(bundle.case, zone);
  if (zone.spots.length === 0) return 0.1;
  const light = zoneLight(computeResponse(rigOf(groups, zone, zone.spots)), groups);
  const shares = zone.spots.map(
    (s: Spot, i) => lowerEdgeUmol(s) / Math.max(dayAt(light, groups, i).peak, 1e-9),
  );
  return Math.max(0.01, Math.min(1, Math.floor(Math.min(...shares) * 100) / 100));
}

export function newCase(input: {
  id: () => string;
  name: string;
  timeZone: string;
  tank: Zone['tank'];
  kind: LampKind;
  lamps: HungLamp[];
  spots: Spot[];
}): CaseBundle {
  const caseId = input.id();
  const { group, plate } = firstGroup(input.kind, input.lamps, 'Lamps', input.id);
  const zone: Zone = {
    id: input.id(),
    name: 'Display',
    kind: 'display',
    timeZone: input.timeZone,
    tank: input.tank,
    water: { yellow440PerM: 0.15, scatterPerM: 0.05 },
    groups: [group],
    spots: input.spots,
  };
  const bundle: CaseBundle = {
    case: {
      format: 'chromatheca-case',
      version: 1,
      id: caseId,
      name: input.name,
      demo: false,
      zones: [zone],
      lampKinds: [input.kind],
      plates: [plate],
    },
    history: { format: 'chromatheca-history', version: 1, caseId, entries: [] },
    readings: { format: 'chromatheca-readings', version: 1, caseId, readings: [] },
  };
  const safe = { ...zone, groups: [{ ...group, capShare: safeFirstCap(bundle, zone) }] };
  return { ...bundle, case: { ...bundle.case, zones: [safe] } };
}
