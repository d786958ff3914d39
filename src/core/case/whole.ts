import type { CoralForm } from '../coral/form';
import { levelsAt, parOf } from '../day/day';
import { shifted } from '../day/moves';
import type { ResolvedThread } from '../day/thread';
import { type DayLight, stepRatio, type StepRatio } from '../easing/accustomed';
import { type Aims, bluenessOf, type Lead } from '../mix/aims';
import { type Answer, designSteps } from '../mix/design';
import { computeResponse } from '../optics/response';
import { floorUmolOf, livesByLight } from '../record/needs';
import { type HungLamp, plainSpot, type Window, type Zone } from '../record/zone';
import { DAY_MINUTES, wrapMinute } from '../shape/ring';
import { par } from '../spectrum/bands';
import { dims } from '../spectrum/controls';
import { addScaled, integrate, zeroSpectrum } from '../spectrum/grid';
import type { Levels, LampKind } from '../spectrum/lampKind';
import { seeded } from '../spectrum/random';
import { arranged, type Arranged, type Free, type Point, type Tenant, tenantsIn, type Who } from './arrange';
import type { Calibration } from './calibration';
import { standing } from './critic';
import { kWhPerDay } from './dayFigures';
import {
  type Arrangement,
  climbSteps,
  type Found,
  Hanger,
  type HangFigures,
  hungLight,
  startsOf,
} from './hang';
import { firstLit } from './inPlace';
import { type Placed, placed } from './judgement';
import { bandUnder, brightestLevels, levelsOfGroups, spectrumUnder, zoneLight } from './light';
import { type LitGroup, litRunnable, rigOf } from './lit';

/** A tank as a whole: where its lamps hang and how strong they are, their mix, their day, and who stands where. */

export interface WholeAsk {
  /** with those who are in hand */
  zone: Zone;
  /** all that is lit, as drafted; the group that is hung and mixed anew among it */
  groups: readonly LitGroup[];
  groupId: string;
  /** lamps that nobody has drafted yet, in place of that group; absent = none */
  first?: { kind: LampKind; count: number };
  cal: Calibration;
  lowestCm: number;
  highestCm: number;
  /** what each spot is used to; null = not known */
  used: readonly DayLight[] | null;
  /** what corals are made of, of spots and then of those in hand, as far as it is said */
  corals: readonly { name: string; form: CoralForm }[];
  /** what mixes are sought by */
  aims: Aims;
  /** when somebody is there to look */
  home: Window;
}

export type WholeAim = 'corals' | 'stay' | 'even' | 'running' | 'home';

/** A mix that was tried: as drafted, or of a design. */
export interface WholeMix {
  lead: Lead | 'drafted';
  /** null = every thread keeps its own */
  levels: Levels | null;
  /** how far its look is from the one that is asked for, 0..1 */
  lookOff: number;
}

/** What is held against one another; all the better the smaller. */
export interface WholeFigures {
  cost: number;
  uneven: number;
  watts: number;
  lookOff: number;
  moves: number;
}

/** Somebody, where it would stand and what it would get. */
export interface Stand {
  who: Who;
  /** null = where it stands */
  to: Free | null;
  /** in hand, and no place suits it */
  nowhere: boolean;
  umol: number;
  bandShare: number;
  /** null = does not live by light */
  placed: Placed | null;
}

export interface WholeWay {
  aim: WholeAim;
  also: WholeAim[];
  arrangement: Arrangement;
  lamps: HungLamp[];
  capShare: number;
  mix: WholeMix;
  threads: ResolvedThread[];
  /** the day is so much later than drafted, min */
  laterMin: number;
  /** minutes of the hours at home with light to look at, of all of them */
  seen: readonly [lit: number, home: number];
  /** as it was looked at, against the others */
  looked: WholeFigures;
  stands: Stand[];
  judged: number;
  within: number;
  moves: number;
  uneven: number;
  watts: number;
  kWhPerDay: number;
  /** the largest step over what somebody is used to who stays; null = not known */
  step: (StepRatio & { spot: number }) | null;
  /** everything that is lit, so */
  groups: LitGroup[];
}

/** Costs corals so much more than the best, and no further. Mark: rule of thumb. */
const ALLOWED = 0.12;
const BESIDES = 0.02;
const MOVE = 0.03;
/** So many random arrangements are looked at besides the climbs. */
const RANDOM = 40;
const SEED = 7;
/** So many mixes of a design are tried, besides the drafted one. */
const MOST_MIXES = 3;
/** Light worth looking at is above this share of the day's peak. Mark: rule of thumb. */
const SEEN_SHARE = 0.1;
const EVERY_MIN = 15;
/** PAR that a mix is sought at where nothing is drafted, µmol. Mark: rule of thumb. */
const UNSAID_UMOL = 150;

/** A mix over a tank: looks at arrangements, and at who would stand where under each. */
export class Trial {
  readonly hanger: Hanger;
  readonly tenants: Tenant[];
  readonly places: Free[];
  private readonly emptyFrom: number;

  constructor(
    ask: WholeAsk,
    readonly group: LitGroup,
    readonly mix: WholeMix,
  ) {
    const { zone } = ask;
    this.tenants = tenantsIn(zone);
    this.places = standing(zone);
    this.emptyFrom = zone.spots.length;
    const wide: Zone = {
      ...zone,
      spots: [...zone.spots, ...this.places.map((p, i) => plainSpot({ ...p, id: `free ${i}`, need: null }))],
    };
    this.hanger = new Hanger({
      ...{ zone: wide, groups: ask.groups.map((g) => (g.groupId === group.groupId ? group : g)) },
      ...{ groupId: group.groupId, cal: ask.cal, lowestCm: ask.lowestCm, highestCm: ask.highestCm },
      ...{ used: null, calm: null, bare: true, anywhere: ask.groups.length > 1 },
    });
  }

  who(f: HangFigures, moving: boolean): Arranged {
    const here = this.tenants.map((t) => (t.who.spot === undefined ? 0 : f.umol[t.who.spot]!));
    return arranged(this.tenants, this.places, here, f.umol.slice(this.emptyFrom), moving);
  }

  figures(f: HangFigures, moving: boolean): WholeFigures {
    const { cost, moves } = this.who(f, moving);
    return { cost, moves, uneven: f.uneven, watts: f.watts, lookOff: this.mix.lookOff };
  }
}

interface Tried {
  trial: Trial;
  found: Found;
  moving: boolean;
  figures: WholeFigures;
}

/** The mixes that are tried: the drafted one and answers of a design at the first coral, or at the middle of the free places. */
function* mixesOf(ask: WholeAsk, group: LitGroup): Generator<number, WholeMix[]> {
  const { zone, groups, cal, aims } = ask;
  const index = groups.findIndex((g) => g.groupId === group.groupId);
  const free = standing(zone);
  const at =
    zone.spots.find((s) => s.need !== null && livesByLight(s)) ??
    plainSpot({ ...free[Math.floor(free.length / 2)]!, id: 'middle', need: null });
  const light = zoneLight(computeResponse(rigOf(groups, zone, [at], cal)), groups, cal);
  const levels = brightestLevels(light, groups, 0);
  const beside = zeroSpectrum();
  levels.forEach((l, g) => {
    if (g !== index) l.forEach((v, c) => addScaled(beside, light.spectra[g]![0]![c]!, v));
  });
  const brightest = group.threads.reduce((a, b) => (b.strengthShare > a.strengthShare ? b : a));
  const reached = par(spectrumUnder(light, levels, 0));
  const steps = designSteps({
    ...{ kind: group.lampKind, mix: brightest.mix, fixed: {}, channels: light.spectra[index]![0]!, beside },
    strength: brightest.strengthShare * (dims(group.lampKind) ? group.day.capShare : 1),
    parWanted: reached > 0 ? reached : UNSAID_UMOL,
    corals: [...ask.corals],
    ...{ aims, seed: SEED },
  });
  let answers: Answer[] = [];
  for (let next = steps.next(); ; next = steps.next()) {
    if (!next.done) {
      yield next.value;
      continue;
    }
    answers = next.value;
    break;
  }
  const off = (blueness: number) => Math.abs(Math.min(1, Math.max(0, blueness)) - aims.look);
  const made = answers.map((a): WholeMix => ({
    ...{ lead: a.lead, levels: a.mix },
    lookOff: off(a.figures.blueness),
  }));
  // the nearest to the look that is asked for, then in the order of the design
  made.sort((a, b) => a.lookOff - b.lookOff);
  const lit = spectrumUnder(light, levels, 0);
  const drafted: WholeMix = {
    ...{ lead: 'drafted', levels: null },
    lookOff: reached > 0 ? off(bluenessOf(integrate(lit, 400, 500) / reached)) : 1,
  };
  return [drafted, ...made.slice(0, MOST_MIXES)];
}

/** The group under a mix: every lit thread has it. */
const mixed = (group: LitGroup, { levels }: WholeMix): LitGroup =>
  levels === null
    ? group
    : litRunnable({
        ...{ groupId: group.groupId, groupName: group.name, lampKind: group.lampKind, lamps: group.lamps },
        ...{ capShare: dims(group.lampKind) ? group.day.capShare : 1 },
        threads: group.threads.map((t) => ({ ...t, mix: levels, mixName: 'proposed' })),
        ...(group.extras ? { extras: group.extras } : {}),
      });

/** Minutes of the hours at home in which there is light to look at, and all of them. */
export function seenAt(groups: readonly LitGroup[], home: Window): readonly [number, number] {
  const worth = (g: LitGroup) => g.lampKind.channels.map(() => 1);
  const lightAt = (m: number) => groups.reduce((s, g) => s + parOf(levelsAt(g.day, m), worth(g)), 0);
  const all = Array.from({ length: DAY_MINUTES / EVERY_MIN }, (_, i) => lightAt(i * EVERY_MIN));
  const least = SEEN_SHARE * Math.max(...all);
  const length = wrapMinute(home.toMinute - home.fromMinute) || DAY_MINUTES;
  const steps = Math.round(length / EVERY_MIN);
  const lit = Array.from({ length: steps }, (_, i) =>
    lightAt(wrapMinute(home.fromMinute + i * EVERY_MIN)),
  ).filter((v) => v > 0 && v >= least).length;
  return [Math.min(length, lit * EVERY_MIN), length];
}

/** The least move of a day by which most of the hours at home are lit. */
function movedHome(group: LitGroup, others: readonly LitGroup[], home: Window): number {
  const seen = (by: number) => seenAt([...others, rethreaded(group, shifted(group.threads, by))], home)[0];
  let best = { by: 0, seen: seen(0) };
  for (let by = EVERY_MIN; by < DAY_MINUTES / 2; by += EVERY_MIN)
    for (const way of [by, -by]) {
      const there = seen(way);
      if (there > best.seen) best = { by: way, seen: there };
    }
  return best.by;
}

const rethreaded = (group: LitGroup, threads: LitGroup['threads']): LitGroup =>
  litRunnable({
    ...{ groupId: group.groupId, groupName: group.name, lampKind: group.lampKind, lamps: group.lamps },
    ...{ capShare: dims(group.lampKind) ? group.day.capShare : 1, threads },
    ...(group.extras ? { extras: group.extras } : {}),
  });

/** Better in all, in something by more than a hair. */
export const beaten = (a: WholeFigures, b: WholeFigures): boolean => {
  const of = (f: WholeFigures) => [f.cost, f.uneven, f.watts, f.lookOff, f.moves];
  const [x, y] = [of(a), of(b)];
  return x.every((v, i) => v <= y[i]! + 1e-9) && x.some((v, i) => v < 0.98 * y[i]! - 0.01);
};

/** An arrangement at random within what is asked. */
export function randomArrangement(
  ask: Pick<WholeAsk, 'lowestCm' | 'highestCm'>,
  kind: LampKind,
  random: () => number,
): Arrangement {
  return {
    heightCm: Math.round(ask.lowestCm + (ask.highestCm - ask.lowestCm) * random()),
    spread: 0.4 + 0.9 * random(),
    ...{ alongCm: 0, acrossCm: Math.round(20 * (random() - 0.5)), tiltDeg: random() < 0.3 ? 10 : 0 },
    turnDeg: random() < 0.5 ? 0 : 90,
    diffuserShare: kind.diffuserShare ?? 0,
  };
}

/**
 * Unlike proposals for a whole tank: best for its corals, with everybody left where they stand, most even, least power, and the look at
 * home. For each of a few mixes lamps are hung and capped by a climb, those in hand given a place under each arrangement; what is chosen
 * is computed in full. Yields how far it is.
 */
export function* wholeSteps(asked: WholeAsk): Generator<number, WholeWay[]> {
  const fresh = asked.first && firstLit(asked.first.kind, asked.first.count, asked.zone);
  const ask = fresh ? { ...asked, groups: [...asked.groups, fresh], groupId: fresh.groupId } : asked;
  const drafted = ask.groups.find((g) => g.groupId === ask.groupId)!;
  const designing = mixesOf(ask, drafted);
  let mixes: WholeMix[] = [];
  for (let next = designing.next(); ; next = designing.next()) {
    if (!next.done) {
      yield 0.2 * next.value;
      continue;
    }
    mixes = next.value;
    break;
  }
  const tried: Tried[] = [];
  const random = seeded(SEED);
  const trials = mixes.map((mix) => new Trial(ask, mixed(drafted, mix), mix));
  const works = trials.length + 4;
  let done = 0;
  const climbed = function* (
    trial: Trial,
    moving: boolean,
    score: (f: WholeFigures) => number,
    from: Arrangement[],
  ) {
    const of = (f: HangFigures) => score(trial.figures(f, moving));
    const climbing = climbSteps(trial.hanger, from, of);
    for (let next = climbing.next(); ; next = climbing.next()) {
      if (!next.done) {
        yield 0.2 + (0.7 * (done + next.value)) / works;
        continue;
      }
      done += 1;
      if (next.value)
        tried.push({ trial, moving, found: next.value, figures: trial.figures(next.value.figures, moving) });
      return;
    }
  };
  const watts = Math.max(1, trials[0]!.hanger.now().watts);
  const besides = (f: WholeFigures) =>
    BESIDES * (f.cost + f.uneven + f.watts / watts + f.lookOff) + 0.1 * MOVE * f.moves;
  const forCorals = (f: WholeFigures) => f.cost + MOVE * f.moves + besides(f);
  const starts = startsOf(trials[0]!.hanger);
  const anyhow = Array.from({ length: RANDOM }, () => randomArrangement(ask, drafted.lampKind, random));
  yield* climbed(trials[0]!, true, forCorals, [...starts, ...anyhow]);
  const [first] = tried;
  // they fit nowhere side by side
  if (!first) return [];
  // another mix moves little of where lamps should hang
  for (const trial of trials.slice(1)) yield* climbed(trial, true, forCorals, [first.found.a]);
  const least = (of: (t: Tried) => number) => tried.reduce((a, b) => (of(b) < of(a) - 1e-9 ? b : a));
  const best = least((t) => forCorals(t.figures));
  const dear = (f: WholeFigures) => 5 * Math.max(0, f.cost - best.figures.cost - ALLOWED);
  const scores: Record<WholeAim, (f: WholeFigures) => number> = {
    corals: forCorals,
    stay: (f) => f.moves + f.cost + besides(f),
    even: (f) => f.uneven + MOVE * f.moves + dear(f) + besides(f),
    running: (f) => f.watts / watts + MOVE * f.moves + dear(f) + besides(f),
    home: (f) => 2 * f.lookOff + forCorals(f),
  };
  yield* climbed(best.trial, false, scores.stay, [best.found.a]);
  // evenness has more than one summit
  yield* climbed(best.trial, true, scores.even, starts);
  yield* climbed(best.trial, true, scores.even, anyhow);
  yield* climbed(best.trial, true, scores.running, [best.found.a]);
  const answers: { aim: WholeAim; of: Tried }[] = [];
  for (const aim of Object.keys(scores) as WholeAim[]) {
    const of = least((t) => scores[aim](t.figures));
    if (!tried.some((t) => beaten(t.figures, of.figures))) answers.push({ aim, of });
  }
  const later = answers.map(({ aim, of }) =>
    aim === 'home'
      ? movedHome(
          of.trial.group,
          ask.groups.filter((g) => g !== drafted),
          ask.home,
        )
      : 0,
  );
  const same = (i: number, k: number) => answers[i]!.of === answers[k]!.of && later[i] === later[k];
  const ways: WholeWay[] = [];
  for (const [i, { aim, of }] of answers.entries()) {
    yield 0.9 + (0.1 * i) / answers.length;
    if (answers.some((_, k) => k < i && same(k, i))) continue;
    const also = answers.flatMap((a, k) => (k > i && same(k, i) ? [a.aim] : []));
    ways.push({ aim, also, ...inFull(ask, of, later[i]!) });
  }
  return ways;
}

/** A proposal with its light computed in full. */
function inFull(
  ask: WholeAsk,
  { trial, found, moving, figures }: Tried,
  laterMin: number,
): Omit<WholeWay, 'aim' | 'also'> {
  const { zone, cal, used } = ask;
  const who = trial.who(found.figures, moving);
  const points = trial.tenants.map((t, i): Point | null =>
    who.to[i] !== null ? trial.places[who.to[i]!]! : t.at,
  );
  const own = rethreaded(trial.group, shifted(trial.group.threads, laterMin));
  const spots = points.map((p, i) =>
    plainSpot({
      ...{ id: `t${i}`, need: null, xCm: 0, yCm: 0, depthCm: 0, ...p, name: '' },
      openShare:
        who.to[i] === null && trial.tenants[i]!.who.spot !== undefined
          ? zone.spots[trial.tenants[i]!.who.spot!]!.openShare
          : 1,
    }),
  );
  const asked = {
    ...{ zone: { ...zone, spots }, groupId: own.groupId, cal },
    groups: ask.groups.map((g) => (g.groupId === own.groupId ? own : g)),
  };
  const { capShare } = found.figures;
  const { hung, light, days } = hungLight(asked, found.lamps, own.lampKind, capShare);
  const stands = trial.tenants.map((t, i): Stand => {
    const nowhere = points[i] === null;
    const umol = nowhere ? 0 : days[i]!.peak;
    const bandShare = nowhere ? 0 : bandUnder(cal, light, hung, levelsOfGroups(hung, days[i]!.peakMinute), i);
    return {
      who: t.who,
      to: who.to[i] === null ? null : trial.places[who.to[i]!]!,
      ...{ nowhere, umol, bandShare },
      placed: t.wants && !nowhere ? placed(umol, bandShare, t.wants) : null,
    };
  });
  const judged = trial.tenants.flatMap((t, i) => (t.wants ? [{ wants: t.wants, i }] : []));
  const steps = trial.tenants.flatMap((t, i) => {
    const spot = t.who.spot;
    if (!used || spot === undefined || !t.wants || who.to[i] !== null) return [];
    return [{ ...stepRatio(days[i]!, used[spot]!, floorUmolOf(zone.spots[spot]!, zone)), spot }];
  });
  const lit = hung.find((g) => g.groupId === own.groupId)!;
  return {
    ...{ arrangement: found.a, lamps: found.lamps, capShare, mix: trial.mix, laterMin, stands },
    ...{ looked: figures, moves: who.moves, uneven: found.figures.uneven, watts: found.figures.watts },
    threads: own.threads.map(({ minute, strengthShare, mix }) => ({ minute, strengthShare, mix })),
    seen: seenAt(hung, ask.home),
    judged: judged.length,
    within: judged.filter(
      ({ wants, i }) =>
        !stands[i]!.nowhere && stands[i]!.umol >= wants.fromUmol && stands[i]!.umol <= wants.toUmol,
    ).length,
    kWhPerDay: kWhPerDay([lit]),
    step: steps.length > 0 ? steps.reduce((a, b) => (b.ratio > a.ratio ? b : a)) : null,
    groups: hung,
  };
}
