import type { Crossing } from './ripple';

/** Light at a place by the side it falls on, µmol m⁻² s⁻¹. */
export interface Sides {
  /** on a level face looking up: what a cosine sensor reads */
  down: number;
  /** from all sides alike, as a ball is lit: scalar irradiance */
  scalar: number;
  /** on an upright face, the mean all round: a branch's flank */
  flank: number;
  /** on a level face looking down: a plate's underside */
  underside: number;
}

/**
 * Light from all sides at a place. Rays are known by where they cross the surface; what else comes down (panes) slants as they do on
 * average; what the floor sends up comes from the whole lower half alike. E₀ = Σ E/cosθ + 2E_up; on an upright face Σ E·tanθ/π + E_up/2.
 * Source: geometry of irradiance; Lambert's law for the floor. Mark: standard.
 * @param crossings straight rays with the PAR each brings on a level face; @param down all PAR there; @param up what the floor sends
 */
export function sidesAt(
  crossings: readonly Crossing[],
  place: { xCm: number; yCm: number; depthCm: number },
  down: number,
  up: number,
): Sides {
  let [straight, slant, secant] = [0, 0, 0];
  for (const { xCm, yCm, par } of crossings) {
    const tan = Math.hypot(xCm - place.xCm, yCm - place.yCm) / place.depthCm;
    straight += par;
    slant += par * tan;
    secant += par * Math.sqrt(1 + tan * tan);
  }
  const [tan, sec] = straight > 0 ? [slant / straight, secant / straight] : [0, 1];
  return {
    down,
    scalar: down * sec + 2 * up,
    flank: (down * tan) / Math.PI + up / 2,
    underside: up,
  };
}

/** What a matt floor sends up of the light that falls on it: its reflectance, on every place above it alike. Mark: standard. */
export const sentUp = (floorReflectance: number, onFloorUmol: number): number =>
  floorReflectance * onFloorUmol;
