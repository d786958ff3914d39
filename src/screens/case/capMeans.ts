import type { LampKind } from '@/core/spectrum/lampKind';

/** What the cap of a lamp does, in words. */
export const CAP_MEANS: readonly { value: LampKind['controller']['capMeans']; label: string }[] = [
  { value: 'none', label: 'it has none' },
  { value: 'multiplies', label: 'multiplies every value' },
  { value: 'rescales', label: 'becomes the highest value of the day' },
];
