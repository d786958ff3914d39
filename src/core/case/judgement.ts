import {
  ceilingFor,
  type DayLight,
  harmFrom,
  AS_PRINTED,
  type Pace,
  stepRatio,
  type StepRatio,
} from '../easing/accustomed';
import { NINETY } from '../meter/noise';
import { floorUmolOf, livesByLight, paceOf, type Standing, type Wants, wantsOf } from '../record/needs';
import type { Zone } from '../record/zone';
import { normalBelow } from '../shape/normal';
import { dims } from '../spectrum/controls';
import { fullSeconds } from '../day/day';
import type { Calibration } from './calibration';
import { bandUnder, daysAt, levelsOfGroups, parUnder, takenParts, takenUnder, type ZoneLight } from './light';
import type { LitGroup } from './lit';
import type { UsedLight } from './replay';
import { stepBandShare } from './stepBand';

/**
 * The one judgement of a water in a state. Every screen, sheet and printed line takes what it says of too much and too little light
 * from here and words it by `verdict`.
 */

/** Where light lies against what is wanted, its doubt counted. */
export type Place = 'below' | 'perhapsBelow' | 'within' | 'perhapsAbove' | 'above';
export type Gravity = 'calm' | 'caution' | 'stop';

export interface Placed {
  place: Place;
  /** probabilities that it is too little, right, too much; together 1 */
  below: number;
  within: number;
  above: number;
}

/** The side a place is on, said flatly or as perhaps. */
export const SIDE: Record<Place, Standing> = {
  below: 'below',
  perhapsBelow: 'below',
  within: 'within',
  perhapsAbove: 'above',
  above: 'above',
};

/** From this probability on a side is said flatly, and from that one on it is said as perhaps. Mark: rule of thumb. */
const SURE = 0.9;
const PERHAPS = 0.25;

/** Where light of so many µmol, ± a share of it at 90 %, lies against a range. */
export function placed(umol: number, bandShare: number, { fromUmol, toUmol }: Wants): Placed {
  const error = (bandShare * umol) / NINETY;
  const under = (edge: number) =>
    error > 0
      ? normalBelow((edge - umol) / error)
      : umol < edge
        ? 1
        : umol > edge
          ? 0
          : Number(edge === toUmol);
  const below = under(fromUmol);
  const above = 1 - under(toUmol);
  const place: Place =
    below >= SURE
      ? 'below'
      : above >= SURE
        ? 'above'
        : Math.max(below, above) < PERHAPS
          ? 'within'
          : below >= above
            ? 'perhapsBelow'
            : 'perhapsAbove';
  return { place, below, within: Math.max(0, 1 - below - above), above };
}

export interface Step extends StepRatio {
  light: DayLight;
  accustomed: DayLight;
  /** the largest step that is to be made at once, for this tenant */
  ceiling: number;
  /** beyond that, as printed: it is to be eased in; and beyond what does harm at once */
  large: boolean;
  harmful: boolean;
  /** half width of the ratio's 90 % band as a share of it: 0 where the same lamps only grow brighter or darker */
  bandShare: number;
}

export interface CoralJudgement {
  spot: number;
  name: string;
  /** at its brightest, with the half width of its 90 % band as a share; the minute, null when the state is no day */
  peak: { umol: number; bandShare: number; minute: number | null };
  /** mol m⁻² d⁻¹; null when the state is no day */
  dayMol: number | null;
  wants: Wants | null;
  /** null where nobody is known to live */
  placed: Placed | null;
  /** null for a tenant that does not live by light, and until what it is used to is known */
  step: Step | null;
  gravity: Gravity;
}

export interface Judgement {
  /** what runs already, what would be if it were typed in at once, one mix as the brightest of a day, or what runs in other water */
  state: State;
  corals: CoralJudgement[];
  gravity: Gravity;
  /** whose step goes furthest beyond what it bears, which need not be the largest, and whether steps are known at all */
  worst: CoralJudgement | null;
  stepsKnown: boolean;
  /** it is no step because they are said to be used to it, not because anything was looked at */
  usedToIt: boolean;
  /** whether any of its lamps can be dimmed: what can be done about too much */
  dims: boolean;
}

export type State = 'runs' | 'draft' | 'mix' | 'water';

const GRAVITIES: readonly Gravity[] = ['calm', 'caution', 'stop'];

/**
 * Judges every coral of a water under a day, or under levels that are to be the brightest of a day.
 * @param accustomed what each spot's tenant is used to; null = not replayed yet
 * @param ceiling the largest step of a coral that is to be made at once: the keeper's, or that of the plan by which this runs
 * @param usedToIt who lives here is said to live under this day already
 * @param levels emitted shares by group and channel of a mix that is no day
 */
export function judgeWater(of: {
  state: State;
  zone: Zone;
  groups: readonly LitGroup[];
  light: ZoneLight;
  cal: Calibration;
  accustomed: readonly UsedLight[] | null;
  ceiling: number;
  usedToIt?: boolean;
  levels?: readonly (readonly number[])[];
}): Judgement {
  const { state, zone, groups, light, cal, accustomed, ceiling, levels, usedToIt = false } = of;
  const everywhere = zone.spots.map((_, i) => i);
  const drafted = !levels || usedToIt ? daysAt(light, groups, everywhere) : null;
  const days = levels ? null : drafted;
  let seconds: number[][] | null = null;
  const corals = zone.spots.map((spot, i): CoralJudgement => {
    const day = days?.[i];
    const lit = levels ?? levelsOfGroups(groups, day!.peakMinute);
    const umol = day ? day.peak : parUnder(light, lit, i);
    const bandShare = bandUnder(cal, light, groups, lit, i);
    const wants = wantsOf(spot, zone);
    const used: UsedLight | undefined = livesByLight(spot)
      ? (usedToIt ? drafted : accustomed)?.[i]
      : undefined;
    const floor = floorUmolOf(spot, zone);
    const mixed = () => ({ dli: 0, peak: umol, taken: { dli: 0, peak: takenUnder(light, lit, i) } });
    const counted = used && (day ?? mixed());
    const bare = used ? stepTo(counted!, used, paceOf(spot), ceiling, floor) : null;
    const measure = bare?.by === 'peak' ? 'peak' : 'dli';
    const step = bare && {
      ...bare,
      bandShare: stepBandShare(
        cal,
        () => takenParts(light, groups, measure === 'peak' ? lit : (seconds ??= secondsOf(groups)), i),
        counted!,
        used!,
        floor,
        measure,
      ),
    };
    return coralJudged({
      spot: i,
      name: spot.name,
      peak: { umol, bandShare, minute: day ? day.peakMinute : null },
      dayMol: day ? day.dli : null,
      wants,
      step,
    });
  });
  return waterJudged({
    state,
    corals,
    stepsKnown: usedToIt || accustomed !== null,
    usedToIt,
    dims: groups.some((g) => dims(g.lampKind)),
  });
}

const secondsOf = (groups: readonly LitGroup[]): number[][] => groups.map((g) => fullSeconds(g.day));

/** What follows for a coral from its light, what it wants and its step. */
export function coralJudged(of: Omit<CoralJudgement, 'placed' | 'gravity'>): CoralJudgement {
  const where = of.wants && placed(of.peak.umol, of.peak.bandShare, of.wants);
  const flatly = where?.place === 'above' || where?.place === 'below';
  const gravity = of.step?.harmful ? 'stop' : of.step?.large || flatly ? 'caution' : 'calm';
  return { ...of, placed: where, gravity };
}

/** What follows for a water from its corals. */
export const waterJudged = (of: Omit<Judgement, 'gravity' | 'worst'>): Judgement => ({
  ...of,
  gravity: GRAVITIES[Math.max(0, ...of.corals.map((c) => GRAVITIES.indexOf(c.gravity)))]!,
  worst: worstStep(of.corals),
});

/** A step from what is used to light, judged by the pace of who lives there. */
export function stepTo(
  light: DayLight,
  accustomed: DayLight,
  pace: Pace,
  ceiling: number,
  floorUmol = 0,
): Step {
  const step = stepRatio(light, accustomed, floorUmol);
  const most = ceilingFor(ceiling, pace);
  const harmful = step.ratio > harmFrom(pace);
  return {
    ...step,
    light: { dli: light.dli, peak: light.peak },
    accustomed: { dli: accustomed.dli, peak: accustomed.peak },
    bandShare: 0,
    ceiling: most,
    large: harmful || step.ratio > most + AS_PRINTED,
    harmful,
  };
}

/** Order of steps, the gravest first: who is harmed, then who is furthest beyond what it bears; who bears more may get more. */
export function byGravity(
  a: Pick<Step, 'ratio' | 'ceiling' | 'harmful'>,
  b: Pick<Step, 'ratio' | 'ceiling' | 'harmful'>,
): number {
  const beyond = (s: typeof a) => s.ratio / (s.ceiling + AS_PRINTED);
  return Number(b.harmful) - Number(a.harmful) || beyond(b) - beyond(a);
}

/** The coral that limits a change. */
const worstStep = (corals: readonly CoralJudgement[]): CoralJudgement | null =>
  corals.reduce<CoralJudgement | null>(
    (worst, c) => (c.step && (!worst || byGravity(c.step, worst.step!) < 0) ? c : worst),
    null,
  );

/** The step that is the most times what its tenant is used to, whatever it bears; null where none is known. */
export const largestStep = ({ corals }: Pick<Judgement, 'corals'>): Step | null =>
  corals.reduce<Step | null>(
    (most, { step }) => (step && !(most && most.ratio >= step.ratio) ? step : most),
    null,
  );

/** How grave the gravest step is by itself. */
export const stepGravity = (j: Judgement | null): Gravity =>
  j?.worst?.step?.harmful ? 'stop' : j?.worst?.step?.large ? 'caution' : 'calm';
