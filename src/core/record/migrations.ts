import { BAND_IDS } from '../spectrum/bands';
import { controlPerChannel } from '../spectrum/controls';
import { PLAIN_CONTROLLER } from '../spectrum/lampKind';
import { each, isObject, type Loose, type Migration } from './read';

/** Version 1 lamps had a level per channel, light proportional to it, and no budget. */
function lampTo2(kind: Loose): Loose {
  const channels = Array.isArray(kind.channels) ? kind.channels.filter(isObject) : [];
  return {
    ...kind,
    source: 'led',
    channels: each(kind.channels, (c) => ({ ...c, dimming: { lowestLitShare: 0, curve: [] } })),
    controls: controlPerChannel(channels as { id: string; name: string }[]),
    layout: 'spread',
    powerBudgetWatts: null,
    price: null,
    controller: isObject(kind.controller)
      ? { ...kind.controller, capMeans: 'multiplies', easingOf: 'target' }
      : kind.controller,
  };
}

/** Before version 3 a tank was a box of clean glass with sand, and of corals only a kind was known. */
const zoneTo3 = (z: Loose): Loose => ({
  ...z,
  tank: isObject(z.tank)
    ? {
        ...z.tank,
        walls: { left: 1, right: 1, front: 1, back: 1 },
        floorReflectance: 0.4,
        lidShare: 1,
        solids: [],
      }
    : z.tank,
  carbonDate: null,
  rippleSlope: 0.05,
  needs: {},
  spots: each(z.spots, (s) => ({ ...s, wants: null, arrived: null, sourceLight: '' })),
});

/** Before version 4 a controller took any number of points, and nothing but threads and cap acted on a day. */
const lampTo4 = (kind: Loose): Loose => {
  const switched =
    Array.isArray(kind.controls) &&
    kind.controls.length > 0 &&
    kind.controls.every((c) => isObject(c) && c.kind === 'onOff');
  return isObject(kind.controller)
    ? {
        ...kind,
        controller: {
          ...PLAIN_CONTROLLER,
          ...(switched ? { name: 'Clock per circuit', sets: 'switch' } : {}),
          ...kind.controller,
        },
      }
    : kind;
};
const lampInside = (item: Loose): Loose =>
  isObject(item.lampKind) ? { ...item, lampKind: lampTo4(item.lampKind) } : item;

/** Steps of the case document; index 0 leads from version 1 to 2. */
export const CASE_MIGRATIONS: readonly Migration[] = [
  (doc) => ({
    ...doc,
    lampKinds: each(doc.lampKinds, lampTo2),
    plates: each(doc.plates, (p) => ({ ...p, locked: [], versions: [] })),
    references: [],
    forms: [],
    zones: each(doc.zones, (z) => ({
      ...z,
      spots: each(z.spots, (s) => ({ ...s, formId: null, soloNotes: [] })),
    })),
  }),
  (doc) => ({ ...doc, zones: each(doc.zones, zoneTo3) }),
  (doc) => ({ ...doc, lampKinds: each(doc.lampKinds, lampTo4) }),
  // algae, how water passes them, chores and the shared water may be said from then on
  (doc) => doc,
];

/** Before version 5 an entry carried the caps still to be typed in; they become a plan of their own. */
function capStepsToPlans(doc: Loose): Loose {
  const entries = Array.isArray(doc.entries) ? doc.entries.filter(isObject) : [];
  const latest = new Map<unknown, Loose>();
  for (const e of entries) {
    const old = latest.get(e.groupId);
    if (!old || String(e.atUtc) >= String(old.atUtc)) latest.set(e.groupId, e);
  }
  const plans = [...latest.values()].flatMap((e): Loose[] => {
    const steps = Array.isArray(e.capSteps) ? e.capSteps.filter(isObject) : [];
    const top = steps.reduce((most, s) => Math.max(most, Number(s.capShare) || 0), 0);
    if (steps.length === 0 || !(top > 0)) return [];
    const { groupId, groupName, lampKind, lamps, threads, extras } = e;
    return [
      {
        id: `${String(e.id)}-caps`,
        zoneId: e.zoneId,
        name: 'Cap steps',
        createdUtc: e.atUtc,
        targets: [
          { groupId, groupName, lampKind, lamps, threads, capShare: top, ...(extras ? { extras } : {}) },
        ],
        from: [],
        method: 'cap',
        schedule: { kind: 'fastest' },
        ceiling: 1.3,
        steps: steps.map((s) => ({ date: s.date, setting: Number(s.capShare) / top, doneUtc: null })),
        state: 'active',
        deeds: [],
      },
    ];
  });
  return {
    ...doc,
    entries: each(doc.entries, ({ capSteps: _, ...rest }) => rest),
    plans,
  };
}

/** Steps of the history of running. */
export const HISTORY_MIGRATIONS: readonly Migration[] = [
  (doc) => ({
    ...doc,
    entries: each(doc.entries, (e) => (isObject(e.lampKind) ? { ...e, lampKind: lampTo2(e.lampKind) } : e)),
  }),
  // lamps may lean and carry an optic from then on
  (doc) => doc,
  (doc) => ({ ...doc, entries: each(doc.entries, lampInside) }),
  capStepsToPlans,
];

/** Steps of the log: harvests, tests and chores are known from version 2 on. */
export const LOG_MIGRATIONS: readonly Migration[] = [(doc) => doc];

/** Steps of the readings: in version 1 each was taken alone, at a spot, in µmol. */
export const READINGS_MIGRATIONS: readonly Migration[] = [
  ({ readings, ...doc }) => ({
    ...doc,
    sessions: each(readings, (r) => ({
      id: r.id,
      zoneId: r.zoneId,
      name: 'One reading',
      atUtc: r.atUtc,
      meter: { kind: 'ideal', immersionFactor: 1, sensorAboveCm: 0, simulated: false },
      pumpsOn: true,
      lit: '',
      counts: true,
      // where it was taken follows from its spot
      rig: null,
      readings: [
        {
          id: r.id,
          spotId: r.spotId,
          name: 'at its spot',
          xCm: 0,
          yCm: 0,
          depthCm: 0,
          atUtc: r.atUtc,
          tries: [r.valueUmol],
          bands: null,
          levels: r.levels,
        },
      ],
    })),
  }),
  (doc) => ({
    ...doc,
    sessions: each(doc.sessions, (s) => ({ ...s, rig: s.rig === null ? null : each(s.rig, lampInside) })),
  }),
  // a spectrometer's bands stood in their order, without their names
  (doc) => ({
    ...doc,
    sessions: each(doc.sessions, (s) => ({
      ...s,
      readings: each(s.readings, (r) => ({
        ...r,
        bands: Array.isArray(r.bands)
          ? Object.fromEntries(BAND_IDS.map((b, i) => [b, (r.bands as unknown[])[i]]))
          : r.bands,
      })),
    })),
  }),
  // readings of a proof were nowhere kept
  (doc) => ({ ...doc, proofs: [] }),
];

/** Steps of a plate file: its lamp is one of the case's. */
export const PLATE_MIGRATIONS: readonly Migration[] = [lampInside];
