/** A pull of this many px goes from nothing to full, for every channel and every thread. */
export const FULL_PULL_PX = 200;
const COARSE_UNTIL_PX = 48;
const FINEST_AT_PX = 160;
const FINEST = 0.2;

/** How much of a vertical move counts: all of it near the line of the pull, less as the thumb drifts sideways. */
export function fineness(driftPx: number): number {
  const d = Math.abs(driftPx);
  if (d <= COARSE_UNTIL_PX) return 1;
  const w = Math.min(1, (d - COARSE_UNTIL_PX) / (FINEST_AT_PX - COARSE_UNTIL_PX));
  return w === 1 ? FINEST : 1 - (1 - FINEST) * w;
}

/** The share after a move of `upPx` (up is positive), kept within 0..1. */
export const pullTo = (share: number, upPx: number, driftPx: number): number =>
  Math.min(1, Math.max(0, share + (upPx / FULL_PULL_PX) * fineness(driftPx)));
