import { COUNTS, type Counts } from '../controller/counts';
import type { LampChoice } from './choose';

/** What lamps are ranked by. */
export type Wish = 'corals' | 'colours' | 'even' | 'day' | 'running' | 'price' | 'glass';
export type Wishes = Readonly<Record<Wish, Counts>>;
export const USUAL_WISHES: Wishes = {
  ...{ corals: 'much', colours: 'usual', even: 'usual', day: 'usual' },
  ...{ running: 'little', price: 'little', glass: 'little' },
};

/** How bad a choice is in each thing, about 0 to 1; money and energy against the dearest. Marks: rule of thumb. */
export function badness(c: LampChoice, all: readonly LampChoice[]): Record<Wish, number> {
  const dearest = (of: (x: LampChoice) => number | null) => Math.max(1e-9, ...all.map((x) => of(x) ?? 0));
  const price = dearest((x) => x.price);
  return {
    corals: Math.min(2, c.figures.cost) + (c.judged > 0 ? 0.5 * (1 - c.figures.within / c.judged) : 0),
    colours: 2 * (1 - c.match) + 0.1 * c.lacks.filter((l) => l.what !== 'dawn').length,
    even: c.figures.uneven,
    day: Math.min(1, c.day.errorShare) + (c.lacks.some((l) => l.what === 'dawn') ? 0.2 : 0),
    running: c.kWhPerDay / dearest((x) => x.kWhPerDay),
    // what is not known counts as the middle
    price: c.price === null ? 0.5 : c.price / price,
    glass: c.figures.glassUmol / dearest((x) => x.figures.glassUmol),
  };
}

export interface Ranked {
  choice: LampChoice;
  /** the same kind in other numbers */
  others: LampChoice[];
  score: number;
  /** what it is best in of all that stand beside it */
  best: Wish[];
}

/** Each kind once, with as many as serve the wishes best, the best first. */
export function rankChoices(all: readonly LampChoice[], wishes: Wishes): Ranked[] {
  const scored = all.map((choice) => {
    const bad = badness(choice, all);
    const names = Object.keys(wishes) as Wish[];
    return { choice, bad, score: names.reduce((s, w) => s + COUNTS[wishes[w]] * bad[w], 0) };
  });
  const kinds = [...new Set(all.map((c) => c.kind.id))];
  const each = kinds
    .map((id) =>
      scored.filter((s) => s.choice.kind.id === id).reduce((a, b) => (b.score < a.score - 1e-9 ? b : a)),
    )
    .sort((a, b) => a.score - b.score);
  return each.map(({ choice, bad, score }) => ({
    ...{ choice, score },
    others: all.filter((c) => c !== choice && c.kind.id === choice.kind.id),
    best: (Object.keys(bad) as Wish[]).filter((w) => {
      const least = Math.min(...each.map((e) => e.bad[w]));
      // what all share is nobody's
      return bad[w] <= least + 1e-9 && each.some((e) => e.bad[w] > least * 1.02 + 0.01);
    }),
  }));
}
