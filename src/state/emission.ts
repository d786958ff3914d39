import type { Program } from '@/core/controller/program';
import { finePercent } from '@/core/shape/percent';

/** A control driven by less than this is dark: nothing is proven of it. */
export const LIT = 0.03;

/** How far what is emitted may lie off what it should, as a share of full. */
const DRIVE_SLACK = 0.012;

/** Less than this is no light at all. */
const DEAD = 0.005;

/** What is wrong with what a head emits against what it should, in words; null = it is as it should be. */
export function emissionWords(
  program: Program,
  names: readonly string[],
  should: readonly number[],
  drive: readonly number[],
): string | null {
  const off = should.map((x, i) => (drive[i] ?? 0) - x);
  const k = off.reduce((w, x, i) => (Math.abs(x) > Math.abs(off[w]!) ? i : w), 0);
  if (Math.abs(off[k]!) <= DRIVE_SLACK) return null;
  const lit = should.flatMap((x, i) => (x > LIT ? [drive[i]! / x] : []));
  const factor = lit.length > 0 ? lit.reduce((s, x) => s + x, 0) / lit.length : 0;
  const even = lit.length > 1 && lit.every((x) => Math.abs(x - factor) < 0.03);
  if (even && Math.abs(factor - program.capShare) < 0.03 && program.capShare < 0.97)
    return `it emits ${finePercent(factor)} of what it should: its cap acts twice`;
  if (even && factor < DEAD)
    return 'it gives no light where it should be lit: is its plug in, its supply alive?';
  if (even) return `it emits ${finePercent(factor)} of what it should, every colour alike`;
  const name = names[k] ?? 'a colour';
  if (drive[k]! < DEAD && should[k]! > LIT)
    return `${name} gives no light where ${finePercent(should[k]!)} was sent`;
  return `${name} emits ${finePercent(drive[k] ?? 0)} where ${finePercent(should[k]!)} was sent`;
}
