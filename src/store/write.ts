import { type Change, type Texts, transact } from '@/store/transact';

import { ANSWER_MS, within } from './answers';

/** A write that the store refused: what was there before is still there. */
export interface Refusal {
  ok: false;
  /** there is no room left */
  full: boolean;
  message: string;
}
export type Written<T> = { ok: true; value: T } | Refusal;

/** One transaction (`transact`), with its failure as a result. */
export async function written<T>(
  keys: readonly string[],
  decide: (texts: Texts) => Change & { value: T },
  ahead: () => Readonly<Record<string, string>> = () => ({}),
): Promise<Written<T>> {
  try {
    return { ok: true, value: await within(ANSWER_MS, transact(keys, decide, ahead)) };
  } catch (error) {
    const e = error as Error & { cause?: unknown };
    const full = /quota|disk|no space/i.test(`${e?.name} ${e?.message} ${String(e?.cause)}`);
    return {
      ok: false,
      full,
      message: full
        ? 'The browser has no room left for this site.'
        : `The browser's store refused the write: ${String(e?.message ?? error)}`,
    };
  }
}
