import { NINETY, repeatNoise } from '../meter/noise';
import { type Evenness, evenness, HOT_COLD_SHARE } from '../optics/evenness';
import { normal, seeded } from '../spectrum/random';
import type { Calibration, Residual } from './calibration';

export interface Changed {
  name: string;
  spotId: string | null;
  before: number;
  after: number;
  /** after over before − 1 */
  change: number;
  /** one standard deviation of the change from the meter's noise alone */
  error: number;
  /** beyond 1.645 standard deviations */
  real: boolean;
}

export interface BeforeAfter {
  /** by size of change, the largest first */
  places: Changed[];
  before: Evenness;
  after: Evenness;
  /** standard deviation that the meter's noise alone gives the difference of the two coefficients of variation */
  cvNoise: number;
  verdict: 'more even' | 'less even' | 'cannot tell';
}

const DRAWS = 2000;

/** PAR at every place of a session, the mean of what was read there in the light it was most read in. */
function bySpot(residuals: readonly Residual[]): Map<string, Residual> {
  const out = new Map<string, Residual>();
  for (const r of residuals) {
    const key = r.spotId ?? `${Math.round(r.xCm)} ${Math.round(r.yCm)} ${Math.round(r.depthCm)}`;
    const old = out.get(key);
    // with several lights at one place the brightest is the plateau
    if (!old || r.observedUmol > old.observedUmol) out.set(key, r);
  }
  return out;
}

/**
 * Two sessions compared place by place, and whether the light really became more even or less: the difference of the coefficients
 * of variation against what the meter's noise alone would make of it (seeded draws around what was read).
 * @returns null when fewer than two places were read in both
 */
export function beforeAfter(
  cal: Pick<Calibration, 'residuals'>,
  beforeId: string,
  afterId: string,
  boundShare = HOT_COLD_SHARE,
): BeforeAfter | null {
  const a = bySpot(cal.residuals.filter((r) => r.sessionId === beforeId));
  const b = bySpot(cal.residuals.filter((r) => r.sessionId === afterId));
  const both = [...a].flatMap(([key, before]) => {
    const after = b.get(key);
    return after ? [{ before, after }] : [];
  });
  if (both.length < 2) return null;
  const places = both
    .map(({ before, after }): Changed => {
      const [x, y] = [before.observedUmol, after.observedUmol];
      const change = y / Math.max(x, 1e-9) - 1;
      const error =
        (1 + change) * Math.hypot(repeatNoise(x) / Math.max(x, 1e-9), repeatNoise(y) / Math.max(y, 1e-9));
      return {
        name: after.name,
        spotId: after.spotId,
        before: x,
        after: y,
        change,
        error,
        real: Math.abs(change) > NINETY * error,
      };
    })
    .sort((p, q) => Math.abs(q.change) - Math.abs(p.change));
  const values = (of: (c: Changed) => number) => places.map(of);
  const before = evenness(
    values((p) => p.before),
    boundShare,
  )!;
  const after = evenness(
    values((p) => p.after),
    boundShare,
  )!;
  const random = seeded(places.length * 7919 + 1);
  const jitter = (list: readonly number[]) => list.map((v) => v + repeatNoise(v) * normal(random));
  let sum = 0;
  let squares = 0;
  for (let i = 0; i < DRAWS; i += 1) {
    const d = evenness(jitter(values((p) => p.after)))!.cv - evenness(jitter(values((p) => p.before)))!.cv;
    sum += d;
    squares += d * d;
  }
  const cvNoise = Math.sqrt(Math.max(0, squares / DRAWS - (sum / DRAWS) ** 2));
  const difference = after.cv - before.cv;
  return {
    places,
    before,
    after,
    cvNoise,
    verdict:
      Math.abs(difference) <= NINETY * cvNoise ? 'cannot tell' : difference < 0 ? 'more even' : 'less even',
  };
}
