import type { LogDoc, LogEvent } from '@/core/record/log';
import type { Texts } from '@/store/transact';
import { isObject, type Loose, parseObject } from '@/core/record/read';

/**
 * Ten years of records are not written anew for one entry more: what is put behind a long log stands in a text of its own, a list,
 * until there is much of it or something else of the log changes. Then the log is one text again.
 */
const LATER = 'later/';
export const laterKey = (caseId: string): string => `${LATER}${caseId}`;
/** Shorter logs are always written whole. */
const LONG_LOG = 1000;
/** So many entries may stand by themselves. */
export const MOST_LATER = 200;

/** Entries that stand by themselves; null where that is no list of them. */
export function laterOf(text: string | null | undefined): unknown[] | null {
  try {
    const later: unknown = JSON.parse(text ?? '[]');
    return Array.isArray(later) ? later : null;
  } catch {
    return null;
  }
}

/** A log as it is stored with what came later behind it; what is in both, as where an older app wrote since, is there once. */
export function withLater(log: Loose, later: readonly unknown[]): Loose {
  if (later.length === 0 || !Array.isArray(log.events)) return log;
  const events = log.events as unknown[];
  const idOf = (e: unknown) => (isObject(e) ? e.id : undefined);
  const ids = new Set(events.map(idOf));
  return { ...log, events: [...events, ...later.filter((e) => !ids.has(idOf(e)))] };
}

/** Stored texts with every log in one; what cannot be put together stays as it was found. */
export function wholeTexts(texts: Texts): Record<string, string | null> {
  const out = { ...texts };
  for (const key of Object.keys(texts).filter((k) => k.startsWith(LATER))) {
    const of = `log/${key.slice(LATER.length)}`;
    const [log, later] = [parseObject(texts[of] ?? ''), laterOf(texts[key])];
    if (later === null || !log.ok || !Array.isArray(log.value.events)) continue;
    if (later.length > 0) out[of] = JSON.stringify(withLater(log.value, later));
    delete out[key];
  }
  return out;
}

/** Entries that alone make one long log of another; null where they do not. */
export function putBehind(before: LogDoc, after: LogDoc): LogEvent[] | null {
  const { events, ...rest } = before;
  const { events: now, ...others } = after;
  const same =
    events.length >= LONG_LOG &&
    now.length > events.length &&
    JSON.stringify(rest) === JSON.stringify(others) &&
    events.every((e, i) => e === now[i]);
  return same ? now.slice(events.length) : null;
}
