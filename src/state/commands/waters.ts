import type { SystemWater } from '@/core/record/caseDoc';
import type { Zone } from '@/core/record/zone';
import { kindOf } from '@/core/record/log';
import { NO_SYSTEM } from '@/core/record/system';
import { type Command, keep, onBundle, onCase, onZone } from './edit';
import { withEvents } from './log';

export const renameCase = (name: string): Command =>
  onCase('rename the case', (doc) => {
    doc.name = name;
  });

type ZoneChange = Partial<
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
    | 'choreLater'
  >
>;
/** What a change is called, by the way back, where it is one thing. */
const CHANGED: Partial<Record<keyof ZoneChange, string>> = {
  name: 'name of the water',
  tank: 'tank',
  water: 'colour of the water',
  timeZone: 'time zone',
  carbonDate: 'day of the carbon',
  rippleSlope: 'surface of the water',
  home: 'hours at home',
  doseLimits: 'limits of a colour’s dose',
  flow: 'flow',
  choreDays: 'upkeep',
  choreLater: 'upkeep put off',
};
const nameOf = (change: ZoneChange): string => {
  const [only, ...more] = Object.keys(change) as (keyof ZoneChange)[];
  return (more.length === 0 && only && CHANGED[only]) || 'water and tank';
};

export const setZone = (zoneId: string, change: ZoneChange): Command =>
  onZone(nameOf(change), zoneId, (z) => {
    Object.assign(z, change);
    // a smaller tank keeps its spots in the water
    for (const s of z.spots) {
      s.xCm = Math.min(s.xCm, z.tank.lengthCm);
      s.yCm = Math.min(s.yCm, z.tank.widthCm);
      s.depthCm = Math.min(s.depthCm, z.tank.depthCm);
    }
  });

/** Adds a water, empty or with its spots; lamps come by `addGroup`. */
export const addZone = (zone: Zone): Command =>
  onCase(`add ${zone.name}`, (doc) => {
    doc.zones.push(zone);
  });

/** Takes a water out with everything that ran, was read and was logged there. The last one stays. */
export function removeZone(zoneId: string, name: string): Command {
  const elsewhere = (x: { zoneId: string }) => x.zoneId !== zoneId;
  const edit = onBundle(`remove ${name}`, (b) => {
    keep(b.case.zones, (z) => z.id !== zoneId);
    keep(b.history.entries, elsewhere);
    keep(b.history.plans, elsewhere);
    keep(b.readings.sessions, elsewhere);
  });
  return {
    ...edit,
    apply: (b) => {
      const heir = b.case.zones.find((z) => z.id !== zoneId);
      if (!heir) return b;
      // what is of the water that all share stays
      const events = b.log.events
        .filter((e) => elsewhere(e) || kindOf(e).shared)
        .map((e) => (elsewhere(e) ? e : { ...e, zoneId: heir.id }));
      return withEvents(edit.apply(b), events);
    },
  };
}

/** What is known of the water that all zones share. */
export const setSystem = (change: Partial<SystemWater>): Command =>
  onCase('shared water', (doc) => {
    doc.system = { ...NO_SYSTEM, ...doc.system, ...change };
  });

/** What kinds want in this water, where that is not the rule of thumb. */
export const setNeeds = (zoneId: string, needs: Zone['needs']): Command =>
  onZone('what kinds want', zoneId, (z) => {
    z.needs = needs;
  });

export const setKwhPrice = (kwhPrice: number | null): Command =>
  onCase('price of power', (doc) => {
    doc.kwhPrice = kwhPrice;
  });
