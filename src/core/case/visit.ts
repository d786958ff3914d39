import { dot, times } from '../meter/linear';
import { METER_NOISE_SHARE, METER_NOISE_UMOL, NINETY } from '../meter/noise';
import { bandShare, type Calibration, slopesOf } from './calibration';
import { partsOf, parUnder, type ZoneLight } from './light';
import type { HungGroup } from './lit';

/** A reading to be taken. */
interface Stop {
  spot: number;
  /** group and channel to light alone at full; null = the levels asked about */
  alone: { groupId: string; channelId: string } | null;
}

/** What is known as readings come in: the parameters, and last the scale of the meter in hand. */
type Known = number[][];

const knownOf = ({ covariance, meter }: Calibration): Known => [
  ...covariance.map((row, i) => [...row, meter.cross[i]!]),
  [...meter.cross, meter.variance],
];
/** Pulls of a coral's light on the bands, as shares of it, and what no reading narrows of its variance. */
interface Coral {
  slopes: number[];
  rest: number;
}

function coralsOf(
  cal: Calibration,
  light: ZoneLight,
  groups: readonly HungGroup[],
  levels: readonly (readonly number[])[],
  corals: readonly number[],
): Coral[] {
  return corals
    .filter((s) => parUnder(light, levels, s) > 1)
    .map((s) => {
      const sum = parUnder(light, levels, s);
      const parts = partsOf(light, groups, levels, s);
      const slopes = [...slopesOf(cal, parts).map((v) => v / sum), 0];
      const own = dot(slopes, times(knownOf(cal), slopes));
      return { slopes, rest: Math.max(0, (bandShare(cal, parts) / NINETY) ** 2 - own) };
    });
}

interface Candidate {
  spot: number;
  alone: Stop['alone'];
  slopes: number[];
  noise: number;
}

function candidatesOf(
  cal: Calibration,
  light: ZoneLight,
  groups: readonly HungGroup[],
  levels: readonly (readonly number[])[],
): Candidate[] {
  const lit = lightings(groups, levels);
  return Array.from({ length: light.spots }, (_, spot) => spot).flatMap((spot) =>
    lit.flatMap(({ alone, under }): Candidate[] => {
      const sum = parUnder(light, under, spot);
      if (sum < LEAST_UMOL) return [];
      // the same meter reads with the same scale again: what it shares with the parameters is no news
      const slopes = [...slopesOf(cal, partsOf(light, groups, under, spot)), sum];
      return [{ spot, alone, slopes, noise: (METER_NOISE_SHARE * sum + METER_NOISE_UMOL) ** 2 }];
    }),
  );
}
/** Less light is not worth a reading, µmol. Mark: rule of thumb. */
const LEAST_UMOL = 5;

const variances = (known: Known, corals: readonly Coral[]): number[] =>
  corals.map(({ slopes, rest }) => rest + Math.max(0, dot(slopes, times(known, slopes))));
const bandOf = (each: readonly number[]): number => NINETY * mean(each.map(Math.sqrt));

/** What is known once a reading is in (a step of a Kalman filter). Mark: standard. */
function once(known: Known, { slopes, noise }: Candidate): Known {
  const through = times(known, slopes);
  const seen = noise + dot(slopes, through);
  return known.map((row, i) => row.map((v, j) => v - (through[i]! * through[j]!) / seen));
}

/** The candidate that takes the most from the mean relative variance of the corals per minute (A-optimal, one step ahead). */
function bestOf(
  known: Known,
  corals: readonly Coral[],
  candidates: readonly Candidate[],
  minutesOf: (c: Candidate) => number,
): Candidate | null {
  const through = corals.map(({ slopes }) => times(known, slopes));
  let best: Candidate | null = null;
  let most = 1e-9;
  for (const c of candidates) {
    const seen = c.noise + dot(c.slopes, times(known, c.slopes));
    const gain = mean(through.map((t) => dot(t, c.slopes) ** 2 / seen)) / minutesOf(c);
    if (gain > most * (1 + 1e-9)) [best, most] = [c, gain];
  }
  return best;
}

/** Minutes that a reading takes with three tries, that another place takes, and other light. Mark: rule of thumb. */
const READ_MIN = 1.5;
const MOVE_MIN = 0.5;
const RELIGHT_MIN = 1;
const MOST_STOPS = 12;

/** A round with the meter: what to read in which order, and how far the bands would fall. */
export interface Visit {
  stops: Stop[];
  minutes: number;
  /** mean 90 % half band over the corals now and after it, as shares */
  bandBefore: number;
  bandAfter: number;
}

/**
 * The round that narrows the bands over the corals most in so many minutes: the best reading per minute, one after the other, then
 * walked light by light and along the tank. It is planned anew with every reading that is in. Source: optimal design of experiments
 * (A-optimality). Mark: standard.
 * @param levels the light that matters at the corals; @param corals places that matter, as spots of the light
 */
export function planVisit(
  cal: Calibration,
  light: ZoneLight,
  groups: readonly HungGroup[],
  levels: readonly (readonly number[])[],
  corals: readonly number[],
  minutes: number,
): Visit | null {
  const cared = coralsOf(cal, light, groups, levels, corals);
  if (cared.length === 0) return null;
  let known = knownOf(cal);
  let open = candidatesOf(cal, light, groups, levels);
  const before = bandOf(variances(known, cared));
  const chosen: Candidate[] = [];
  const litBy = (c: Candidate) => (c.alone ? `${c.alone.groupId} ${c.alone.channelId}` : '');
  let spent = 0;
  const minutesOf = (c: Candidate) =>
    READ_MIN +
    (chosen.some((x) => x.spot === c.spot && litBy(x) === litBy(c)) ? 0 : MOVE_MIN) +
    (chosen.some((x) => litBy(x) === litBy(c)) || (chosen.length === 0 && !c.alone) ? 0 : RELIGHT_MIN);
  while (chosen.length < MOST_STOPS) {
    const best = bestOf(
      known,
      cared,
      open.filter((c) => spent + minutesOf(c) <= minutes),
      minutesOf,
    );
    if (!best) break;
    spent += minutesOf(best);
    known = once(known, best);
    chosen.push(best);
    open = open.filter((c) => c !== best);
  }
  const x = (c: Candidate) => light.at[c.spot]?.xCm ?? c.spot;
  const order = [...new Set(chosen.map(litBy))].sort((a, b) => (a === '' ? -1 : b === '' ? 1 : 0));
  // there and back along the tank
  const stops = order.flatMap((lit, i) =>
    chosen.filter((c) => litBy(c) === lit).sort((a, b) => (i % 2 === 0 ? x(a) - x(b) : x(b) - x(a))),
  );
  return {
    stops: stops.map(({ spot, alone }) => ({ spot, alone })),
    minutes: spent,
    bandBefore: before,
    bandAfter: bandOf(variances(known, cared)),
  };
}

const mean = (values: readonly number[]) => values.reduce((s, v) => s + v, 0) / values.length;

function lightings(groups: readonly HungGroup[], levels: readonly (readonly number[])[]) {
  const dark = groups.map((g) => g.lampKind.channels.map(() => 0));
  return [
    { alone: null as Stop['alone'], under: levels },
    ...groups.flatMap((g, i) =>
      g.lampKind.channels.map((c, k) => ({
        alone: { groupId: g.groupId, channelId: c.id } as Stop['alone'],
        under: dark.map((row, j) => (j === i ? row.map((_, m) => (m === k ? 1 : 0)) : row)),
      })),
    ),
  ];
}
