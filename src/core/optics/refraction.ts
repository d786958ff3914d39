/** Refractive index of sea water in the visible (Quan & Fry 1995, 35 psu, 25 °C, rounded). Mark: literature. */
export const SEA_WATER_INDEX = 1.339;

const ITERATIONS = 60;

/** Share of unpolarised light that passes from air into water at an angle whose sine in air is `sinAir` (Fresnel). Mark: standard. */
export function fresnelIntoWater(sinAir: number, index: number = SEA_WATER_INDEX): number {
  const cosAir = Math.sqrt(Math.max(0, 1 - sinAir * sinAir));
  const sinWater = sinAir / index;
  const cosWater = Math.sqrt(1 - sinWater * sinWater);
  const s = (cosAir - index * cosWater) / (cosAir + index * cosWater);
  const p = (index * cosAir - cosWater) / (index * cosAir + cosWater);
  return 1 - (s * s + p * p) / 2;
}

/**
 * Sine of the angle in air of the ray that leaves at height h above the water and reaches depth z at horizontal distance r:
 * r = h tan θa + z tan θw, sin θa = n sin θw. Same unit for r, h, z; h > 0.
 */
export function sinAirForDistance(r: number, h: number, z: number, index: number = SEA_WATER_INDEX): number {
  if (r <= 0) return 0;
  // The unknown is tan θa, in which r is monotone: bisection bracketed by the unrefracted rays, polished by Newton steps.
  const n2 = index * index;
  let low = r / (h + z);
  let high = r / h;
  let t = low;
  for (let i = 0; i < ITERATIONS && high - low > 1e-13 * high; i += 1) {
    const under = n2 + (n2 - 1) * t * t;
    const root = Math.sqrt(under);
    const f = h * t + (z * t) / root - r;
    if (f > 0) high = t;
    else low = t;
    const slope = h + (z * n2) / (under * root);
    const newton = t - f / slope;
    if (Math.abs(newton - t) < 1e-14 * t) break;
    t = newton > low && newton < high ? newton : (low + high) / 2;
  }
  return t / Math.sqrt(1 + t * t);
}
