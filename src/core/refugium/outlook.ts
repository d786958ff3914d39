import type { CaseDoc, SystemWater } from '../record/caseDoc';
import type { LogDoc } from '../record/log';
import { exported, latestTest, testsOf, trend } from './harvests';
import type { Harvest } from '../record/log/harvest';
import { N_OF_DRY, P_OF_DRY, DRY_SHARE, NITRATE_PER_N, PHOSPHATE_PER_P, type Ppm } from '../feeding/removal';
import { NO_SYSTEM, systemLitres } from '../record/system';
import { independent, type Range, range, scaled } from '../feeding/range';

/**
 * Nitrogen and phosphorus in food as fed. Dry food of 40-50 % protein (N = protein / 6.25); frozen food is mostly water.
 * Mark: literature, rounded.
 */
export const FOOD = {
  dry: { name: 'dry food', nitrogen: range(0.06, 0.085), phosphorus: range(0.008, 0.015) },
  frozen: {
    name: 'frozen food, as it leaves the packet',
    nitrogen: range(0.01, 0.02),
    phosphorus: range(0.001, 0.0025),
  },
} as const;
/** Share of what is fed that ends in the water as nitrate and phosphate; the rest stays in animals and is taken out. Rule of thumb. */
const REACHES = range(0.5, 0.9);

/** Nitrate and phosphate that feeding brings a week, ppm; null while it is not said how much. */
export function supplied(system: SystemWater, litres: number): Ppm | null {
  if (system.fedGPerDay === null) return null;
  const food = FOOD[system.food];
  const week = (7 * 1000 * system.fedGPerDay) / litres;
  return {
    nitrate: scaled(independent(food.nitrogen, REACHES), week * NITRATE_PER_N),
    phosphate: scaled(independent(food.phosphorus, REACHES), week * PHOSPHATE_PER_P),
  };
}

/** What a growth of so much wet algae a day takes out a week, ppm: bounds wrong independently. */
export const takenByGrowth = (wetGPerDay: Range, litres: number): Ppm => {
  const dry = independent(scaled(wetGPerDay, 7), DRY_SHARE.drained);
  return {
    nitrate: scaled(independent(dry, N_OF_DRY), (1000 * NITRATE_PER_N) / litres),
    phosphate: scaled(independent(dry, P_OF_DRY), (1000 * PHOSPHATE_PER_P) / litres),
  };
};

/** Below these corals and algae go hungry, ppm. Mark: rule of thumb. */
export const FLOORS = { nitrate: 1, phosphate: 0.02 } as const;
export type Nutrient = keyof typeof FLOORS;

/** Where a nutrient goes with an export. */
export interface Outlook {
  nutrient: Nutrient;
  /** present value, ppm; null = not tested */
  nowPpm: number | null;
  /** what comes a week, ppm: from food, or from how the tests moved and what was exported meanwhile; null = not known */
  comes: Range | null;
  /** what the algae take a week, ppm */
  taken: Range;
  dosedPpm: number;
  /** weeks until it is at its floor, soonest and likely; null = not, or not known */
  weeks: { soonest: number; likely: number | null } | null;
  /** share of what comes that the algae take, likely; null = not known */
  share: number | null;
}

/**
 * What becomes of a nutrient. Skimmer, water changes and rock are in what comes only where tests say it: food alone knows
 * nothing of them, and then the floor is reached sooner than said.
 * @param moving ppm a week by the tests, with what was exported meanwhile
 */
export function outlook(
  nutrient: Nutrient,
  nowPpm: number | null,
  taken: Range,
  fed: Range | null,
  dosedPpm: number,
  moving: { perWeek: number; standardError: number; exported: number } | null,
): Outlook {
  const comes: Range | null = moving
    ? {
        low: Math.max(0, moving.perWeek + moving.exported - dosedPpm - 1.645 * moving.standardError),
        mid: Math.max(0, moving.perWeek + moving.exported - dosedPpm),
        high: Math.max(0, moving.perWeek + moving.exported - dosedPpm + 1.645 * moving.standardError),
      }
    : fed;
  const above = nowPpm === null ? null : nowPpm - FLOORS[nutrient];
  const until = (net: number): number | null =>
    above === null || net <= 0 ? null : Math.max(0, above) / net;
  const soonest = comes ? until(taken.high - comes.low - dosedPpm) : null;
  return {
    nutrient,
    nowPpm,
    comes,
    taken,
    dosedPpm,
    weeks:
      soonest === null ? null : { soonest, likely: comes ? until(taken.mid - comes.mid - dosedPpm) : null },
    share: comes && comes.mid > 0 ? taken.mid / comes.mid : null,
  };
}

/**
 * Where nitrate and phosphate lead with so much taken out a week: from how tests moved and what was exported meanwhile, else
 * from what is fed.
 * @param harvests of every mat, mat by mat
 */
export function outlooks(
  doc: Pick<CaseDoc, 'zones' | 'system'>,
  log: LogDoc,
  harvests: readonly (readonly Harvest[])[],
  taken: Ppm,
  nowMs: number,
): Outlook[] {
  const system = doc.system ?? NO_SYSTEM;
  const { litres } = systemLitres(doc);
  const tests = testsOf(log);
  const fed = supplied(system, litres);
  const out = harvests.flatMap((h) => exported(h, litres, nowMs)?.ppm ?? []);
  return (
    [
      ['nitrate', 'nitratePpm', system.dosedNitratePpm],
      ['phosphate', 'phosphatePpm', system.dosedPhosphatePpm],
    ] as const
  ).map(([nutrient, key, dosed]) => {
    const moving = out.length > 0 ? trend(tests, key, nowMs) : null;
    return outlook(
      nutrient,
      latestTest(tests, key, nowMs),
      taken[nutrient],
      fed?.[nutrient] ?? null,
      dosed,
      moving && {
        perWeek: moving.perWeek,
        standardError: moving.standardError,
        exported: out.reduce((sum, e) => sum + e[nutrient].mid, 0),
      },
    );
  });
}

/** From which share of what comes algae carry a filter's work. Mark: rule of thumb. */
const CARRIES = { whole: 0.9, part: 0.3 } as const;

/** What the algae could stand in for, by what they take of what comes. */
export function standsInFor(share: number | null): string {
  if (share === null)
    return 'What it could stand in for follows from what is fed, or from three tests over two weeks.';
  if (share >= CARRIES.whole)
    return 'Enough for a main filter: it could stand in for carbon dosing, nitrate reactors and phosphate binders. Take them off one at a time, weeks apart, and test. Skimming also brings gas exchange: algae do not replace that at night.';
  if (share >= CARRIES.part)
    return `A helper that carries about ${Math.round(share * 10) * 10} % of it: other filtration can be turned down by as much, not off.`;
  return 'A small helper: good for pods and pH at night, not in place of any other filter.';
}
