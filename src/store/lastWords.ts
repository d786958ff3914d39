/**
 * What must survive a page that is closing. IndexedDB is asynchronous and a closing page waits for nothing, so texts that
 * are not written yet are left in localStorage in the last moment and taken up at the next start. Without localStorage
 * (native, tests) there is no such moment.
 */
const PREFIX = 'chromatheca/last/';
const scratch = (): Storage | undefined => {
  try {
    return globalThis.localStorage;
  } catch {
    return undefined;
  }
};

/** Leaves a text under a key; a full store is no reason to fail now. */
export function leaveWords(key: string, text: string): void {
  try {
    scratch()?.setItem(PREFIX + key, text);
  } catch {
    // nothing more can be done on a closing page
  }
}

/** The text was written after all. */
export function dropWords(key: string): void {
  scratch()?.removeItem(PREFIX + key);
}

/** All texts left behind, by key. They stay until they are dropped. */
export function wordsLeft(): Record<string, string> {
  const store = scratch();
  if (!store) return {};
  const keys = Array.from({ length: store.length }, (_, i) => store.key(i)!).filter((k) =>
    k.startsWith(PREFIX),
  );
  return Object.fromEntries(keys.map((k) => [k.slice(PREFIX.length), store.getItem(k)!]));
}
