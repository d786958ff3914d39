import { hasCap } from '../spectrum/controls';
import { floorUmolOf } from '../record/needs';
import { type DayLight, stepRatio } from '../easing/accustomed';
import { actingEvents } from './course';
import { changesBetween } from './difference';
import { entriesOf } from './lit';
import type { MetChange } from './replay';
import { meterKind } from '../meter/kinds';
import type { HistoryDoc, RunningEntry } from '../record/history';
import { changesLight, kindOf, type LogDoc, type LogEvent, logKinds } from '../record/log';
import type { Lane, LogKind } from '../record/log/logKind';
import { type Session, shownOf } from '../record/readings';
import { plural } from '../shape/counts';
import { finePercent as percent } from '../shape/percent';
import type { Zone } from '../record/zone';

/** What the app writes by itself, beside the lanes of what the keeper enters. */
export const OWN_LANES: readonly Lane[] = [
  { id: 'light', label: 'Light', always: true },
  { id: 'step', label: 'Easing', always: true },
  { id: 'reading', label: 'Readings', always: false },
];
/** The lanes of a log: what the app writes first, then those of its kinds of entries, each once. */
export const lanes = (): Lane[] => [
  ...new Map([...OWN_LANES, ...logKinds().map((k) => k.lane)].map((l) => [l.id, l])).values(),
];

/** When the light of a water changed, by what runs or by what the keeper entered, up to an instant, oldest first. */
export const lightChangesUtc = (zone: Zone, history: HistoryDoc, log: LogDoc, nowUtc: string): string[] =>
  [
    ...entriesOf(history, zone.id).map((e) => e.atUtc),
    ...actingEvents(log, zone.id)
      .filter(changesLight)
      .map((e) => e.atUtc),
  ]
    .filter((at) => at <= nowUtc)
    .sort();

/** When it last did; null = nothing has. */
export const lightChangedUtc = (...of: Parameters<typeof lightChangesUtc>): string | null =>
  lightChangesUtc(...of).at(-1) ?? null;

/** One line of the log, newest first. */
export interface LogLine {
  id: string;
  atUtc: string;
  /** id of its lane */
  lane: string;
  title: string;
  details: string[];
  /** at the chosen spot: peak and dose of a whole day, and what it is used to, before and after */
  met: {
    before: DayLight | null;
    after: DayLight;
    ratioBefore: number | null;
    ratioAfter: number;
    /** half width of the 90 % band of the ratio after, as a share */
    bandShare: number;
  } | null;
  /** the spot it is about; null = the whole water */
  spotId: string | null;
  /** what stands behind it: an event can be changed, a running entry's instant cannot */
  event: LogEvent | null;
}

/** An entry as a line, put into words when they are asked for: of ten years of entries few are shown at a time. */
class EntryLine implements LogLine {
  readonly atUtc: string;
  constructor(
    readonly event: LogEvent,
    private readonly kind: LogKind,
    private readonly zone: Zone,
    readonly met: LogLine['met'],
  ) {
    this.atUtc = event.atUtc;
  }
  get id(): string {
    return this.event.id;
  }
  get lane(): string {
    return this.kind.lane.id;
  }
  get title(): string {
    return this.kind.words(this.event, this.zone);
  }
  get details(): string[] {
    const { event, kind, title } = this;
    return [...(kind.details?.(event) ?? []), title === event.note ? '' : event.note].filter((x) => x !== '');
  }
  get spotId(): string | null {
    return 'spotId' in this.event ? this.event.spotId : null;
  }
}

/** What a running entry changed against the one before of its group. */
export function entryWords(entry: RunningEntry, before: RunningEntry | undefined): string[] {
  const rise = entry.rise
    ? [
        `rises by itself from ${percent(entry.rise.fromShare)} to ${percent(entry.rise.toShare)} of the target over ${entry.rise.days} days`,
      ]
    : [];
  if (entry.threads.length === 0) return ['taken down'];
  if (!before)
    return [
      `first typed in${hasCap(entry.lampKind) ? `, cap ${percent(entry.capShare)}` : ''}, ${plural(entry.threads.length, 'thread')}${entry.usedTo ? '; who lives here was used to it' : ''}`,
      ...rise,
    ];
  const changes = changesBetween(before, entry);
  return [...(changes.length === 0 && rise.length === 0 ? ['typed in again, unchanged'] : changes), ...rise];
}

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
  sessions: readonly Session[] = [],
): LogLine[] {
  const at = zone.spots[spot];
  const floor = at ? floorUmolOf(at, zone) : 0;
  const met = (id: string): LogLine['met'] => {
    const change = changes.find((c) => c.ids.includes(id));
    const after = change?.after[spot];
    if (!change || !after) return null;
    const used = change.used[spot]!;
    const before = change.before?.[spot] ?? null;
    return {
      before,
      after,
      ratioBefore: before ? stepRatio(before, used, floor).ratio : null,
      ratioAfter: stepRatio(after, used, floor).ratio,
      bandShare: change.bandShares[spot]!,
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
      lane: 'light',
      title: `${entry.groupName}: ${title}`,
      details,
      met: met(entry.id),
      spotId: null,
      event: null,
    });
  }
  for (const plan of history.plans)
    if (plan.zoneId === zone.id)
      for (const d of plan.deeds)
        lines.push({
          id: d.id,
          atUtc: d.atUtc,
          lane: 'step',
          title: d.words,
          details: [],
          met: null,
          spotId: null,
          event: null,
        });
  for (const s of sessions) {
    if (s.zoneId !== zone.id || s.readings.length === 0) continue;
    const own = s.readings.find((r) => r.spotId === zone.spots[spot]?.id);
    lines.push({
      ...{ id: s.id, atUtc: s.atUtc, lane: 'reading', met: null, spotId: null, event: null },
      title: `Readings: ${s.name}, ${plural(s.readings.length, 'place')}`,
      details: [
        [meterKind(s.meter.kind).name, s.lit].filter(Boolean).join(', '),
        ...(own ? [`${own.name}: ${Math.round(shownOf(own))} ${meterKind(s.meter.kind).unit}`] : []),
      ],
    });
  }
  for (const e of log.events) {
    const kind = kindOf(e);
    if (e.zoneId !== zone.id && !kind.shared) continue;
    lines.push(new EntryLine(e, kind, zone, kind.acts && changesLight(e) ? met(e.id) : null));
  }
  // of what happened at one instant the later written stands above; entries lie nearly in order, which sorting is quick with
  return lines.reverse().sort((a, b) => (a.atUtc < b.atUtc ? 1 : a.atUtc > b.atUtc ? -1 : 0));
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
