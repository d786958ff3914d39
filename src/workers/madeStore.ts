import { type DBSchema, type IDBPDatabase, openDB } from 'idb';

import type { MadeStore } from './made';

interface Made extends DBSchema {
  made: { key: string; value: { value: unknown; usedMs: number }; indexes: { used: number } };
}

let opened: Promise<IDBPDatabase<Made>> | null = null;
const database = () =>
  (opened ??= openDB<Made>('chromatheca-made', 1, {
    upgrade: (db) => db.createObjectStore('made').createIndex('used', 'usedMs'),
    terminated: () => (opened = null),
  }).catch((error: unknown) => {
    opened = null;
    throw error;
  }));

/** Beside the keeper's documents, in a database of its own: it can be lost at any time without anything being lost. */
export const madeStore: MadeStore = {
  get: async (key) => {
    const db = await database();
    const found = await db.get('made', key);
    if (found) await db.put('made', { ...found, usedMs: Date.now() }, key);
    return found?.value;
  },
  put: async (key, value, most) => {
    const tx = (await database()).transaction('made', 'readwrite');
    await tx.store.put({ value, usedMs: Date.now() }, key);
    let over = (await tx.store.count()) - most;
    for (let at = await tx.store.index('used').openCursor(); at && over > 0; over -= 1) {
      await at.delete();
      at = await at.continue();
    }
    await tx.done;
  },
};
