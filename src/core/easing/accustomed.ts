import type { Straight } from '../feeding/response';
import { bisect } from '../shape/bisect';

/**
 * Time constants with which a coral grows used to its light, dA/dt = (L − A)/τ: to more of it, and to less. Published ones lie at 5-20
 * and at 5-15 days (Falkowski & Dubinsky 1981; Titlyanov et al. 2001; Anthony & Hoegh-Guldberg 2003). Mark: rule of thumb within a
 * literature range.
 */
export const TAU_DAYS = 10;
const TAU_DOWN_DAYS = 7;
/** The quickest and the slowest of that range, over the middle. */
export const PACE_RANGE = { quick: 0.5, slow: 2 } as const;
/** Step ratios above which a change deserves a warning: gentle, usual, brisk; above 2 is the classic disaster. Mark: rule of thumb. */
export const CEILINGS = { gentle: 1.15, usual: 1.3, brisk: 1.5 } as const;
export const DISASTER = 2;

/** How a kind of tenant follows its light. */
export interface Pace {
  tauDays: number;
  /** the same to less light */
  downDays: number;
  /** how many times the step of a coral it takes: a ceiling of 1.3 is 1.6 for a kind that takes twice the step */
  stretch: number;
  /** that of its kind, where one coral has a ceiling of its own; absent = the same */
  kindStretch?: number;
}
/** Corals, and macroalgae, which follow within days and take larger steps. Mark: rule of thumb. */
export const PACES = {
  coral: { tauDays: TAU_DAYS, downDays: TAU_DOWN_DAYS, stretch: 1 },
  algae: { tauDays: 4, downDays: 3, stretch: 2 },
} as const satisfies Record<string, Pace>;

/** Ratios are printed with two places: what is printed as the ceiling is not above it. */
export const AS_PRINTED = 0.005;

/** A ceiling as it holds for a kind. */
export const ceilingFor = (ceiling: number, pace: Pace): number => 1 + (ceiling - 1) * pace.stretch;

/** The step from which harm comes at once: a coral that bears more than its kind is not trusted with more, one that bears less is spared. */
export const harmFrom = ({ stretch, kindStretch = stretch }: Pace): number =>
  1 + (DISASTER - 1) * Math.min(stretch, kindStretch);

/** A day's light at a coral, both ways it is judged. */
export interface DayLight {
  /** mol m⁻² d⁻¹ */
  dli: number;
  /** highest PAR of the day, µmol m⁻² s⁻¹ */
  peak: number;
  /** the same of light as corals take it, in µmol of a typical light; absent = a typical light, of which nothing more is known */
  taken?: { dli: number; peak: number };
}
/** What of a light counts for a step. */
const taken = (l: DayLight): { dli: number; peak: number } => l.taken ?? l;

/** What is left of a difference after some days: less light is grown used to faster than more. */
export const kept = (a: number, light: number, days: number, { tauDays, downDays }: Rates): number =>
  Math.exp(-days / (light > a ? tauDays : downDays));
type Rates = Pick<Pace, 'tauDays' | 'downDays'>;

/** Accustomed light after `days` under constant daily light. */
export function accustom(a: DayLight, light: DayLight, days: number, pace: Rates = PACES.coral): DayLight {
  const approach = (from: number, to: number) => to + (from - to) * kept(from, to, days, pace);
  const both = (x: { dli: number; peak: number }, y: { dli: number; peak: number }) => ({
    dli: approach(x.dli, y.dli),
    peak: approach(x.peak, y.peak),
  });
  const out: DayLight = both(a, light);
  return a.taken || light.taken ? { ...out, taken: both(taken(a), taken(light)) } : out;
}

/** A pace at the quick or slow end of what is published. */
export const atPace = (pace: Pace, end: keyof typeof PACE_RANGE): Pace => ({
  ...pace,
  tauDays: pace.tauDays * PACE_RANGE[end],
  downDays: pace.downDays * PACE_RANGE[end],
});

/** Light of a peak held for so many hours: what a seller or a band of needs can say of a day. */
export const steadyDay = (peakUmol: number, hours: number): DayLight => ({
  dli: (peakUmol * hours * 3600) / 1e6,
  peak: peakUmol,
});

/** Start of a coral of unknown history: the lower edge of its band for 8 hours. Mark: rule of thumb. */
export const unknownStart = (lowerEdgeUmol: number): DayLight => steadyDay(lowerEdgeUmol, 8);

/** Tenants that do not live by light are used to any amount: no change is a step for them. */
export const NEVER_USED: DayLight = { dli: Infinity, peak: Infinity };

/** So little of the lit minutes may lie above what counts as a day's peak: a flash of a minute is none. Mark: rule of thumb. */
const FLASH_SHARE = 0.05;
/** Minutes count as lit from this share of the brightest on: a moon at night does not lengthen the day. Mark: rule of thumb. */
const LIT_SHARE = 0.1;
const PEAK_HALVINGS = 24;

/** The peak that corals answer to: what all but the brightest twentieth of the lit minutes stay under. A plateau's is its height. */
export function heldPeak(runs: readonly Straight[]): number {
  let [top, low] = [0, Infinity];
  for (const r of runs) {
    if (r.minutes <= 0) continue;
    top = Math.max(top, r.from, r.to);
    low = Math.min(low, r.from, r.to);
  }
  if (!(top > low)) return top;
  const minutesFrom = (bound: number) => {
    let sum = 0;
    for (const { minutes, from, to } of runs) {
      const [a, b] = from < to ? [from, to] : [to, from];
      if (a >= bound) sum += minutes;
      else if (b > bound) sum += (minutes * (b - bound)) / (b - a);
    }
    return sum;
  };
  const flash = FLASH_SHARE * minutesFrom(LIT_SHARE * top);
  if (minutesFrom(top) >= flash) return top;
  return bisect((v) => minutesFrom(v) >= flash, 0, top, PEAK_HALVINGS);
}

export interface StepRatio {
  /** the larger of the two; 1 = what it is used to. Infinity when light comes to a coral used to none */
  ratio: number;
  by: 'DLI' | 'peak';
}

/** Light beside which a ratio means little: what is added above and below, as of a day of so many hours. Mark: rule of thumb. */
const floorDay = (floorUmol: number) => steadyDay(floorUmol, 8);
const over = (l: number, a: number, floor: number) =>
  a + floor > 0 ? (l + floor) / (a + floor) : l > 0 ? Infinity : 1;

/**
 * Step ratio J = (L + q)/(A + q) of light as corals take it, by the day's sum and by its peak, the larger of both.
 * @param floorUmol q: near darkness ratios mean little; 0 = they are taken at their word
 */
export function stepRatio(light: DayLight, accustomed: DayLight, floorUmol = 0): StepRatio {
  const byDli = dliRatio(light, accustomed, floorUmol);
  const byPeak = peakRatio(light, accustomed, floorUmol);
  return byPeak > byDli ? { ratio: byPeak, by: 'peak' } : { ratio: byDli, by: 'DLI' };
}

/** The same by DLI alone: for changes of hours, which leave the peak as it is. */
export const dliRatio = (light: DayLight, accustomed: DayLight, floorUmol = 0): number =>
  over(taken(light).dli, taken(accustomed).dli, floorDay(floorUmol).dli);
/** And by the peak alone. */
export const peakRatio = (light: DayLight, accustomed: DayLight, floorUmol = 0): number =>
  over(taken(light).peak, taken(accustomed).peak, floorUmol);
/** What a ratio's floor leaves of a light's share in it, 0..1. */
export const aboveFloor = (light: DayLight, floorUmol: number, measure: 'dli' | 'peak'): number => {
  const of = taken(light)[measure];
  return of > 0 ? of / (of + floorDay(floorUmol)[measure]) : 0;
};
