/** What a closing page leaves, and what becomes of it: pages that are killed, that come back, and that others have overtaken. */
import { createAsyncStorage } from '@react-native-async-storage/async-storage';

import type { CaseBundle } from '@/core/record/documents';
import { displayCase } from '@/demo/lagoon';

const heard: Record<string, (() => void)[]> = {};
const texts = new Map<string, string>();
Object.assign(globalThis, {
  addEventListener: (what: string, listen: () => void) => (heard[what] ??= []).push(listen),
  localStorage: {
    get length() {
      return texts.size;
    },
    key: (i: number) => [...texts.keys()][i] ?? null,
    getItem: (k: string) => texts.get(k) ?? null,
    setItem: (k: string, v: string) => void texts.set(k, v),
    removeItem: (k: string) => void texts.delete(k),
  },
});
/* eslint-disable @typescript-eslint/no-require-imports -- they listen to the page as they are loaded */
const { closeSession, createCase, flush, openCase, run, useSession } =
  require('./session') as typeof import('./session');
const { setCap } = require('./commands/days') as typeof import('./commands/days');
const { clearForm, listAside, loadCase, rawText, saveForm, takeUpLastWords } =
  require('@/store/documents') as typeof import('@/store/documents');
const { readFile } = require('@/core/record/caseFile') as typeof import('@/core/record/caseFile');
/* eslint-enable @typescript-eslint/no-require-imports */

const storage = createAsyncStorage('chromatheca');
const GROUP = 'demo-panels';
const happen = (what: 'pagehide' | 'pageshow') => heard[what]?.forEach((listen) => listen());
const capOf = (b: CaseBundle) => b.case.zones[0]!.groups[0]!.capShare;
const storedCap = async () => {
  const found = await loadCase('demo');
  if (found.is !== 'open') throw new Error(found.is);
  return capOf(found.bundle);
};
let gates: (() => void)[] = [];
/** Holds the next write back until it is let go; a page that is killed before never wrote. */
const slowWrite = () => {
  const write = storage.setMany.bind(storage);
  let go = () => {};
  const gate = new Promise<boolean>((resolve) => {
    go = () => resolve(true);
    gates.push(() => resolve(false));
  });
  jest.spyOn(storage, 'setMany').mockImplementationOnce(async (entries) => {
    if (!(await gate)) throw new Error('killed');
    return write(entries);
  });
  return { go };
};
/** Another page over the same store, with nothing in its memory. */
const nextPage = async () => {
  const held = (await storage.getMany(await storage.getAllKeys())) as Record<string, string>;
  jest.resetModules();
  const docs = jest.requireActual<typeof import('@/store/documents')>('@/store/documents');
  await (
    jest.requireMock('@react-native-async-storage/async-storage') as {
      createAsyncStorage: typeof createAsyncStorage;
    }
  )
    .createAsyncStorage('chromatheca')
    .setMany(held);
  return docs;
};
/** Lets what waits for the store go on. */
const turn = () => new Promise<void>((resolve) => setImmediate(resolve));

beforeEach(async () => {
  happen('pageshow');
  closeSession();
  texts.clear();
  await storage.clear();
  await createCase(displayCase(Date.UTC(2026, 10, 24), 'Europe/Berlin'));
});
afterEach(async () => {
  gates.forEach((kill) => kill());
  gates = [];
  await flush();
  jest.restoreAllMocks();
});

test('a page that leaves with everything stored leaves no words', async () => {
  run(setCap(GROUP, 0.5));
  await flush();
  happen('pagehide');
  expect(texts.size).toBe(0);
});

test('a page that is back before its write ended goes on; what it left is never put over what came after', async () => {
  const { go } = slowWrite();
  run(setCap(GROUP, 0.3));
  happen('pagehide');
  expect(texts.size).toBe(1);
  happen('pageshow');
  go();
  run(setCap(GROUP, 0.6));
  await flush();
  expect(texts.size).toBe(0);
  run(setCap(GROUP, 0.7));
  await flush();
  await takeUpLastWords();
  expect(await storedCap()).toBe(0.7);
  expect(await listAside()).toEqual([]);
});

test('even words that stayed behind are not written over a newer revision', async () => {
  const { go } = slowWrite();
  run(setCap(GROUP, 0.3));
  happen('pagehide');
  const words = [...texts];
  happen('pageshow');
  go();
  run(setCap(GROUP, 0.6));
  await flush();
  // of a page that nobody heard of since
  words.forEach(([k, v]) => texts.set(k, JSON.stringify({ ...JSON.parse(v), as: 'never written' })));
  await takeUpLastWords();
  expect(await storedCap()).toBe(0.6);
  // they are kept, and can be imported
  const [aside] = await listAside();
  const file = readFile((await rawText(aside!.key))!);
  expect(file).toMatchObject({ ok: true, value: { is: 'case', left: [] } });
  expect(file.ok && file.value.is === 'case' && capOf(file.value.bundle)).toBe(0.3);
  expect(texts.size).toBe(0);
});

test('words that were dropped and that a killed browser brings back are no case for the list of what was set aside', async () => {
  // stored after all, and written upon
  const { go } = slowWrite();
  run(setCap(GROUP, 0.3));
  happen('pagehide');
  const stored = [...texts];
  happen('pageshow');
  go();
  run(setCap(GROUP, 0.6));
  await flush();
  // left by a page that came back and changed more before anything was written
  run(setCap(GROUP, 0.35));
  happen('pagehide');
  const contained = [...texts];
  happen('pageshow');
  run(setCap(GROUP, 0.7));
  await flush();
  // taken up by the next start, then written upon
  run(setCap(GROUP, 0.2));
  happen('pagehide');
  const taken = [...texts];
  const next = await nextPage();
  await next.takeUpLastWords();
  await next.saveCase(displayCase(Date.UTC(2026, 10, 24), 'UTC'), null, [await next.revisionOf('demo')]);
  for (const words of [stored, contained, taken]) {
    expect(words).toHaveLength(1);
    words.forEach(([k, v]) => texts.set(k, v));
    await next.takeUpLastWords();
    expect(texts.size).toBe(0);
    expect(await next.listAside()).toEqual([]);
  }
  // what is removed leaves no line behind
  await next.removeCase('demo');
  expect(await next.isFree('demo')).toBe(true);
});

test('words of a page that was killed before its write are written at the next start, once', async () => {
  slowWrite();
  run(setCap(GROUP, 0.3));
  happen('pagehide');
  expect(await storedCap()).toBe(0.8);
  const next = await nextPage();
  await next.takeUpLastWords();
  const found = await next.loadCase('demo');
  expect(found.is === 'open' && capOf(found.bundle)).toBe(0.3);
  expect(texts.size).toBe(0);
  expect(await next.listAside()).toEqual([]);
});

test('words that got through after all are no case for the list of what was set aside', async () => {
  const { go } = slowWrite();
  run(setCap(GROUP, 0.3));
  happen('pagehide');
  const words = [...texts];
  go();
  await flush();
  expect(await storedCap()).toBe(0.3);
  words.forEach(([k, v]) => texts.set(k, v));
  await takeUpLastWords();
  expect(await listAside()).toEqual([]);
  expect(texts.size).toBe(0);
});

test('a form’s last words stay while the store has no room, and go once they or what follows them is written', async () => {
  const key = 'chromatheca/last/form/rock z';
  texts.set(key, '{"x":"44"}');
  jest.spyOn(storage, 'setMany').mockRejectedValueOnce(new Error('exceeded its quota'));
  await takeUpLastWords();
  expect(texts.get(key)).toBe('{"x":"44"}');
  await takeUpLastWords();
  expect(texts.has(key)).toBe(false);
  expect(await storage.getItem('form/rock z')).toBe('{"x":"44"}');
  // a page that came back after all has written something newer
  texts.set(key, '{"x":"44"}');
  expect(await saveForm('rock z', '{"x":"45"}')).toBe(true);
  await takeUpLastWords();
  expect(await storage.getItem('form/rock z')).toBe('{"x":"45"}');
  texts.set(key, '{"x":"44"}');
  expect(await clearForm('rock z')).toBe(true);
  await takeUpLastWords();
  expect(await storage.getItem('form/rock z')).toBeNull();
});

test('words newer than the write under way follow that write as well as what was stored before it', async () => {
  const { go } = slowWrite();
  run(setCap(GROUP, 0.3));
  await turn();
  run(setCap(GROUP, 0.4));
  happen('pagehide');
  const [key, text] = [...texts][0]!;
  const { follows } = JSON.parse(text) as { follows: string[] };
  expect(follows).toHaveLength(2);
  go();
  await flush();
  expect(texts.size).toBe(0);
  expect(await storedCap()).toBe(0.4);
  expect(key).toMatch(/case\/demo\//);
});

test('a case that another tab wrote meanwhile is not overwritten; nor one that was deleted', async () => {
  const before = useSession.getState().bundle!;
  slowWrite();
  run(setCap(GROUP, 0.3));
  happen('pagehide');
  const words = [...texts];
  for (const other of ['written', 'deleted'] as const) {
    texts.clear();
    const next = await nextPage();
    await next.removeCase('demo');
    if (other === 'written')
      await next.saveCase({ ...before, case: { ...before.case, name: 'Other tab' } }, null, [null]);
    words.forEach(([k, v]) => texts.set(k, v));
    await next.takeUpLastWords();
    expect((await next.listAside()).map((a) => a.from)).toEqual(['case/demo']);
    expect((await next.listCases()).map((c) => c.name)).toEqual(other === 'written' ? ['Other tab'] : []);
  }
});

test('a page whose words another page wrote down goes on from there when it comes back', async () => {
  jest.spyOn(storage, 'setMany').mockRejectedValueOnce(new Error('quota'));
  run(setCap(GROUP, 0.3));
  await flush();
  happen('pagehide');
  await takeUpLastWords();
  expect(await storedCap()).toBe(0.3);
  happen('pageshow');
  await flush();
  run(setCap(GROUP, 0.2));
  await flush();
  expect(useSession.getState().save.kind).toBe('saved');
  expect(await storedCap()).toBe(0.2);
});

test('words of an older app, which counted its revisions, are taken up where the count still fits', async () => {
  const bundle = useSession.getState().bundle!;
  const changed = { ...bundle, case: { ...bundle.case, name: 'Last words' } };
  await storage.setItem('revision/demo', '4 some-tab');
  texts.set('chromatheca/last/case/demo', JSON.stringify({ known: 4, tab: 'some-tab', bundle: changed }));
  await takeUpLastWords();
  expect(await openCase('demo')).toMatchObject({ ok: true });
  expect(useSession.getState().bundle!.case.name).toBe('Last words');
  texts.set('chromatheca/last/case/demo', JSON.stringify({ known: 4, tab: 'some-tab', bundle }));
  await takeUpLastWords();
  expect((await listAside()).map((a) => a.from)).toEqual(['case/demo']);
});

test('words that are no words are set aside like anything else', async () => {
  texts.set('chromatheca/last/case/demo/page', 'no JSON');
  texts.set('chromatheca/last/case/other/page', '{"bundle":{"case":null}}');
  await takeUpLastWords();
  expect((await listAside()).map((a) => a.from).sort()).toEqual(['case/demo', 'case/other']);
  expect(texts.size).toBe(0);
});
