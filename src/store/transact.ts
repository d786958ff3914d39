import { createAsyncStorage } from '@react-native-async-storage/async-storage';

/** Stored texts by key; null = there is none. */
export type Texts = Readonly<Record<string, string | null>>;
/** What a transaction writes and removes; one that sets nothing takes back what was written ahead. */
export interface Change {
  set?: Readonly<Record<string, string>>;
  remove?: readonly string[];
}

const storage = createAsyncStorage('chromatheca');
let last: Promise<unknown> = Promise.resolve();

/**
 * Reads keys, decides, writes and removes: all of it or nothing, and nothing of others in between. Where there is no browser's
 * store (native, tests) one call waits for another; what was set is put back when the removal fails.
 * @param ahead what will in all likelihood be written, so that it need not wait for the decision
 */
export function transact<T>(
  keys: readonly string[],
  decide: (texts: Texts) => Change & { value: T },
  ahead: () => Readonly<Record<string, string>> = () => ({}),
): Promise<T> {
  const work = async () => {
    const texts = keys.length > 0 ? await storage.getMany([...keys]) : {};
    const { set, remove = [], value } = decide(texts);
    if (set) await storage.setMany({ ...ahead(), ...set });
    if (remove.length > 0) await storage.removeMany([...remove]);
    return value;
  };
  const mine = last.then(work, work);
  last = mine.catch(() => undefined);
  return mine;
}
