import { canBeWired } from '../controller/circuits';
import { type ChannelWorth, fitSteps } from '../controller/fit';
import { misfits } from '../controller/misfits';
import { levelsAt, parOf } from '../day/day';
import type { ResolvedThread } from '../day/thread';
import { type DayLight, stepRatio, type StepRatio } from '../easing/accustomed';
import { cheapestFor, leftUnused } from '../library/compare';
import { bandsHeld } from '../library/held';
import { lampLibrary } from '../library/lamps';
import { sharesOfPar } from '../mix/shape';
import { transmission } from '../optics/water';
import { floorUmolOf, livesByLight, wantsOf } from '../record/needs';
import type { HungLamp, Zone } from '../record/zone';
import { DAY_MINUTES, minutesApart } from '../shape/ring';
import { BANDS, type BandId, par } from '../spectrum/bands';
import { allFull, dims } from '../spectrum/controls';
import { integrate } from '../spectrum/grid';
import { keptSpectrum, mixSpectrum } from '../spectrum/lamp';
import type { LampKind } from '../spectrum/lampKind';
import type { Calibration } from './calibration';
import { kWhPerDay } from './dayFigures';
import { type Arrangement, climbSteps, Hanger, type HangFigures, hungLight, startsOf } from './hang';
import { carriedThreads, depthOfLiving, firstLit, inPlaceOf, spreadAbout } from './inPlace';
import { bandUnder, levelsOfGroups } from './light';
import type { LitGroup } from './lit';

/** Which lamps would do in place of some that are drafted, for this tank, its corals, its day and its look. */

export interface ChooseAsk {
  zone: Zone;
  /** all that is lit, as drafted */
  groups: readonly LitGroup[];
  /** whose day and look are wanted, and in whose place the lamps come; null = none: a careful first day and mix are wanted */
  outGroupId: string | null;
  kinds: readonly LampKind[];
  /** as many of a kind at most */
  most: number;
  cal: Calibration;
  lowestCm: number;
  highestCm: number;
  /** what each spot is used to; null = not known */
  used: readonly DayLight[] | null;
}

/** What restores something that lamps lack. */
export interface Lack {
  /** a band of the wanted look, or a slow dawn */
  what: BandId | 'dawn';
  holds: 'token' | 'none';
  /** the cheapest lamp of the library that has it; null = none has */
  addition: LampKind | null;
  /** its colours on circuits of a clock would do: switched one after the other */
  byCircuits: boolean;
}

export interface LampChoice {
  kind: LampKind;
  lamps: HungLamp[];
  arrangement: Arrangement;
  /** the group as it would be lit */
  group: LitGroup;
  capShare: number;
  threads: ResolvedThread[];
  /** how near the colours come, 0..1, the worst of the day's mixes */
  match: number;
  /** its light computed in full */
  figures: HangFigures;
  judged: number;
  /** half width of the 90 % band of PAR where it is least sure */
  bandShare: number;
  /** the largest step over what somebody is used to; null = not known */
  step: (StepRatio & { spot: number }) | null;
  kWhPerDay: number;
  /** of all of them; null = not given */
  price: number | null;
  /** emitters that the wanted look leaves dark, of all */
  idle: readonly [idle: number, all: number];
  lacks: Lack[];
  /** what its controller makes of the wanted day: farthest at any moment, as a share of the peak, and first and last light, min */
  day: { errorShare: number; firstMin: number; lastMin: number };
}

/** A share of the wanted light that would be missed. Mark: rule of thumb. */
const MISSED_SHARE = 0.03;
const EVERY_MIN = 5;
/** Light below this share of the peak is no first or last light. Mark: rule of thumb. */
const LIT_SHARE = 0.01;

const worthOf = (kind: LampKind): ChannelWorth => {
  const kept = kind.channels.map(keptSpectrum);
  return {
    par: kept.map((s) => par(s)),
    bands: kept.map((s) => BANDS.map((b) => integrate(s, b.fromNm, b.toNm))),
  };
};

/** A day's light as a share of its peak, every 5 minutes. */
function curveOf({ lampKind, day }: LitGroup): number[] {
  const { par: worth } = worthOf(lampKind);
  const light = Array.from({ length: DAY_MINUTES / EVERY_MIN }, (_, i) =>
    parOf(levelsAt(day, i * EVERY_MIN), worth),
  );
  const peak = Math.max(...light);
  return light.map((v) => (peak > 0 ? v / peak : 0));
}

/** First and last lit minute after the longest dark; null where it is always or never lit. */
function endsOf(curve: readonly number[]): readonly [number, number] | null {
  const n = curve.length;
  const lit = (i: number) => curve[((i % n) + n) % n]! > LIT_SHARE;
  let found: { first: number; last: number; dark: number } | null = null;
  for (let i = 0; i < n; i += 1) {
    if (lit(i) || !lit(i - 1)) continue;
    let dark = 1;
    while (dark < n && !lit(i + dark)) dark += 1;
    if (!found || dark > found.dark) found = { first: i + dark, last: i, dark };
  }
  return found && [(found.first % n) * EVERY_MIN, (found.last % n) * EVERY_MIN];
}

/** How far the day of a group is from a wanted one, each of its own peak. */
export function dayApart(wanted: LitGroup, made: LitGroup): LampChoice['day'] {
  const [a, b] = [curveOf(wanted), curveOf(made)];
  const [x, y] = [endsOf(a), endsOf(b)];
  return {
    errorShare: Math.max(...a.map((v, i) => Math.abs(v - b[i]!))),
    firstMin: x && y ? minutesApart(x[0], y[0]) : 0,
    lastMin: x && y ? minutesApart(x[1], y[1]) : 0,
  };
}

/** Whether light can come slowly. */
const dawns = (kind: LampKind): boolean =>
  dims(kind) && kind.controller.sets !== 'switch' && kind.controller.interpolation === 'ramp';

/** What of the wanted look and of a slow dawn a lamp does not have, with the cheapest that would bring it. */
export function lacksOf(old: LitGroup, kind: LampKind): Lack[] {
  const brightest = old.threads.reduce(
    (a, b) => (b.strengthShare > a.strengthShare ? b : a),
    old.threads[0]!,
  );
  const wanted = brightest ? sharesOfPar(mixSpectrum(old.lampKind, brightest.mix)) : null;
  const bands = bandsHeld(kind).flatMap(({ id, holds }): Lack[] =>
    holds !== 'real' && wanted && wanted[id] >= MISSED_SHARE
      ? [{ what: id, holds, addition: cheapestFor(id, kind.id), byCircuits: false }]
      : [],
  );
  if (dawns(kind) || !dawns(old.lampKind)) return bands;
  const dawning = lampLibrary()
    .map((l) => l.kind)
    .filter((k) => k.id !== kind.id && dawns(k))
    .sort((a, b) => (a.price ?? Infinity) - (b.price ?? Infinity))[0];
  return [...bands, { what: 'dawn', holds: 'none', addition: dawning ?? null, byCircuits: canBeWired(kind) }];
}

/** The light that is wanted where nothing is drafted: a first day and mix of the lamp with most bands. */
function firstWanted(kinds: readonly LampKind[], zone: Zone): LitGroup {
  const bands = (k: LampKind) => (dims(k) ? bandsHeld(k).filter((b) => b.holds === 'real').length : 0);
  return firstLit(
    kinds.reduce((a, b) => (bands(b) > bands(a) ? b : a)),
    1,
    zone,
  );
}

/** What corals want first, then evenness; panes and lost light still count a little. Mark: rule of thumb. */
const climbed = (f: HangFigures): number =>
  f.cost + 0.15 * f.uneven + 0.0002 * f.glassUmol + 0.02 * f.lostShare;

/**
 * Lamps of every kind, one to as many as fit, hung where and capped so that corals have what they want, under the wanted day as the lamp
 * and its controller can make it. Kinds that give no light are left out. Yields how far it is.
 */
export function* chooseSteps(ask: ChooseAsk): Generator<number, LampChoice[]> {
  const { zone, groups, outGroupId, kinds, most, cal } = ask;
  if (kinds.length === 0) return [];
  const old = groups.find((g) => g.groupId === outGroupId) ?? firstWanted(kinds, zone);
  const others = groups.filter((g) => g !== old);
  const through = transmission(zone.water, depthOfLiving(zone));
  const out: LampChoice[] = [];
  for (const [k, kind] of kinds.entries()) {
    const at = (share: number) => (k + share) / kinds.length;
    yield at(0);
    if (!(par(mixSpectrum(kind, allFull(kind))) > 0)) continue;
    let { threads, match } = carriedThreads(old, kind, through);
    yield at(0.2);
    if (misfits(kind, threads).length > 0) {
      const steps = fitSteps(kind, threads, worthOf(kind), kind.controller);
      for (let next = steps.next(); ; next = steps.next()) {
        if (!next.done) {
          yield at(0.2 + 0.2 * next.value);
          continue;
        }
        if (next.value.threads.length > 0) threads = next.value.threads;
        break;
      }
    }
    const lacks = lacksOf(old, kind);
    for (let count = 1; count <= most; count += 1) {
      const fresh = inPlaceOf(old, kind, spreadAbout(old, count, zone), threads, 1);
      const asked = {
        ...{ zone, groups: [...others, fresh], groupId: fresh.groupId, cal, calm: null, used: null },
        ...{ lowestCm: ask.lowestCm, highestCm: ask.highestCm, bare: true, anywhere: others.length > 0 },
      };
      const hanger = new Hanger(asked);
      const climbing = climbSteps(hanger, startsOf(hanger), climbed);
      let next = climbing.next();
      for (; !next.done; next = climbing.next()) yield at(0.4 + (0.6 * (count - 1 + next.value)) / most);
      const found = next.value;
      // they do not fit side by side
      if (!found) break;
      const { capShare } = found.figures;
      const { hung, light, days } = hungLight(asked, found.lamps, kind, capShare);
      const umol = days.map((d) => d.peak);
      const group = hung.find((g) => g.groupId === fresh.groupId)!;
      const judged = zone.spots.filter((s) => livesByLight(s) && wantsOf(s, zone)).length;
      const steps = ask.used
        ? days.flatMap((day, spot) => {
            const s = zone.spots[spot]!;
            return livesByLight(s)
              ? [{ ...stepRatio(day, ask.used![spot]!, floorUmolOf(s, zone)), spot }]
              : [];
          })
        : [];
      const brightest = threads.reduce((a, b) => (b.strengthShare > a.strengthShare ? b : a));
      const unused = leftUnused(kind, brightest.mix);
      out.push({
        ...{ kind, lamps: found.lamps, arrangement: found.a, group, capShare, threads, match, lacks, judged },
        figures: { ...found.figures, umol, ...hanger.suits(umol) },
        bandShare: Math.max(
          0,
          ...days.map((d, spot) => bandUnder(cal, light, hung, levelsOfGroups(hung, d.peakMinute), spot)),
        ),
        step: steps.length > 0 ? steps.reduce((a, b) => (b.ratio > a.ratio ? b : a)) : null,
        kWhPerDay: kWhPerDay([group]),
        price: kind.price === null ? null : kind.price * count,
        idle: [unused.emitters, unused.emittersAll],
        day: dayApart(old, group),
      });
    }
  }
  return out;
}
