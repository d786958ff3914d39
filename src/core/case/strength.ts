import type { ResolvedThread } from '../day/thread';

/**
 * The strength at which a thread gives a PAR at a spot, everything else lit as it is.
 * @param umolAt PAR there with the day's threads
 * @returns null with the range when no strength gives it
 */
export function strengthForUmol(
  threads: readonly ResolvedThread[],
  minute: number,
  wantedUmol: number,
  umolAt: (threads: readonly ResolvedThread[]) => number,
): { strengthShare: number } | { fromUmol: number; toUmol: number } {
  const at = (strengthShare: number) =>
    umolAt(threads.map((t) => (t.minute === minute ? { ...t, strengthShare } : t)));
  const [from, to] = [at(0), at(1)];
  if (wantedUmol < from - NEAR_UMOL || wantedUmol > to + NEAR_UMOL) return { fromUmol: from, toUmol: to };
  let [low, high] = [0, 1];
  for (let i = 0; i < 40; i += 1) {
    const middle = (low + high) / 2;
    if (at(middle) < wantedUmol) low = middle;
    else high = middle;
  }
  return { strengthShare: Math.round(high * 1000) / 1000 };
}
/** A wish this far outside the range still means its end, µmol. */
const NEAR_UMOL = 0.5;
