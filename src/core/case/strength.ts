import { bisect } from '../shape/bisect';
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
  const share = bisect((x) => at(x) < wantedUmol, 0, 1);
  return { strengthShare: Math.round(share * 1000) / 1000 };
}
/** A wish this far outside the range still means its end, µmol. */
const NEAR_UMOL = 0.5;
