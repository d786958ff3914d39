import { type DBSchema, type IDBPDatabase, openDB } from 'idb';

interface Photos extends DBSchema {
  photos: { key: string; value: { blob: Blob; caseId: string }; indexes: { case: string } };
}

let opened: Promise<IDBPDatabase<Photos>> | null = null;
const database = () =>
  (opened ??= openDB<Photos>('chromatheca-photos', 2, {
    upgrade: (db, from, _, tx) => {
      const store = from < 1 ? db.createObjectStore('photos') : tx.objectStore('photos');
      store.createIndex('case', 'caseId');
    },
    // a newer page wants another shape of it: this one makes way and opens it anew when it next needs it
    blocking: (_now, _wanted, event) => {
      (event.target as IDBDatabase).close();
      opened = null;
    },
    terminated: () => (opened = null),
  }).catch((error: unknown) => {
    opened = null;
    throw error;
  }));

/** Keeps the pixels of a picture. @returns null, or why not: 'full' where there is no room */
export async function putPhoto(id: string, caseId: string, blob: Blob): Promise<null | 'full' | string> {
  try {
    await (await database()).put('photos', { blob, caseId }, id);
    return null;
  } catch (error) {
    const { name, message } = error as Error;
    return name === 'QuotaExceededError' ? 'full' : message || name;
  }
}

/** A picture's pixels; null where they are not in this browser. */
export async function getPhoto(id: string): Promise<Blob | null> {
  try {
    return (await (await database()).get('photos', id))?.blob ?? null;
  } catch {
    return null;
  }
}

export async function removePhoto(id: string): Promise<void> {
  try {
    await (await database()).delete('photos', id);
  } catch {
    // what could not be opened holds nothing to remove
  }
}

/** Ids of the pictures of a case that are in this browser. */
export async function photosOf(caseId: string): Promise<string[]> {
  try {
    return await (await database()).getAllKeysFromIndex('photos', 'case', caseId);
  } catch {
    return [];
  }
}

/** Bytes this browser still gives; null where it does not say. */
export async function roomLeft(): Promise<number | null> {
  const { usage, quota } = (await globalThis.navigator?.storage?.estimate?.()) ?? {};
  return usage === undefined || quota === undefined ? null : Math.max(0, quota - usage);
}
