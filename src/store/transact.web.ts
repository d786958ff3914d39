import { type IDBPDatabase, openDB } from 'idb';

import type { Change, Texts } from './transact';

/**
 * The same database and table that AsyncStorage keeps. Its own writes commit what was put before a put that threw, and cannot look
 * before they write; here reading, deciding and writing are one transaction, which leaves nothing behind when any of it fails.
 */
const TABLE = 'entries';
let opened: Promise<IDBPDatabase> | null = null;

function database(): Promise<IDBPDatabase> {
  opened ??= openDB('chromatheca', 1, {
    upgrade: (db) => {
      if (!db.objectStoreNames.contains(TABLE)) db.createObjectStore(TABLE);
    },
    // the browser closed it (site data cleared, a crash of its store): the next call opens it anew
    terminated: () => (opened = null),
  }).catch((error: unknown) => {
    opened = null;
    throw error;
  });
  return opened;
}

export async function transact<T>(
  keys: readonly string[],
  decide: (texts: Texts) => Change & { value: T },
): Promise<T> {
  const tx = (await database()).transaction(TABLE, 'readwrite');
  try {
    const found = await Promise.all(keys.map((k) => tx.store.get(k) as Promise<string | undefined>));
    const {
      set = {},
      remove = [],
      value,
    } = decide(Object.fromEntries(keys.map((k, i) => [k, found[i] ?? null])));
    await Promise.all([
      ...remove.map((k) => tx.store.delete(k)),
      ...Object.entries(set).map(([k, text]) => tx.store.put(text, k)),
      tx.done,
    ]);
    return value;
  } catch (error) {
    try {
      tx.abort();
    } catch {
      // it has ended already
    }
    // an abort of ours rejects it too
    await tx.done.catch(() => undefined);
    throw error;
  }
}
