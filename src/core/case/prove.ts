import { wrapMinute, DAY_MINUTES } from '../shape/ring';
import { levelsAt, parOf } from '../day/day';
import { lampLevels } from '../day/thread';
import { channelLevels, typedControls } from '../spectrum/controls';
import { lux } from '../spectrum/lux';
import type { ZoneLight } from './light';
import type { LitGroup } from './lit';

/** What a lamp may really run. */
export type CauseId =
  | 'asPlanned'
  | 'clockOff'
  | 'capTwice'
  | 'otherCap'
  | 'manual'
  | 'neverActivated'
  | 'oneLampOut'
  | 'colourDown';

/** How likely each is before anything was read. Mark: rule of thumb. */
const PRIORS: Record<CauseId, number> = {
  asPlanned: 0.36,
  clockOff: 0.14,
  capTwice: 0.1,
  otherCap: 0.06,
  manual: 0.1,
  neverActivated: 0.1,
  oneLampOut: 0.05,
  colourDown: 0.09,
};

export type ProofKind = 'par' | 'lux' | 'percent';

/** One reading at a known clock time. */
export interface ProofReading {
  minute: number;
  /** spot it was taken at; a percent that the lamp displays has none */
  spot: number;
  kind: ProofKind;
  /** µmol, lux, or percent of full */
  value: number;
}

export interface ProveInput {
  /** all lamps of the water as they are to run; the one in question among them */
  groups: readonly LitGroup[];
  index: number;
  /** what the one in question ran before; null = not known */
  before: LitGroup | null;
  light: ZoneLight;
  /** doubt of the PAR scale, as a share: small once calibrated */
  scale: number;
}

/** Noise of a reading: a share of it and a floor. Percents are read off. Mark: rule of thumb. */
const NOISE: Record<ProofKind, readonly [share: number, floor: number]> = {
  par: [0.05, 1],
  lux: [0.06, 60],
  percent: [0, 1.5],
};
/** A lux meter's factor adds its own doubt. Mark: rule of thumb. */
const LUX_SCALE = 0.12;

interface Variant {
  words: string;
  weight: number;
  /** levels of the group in question, per lamp, by channel */
  at: (minute: number) => readonly (readonly number[])[];
}
interface Cause {
  id: CauseId;
  variants: Variant[];
}

export interface CauseOdds {
  id: CauseId;
  /** 0..1, never above 0.95 while another cause fits within noise */
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
/** Clocks are looked at in steps of this, min; less is not seen by a few readings. */
const CLOCK_STEP = 15;
const LEAST_OFF = 30;
/** A colour that carries less of the light than this is beyond what a meter can miss. Mark: rule of thumb. */
export const SEEN_SHARE = 0.1;

const signed = (minutes: number): string => {
  const abs = Math.abs(minutes);
  const words =
    abs % 60 === 0 ? `${abs / 60} h` : abs > 60 ? `${Math.floor(abs / 60)} h ${abs % 60} min` : `${abs} min`;
  return `${words} ${minutes > 0 ? 'ahead' : 'behind'}`;
};

/** Everything a lamp may run instead of what it is to run. */
export function causesOf({ groups, index, before, light }: ProveInput): Cause[] {
  const group = groups[index]!;
  const { lampKind: kind, day, lamps } = group;
  const alike = (levels: readonly number[]) => lamps.map(() => levels);
  const at = (g: LitGroup, minute: number) =>
    g.day.knots.length > 0 ? levelsAt(g.day, wrapMinute(minute)) : kind.channels.map(() => 0);
  const scaled = (factor: number) => ({
    ...group,
    day: { ...day, capShare: Math.min(1, day.capShare * factor) },
  });
  const offsets = Array.from(
    { length: DAY_MINUTES / CLOCK_STEP - 1 },
    (_, i) => -DAY_MINUTES / 2 + (i + 1) * CLOCK_STEP,
  ).filter((d) => Math.abs(d) >= LEAST_OFF);
  /** how much of the light at the brightest thread a control carries, where it carries most */
  const shareOf = (controlId: string): number => {
    const brightest = [...group.threads].sort((a, b) => b.strengthShare - a.strengthShare)[0];
    if (!brightest) return 0;
    const typed = typedControls(kind, brightest.mix, brightest.strengthShare);
    const whole = channelLevels(kind, typed);
    const without = channelLevels(kind, { ...typed, [controlId]: 0 });
    return Math.max(
      0,
      ...light.par[index]!.map((par) => {
        const all = parOf(whole, par);
        return all > 0 ? 1 - parOf(without, par) / all : 0;
      }),
    );
  };
  // an hour is what a clock change makes
  const offWeight = (d: number) => (Math.abs(d) === 60 ? 8 : 1);

  const out: Cause[] = [
    { id: 'asPlanned', variants: [{ words: 'as planned', weight: 1, at: (m) => alike(at(group, m)) }] },
    {
      id: 'clockOff',
      variants: offsets.map((d) => ({
        words: `clock ${signed(d)}`,
        weight: offWeight(d),
        at: (m) => alike(at(group, m + d)),
      })),
    },
  ];
  const dims = kind.controller.sets !== 'switch' && day.capShare > 0;
  if (dims && day.capShare < 0.97) {
    const twice = scaled(day.capShare);
    out.push({
      id: 'capTwice',
      variants: [{ words: 'cap applied twice', weight: 1, at: (m) => alike(at(twice, m)) }],
    });
  }
  const top = Math.max(0, ...day.knots.flatMap((k) => k.levels));
  if (dims && top > 0 && top < 0.97) {
    const rescales = day.capMeans === 'rescales';
    const other: LitGroup = {
      ...group,
      day: { ...day, capMeans: rescales ? 'multiplies' : 'rescales', top },
    };
    out.push({
      id: 'otherCap',
      variants: [
        {
          words: rescales ? 'cap multiplies every point' : 'cap rescales the day to its largest point',
          weight: 1,
          at: (m) => alike(at(other, m)),
        },
      ],
    });
  }
  const mixes = new Map(group.threads.filter((t) => t.strengthShare > 0).map((t) => [t.mixName, t.mix]));
  if (mixes.size > 0) {
    out.push({
      id: 'manual',
      variants: [...mixes].flatMap(([name, mix]) =>
        Array.from({ length: 20 }, (_, i) => (i + 1) / 20).map((s) => {
          const levels = lampLevels(kind, mix, s);
          return {
            words: `in manual, about ${Math.round(s * 100)} % of ${name}`,
            weight: 1,
            at: () => alike(levels),
          };
        }),
      ),
    });
  }
  if (before) {
    out.push({
      id: 'neverActivated',
      variants: [
        { words: 'never activated: it runs what it ran before', weight: 1, at: (m) => alike(at(before, m)) },
      ],
    });
  }
  if (lamps.length > 1) {
    out.push({
      id: 'oneLampOut',
      variants: lamps.flatMap((l, k) =>
        offsets.map((d) => ({
          words: `${l.name} alone has its clock ${signed(d)}`,
          weight: offWeight(d),
          at: (m: number) => lamps.map((_, i) => at(group, i === k ? m + d : m)),
        })),
      ),
    });
  }
  const controls = kind.controls.filter(
    (c) => (c.kind === 'level' || c.kind === 'onOff') && shareOf(c.id) >= SEEN_SHARE,
  );
  if (controls.length > 1) {
    out.push({
      id: 'colourDown',
      variants: controls.flatMap((c) =>
        [0, 0.1, 0.2].map((left) => {
          const down: LitGroup = {
            ...group,
            day: {
              ...day,
              top: day.top ?? top,
              knots: day.knots.map((k) => {
                const thread = group.threads.find((t) => t.minute === k.minute);
                if (!thread) return k;
                const typed = typedControls(kind, thread.mix, thread.strengthShare);
                return { ...k, levels: channelLevels(kind, { ...typed, [c.id]: (typed[c.id] ?? 0) * left }) };
              }),
            },
          };
          return {
            words: `${c.name} left down${left > 0 ? `, at about ${Math.round(left * 100)} % of itself` : ', dark'}`,
            weight: 1,
            at: (m: number) => alike(at(down, m)),
          };
        }),
      ),
    });
  }
  return out;
}

/** Reads a variant at a time and place: µmol, lux, or the percent on the lamp. */
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
    const group = groups[index]!;
    const channels = kind === 'lux' ? luxOf(spot) : light.par.map((g) => g[spot]!);
    const rest = groups.reduce((sum, g, i) => {
      if (i === index || g.day.knots.length === 0) return sum;
      return sum + parOf(levelsAt(g.day, wrapMinute(minute)), channels[i]!);
    }, 0);
    return own.reduce((sum, levels, l) => {
      const lampPar = light.lampPar[index]![l]![spot]!;
      const all = light.par[index]![spot]!;
      // lux of a lamp: its share of the group's, colour by colour
      const here =
        kind === 'lux'
          ? channels[index]!.map((v, c) =>
              all[c]! > 0 ? (v * lampPar[c]!) / all[c]! : v / group.lamps.length,
            )
          : lampPar;
      return sum + parOf(levels, here);
    }, rest);
  };
}

/**
 * Log density of readings under predictions that share unknown scales (one of the light, one more of a lux meter), and how far they lie
 * off at the best scales, these held back by their own doubt. Gaussian, in closed form.
 */
function density(
  readings: readonly ProofReading[],
  predicted: readonly number[],
  scale: number,
): { log: number; chi2: number } {
  const [a, b] = [1 / Math.max(scale, 1e-6) ** 2, 1 / LUX_SCALE ** 2];
  let log = 0;
  // normal equations of both scales
  let [m11, m12, m22, v1, v2, chi2] = [a, 0, b, 0, 0, 0];
  readings.forEach((r, i) => {
    const [share, floor] = NOISE[r.kind];
    const p = predicted[i]!;
    const s = share * p + floor;
    const off = (r.value - p) / s;
    const all = r.kind === 'percent' ? 0 : p / s;
    const lux_ = r.kind === 'lux' ? p / s : 0;
    log -= 0.5 * off * off + Math.log(s);
    chi2 += off * off;
    m11 += all * all;
    m12 += all * lux_;
    m22 += lux_ * lux_;
    v1 += all * off;
    v2 += lux_ * off;
  });
  const det = m11 * m22 - m12 * m12;
  const explained = (m22 * v1 * v1 - 2 * m12 * v1 * v2 + m11 * v2 * v2) / det;
  log += 0.5 * explained - 0.5 * Math.log(det / (a * b));
  return { log, chi2: chi2 - explained };
}

/** 99 % point of χ² by degrees of freedom, 1 to 12: what lies within noise. Mark: standard. */
const CHI2_99 = [6.63, 9.21, 11.34, 13.28, 15.09, 16.81, 18.48, 20.09, 21.67, 23.21, 24.72, 26.22];

interface Weighed {
  cause: Cause;
  log: number;
  best: Variant;
  fits: boolean;
}

function weigh(input: ProveInput, causes: readonly Cause[], readings: readonly ProofReading[]): Weighed[] {
  const read = reader(input);
  const limit = CHI2_99[Math.min(CHI2_99.length, Math.max(1, readings.length)) - 1]!;
  return causes.map((cause) => {
    const total = cause.variants.reduce((s, x) => s + x.weight, 0);
    let best = { variant: cause.variants[0]!, log: -Infinity, chi2: Infinity };
    const logs = cause.variants.map((variant) => {
      const d = density(
        readings,
        readings.map((r) => read(variant, r.minute, r.spot, r.kind)),
        input.scale,
      );
      const log = d.log + Math.log(variant.weight / total);
      if (log > best.log) best = { variant, log, chi2: d.chi2 };
      return log;
    });
    const most = Math.max(...logs);
    const log =
      most + Math.log(logs.reduce((s, x) => s + Math.exp(x - most), 0)) + Math.log(PRIORS[cause.id]);
    return { cause, log, best: best.variant, fits: best.chi2 <= limit };
  });
}

/**
 * What a lamp most likely runs, from readings at known clock times alone: odds over causes, each weighed over all it may mean (by how
 * much a clock is off, which colour is down), with meter noise and one unknown scale. Two causes that both lie within noise are never
 * told apart with more than 95 %; when none stands out the answer is that it cannot be told, and which reading would decide.
 * @param kinds meters at hand
 */
export function prove(
  input: ProveInput,
  readings: readonly ProofReading[],
  kinds: readonly ProofKind[] = ['par'],
): Verdict {
  const causes = causesOf(input);
  const weighed = weigh(input, causes, readings).sort((a, b) => b.log - a.log);
  const top = weighed[0]!.log;
  const sum = weighed.reduce((s, w) => s + Math.exp(w.log - top), 0);
  const plain = weighed.map((w) => Math.exp(w.log - top) / sum);
  const several = weighed.filter((w) => w.fits).length > 1;
  const list = weighed.map((w, i): CauseOdds => ({
    id: w.cause.id,
    odds: several ? Math.min(MOST_CLAIMED, plain[i]!) : plain[i]!,
    words: w.best.words,
    fits: w.fits,
  }));
  const first = list[0]!;
  const clear =
    readings.length > 0 && first.fits && first.odds >= NAMED && (list[1]?.odds ?? 0) <= first.odds / 3;
  return { causes: list, named: clear ? first : null, next: nextOf(input, weighed, plain, kinds) };
}

/** The time, place and meter with which the causes still open differ most, in noise. */
function nextOf(
  input: ProveInput,
  weighed: readonly Weighed[],
  odds: readonly number[],
  kinds: readonly ProofKind[],
): Verdict['next'] {
  const open = weighed
    .map((w, i) => ({ w, p: odds[i]! }))
    .filter((x) => x.p > 0.01)
    .slice(0, 5);
  if (open.length < 2) return null;
  const read = reader(input);
  let best: { minute: number; spot: number; kind: ProofKind; worth: number } | null = null;
  for (const kind of kinds) {
    const [share, floor] = NOISE[kind];
    const scale = kind === 'percent' ? 0 : Math.hypot(input.scale, kind === 'lux' ? LUX_SCALE : 0);
    for (let minute = 0; minute < DAY_MINUTES; minute += 15)
      for (let spot = 0; spot < (kind === 'percent' ? 1 : input.light.spots); spot += 1) {
        const values = open.map(({ w }) => read(w.best, minute, spot, kind));
        let worth = 0;
        for (let i = 0; i < open.length; i += 1)
          for (let k = 0; k < i; k += 1) {
            const s = Math.hypot(share, scale) * Math.max(values[i]!, values[k]!) + floor;
            // beyond a few sigma nothing is gained
            const d = Math.min(6, Math.abs(values[i]! - values[k]!) / s);
            worth += open[i]!.p * open[k]!.p * d * d;
          }
        if (!best || worth > best.worth + 1e-9) best = { minute, spot, kind, worth };
      }
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
