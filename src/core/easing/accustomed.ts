/**
 * Time constant with which a coral grows used to its light: dA/dt = (L − A)/τ. Mark: rule of thumb from photoacclimation
 * studies (1-3 weeks).
 */
export const TAU_DAYS = 10;
/** Step ratios above which a change deserves a warning: gentle, usual, brisk; above 2 is the classic disaster. Mark: rule of thumb. */
export const CEILINGS = { gentle: 1.15, usual: 1.3, brisk: 1.5 } as const;
export const DISASTER = 2;

/** How a kind of tenant follows its light. */
export interface Pace {
  tauDays: number;
  /** how many times the step of a coral it takes: a ceiling of 1.3 is 1.6 for a kind that takes twice the step */
  stretch: number;
}
/** Corals, and macroalgae, which follow within days and take larger steps. Mark: rule of thumb. */
export const PACES = {
  coral: { tauDays: TAU_DAYS, stretch: 1 },
  algae: { tauDays: 4, stretch: 2 },
} as const satisfies Record<string, Pace>;

/** Ratios are printed with two places: what is printed as the ceiling is not above it. */
export const AS_PRINTED = 0.005;

/** A ceiling as it holds for a kind. */
export const ceilingFor = (ceiling: number, pace: Pace): number => 1 + (ceiling - 1) * pace.stretch;

/** A day's light at a coral, both ways it is judged. */
export interface DayLight {
  /** mol m⁻² d⁻¹ */
  dli: number;
  /** highest PAR of the day, µmol m⁻² s⁻¹ */
  peak: number;
}

const approach = (a: number, l: number, keep: number) => l + (a - l) * keep;

/** Accustomed light after `days` under constant daily light. */
export function accustom(a: DayLight, light: DayLight, days: number, tauDays: number = TAU_DAYS): DayLight {
  const keep = Math.exp(-days / tauDays);
  return { dli: approach(a.dli, light.dli, keep), peak: approach(a.peak, light.peak, keep) };
}

/** Light of a peak held for so many hours: what a seller or a band of needs can say of a day. */
export const steadyDay = (peakUmol: number, hours: number): DayLight => ({
  dli: (peakUmol * hours * 3600) / 1e6,
  peak: peakUmol,
});

/** Start of a coral of unknown history: the lower edge of its band for 8 hours. Mark: rule of thumb. */
export const unknownStart = (lowerEdgeUmol: number): DayLight => steadyDay(lowerEdgeUmol, 8);

/** Tenants that do not live by light are used to any amount: no change is a step for them. */
export const NEVER_USED: DayLight = { dli: Infinity, peak: Infinity };

export interface StepRatio {
  /** the larger of the two; 1 = what it is used to. Infinity when light comes to a coral used to none */
  ratio: number;
  by: 'DLI' | 'peak';
}

const over = (l: number, a: number) => (a > 0 ? l / a : l > 0 ? Infinity : 1);

/** Step ratio J = L/A by DLI and by peak, the larger of both. */
export function stepRatio(light: DayLight, accustomed: DayLight): StepRatio {
  const byDli = over(light.dli, accustomed.dli);
  const byPeak = over(light.peak, accustomed.peak);
  return byPeak > byDli ? { ratio: byPeak, by: 'peak' } : { ratio: byDli, by: 'DLI' };
}

/** The same by DLI alone: for changes of hours, which leave the peak as it is. */
export const dliRatio = (light: DayLight, accustomed: DayLight): number => over(light.dli, accustomed.dli);
