import { lengthRange } from '@/core/shape/units';
import type { Typed } from '@/state/typed';
import { useState } from 'react';

import type { Wants } from '@/core/record/needs';
import type { Zone } from '@/core/record/zone';
import { parseNumber } from '@/ui/parseNumber';

type Limits = readonly [low: number, high: number];

/** Numbers typed into a sheet: text until it is kept, each with its own error. */
export function useNumbers<K extends string>(
  typed: Typed,
  start: Record<K, number>,
  limits: Record<K, Limits>,
) {
  const [texts, setTexts] = typed.of(
    'numbers',
    Object.fromEntries(Object.entries(start).map(([k, n]) => [k, String(n)])) as Record<K, string>,
  );
  const [errors, setErrors] = useState<Partial<Record<K, string>>>({});
  const field = (key: K) => ({
    value: texts[key],
    error: errors[key],
    numeric: true,
    unit: 'cm',
    onChange: (text: string) => {
      setTexts((t) => ({ ...t, [key]: text }));
      setErrors((e) => ({ ...e, [key]: undefined }));
    },
  });
  const read = (): Record<K, number> | null => {
    const found: Partial<Record<K, string>> = {};
    const numbers = {} as Record<K, number>;
    for (const key of Object.keys(texts) as K[]) {
      const n = parseNumber(texts[key]);
      const [low, high] = limits[key];
      if (n === null || n < low || n > high) found[key] = `Give ${lengthRange(low, high)}.`;
      else numbers[key] = n;
    }
    setErrors(found);
    return Object.keys(found).length === 0 ? numbers : null;
  };
  return { field, read };
}

/** What is wrong with a name for a water; undefined = nothing. */
export function waterNameWrong(zones: readonly Zone[], name: string, ownId?: string): string | undefined {
  const wanted = name.trim();
  if (wanted === '') return 'Give it a name.';
  if (zones.some((z) => z.name === wanted && z.id !== ownId))
    return 'Another water of this case has that name.';
  return wanted.length > 60 ? 'At most 60 letters.' : undefined;
}

export const BOTH = 'Give both, 0 to 3000, the second above the first; or leave both empty.';

/** What is typed as wanted: null = nothing, undefined = something that makes no sense. */
export function wantsOfTexts(from: string, to: string): Wants | null | undefined {
  if (from.trim() === '' && to.trim() === '') return null;
  const [a, b] = [parseNumber(from), parseNumber(to)];
  if (a === null || b === null || a < 0 || b > 3000 || b <= a || b < 1) return undefined;
  return { fromUmol: a, toUmol: b };
}
