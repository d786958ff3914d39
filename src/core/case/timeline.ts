import type { DayLight } from '../easing/accustomed';
import { stepRatio } from '../easing/accustomed';
import { chore } from './chores';
import { changesBetween } from './difference';
import { entriesOf } from './lit';
import type { MetChange } from './replay';
import { signWords } from './signs';
import type { HistoryDoc, LogDoc, LogEvent, RunningEntry, Zone } from './types';

export type LineKind = 'light' | 'step' | 'sign' | 'event' | 'note' | 'harvest' | 'test' | 'chore';
/** Kinds that are lines of their own in the log; everything else is an event. */
const OWN_KINDS = ['sign', 'note', 'harvest', 'test', 'chore'] as const;
const isOwn = (kind: string): kind is (typeof OWN_KINDS)[number] =>
  (OWN_KINDS as readonly string[]).includes(kind);

/** One line of the log, newest first. */
export interface LogLine {
  id: string;
  atUtc: string;
  kind: LineKind;
  title: string;
  details: string[];
  /** at the chosen spot: peak and dose of a whole day, and what it is used to, before and after */
  met: { before: DayLight | null; after: DayLight; ratioBefore: number | null; ratioAfter: number } | null;
  /** what stands behind it: an event can be changed, a running entry's instant cannot */
  event: LogEvent | null;
}

const percent = (share: number) => `${Math.round(share * 1000) / 10} %`;

/** What a running entry changed against the one before of its group. */
export function entryWords(entry: RunningEntry, before: RunningEntry | undefined): string[] {
  const rise = entry.rise
    ? [
        `rises by itself from ${percent(entry.rise.fromShare)} to ${percent(entry.rise.toShare)} of the target over ${entry.rise.days} days`,
      ]
    : [];
  if (!before)
    return [
      `first typed in, cap ${percent(entry.capShare)}, ${entry.threads.length} threads${entry.usedTo ? ', as the corals were used to' : ''}`,
      ...rise,
    ];
  const changes = changesBetween(before, entry);
  return [...(changes.length === 0 && rise.length === 0 ? ['typed in again, unchanged'] : changes), ...rise];
}

const eventTitle = (e: LogEvent, zone: Zone): string => {
  const name = (id: string) => zone.spots.find((s) => s.id === id)?.name ?? 'something since removed';
  const group = (id: string) => zone.groups.find((g) => g.id === id)?.name ?? 'lamps since taken down';
  switch (e.kind) {
    case 'outage':
      return `Power out: ${e.groupIds === null ? 'all lamps' : e.groupIds.map(group).join(', ')}`;
    case 'carbon':
      return `Fresh carbon: ${e.yellowBefore.toFixed(2)} → ${e.yellowAfter.toFixed(2)} per metre at 440 nm`;
    case 'lens':
      return `Lens wiped${e.groupId === null ? '' : `, ${group(e.groupId)}`}: about ${percent(e.gainShare)} more light`;
    case 'moved':
      return `${name(e.spotId)} moved: ${Math.round(e.from.depthCm)} → ${Math.round(e.to.depthCm)} cm deep, ${Math.round(Math.hypot(e.from.xCm - e.to.xCm, e.from.yCm - e.to.yCm))} cm aside`;
    case 'sign':
      return `${name(e.spotId)}: ${signWords(e.sign, zone.spots.find((s) => s.id === e.spotId) ?? { need: null })}`;
    case 'note':
      return e.note || 'Note';
    case 'harvest':
      return `${name(e.spotId)}: ${Math.round(e.wetG)} g harvested${e.leftG === null ? '' : `, ${Math.round(e.leftG)} g left`}`;
    case 'test':
      return `Water test: ${[
        e.nitratePpm === null ? null : `nitrate ${e.nitratePpm} ppm`,
        e.phosphatePpm === null ? null : `phosphate ${e.phosphatePpm} ppm`,
      ]
        .filter(Boolean)
        .join(', ')}`;
    case 'chore':
      return `${chore(e.chore).name}: done`;
  }
};

const outageLength = (e: LogEvent & { kind: 'outage' }): string => {
  if (e.toUtc === null) return 'not back yet';
  const minutes = Math.round((Date.parse(e.toUtc) - Date.parse(e.atUtc)) / 60_000);
  if (minutes >= 2880) return `for ${Math.round(minutes / 1440)} days`;
  const [h, m] = [Math.floor(minutes / 60), minutes % 60];
  return `for ${[h > 0 ? `${h} h` : '', m > 0 || h === 0 ? `${m} min` : ''].filter(Boolean).join(' ')}`;
};

/**
 * The log of a zone: changes of running written from its history, what was done to plans, and what the keeper entered. What a
 * change brought to the chosen spot comes from the replay.
 */
export function timeline(
  zone: Zone,
  history: HistoryDoc,
  log: LogDoc,
  changes: readonly MetChange[],
  spot: number,
): LogLine[] {
  const met = (id: string): LogLine['met'] => {
    const change = changes.find((c) => c.ids.includes(id));
    const after = change?.after[spot];
    if (!change || !after) return null;
    const used = change.used[spot]!;
    const before = change.before?.[spot] ?? null;
    return {
      before,
      after,
      ratioBefore: before ? stepRatio(before, used).ratio : null,
      ratioAfter: stepRatio(after, used).ratio,
    };
  };
  const last = new Map<string, RunningEntry>();
  const lines: LogLine[] = [];
  for (const entry of entriesOf(history, zone.id)) {
    const [title, ...details] = entryWords(entry, last.get(entry.groupId));
    last.set(entry.groupId, entry);
    lines.push({
      id: entry.id,
      atUtc: entry.atUtc,
      kind: 'light',
      title: `${entry.groupName}: ${title}`,
      details,
      met: met(entry.id),
      event: null,
    });
  }
  for (const plan of history.plans)
    if (plan.zoneId === zone.id)
      for (const d of plan.deeds)
        lines.push({
          id: d.id,
          atUtc: d.atUtc,
          kind: 'step',
          title: d.words,
          details: [],
          met: null,
          event: null,
        });
  for (const e of log.events) {
    // a test is of the water that all zones share
    if (e.zoneId !== zone.id && e.kind !== 'test') continue;
    const isNote = e.kind === 'note';
    lines.push({
      id: e.id,
      atUtc: e.atUtc,
      kind: isOwn(e.kind) ? e.kind : 'event',
      title: eventTitle(e, zone),
      details: [e.kind === 'outage' ? outageLength(e) : '', isNote ? '' : e.note].filter((x) => x !== ''),
      met: e.kind === 'outage' ? null : met(e.id),
      event: e,
    });
  }
  // of what happened at one instant the later written stands above
  return lines
    .map((l, i) => ({ l, i }))
    .sort((a, b) => (a.l.atUtc < b.l.atUtc ? 1 : a.l.atUtc > b.l.atUtc ? -1 : b.i - a.i))
    .map(({ l }) => l);
}

/** Days since the light of a spot last rose by more than 2 %; null when it never did. */
export function roseDaysAgo(changes: readonly MetChange[], spot: number, nowMs: number): number | null {
  const rose = changes.findLast((c) => {
    if (Date.parse(c.atUtc) > nowMs) return false;
    const [before, after] = [c.before?.[spot], c.after[spot]];
    return before && after && (after.dli > before.dli * 1.02 || after.peak > before.peak * 1.02);
  });
  return rose ? Math.floor((nowMs - Date.parse(rose.atUtc)) / 86_400_000) : null;
}
