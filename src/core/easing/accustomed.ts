/**
 * Time constant with which a coral grows used to its light: dA/dt = (L − A)/τ. Mark: rule of thumb from photoacclimation
 * studies (1-3 weeks).
 */
export const TAU_DAYS = 10;
/** Step ratios above which a change deserves a warning: gentle, usual, brisk; above 2 is the classic disaster. Mark: rule of thumb. */
export const CEILINGS = { gentle: 1.15, usual: 1.3, brisk: 1.5 } as const;
export const DISASTER = 2;

/** A day's light at a coral, both ways it is judged. */
export interface DayLight {
  /** mol m⁻² d⁻¹ */
  dli: number;
  /** highest PAR of the day, µmol m⁻² s⁻¹ */
  peak: number;
}

const approach = (a: number, l: number, days: number, tau: number) => l + (a - l) * Math.exp(-days / tau);

/** Accustomed light after `days` under constant daily light. */
export const accustom = (
  a: DayLight,
  light: DayLight,
  days: number,
  tauDays: number = TAU_DAYS,
): DayLight => ({
  dli: approach(a.dli, light.dli, days, tauDays),
  peak: approach(a.peak, light.peak, days, tauDays),
});

/** Start of a coral of unknown history: the lower edge of its band for 8 hours. Mark: rule of thumb. */
export const unknownStart = (lowerEdgeUmol: number): DayLight => ({
  dli: (lowerEdgeUmol * 8 * 3600) / 1e6,
  peak: lowerEdgeUmol,
});

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
