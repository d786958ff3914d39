import { lampKindOf, resolveThread } from '@/core/case/lit';
import { runnableOf } from '@/core/case/runnable';
import type { CaseBundle } from '@/core/record/documents';
import type { CaseDoc, Plate, SavedSpectrum, SystemWater } from '@/core/record/caseDoc';
import type { EasingPlan, HistoryDoc, PlanDeed, Runnable, RunningEntry } from '@/core/record/history';
import {
  type Group,
  type HungLamp,
  type SoloNote,
  type Spot,
  type Thread,
  type Zone,
  placeOf,
  samePlace,
} from '@/core/record/zone';
import { kindOf, type LogEvent } from '@/core/record/log';
import type { Reading, Session } from '@/core/record/readings';
import { NO_SYSTEM } from '@/core/record/system';
import type { CoralForm } from '@/core/coral/form';
import type { Extras } from '@/core/day/extras';
import { threadBetween } from '@/core/day/thread';
import type { Levels, LampKind } from '@/core/spectrum/lampKind';
import { formatTime } from '@/core/day/clock';

/** A named edit: a pure function from bundle to bundle. Commands with the same `merge` key in quick succession are one step. */
export interface Command {
  name: string;
  merge?: string;
  apply: (bundle: CaseBundle) => CaseBundle;
}

const onCase = (name: string, change: (doc: CaseDoc) => CaseDoc, merge?: string): Command => ({
  name,
  merge,
  apply: (b) => ({ ...b, case: change(b.case) }),
});
const replace = <T extends { id: string }>(list: T[], id: string, change: (item: T) => T): T[] =>
  list.map((item) => (item.id === id ? change(item) : item));
const onZone = (zoneId: string, change: (zone: Zone) => Zone) => (doc: CaseDoc) => ({
  ...doc,
  zones: replace(doc.zones, zoneId, change),
});
const onGroup = (groupId: string, change: (group: Group) => Group) => (doc: CaseDoc) => ({
  ...doc,
  zones: doc.zones.map((z) => ({ ...z, groups: replace(z.groups, groupId, change) })),
});

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

export const setSpot = (zoneId: string, spot: Spot): Command =>
  onCase(
    `spot ${spot.name}`,
    onZone(zoneId, (z) => ({
      ...z,
      spots: z.spots.some((s) => s.id === spot.id)
        ? replace(z.spots, spot.id, () => spot)
        : [...z.spots, spot],
    })),
  );

/** What kinds want in this water, where that is not the rule of thumb. */
export const setNeeds = (zoneId: string, needs: Zone['needs']): Command =>
  onCase(
    'what kinds want',
    onZone(zoneId, (z) => ({ ...z, needs })),
  );

const onSpot = (name: string, zoneId: string, spotId: string, change: (spot: Spot) => Spot): Command =>
  onCase(
    name,
    onZone(zoneId, (z) => ({ ...z, spots: replace(z.spots, spotId, change) })),
  );

/** Says what the coral at a spot is made of. */
export const setSpotForm = (zoneId: string, spotId: string, formId: string | null): Command =>
  onSpot('colour form of a coral', zoneId, spotId, (s) => ({ ...s, formId }));

/**
 * Changes the form of a coral. A form of the library is copied into the case first, for this coral alone; `copyId` is the id
 * the copy gets.
 */
export const editForm = (
  zoneId: string,
  spotId: string,
  form: CoralForm,
  copyId: string,
  merge?: string,
): Command =>
  onCase(
    `colour form ${form.name}`,
    (doc) => {
      if (doc.forms.some((f) => f.id === form.id))
        return { ...doc, forms: replace(doc.forms, form.id, () => form) };
      const copy = { ...form, id: copyId };
      const added = { ...doc, forms: [...doc.forms, copy] };
      return onZone(zoneId, (z) => ({
        ...z,
        spots: replace(z.spots, spotId, (s) => ({ ...s, formId: copyId })),
      }))(added);
    },
    merge,
  );

export const removeForm = (formId: string): Command =>
  onCase('remove a colour form', (doc) => ({
    ...doc,
    forms: doc.forms.filter((f) => f.id !== formId),
    zones: doc.zones.map((z) => ({
      ...z,
      spots: z.spots.map((s) => (s.formId === formId ? { ...s, formId: null } : s)),
    })),
  }));

export const addSoloNote = (zoneId: string, spotId: string, note: SoloNote): Command =>
  onSpot('what a lone colour did', zoneId, spotId, (s) => ({
    ...s,
    // the newest word on a colour and region counts
    soloNotes: [...s.soloNotes.filter((x) => x.colour !== note.colour || x.region !== note.region), note],
  }));

export const removeSoloNote = (zoneId: string, spotId: string, noteId: string): Command =>
  onSpot('remove a note', zoneId, spotId, (s) => ({
    ...s,
    soloNotes: s.soloNotes.filter((x) => x.id !== noteId),
  }));

export const removeSpot = (zoneId: string, spotId: string): Command =>
  onCase(
    'remove a spot',
    onZone(zoneId, (z) => ({ ...z, spots: z.spots.filter((s) => s.id !== spotId) })),
  );

export const setLamp = (groupId: string, lamp: HungLamp): Command =>
  onCase(
    `lamp ${lamp.name}`,
    onGroup(groupId, (g) => ({
      ...g,
      lamps: g.lamps.some((l) => l.id === lamp.id)
        ? replace(g.lamps, lamp.id, () => lamp)
        : [...g.lamps, lamp],
    })),
  );

export const removeLamp = (groupId: string, lampId: string): Command =>
  onCase(
    'take a lamp down',
    onGroup(groupId, (g) => ({ ...g, lamps: g.lamps.filter((l) => l.id !== lampId) })),
  );

/** Adds a group with its lamp kind, unless the case has that already, and a first plate. */
export const addGroup = (
  zoneId: string,
  kind: LampKind,
  plate: Plate,
  group: Group,
  known = false,
): Command =>
  onCase('add lamps', (doc) => ({
    ...onZone(zoneId, (z) => ({ ...z, groups: [...z.groups, group] }))(doc),
    lampKinds: known ? doc.lampKinds : [...doc.lampKinds, kind],
    plates: [...doc.plates, plate],
  }));

/** Takes a group down. Its lamp kind and plates stay in the case: they can be carried to what hangs there next. */
export const removeGroup = (groupId: string): Command =>
  onCase('take lamps down', (doc) => ({
    ...doc,
    zones: doc.zones.map((z) => ({ ...z, groups: z.groups.filter((g) => g.id !== groupId) })),
  }));

/** Forgets a lamp kind that hangs nowhere, with its plates. */
export const removeLampKind = (kindId: string): Command =>
  onCase('forget a lamp', (doc) =>
    doc.zones.some((z) => z.groups.some((g) => g.lampKindId === kindId))
      ? doc
      : {
          ...doc,
          lampKinds: doc.lampKinds.filter((k) => k.id !== kindId),
          plates: doc.plates.filter((p) => p.lampKindId !== kindId),
        },
  );

/** Replaces a lamp kind; controls that vanish also vanish from plates and threads. */
export const setLampKind = (kind: LampKind): Command =>
  onCase(`lamp ${kind.name}`, (doc) => {
    const ids = new Set(kind.controls.map((c) => c.id));
    const known = (mix: Levels): Levels =>
      Object.fromEntries(Object.entries(mix).filter(([id]) => ids.has(id)));
    return {
      ...doc,
      lampKinds: replace(doc.lampKinds, kind.id, () => kind),
      plates: doc.plates.map((p) =>
        p.lampKindId === kind.id
          ? {
              ...p,
              mix: known(p.mix),
              locked: p.locked.filter((id) => ids.has(id)),
              versions: p.versions.map((old) => ({ ...old, mix: known(old.mix) })),
            }
          : p,
      ),
      zones: doc.zones.map((z) => ({
        ...z,
        groups: z.groups.map((g) =>
          g.lampKindId === kind.id
            ? {
                ...g,
                threads: g.threads.map((t) =>
                  'own' in t.mix ? { ...t, mix: { own: known(t.mix.own) } } : t,
                ),
              }
            : g,
        ),
      })),
    };
  });

export const setMix = (plateId: string, mix: Levels, merge?: string): Command =>
  onCase('mix', (doc) => ({ ...doc, plates: replace(doc.plates, plateId, (p) => ({ ...p, mix })) }), merge);

export const renamePlate = (plateId: string, name: string): Command =>
  onCase('rename a plate', (doc) => ({
    ...doc,
    plates: replace(doc.plates, plateId, (p) => ({ ...p, name })),
  }));

/** Adds a plate, behind another one when that is named. */
export const addPlate = (plate: Plate, afterId?: string): Command =>
  onCase('new plate', (doc) => {
    const at = doc.plates.findIndex((p) => p.id === afterId);
    const plates = [...doc.plates];
    plates.splice(at < 0 ? plates.length : at + 1, 0, plate);
    return { ...doc, plates };
  });

const onPlate = (name: string, plateId: string, change: (plate: Plate) => Plate, merge?: string): Command =>
  onCase(name, (doc) => ({ ...doc, plates: replace(doc.plates, plateId, change) }), merge);

export const setPlateNotes = (plateId: string, notes: string): Command =>
  onPlate('notes of a plate', plateId, (p) => ({ ...p, notes }));

/** Locks or frees a control of a plate. */
export const setLocked = (plateId: string, controlId: string, locked: boolean): Command =>
  onPlate(locked ? 'lock a channel' : 'free a channel', plateId, (p) => ({
    ...p,
    locked: locked ? [...new Set([...p.locked, controlId])] : p.locked.filter((id) => id !== controlId),
  }));

/** Keeps the present mix of a plate as a version of its own. */
export const saveVersion = (plateId: string, version: { id: string; atUtc: string; note: string }): Command =>
  onPlate('keep a version', plateId, (p) => ({
    ...p,
    versions: [...p.versions, { ...version, mix: p.mix }],
  }));

/** Goes back to a version; what stood before is kept as a version unless one has it already. */
export const restoreVersion = (
  plateId: string,
  versionId: string,
  present: { id: string; atUtc: string },
): Command =>
  onPlate('go back to a version', plateId, (p) => {
    const version = p.versions.find((x) => x.id === versionId);
    if (!version) return p;
    const known = p.versions.some((x) => sameMix(x.mix, p.mix));
    return {
      ...p,
      mix: version.mix,
      versions: known ? p.versions : [...p.versions, { ...present, note: 'before going back', mix: p.mix }],
    };
  });

export const removeVersion = (plateId: string, versionId: string): Command =>
  onPlate('drop a version', plateId, (p) => ({
    ...p,
    versions: p.versions.filter((x) => x.id !== versionId),
  }));

const sameMix = (a: Levels, b: Levels) =>
  [...new Set([...Object.keys(a), ...Object.keys(b)])].every((id) => (a[id] ?? 0) === (b[id] ?? 0));

/** Moves a plate up or down in the order of the case. */
export const movePlate = (plateId: string, by: 1 | -1): Command =>
  onCase('order of plates', (doc) => {
    const from = doc.plates.findIndex((p) => p.id === plateId);
    const to = from + by;
    if (from < 0 || to < 0 || to >= doc.plates.length) return doc;
    const plates = [...doc.plates];
    [plates[from], plates[to]] = [plates[to]!, plates[from]!];
    return { ...doc, plates };
  });

export const addReference = (reference: SavedSpectrum): Command =>
  onCase(`spectrum ${reference.name}`, (doc) => ({ ...doc, references: [...doc.references, reference] }));

export const removeReference = (id: string): Command =>
  onCase('remove a spectrum', (doc) => ({ ...doc, references: doc.references.filter((r) => r.id !== id) }));

/** Adds a lamp kind to the case without hanging it: what a foreign plate was made for. */
export const addLampKind = (kind: LampKind, plate?: Plate): Command =>
  onCase(`lamp ${kind.name}`, (doc) => ({
    ...doc,
    lampKinds: [...doc.lampKinds, kind],
    plates: plate ? [...doc.plates, plate] : doc.plates,
  }));

/** Removes a plate; threads that used it keep its mix as their own. */
export const removePlate = (plateId: string): Command =>
  onCase('remove a plate', (doc) => ({
    ...doc,
    plates: doc.plates.filter((p) => p.id !== plateId),
    zones: doc.zones.map((z) => ({
      ...z,
      groups: z.groups.map((g) => ({
        ...g,
        threads: g.threads.map((t) =>
          'plateId' in t.mix && t.mix.plateId === plateId
            ? { ...t, mix: { own: resolveThread(doc, t).mix } }
            : t,
        ),
      })),
    })),
  }));

export const setCap = (groupId: string, capShare: number, merge?: string): Command =>
  onCase(
    'cap',
    onGroup(groupId, (g) => ({ ...g, capShare })),
    merge,
  );

export const moveThread = (groupId: string, thread: Thread, merge?: string): Command =>
  onCase(
    `thread at ${formatTime(thread.minute)}`,
    onGroup(groupId, (g) => ({ ...g, threads: replace(g.threads, thread.id, () => thread) })),
    merge,
  );

/** Adds a thread at a minute from what is lit there; a plate shared by both neighbours is kept as that plate. */
export const addThread = (groupId: string, id: string, minute: number): Command =>
  onCase(`new thread at ${formatTime(minute)}`, (doc) =>
    onGroup(groupId, (g) => {
      const sorted = [...g.threads].sort((a, b) => a.minute - b.minute);
      const before = [...sorted].reverse().find((t) => t.minute < minute) ?? sorted[sorted.length - 1];
      const after = sorted.find((t) => t.minute > minute) ?? sorted[0];
      const between = threadBetween(
        sorted.map((t) => resolveThread(doc, t)),
        minute,
        lampKindOf(doc, g),
      );
      const shared =
        before &&
        after &&
        'plateId' in before.mix &&
        'plateId' in after.mix &&
        before.mix.plateId === after.mix.plateId;
      const firstPlate = doc.plates.find((p) => p.lampKindId === g.lampKindId);
      const mix: Thread['mix'] = shared
        ? before.mix
        : sorted.length === 0 && firstPlate
          ? { plateId: firstPlate.id }
          : { own: roundMix(between.mix) };
      return {
        ...g,
        threads: [
          ...g.threads,
          { id, minute, strengthShare: Math.round(between.strengthShare * 100) / 100, mix },
        ],
      };
    })(doc),
  );

const roundMix = (mix: Levels): Levels =>
  Object.fromEntries(Object.entries(mix).map(([id, v]) => [id, Math.round(v * 100) / 100]));

export const removeThread = (groupId: string, threadId: string): Command =>
  onCase(
    'remove a thread',
    onGroup(groupId, (g) => ({ ...g, threads: g.threads.filter((t) => t.id !== threadId) })),
  );

/** What acts on a group's days besides threads and cap. */
export const setExtras = (groupId: string, change: (extras: Extras) => Extras, merge?: string): Command =>
  onCase(
    'what acts on the day',
    onGroup(groupId, (g) => {
      const { extras, ...rest } = g;
      const next = Object.fromEntries(
        Object.entries(change(extras ?? {})).filter(
          ([, v]) => v !== undefined && !(Array.isArray(v) && v.length === 0),
        ),
      ) as Extras;
      return Object.keys(next).length > 0 ? { ...rest, extras: next } : rest;
    }),
    merge,
  );

/** Threads of a group changed together: a move of the whole day or of several threads. */
export const setThreads = (groupId: string, name: string, threads: Thread[], merge?: string): Command =>
  onCase(
    name,
    onGroup(groupId, (g) => ({ ...g, threads })),
    merge,
  );

/** A new day for one or more groups, each with its cap where that changes too. */
export const setDays = (
  name: string,
  days: readonly { groupId: string; threads: Thread[]; capShare?: number }[],
): Command =>
  onCase(name, (doc) =>
    days.reduce(
      (d, { groupId, threads, capShare }) =>
        onGroup(groupId, (g) => ({ ...g, threads, capShare: capShare ?? g.capShare }))(d),
      doc,
    ),
  );

/** Caps of all groups of a water times one factor: unlike lamps under one percent. */
export const scaleCaps = (zoneId: string, caps: Readonly<Record<string, number>>, merge?: string): Command =>
  onCase(
    'all caps together',
    onZone(zoneId, (z) => ({
      ...z,
      groups: z.groups.map((g) => ({ ...g, capShare: caps[g.id] ?? g.capShare })),
    })),
    merge,
  );

export const setKwhPrice = (kwhPrice: number | null): Command =>
  onCase('price of power', (doc) => ({ ...doc, kwhPrice }));

const onSessions = (name: string, change: (sessions: Session[]) => Session[], merge?: string): Command => ({
  name,
  merge,
  apply: (b) => ({ ...b, readings: { ...b.readings, sessions: change(b.readings.sessions) } }),
});

export const addSession = (session: Session): Command =>
  onSessions(`readings: ${session.name}`, (all) => [...all, session]);

export const setSession = (
  id: string,
  change: Partial<Pick<Session, 'name' | 'meter' | 'pumpsOn' | 'counts'>>,
): Command => onSessions('a session of readings', (all) => replace(all, id, (s) => ({ ...s, ...change })));

export const removeSession = (id: string): Command =>
  onSessions('remove a session', (all) => all.filter((s) => s.id !== id));

/** Puts a reading into a session, in place of the one with its id. */
export const setReading = (sessionId: string, reading: Reading): Command =>
  onSessions(`reading at ${reading.name}`, (all) =>
    replace(all, sessionId, (s) => ({
      ...s,
      readings: s.readings.some((r) => r.id === reading.id)
        ? replace(s.readings, reading.id, () => reading)
        : [...s.readings, reading],
    })),
  );

/** Removes a reading; a session that it leaves empty goes with it. */
export const removeReading = (sessionId: string, id: string): Command =>
  onSessions('remove a reading', (all) =>
    all.flatMap((s) => {
      if (s.id !== sessionId) return [s];
      const readings = s.readings.filter((r) => r.id !== id);
      return readings.length > 0 ? [{ ...s, readings }] : [];
    }),
  );

/** What runs from an instant on. */
export const entryOf = (
  target: Runnable,
  typed: Pick<RunningEntry, 'id' | 'zoneId' | 'atUtc'> &
    Partial<Pick<RunningEntry, 'usedTo' | 'planId' | 'rise' | 'sure'>>,
): RunningEntry => ({ ...target, sure: 'typedIn', easingShare: 1, usedTo: false, ...typed });

/** A group's draft as it would be frozen on being typed in. */
export const freeze = (
  doc: CaseDoc,
  zone: Zone,
  group: Group,
  typed: { id: string; atUtc: string; usedTo: boolean; sure?: RunningEntry['sure'] },
): RunningEntry => entryOf(runnableOf(doc, group), { ...typed, zoneId: zone.id });

const onHistory = (name: string, change: (history: HistoryDoc) => HistoryDoc): Command => ({
  name,
  apply: (b) => ({ ...b, history: change(b.history) }),
});

/** Plans that a newly typed-in day takes the place of. */
const stopOthers = (plans: readonly EasingPlan[], groupIds: readonly string[], by: string, atUtc: string) =>
  plans.map((p): EasingPlan =>
    (p.state === 'active' || p.state === 'paused') &&
    p.id !== by &&
    p.targets.some((t) => groupIds.includes(t.groupId))
      ? {
          ...p,
          state: 'stopped',
          deeds: [
            ...p.deeds,
            { id: `${by}-${p.id}`.slice(0, 80), atUtc, what: 'stopped', words: 'Another day was typed in.' },
          ],
        }
      : p,
  );

/** From draft to running. A plan of the same lamps ends with it. */
export const typeIn = (entry: RunningEntry): Command =>
  onHistory(`typed in: ${entry.groupName}`, (h) => ({
    ...h,
    entries: [...h.entries, entry],
    plans: stopOthers(h.plans, [entry.groupId], entry.planId ?? entry.id, entry.atUtc),
  }));

/** Says how sure it is that an entry runs, after readings. */
export const setSure = (entryId: string, sure: RunningEntry['sure'], words: string): Command =>
  onHistory(words, (h) => ({ ...h, entries: replace(h.entries, entryId, (e) => ({ ...e, sure })) }));

/** Begins a plan; what its first step types in, when that is today's, comes with it. */
export const startPlan = (plan: EasingPlan, entries: readonly RunningEntry[]): Command =>
  onHistory(`ease in: ${plan.name}`, (h) => ({
    ...h,
    entries: [...h.entries, ...entries],
    plans: [
      ...stopOthers(
        h.plans,
        plan.targets.map((t) => t.groupId),
        plan.id,
        plan.createdUtc,
      ),
      plan,
    ],
  }));

/** Changes a plan and says in its own log what was done; what is typed in on that occasion comes with it. */
export const changePlan = (
  planId: string,
  deed: PlanDeed,
  change: Partial<Pick<EasingPlan, 'steps' | 'state' | 'ceiling' | 'schedule'>>,
  entries: readonly RunningEntry[] = [],
): Command =>
  onHistory(deed.words.replace(/\.$/, ''), (h) => ({
    ...h,
    entries: [...h.entries, ...entries],
    plans: replace(h.plans, planId, (p) => ({ ...p, ...change, deeds: [...p.deeds, deed] })),
  }));

const onLog = (name: string, change: (events: LogEvent[]) => LogEvent[]): Command => ({
  name,
  apply: (b) => ({ ...b, log: { ...b.log, events: change(b.log.events) } }),
});

/** Puts an event into the log, in place of the one with its id. */
export const setEvent = (event: LogEvent, name: string): Command =>
  onLog(name, (all) =>
    all.some((e) => e.id === event.id) ? replace(all, event.id, () => event) : [...all, event],
  );

export const removeEvent = (id: string): Command =>
  onLog('remove from the log', (all) => all.filter((e) => e.id !== id));

/** Commands one after the other as one step of history. */
export const together = (name: string, ...commands: readonly Command[]): Command => ({
  name,
  apply: (b) => commands.reduce((now, c) => c.apply(now), b),
});

/** Moves of one coral within this time are one move. */
const SAME_MOVE_MS = 3_600_000;

/**
 * Puts a coral elsewhere. Where something already runs, that is a move in the tank: the log keeps from where to where, so that
 * what the coral is used to goes with it.
 */
export function moveSpot(zoneId: string, spot: Spot, moved: { id: string; atUtc: string }): Command {
  const edit = setSpot(zoneId, spot);
  return {
    ...edit,
    apply: (b) => {
      const next = edit.apply(b);
      const old = b.case.zones.find((z) => z.id === zoneId)?.spots.find((s) => s.id === spot.id);
      const runs = b.history.entries.some((e) => e.zoneId === zoneId && e.atUtc <= moved.atUtc);
      if (!old || old.need === null || !runs || samePlace(old, spot)) return next;
      const { events } = b.log;
      const last = events.findLast(
        (e): e is LogEvent & { kind: 'moved' } =>
          e.kind === 'moved' &&
          e.spotId === spot.id &&
          Date.parse(moved.atUtc) - Date.parse(e.atUtc) < SAME_MOVE_MS &&
          e.atUtc <= moved.atUtc,
      );
      const rest = events.filter((e) => e !== last);
      const from = last?.from ?? placeOf(old);
      const event: LogEvent = {
        id: last?.id ?? moved.id,
        zoneId,
        atUtc: last?.atUtc ?? moved.atUtc,
        note: last?.note ?? '',
        kind: 'moved',
        spotId: spot.id,
        from,
        to: placeOf(spot),
      };
      // back where it was: it has not moved
      return { ...next, log: { ...b.log, events: samePlace(from, spot) ? rest : [...rest, event] } };
    },
  };
}
