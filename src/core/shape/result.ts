/** What was asked for, or why there is none: for failures that are to be expected and are told to somebody. */
export type Result<T, E> = { ok: true; value: T } | { ok: false; error: E };

export const good = <T>(value: T): { ok: true; value: T } => ({ ok: true, value });
export const bad = <E>(error: E): { ok: false; error: E } => ({ ok: false, error });
