import { DAY_MINUTES } from '../shape/ring';
import { dateOf, dayNumber, weekdayOf } from '../day/wallClock';
import {
  atPace,
  AS_PRINTED,
  ceilingFor,
  type DayLight,
  peakRatio,
  type StepRatio,
} from '../easing/accustomed';
import {
  accustomedAfter,
  fastestRises,
  fewestRises,
  follow,
  type Grower,
  type Ladder,
  lineRises,
  type LivedDay,
  ratioIn,
  type Rise,
  type Rules,
  selfRise,
  staysUnder,
} from '../easing/ladder';
import type { NoPlan } from '../easing/plan';
import { good, type Result } from '../shape/result';
import { partsOf, stepBandShare } from './stepBand';
import type { Calibration, ChannelPart } from './calibration';
import { type ByChannel, lightBetween } from './light';
import { type LitGroup, litRunnable, litRunning, runningAt } from './lit';
import type { ParOf, UsedLight } from './replay';
import { doneSteps } from './planAhead';
import { atSetting, type Eased, judgeOf, mayWait, methodProblem, placeAt, settingsOf } from './settings';
import {
  activePlans,
  type EasingPlan,
  type EasingStep,
  type HistoryDoc,
  type Runnable,
  type RunningEntry,
} from '../record/history';
import { floorUmolOf, livesByLight, paceOf } from '../record/needs';
import type { Place, Zone } from '../record/zone';

/** What is asked of a plan. */
export interface EaseQuestion extends Eased {
  /** its own id when a plan goes on: its old steps then do not count, and no new one passes the ceiling, whatever the schedule */
  planId: string | null;
  schedule: EasingPlan['schedule'];
  ceiling: number;
  /** local dates: today, and the first on which something may change */
  today: string;
  start: string;
  /** the rung that is lit until the start, where that is not what runs now */
  meanwhile?: number;
  /** its next step is late: that is made up for on the first day, whatever its weekday */
  late?: boolean;
  /** steps of a plan still to come, none of them late: kept as they are while they stay under the ceiling */
  open?: readonly Pick<EasingStep, 'date' | 'setting'>[];
}

/** One dated step of a plan, with the light it brings. */
export interface EaseStep {
  date: string;
  setting: number;
  /** the largest step ratio on that day, and at which spot */
  worst: SpotRatio;
  light: DayLight[];
}

export interface SpotRatio extends StepRatio {
  spot: number;
}

/** A plan lived through, day by day from today on. */
export interface EaseCourse {
  /** [day][spot] */
  ratios: number[][];
  light: DayLight[][];
  worst: SpotRatio & { date: string };
  /** days from today until each spot is within 5 % of its new light; null = beyond what was looked at */
  settled: (number | null)[];
}

export interface EaseAnswer {
  /** why there is no plan; the rest is then empty but for `atOnce` */
  refused: string | null;
  steps: EaseStep[];
  /** whether these are the steps that were still to come */
  asPlanned: boolean;
  /** the ceiling that all its steps stay under: the one asked for, or what few changes and a straight line take */
  ceiling: number;
  course: EaseCourse | null;
  /** the same change made in one step on the start date */
  atOnce: EaseCourse;
  /** spots in the order in which they limit the change, with their step ratio if it were made at once and half the width of its 90 % band, as a share */
  limits: (SpotRatio & { bandShare: number })[];
  /** where a straight line of the controller's own begins, as a share, and how many days it takes */
  itself: { fromShare: number; days: number } | null;
  /** days the plan would take if corals followed as fast, and as slowly, as is published; null where its days are given */
  daysRange: readonly [quick: number, slow: number] | null;
  /** the coral whose new light is least known over what it is used to; null where that is known well enough */
  doubt: PlanDoubt | null;
  /** a peak that hours cannot ease: the ratio by peak, when the lamps come on, of who bears it least */
  peak: SpotRatio | null;
}

/** What a plan makes of light that may be more than is reckoned. */
export interface PlanDoubt {
  spot: number;
  /** the light may be this share more than reckoned, at 90 % */
  share: number;
  /** the plan stays under its ceiling if it is; else only at what is reckoned */
  allowed: boolean;
  /** days that the plan would be shorter if the light were known; null where its days are given */
  daysLess: number | null;
}
/** Doubt of less than this is not planned for: it is within the steps a lamp has. Mark: rule of thumb. */
const DOUBTFUL = 0.05;

/** How near to its light a coral counts as used to it. */
const SETTLED = 0.05;
/** Looked at beyond the last step, days. */
const AFTERWARDS = 45;
const LONGEST_VIEW = 1200;
/** A plan under way waits so long for a setting that is small enough, days. */
const LONGEST_WAIT = 45;
/** A plan's ceiling can be no higher. */
const HIGHEST_CEILING = 10;

/** What groups of a zone will run on a date, as far as it is known: what runs, and the steps of plans under way. */
export function expectedAt(
  history: HistoryDoc,
  zone: Zone,
  nowUtc: string,
  date: string,
  except: string | null,
): Runnable[] {
  const running = runningAt(history, zone, nowUtc);
  const planned = activePlans(history, zone.id).filter((p) => p.id !== except && p.method !== 'places');
  const out = new Map<string, RunningEntry | Runnable>(running.map((e) => [e.groupId, e]));
  for (const plan of planned) {
    const step = plan.steps.filter((s) => s.doneUtc === null && s.date <= date).at(-1);
    if (step) for (const t of atSetting(plan, step.setting)) out.set(t.groupId, t);
  }
  return [...out.values()];
}

export const litOf = (r: Runnable | RunningEntry, date: string, timeZone: string): LitGroup =>
  'atUtc' in r ? litRunning(r, r.rise ? { date, timeZone } : null) : litRunnable(r);

/** The ladder of a plan: what everybody gets on each of its rungs, all other lamps as they will be then. */
class Rungs implements Ladder {
  readonly settings: number[];
  readonly rungs: number;
  private readonly kept = new Map<string, DayLight[]>();
  private readonly parts = new WeakMap<
    readonly DayLight[],
    (measure: 'dli' | 'peak', spot: number) => ChannelPart[]
  >();
  private readonly others = new Map<number, { key: string; list: Runnable[] }>();
  private readonly day0: number;
  private readonly watched: string[];

  constructor(
    private readonly zone: Zone,
    private readonly history: HistoryDoc,
    private readonly nowUtc: string,
    private readonly q: EaseQuestion,
    private readonly yellow: number,
    private readonly parOf: ParOf,
  ) {
    this.settings = settingsOf(q);
    this.rungs = this.settings.length;
    this.day0 = dayNumber(q.start);
    this.watched = activePlans(history, zone.id)
      .filter((p) => p.id !== q.planId)
      .flatMap((p) => p.steps.filter((s) => s.doneUtc === null).map((s) => s.date));
  }

  private around(day: number): { key: string; list: Runnable[] } {
    let made = this.others.get(day);
    if (!made) {
      const date = dateOf(this.day0 + day);
      const own = new Set(this.q.targets.map((t) => t.groupId));
      const list = expectedAt(this.history, this.zone, this.nowUtc, date, this.q.planId).filter(
        (r) => !own.has(r.groupId),
      );
      const rising = list.some((r) => 'rise' in r && r.rise);
      const key = rising ? date : String(this.watched.filter((d) => d <= date).length);
      this.others.set(day, (made = { key, list }));
    }
    return made;
  }

  /** light of a day with what the plan sets, `null` = as it runs now */
  light(setting: number | null, day: number): DayLight[] {
    const others = this.around(day);
    const key = `${setting}/${others.key}`;
    let made = this.kept.get(key);
    if (!made) {
      const { q, zone } = this;
      const ownIds = new Set(q.targets.map((t) => t.groupId));
      const own: (Runnable | RunningEntry)[] =
        setting === null
          ? runningAt(this.history, zone, this.nowUtc).filter((e) => ownIds.has(e.groupId))
          : setting === 0 && (q.method === 'cap' || q.method === 'hours' || q.method === 'circuits')
            ? []
            : atSetting(q, setting);
      const date = dateOf(this.day0 + day);
      const groups = [...others.list, ...own].map((r) => litOf(r, date, zone.timeZone));
      const places = zone.spots.map((s): Place => {
        const climbs = q.climb?.spotId === s.id && setting !== null ? placeAt(q, setting) : null;
        return climbs ?? s;
      });
      const par = this.parOf(groups, this.yellow, places);
      const channels: ByChannel[] = [];
      this.kept.set(key, (made = lightBetween(par, groups, zone.spots.length, 0, DAY_MINUTES, channels)));
      this.parts.set(made, (measure, spot) => partsOf(groups, channels[spot]!, measure));
    }
    return made;
  }

  /** How far above its figure a spot's light may lie over what it is used to, at 90 %, on the last rung. */
  doubtOf(cal: Calibration, used: readonly UsedLight[]): number[] {
    const top = this.lightAt(this.rungs - 1, 0);
    return this.zone.spots.map((s, spot) => {
      const from = used[spot]!;
      if (!livesByLight(s)) return 0;
      const floor = floorUmolOf(s, this.zone);
      return Math.max(
        ...(['dli', 'peak'] as const).map((m) =>
          stepBandShare(cal, () => this.parts.get(top)!(m, spot), top[spot]!, from, floor, m),
        ),
      );
    });
  }

  lightAt = (rung: number, day: number): DayLight[] => this.light(this.settings[rung]!, day);
}
/** A ladder, its first day so many days later. */
const later = (ladder: Ladder, days: number): Ladder => ({
  rungs: ladder.rungs,
  lightAt: (rung, day) => ladder.lightAt(rung, day + days),
});
/** A ladder on which everybody gets a share more, but for the rungs up to one that is lit already: doubt takes nobody's light away. */
const brighter = (ladder: Ladder, shares: readonly number[], reached: number): Ladder => ({
  rungs: ladder.rungs,
  lightAt: (rung, day) =>
    rung <= reached
      ? ladder.lightAt(rung, day)
      : ladder.lightAt(rung, day).map((l, i) => scaled(l, 1 + shares[i]!)),
});
const scaled = ({ dli, peak, taken }: DayLight, by: number): DayLight => ({
  ...{ dli: dli * by, peak: peak * by },
  ...(taken ? { taken: { dli: taken.dli * by, peak: taken.peak * by } } : {}),
});

/** Everybody of a water, used to what they are. */
export const growersOf = (zone: Zone, used: readonly DayLight[]): Grower[] =>
  zone.spots.map((s, i) => ({ accustomed: used[i]!, pace: paceOf(s), floorUmol: floorUmolOf(s, zone) }));

function worstOfDay(ratios: readonly StepRatio[]): SpotRatio {
  return ratios.reduce<SpotRatio>((w, r, spot) => (r.ratio > w.ratio ? { ...r, spot } : w), {
    ratio: 0,
    by: 'DLI',
    spot: 0,
  });
}

export function courseFrom(lived: readonly LivedDay[], today: number): EaseCourse {
  const worst = lived.reduce<EaseCourse['worst']>(
    (w, d, day) => {
      const here = worstOfDay(d.ratios);
      return here.ratio > w.ratio + 1e-9 ? { ...here, date: dateOf(today + day) } : w;
    },
    { ratio: 0, by: 'DLI', spot: 0, date: dateOf(today) },
  );
  const spots = lived[0]?.ratios.length ?? 0;
  const settled = Array.from({ length: spots }, (_, s) => {
    const last = lived.findLastIndex(
      (d) => Math.abs(d.ratios[s]!.ratio - 1) > SETTLED && d.ratios[s]!.ratio > 0,
    );
    return last + 1 < lived.length ? last + 1 : null;
  });
  return {
    ratios: lived.map((d) => d.ratios.map((r) => r.ratio)),
    light: lived.map((d) => [...d.light]),
    worst,
    settled,
  };
}

/** Days from a date to the next on which a schedule lets anything be typed in. */
const daysToWeekday = (schedule: EasingPlan['schedule'], date: string): number =>
  schedule.kind === 'few' && schedule.weekday !== null ? (schedule.weekday - weekdayOf(date) + 7) % 7 : 0;

/** The day after a change on which the next may be, in days after the start: back on its weekday after a late one. */
function changeDays(schedule: EasingPlan['schedule'], start: string): (day: number) => number {
  if (schedule.kind !== 'few') return (day) => day + 1;
  const { everyDays } = schedule;
  const off = daysToWeekday(schedule, start);
  // the same week again would be two changes at once
  const first = off === 0 ? everyDays : off < everyDays / 2 ? off + everyDays : off;
  return (day) => (day === 0 ? first : day + everyDays);
}

/**
 * Plans a change: rungs by rungs as the schedule says, judged at every coral by replaying what it is used to, all other lamps as
 * they run and as other plans will have them. Yields how far it is.
 * @param used what each spot is used to as today begins
 * @param cal how far light may lie off; null = nothing is asked of that
 */
export function* easeSteps(
  zone: Zone,
  history: HistoryDoc,
  nowUtc: string,
  yellow440PerM: number,
  used: readonly UsedLight[],
  q: EaseQuestion,
  parOf: ParOf,
  cal: Calibration | null = null,
): Generator<number, EaseAnswer> {
  const start = q.late ? q.start : dateOf(dayNumber(q.start) + daysToWeekday(q.schedule, q.start));
  const ladder = new Rungs(zone, history, nowUtc, { ...q, start }, yellow440PerM, parOf);
  const judge = judgeOf(q.method);
  const wait = Math.max(0, dayNumber(start) - dayNumber(q.today));
  // until the start everything runs on as it is
  const today: Grower[] = growersOf(zone, used);
  let growers: readonly Grower[] = today;
  const waited: LivedDay[] = [];
  const waitOn = (day: number) => {
    const light = ladder.light(q.meanwhile ?? null, day);
    waited.push({
      rung: -1,
      light,
      used: growers.map((g) => g.accustomed),
      ratios: light.map((l, i) => ratioIn(judge, l, growers[i]!)),
    });
    growers = accustomedAfter(light, growers);
  };
  for (let day = -wait; day < 0; day += 1) waitOn(day);
  // every rung once, so that what takes long can be shown and stopped
  for (let rung = 0; rung < ladder.rungs; rung += 1) {
    ladder.lightAt(rung, 0);
    yield (0.8 * (rung + 1)) / ladder.rungs;
  }
  const top = ladder.rungs - 1;
  const zero = dayNumber(q.today);
  const livedThrough = (rises: readonly Rise[], days: number) =>
    courseFrom([...waited, ...follow(ladder, growers, rises, days, judge)], zero);
  const atOnce = livedThrough([{ day: 0, rung: top }], 60);
  const topLight = ladder.lightAt(top, 0);
  const shares = cal ? ladder.doubtOf(cal, used) : [];
  // who bears more may get more
  const takes = ({ spot, ratio }: SpotRatio) => ratio / ceilingFor(q.ceiling, growers[spot]!.pace);
  const limits = topLight
    .map((l, spot) => ({ spot, ...ratioIn(judge, l, growers[spot]!), bandShare: shares[spot] ?? 0 }))
    .filter((r) => livesByLight(zone.spots[r.spot]!))
    .sort((a, b) => takes(b) - takes(a));
  const peaks = topLight.map((l, spot): SpotRatio => ({
    spot,
    ratio: peakRatio(l, growers[spot]!.accustomed, growers[spot]!.floorUmol),
    by: 'peak',
  }));
  const peak =
    judge === 'dli'
      ? peaks
          .filter((p) => livesByLight(zone.spots[p.spot]!))
          .reduce<SpotRatio | null>((w, p) => (w && takes(w) >= takes(p) ? w : p), null)
      : null;
  const open = { atOnce, limits, peak };
  const none = (refused: string): EaseAnswer => ({
    refused,
    steps: [],
    asPlanned: false,
    ceiling: q.ceiling,
    course: null,
    itself: null,
    daysRange: null,
    doubt: null,
    ...open,
  });
  const problem = methodProblem(q);
  if (problem) return none(problem);
  const rules = { ceiling: q.ceiling, judge, least: 0, mayWait: mayWait(q) };
  const kept = q.open && openRises(q.open, ladder.settings, dayNumber(start));
  const held = q.planId !== null;
  const asked = { ...q, start };
  const most = Math.max(0, ...shares);
  /** where what is asked for could not be kept if there is more light than reckoned, it is at what is reckoned */
  const climb = (on: Ladder, wary: Ladder | null) => {
    const made = wary && risesFor(asked, wary, ladder.settings, growers, rules, held);
    return made?.ok
      ? { ...made, allowed: true }
      : { ...risesFor(asked, on, ladder.settings, growers, rules, held), allowed: false };
  };
  const plan = history.plans.find((p) => p.id === q.planId);
  const done = plan && doneSteps(plan).at(-1)?.setting;
  const reached = done === undefined ? -1 : rungOf(ladder.settings, done);
  const wary = most >= DOUBTFUL ? brighter(ladder, shares, reached) : null;
  const keeps = (on: Ladder | null) =>
    kept !== undefined && on !== null && staysUnder(on, growers, kept, rules, AS_PRINTED);
  // what was planned before there was a doubt goes on while it holds at what is reckoned
  const safely = keeps(wary ?? ladder);
  const asPlanned = safely || keeps(ladder);
  let found: ReturnType<typeof climb> = asPlanned
    ? { ...good({ rises: kept!, itself: null }), allowed: wary !== null && safely }
    : climb(ladder, wary);
  // nothing that can be set is small enough yet: a plan under way stays where it is until something is
  let lateBy = 0;
  for (; held && !found.ok && lateBy < LONGEST_WAIT; lateBy += 1) {
    waitOn(lateBy);
    found = climb(later(ladder, lateBy + 1), wary && later(wary, lateBy + 1));
  }
  if (!found.ok) return none(found.error.say);
  const { rises, itself } = found.value;
  const risen = later(ladder, lateBy);
  const taken = wary && found.allowed ? wary : ladder;
  // a rung that leaves everything as it is needs no typing
  const idle = ladder.settings[0] === 0 && q.method !== 'height' && q.method !== 'places';
  const typed = rises.filter((r, i) => !(idle && i === 0 && r.rung === 0));
  const last = rises[rises.length - 1]!.day;
  /** how much sooner it would be over if the light were what is reckoned */
  const daysLess = (takes: number): number | null => {
    if (!ownPace(q.schedule)) return null;
    const known = risesFor(asked, ladder, ladder.settings, growers, rules, held);
    return known.ok ? takes - (known.value.itself?.days ?? known.value.rises.at(-1)!.day) : null;
  };
  const days = Math.min(LONGEST_VIEW, last + AFTERWARDS);
  const lived = follow(risen, growers, rises, days, judge);
  yield 0.95;
  return {
    refused: null,
    steps: typed.map((r) => {
      const day = lived[Math.min(r.day, lived.length - 1)]!;
      return {
        date: dateOf(dayNumber(start) + lateBy + r.day),
        setting: ladder.settings[r.rung]!,
        worst: worstOfDay(day.ratios),
        light: [...risen.lightAt(r.rung, r.day)],
      };
    }),
    asPlanned,
    ceiling: ceilingTaken(lived, growers, q.ceiling),
    course: courseFrom([...waited, ...lived], zero),
    itself,
    daysRange:
      asPlanned || lateBy > 0 ? null : daysRange(q, start, wait, taken, ladder.settings, growers, rules),
    doubt: wary && {
      ...{ spot: shares.indexOf(most), share: most, allowed: found.allowed },
      daysLess: found.allowed && !asPlanned && lateBy === 0 ? daysLess(itself?.days ?? last) : null,
    },
    ...open,
  };
}

/** Whether a plan takes as long as corals do. */
const ownPace = ({ kind }: EasingPlan['schedule']): boolean => kind === 'fastest' || kind === 'itself';

/** How long from today the same plan takes at both ends of what is published of how fast corals follow. */
function daysRange(
  { schedule }: EaseQuestion,
  start: string,
  wait: number,
  ladder: Ladder,
  settings: readonly number[],
  growers: readonly Grower[],
  rules: Rules,
): EaseAnswer['daysRange'] {
  if (!ownPace(schedule)) return null;
  const [quick, slow] = (['quick', 'slow'] as const).map((end) => {
    const made = risesFor(
      { schedule, start },
      ladder,
      settings,
      growers.map((g) => ({ ...g, pace: atPace(g.pace, end) })),
      rules,
      false,
    );
    return made.ok ? (made.value.itself?.days ?? wait + made.value.rises.at(-1)!.day) : null;
  });
  return quick != null && slow != null ? [quick, slow] : null;
}

/** The rung nearest to a setting. */
const rungOf = (settings: readonly number[], setting: number): number =>
  settings.reduce((k, x, i) => (Math.abs(x - setting) < Math.abs(settings[k]! - setting) ? i : k), 0);

/** Steps still to come as rises of a ladder. */
const openRises = (
  open: NonNullable<EaseQuestion['open']>,
  settings: readonly number[],
  startDay: number,
): Rise[] =>
  open.map(({ date, setting }) => ({
    day: Math.max(0, dayNumber(date) - startDay),
    rung: rungOf(settings, setting),
  }));

/** What of a rise a plan's days may turn out larger than planned: the first is not a whole one. Mark: rule of thumb. */
const LEEWAY = 0.1;

/** The least ceiling, not below the one asked for, that all days of a course stay under, with some leeway where it is above that. */
function ceilingTaken(lived: readonly LivedDay[], growers: readonly Grower[], asked: number): number {
  const taken = Math.max(
    ...lived.flatMap((d) => d.ratios.map((r, i) => 1 + (r.ratio - 1) / growers[i]!.pace.stretch)),
  );
  if (taken <= asked * (1 + 1e-6)) return asked;
  return Math.min(HIGHEST_CEILING, Math.ceil((1 + (taken - 1) * (1 + LEEWAY)) * 1000) / 1000);
}

/**
 * What a schedule makes of a ladder; `itself` where the lamp rises by itself.
 * @param held no rise may pass the ceiling: few changes become more, a straight line longer
 */
function risesFor(
  { schedule, start }: Pick<EaseQuestion, 'schedule' | 'start'>,
  ladder: Ladder,
  settings: readonly number[],
  growers: readonly Grower[],
  rules: Rules,
  held: boolean,
): Result<{ rises: Rise[]; itself: EaseAnswer['itself'] }, NoPlan> {
  const plain = (made: Result<Rise[], NoPlan>) =>
    made.ok ? good({ rises: made.value, itself: null }) : made;
  switch (schedule.kind) {
    case 'fastest':
      return plain(fastestRises(ladder, growers, rules));
    case 'few': {
      const next = changeDays(schedule, start);
      const days = [0];
      while (days.length < schedule.changes) days.push(next(days.at(-1)!));
      const fewest = fewestRises(ladder, growers, days, rules);
      return held && !(fewest.ok && staysUnder(ladder, growers, fewest.value, rules))
        ? plain(fastestRises(ladder, growers, rules, next))
        : plain(fewest);
    }
    case 'line': {
      const rises = lineRises(settings, schedule.fromShare, schedule.days);
      if (!held || staysUnder(ladder, growers, rises, rules)) return plain(good(rises));
      const longer = selfRise(ladder, settings, growers, rules, schedule);
      return plain(longer.ok ? good(longer.value.rises) : fastestRises(ladder, growers, rules));
    }
    case 'itself': {
      const made = selfRise(ladder, settings, growers, rules);
      if (!made.ok) return made;
      const { rises, ...itself } = made.value;
      return good({ rises, itself });
    }
  }
}
