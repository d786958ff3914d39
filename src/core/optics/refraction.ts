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
  const reach = (t: number) => h * t + (z * t) / Math.sqrt(index * index * (1 + t * t) - t * t);
  let low = r / (h + z);
  let high = r / h;
  let t = low;
  for (let i = 0; i < ITERATIONS && high - low > 1e-13 * high; i += 1) {
    const f = reach(t) - r;
    if (f > 0) high = t;
    else low = t;
    const under = index * index + (index * index - 1) * t * t;
    const slope = h + (z * index * index) / (under * Math.sqrt(under));
    const newton = t - f / slope;
    t = newton > low && newton < high ? newton : (low + high) / 2;
  }
  return t / Math.sqrt(1 + t * t);
}

export interface Transfer {
  /** horizontal irradiance per emitted flux without water loss, m⁻² */
  perM2: number;
  /** path length in water, m */
  pathM: number;
  /** horizontal distance from the emitter at which the ray crosses the surface, over the distance to the point (0..1) */
  crossing: number;
}

/**
 * What one emitter of intensity Φ (m+1)/(2π) cosᵐθ, pointing down, gives a point: by flux conservation
 * E = I(θa) T(θa) (sin θa / r) (dθa/dr). All lengths in cm in, results in m. Source: geometrical optics. Mark: standard.
 * @param r horizontal distance, cm; @param h height over the water, cm (> 0); @param z depth, cm (≥ 0); @param m beam exponent
 */
export function directTransfer(r: number, h: number, z: number, m: number): Transfer {
  const n = SEA_WATER_INDEX;
  const rM = r / 100;
  const hM = h / 100;
  const zM = z / 100;
  const sinA = sinAirForDistance(rM, hM, zM);
  const cosA = Math.sqrt(1 - sinA * sinA);
  const sinW = sinA / n;
  const cosW = Math.sqrt(1 - sinW * sinW);
  // r / sin θa, finite at r = 0
  const spread = hM / cosA + zM / (n * cosW);
  const drByAngle = hM / (cosA * cosA) + (zM * cosA) / (n * cosW * cosW * cosW);
  const intensity = ((m + 1) / (2 * Math.PI)) * cosA ** m;
  return {
    perM2: (intensity * fresnelIntoWater(sinA)) / (spread * drByAngle),
    pathM: zM / cosW,
    crossing: rM > 0 ? (hM * (sinA / cosA)) / rM : 0,
  };
}
