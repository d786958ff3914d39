import { DAY_MINUTES, minutesApart, wrapMinute } from '../shape/ring';
import { levelsAt, parOf } from '../day/day';
import { lux } from '../spectrum/lux';
import { type Cause, type CauseId, causesOf, type FaultsInput, type Variant } from './faults';
import type { LitGroup } from './lit';

/** How likely each is before anything was read. Mark: rule of thumb. */
const PRIORS: Record<CauseId, number> = {
  asPlanned: 0.31,
  clockOff: 0.12,
  capTwice: 0.08,
  otherCap: 0.05,
  manual: 0.08,
  neverActivated: 0.08,
  oneLampOut: 0.04,
  colourDown: 0.08,
  row: 0.04,
  dark: 0.06,
  weak: 0.04,
  yellow: 0.02,
  budget: 0.02,
  other: 0.04,
};

/** par and lux by a meter, the percent the lamp's own display shows, and what the eye sees: lit or dark. */
export type ProofKind = 'par' | 'lux' | 'percent' | 'lit';
/** Readings that belong to a spot. */
export const atSpot = (kind: ProofKind): boolean => kind === 'par' || kind === 'lux';

/** One reading at a known clock time. */
export interface ProofReading {
  minute: number;
  /** spot it was taken at; what the lamp displays and what the eye sees of it have none */
  spot: number;
  kind: ProofKind;
  /** µmol, lux, percent of full, or 1 lit and 0 dark */
  value: number;
}

export interface ProveInput extends FaultsInput {
  /** doubt of the light that is computed, before a reading: covariance between spots, of shares of the light there */
  scale: readonly (readonly number[])[];
}

/** Noise of a reading: a share of it and a floor. Percents are read off. Mark: rule of thumb. */
const NOISE: Record<ProofKind, readonly [share: number, floor: number]> = {
  par: [0.05, 1],
  lux: [0.06, 60],
  percent: [0, 1.5],
  lit: [0, 0.15],
};
/** A lux meter's factor adds its own doubt. Mark: rule of thumb. */
const LUX_SCALE = 0.12;
/** A lamp whose brightest channel gives less than this share is taken for dark, and for lit from the second on. Mark: rule of thumb. */
const [SEEN_DARK, SEEN_LIT] = [0.003, 0.03];
/** How often the eye or the note of it errs. Mark: rule of thumb. */
const EYE_ERRS = 0.02;

export interface CauseOdds {
  id: CauseId;
  /** 0..1; at most 0.6 until enough readings speak for a fault, 0.95 while another cause fits within noise, 0.99 at all */
  odds: number;
  /** the variant that fits best, in words */
  words: string;
  /** its readings lie within noise */
  fits: boolean;
}

export interface Verdict {
  /** rising doubt: the most likely first */
  causes: CauseOdds[];
  /** null = cannot tell */
  named: CauseOdds | null;
  /** the reading that would decide most; null when nothing is open */
  next: { minute: number; spot: number; kind: ProofKind } | null;
}

/** Named from these odds on, with the second at most a third of it. Mark: rule of thumb. */
const NAMED = 0.75;
const MOST_CLAIMED = 0.95;
/** Something unthought of is always left. Mark: rule of thumb. */
const MOST_EVER = 0.99;

/** Reads a variant at a time and place: µmol, lux, the percent on the lamp, or how surely it is seen lit. */
function reader(input: ProveInput) {
  const { groups, index, light } = input;
  const luxes = new Map<number, number[][]>();
  const luxOf = (spot: number): number[][] => {
    let made = luxes.get(spot);
    if (!made) luxes.set(spot, (made = light.spectra.map((g) => g[spot]!.map((s) => lux(s)))));
    return made;
  };
  return (variant: Variant, minute: number, spot: number, kind: ProofKind): number => {
    const own = variant.at(minute);
    if (kind === 'percent') return 100 * Math.max(0, ...own[0]!);
    if (kind === 'lit') {
      const seen = (Math.max(0, ...own.flat()) - SEEN_DARK) / (SEEN_LIT - SEEN_DARK);
      return EYE_ERRS + (1 - 2 * EYE_ERRS) * Math.min(1, Math.max(0, seen));
    }
    const passed = (g: number, l: number, channels: readonly number[]) =>
      variant.passes ? channels.map((v, c) => v * variant.passes!(g, l, spot, c)) : channels;
    const channels = kind === 'lux' ? luxOf(spot) : light.par.map((g) => g[spot]!);
    const rest = groups.reduce((sum, g, i) => {
      if (i === index || g.day.knots.length === 0) return sum;
      return sum + parOf(levelsAt(g.day, wrapMinute(minute)), passed(i, 0, channels[i]!));
    }, 0);
    return own.reduce((sum, levels, l) => {
      const lampPar = light.lampPar[index]![l]![spot]!;
      const all = light.par[index]![spot]!;
      // lux of a lamp: its share of the group's, colour by colour
      const here =
        kind === 'lux'
          ? channels[index]!.map((v, c) => (all[c]! > 0 ? (v * lampPar[c]!) / all[c]! : v / own.length))
          : lampPar;
      return sum + parOf(levels, passed(index, l, here));
    }, rest);
  };
}

interface Meter {
  kind: ProofKind;
  spot: number;
  /** what is predicted */
  p: number;
}

/** What readings say under predictions: how likely they are, how far they lie off, and what another reading would then show. */
interface Heard {
  log: number;
  /** squares of what they lie off in noise, summed */
  chi2: number;
  /** what a further reading of a meter shows, and one standard deviation of it */
  next: (meter: Meter) => { mean: number; sd: number };
}

const HALF_LOG_TAU = 0.5 * Math.log(2 * Math.PI);
/** Squared distance of what the eye saw and cannot have seen. Mark: rule of thumb. */
const UNSEEN = 12;

/**
 * Readings of light share the doubt of what is computed, those of lux a meter's factor: a Gaussian in as many dimensions as there are
 * readings. What the eye sees is one of two answers.
 */
function heard(
  readings: readonly ProofReading[],
  predicted: readonly number[],
  scale: ProveInput['scale'],
): Heard {
  const noise = ({ kind, p }: Meter) => NOISE[kind][0] * p + NOISE[kind][1];
  const shared = (a: Meter, b: Meter) =>
    atSpot(a.kind) && atSpot(b.kind)
      ? a.p * b.p * (scale[a.spot]![b.spot]! + (a.kind === 'lux' && b.kind === 'lux' ? LUX_SCALE ** 2 : 0))
      : 0;
  const meters: Meter[] = [];
  // Cholesky, row by row, with what lies off solved along
  const rows: number[][] = [];
  const solved: number[] = [];
  const rowOf = (m: Meter) => {
    const row: number[] = [];
    meters.forEach((b, j) => {
      const v = row.reduce((left, x, k) => left - x * rows[j]![k]!, shared(m, b));
      row.push(v / rows[j]![j]!);
    });
    const variance = row.reduce((left, x) => left - x * x, shared(m, m) + noise(m) ** 2);
    const shift = row.reduce((s, x, k) => s + x * solved[k]!, 0);
    return { row, sd: Math.sqrt(Math.max(variance, 1e-12)), mean: m.p + shift };
  };
  let [log, chi2] = [0, 0];
  readings.forEach((r, i) => {
    const p = predicted[i]!;
    if (r.kind === 'lit') {
      const chance = r.value > 0 ? p : 1 - p;
      log += Math.log(chance);
      if (chance < 0.1) chi2 += UNSEEN;
      return;
    }
    const m: Meter = { kind: r.kind, spot: r.spot, p };
    const { row, sd, mean } = rowOf(m);
    const z = (r.value - mean) / sd;
    meters.push(m);
    rows.push([...row, sd]);
    solved.push(z);
    chi2 += z * z;
    log -= 0.5 * z * z + Math.log(sd) + HALF_LOG_TAU;
  });
  return {
    log,
    chi2,
    next: (m) => (m.kind === 'lit' ? { mean: m.p, sd: NOISE.lit[1] } : rowOf(m)),
  };
}

/** 99 % point of χ² by degrees of freedom, 1 to 12: what lies within noise. Mark: standard. */
const CHI2_99 = [6.63, 9.21, 11.34, 13.28, 15.09, 16.81, 18.48, 20.09, 21.67, 23.21, 24.72, 26.22];

interface Weighed {
  cause: Cause;
  log: number;
  best: Variant;
  /** of the best */
  next: Heard['next'];
  fits: boolean;
  /** readings that it explains and the plan does not */
  speak: number;
}

/** Light of something nobody thought of may be anything up to this many times the plan's brightest. Mark: rule of thumb. */
const ANYTHING = 1.5;

/** A reading speaks for a fault that lies this many of its deviations nearer to it than to the plan. Mark: rule of thumb. */
const SPEAKS = 2;
/** Causes with something to be fitted, such as by how much a clock is off: one reading more must speak for them. */
const FITTED: ReadonlySet<CauseId> = new Set([
  'clockOff',
  'oneLampOut',
  'manual',
  'colourDown',
  'row',
  'weak',
  'yellow',
  'budget',
]);
/** Readings that must speak for a fault before it is named, and how sure it may be until then. Mark: rule of thumb. */
const MUST_SPEAK = 2;
const UNPROVEN = 0.6;
const enough = ({ cause: { id }, speak }: Weighed): boolean =>
  id === 'asPlanned' || id === 'other' || speak >= MUST_SPEAK + (FITTED.has(id) ? 1 : 0);

function weigh(input: ProveInput, causes: readonly Cause[], readings: readonly ProofReading[]): Weighed[] {
  const read = reader(input);
  const limit = CHI2_99[Math.min(CHI2_99.length, Math.max(1, readings.length)) - 1]!;
  const plan = causes[0]!.variants[0]!;
  const weighed = causes.map((cause): Weighed => {
    const total = cause.variants.reduce((s, x) => s + x.weight, 0);
    const all = cause.variants.map((variant) => {
      const said = heard(
        readings,
        readings.map((r) => read(variant, r.minute, r.spot, r.kind)),
        input.scale,
      );
      return { variant, said, log: said.log + Math.log(variant.weight / total) };
    });
    const best = all.reduce((a, b) => (b.log > a.log ? b : a));
    const log =
      best.log +
      Math.log(all.reduce((s, x) => s + Math.exp(x.log - best.log), 0)) +
      Math.log(PRIORS[cause.id]);
    const speak = readings.filter((r) => {
      const [p, q] = [best.variant, plan].map((v) => read(v, r.minute, r.spot, r.kind));
      if (r.kind === 'lit') return Math.abs(p! - q!) > 0.5 && Math.abs(r.value - p!) < 0.5;
      const [share, floor] = NOISE[r.kind];
      const sd = (v: number) =>
        Math.hypot(share, atSpot(r.kind) ? Math.sqrt(input.scale[r.spot]![r.spot]!) : 0) * v + floor;
      return Math.abs(r.value - q!) / sd(q!) - Math.abs(r.value - p!) / sd(p!) > SPEAKS;
    }).length;
    return { cause, log, best: best.variant, next: best.said.next, fits: best.said.chi2 <= limit, speak };
  });
  // none of these: every reading anywhere between dark and more than the plan's brightest
  const knots = input.groups.flatMap((g) => g.day.knots.map((k) => k.minute));
  const other = readings.reduce((log, r) => {
    if (r.kind === 'lit') return log - Math.log(2);
    if (r.kind === 'percent') return log - Math.log(100);
    const most = Math.max(0, ...knots.map((m) => read(plan, m, r.spot, r.kind)));
    return log - Math.log(Math.max(r.value, ANYTHING * most) + NOISE[r.kind][1]);
  }, Math.log(PRIORS.other));
  weighed.push({
    cause: { id: 'other', variants: [] },
    log: other,
    best: { ...plan, words: 'none of the faults known here' },
    next: ({ p }) => ({ mean: p, sd: p }),
    fits: true,
    speak: 0,
  });
  return weighed;
}

/**
 * What a lamp most likely runs, from readings at known clock times alone: odds over causes, each weighed over all it may mean (by how
 * much a clock is off, which colour is down), with meter noise and the doubt of the light at each spot. "None of these" is weighed too.
 * Two causes that both lie within noise are never told apart with more than 95 %; when none stands out the answer is that it cannot be
 * told, and which reading would decide.
 * @param kinds meters at hand
 */
export function prove(
  input: ProveInput,
  readings: readonly ProofReading[],
  kinds: readonly ProofKind[] = ['par'],
): Verdict {
  const weighed = weigh(input, causesOf(input), readings).sort((a, b) => b.log - a.log);
  const top = weighed[0]!.log;
  const sum = weighed.reduce((s, w) => s + Math.exp(w.log - top), 0);
  const plain = weighed.map((w) => Math.exp(w.log - top) / sum);
  const several = weighed.filter((w) => w.fits && w.cause.id !== 'other').length > 1;
  const list = weighed.map((w, i): CauseOdds => ({
    id: w.cause.id,
    odds: Math.min(!enough(w) ? UNPROVEN : several ? MOST_CLAIMED : MOST_EVER, plain[i]!),
    words: w.best.words,
    fits: w.fits,
  }));
  const first = list[0]!;
  const clear =
    readings.length > 0 &&
    first.id !== 'other' &&
    first.fits &&
    first.odds >= NAMED &&
    (list[1]?.odds ?? 0) <= first.odds / 3;
  return { causes: list, named: clear ? first : null, next: nextOf(input, weighed, plain, readings, kinds) };
}

/** Weight of the plan where nothing speaks for it any more. Mark: rule of thumb. */
const LOOKED_AT = 0.05;
/** A reading this near an earlier one of its kind and place tells nothing new, min. Mark: rule of thumb. */
const ANEW_MIN = 30;

/** What readings say of a lamp, in a sentence. */
export function proofWords({ causes, named }: Verdict): string {
  const first = causes[0]!;
  const odds = ` (${Math.round(first.odds * 100)} %)`;
  if (named)
    return named.id === 'asPlanned'
      ? `It runs as planned where it was read${odds}.`
      : `Most likely ${named.words}${odds}.`;
  if (first.id === 'other')
    return 'Cannot tell: none of the faults known here explains these readings. Read again, or look at meter and times.';
  return first.fits && first.odds >= PERHAPS
    ? `Perhaps ${first.words}${odds}: another reading has to speak for it.`
    : 'Cannot tell yet: more than one cause fits these readings.';
}
/** From these odds on the likeliest is told before it is named. Mark: rule of thumb. */
const PERHAPS = 0.5;

/** The time, place and meter with which the causes still open differ most, in noise. */
function nextOf(
  input: ProveInput,
  weighed: readonly Weighed[],
  odds: readonly number[],
  readings: readonly ProofReading[],
  kinds: readonly ProofKind[],
): Verdict['next'] {
  const open = weighed
    .map((w, i) => ({ w, p: odds[i]! }))
    .filter((x) => x.p > 0.01 && x.w.cause.id !== 'other')
    .slice(0, 5);
  const plan = weighed.find((w) => w.cause.id === 'asPlanned')!;
  // what is alone still has to be seen to differ from the plan
  if (!open.some((x) => x.w === plan)) open.push({ w: plan, p: LOOKED_AT });
  if (open.length < 2) return null;
  const read = reader(input);
  let best: { minute: number; spot: number; kind: ProofKind; worth: number } | null = null;
  for (const kind of kinds)
    for (let minute = 0; minute < DAY_MINUTES; minute += 15)
      for (let spot = 0; spot < (atSpot(kind) ? input.light.spots : 1); spot += 1) {
        const known = readings.some(
          (r) =>
            r.kind === kind &&
            (r.spot === spot || !atSpot(kind)) &&
            Math.abs(minutesApart(r.minute, minute)) < ANEW_MIN,
        );
        if (known) continue;
        const shown = open.map(({ w }) => w.next({ kind, spot, p: read(w.best, minute, spot, kind) }));
        let worth = 0;
        for (let i = 0; i < open.length; i += 1)
          for (let k = 0; k < i; k += 1) {
            const [a, b] = [shown[i]!, shown[k]!];
            // beyond a few sigma nothing is gained
            const d = Math.min(6, Math.abs(a.mean - b.mean) / Math.max(a.sd, b.sd));
            worth += open[i]!.p * open[k]!.p * d * d;
          }
        if (!best || worth > best.worth + 1e-9) best = { minute, spot, kind, worth };
      }
  return best && best.worth > 0.01 ? { minute: best.minute, spot: best.spot, kind: best.kind } : null;
}

/** Times worth reading before anything is known: early and late on the slopes, at the brightest, and in the dark. */
export function firstTimes(group: LitGroup): number[] {
  const lit = [...group.threads].sort((a, b) => a.minute - b.minute);
  if (lit.length < 2) return [720];
  const first = lit[0]!.minute;
  const last = lit[lit.length - 1]!.minute;
  const brightest = [...lit].sort((a, b) => b.strengthShare - a.strengthShare)[0]!.minute;
  const between = (a: number, b: number, w: number) => Math.round((a + (b - a) * w) / 15) * 15;
  return [between(first, brightest, 0.4), brightest, between(brightest, last, 0.7)];
}
