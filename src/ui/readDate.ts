type Part = 'day' | 'month' | 'year';

/** In which order the device writes a date. */
const deviceOrder = (): Part[] =>
  new Intl.DateTimeFormat(undefined, { day: 'numeric', month: 'numeric', year: 'numeric' })
    .formatToParts(new Date(2026, 10, 28))
    .flatMap(({ type }) => (type === 'day' || type === 'month' || type === 'year' ? [type] : []));

/** A date as the device writes it, with all its digits; what is no date stays as it is. */
export function writeDate(iso: string): string {
  if (!/^\d{4}-\d\d-\d\d$/.test(iso) || Number.isNaN(Date.parse(iso))) return iso;
  const how = { day: '2-digit', month: '2-digit', year: 'numeric', timeZone: 'UTC' } as const;
  return new Intl.DateTimeFormat(undefined, how).format(new Date(iso));
}

/**
 * A date as it is typed: 2026-11-28, or three numbers in the device's own order.
 * @returns the date as 2026-11-28; null when it is none
 */
export function readDate(text: string, order: readonly Part[] = deviceOrder()): string | null {
  const numbers = /^\s*(\d{1,4})\D{1,2}(\d{1,2})\D{1,2}(\d{1,4})\D?\s*$/.exec(text)?.slice(1);
  if (!numbers) return null;
  const parts: readonly Part[] = numbers[0]!.length === 4 ? ['year', 'month', 'day'] : order;
  const of = (part: Part) => Number(numbers[parts.indexOf(part)]);
  const year = of('year') < 100 ? 2000 + of('year') : of('year');
  const date = new Date(Date.UTC(year, of('month') - 1, of('day')));
  // the thirty-first of April is none
  if (!(date.getUTCMonth() === of('month') - 1 && date.getUTCDate() === of('day'))) return null;
  return Number.isNaN(date.getTime()) ? null : date.toISOString().slice(0, 10);
}
