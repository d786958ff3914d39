import { type DayLight, stepRatio, type StepRatio } from '../easing/accustomed';
import { transmission } from '../optics/water';
import { floorUmolOf, livesByLight } from '../record/needs';
import type { HungLamp, Zone } from '../record/zone';
import { fullSeconds } from '../day/day';
import type { ResolvedThread } from '../day/thread';
import { dims } from '../spectrum/controls';
import type { LampKind } from '../spectrum/lampKind';
import { type Calibration, channelKey, ratioBandShare } from './calibration';
import { type Criticism, critic } from './critic';
import { climbSteps, type Found, Hanger, type HangFigures, hungLight, startsOf } from './hang';
import { daysAt, levelsOfGroups, takenParts, type ZoneDay, type ZoneLight, zoneLight } from './light';
import { carriedThreads, depthOfLiving, inPlaceOf, spreadAbout } from './inPlace';
import { type LitGroup, rigOf } from './lit';
import { computeResponse } from '../optics/response';

/** One lamp, or one group of them, for another: what gives each coral the light it had. */

export interface SwapAsk {
  zone: Zone;
  /** all that is lit, as it runs; the group that comes down among it */
  groups: readonly LitGroup[];
  outGroupId: string;
  kind: LampKind;
  count: number;
  cal: Calibration;
  lowestCm: number;
  highestCm: number;
}

/** A coral before and after. */
export interface SwapCoral {
  spot: number;
  before: DayLight;
  after: DayLight;
  /** as it takes light up */
  step: StepRatio;
  /** half width of that ratio's 90 % band */
  bandShare: number;
}

export interface SwapAnswer {
  kind: LampKind;
  lamps: HungLamp[];
  threads: ResolvedThread[];
  capShare: number;
  /** how near the colours come, 0..1, the worst of its mixes */
  match: number;
  corals: SwapCoral[];
  /** 1 − darkest over mean, before and after */
  uneven: readonly [before: number, after: number];
  /** who is outside their range under the new lamps, and where they would have to stand */
  criticism: Criticism;
  /** at its cap the new lamps give less than was had at most corals */
  weak: boolean;
}

/** A coral that gets less than this of what it had counts as short. Mark: rule of thumb. */
const SHORT = 0.9;

const lightOf = (zone: Zone, groups: readonly LitGroup[], cal: Calibration): ZoneLight =>
  zoneLight(computeResponse(rigOf(groups, zone, zone.spots, cal)), groups, cal);

/** Whether a kind of lamp is another only by name. */
const sameKind = (a: LampKind, b: LampKind): boolean => {
  const of = ({ id: _, name: __, price: ___, ...rest }: LampKind) => JSON.stringify(rest);
  return of(a) === of(b);
};

/**
 * Where, how high, and at which cap and mixes other lamps give each coral what it had, as it takes light up. A lamp for itself stays as it
 * hangs. Yields how far it is.
 */
export function* swapSteps(ask: SwapAsk): Generator<number, SwapAnswer> {
  const { zone, groups, outGroupId, kind, count, cal } = ask;
  const old = groups.find((g) => g.groupId === outGroupId)!;
  const before = lightOf(zone, groups, cal);
  const all = zone.spots.map((_, i) => i);
  const had = daysAt(before, groups, all);
  const living = all.filter(
    (i) => livesByLight(zone.spots[i]!) && zone.spots[i]!.need !== null && had[i]!.peak > 0,
  );
  yield 0.1;
  const itself = sameKind(old.lampKind, kind) && count === old.lamps.length;
  const { threads, match } = itself
    ? {
        threads: old.threads.map(({ minute, strengthShare, mix }) => ({ minute, strengthShare, mix })),
        match: 1,
      }
    : carriedThreads(old, kind, transmission(zone.water, depthOfLiving(zone)));
  const fresh = itself
    ? inPlaceOf(old, kind, old.lamps, threads, old.day.capShare, old.extras)
    : inPlaceOf(old, kind, spreadAbout(old, count, zone), threads, 1);
  const { lamps } = fresh;
  const others = groups.filter((g) => g !== old);
  const hung = [...others, fresh];
  const asked = {
    zone,
    groups: hung,
    groupId: fresh.groupId,
    cal,
    lowestCm: ask.lowestCm,
    highestCm: ask.highestCm,
    calm: null,
    anywhere: true,
    bare: true,
    used: null,
  };
  const oldHanger = new Hanger({ ...asked, groups, groupId: outGroupId });
  const unevenBefore = oldHanger.now().uneven;
  let found: Pick<Found, 'lamps'> & { figures: Pick<HangFigures, 'capShare' | 'uneven'> } = {
    lamps,
    figures: { capShare: old.day.capShare, uneven: unevenBefore },
  };
  if (!itself) {
    const hanger = new Hanger(asked);
    // what is taken up of a µmol of the new light, at each coral
    const now = daysAt(lightOf(zone, hung, cal), hung, all);
    const aim = all.map((i) => (had[i]!.taken.peak * now[i]!.peak) / Math.max(1e-9, now[i]!.taken.peak));
    const off = (f: HangFigures) =>
      living.reduce((s, i) => s + Math.log(Math.max(0.1, f.umol[i]!) / Math.max(0.1, aim[i]!)) ** 2, 0) /
        Math.max(1, living.length) +
      0.02 * f.uneven;
    const climbing = climbSteps(hanger, startsOf(hanger), off);
    for (;;) {
      const step = climbing.next();
      if (!step.done) {
        yield 0.1 + 0.7 * step.value;
        continue;
      }
      if (step.value) found = step.value;
      break;
    }
  }
  let { capShare } = found.figures;
  let lit = hungLight(asked, found.lamps, kind, capShare);
  const ratioOf = (i: number) => stepRatio(lit.days[i]!, had[i]!, floorUmolOf(zone.spots[i]!, zone));
  // looked at quickly it may be a few percent off: the cap takes what they have in common
  for (let k = 0; !itself && dims(kind) && k < 3 && living.length > 0; k += 1) {
    const mean = living.reduce((s, i) => s + Math.log(ratioOf(i).ratio), 0) / living.length;
    const next = Math.min(1, Math.max(0.01, Math.round((100 * capShare) / Math.exp(mean)) / 100));
    if (next === capShare) break;
    capShare = next;
    lit = hungLight(asked, found.lamps, kind, capShare);
  }
  yield 0.95;
  const corals = living.map((spot): SwapCoral => {
    const step = ratioOf(spot);
    return {
      spot,
      before: plain(had[spot]!),
      after: plain(lit.days[spot]!),
      step,
      bandShare: itself ? 0 : bandOf(ask, before, had[spot]!, lit, step.by, spot),
    };
  });
  const short = corals.filter((c) => c.step.ratio < SHORT).length;
  return {
    ...{ kind, lamps: found.lamps, threads, capShare, match, corals },
    uneven: [unevenBefore, found.figures.uneven],
    weak: short > corals.length / 2,
    criticism: critic(zone, lit.hung, cal),
  };
}

const plain = ({ dli, peak, taken }: ZoneDay): DayLight => ({ dli, peak, taken });

/** How far the ratio of the new light over the old may lie off: what both share falls out, the new lamp's own doubt stays. */
function bandOf(
  { groups, cal }: SwapAsk,
  before: ZoneLight,
  had: ZoneDay,
  { hung, light, days }: ReturnType<typeof hungLight>,
  by: StepRatio['by'],
  spot: number,
): number {
  const levels = (of: readonly LitGroup[], minute: number) =>
    by === 'peak' ? levelsOfGroups(of, minute) : of.map((g) => fullSeconds(g.day));
  const old = takenParts(before, groups, levels(groups, had.peakMinute), spot);
  const made: Record<string, number> = {};
  for (const p of old) {
    const key = channelKey(p.groupId, p.channelId);
    made[key] = (made[key] ?? 0) + p.light;
  }
  const total = old.reduce((s, p) => s + p.light, 0);
  return ratioBandShare(
    cal,
    takenParts(light, hung, levels(hung, days[spot]!.peakMinute), spot),
    made,
    total,
  );
}
