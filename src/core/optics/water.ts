import { lookUp } from '../shape/table';
import * as v from 'valibot';

import { between } from '../shape/shape';
import { sample, type Spectrum } from '../spectrum/grid';

/** Absorption of pure water, m⁻¹. Pope & Fry 1997 (380-720 nm), Smith & Baker 1981 (730-780 nm); held below 380. Mark: literature. */
const PURE_WATER: readonly (readonly [nm: number, perM: number])[] = [
  [380, 0.01137],
  [390, 0.00851],
  [400, 0.00663],
  [410, 0.00473],
  [420, 0.00454],
  [430, 0.00495],
  [440, 0.00635],
  [450, 0.00922],
  [460, 0.00979],
  [470, 0.0106],
  [480, 0.0127],
  [490, 0.015],
  [500, 0.0204],
  [510, 0.0325],
  [520, 0.0409],
  [530, 0.0434],
  [540, 0.0474],
  [550, 0.0565],
  [560, 0.0619],
  [570, 0.0695],
  [580, 0.0896],
  [590, 0.1351],
  [600, 0.2224],
  [610, 0.2644],
  [620, 0.2755],
  [630, 0.2916],
  [640, 0.3108],
  [650, 0.34],
  [660, 0.41],
  [670, 0.439],
  [680, 0.465],
  [690, 0.516],
  [700, 0.624],
  [710, 0.827],
  [720, 1.231],
  [730, 1.799],
  [740, 2.38],
  [750, 2.47],
  [760, 2.55],
  [770, 2.51],
  [780, 2.36],
];

export const waterSchema = v.object({
  /** absorption by yellow substances at 440 nm, m⁻¹: fresh carbon 0.02-0.05, average 0.1-0.3, neglected 0.6-1.2 (rule of thumb) */
  yellow440PerM: between(0, 5),
  /** scattering, counted as loss, m⁻¹ */
  scatterPerM: between(0, 5),
});
export type Water = v.InferOutput<typeof waterSchema>;

/** Slope of yellow-substance absorption over wavelength, nm⁻¹ (Bricaud et al. 1981, rounded). Mark: literature. */
const YELLOW_SLOPE_PER_NM = 0.014;

const pureWaterPerM = (nm: number): number => lookUp(PURE_WATER, nm);

/** Yellow substances' absorption over the grid, per unit at 440 nm. */
export const yellowShape = (): Spectrum => sample((nm) => Math.exp(-YELLOW_SLOPE_PER_NM * (nm - 440)));

/** Attenuation c(λ) = a_pure + a_yellow(440) e^(−0.014 (λ−440)) + b on the grid, m⁻¹. */
export function attenuationPerM(water: Water): Spectrum {
  return sample(
    (nm) =>
      pureWaterPerM(nm) +
      water.yellow440PerM * Math.exp(-YELLOW_SLOPE_PER_NM * (nm - 440)) +
      water.scatterPerM,
  );
}

/** Transmission straight down to a depth, on the grid: what water leaves of every wavelength. */
export function transmission(water: Water, depthCm: number): Spectrum {
  return attenuationPerM(water).map((c) => Math.exp((-c * depthCm) / 100));
}
