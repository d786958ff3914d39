import { NINETY, repeatNoise } from '../meter/noise';
import { type Evenness, evenness, HOT_COLD_SHARE } from '../optics/evenness';
import { normal, seeded } from '../spectrum/random';
import { type Calibration, oneLight, type Residual } from './calibration';

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
  /** what the meter read before, when that was under another light and `before` is what the model makes of it; else null */
  readBefore: number | null;
}

/** PAR that the model gives a reading's place under the lamps of its session, by other levels; null where it cannot say. */
export type Under = (reading: Residual, levels: Residual['levels']) => number | null;

/** Doubt that going from one light to another through the model adds, for each e-fold between them. Mark: rule of thumb. */
const MODELLED_SHARE = 0.1;

export interface BeforeAfter {
  /** by size of change, the largest first */
  places: Changed[];
  before: Evenness;
  after: Evenness;
  /** standard deviation that the meter's noise alone gives the difference of the two coefficients of variation */
  cvNoise: number;
  verdict: 'more even' | 'less even' | 'cannot tell';
}

export interface Compared {
  /** null when fewer than two places can be compared */
  found: BeforeAfter | null;
  /** places read both times, but under lights that cannot be compared */
  unlike: string[];
}

const DRAWS = 2000;

/** What a session read at every place, the brightest first: with several lights at one place that is the plateau. */
function bySpot(residuals: readonly Residual[]): Map<string, Residual[]> {
  const out = new Map<string, Residual[]>();
  for (const r of [...residuals].sort((p, q) => q.observedUmol - p.observedUmol)) {
    const key = r.spotId ?? `${Math.round(r.xCm)} ${Math.round(r.yCm)} ${Math.round(r.depthCm)}`;
    out.set(key, [...(out.get(key) ?? []), r]);
  }
  return out;
}

interface Pair {
  before: Residual;
  after: Residual;
  /** what the earlier light was times this under the later one's levels; 1 under one light */
  factor: number;
}

/** What was read at one place both times: under one light where there is one, else brought under the later one's light; null where that cannot be done. */
function paired(earlier: readonly Residual[], later: readonly Residual[], under: Under): Pair | null {
  for (const after of later) {
    const before = earlier.find((r) => oneLight(r.levels, after.levels));
    if (before) return { before, after, factor: 1 };
  }
  const [before, after] = [earlier[0]!, later[0]!];
  // other lamps, other levels: that is the change which is looked at
  if (!sameRows(before, after)) return { before, after, factor: 1 };
  const [was, would] = [under(before, before.levels), under(before, after.levels)];
  return was !== null && would !== null && was > 0 && would > 0
    ? { before, after, factor: would / was }
    : null;
}

const rowsOf = ({ levels }: Residual): string =>
  Object.entries(levels)
    .flatMap(([g, own]) => Object.keys(own).map((c) => `${g} ${c}`))
    .sort()
    .join();
const sameRows = (a: Residual, b: Residual): boolean => rowsOf(a) === rowsOf(b);

/**
 * Two sessions compared place by place, the earlier one under the later one's light, and whether the light really became more even or less: the difference of the coefficients
 * of variation against what the meter's noise alone would make of it (seeded draws around what was read).
 * @param under brings a reading under other levels by the model; without it what was read under unlike light is refused
 */
export function beforeAfter(
  cal: Pick<Calibration, 'residuals'>,
  beforeId: string,
  afterId: string,
  boundShare = HOT_COLD_SHARE,
  under: Under = () => null,
): Compared {
  const a = bySpot(cal.residuals.filter((r) => r.sessionId === beforeId));
  const b = bySpot(cal.residuals.filter((r) => r.sessionId === afterId));
  const unlike: string[] = [];
  const both = [...a].flatMap(([key, before]) => {
    const after = b.get(key);
    if (!after) return [];
    const pair = paired(before, after, under);
    if (!pair) unlike.push(after[0]!.name);
    return pair ?? [];
  });
  if (both.length < 2) return { found: null, unlike };
  const places = both
    .map(({ before, after, factor }): Changed => {
      const read = before.observedUmol;
      const [x, y] = [read * factor, after.observedUmol];
      const change = y / Math.max(x, 1e-9) - 1;
      const error =
        (1 + change) *
        Math.hypot(
          repeatNoise(read) / Math.max(read, 1e-9),
          repeatNoise(y) / Math.max(y, 1e-9),
          MODELLED_SHARE * Math.log(factor),
        );
      return {
        name: after.name,
        spotId: after.spotId,
        before: x,
        after: y,
        change,
        error,
        real: Math.abs(change) > NINETY * error,
        readBefore: factor === 1 ? null : read,
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
  const found: BeforeAfter = {
    places,
    before,
    after,
    cvNoise,
    verdict:
      Math.abs(difference) <= NINETY * cvNoise ? 'cannot tell' : difference < 0 ? 'more even' : 'less even',
  };
  return { found, unlike };
}
