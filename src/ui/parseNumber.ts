/** Reads a number as people type it: decimal comma or point. Null when it is none. */
export function parseNumber(text: string): number | null {
  const clean = text.trim().replace(/\s/g, '').replace('−', '-').replace(',', '.');
  if (!/^-?(\d+\.?\d*|\.\d+)$/.test(clean)) return null;
  return Number(clean);
}
