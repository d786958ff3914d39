import { dequal } from 'dequal';
import { useRef } from 'react';

/** A value that is made anew with every draw, as the one that was there before while nothing in it differs. */
export function useSame<T>(value: T): T {
  const kept = useRef(value);
  if (!dequal(kept.current, value)) kept.current = value;
  return kept.current;
}
