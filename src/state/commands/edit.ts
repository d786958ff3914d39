import { produce } from 'immer';

import type { CaseBundle } from '@/core/record/documents';
import type { CaseDoc } from '@/core/record/caseDoc';
import type { Group, Spot, Zone } from '@/core/record/zone';

/** A named edit: a pure function from bundle to bundle. Commands with the same `merge` key in quick succession are one step. */
export interface Command {
  name: string;
  merge?: string;
  apply: (bundle: CaseBundle) => CaseBundle;
}

/** An edit written as a change in place: it works on a draft, and what it does not touch keeps its identity. */
export const onBundle = (name: string, change: (bundle: CaseBundle) => void, merge?: string): Command => ({
  name,
  merge,
  apply: (bundle) =>
    produce(bundle, (draft) => {
      change(draft);
    }),
});

export const onCase = (name: string, change: (doc: CaseDoc) => void, merge?: string): Command =>
  onBundle(name, (b) => change(b.case), merge);

/** Puts an item in the place of the one with its id, or at the end. */
export function put<T extends { id: string }>(list: T[], item: T): void {
  const at = list.findIndex((x) => x.id === item.id);
  list.splice(at < 0 ? list.length : at, 1, item);
}

/** Puts an item in the place of the one with its id, where there is one. */
export function swap<T extends { id: string }>(list: T[], item: T): void {
  if (list.some((x) => x.id === item.id)) put(list, item);
}

/** Takes out what does not stay. */
export function keep<T>(list: T[], stays: (item: T) => boolean): void {
  if (!list.every(stays)) list.splice(0, list.length, ...list.filter(stays));
}

/** Changes the item with an id, where there is one. */
export function within<T extends { id: string }>(list: T[], id: string, change: (item: T) => void): void {
  const item = list.find((x) => x.id === id);
  if (item) change(item);
}

export const groupsOf = (doc: CaseDoc): Group[] => doc.zones.flatMap((z) => z.groups);

export const onZone = (
  name: string,
  zoneId: string,
  change: (zone: Zone, doc: CaseDoc) => void,
  merge?: string,
): Command => onCase(name, (doc) => within(doc.zones, zoneId, (z) => change(z, doc)), merge);

export const onGroup = (
  name: string,
  groupId: string,
  change: (group: Group, doc: CaseDoc) => void,
  merge?: string,
): Command => onCase(name, (doc) => within(groupsOf(doc), groupId, (g) => change(g, doc)), merge);

export const onSpot = (name: string, zoneId: string, spotId: string, change: (spot: Spot) => void): Command =>
  onZone(name, zoneId, (z) => within(z.spots, spotId, change));

/** Commands one after the other as one step of history. */
export const together = (name: string, ...commands: readonly Command[]): Command => ({
  name,
  apply: (b) => commands.reduce((now, c) => c.apply(now), b),
});
