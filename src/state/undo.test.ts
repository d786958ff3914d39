import { createAsyncStorage } from '@react-native-async-storage/async-storage';

import { displayCase } from '@/demo/lagoon';
import { loadCase, removeCase, saveCase, undoKey } from '@/store/documents';

import { setCap } from './commands/days';
import { freeze, typeIn } from './commands/running';
import { addPlate } from './commands/plates';
import { closeSession, createCase, flush, openCase, run, undo, useSession } from './session';

const storage = createAsyncStorage('chromatheca');
const GROUP = 'demo-panels';
const state = () => useSession.getState();
const cap = () => state().bundle!.case.zones[0]!.groups[0]!.capShare;
const asStored = () => JSON.parse(JSON.stringify(state().bundle)) as unknown;
const names = () => state().past.map((s) => s.name);
/** What a reload does to the case that is open. */
const reload = async () => {
  await flush();
  closeSession();
  await openCase('demo');
};
const settled = () => new Promise((resolve) => setTimeout(resolve, 30));

beforeEach(async () => {
  closeSession();
  await storage.clear();
  await createCase(displayCase(Date.UTC(2026, 10, 24), 'Europe/Berlin'));
});

test('undo reaches back over a reload, step by step, through every part, to the very same documents', async () => {
  const first = asStored();
  run(setCap(GROUP, 0.5));
  const plate = { ...state().bundle!.case.plates[0]!, id: 'new', name: 'New' };
  run(addPlate(plate));
  const { case: doc } = state().bundle!;
  const [zone] = doc.zones;
  const typed = { id: 'now', atUtc: '2026-11-24T12:00:00.000Z', usedTo: false };
  run(typeIn(freeze(doc, zone!, zone!.groups[0]!, typed)));
  const last = asStored();
  const done = names();
  expect(done.length).toBeGreaterThanOrEqual(2);
  await reload();
  await settled();
  expect(names()).toEqual(done);
  expect(asStored()).toEqual(last);
  for (let i = done.length; i > 0; i -= 1) undo();
  expect(asStored()).toEqual(first);
  await reload();
  expect(cap()).toBe(0.8);
  await settled();
  expect(names()).toEqual([]);
});

test('what is done before the way back is read stays on top of it', async () => {
  run(setCap(GROUP, 0.5));
  await flush();
  closeSession();
  await openCase('demo');
  run(setCap(GROUP, 0.3));
  await settled();
  expect(state().past).toHaveLength(2);
  undo();
  expect(cap()).toBe(0.5);
  undo();
  expect(cap()).toBe(0.8);
});

test.each([
  [
    'of another revision',
    async () => {
      const found = await loadCase('demo');
      if (found.is !== 'open') throw new Error(found.is);
      await saveCase(found.bundle, null, [found.revision]);
    },
  ],
  ['that cannot be read', async () => storage.setItem(undoKey('demo'), '{"revision":')],
  ['that is none', async () => storage.setItem(undoKey('demo'), '{"steps":7}')],
  [
    'that leads to what no case may be',
    async () => {
      const text = (await storage.getItem(undoKey('demo')))!;
      expect(text).toContain('"value":0.8');
      await storage.setItem(undoKey('demo'), text.replace('"value":0.8', '"value":80'));
    },
  ],
  [
    'that does not fit',
    async () => {
      const text = (await storage.getItem(undoKey('demo')))!;
      await storage.setItem(undoKey('demo'), text.replace('/capShare', '/nowhere/else'));
    },
  ],
])('a way back %s is forgotten, and the case opens all the same', async (_, spoil) => {
  run(setCap(GROUP, 0.5));
  await flush();
  closeSession();
  await spoil();
  await openCase('demo');
  await settled();
  expect(cap()).toBe(0.5);
  expect(state().past).toEqual([]);
});

test('it goes with its case, and its oldest steps go where it grows too long', async () => {
  for (let i = 1; i <= 40; i += 1) run(setCap(GROUP, i / 100));
  await reload();
  await settled();
  expect(state().past).toHaveLength(30);
  undo();
  expect(cap()).toBe(0.39);
  await flush();
  await removeCase('demo');
  expect(await storage.getItem(undoKey('demo'))).toBeNull();
});

test('it is written with what it leads back from; where there is no room for both, the case goes first', async () => {
  run(setCap(GROUP, 0.5));
  await flush();
  expect(await storage.getItem(undoKey('demo'))).toContain('0.8');
  const spy = jest.spyOn(storage, 'setMany').mockRejectedValueOnce(new Error('quota'));
  run(setCap(GROUP, 0.4));
  await flush();
  spy.mockRestore();
  expect(state().save.kind).toBe('saved');
  expect(await storage.getItem(undoKey('demo'))).toBeNull();
  closeSession();
  await openCase('demo');
  await settled();
  expect(cap()).toBe(0.4);
  expect(state().past).toEqual([]);
});
