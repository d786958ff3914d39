import type { CaseBundle } from '@/core/record/documents';
import type { CaseDoc } from '@/core/record/caseDoc';
import type { Group, Spot, Zone } from '@/core/record/zone';

/** A named edit: a pure function from bundle to bundle. Commands with the same `merge` key in quick succession are one step. */
export interface Command {
  name: string;
  merge?: string;
  apply: (bundle: CaseBundle) => CaseBundle;
}

export const onCase = (name: string, change: (doc: CaseDoc) => CaseDoc, merge?: string): Command => ({
  name,
  merge,
  apply: (b) => ({ ...b, case: change(b.case) }),
});

export const replace = <T extends { id: string }>(list: T[], id: string, change: (item: T) => T): T[] =>
  list.map((item) => (item.id === id ? change(item) : item));

export const onZone = (zoneId: string, change: (zone: Zone) => Zone) => (doc: CaseDoc) => ({
  ...doc,
  zones: replace(doc.zones, zoneId, change),
});

export const onGroup = (groupId: string, change: (group: Group) => Group) => (doc: CaseDoc) => ({
  ...doc,
  zones: doc.zones.map((z) => ({ ...z, groups: replace(z.groups, groupId, change) })),
});

export const onSpot = (name: string, zoneId: string, spotId: string, change: (spot: Spot) => Spot): Command =>
  onCase(
    name,
    onZone(zoneId, (z) => ({ ...z, spots: replace(z.spots, spotId, change) })),
  );

/** Commands one after the other as one step of history. */
export const together = (name: string, ...commands: readonly Command[]): Command => ({
  name,
  apply: (b) => commands.reduce((now, c) => c.apply(now), b),
});
