import type { LogDoc } from '../record/log';
import type { Width } from '../record/log/width';

/** How far a ruler held to a coral under water is out, cm. Mark: rule of thumb. */
const RULER_CM = 0.5;
const DAY_MS = 86_400_000;

/** From a coral's first measurement to its newest. */
export interface Widening {
  first: Width;
  newest: Width;
  days: number;
  /** how much wider, cm */
  byCm: number;
  /** what two rulers may be out together, cm */
  bandCm: number;
}

/** What a coral's measured widths tell; null = it was not measured; days = 0: once. */
export function widening(log: Pick<LogDoc, 'events'>, spotId: string): Widening | null {
  const of = log.events.filter((e): e is Width => e.kind === 'width' && e.spotId === spotId);
  if (of.length === 0) return null;
  of.sort((a, b) => Date.parse(a.atUtc) - Date.parse(b.atUtc));
  const [first, newest] = [of[0]!, of.at(-1)!];
  return {
    first,
    newest,
    days: Math.round((Date.parse(newest.atUtc) - Date.parse(first.atUtc)) / DAY_MS),
    byCm: newest.widthCm - first.widthCm,
    bandCm: RULER_CM * Math.SQRT2,
  };
}
