import { createAsyncStorage } from '@react-native-async-storage/async-storage';

import { bundleOf, type CaseBundle } from '@/core/record/documents';
import type { LogEvent } from '@/core/record/log';
import { displayCase } from '@/demo/lagoon';

import { readBackup, writeBackup } from './backup';
import { isFree, listAside, loadCase, rawText, removeCase, type Revision, saveCase } from './documents';

const storage = createAsyncStorage('chromatheca');
const event = (n: number, note = 'looked in'): LogEvent => ({
  ...{ id: `e${n}`, zoneId: 'demo-display', atUtc: new Date(Date.UTC(2020, 0, 1, n)).toISOString() },
  ...{ note, kind: 'note' as const },
});
/** The demo with so many entries. */
function kept(count: number): CaseBundle {
  const made = { ...bundleOf(displayCase(Date.UTC(2026, 10, 24), 'Europe/Berlin').case) };
  return { ...made, log: { ...made.log, events: Array.from({ length: count }, (_, n) => event(n)) } };
}
const withEvents = (b: CaseBundle, change: (events: LogEvent[]) => LogEvent[]): CaseBundle => ({
  ...b,
  log: { ...b.log, events: change(b.log.events) },
});
const ids = (events: readonly { id: string }[]) => events.map((e) => e.id);

/** A case that is open, as it is stored. */
let open: { bundle: CaseBundle; revision: Revision };
async function save(bundle: CaseBundle, before: CaseBundle | null = open.bundle) {
  const saved = await saveCase(bundle, before, [before ? open.revision : null]);
  if (saved.is !== 'saved') throw new Error(saved.is);
  open = { bundle, revision: saved.revision };
}
const add = (...events: LogEvent[]) => save(withEvents(open.bundle, (now) => [...now, ...events]));
async function load() {
  const found = await loadCase('demo');
  if (found.is !== 'open') throw new Error(found.is);
  open = found;
  return found.bundle.log.events;
}
const log = async () => (await storage.getItem('log/demo'))!;
const later = () => storage.getItem('later/demo');

beforeEach(async () => {
  await storage.clear();
  await save(kept(1200), null);
});

test('an entry more leaves a long log as it is stored; many of them, and any other change, make one text of it', async () => {
  const whole = await log();
  await add(event(1200));
  await add(event(1201), event(1202));
  expect(await log()).toBe(whole);
  expect(ids(JSON.parse((await later())!))).toEqual(['e1200', 'e1201', 'e1202']);
  const { events } = open.bundle.log;
  expect(await load()).toEqual(events);
  // after opening it goes on
  await add(event(1203));
  expect(await log()).toBe(whole);
  // another document does not touch it
  await save({ ...open.bundle, case: { ...open.bundle.case, name: 'Renamed' } });
  expect(ids(JSON.parse((await later())!))).toHaveLength(4);
  await save(withEvents(open.bundle, (now) => now.filter((e) => e.id !== 'e1201')));
  expect(await later()).toBeNull();
  expect(JSON.parse(await log())).toEqual(open.bundle.log);
  await add(event(1300));
  await save(withEvents(open.bundle, (now) => now.map((e) => (e.id === 'e7' ? event(7, 'mended') : e))));
  expect(await later()).toBeNull();
  expect(await load()).toEqual(open.bundle.log.events);
  await add(...Array.from({ length: 200 }, (_, n) => event(2000 + n)));
  expect(JSON.parse((await later())!)).toHaveLength(200);
  await add(event(3000));
  expect(await later()).toBeNull();
  expect(JSON.parse(await log()).events).toHaveLength(open.bundle.log.events.length);
  expect(await load()).toEqual(open.bundle.log.events);
});

test('a short log is one text, and so is one that an older version wrote', async () => {
  await storage.clear();
  await save(kept(30), null);
  await add(event(30));
  expect(await later()).toBeNull();
  expect(JSON.parse(await log()).events).toHaveLength(31);

  await save(kept(1200));
  const { events, ...rest } = JSON.parse(await log());
  await storage.setItem('log/demo', JSON.stringify({ ...rest, version: 1, events }));
  await load();
  await add(event(1200));
  expect(await later()).toBeNull();
  expect(JSON.parse(await log())).toMatchObject({ version: 2, events: { length: 1201 } });
  // now it is of this one
  await add(event(1201));
  expect(ids(JSON.parse((await later())!))).toEqual(['e1201']);
});

test('an app that knows nothing of it may write meanwhile: all entries are there, each once', async () => {
  await add(event(1200), event(1201));
  const { events, ...rest } = JSON.parse(await log());
  await storage.setItem(
    'log/demo',
    JSON.stringify({ ...rest, events: [...events, event(1201), event(1500)] }),
  );
  expect(ids(await load()).slice(-3)).toEqual(['e1201', 'e1500', 'e1200']);
  await storage.removeItem('log/demo');
  expect(ids(await load())).toEqual(['e1200', 'e1201']);
});

test.each([
  ['{', /entries of the log/],
  ['{"id":"e1"}', /entries of the log/],
  ['null', /entries of the log/],
])('%s in its place is set aside, and the log opens', async (text, what) => {
  await storage.setItem('later/demo', text);
  expect(await load()).toHaveLength(1200);
  const [aside, ...others] = await listAside();
  expect(others).toEqual([]);
  expect(aside!.what).toMatch(what);
  expect(await rawText(aside!.key)).toBe(text);
  expect(await later()).toBeNull();
  expect(await load()).toHaveLength(1200);
  expect(await listAside()).toHaveLength(1);
});

test('one bad entry of it is set aside alone; a log that cannot be read costs none of them', async () => {
  await storage.setItem('later/demo', JSON.stringify([event(1200), { ...event(1201), atUtc: 'soon' }, 7]));
  expect(ids(await load()).slice(-2)).toEqual(['e1199', 'e1200']);
  expect((await listAside()).map((a) => a.what)).toEqual(['2 entries of the log']);
  expect(await later()).toBeNull();
  expect(await load()).toHaveLength(1201);

  await add(event(1202));
  await storage.setItem('log/demo', 'no JSON');
  expect(ids(await load())).toEqual(['e1202']);
  expect((await listAside()).map((a) => a.from)).toEqual(['log/demo', 'log/demo']);
  expect(ids(await load())).toEqual(['e1202']);

  // neither: both are kept as they were found
  await storage.setMany({ 'log/demo': '[]', 'later/demo': '[{"id":"e1"}]' });
  expect(await load()).toEqual([]);
  expect(
    (await listAside())
      .map((a) => a.from)
      .sort()
      .slice(0, 2),
  ).toEqual(['later/demo', 'log/demo']);
});

test('a case that cannot be read takes all of it along; one that is deleted leaves nothing', async () => {
  await add(event(1200));
  await storage.setItem('case/demo', '{}');
  expect((await loadCase('demo')).is).toBe('unreadable');
  const text = (await rawText((await listAside())[0]!.key))!;
  expect(JSON.parse(text).log.events).toHaveLength(1201);
  expect(await isFree('demo')).toBe(true);

  await save(kept(1200), null);
  await add(event(1200));
  await storage.removeMany(['case/demo', 'revision/demo', 'history/demo', 'readings/demo', 'log/demo']);
  expect(await isFree('demo')).toBe(false);
  expect((await saveCase(kept(3), null, [null])).is).toBe('overtaken');
  expect((await removeCase('demo')).ok).toBe(true);
  expect(await isFree('demo')).toBe(true);
});

test('a backup holds one log', async () => {
  await add(event(1200));
  const backup = await readBackup(
    await writeBackup('2026-11-24T12:00:00.000Z', [], () => undefined),
    () => undefined,
  );
  if (!backup.ok) throw new Error(backup.problem.problem);
  const { cases, others } = backup.value;
  expect(cases[0]!.bundle.log.events).toHaveLength(1201);
  expect(cases[0]!.texts['log/demo']).toBe(JSON.stringify(open.bundle.log));
  expect(Object.keys(others)).toEqual([]);
});
