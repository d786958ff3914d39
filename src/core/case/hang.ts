import { frontKey, Glances, type LampGlance } from '../optics/glance';
import { computeResponse } from '../optics/response';
import { type DayLight, stepRatio, type StepRatio } from '../easing/accustomed';
import { crossingsAt, flicker, rippleBlendDeg } from '../optics/ripple';
import { floorUmolOf, livesByLight, type Wants, wantsOf } from '../record/needs';
import type { HungLamp, Zone } from '../record/zone';
import { dims } from '../spectrum/controls';
import type { LampKind } from '../spectrum/lampKind';
import { withLens } from '../spectrum/lens';
import { wallWatts } from '../spectrum/watts';
import type { Calibration } from './calibration';
import { type Criticism, critic } from './critic';
import {
  brightestLevels,
  daysAt,
  levelsOfGroups,
  parUnder,
  type ZoneDay,
  type ZoneLight,
  zoneLight,
} from './light';
import { channelIds, type LitGroup, rigOf } from './lit';

/** Where lamps of one group could hang, and what that would do. */

export interface HangAsk {
  zone: Zone;
  /** everything that is lit, as drafted; the group that is hung among it */
  groups: readonly LitGroup[];
  groupId: string;
  cal: Calibration;
  /** over the water: what splashes and hands need, and what room there is */
  lowestCm: number;
  highestCm: number;
  /** what each spot is used to; null = not known */
  used: readonly DayLight[] | null;
  /** other lenses at hand, full beam angles, degrees; absent = none */
  lensesDeg?: readonly number[];
  /** no matt sheet or other lens may be put before the emitters or taken away: other lamps of the kind would have it too */
  bare?: boolean;
  /** their middle may lie anywhere along the tank: for lamps that are matched to others. Absent = over the middle, or where they hang */
  anywhere?: boolean;
  /** a place that is to get no more than this at its brightest */
  calm: { spot: number; mostUmol: number } | null;
}

/** An arrangement: all lamps at one height, in a row along the tank. */
export interface Arrangement {
  heightCm: number;
  /** distance between neighbours, of an even spread over the tank's length */
  spread: number;
  /** how far right of the middle their own middle is, cm */
  alongCm: number;
  /** how far behind the middle, cm */
  acrossCm: number;
  turnDeg: 0 | 90;
  /** towards the middle from where it hangs behind or before it */
  tiltDeg: number;
  diffuserShare: number;
  /** a lens in place of its own; absent = its own */
  lensDeg?: number;
}

/** What an arrangement does at a cap. All but `within` are better the smaller. */
export interface HangFigures {
  capShare: number;
  /** µmol at each spot at its brightest */
  umol: number[];
  /** how far corals are from what they want, as a mean of logarithms; 0 = all in the middle of their range */
  cost: number;
  /** corals within their range */
  within: number;
  /** 1 − darkest over mean on a plane at the corals' depth */
  uneven: number;
  /** most on a pane, µmol, straight light */
  glassUmol: number;
  /** share of photons that never enter the water */
  lostShare: number;
  /** wall watts at the brightest */
  watts: number;
}

/** An answer's figures, its light computed in full. */
export interface HungFigures extends HangFigures {
  /** the largest step it is over what somebody is used to; null = not known */
  step: (StepRatio & { spot: number }) | null;
  /** at the coral that gets most: what ripples bring now and then, µmol, and how far they turn its colour, degrees */
  flash: { spot: number; umol: number; blendDeg: number } | null;
}

export type HangAim = 'corals' | 'even' | 'glass' | 'watts' | 'asNow';

export interface HangWay {
  aim: HangAim;
  also: HangAim[];
  arrangement: Arrangement | null;
  lamps: HungLamp[];
  kind: LampKind;
  figures: HungFigures;
  /** who would have to stand elsewhere so that more have the light they want */
  criticism: Criticism;
}

export interface HangAnswer {
  now: HungFigures;
  criticism: Criticism;
  ways: HangWay[];
  /** everything that was looked at over the whole range, best cap each */
  seen: HangFigures[];
  /** so many arrangements were looked at in all */
  looked: number;
}

/** Too little and too much light, and away from the middle, as they weigh. Mark: rule of thumb. */
const WEIGHTS = { under: 2, over: 3, middle: 0.2 } as const;
/** An answer that presses something else may cost corals so much more. Mark: rule of thumb. */
const ALLOWED = 0.12;
/** What is not pressed still counts a little, so that nothing is given away for nothing. */
const BESIDES = 0.02;
const MOST_TILT_DEG = 20;
const HEIGHTS = 7;
const SPREADS = [0.6, 0.8, 1, 1.2] as const;

/** How far light is from what a coral wants: too much weighs most, then too little, then being off the middle. */
export const costOf = (umol: number, { fromUmol, toUmol }: Wants): number => {
  const low = Math.max(1, fromUmol);
  const e = Math.max(0.1, umol);
  const middle = Math.sqrt(low * toUmol);
  return (
    WEIGHTS.under * Math.max(0, Math.log(low / e)) +
    WEIGHTS.over * Math.max(0, Math.log(e / toUmol)) +
    (WEIGHTS.middle * Math.abs(Math.log(e / middle))) / Math.log(toUmol / middle)
  );
};

/** Light of an arrangement with nothing capped: what caps then scale. */
interface Full {
  umol: number[];
  plan: number[];
  glass: number[];
  entered: number;
}

/** Looks at arrangements of one group's lamps. */
export class Hanger {
  readonly kind: LampKind;
  readonly dims: boolean;
  private readonly group: LitGroup;
  private readonly glances: Glances;
  private readonly others: Full;
  /** whole light over a glance's: floor, calibration and all */
  private readonly scale: number;
  private readonly wants: (Wants | null)[];
  private readonly watts: (capShare: number) => number;
  private readonly kept = new Map<string, Full>();
  private readonly fronts = new Map<string, LampKind>();

  constructor(readonly ask: HangAsk) {
    const { zone, groups, groupId, cal } = ask;
    const group = groups.find((g) => g.groupId === groupId)!;
    this.group = group;
    this.kind = group.lampKind;
    this.dims = dims(group.lampKind);
    this.wants = zone.spots.map((s) => (livesByLight(s) ? wantsOf(s, zone) : null));
    const open = groups.map((g) => (g === group && this.dims ? uncapped(g) : g));
    const light = zoneLight(computeResponse(rigOf(open, zone, zone.spots, cal)), open, cal);
    const levels = zone.spots.length > 0 ? brightestLevels(light, open, 0) : levelsOfGroups(open, 720);
    const at = open.findIndex((g) => g.groupId === groupId);
    const planCm = planDepth(zone);
    const look = (i: number) => {
      const { lampKind, lamps } = open[i]!;
      const glances = new Glances(zone.tank, zone.water, levels[i]!, zone.spots, planCm);
      return { glances, seen: lamps.map((l) => glances.of(lampKind, l)) };
    };
    const own = look(at);
    this.glances = own.glances;
    this.others = summed(
      open.flatMap((_, i) => (i === at ? [] : look(i).seen)),
      zone.spots.map((s) => s.openShare),
    );
    const quick = summed(
      own.seen,
      zone.spots.map((s) => s.openShare),
    ).umol;
    const whole = zone.spots.map((_, s) =>
      parUnder(
        light,
        levels.map((l, i) => (i === at ? l : l.map(() => 0))),
        s,
      ),
    );
    const [a, b] = [whole, quick].map((v) => v.reduce((s, x) => s + x, 0));
    this.scale = b! > 0 ? a! / b! : 1;
    const full = Object.fromEntries(channelIds(group.lampKind).map((id, c) => [id, levels[at]![c]!]));
    // caps are tried in steps, each of them again and again
    const known = new Map<number, number>();
    this.watts = (capShare) => {
      let watts = known.get(capShare);
      if (watts === undefined) {
        const capped = Object.fromEntries(Object.entries(full).map(([id, v]) => [id, v * capShare]));
        known.set(capShare, (watts = group.lamps.length * wallWatts(group.lampKind, capped)));
      }
      return watts;
    };
  }

  /** The lamps of an arrangement, named as they are; null when they do not fit side by side over the tank. */
  lamps(a: Arrangement): HungLamp[] | null {
    const { zone } = this.ask;
    const { lengthCm, widthCm } = zone.tank;
    const [face, depth] =
      a.turnDeg === 0
        ? [this.kind.faceLengthCm, this.kind.faceWidthCm]
        : [this.kind.faceWidthCm, this.kind.faceLengthCm];
    const n = this.group.lamps.length;
    const apart = (a.spread * lengthCm) / n;
    if (n > 1 && apart < face) return null;
    const y = widthCm / 2 + a.acrossCm;
    if (y < Math.min(depth, widthCm) / 2 || y > widthCm - Math.min(depth, widthCm) / 2) return null;
    const first = lengthCm / 2 + a.alongCm - (apart * (n - 1)) / 2;
    if (first < 0 || first + apart * (n - 1) > lengthCm) return null;
    return this.group.lamps.map((l, i) => {
      const { tiltDeg: _, tiltTowardDeg: __, ...rest } = l;
      const x = first + apart * i;
      return {
        ...rest,
        ...{ xCm: Math.round(10 * x) / 10, yCm: Math.round(10 * y) / 10 },
        ...{ heightCm: a.heightCm, turnDeg: a.turnDeg },
        ...(a.tiltDeg > 0 ? { tiltDeg: a.tiltDeg, tiltTowardDeg: a.acrossCm > 0 ? 270 : 90 } : {}),
      };
    });
  }

  /** The kind behind a matt sheet and lenses; each is made once. */
  kindOf({ diffuserShare, lensDeg }: Pick<Arrangement, 'diffuserShare' | 'lensDeg'>): LampKind {
    const key = `${diffuserShare} ${lensDeg}`;
    let made = this.fronts.get(key);
    if (!made) {
      const lensed = lensDeg === undefined ? this.kind : withLens(this.kind, lensDeg);
      made = diffuserShare === (this.kind.diffuserShare ?? 0) ? lensed : { ...lensed, diffuserShare };
      this.fronts.set(key, made);
    }
    return made;
  }

  /** Light with these lamps and no cap; each set is looked at once. */
  full(lamps: readonly HungLamp[], kind: LampKind = this.kind): Full {
    const key = JSON.stringify([
      lamps.map((l) => [l.xCm, l.yCm, l.heightCm, l.turnDeg, l.tiltDeg, l.tiltTowardDeg]),
      frontKey(kind),
    ]);
    let made = this.kept.get(key);
    if (!made) {
      made = summed(
        lamps.map((l) => this.glances.of(kind, l)),
        this.ask.zone.spots.map((s) => s.openShare),
      );
      this.kept.set(key, made);
    }
    return made;
  }

  figures(of: Full, capShare: number): HangFigures {
    const by = this.scale * capShare;
    const umol = of.umol.map((v, i) => by * v + this.others.umol[i]!);
    const plan = of.plan.map((v, i) => by * v + (this.others.plan[i] ?? 0));
    const mean = plan.reduce((s, v) => s + v, 0) / plan.length;
    return {
      ...{ capShare, umol, ...this.suits(umol) },
      uneven: mean > 0 ? 1 - Math.min(...plan) / mean : 1,
      glassUmol: Math.max(...of.glass.map((v, i) => by * v + (this.others.glass[i] ?? 0))),
      lostShare: 1 - of.entered,
      watts: this.watts(capShare),
    };
  }

  suits(umol: readonly number[]): Pick<HangFigures, 'cost' | 'within'> {
    const judged = umol.flatMap((v, i) => (this.wants[i] ? [{ v, wants: this.wants[i] }] : []));
    return {
      cost:
        judged.length > 0 ? judged.reduce((s, { v, wants }) => s + costOf(v, wants), 0) / judged.length : 0,
      within: judged.filter(({ v, wants }) => v >= wants.fromUmol && v <= wants.toUmol).length,
    };
  }

  /** The cap that an aim likes best, whole percents; null when what is to stay calm is not at any. */
  best(of: Full, score: (f: HangFigures) => number): { figures: HangFigures; score: number } | null {
    const { calm } = this.ask;
    let found: { figures: HangFigures; score: number } | null = null;
    for (let percent = this.dims ? 5 : 100; percent <= 100; percent += percent < 30 ? 1 : 2) {
      const figures = this.figures(of, percent / 100);
      if (calm && figures.umol[calm.spot]! > calm.mostUmol) break;
      const s = score(figures);
      if (!found || s < found.score) found = { figures, score: s };
    }
    return found;
  }

  /** As it hangs now, with the cap as it is. */
  now(): HangFigures {
    const { capShare } = this.group.day;
    return this.figures(this.full(this.group.lamps), this.dims ? capShare : 1);
  }
  /** so many arrangements were looked at */
  get looked(): number {
    return this.kept.size;
  }
  nowLamps = (): HungLamp[] => [...this.group.lamps];
}

const uncapped = (g: LitGroup): LitGroup => ({ ...g, day: { ...g.day, capShare: 1 } });

/** The depth at which evenness is asked: that of the corals on average, else a third down. */
const planDepth = (zone: Zone): number => {
  const own = zone.spots.filter((s) => s.need !== null).map((s) => s.depthCm);
  return own.length > 0 ? own.reduce((s, v) => s + v, 0) / own.length : zone.tank.depthCm / 3;
};

function summed(seen: readonly LampGlance[], open: readonly number[]): Full {
  const add = (of: (g: LampGlance) => Float64Array, size: number) =>
    Array.from({ length: size }, (_, i) => seen.reduce((s, g) => s + of(g)[i]!, 0));
  return {
    umol: add((g) => g.spots, open.length).map((v, i) => v * open[i]!),
    plan: add((g) => g.plan, seen[0]?.plan.length ?? 0),
    glass: add((g) => g.glass, seen[0]?.glass.length ?? 0),
    entered: seen.length > 0 ? seen.reduce((s, g) => s + g.entered, 0) / seen.length : 1,
  };
}

/** Steps from one arrangement to its neighbours. */
const neighbours = (
  a: Arrangement,
  { lowestCm, highestCm, anywhere = false, bare = false, lensesDeg = [] }: HangAsk,
): Arrangement[] => {
  const heights = [-6, -2, -1, 1, 2, 6]
    .map((d) => a.heightCm + d)
    .filter((h) => h >= lowestCm && h <= highestCm);
  const spreads = [-0.15, -0.05, 0.05, 0.15]
    .map((d) => Math.round(100 * (a.spread + d)) / 100)
    .filter((s) => s > 0.2 && s < 1.7);
  const along = anywhere ? [-6, -1, 1, 6].map((d) => a.alongCm + d) : [];
  const across = [-5, -1, 1, 5].map((d) => a.acrossCm + d);
  return [
    ...heights.map((heightCm) => ({ ...a, heightCm })),
    ...spreads.map((spread) => ({ ...a, spread })),
    ...along.map((alongCm) => ({ ...a, alongCm })),
    ...across.map((acrossCm) => ({ ...a, acrossCm, ...(acrossCm === 0 ? { tiltDeg: 0 } : {}) })),
    { ...a, turnDeg: a.turnDeg === 0 ? 90 : 0 },
    ...(bare ? [] : [{ ...a, diffuserShare: a.diffuserShare > 0 ? 0 : 1 }]),
    ...(bare
      ? []
      : [undefined, ...lensesDeg].flatMap((lensDeg) => (lensDeg === a.lensDeg ? [] : [{ ...a, lensDeg }]))),
    ...(a.acrossCm === 0 ? [] : [-5, 5].map((d) => ({ ...a, tiltDeg: a.tiltDeg + d }))).filter(
      (x) => x.tiltDeg >= 0 && x.tiltDeg <= MOST_TILT_DEG,
    ),
  ];
};
const ROUNDS = 14;
/** Lamps whose middle lies farther than this from the tank's hang beside others: that is looked at too, cm. */
const ELSEWHERE_CM = 10;

/** An arrangement with the cap that a score likes best. */
export interface Found {
  a: Arrangement;
  lamps: HungLamp[];
  figures: HangFigures;
  score: number;
}

/** Heights and spreads over the whole range, plain and turned. */
export function startsOf(hanger: Hanger): Arrangement[] {
  const { lowestCm, highestCm } = hanger.ask;
  const high = Math.max(lowestCm, highestCm);
  const lamps = hanger.nowLamps();
  const middle = lamps.reduce((s, l) => s + l.xCm, 0) / lamps.length - hanger.ask.zone.tank.lengthCm / 2;
  const out: Arrangement[] = [];
  for (let k = 0; k < HEIGHTS; k += 1) {
    const heightCm = Math.round(lowestCm * (high / lowestCm) ** (k / (HEIGHTS - 1)));
    for (const spread of hanger.nowLamps().length > 1 ? SPREADS : [1])
      for (const turnDeg of [0, 90] as const)
        for (const alongCm of Math.abs(middle) > ELSEWHERE_CM ? [0, Math.round(middle)] : [0])
          out.push({
            ...{ heightCm, spread, alongCm, acrossCm: 0, turnDeg, tiltDeg: 0 },
            diffuserShare: hanger.kind.diffuserShare ?? 0,
          });
  }
  return out;
}

/** The arrangement with the least score: all of a list are looked at, then it climbs on from the best. Yields how far it is. */
export function* climbSteps(
  hanger: Hanger,
  start: readonly Arrangement[],
  score: (f: HangFigures) => number,
  onSeen?: (f: HangFigures) => void,
): Generator<number, Found | null> {
  const tried = (a: Arrangement): Found | null => {
    const lamps = hanger.lamps(a);
    const best = lamps && hanger.best(hanger.full(lamps, hanger.kindOf(a)), score);
    return lamps && best && { a, lamps, ...best };
  };
  const looked: Found[] = [];
  for (const [k, a] of start.entries()) {
    const found = tried(a);
    if (found) {
      onSeen?.(found.figures);
      looked.push(found);
    }
    if (k % 4 === 0) yield (0.4 * k) / start.length;
  }
  looked.sort((a, b) => a.score - b.score);
  let best: Found | null = looked[0] ?? null;
  for (let round = 0; best && round < ROUNDS; round += 1) {
    const from: Found = best;
    for (const a of neighbours(from.a, hanger.ask)) {
      const found = tried(a);
      if (found && found.score < best.score - 1e-9) best = found;
    }
    yield 0.4 + (0.6 * round) / ROUNDS;
    if (best === from) break;
  }
  return best;
}

/**
 * Named answers of where the lamps of a group could hang: best for the corals, most even, cleanest panes, fewest watts, and as they
 * hang with another cap. Heights and spreads are looked at over the whole range, then every aim climbs on from the best it saw. Answers
 * that come out as one stand once. Yields how far it is.
 */
export function* hangSteps(ask: HangAsk): Generator<number, HangAnswer> {
  const hanger = new Hanger(ask);
  yield 0.05;
  const start = startsOf(hanger);
  const now = hanger.now();
  const seen: HangFigures[] = [];
  const besides = (f: HangFigures) =>
    BESIDES *
    (f.cost +
      f.uneven +
      f.glassUmol / Math.max(1, now.glassUmol) +
      f.lostShare +
      f.watts / Math.max(1, now.watts));
  let leastCost = Infinity;
  const dear = (f: HangFigures) => 5 * Math.max(0, f.cost - leastCost - ALLOWED);
  const aims: readonly [Exclude<HangAim, 'asNow'>, (f: HangFigures) => number][] = [
    ['corals', (f) => f.cost + besides(f)],
    ['even', (f) => f.uneven + dear(f) + besides(f)],
    ['glass', (f) => f.glassUmol / Math.max(1, now.glassUmol) + dear(f) + besides(f)],
    ['watts', (f) => f.watts / Math.max(1, now.watts) + dear(f) + besides(f)],
  ];
  const answers: { aim: HangAim; found: Found }[] = [];
  for (const [i, [aim, score]] of aims.entries()) {
    const climbing = climbSteps(hanger, start, score, i === 0 ? (f) => seen.push(f) : undefined);
    let best: Found | null = null;
    for (;;) {
      const step = climbing.next();
      if (step.done) {
        best = step.value;
        break;
      }
      yield 0.05 + (0.9 * (i + step.value)) / aims.length;
    }
    if (!best) continue;
    if (aim === 'corals') leastCost = best.figures.cost;
    answers.push({ aim, found: best });
  }
  const same = (a: Found, b: Found) =>
    JSON.stringify([a.a, a.figures.capShare]) === JSON.stringify([b.a, b.figures.capShare]);
  const ways: HangWay[] = [];
  answers.forEach(({ aim, found }, i) => {
    if (answers.findIndex((x) => same(x.found, found)) < i) return;
    ways.push({
      aim,
      also: answers.filter((x, k) => k > i && same(x.found, found)).map((x) => x.aim),
      arrangement: found.a,
      lamps: found.lamps,
      kind: hanger.kindOf(found.a),
      ...judgedInFull(ask, found.lamps, hanger, found.figures, hanger.kindOf(found.a)),
    });
  });
  const lamps = hanger.nowLamps();
  const asNow = hanger.best(hanger.full(lamps), aims[0]![1]);
  if (asNow)
    ways.push({
      ...{ aim: 'asNow', also: [], arrangement: null, lamps, kind: hanger.kind },
      ...judgedInFull(ask, lamps, hanger, asNow.figures, hanger.kind),
    });
  const asIs = judgedInFull({ ...ask, calm: null }, lamps, hanger, now, hanger.kind);
  return {
    now: asIs.figures,
    criticism: asIs.criticism,
    ways,
    seen,
    looked: hanger.looked,
  };
}

/** An answer's figures and who would have to stand elsewhere under it. */
function judgedInFull(
  ask: HangAsk,
  lamps: HungLamp[],
  hanger: Hanger,
  of: HangFigures,
  kind: LampKind,
): Pick<HangWay, 'figures' | 'criticism'> {
  const figures = inFull(ask, lamps, hanger, of, kind);
  return {
    figures,
    criticism: critic(ask.zone, hungGroups(ask, lamps, kind, figures.capShare), ask.cal),
  };
}

/** The figures of an answer with its light computed in full; panes, evenness and what is lost stay as they were looked at. */
function inFull(
  ask: HangAsk,
  lamps: HungLamp[],
  hanger: Hanger,
  figures: HangFigures,
  kind: LampKind,
  tries = 3,
): HungFigures {
  const { zone, calm, used } = ask;
  const { hung, light, days } = hungLight(ask, lamps, kind, figures.capShare);
  const umol = days.map((d) => d.peak);
  // a glance may be a few percent off: what is to stay calm is held in full
  const over = calm ? umol[calm.spot]! / calm.mostUmol : 1;
  const lower = Math.floor((100 * figures.capShare) / over) / 100;
  if (over > 1 && hanger.dims && lower >= 0.01 && lower < figures.capShare && tries > 0) {
    const less = hanger.figures(hanger.full(lamps, kind), lower);
    return inFull(ask, lamps, hanger, less, kind, tries - 1);
  }
  const steps = used
    ? days.flatMap((day, spot) => {
        const s = zone.spots[spot]!;
        return livesByLight(s) ? [{ ...stepRatio(day, used[spot]!, floorUmolOf(s, zone)), spot }] : [];
      })
    : [];
  const brightest = umol.indexOf(Math.max(...umol));
  const ripples = () => {
    const levels = levelsOfGroups(hung, days[brightest]!.peakMinute);
    const { rows } = rigOf(hung, zone, [], ask.cal);
    const shares = hung.flatMap((g, i) => g.lamps.flatMap(() => levels[i]!));
    const channels = hung.flatMap((g, i) =>
      g.lamps.flatMap(() => g.lampKind.channels.map((_, c) => 100 * i + c)),
    );
    const crossings = crossingsAt(rows, zone.tank, zone.spots[brightest]!, shares, channels);
    const { depthCm } = zone.spots[brightest]!;
    return {
      ...{ spot: brightest, umol: flicker(crossings, zone.rippleSlope, depthCm, umol[brightest]!).flashUmol },
      blendDeg: rippleBlendDeg(crossings, zone.rippleSlope, depthCm),
    };
  };
  return {
    ...{ ...figures, umol, ...hanger.suits(umol) },
    step: steps.length > 0 ? steps.reduce((a, b) => (b.ratio > a.ratio ? b : a)) : null,
    flash: light.spots > 0 && umol[brightest]! > 0 ? ripples() : null,
  };
}

/** All groups, with one's lamps hung and capped so. */
const hungGroups = (
  { groups, groupId }: Pick<HangAsk, 'groups' | 'groupId'>,
  lamps: readonly HungLamp[],
  kind: LampKind,
  capShare: number,
): LitGroup[] =>
  groups.map((g): LitGroup => {
    if (g.groupId !== groupId) return g;
    const capped = dims(g.lampKind) ? { day: { ...g.day, capShare } } : {};
    return { ...g, ...capped, lampKind: kind, lamps: [...lamps] };
  });

/** The light of lamps hung and capped so, the other groups as they are lit. */
export function hungLight(
  ask: Pick<HangAsk, 'zone' | 'groups' | 'groupId' | 'cal'>,
  lamps: readonly HungLamp[],
  kind: LampKind,
  capShare: number,
): { hung: LitGroup[]; light: ZoneLight; days: ZoneDay[] } {
  const { zone, cal } = ask;
  const hung = hungGroups(ask, lamps, kind, capShare);
  const light = zoneLight(computeResponse(rigOf(hung, zone, zone.spots, cal)), hung, cal);
  return {
    hung,
    light,
    days: daysAt(
      light,
      hung,
      zone.spots.map((_, s) => s),
    ),
  };
}
