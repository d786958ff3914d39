import { compareGroups, type Difference, summary, type Summary } from './compare';

/** A fragment weighed twice, or measured in another way that grows with it. */
export interface Weighed {
  startMg: number;
  endMg: number;
  days: number;
}

/** Specific growth a day, ln(end/start)/days: doubling in 70 days is 0.0099. Mark: standard. */
export const growthPerDay = ({ startMg, endMg, days }: Weighed): number => Math.log(endMg / startMg) / days;

/** Growth in each phase, and how the second differs from the first. */
export function growthOf(
  phases: readonly { name: string; fragments: readonly Weighed[] }[],
): { phases: (Summary & { name: string })[] } & Difference {
  const rates = phases.map((p) => p.fragments.map(growthPerDay));
  return {
    phases: phases.map((p, i) => ({ name: p.name, ...summary(rates[i]!) })),
    ...compareGroups(rates[0]!, rates[1]!),
  };
}
