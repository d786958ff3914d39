import { civilDay, dayNumber } from '../day/wallClock';
import type { DayLight } from '../easing/accustomed';
import { compareGroups, detectable, type Difference, summary, type Summary } from '../evidence/compare';
import { type Experiment, MEASURED, type Phase, phasesOf, valueOf } from '../record/experiment';
import type { HistoryDoc } from '../record/history';
import { kindOf, type LogDoc } from '../record/log';
import { begunCare } from '../record/log/care';
import { doubtOf, measured, MEASURES } from '../record/log/measures';
import type { Zone } from '../record/zone';
import type { MetChange } from './replay';
import { lightChangesUtc } from './timeline';

/** What a fragment did in a phase: its growth a day by the days that really lay between, or its score; null = not measured. */
function did(e: Experiment, phase: number, fragmentId: string): number | null {
  const [a, b] = (['start', 'end'] as const).map((at) => valueOf(e, phase, fragmentId, at));
  if (!MEASURED[e.measure].grows) return b?.value ?? null;
  const days = a && b ? dayNumber(b.date) - dayNumber(a.date) : 0;
  return a && b && days > 0 ? Math.log(b.value / a.value) / days : null;
}

export interface Result {
  phases: (Summary & { light: 'A' | 'B' })[];
  /** B over the A before it; null until both are measured */
  effect: Difference | null;
  /** A again over B; null where there is none */
  back: Difference | null;
}

export function resultOf(e: Experiment): Result {
  const groups = phasesOf(e).map((_, i) =>
    e.fragments.flatMap((f) => {
      const x = did(e, i, f.id);
      return x === null ? [] : [x];
    }),
  );
  const between = (a: number, b: number) =>
    groups[a]?.length && groups[b]?.length ? compareGroups(groups[a], groups[b]) : null;
  return {
    phases: phasesOf(e).map(({ light }, i) => ({
      light,
      ...(groups[i]!.length > 0 ? summary(groups[i]!) : { mean: NaN, standardError: null, n: 0 }),
    })),
    effect: between(0, 1),
    back: between(1, 2),
  };
}

/** How growth scatters between fragments of one coral under one light, as a share of it. Mark: rule of thumb. */
export const SCATTER_SHARE = 0.3;
/** Growth of a branching coral a day, of which that is a share. Mark: rule of thumb. */
export const USUAL_GROWTH = 0.004;

/**
 * The difference that as many fragments would show in four of five such experiments, as a share of growth.
 * @param errorShare of one measuring, as a share of the value
 */
export function wouldShow(e: Experiment, errorShare: number): number | null {
  const perDay = (Math.SQRT2 * errorShare) / e.phaseDays / USUAL_GROWTH;
  return detectable(Math.hypot(SCATTER_SHARE, perDay), e.fragments.length);
}

/** Something that happened in a measured stretch and could be what is seen. */
export interface Spoiler {
  phase: number;
  date: string;
  words: string;
}

/** Changes of light besides that of the experiment itself, leaps of the water's chemistry, and what befell a fragment. */
export function spoilers(
  e: Experiment,
  zone: Zone,
  history: HistoryDoc,
  log: LogDoc,
  nowUtc: string,
): Spoiler[] {
  const phases = phasesOf(e);
  // without a rest the first day is that of the experiment's own change
  const phaseAt = (date: string) =>
    phases.findIndex((p) => date < p.to && (p.restFrom === p.from ? date > p.from : date >= p.from));
  const out: Spoiler[] = [];
  const add = (utc: string, words: string) => {
    const date = civilDay(Date.parse(utc), zone.timeZone).date;
    const phase = utc <= nowUtc ? phaseAt(date) : -1;
    if (phase >= 0) out.push({ phase, date, words });
  };
  for (const utc of lightChangesUtc(zone, history, log, nowUtc)) {
    const event = log.events.find((x) => x.atUtc === utc && x.zoneId === zone.id);
    add(utc, event ? kindOf(event).words(event, zone) : 'the lamps were set otherwise');
  }
  const tests = log.events.filter((x) => x.kind === 'test').sort((a, b) => (a.atUtc < b.atUtc ? -1 : 1));
  for (const m of MEASURES) {
    let last: number | null = null;
    for (const t of tests) {
      const x = t[m.id];
      if (typeof x !== 'number') continue;
      if (last !== null && doubtOf({ ...m, usual: [-Infinity, Infinity] }, x, last))
        add(t.atUtc, `${m.name} ${measured(m, last)} → ${measured(m, x)}`);
      last = x;
    }
  }
  const ours = new Set(e.fragments.map((f) => f.spotId));
  const begun = new Set(begunCare(log.events).map((x) => x.id));
  for (const x of log.events)
    if (
      x.zoneId === zone.id &&
      (x.kind === 'befell' || begun.has(x.id) || (x.kind === 'moved' && ours.has(x.spotId)))
    )
      if (x.kind !== 'befell' || ours.has(x.spotId)) add(x.atUtc, kindOf(x).words(x, zone));
  return out.sort((a, b) => (a.date < b.date ? -1 : 1));
}

/** A day needs to differ by more than this for the dose to be blamed. Mark: rule of thumb. */
export const EQUAL_DOSE = 0.05;

/** Daily light under B over that under A at the fragments, mean of their places, as far as both have run; null = not yet. */
export function doseRatio(e: Experiment, zone: Zone, changes: readonly MetChange[]): number | null {
  const spots = e.fragments.flatMap((f) => {
    const i = zone.spots.findIndex((s) => s.id === f.spotId);
    return i < 0 ? [] : [i];
  });
  const [a, b] = phasesOf(e);
  const at = (p: Phase | undefined): DayLight[] | null => {
    if (!p) return null;
    const c = changes.findLast((x) => civilDay(Date.parse(x.atUtc), zone.timeZone).date <= p.from);
    return c ? c.after : null;
  };
  const [under, over] = [at(a), at(b)];
  // one and the same change stands for both: B has not begun
  if (!under || !over || under === over || spots.length === 0) return null;
  const sum = (of: readonly DayLight[]) => spots.reduce((s, i) => s + (of[i]?.dli ?? 0), 0);
  return sum(under) > 0 ? sum(over) / sum(under) : null;
}
