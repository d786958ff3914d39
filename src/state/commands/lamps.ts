import type { Plate } from '@/core/record/caseDoc';
import type { Group, HungLamp } from '@/core/record/zone';
import type { Levels, LampKind } from '@/core/spectrum/lampKind';
import { type Command, groupsOf, keep, onCase, onGroup, onZone, put, swap } from './edit';

export const setLamp = (groupId: string, lamp: HungLamp): Command =>
  onGroup(`lamp ${lamp.name}`, groupId, (g) => put(g.lamps, lamp));

export const removeLamp = (groupId: string, lampId: string): Command =>
  onGroup('take a lamp down', groupId, (g) => keep(g.lamps, (l) => l.id !== lampId));

/** Adds a group with its lamp kind, unless the case has that already, and a first plate. */
export const addGroup = (
  zoneId: string,
  kind: LampKind,
  plate: Plate,
  group: Group,
  known = false,
): Command =>
  onZone('add lamps', zoneId, (z, doc) => {
    z.groups.push(group);
    if (!known) doc.lampKinds.push(kind);
    doc.plates.push(plate);
  });

/** Forgets a lamp kind that hangs nowhere, with its plates and days. */
export const removeLampKind = (kindId: string): Command =>
  onCase('forget a lamp', (doc) => {
    if (groupsOf(doc).some((g) => g.lampKindId === kindId)) return;
    keep(doc.lampKinds, (k) => k.id !== kindId);
    keep(doc.plates, (p) => p.lampKindId !== kindId);
    if (doc.days) keep(doc.days, (d) => d.lampKindId !== kindId);
  });

/**
 * Replaces a lamp kind; controls that vanish also vanish from plates, kept days and threads.
 * @param inThem what a mix of the former controls is in the new ones, where they differ
 */
export const setLampKind = (kind: LampKind, inThem = (mix: Levels): Levels => mix): Command =>
  onCase(`lamp ${kind.name}`, (doc) => {
    const ids = new Set(kind.controls.map((c) => c.id));
    const known = (mix: Levels): Levels =>
      Object.fromEntries(Object.entries(inThem(mix)).filter(([id]) => ids.has(id)));
    swap(doc.lampKinds, kind);
    for (const p of doc.plates.filter((x) => x.lampKindId === kind.id)) {
      p.mix = known(p.mix);
      keep(p.locked, (id) => ids.has(id));
      for (const old of p.versions) old.mix = known(old.mix);
    }
    for (const d of doc.days?.filter((x) => x.lampKindId === kind.id) ?? [])
      for (const t of d.threads) t.mix = known(t.mix);
    for (const g of groupsOf(doc).filter((x) => x.lampKindId === kind.id))
      for (const t of g.threads) if ('own' in t.mix) t.mix = { own: known(t.mix.own) };
  });

/** Adds a lamp kind to the case without hanging it: what a foreign plate was made for. */
export const addLampKind = (kind: LampKind, plate?: Plate): Command =>
  onCase(`lamp ${kind.name}`, (doc) => {
    doc.lampKinds.push(kind);
    if (plate) doc.plates.push(plate);
  });

/** Hangs a group whose kind of lamp the case has. */
export const hangGroup = (zoneId: string, group: Group): Command =>
  onZone('hang lamps', zoneId, (z) => {
    z.groups.push(group);
  });
