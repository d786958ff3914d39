import { createAsyncStorage } from '@react-native-async-storage/async-storage';

import { type CaseBundle, kindOfPart, type Part, PARTS } from '@/core/record/documents';
import { type LeftOut, readDocument } from '@/core/record/documentKind';
import { good, type Loose, parseObject, type Problem, problemLine, validated } from '@/core/record/read';
import type { Change, Texts } from '@/store/transact';

import { foundText, readFile } from '@/core/record/caseFile';
import { laterKey, laterOf, MOST_LATER, putBehind, wholeTexts, withLater } from './later';
import { dropWords, leaveWords, wordsLeft } from './lastWords';
import { DEFAULT_SETTINGS, type Settings, SETTINGS_VERSION, settingsSchema } from './settings';
import { type Refusal, type Written, written } from './write';

const storage = createAsyncStorage('chromatheca');

/** Texts of keys; of none without a way to the store. */
const textsOf = async (keys: string[]): Promise<Texts> => (keys.length > 0 ? storage.getMany(keys) : {});

const keyOf = (part: Part, caseId: string) => `${part}/${caseId}`;
const keysOf = (caseId: string) => [...PARTS.map((p) => keyOf(p, caseId)), laterKey(caseId)];
/** Logs as they are known to be stored in this version's words: entries may be put behind them. */
const standing = new WeakSet<object>();
const revisionKey = (caseId: string) => `revision/${caseId}`;
/** Names of the latest states that what is stored came of. */
const lineKey = (caseId: string) => `line/${caseId}`;
const LONGEST_LINE = 40;
const lineOf = (text: string | null | undefined): string[] => {
  try {
    const line: unknown = JSON.parse(text ?? '[]');
    return Array.isArray(line) ? line.filter((x) => typeof x === 'string') : [];
  } catch {
    return [];
  }
};
const ASIDE = 'aside/';
const SETTINGS = 'settings';

/**
 * Names a state of a stored case. Every write makes a new one and says which it follows, so that a case that was deleted and made
 * anew, or written by another tab, is never taken for the one that is open here.
 */
export type Revision = string;
/** What is stored before it has ever been written by this version. */
const UNNAMED: Revision = '';
export const newRevision = (): Revision => globalThis.crypto.randomUUID();

/** What the store holds, for the list of cases. */
export interface CaseListing {
  id: string;
  name: string;
  demo: boolean;
  /** a document of a newer version, left untouched */
  newer: boolean;
}

export interface AsideListing {
  key: string;
  /** key it was found under */
  from: string;
  /** what it is, in words: "2 entries of the log" */
  what: string;
  reason: string;
}

export type Loaded =
  | { is: 'open'; bundle: CaseBundle; revision: Revision }
  | { is: 'missing' }
  /** it was moved out of the way, unchanged; or stays where it is when there is no room for that */
  | { is: 'unreadable'; reason: string }
  | { is: 'newer'; problem: Problem };

const asideEntry = (
  from: string,
  what: string,
  reason: string,
  text: string,
  n = 0,
): Record<string, string> => ({
  [`${ASIDE}${new Date().toISOString()}${n === 0 ? '' : `-${n}`}/${from}`]: JSON.stringify({
    from,
    what,
    reason,
    text,
  }),
});

/** Some of a document, in words. */
const someOf = (count: number, of: string, part: Part): string =>
  `${count} ${count === 1 ? of : of.replace(/y$/, 'ie') + 's'} of the ${part}`;

/** Why something could not be read, in the words of a list of such things. */
const reasonOf = (problems: readonly { path: string; problem: string }[]): string =>
  [
    ...problems.slice(0, 3).map((p) => [p.path, p.problem].filter(Boolean).join(': ')),
    ...(problems.length > 3 ? [`and ${problems.length - 3} more`] : []),
  ].join('; ');

type Readout =
  | { is: 'newer'; problem: Problem }
  | { is: 'broken'; problem: Problem }
  | { is: 'read'; bundle: CaseBundle; aside: Record<string, string>; repaired: Part[] };

/** A case from its stored texts. What cannot be read of it is put aside; only without the case itself there is none. */
function readTexts(caseId: string, texts: Texts): Readout {
  const parts: [Part, object][] = [];
  const repaired: Part[] = [];
  let aside: Record<string, string> = {};
  for (const part of PARTS) {
    const kind = kindOfPart(part);
    const text = texts[keyOf(part, caseId)] ?? null;
    const without = kind.empty?.(caseId) ?? null;
    const own = part === 'log' ? texts[laterKey(caseId)] : null;
    const later = laterOf(own);
    if (text === null && without !== null && later?.length === 0) {
      parts.push([part, without]);
      continue;
    }
    const left: LeftOut[] = [];
    const parsed = text === null && without !== null ? good(without as Loose) : parseObject(text ?? '');
    const read = parsed.ok
      ? readDocument(kind, withLater(parsed.value, later ?? []), {
          prefix: part,
          caseId,
          repair: (l) => left.push(l),
        })
      : parsed;
    if (read.ok) {
      parts.push([part, read.value]);
      if (left.length === 0 && later !== null) {
        if (parsed.ok && parsed.value.version === kind.version) standing.add(read.value);
        continue;
      }
      repaired.push(part);
      if (later === null)
        aside = {
          ...aside,
          ...asideEntry(laterKey(caseId), `entries of the ${part}`, 'it is no list', own!),
        };
      if (left.length === 0) continue;
      // lists of entries give up the entries alone; a case is kept as it was found, whole
      const entries = left.every((l) => l.list in kind.lists && /^\w+\.\d+$/.test(l.at));
      const kept = entries ? JSON.stringify({ ...(kind.empty!(caseId) as object), ...byList(left) }) : text!;
      const what = someOf(left.length, entries ? 'entry' : 'part', part);
      aside = { ...aside, ...asideEntry(keyOf(part, caseId), what, reasonOf(left), kept, repaired.length) };
      continue;
    }
    if (read.problem.kind === 'newer') return { is: 'newer', problem: read.problem };
    if (without === null) return { is: 'broken', problem: read.problem };
    repaired.push(part);
    // what stands by itself may be read all the same
    const behind = readDocument(kind, withLater(without as Loose, later ?? []), { prefix: part, caseId });
    parts.push([part, behind.ok ? behind.value : without]);
    aside = {
      ...aside,
      ...asideEntry(keyOf(part, caseId), `the ${part}`, problemLine(read.problem), text!, repaired.length),
      ...(later === null || !behind.ok
        ? asideEntry(laterKey(caseId), `entries of the ${part}`, 'they cannot be read', own!)
        : {}),
    };
  }
  return { is: 'read', bundle: Object.fromEntries(parts) as unknown as CaseBundle, aside, repaired };
}

const byList = (left: readonly LeftOut[]): Record<string, unknown[]> => {
  const out: Record<string, unknown[]> = {};
  for (const l of left) (out[l.list] ??= []).unshift(l.item);
  return out;
};

/** Under which revision a case is stored; null = it is not. */
export const revisionOf = (caseId: string): Promise<Revision | null> => storage.getItem(revisionKey(caseId));

/** Loads a case. What cannot be read of it is set aside, unchanged, in the same transaction that keeps the rest. */
export async function loadCase(caseId: string): Promise<Loaded> {
  const keys = keysOf(caseId);
  const texts = await storage.getMany([...keys, revisionKey(caseId)]);
  const revision = texts[revisionKey(caseId)] ?? UNNAMED;
  if (texts[keyOf('case', caseId)] === null) return { is: 'missing' };
  const read = readTexts(caseId, texts);
  if (read.is === 'newer') return { is: 'newer', problem: read.problem };
  if (read.is === 'broken') {
    const reason = problemLine(read.problem);
    const whole = wholeTexts(texts);
    const found = foundText(Object.fromEntries(PARTS.map((p) => [p, whole[keyOf(p, caseId)]])));
    await written([], () => ({
      set: asideEntry(keyOf('case', caseId), 'the case', reason, found),
      remove: [...keys, revisionKey(caseId), lineKey(caseId)],
      value: null,
    }));
    return { is: 'unreadable', reason };
  }
  const { bundle, aside, repaired } = read;
  if (repaired.length === 0) return { is: 'open', bundle, revision };
  const next = newRevision();
  const kept = await written([revisionKey(caseId)], (now) =>
    (now[revisionKey(caseId)] ?? UNNAMED) === revision
      ? {
          set: {
            ...aside,
            ...Object.fromEntries(repaired.map((p) => [keyOf(p, caseId), JSON.stringify(bundle[p])])),
            [revisionKey(caseId)]: next,
          },
          remove: repaired.includes('log') ? [laterKey(caseId)] : [],
          value: next,
        }
      : { value: revision },
  );
  // without room for that everything stays as it was found, and is opened all the same
  return { is: 'open', bundle, revision: kept.ok ? kept.value : revision };
}

export type Saved =
  | { is: 'saved'; revision: Revision }
  /** another tab has written, deleted or replaced it since */
  | { is: 'overtaken' }
  | ({ is: 'refused' } & Omit<Refusal, 'ok'>);

/** What a write may be put on top of: a revision, or null where nothing of the case may be stored yet. */
export type Follows = readonly (Revision | null)[];

/**
 * Writes the changed parts of a case and its new revision in one transaction, on top of what it may follow only.
 * @param before what is stored, so that only what differs is written; null = everything is
 * @param undo its way back, written with it; where there is no room for that, it goes without any
 */
export async function saveCase(
  bundle: CaseBundle,
  before: CaseBundle | null,
  follows: Follows,
  revision: Revision = newRevision(),
  undo: string | null = null,
): Promise<Saved> {
  const { id } = bundle.case;
  const changed = PARTS.filter((p) => bundle[p] !== before?.[p]);
  const behind = before && standing.has(before.log) ? putBehind(before.log, bundle.log) : null;
  // ten years of records are looked at only where none may be there
  const looked = follows.includes(null) ? keysOf(id) : [keyOf('case', id)];
  const result = await written(
    [revisionKey(id), lineKey(id), laterKey(id), ...looked],
    (now) => {
      const there = now[keyOf('case', id)] !== null;
      const stored = there ? (now[revisionKey(id)] ?? UNNAMED) : null;
      const free = there || Object.entries(now).every(([key, text]) => text === null || key === lineKey(id));
      // whatever it may follow it contains, stored or not
      const line = [...(there ? lineOf(now[lineKey(id)]) : []), ...follows.filter((f) => f !== null)];
      if (!free || !follows.includes(stored)) return { value: false };
      const later = [...(laterOf(now[laterKey(id)]) ?? []), ...(behind ?? [])];
      const whole = behind !== null && later.length > MOST_LATER;
      return {
        set: {
          ...(whole ? { [keyOf('log', id)]: JSON.stringify(bundle.log) } : {}),
          ...(behind && !whole ? { [laterKey(id)]: JSON.stringify(later) } : {}),
          [revisionKey(id)]: revision,
          [lineKey(id)]: JSON.stringify([...new Set(line)].slice(-LONGEST_LINE)),
          ...(undo === null ? {} : { [undoKey(id)]: undo }),
        },
        remove: [
          ...(undo === null ? [undoKey(id)] : []),
          ...(whole || (changed.includes('log') && !behind) ? [laterKey(id)] : []),
        ],
        value: true,
      };
    },
    () =>
      Object.fromEntries(
        changed.flatMap((p) => (p === 'log' && behind ? [] : [[keyOf(p, id), JSON.stringify(bundle[p])]])),
      ),
  );
  if (!result.ok && result.full && undo !== null) return saveCase(bundle, before, follows, revision);
  if (!result.ok) return { is: 'refused', full: result.full, message: result.message };
  if (result.value && changed.includes('log')) standing.add(bundle.log);
  return result.value ? { is: 'saved', revision } : { is: 'overtaken' };
}

/** True when nothing of a case of this id is stored. */
export async function isFree(caseId: string): Promise<boolean> {
  const texts = await storage.getMany([...keysOf(caseId), revisionKey(caseId)]);
  return Object.values(texts).every((text) => text === null || text === undefined);
}

export const removeCase = (caseId: string): Promise<Written<null>> =>
  written([], () => ({
    remove: [...keysOf(caseId), revisionKey(caseId), lineKey(caseId), undoKey(caseId)],
    value: null,
  }));

/** All cases, the demo last. Names come from the documents without validating them whole. */
export async function listCases(): Promise<CaseListing[]> {
  const prefix = keyOf('case', '');
  const keys = (await storage.getAllKeys()).filter((k) => k.startsWith(prefix));
  const texts = await textsOf(keys);
  const listings = keys.map((key): CaseListing => {
    const read = parseObject(texts[key] ?? '');
    const id = key.slice(prefix.length);
    // unreadable: it is set aside when it is opened or at the start
    if (!read.ok) return { id, name: 'unreadable case', demo: false, newer: false };
    const { name, demo, version } = read.value;
    return {
      id,
      name: typeof name === 'string' ? name : 'unnamed',
      demo: demo === true,
      newer: typeof version === 'number' && version > kindOfPart('case').version,
    };
  });
  return listings.sort((a, b) => Number(a.demo) - Number(b.demo) || a.name.localeCompare(b.name));
}

/** What was set aside, as it says itself; what cannot even be read as that stands there under its key. */
const asideOf = (text: string | null): (Omit<AsideListing, 'key'> & { text: string }) | null => {
  const read = parseObject(text ?? '');
  if (!read.ok) return null;
  const { from, what, reason, text: inner } = read.value;
  return typeof from === 'string' && typeof inner === 'string'
    ? {
        from,
        what: typeof what === 'string' ? what : from,
        reason: typeof reason === 'string' ? reason : 'unknown',
        text: inner,
      }
    : null;
};

export async function listAside(): Promise<AsideListing[]> {
  const keys = (await storage.getAllKeys()).filter((k) => k.startsWith(ASIDE)).sort();
  const texts = await textsOf(keys);
  return keys.map((key) => {
    const { from, what, reason } = asideOf(texts[key] ?? null) ?? { from: key, what: key, reason: 'unknown' };
    return { key, from, what, reason };
  });
}

/** The untouched text of a document that was set aside, or of any stored document. */
export async function rawText(key: string): Promise<string | null> {
  const text = await storage.getItem(key);
  return key.startsWith(ASIDE) ? (asideOf(text)?.text ?? text) : text;
}

export const forgetAside = (key: string): Promise<void> => storage.removeItem(key);

/** Settings written by a newer app are left as they are; this session then keeps its own in memory. */
let settingsAreNewer = false;

export async function loadSettings(): Promise<Settings> {
  const text = await storage.getItem(SETTINGS);
  if (text === null) return DEFAULT_SETTINGS;
  const parsed = parseObject(text);
  const read = parsed.ok ? validated(settingsSchema, parsed.value, SETTINGS_VERSION) : parsed;
  if (read.ok) return read.value as Settings;
  if (read.problem.kind === 'newer') settingsAreNewer = true;
  else
    await written([], () => ({
      set: asideEntry(SETTINGS, 'the settings of this device', problemLine(read.problem), text),
      remove: [SETTINGS],
      value: null,
    }));
  return DEFAULT_SETTINGS;
}

/** Writes what was changed onto what is stored: another tab's choices of other things stay. */
export async function saveSettings(change: Partial<Settings>): Promise<void> {
  if (settingsAreNewer) return;
  await written([SETTINGS], (now) => {
    const stored = parseObject(now[SETTINGS] ?? '');
    return {
      set: {
        [SETTINGS]: JSON.stringify({ ...DEFAULT_SETTINGS, ...(stored.ok ? stored.value : {}), ...change }),
      },
      value: null,
    };
  });
}

/** What a closing page could not write any more. */
export interface LastWords {
  follows: Follows;
  /** the revision they are, or would be: where it is stored already, they got through */
  as: Revision;
  bundle: CaseBundle;
}

/** What leads back from a case, see `undo`. */
export const undoKey = (caseId: string) => `undo/${caseId}`;

/** Names this page among all that leave words. */
const PAGE = globalThis.crypto.randomUUID();
const wordsKey = (caseId: string) => `case/${caseId}/${PAGE}`;

export const leaveCase = (words: LastWords): void =>
  leaveWords(wordsKey(words.bundle.case.id), JSON.stringify(words));
export const dropCase = (caseId: string): void => dropWords(wordsKey(caseId));

/**
 * Writes what closing pages left behind, on top of the revision it follows and of no other: a bundle that was overtaken is set
 * aside instead. Without room the words stay where they are.
 */
export async function takeUpLastWords(): Promise<void> {
  for (const [key, text] of Object.entries(wordsLeft())) {
    if (key.startsWith('form/') && !(await saveForm(key.slice('form/'.length), text))) continue;
    if (key.startsWith('case/') && !(await takeUpCase(key, text))) continue;
    dropWords(key);
  }
}

/** What words follow; an older app counted its revisions instead of naming them. */
const followed = (
  { follows, known }: Partial<LastWords> & { known?: unknown },
  stored: string | null,
): Follows =>
  Array.isArray(follows)
    ? follows
    : typeof known === 'number'
      ? stored?.startsWith(`${known} `)
        ? [stored]
        : []
      : [null];

/** @returns whether the words are kept elsewhere now */
async function takeUpCase(key: string, text: string): Promise<boolean> {
  const id = key.split('/')[1]!;
  const parsed = parseObject(text);
  const words = parsed.ok ? (parsed.value as Partial<LastWords>) : {};
  const content = readFile(text);
  if (content.ok && content.value.is === 'case' && content.value.left.length === 0) {
    const [stored, line] = await Promise.all([
      storage.getItem(revisionKey(id)),
      storage.getItem(lineKey(id)),
    ]);
    // a browser that is killed may bring back words that were dropped: what came of them is stored
    if (stored !== null && words.as !== undefined && [stored, ...lineOf(line)].includes(words.as))
      return true;
    const saved = await saveCase(content.value.bundle, null, followed(words, stored), words.as);
    if (saved.is === 'saved') return true;
    if (saved.is === 'refused') return false;
  }
  const reason = 'these changes were not saved before the page closed, and the case was written since';
  const kept = await written([], () => ({
    set: asideEntry(`case/${id}`, 'changes to a case', reason, text),
    value: null,
  }));
  return kept.ok;
}

/** A form on a closing page. */
export const leaveForm = (name: string, text: string): void => leaveWords(`form/${name}`, text);

/** Form input that is not a command yet, so that a reload in mid-edit loses nothing. */
export async function loadForms(): Promise<Record<string, string>> {
  const keys = (await storage.getAllKeys()).filter((k) => k.startsWith('form/'));
  const texts = Object.entries(await textsOf(keys));
  return Object.fromEntries(
    texts.flatMap(([k, text]) => (text === null ? [] : [[k.slice('form/'.length), text]])),
  );
}
/** Last words of a form are older than what is written after them. */
const formWritten = async (name: string, change: Change): Promise<boolean> => {
  const { ok } = await written([], () => ({ ...change, value: null }));
  if (ok) dropWords(`form/${name}`);
  return ok;
};
/** @returns false when the store refused: it is not kept */
export const saveForm = (name: string, text: string): Promise<boolean> =>
  formWritten(name, { set: { [`form/${name}`]: text } });
export const clearForm = (name: string): Promise<boolean> => formWritten(name, { remove: [`form/${name}`] });
