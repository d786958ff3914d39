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
  ahead: () => Readonly<Record<string, string>> = () => ({}),
): Promise<T> {
  const tx = (standing ?? (await database())).transaction(TABLE, 'readwrite');
  try {
    const asked = keys.map((k) => tx.store.get(k) as Promise<string | undefined>);
    // a request that cannot even be made throws, one that fails rejects: every one of them is heard before anything is done
    const put = (of: Readonly<Record<string, string>>) =>
      Object.entries(of).map(async ([k, text]) => void (await tx.store.put(text, k)));
    // the store works on it while the page is drawn
    const texts = ahead();
    const early = Promise.allSettled(put(texts));
    const found = await Promise.all(asked);
    const { set, remove = [], value } = decide(Object.fromEntries(keys.map((k, i) => [k, found[i] ?? null])));
    if (!set && Object.keys(texts).length > 0) {
      tx.abort();
      await tx.done.catch(() => undefined);
      return value;
    }
    const late = Promise.allSettled([...remove.map(async (k) => tx.store.delete(k)), ...put(set ?? {})]);
    const made = [...(await early), ...(await late)];
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
    // what ended it, where that was the store
    throw tx.error ?? error;
  }
}
