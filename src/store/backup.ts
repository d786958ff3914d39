import { createAsyncStorage } from '@react-native-async-storage/async-storage';
import * as v from 'valibot';

import { type CaseBundle, PARTS } from '@/core/record/documents';
import { bad, good, parseObject, type Read } from '@/core/record/read';
import { id, instant, list, text } from '@/core/shape/shape';

import { foundText, readFile } from '@/core/record/caseFile';
import { wholeTexts } from './later';
import { getPhoto, photosOf } from './photos';
import { written } from './write';

const storage = createAsyncStorage('chromatheca');

const FORMAT = 'chromatheca-backup';
const VERSION = 1;
const MANIFEST = 'backup.json';
/** What is no record but a way back within this browser: it is made anew. */
const NOT_KEPT = ['revision/', 'line/', 'undo/', 'parted/'];
const MOST_FILES = 50_000;

const manifestSchema = v.object({
  format: v.literal(FORMAT),
  version: v.literal(VERSION),
  madeUtc: instant,
  /** stored texts, each in a file of its own, under its key */
  texts: list(v.object({ file: text, key: text }), 0, MOST_FILES),
  photos: list(v.object({ file: text, id, caseId: id }), 0, MOST_FILES),
  /** under which names the states of its cases are known: its own first, then those it came from */
  states: list(v.object({ caseId: id, names: list(id, 1) }), 0, MOST_FILES),
});
/** The names under which a case's state, and those it came from, are known. */
export type States = v.InferOutput<typeof manifestSchema>['states'];

/** A name that any file system takes, told apart by its number. */
const fileOf = (key: string, n: number): string => `${key.replace(/[^\w-]+/g, '_').slice(0, 80)}-${n}`;

/** Hears how far something has come, 0..1; throws where it is to stop. */
export type Tell = (share: number) => void;

/** The package for zips, in this thread: files go through it piece by piece, and what packs them is the browser's own. */
async function zips() {
  const zip = await import('@zip.js/zip.js');
  zip.configure({ useWebWorkers: false });
  return zip;
}

/**
 * Everything that this browser keeps of the app, of whatever kind, as one zip: found by looking, not by a list of kinds. Pictures go
 * in one after the other, so that thousands of them take no more memory than one.
 */
export async function writeBackup(madeUtc: string, states: States, tell: Tell): Promise<Blob> {
  const { BlobReader, BlobWriter, TextReader, ZipWriter } = await zips();
  const zip = new ZipWriter(new BlobWriter('application/zip'), { extendedTimestamp: false });
  const keys = (await storage.getAllKeys()).filter((k) => !NOT_KEPT.some((p) => k.startsWith(p))).sort();
  const pictures: { id: string; caseId: string }[] = [];
  for (const caseId of caseIds(keys))
    for (const picture of await photosOf(caseId)) pictures.push({ id: picture, caseId });
  // all of one moment: what is edited meanwhile must not come in with half of what it belongs to
  const found = wholeTexts(await storage.getMany([...keys]));
  const all = keys.length + pictures.length;
  let done = 0;
  const texts: v.InferOutput<typeof manifestSchema>['texts'] = [];
  for (const [n, key] of keys.entries()) {
    tell(done++ / all);
    const stored = found[key];
    if (stored == null) continue;
    const file = `records/${fileOf(key, n)}.json`;
    await zip.add(file, new TextReader(stored));
    texts.push({ file, key });
  }
  const photos: v.InferOutput<typeof manifestSchema>['photos'] = [];
  for (const picture of pictures) {
    tell(done++ / all);
    const blob = await getPhoto(picture.id);
    if (!blob) continue;
    const file = `pictures/${fileOf(picture.id, photos.length)}.jpg`;
    // it is as small as it gets already
    await zip.add(file, new BlobReader(blob), { level: 0 });
    photos.push({ file, ...picture });
  }
  const manifest = { format: FORMAT, version: VERSION, madeUtc, texts, photos, states };
  await zip.add(MANIFEST, new TextReader(JSON.stringify(manifest, null, 1)));
  return zip.close();
}

const caseIds = (keys: readonly string[]): string[] =>
  keys.filter((k) => k.startsWith('case/')).map((k) => k.slice('case/'.length));

/** A case of a backup as it was stored, and as it reads. */
export interface BackedUp {
  id: string;
  bundle: CaseBundle;
  /** by stored key, exactly */
  texts: Readonly<Record<string, string>>;
  /** unpacked one by one, when they are taken */
  photos: { id: string; blob: () => Promise<Blob> }[];
  /** names of its state and of those it came from */
  names: readonly string[];
  /** what could not be read of it and would be left out */
  leftOut: number;
}
export interface BackupContent {
  madeUtc: string;
  cases: BackedUp[];
  /** cases that cannot be read, by id */
  unreadable: string[];
  /** settings, forms, what was set aside: by stored key */
  others: Readonly<Record<string, string>>;
}

/** A backup holds at most so many files, and its records at most so many characters. */
const FILES_MOST = 60_000;
const CHARACTERS_MOST = 200e6;

const TOO_MUCH = 'it holds more than any backup';

/** What a backup holds. Throws where the zip itself cannot be read, or holds more than any backup. */
export async function readBackup(
  from: Blob,
  tell: Tell,
  charactersMost = CHARACTERS_MOST,
): Promise<Read<BackupContent>> {
  const { BlobReader, BlobWriter, ZipReader } = await zips();
  const entries = await new ZipReader(new BlobReader(from)).getEntries();
  if (entries.length > FILES_MOST) throw new Error(TOO_MUCH);
  const files = new Map(entries.flatMap((e) => (e.directory ? [] : [[e.filename, e] as const])));
  let room = charactersMost;
  /** what a zip says of its sizes need not be so: it is counted as it comes */
  const textOf = async (file: string): Promise<string | null> => {
    const entry = files.get(file);
    if (!entry) return null;
    const decoder = new TextDecoder();
    let out = '';
    await entry.getData(
      new WritableStream<Uint8Array>({
        write: (chunk) => {
          room -= chunk.length;
          if (room < 0) throw new Error(TOO_MUCH);
          out += decoder.decode(chunk, { stream: true });
        },
      }),
    );
    return out + decoder.decode();
  };
  const found = await textOf(MANIFEST);
  const parsed = parseObject(found ?? '');
  if (found === null || !parsed.ok || parsed.value.format !== FORMAT)
    return bad('invalid', '', 'this is no Chromatheca backup', 'Choose a zip that Chromatheca made.');
  if (typeof parsed.value.version === 'number' && parsed.value.version > VERSION)
    return bad(
      'newer',
      'version',
      `is ${parsed.value.version}; this app knows versions up to ${VERSION}`,
      'Open it with the newer Chromatheca that made it.',
    );
  const manifest = v.safeParse(manifestSchema, parsed.value);
  if (!manifest.success)
    return bad(
      'invalid',
      'backup.json',
      manifest.issues[0].message,
      'Choose a zip that Chromatheca made, unchanged.',
    );
  const { texts, photos, madeUtc, states } = manifest.output;
  const stored: Record<string, string> = Object.create(null) as Record<string, string>;
  for (const [n, { file, key }] of texts.entries()) {
    tell(n / texts.length);
    const read = NOT_KEPT.some((p) => key.startsWith(p)) ? null : await textOf(file);
    if (read !== null) stored[key] = read;
  }
  const cases: BackedUp[] = [];
  const unreadable: string[] = [];
  const ofCases = new Set<string>();
  for (const caseId of caseIds(Object.keys(stored))) {
    const own = Object.fromEntries(
      PARTS.map((p) => `${p}/${caseId}`).flatMap((k) => (k in stored ? [[k, stored[k]!]] : [])),
    );
    Object.keys(own).forEach((k) => ofCases.add(k));
    const read = readFile(
      foundText(Object.fromEntries(PARTS.map((p) => [p, own[`${p}/${caseId}`] ?? null]))),
    );
    if (!read.ok || read.value.is !== 'case' || read.value.bundle.case.id !== caseId) {
      unreadable.push(caseId);
      continue;
    }
    cases.push({
      ...{ id: caseId, bundle: read.value.bundle, texts: own, leftOut: read.value.left.length },
      names: states.find((x) => x.caseId === caseId)?.names ?? [],
      photos: photos.flatMap((p) => {
        const entry = files.get(p.file);
        return p.caseId === caseId && entry
          ? [{ id: p.id, blob: () => entry.getData(new BlobWriter('image/jpeg')) }]
          : [];
      }),
    });
  }
  const others = Object.fromEntries(Object.entries(stored).filter(([k]) => !ofCases.has(k)));
  return good({ madeUtc, cases, unreadable, others });
}

/** Puts the texts of a case where none of it stands yet, letter by letter. @returns null, or why not */
export async function putTexts(texts: Readonly<Record<string, string>>): Promise<string | null> {
  const keys = Object.keys(texts);
  const done = await written(keys, (now) =>
    keys.some((k) => now[k] !== null) ? { value: false } : { set: texts, value: true },
  );
  return !done.ok ? done.message : done.value ? null : 'It is here already.';
}

/** Puts texts that stand each by itself: those that are here stay, but for what is to be replaced. @returns null, or why not */
export async function putEach(
  texts: Readonly<Record<string, string>>,
  replaced: readonly string[],
): Promise<string | null> {
  const done = await written(Object.keys(texts), (now) => ({
    set: Object.fromEntries(Object.entries(texts).filter(([k]) => now[k] === null || replaced.includes(k))),
    value: null,
  }));
  return done.ok ? null : done.message;
}
