import { madeOnce, type MadeStore } from './made';

const inMemory = (): MadeStore & { kept: Map<string, unknown> } => {
  const kept = new Map<string, unknown>();
  return {
    kept,
    get: async (key) => kept.get(key),
    put: async (key, value, most) => {
      kept.set(key, value);
      while (kept.size > most) kept.delete(kept.keys().next().value!);
    },
  };
};

test('the same of the same code is made once; anything else anew', async () => {
  const store = inMemory();
  let made = 0;
  const ask = (input: unknown) => madeOnce(store, input, async () => ({ n: (made += 1) }));
  expect(await ask(['code 1', { tank: 90 }])).toEqual({ n: 1 });
  expect(await ask(['code 1', { tank: 90 }])).toEqual({ n: 1 });
  expect(await ask(['code 1', { tank: 91 }])).toEqual({ n: 2 });
  expect(await ask(['code 2', { tank: 90 }])).toEqual({ n: 3 });
  for (let i = 0; i < 30; i += 1) await ask(['code 2', { tank: i }]);
  expect(store.kept.size).toBeLessThanOrEqual(10);
  for (const key of store.kept.keys()) expect(key).toMatch(/^[0-9a-f]{64}$/);
});

test('a store that fails, or that is full, is as if there were none; what fails is not kept', async () => {
  const broken: MadeStore = {
    get: () => Promise.reject(new Error('closed')),
    put: () => Promise.reject(new Error('full')),
  };
  expect(await madeOnce(broken, 1, async () => 'picture')).toBe('picture');
  const store = inMemory();
  await expect(madeOnce(store, 1, () => Promise.reject(new Error('stopped')))).rejects.toThrow('stopped');
  expect(store.kept.size).toBe(0);
});
