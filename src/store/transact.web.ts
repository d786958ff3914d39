import { type IDBPDatabase, openDB } from 'idb';

import type { Change, Texts } from './transact';

/**
 * The same database and table that AsyncStorage keeps. Its own writes commit what was put before a put that threw, and cannot look
 * before they write; here reading, deciding and writing are one transaction, which leaves nothing behind when any of it fails.
 */
const TABLE = 'entries';
let opened: Promise<IDBPDatabase> | null = null;
/** Once it is open it is asked in the same turn: the store works while the page is drawn. */
let standing: IDBPDatabase | null = null;
const closed = (): void => {
  opened = null;
  standing = null;
};

function database(): Promise<IDBPDatabase> {
  opened ??= openDB('chromatheca', 1, {
    upgrade: (db) => {
      if (!db.objectStoreNames.contains(TABLE)) db.createObjectStore(TABLE);
    },
    // the browser closed it (site data cleared, a crash of its store): the next call opens it anew
    terminated: closed,
  }).then(
    (db) => (standing = db),
    (error: unknown) => {
      closed();
      throw error;
    },
  );
  return opened;
}

export async function transact<T>(
  keys: readonly string[],
  decide: (texts: Texts) => Change & { value: T },
): Promise<T> {
  const tx = (standing ?? (await database())).transaction(TABLE, 'readwrite');
  try {
    const found = await Promise.all(keys.map((k) => tx.store.get(k) as Promise<string | undefined>));
    const {
      set = {},
      remove = [],
      value,
    } = decide(Object.fromEntries(keys.map((k, i) => [k, found[i] ?? null])));
    // a request that cannot even be made throws, one that fails rejects: every one of them is heard before anything is decided
    const made = await Promise.allSettled([
      ...remove.map(async (k) => tx.store.delete(k)),
      ...Object.entries(set).map(async ([k, text]) => void (await tx.store.put(text, k))),
    ]);
    const failed = made.find((m) => m.status === 'rejected');
    if (failed) throw failed.reason;
    await tx.done;
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
