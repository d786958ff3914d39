import { createAsyncStorage } from '@react-native-async-storage/async-storage';
import { BlobReader, BlobWriter, TextReader, TextWriter, ZipReader, ZipWriter } from '@zip.js/zip.js';

import { demoCase } from '@/demo/lagoon';
import { readBackup } from '@/store/backup';
import { loadCase } from '@/store/documents';

import { makeBackup, openBackup, partOpenCase, standingOf, takeCase, takeOthers } from './backup';
import { exportOpenCase } from './boot';
import { importFile } from './importing';
import { closeSession, createCase, flush, openCase, run, undo, useSession } from './session';
import { setZone } from './commands/waters';
import { setEvent } from './commands/log';
import { changeSettings, settleSettings } from './settings';

const storage = createAsyncStorage('chromatheca');
const NOW = Date.parse('2026-11-24T12:00:00Z');
const bundle = demoCase(NOW, 'UTC');
const zoneId = bundle.case.zones[0]!.id;
const open = () => useSession.getState().bundle!;
const note = (id: string, words: string) =>
  setEvent({ id, zoneId, atUtc: '2026-11-20T12:00:00.000Z', kind: 'note', note: words } as never, 'note');
const stored = async () => {
  const keys = (await storage.getAllKeys()).filter((k) => !/^(revision|line|undo|parted)\//.test(k));
  return await storage.getMany(keys);
};
/** What is owed of settings is written now, and has come through. */
const settled = async () => {
  settleSettings();
  for (let i = 0; i < 10; i += 1) await new Promise<void>((resolve) => setImmediate(resolve));
};
const fresh = async () => {
  closeSession();
  await settled();
  await storage.clear();
};

beforeEach(async () => {
  await fresh();
  await createCase(bundle);
  await flush();
});

test('a restore in an empty browser gives the same documents, letter by letter, and whatever else was kept', async () => {
  await storage.setItem('form/some sheet', '{"typed":"half a word"}');
  await storage.setItem(
    'aside/2026-01-01T00:00:00.000Z/case/old',
    '{"from":"case/old","text":"{","what":"the case"}',
  );
  // a kind of record that nobody has thought of yet
  await storage.setItem('tomorrow/1', '{"format":"chromatheca-tomorrow"}');
  changeSettings({ fish: false });
  await flush();
  const { name, blob } = await makeBackup();
  expect(name).toMatch(/^chromatheca-backup-\d{4}-\d\d-\d\d\.zip$/);
  const before = await stored();
  await fresh();
  const content = await openBackup(blob);
  if (!content.ok) throw new Error(content.problem.problem);
  const [backed] = content.value.cases;
  expect(await standingOf(backed!)).toEqual({ here: false, same: false });
  expect(await takeCase(backed!, 'bring')).toBe('Reading-room lagoon is back.');
  expect(await takeOthers(content.value, false)).toBeNull();
  const { settings: _, ...documents } = before;
  expect(await storage.getMany(Object.keys(documents))).toEqual(documents);
  expect((await loadCase('demo')).is).toBe('open');
  expect(await standingOf(backed!)).toEqual({ here: true, same: true });
  // twice over changes nothing
  expect(await takeCase(backed!, 'bring')).toMatch(/It is here already\. Nothing of it was changed\./);
});

test('what is no case is put piece by piece: what is here stays, settings only where they are asked for', async () => {
  await storage.setMany({
    'form/a': '{"typed":"theirs"}',
    'form/b': '{"typed":"b"}',
    settings: '{"theirs":1}',
  });
  const { blob } = await makeBackup();
  // that one was made is a setting too
  await settled();
  const content = await openBackup(blob);
  if (!content.ok) throw new Error();
  await storage.setMany({ 'form/a': '{"typed":"mine"}', settings: '{"mine":1}' });
  await storage.removeItem('form/b');
  expect(await takeOthers(content.value, false)).toBeNull();
  expect(await storage.getMany(['form/a', 'form/b', 'settings'])).toEqual({
    'form/a': '{"typed":"mine"}',
    'form/b': '{"typed":"b"}',
    settings: '{"mine":1}',
  });
  expect(await takeOthers(content.value, true)).toBeNull();
  expect(await storage.getItem('settings')).toBe('{"theirs":1}');
});

test('a backup is of one moment: what is stored while it is being made is in the next one', async () => {
  const before = (await storage.getItem('log/demo'))!;
  const late = JSON.stringify({ ...JSON.parse(before), events: [] });
  const { blob } = await makeBackup((share) => {
    if (share === 0) void storage.setItem('log/demo', late);
  });
  expect(await storage.getItem('log/demo')).toBe(late);
  const read = await openBackup(blob);
  expect(read.ok && read.value.cases[0]!.texts['log/demo']).toBe(before);
});

test('two devices: what each changed since they parted is there, what both changed stays and is named, undo takes it back', async () => {
  const { blob } = await makeBackup();
  // the other device takes it, changes it, and sends it back
  run(note('theirs', 'from the other device'));
  run(setZone(zoneId, { rippleSlope: 0.1, name: 'Their display' }));
  await flush();
  const { blob: back } = await makeBackup();
  await fresh();
  const first = await openBackup(blob);
  if (!first.ok) throw new Error();
  await takeCase(first.value.cases[0]!, 'bring');
  await openCase('demo');
  run(note('ours', 'from this one'));
  run(setZone(zoneId, { name: 'Our display' }));
  await flush();
  // what is backed up meanwhile is nothing that the other device has seen
  await makeBackup();
  const read = await openBackup(back);
  if (!read.ok) throw new Error();
  const words = await takeCase(read.value.cases[0]!, 'merge');
  expect(words).toBe(
    'Reading-room lagoon: 2 changes taken over. Changed on both, kept as it is here: Our display: name.',
  );
  const zone = open().case.zones[0]!;
  expect([zone.name, zone.rippleSlope]).toEqual(['Our display', 0.1]);
  expect(
    open()
      .log.events.flatMap((e) => (e.kind === 'note' ? [e.id] : []))
      .sort(),
  ).toEqual(['ours', 'theirs']);
  // again there is nothing new
  expect(await takeCase(read.value.cases[0]!, 'merge')).toMatch(/nothing new in it/);
  undo();
  expect(open().log.events.flatMap((e) => (e.kind === 'note' ? [e.id] : []))).toEqual(['ours']);
});

/** The open case as its file goes out to another device. */
const givenOut = async () => exportOpenCase(await partOpenCase())!.text;
const asked = async (file: string) => {
  const { asks, say } = await importFile(file);
  if (!asks) throw new Error(say);
  return asks;
};

test('a case file that comes back is asked about, and merges by what changed since the two parted', async () => {
  const out = await givenOut();
  // given out again unchanged it is the same state
  expect(await givenOut()).toBe(out);
  run(setEvent({ ...bundle.log.events[0]!, note: 'told there' } as never, 'note'));
  run(setZone(zoneId, { rippleSlope: 0.1, name: 'Their display' }));
  await flush();
  const back = await givenOut();
  await fresh();
  expect(await importFile(out)).toEqual({ ok: true, say: 'Imported Reading-room lagoon.' });
  expect(await importFile(out)).toEqual({
    ok: true,
    say: 'Reading-room lagoon is here already, just as in the file: nothing was changed.',
  });
  run(setZone(zoneId, { name: 'Our display' }));
  await flush();
  const asks = await asked(back);
  expect(open().case.zones[0]!.name).toBe('Our display');
  expect(await takeCase(asks, 'merge')).toBe(
    'Reading-room lagoon: 2 changes taken over. Changed on both, kept as it is here: Our display: name.',
  );
  expect(open().case.zones[0]).toMatchObject({ name: 'Our display', rippleSlope: 0.1 });
  expect(open().log.events[0]!.note).toBe('told there');
  expect(open().log.events).toHaveLength(bundle.log.events.length);
  undo();
  expect(open().log.events[0]!.note).toBe(bundle.log.events[0]!.note);
});

test('what could not be read of a case file does not count as removed there', async () => {
  const out = await givenOut();
  const file = JSON.parse(out);
  file.log.events[0].atUtc = 'yesterday';
  file.case.zones[0].name = 'Their display';
  const { asks, say } = await importFile(JSON.stringify(file));
  expect(say).toMatch(/^One entry could not be read and was left out: log\.events\.0\.atUtc/);
  expect(await takeCase(asks!, 'merge')).toMatch(/nothing new in it/);
  expect(open().log.events).toEqual(bundle.log.events);
});

test('a case file is put in place of what is here, or stands beside it; names of states that are none are let go of', async () => {
  run(setZone(zoneId, { name: 'Their display' }));
  await flush();
  const theirs = (await givenOut()).replace(/"states": \[[^\]]*\]/, '"states": [7, "", "x"]');
  undo();
  await flush();
  const asks = await asked(theirs);
  expect(asks.names).toEqual(['x']);
  expect(await takeCase(asks, 'merge')).toMatch(/Otherwise there, kept as it is here: \S+: name\./);
  expect(await takeCase(asks, 'beside')).toBe('Imported Reading-room lagoon (imported).');
  expect(open().case.id).not.toBe('demo');
  expect(open().case.zones[0]!.name).toBe('Their display');
  expect(await takeCase(asks, 'replace')).toMatch(/is as it was there; undo brings back what was here/);
  expect(open().case.id).toBe('demo');
  expect(open().case.zones[0]!.name).toBe('Their display');
  undo();
  expect(open().case.zones[0]!.name).toBe(bundle.case.zones[0]!.name);
});

test('what was removed on one device stays removed, and a case is put in place of another with a way back', async () => {
  run(note('gone', 'to be removed there'));
  await flush();
  const { blob } = await makeBackup();
  const before = open();
  run({
    name: 'remove',
    apply: (b) => ({ ...b, log: { ...b.log, events: b.log.events.filter((e) => e.id !== 'gone') } }),
  });
  await flush();
  const read = await openBackup(blob);
  if (!read.ok) throw new Error();
  expect(await takeCase(read.value.cases[0]!, 'merge')).toMatch(/nothing new in it/);
  expect(open().log.events.some((e) => e.id === 'gone')).toBe(false);
  expect(await takeCase(read.value.cases[0]!, 'replace')).toMatch(/undo brings back what was here/);
  expect(open().log).toEqual(before.log);
  undo();
  expect(open().log.events.some((e) => e.id === 'gone')).toBe(false);
});

test('what is no backup, a newer one, a cut one: refused in words', async () => {
  const say = async (blob: Blob) => {
    const read = await openBackup(blob);
    return read.ok ? 'taken' : read.problem.problem;
  };
  expect(await say(new Blob(['no zip']))).toMatch(/^it could not be unpacked/);
  expect(await say(await zip({ 'other.json': '{}' }))).toBe('this is no Chromatheca backup');
  expect(await say(await zip({ 'backup.json': '{"format":"chromatheca-backup","version":2}' }))).toMatch(
    /^is 2; this app knows/,
  );
  expect(await say(await zip({ 'backup.json': '{"format":"chromatheca-backup","version":1}' }))).not.toBe(
    'taken',
  );
  const { blob } = await makeBackup();
  expect(await say(blob.slice(0, blob.size - 200))).toMatch(/^it could not be unpacked/);
  // a case that cannot be read is told, the rest is there
  const files = await textsOf(blob);
  const broken = Object.keys(files).find((f) => f.startsWith('records/case_demo'))!;
  const read = await openBackup(await zip({ ...files, [broken]: '{' }));
  expect(read.ok && read.value.unreadable).toEqual(['demo']);
});

test('a zip that unpacks to more than is let in is let go of as it comes, and one that is stopped stops', async () => {
  const { blob } = await makeBackup();
  await expect(readBackup(blob, () => undefined, 1000)).rejects.toThrow('it holds more than any backup');
  const halt = new AbortController();
  const shares: number[] = [];
  const stopped = openBackup(
    blob,
    (share) => {
      shares.push(share);
      if (share > 0) halt.abort();
    },
    halt.signal,
  );
  await expect(stopped).rejects.toThrow(/abort/i);
  expect(shares).toHaveLength(2);
  const all: number[] = [];
  await makeBackup((share) => all.push(share));
  expect(all).toEqual([...all].sort((a, b) => a - b));
  await expect(makeBackup(undefined, AbortSignal.abort())).rejects.toThrow(/abort/i);
});

async function zip(files: Record<string, string>): Promise<Blob> {
  const made = new ZipWriter(new BlobWriter());
  for (const [name, text] of Object.entries(files)) await made.add(name, new TextReader(text));
  return made.close();
}
async function textsOf(from: Blob): Promise<Record<string, string>> {
  const out: Record<string, string> = {};
  for (const entry of await new ZipReader(new BlobReader(from)).getEntries())
    if (!entry.directory) out[entry.filename] = await entry.getData(new TextWriter());
  return out;
}
