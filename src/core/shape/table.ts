/** A table of rising places and their values. */
export type Table = readonly (readonly [at: number, value: number])[];

/** A table's value at a place: straight between its rows, held at its ends. */
export function lookUp(table: Table, at: number): number {
  const next = table.findIndex(([x]) => x >= at);
  if (next === 0) return table[0]![1];
  const last = table[table.length - 1]!;
  if (next < 0) return last[1];
  const [x1, y1] = table[next]!;
  const [x0, y0] = table[next - 1]!;
  return y0 + ((y1 - y0) * (at - x0)) / (x1 - x0);
}
