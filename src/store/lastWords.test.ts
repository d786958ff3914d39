import { dropWords, leaveWords, wordsLeft } from './lastWords';

/** A store of the browser with room for so many texts. */
function storage(room: number): Storage {
  const held = new Map<string, string>();
  return {
    get length() {
      return held.size;
    },
    key: (i: number) => [...held.keys()][i] ?? null,
    getItem: (k: string) => held.get(k) ?? null,
    setItem: (k: string, v: string) => {
      if (!held.has(k) && held.size >= room) throw new DOMException('full', 'QuotaExceededError');
      held.set(k, v);
    },
    removeItem: (k: string) => void held.delete(k),
    clear: () => held.clear(),
  };
}
const had = Object.getOwnPropertyDescriptor(globalThis, 'localStorage');
const put = (descriptor: PropertyDescriptor) =>
  Object.defineProperty(globalThis, 'localStorage', { configurable: true, ...descriptor });
afterEach(() => {
  if (had) put(had);
  else delete (globalThis as { localStorage?: Storage }).localStorage;
});

describe('last words of a closing page', () => {
  test('stand until they are dropped, the newest of each key, apart from what others keep', () => {
    const store = storage(10);
    put({ value: store });
    store.setItem('theirs', 'x');
    leaveWords('case/a', 'first');
    leaveWords('case/a', 'second');
    leaveWords('case/b', 'other');
    expect(wordsLeft()).toEqual({ 'case/a': 'second', 'case/b': 'other' });
    expect(wordsLeft()).toEqual({ 'case/a': 'second', 'case/b': 'other' });
    dropWords('case/a');
    expect(wordsLeft()).toEqual({ 'case/b': 'other' });
    expect(store.getItem('theirs')).toBe('x');
  });

  test('a full store loses nothing that stands and throws nothing', () => {
    put({ value: storage(1) });
    leaveWords('case/a', 'kept');
    expect(() => leaveWords('case/b', 'no room')).not.toThrow();
    expect(wordsLeft()).toEqual({ 'case/a': 'kept' });
  });

  test('a browser that forbids the store has no last words', () => {
    put({
      get: () => {
        throw new DOMException('denied', 'SecurityError');
      },
    });
    expect(() => leaveWords('case/a', 'text')).not.toThrow();
    expect(() => dropWords('case/a')).not.toThrow();
    expect(wordsLeft()).toEqual({});
  });
});
