import { inverse, times, dot } from '../meter/linear';

/** What the model says of itself when readings do not fit it in kind. */
export interface Criticism {
  /** readings scatter wider than they may, or lie off towards one side of the tank */
  by: 'scatter' | 'trend';
  /** every band is widened by this */
  widen: number;
  /** what would explain it, the likeliest first, with odds that add up to 1 at most; the rest is none of these */
  causes: { words: string; odds: number }[];
  /** what to read to tell */
  measure: string;
}

/** One reading as the fit left it. */
export interface LeftOver {
  /** observed − predicted, in standard deviations of noise */
  sigmas: number;
  /** how its prediction moves with every parameter, in the same unit */
  slopes: readonly number[];
  xCm: number;
  yCm: number;
  depthCm: number;
}

/** An unknown that may be wrong by more than was thought, as words and by what it can be told. */
export interface Suspected {
  /** its place among the slopes */
  at: number;
  variance: number;
  kind: Cause;
  words: string;
}
type Cause = 'lamp' | 'height' | 'lean' | 'beam' | 'yellow' | 'panes' | 'floor' | 'meter';

const MEASURE: Record<Cause | 'none', string> = {
  lamp: 'Read each lamp alone at one place between them.',
  height: 'Measure how high each lamp hangs over the water.',
  lean: 'Hold a level to each lamp.',
  beam: 'Read under the middle of one lamp and well beside it, at one depth.',
  yellow: 'Read blue alone near the surface and low down, one above the other.',
  panes: 'Read close to a pane and in the middle, at one depth.',
  floor: 'Read low over the sand and half-way up, one above the other.',
  meter: 'Read one place with another kind of meter, blue alone and white alone.',
  none: 'Read the same places once more: what repeats is the tank’s, what does not is the hand’s.',
};

/** From this spread of what is left over on, the model is wrong in kind. Mark: rule of thumb. */
const WIDE = 1.5;
/** A trend over the tank counts from this t on: chance passes it once in a few hundred times. Mark: rule of thumb. */
const TREND_T = 3.5;
const LEAST_READINGS = 6;
/** What may be wrong is tried with this many times the variance it was thought to have. Mark: rule of thumb. */
const OPEN = 8;
const LEAST_ODDS = 0.1;
const MOST_NAMED = 3;
/** One reading that is far off is no trend. */
const CLIP = 3;

/**
 * Criticises a fit by what it left over: its spread, and whether it leans to one side. Each cause is tried by opening its doubt; the odds
 * are the likelihoods of what was left over under it, all kinds alike before. Null where nothing is amiss.
 * @param prior covariance of all parameters before the readings; @param scatter how much wider than expected they scatter
 */
export function criticise(
  left: readonly LeftOver[],
  prior: readonly (readonly number[])[],
  suspected: readonly Suspected[],
  scatter: number,
): Criticism | null {
  const trend =
    left.length >= LEAST_READINGS
      ? Math.max(...(['xCm', 'yCm', 'depthCm'] as const).map((by) => leaning(left, by)))
      : 0;
  if (!(scatter > WIDE) && !(trend > TREND_T)) return null;
  const spread = left.map((a, i) => {
    const through = times(prior, a.slopes);
    return left.map((b, j) => dot(through, b.slopes) + Number(i === j));
  });
  const precision = inverse(spread);
  const kinds = new Set(suspected.map((s) => s.kind));
  const tried = suspected.map((s) => {
    const v = left.map((l) => l.slopes[s.at]!);
    const open = OPEN * s.variance;
    const told = open * dot(v, times(precision, v));
    const pull = dot(
      v,
      left.map((l) => l.sigmas),
    );
    const ofKind = suspected.filter((x) => x.kind === s.kind).length;
    return { ...s, weight: Math.exp((open * pull ** 2) / (1 + told) / 2) / Math.sqrt(1 + told) / ofKind };
  });
  const all = kinds.size === 0 ? 1 : 1 + tried.reduce((sum, t) => sum + t.weight, 0);
  const causes = tried
    .map((t) => ({ kind: t.kind, words: t.words, odds: t.weight / all }))
    .filter((c) => c.odds >= LEAST_ODDS)
    .sort((a, b) => b.odds - a.odds)
    .slice(0, MOST_NAMED);
  return {
    by: scatter > WIDE ? 'scatter' : 'trend',
    widen: Math.max(WIDE, scatter),
    causes: causes.map(({ words, odds }) => ({ words, odds })),
    measure: MEASURE[causes[0] && causes[0].odds > 1 / all ? causes[0].kind : 'none'],
  };
}

/** How surely what is left over leans along the tank: |t| of its correlation. */
function leaning(left: readonly LeftOver[], by: 'xCm' | 'yCm' | 'depthCm'): number {
  const n = left.length;
  const z = left.map((l) => Math.max(-CLIP, Math.min(CLIP, l.sigmas)));
  const at = left.map((l) => l[by]);
  const off = (v: readonly number[]) => {
    const mean = v.reduce((s, x) => s + x, 0) / n;
    return v.map((x) => x - mean);
  };
  const [a, b] = [off(z), off(at)];
  const [aa, bb] = [dot(a, a), dot(b, b)];
  if (!(aa > 0) || !(bb > 0)) return 0;
  const r = dot(a, b) / Math.sqrt(aa * bb);
  // what is left over of good readings is small: a trend of nothing is none
  return aa / n < 1 ? 0 : (Math.abs(r) * Math.sqrt(n - 2)) / Math.sqrt(Math.max(1e-9, 1 - r * r));
}
