import { createAsyncStorage } from '@react-native-async-storage/async-storage';

import { seeded } from '@/core/spectrum/random';
import { demoCase } from '@/demo/lagoon';

import { boot, exportOpenCase } from './boot';
import { closeSession, createCase, flush, run, useSession } from './session';
import { setCap } from './commands/days';
import { changeSettings } from './settings';

const storage = createAsyncStorage('chromatheca');
const bundle = demoCase(Date.UTC(2026, 10, 24), 'UTC');
const state = () => useSession.getState();
const VALUES = [
  '',
  'null',
  '{',
  '[]',
  '0',
  '"text"',
  'true',
  '{"format":"chromatheca-case"}',
  '{"__proto__":{"a":1}}',
];

/** A browser that has been in use: a case, settings, something set aside, something typed. */
const used = async (): Promise<string[]> => {
  closeSession();
  await storage.clear();
  await createCase(bundle);
  run(setCap('demo-panels', 0.5));
  await flush();
  changeSettings({ caseId: 'demo' });
  await storage.setMany({
    settings: JSON.stringify({ format: 'chromatheca-settings', version: 1, caseId: 'demo' }),
    'aside/2026-01-01T00:00:00.000Z/case/old': '{"from":"case/old","text":"{"}',
    'form/a sheet': '{"typed":"half"}',
    'later/demo': '[]',
  });
  closeSession();
  return (await storage.getAllKeys()).slice().sort();
};
const starts = async () => {
  const started = await boot();
  expect(Array.isArray(started.aside)).toBe(true);
  expect(state().bundle).not.toBeNull();
  expect(exportOpenCase()!.text).toContain('chromatheca-file');
  // and it can be worked with
  expect(run({ name: 'a change', apply: (b) => ({ ...b, case: { ...b.case, name: 'changed' } }) })).toBe(
    true,
  );
  await flush();
  expect(Object.hasOwn(Object.prototype, 'a')).toBe(false);
};

test('any content of any key: the app starts and goes on', async () => {
  const keys = await used();
  expect(keys.length).toBeGreaterThan(7);
  for (const key of keys)
    for (const value of VALUES) {
      await used();
      await storage.setItem(key, value);
      await starts();
    }
}, 120_000);

test('and of any two together (seeded)', async () => {
  const random = seeded(24);
  const one = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
  for (let i = 0; i < 60; i += 1) {
    const keys = await used();
    const [a, b] = [one(keys), one(keys)];
    await storage.setMany({ [a]: one(VALUES), [b]: one(VALUES) });
    await starts();
  }
}, 120_000);

describe('a store that fails', () => {
  beforeEach(used);
  afterEach(() => {
    jest.restoreAllMocks();
    jest.useRealTimers();
  });

  test.each(['getMany', 'getAllKeys', 'getItem'] as const)(
    'in %s: the demo in memory, said and exportable',
    async (call) => {
      jest.spyOn(storage, call).mockRejectedValue(new Error('blocked') as never);
      await boot();
      expect(state().bundle!.case.demo).toBe(true);
      expect(exportOpenCase()!.text).toContain('chromatheca-file');
      if (call !== 'getItem')
        expect(state().save).toMatchObject({ kind: 'failed', message: expect.stringContaining('blocked') });
    },
  );

  test('that never answers is not waited for, at the start or in writing', async () => {
    jest.useFakeTimers({ doNotFake: ['queueMicrotask', 'nextTick', 'setImmediate'] });
    jest.spyOn(storage, 'getMany').mockReturnValue(new Promise<never>(() => undefined));
    const started = boot();
    for (let i = 0; i < 30; i += 1) await jest.advanceTimersByTimeAsync(500);
    await started;
    expect(state().save).toMatchObject({
      kind: 'failed',
      message: expect.stringContaining('it does not answer'),
    });
    run(setCap('demo-panels', 0.4));
    for (let i = 0; i < 30; i += 1) await jest.advanceTimersByTimeAsync(500);
    expect(state().save).toMatchObject({
      kind: 'failed',
      message: expect.stringContaining('it does not answer'),
    });
    expect(state().bundle!.case.zones[0]!.groups[0]!.capShare).toBe(0.4);
  });
});
