import Papa from 'papaparse';

/** A table as CSV (RFC 4180): figures as they are, texts so that no spreadsheet takes them for formulas; null = nothing known. */
export function tableCsv(
  head: readonly string[],
  rows: readonly (readonly (string | number | null)[])[],
): string {
  const cell = (x: string | number | null) =>
    typeof x === 'string' ? x.replace(/^[\t\r=+\-@]/, "'$&") : x === null || !Number.isFinite(x) ? '' : x;
  return `${Papa.unparse([head.map(cell), ...rows.map((r) => r.map(cell))])}\r\n`;
}
