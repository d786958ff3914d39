import { lampKindOf, resolveThread } from '@/core/case/lit';
import type { KeptDay } from '@/core/record/caseDoc';
import type { Thread } from '@/core/record/zone';
import type { Extras } from '@/core/day/extras';
import { threadBetween } from '@/core/day/thread';
import type { Levels } from '@/core/spectrum/lampKind';
import { formatTime } from '@/core/day/clock';
import { type Command, groupsOf, keep, onCase, onGroup, onZone, swap, within } from './edit';

export const setCap = (groupId: string, capShare: number, merge?: string): Command =>
  onGroup(
    'cap',
    groupId,
    (g) => {
      g.capShare = capShare;
    },
    merge,
  );

export const moveThread = (groupId: string, thread: Thread, merge?: string): Command =>
  onGroup(`thread at ${formatTime(thread.minute)}`, groupId, (g) => swap(g.threads, thread), merge);

/** Adds a thread at a minute from what is lit there; a plate shared by both neighbours is kept as that plate. */
export const addThread = (groupId: string, id: string, minute: number): Command =>
  onGroup(`new thread at ${formatTime(minute)}`, groupId, (g, doc) => {
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
    g.threads.push({ id, minute, strengthShare: Math.round(between.strengthShare * 100) / 100, mix });
  });

const roundMix = (mix: Levels): Levels =>
  Object.fromEntries(Object.entries(mix).map(([id, v]) => [id, Math.round(v * 100) / 100]));

export const removeThread = (groupId: string, threadId: string): Command =>
  onGroup('remove a thread', groupId, (g) => keep(g.threads, (t) => t.id !== threadId));

/** Keeps a day by name; one that has the name already is replaced. */
export const keepDay = (day: KeptDay): Command =>
  onCase(`keep the day “${day.name}”`, (doc) => {
    const days = (doc.days ??= []);
    keep(days, (d) => d.name !== day.name || d.lampKindId !== day.lampKindId);
    days.push(day);
  });

export const forgetDay = (dayId: string): Command =>
  onCase('forget a kept day', (doc) => {
    if (!doc.days) return;
    keep(doc.days, (d) => d.id !== dayId);
    if (doc.days.length === 0) delete doc.days;
  });

/** What acts on a group's days besides threads and cap. */
export const setExtras = (groupId: string, change: (extras: Extras) => Extras, merge?: string): Command =>
  onGroup(
    'what acts on the day',
    groupId,
    (g) => {
      const next = Object.fromEntries(
        Object.entries(change(g.extras ?? {})).filter(
          ([, v]) => v !== undefined && !(Array.isArray(v) && v.length === 0),
        ),
      ) as Extras;
      if (Object.keys(next).length > 0) g.extras = next;
      else delete g.extras;
    },
    merge,
  );

/** Threads of a group changed together: a move of the whole day or of several threads. */
export const setThreads = (groupId: string, name: string, threads: Thread[], merge?: string): Command =>
  onGroup(
    name,
    groupId,
    (g) => {
      g.threads = threads;
    },
    merge,
  );

/** Says whether those who live under lamps that have not run yet live under this day already. */
export const setUsedTo = (groupId: string, usedTo: boolean): Command =>
  onGroup(usedTo ? 'they are used to it' : 'new to them', groupId, (g) => {
    if (usedTo) g.usedTo = true;
    else delete g.usedTo;
  });

/** A new day for one or more groups, each with its cap where that changes too. */
export const setDays = (
  name: string,
  days: readonly { groupId: string; threads: Thread[]; capShare?: number }[],
): Command =>
  onCase(name, (doc) => {
    for (const { groupId, threads, capShare } of days)
      within(groupsOf(doc), groupId, (g) => {
        g.threads = threads;
        g.capShare = capShare ?? g.capShare;
      });
  });

/** Caps of all groups of a water times one factor: unlike lamps under one percent. */
export const scaleCaps = (zoneId: string, caps: Readonly<Record<string, number>>, merge?: string): Command =>
  onZone(
    'all caps together',
    zoneId,
    (z) => {
      for (const g of z.groups) g.capShare = caps[g.id] ?? g.capShare;
    },
    merge,
  );
