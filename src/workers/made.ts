/** What was made in earlier visits, by what it is made of: a picture of the same tank need not be made again. */
export interface MadeStore {
  /** @returns undefined when it is not there */
  get: (key: string) => Promise<unknown>;
  /** puts it there and lets go of what was used longest ago beyond `most` */
  put: (key: string, value: unknown, most: number) => Promise<void>;
}

/** A picture takes up to 3 MB. */
const MOST = 10;

/** A key of a fixed size; null where the page is not trusted to digest anything, and nothing is kept then. */
async function keyOf(input: unknown): Promise<string | null> {
  if (!globalThis.crypto?.subtle) return null;
  const bytes = new TextEncoder().encode(JSON.stringify(input));
  const digest = new Uint8Array(await crypto.subtle.digest('SHA-256', bytes));
  return Array.from(digest, (b) => b.toString(16).padStart(2, '0')).join('');
}

/**
 * @param input all that decides what is made, and a name of the code that makes it
 * @param store what it is kept in; one that fails is as if nothing had been kept
 */
export async function madeOnce<T>(store: MadeStore, input: unknown, make: () => Promise<T>): Promise<T> {
  const key = await keyOf(input);
  const known = key === null ? undefined : await store.get(key).catch(() => undefined);
  if (known !== undefined) return known as T;
  const made = await make();
  if (key !== null) await store.put(key, made, MOST).catch(() => undefined);
  return made;
}
