import type { Plate } from '@/core/record/caseDoc';
import type { Group, HungLamp } from '@/core/record/zone';
import type { Levels, LampKind } from '@/core/spectrum/lampKind';
import { type Command, onCase, replace, onZone, onGroup } from './edit';

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

/** Adds a lamp kind to the case without hanging it: what a foreign plate was made for. */
export const addLampKind = (kind: LampKind, plate?: Plate): Command =>
  onCase(`lamp ${kind.name}`, (doc) => ({
    ...doc,
    lampKinds: [...doc.lampKinds, kind],
    plates: plate ? [...doc.plates, plate] : doc.plates,
  }));
