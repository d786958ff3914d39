import type * as v from 'valibot';

import { id, instant, text } from '../../shape/shape';
import type { CaseDoc } from '../caseDoc';
import type { Place, Zone } from '../zone';

/** What every entry of the log has: the keeper's own words stand in its note. */
export const logBase = { id, zoneId: id, atUtc: instant, note: text };
export type LogBase = v.InferOutput<v.ObjectSchema<typeof logBase, undefined>> & { kind: string };

/** What an entry does to the light of its zone. */
export type Act =
  /** lamps without power for a while; null = all of them */
  | { does: 'dark'; fromMs: number; toMs: number; groupIds: string[] | null }
  /** other water from here on; what it was until then */
  | { does: 'water'; atMs: number; yellowBefore: number }
  /** a lens wiped: the share of its light it had lost until then; null = all lamps */
  | { does: 'wipe'; atMs: number; groupId: string | null; lostShare: number }
  /** a spot elsewhere from here on; where it was until then */
  | { does: 'move'; atMs: number; spotId: string; from: Place };

/** A part of the log that can be looked at by itself. */
export interface Lane {
  id: string;
  label: string;
  /** offered also while nothing stands in it */
  always: boolean;
}
export const EVENTS: Lane = { id: 'event', label: 'Events', always: true };

interface FieldBase<E> {
  key: string;
  label: string;
  hint?: string;
  /** stands beside the field before it */
  beside?: boolean;
  /** shown only where this holds */
  where?(zone: Zone, event: E | undefined): boolean;
}
/** A field of an entry's form, with what stands in it at first: of the entry that is changed, or what is usual. */
export type LogField<E> = FieldBase<E> &
  (
    | {
        is: 'number';
        unit: string;
        low: number;
        high: number;
        /** what is said of anything else */
        say: string;
        mayBeEmpty?: boolean;
        /** other units that may be typed after the number, or that its size tells */
        also?: readonly { unit: string; to: (v: number) => number; when?: (v: number) => boolean }[];
        from(event: E | undefined, zone: Zone): number | null;
      }
    /** words of the keeper's own; what was written last time is offered */
    | { is: 'text'; most: number; from(event: E | undefined): string; offered(event: E): string }
    | {
        is: 'choice';
        options(zone: Zone): { value: string; label: string }[];
        from(event: E | undefined, zone: Zone): string;
      }
    /** an end, later than the entry itself; null = not yet */
    | { is: 'end'; ended: string; lasts: string; from(event: E | undefined): string | null }
  );
/** What was typed, by key of its field. */
export type LogValues = Readonly<Record<string, number | string | null>>;

/** How a keeper enters it. */
export interface LogForm<E> {
  /** the key that opens it */
  key: string;
  title: string;
  when: string;
  /** when it was is asked after the figures */
  whenLast?: boolean;
  fields: LogField<E>[];
  note: { label: string; hint: string; needed?: string };
  /** whether the log of this water offers it; absent = always */
  offered?(zone: Zone): boolean;
  /** why it cannot be entered in this water; null = it can */
  closed?(zone: Zone): string | null;
  /** what stands under the fields; new = entered for the first time */
  about?(zone: Zone, event: E | undefined): string | null;
  /** what follows from what is typed, as it is typed; earlier = entries of its kind, oldest first */
  live?(values: LogValues, doc: CaseDoc, earlier: readonly E[], nowMs: number): string | null;
  caution?: { kind: 'note' | 'mains'; words: string; onlyNew: boolean };
  /** the entry without what all have; or what is wrong, at which field */
  make(
    values: LogValues,
    zone: Zone,
    event: E | undefined,
  ): Omit<E, keyof LogBase> | { field: string; say: string };
  /** what a new entry says of the zone's water from then on */
  water?(made: E): number;
  /** where the keeper is led afterwards: light rose by it, or was missed */
  then?: 'risen' | 'missed';
}

/**
 * A kind of entry of the log: its shape, its words, its form, what it does to the light, the lane it stands in. Everything that
 * depends on the kind of an entry asks here.
 */
export interface LogKind<E extends LogBase = LogBase> {
  kind: E['kind'];
  schema: v.GenericSchema<unknown, E>;
  lane: Lane;
  /** of the water that all zones share: it stands in the log of each */
  shared?: boolean;
  words(event: E, zone: Zone): string;
  details?(event: E): string[];
  acts?(event: E): Act[];
  /** null = it is entered elsewhere */
  form: LogForm<E> | null;
  /** what is said where an entry without a form is taken out */
  removing?: string;
}
export const logKind = <const E extends LogBase>(kind: LogKind<E>): LogKind<E> => kind;

export const spotName = (zone: Zone, spotId: string): string =>
  zone.spots.find((s) => s.id === spotId)?.name ?? 'something since removed';
export const groupName = (zone: Zone, groupId: string): string =>
  zone.groups.find((g) => g.id === groupId)?.name ?? 'lamps since taken down';
/** A choice of one group of lamps, or all. */
export const ALL = 'all';
export const whichLamps = (zone: Zone): { value: string; label: string }[] => [
  { value: ALL, label: 'all' },
  ...zone.groups.map((g) => ({ value: g.id, label: g.name })),
];
