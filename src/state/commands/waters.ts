import type { SystemWater } from '@/core/record/caseDoc';
import type { Zone } from '@/core/record/zone';
import { kindOf } from '@/core/record/log';
import { NO_SYSTEM } from '@/core/record/system';
import { type Command, onCase, onZone } from './edit';

export const renameCase = (name: string): Command => onCase('rename the case', (doc) => ({ ...doc, name }));

export const setZone = (
  zoneId: string,
  change: Partial<
    Pick<
      Zone,
      | 'name'
      | 'kind'
      | 'tank'
      | 'water'
      | 'timeZone'
      | 'carbonDate'
      | 'rippleSlope'
      | 'home'
      | 'doseLimits'
      | 'flow'
      | 'choreDays'
    >
  >,
): Command =>
  onCase(
    'water and tank',
    onZone(zoneId, (z) => {
      const tank = change.tank ?? z.tank;
      return {
        ...z,
        ...change,
        // a smaller tank keeps its spots in the water
        spots: z.spots.map((s) => ({
          ...s,
          xCm: Math.min(s.xCm, tank.lengthCm),
          yCm: Math.min(s.yCm, tank.widthCm),
          depthCm: Math.min(s.depthCm, tank.depthCm),
        })),
      };
    }),
  );

/** Adds a water, empty or with its spots; lamps come by `addGroup`. */
export const addZone = (zone: Zone): Command =>
  onCase(`add ${zone.name}`, (doc) => ({ ...doc, zones: [...doc.zones, zone] }));

/** Takes a water out with everything that ran, was read and was logged there. The last one stays. */
export const removeZone = (zoneId: string, name: string): Command => ({
  name: `remove ${name}`,
  apply: (b) => {
    if (b.case.zones.length < 2) return b;
    const elsewhere = (x: { zoneId: string }) => x.zoneId !== zoneId;
    return {
      case: { ...b.case, zones: b.case.zones.filter((z) => z.id !== zoneId) },
      history: {
        ...b.history,
        entries: b.history.entries.filter(elsewhere),
        plans: b.history.plans.filter(elsewhere),
      },
      readings: { ...b.readings, sessions: b.readings.sessions.filter(elsewhere) },
      log: {
        ...b.log,
        // what is of the water that all share stays
        events: b.log.events
          .filter((e) => elsewhere(e) || kindOf(e).shared)
          .map((e) => (elsewhere(e) ? e : { ...e, zoneId: b.case.zones.find((z) => z.id !== zoneId)!.id })),
      },
    };
  },
});

/** What is known of the water that all zones share. */
export const setSystem = (change: Partial<SystemWater>): Command =>
  onCase('shared water', (doc) => ({ ...doc, system: { ...NO_SYSTEM, ...doc.system, ...change } }));

/** What kinds want in this water, where that is not the rule of thumb. */
export const setNeeds = (zoneId: string, needs: Zone['needs']): Command =>
  onCase(
    'what kinds want',
    onZone(zoneId, (z) => ({ ...z, needs })),
  );

export const setKwhPrice = (kwhPrice: number | null): Command =>
  onCase('price of power', (doc) => ({ ...doc, kwhPrice }));
