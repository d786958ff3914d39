/** A kind of document that is known in one place, the registry, is carried through everything a document goes through. */
import { createAsyncStorage } from '@react-native-async-storage/async-storage';
import * as v from 'valibot';

import type { DocumentKind } from '@/core/record/documentKind';
import type { CaseBundle } from '@/core/record/documents';
import { displayCase } from '@/demo/lagoon';
import { closeSession, createCase, flush, openCase, run, undo, useSession } from '@/state/session';
import { importFile } from '@/state/importing';

import { listAside, loadCase, removeCase } from './documents';
import { exportText, importText, withId } from '@/core/record/caseFile';

interface Diary {
  format: 'chromatheca-diary';
  version: 2;
  caseId: string;
  pages: { id: string; words: string }[];
}
jest.mock('@/core/record/registry', () => {
  const actual = jest.requireActual<typeof import('@/core/record/registry')>('@/core/record/registry');
  const va = jest.requireActual<typeof v>('valibot');
  const diary: DocumentKind<Diary> = {
    format: 'chromatheca-diary',
    version: 2,
    schema: va.object({
      format: va.literal('chromatheca-diary'),
      version: va.literal(2),
      caseId: va.string(),
      pages: va.array(
        va.object({ id: va.string(), words: va.pipe(va.string(), va.maxLength(5, 'too long')) }),
      ),
    }),
    migrations: [({ leaves, ...doc }) => ({ ...doc, pages: leaves })],
    empty: (caseId) => ({ format: 'chromatheca-diary', version: 2, caseId, pages: [] }),
    idKey: 'caseId',
    lists: { pages: 3 },
    spare: ['pages.*'],
  };
  return { DOCUMENTS: { ...actual.DOCUMENTS, diary } };
});

const storage = createAsyncStorage('chromatheca');
const withDiary = (pages: Diary['pages']): CaseBundle => ({
  ...displayCase(0, 'UTC'),
  ...({ diary: { format: 'chromatheca-diary', version: 2, caseId: 'demo', pages } } as object),
});
const diaryOf = (b: CaseBundle | null) => (b as unknown as { diary: Diary } | null)!.diary;
const write = (...pages: Diary['pages']) =>
  run({ name: 'write', apply: (b) => ({ ...b, diary: { ...diaryOf(b), pages } }) as CaseBundle });
const page = (id: string, words = 'words') => ({ id, words });

beforeEach(async () => {
  closeSession();
  await storage.clear();
  await createCase(withDiary([page('a')]));
});

test('it is saved, loaded, checked by what is new, held to its limit, undone', async () => {
  expect(write(page('a'), page('b', 'much too long'))).toBe(false);
  expect(useSession.getState().refusal).toMatch(/pages\.\d\.words too long/);
  expect(write(page('a'), page('b'), page('c'), page('d'))).toBe(false);
  expect(useSession.getState().refusal).toMatch(/pages at most 3 allowed/);
  expect(write(page('a'), page('b'))).toBe(true);
  await flush();
  await openCase('demo');
  expect(diaryOf(useSession.getState().bundle).pages).toHaveLength(2);
  expect(write(page('c'))).toBe(true);
  undo();
  expect(diaryOf(useSession.getState().bundle).pages).toHaveLength(2);
});

test('it migrates, gives up a bad page alone, is empty where there is none, and goes with its case', async () => {
  await storage.setItem(
    'diary/demo',
    JSON.stringify({
      format: 'chromatheca-diary',
      version: 1,
      caseId: 'demo',
      leaves: [page('a'), page('b', 'far too long')],
    }),
  );
  const found = await loadCase('demo');
  expect(found.is === 'open' && diaryOf(found.bundle).pages).toEqual([page('a')]);
  expect((await listAside()).map((a) => a.from)).toEqual(['diary/demo']);
  await storage.removeItem('diary/demo');
  const bare = await loadCase('demo');
  expect(bare.is === 'open' && diaryOf(bare.bundle).pages).toEqual([]);
  await removeCase('demo');
  expect((await storage.getAllKeys()).filter((k) => k.endsWith('/demo') && !k.startsWith('aside/'))).toEqual(
    [],
  );
});

test('it travels: in the case file, under another id, and by itself into its case', async () => {
  const text = exportText(withDiary([page('a')]));
  const read = importText(text);
  expect(read.ok && diaryOf(read.value).pages).toEqual([page('a')]);
  expect(diaryOf(withId(withDiary([]), 'x', 'X')).caseId).toBe('x');
  const alone = { ...diaryOf(withDiary([page('a'), page('z')])) };
  expect(await importFile(JSON.stringify(alone))).toMatchObject({ ok: true });
  expect(diaryOf(useSession.getState().bundle).pages.map((p) => p.id)).toEqual(['a', 'z']);
});
