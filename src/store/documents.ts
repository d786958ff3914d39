import { createAsyncStorage } from '@react-native-async-storage/async-storage';

import { type CaseBundle, type CaseDoc, emptyLog } from '@/core/case/types';

import { dropWords, leaveWords, wordsLeft } from './lastWords';
import { alone } from './lock';
import { CASE_MIGRATIONS, HISTORY_MIGRATIONS, LOG_MIGRATIONS, READINGS_MIGRATIONS } from './migrations';
import { DocumentError, parseObject, validate } from './read';
import {
  CASE_VERSION,
  caseSchema,
  DEFAULT_SETTINGS,
  HISTORY_VERSION,
  historySchema,
  LOG_VERSION,
  logSchema,
  READINGS_VERSION,
  readingsSchema,
  type Settings,
  SETTINGS_VERSION,
  settingsSchema,
} from './schema';

const storage = createAsyncStorage('chromatheca');

const PARTS = ['case', 'history', 'readings', 'log'] as const;
type Part = (typeof PARTS)[number];
const keyOf = (part: Part, caseId: string) => `${part}/${caseId}`;
const revisionKey = (caseId: string) => `revision/${caseId}`;
const ASIDE = 'aside/';
const SETTINGS = 'settings';

/** Names this page among all that write; stands in every revision it makes. */
const TAB = globalThis.crypto.randomUUID();
const readRevision = (text: string | null): { count: number; tab: string } | null => {
  if (text === null) return null;
  const [count = '0', tab = ''] = text.split(' ');
  return { count: Number(count), tab };
};

/** This tab holds an older state than the store: it must not write. */
export class StaleTab extends Error {}
/** The store took nothing of this write; what was there before is still there. */
export class WriteFailed extends Error {
  constructor(
    readonly full: boolean,
    cause: unknown,
  ) {
    super(
      full
        ? 'The browser has no room left for this site.'
        : `The browser's store refused the write: ${String((cause as Error)?.message ?? cause)}`,
    );
  }
}

export interface LoadedCase {
  bundle: CaseBundle;
  /** grows with every write; a tab may only write on top of the revision it knows */
  revision: number;
}

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
  reason: string;
}

async function write(entries: Record<string, string>): Promise<void> {
  try {
    await storage.setMany(entries);
  } catch (error) {
    const text = `${(error as Error)?.name} ${(error as Error)?.message} ${String((error as { cause?: unknown })?.cause)}`;
    throw new WriteFailed(/quota|disk|no space/i.test(text), error);
  }
}

/** Moves documents that cannot be read out of the way, unchanged. */
async function setAside(keys: readonly string[], reason: string): Promise<void> {
  const texts = await storage.getMany([...keys]);
  const found = keys.filter((k) => texts[k] !== null && texts[k] !== undefined);
  const stamp = new Date().toISOString();
  await write(
    Object.fromEntries(
      found.map((k) => [`${ASIDE}${stamp}/${k}`, JSON.stringify({ from: k, reason, text: texts[k] })]),
    ),
  );
  await storage.removeMany(found);
}

function readBundle(caseId: string, texts: Record<string, string | null>): CaseBundle {
  const read = (part: Part): Record<string, unknown> => {
    const text = texts[keyOf(part, caseId)];
    if (text === null || text === undefined)
      throw new DocumentError('invalid', part, 'is missing', 'Import the case from an export.');
    return parseObject(text);
  };
  return {
    case: validate(caseSchema, read('case'), CASE_VERSION, CASE_MIGRATIONS, 'case'),
    history: validate(historySchema, read('history'), HISTORY_VERSION, HISTORY_MIGRATIONS, 'history'),
    readings: validate(readingsSchema, read('readings'), READINGS_VERSION, READINGS_MIGRATIONS, 'readings'),
    // cases older than the log have none
    log: texts[keyOf('log', caseId)]
      ? validate(logSchema, read('log'), LOG_VERSION, LOG_MIGRATIONS, 'log')
      : emptyLog(caseId),
  };
}

/**
 * Loads a case. A corrupted one is set aside and null is returned; a newer one is left untouched.
 * @throws DocumentError of kind `newer`
 */
export async function loadCase(caseId: string): Promise<LoadedCase | null> {
  const keys = PARTS.map((p) => keyOf(p, caseId));
  const texts = await storage.getMany([...keys, revisionKey(caseId)]);
  if (texts[keys[0]!] === null) return null;
  try {
    return {
      bundle: readBundle(caseId, texts),
      revision: readRevision(texts[revisionKey(caseId)] ?? null)?.count ?? 0,
    };
  } catch (error) {
    if (!(error instanceof DocumentError) || error.kind === 'newer') throw error;
    await setAside(keys, `${error.message}`);
    return null;
  }
}

/**
 * Writes the changed parts of a case and its revision in one transaction.
 * @param known revision this tab loaded or wrote last; null when the case is new here
 * @returns the new revision
 * @throws StaleTab when another tab has written since; WriteFailed
 */
export function saveCase(
  bundle: CaseBundle,
  before: CaseBundle | null,
  known: number | null,
): Promise<number> {
  const id = bundle.case.id;
  return alone(`chromatheca/${id}`, async () => {
    const stored = readRevision(await storage.getItem(revisionKey(id)));
    // null known: the case is new here, nothing can have overtaken it
    if (known !== null && stored?.count !== known) throw new StaleTab();
    const revision = (stored?.count ?? 0) + 1;
    const changed = PARTS.filter((p) => bundle[p] !== before?.[p]);
    await write({
      ...Object.fromEntries(changed.map((p) => [keyOf(p, id), JSON.stringify(bundle[p])])),
      [revisionKey(id)]: `${revision} ${TAB}`,
    });
    return revision;
  });
}

export async function removeCase(caseId: string): Promise<void> {
  await alone(`chromatheca/${caseId}`, () =>
    storage.removeMany([...PARTS.map((p) => keyOf(p, caseId)), revisionKey(caseId)]),
  );
}

/** All cases, the demo last. Names come from the documents without validating them whole. */
export async function listCases(): Promise<CaseListing[]> {
  const keys = (await storage.getAllKeys()).filter((k) => k.startsWith('case/'));
  const texts = await storage.getMany(keys);
  const listings = keys.flatMap((key): CaseListing[] => {
    try {
      const doc = parseObject(texts[key] ?? '') as Partial<CaseDoc> & { version?: number };
      return [
        {
          id: key.slice('case/'.length),
          name: typeof doc.name === 'string' ? doc.name : 'unnamed',
          demo: doc.demo === true,
          newer: typeof doc.version === 'number' && doc.version > CASE_VERSION,
        },
      ];
    } catch {
      // unreadable: it is set aside when it is opened or at the start
      return [{ id: key.slice('case/'.length), name: 'unreadable case', demo: false, newer: false }];
    }
  });
  return listings.sort((a, b) => Number(a.demo) - Number(b.demo) || a.name.localeCompare(b.name));
}

export async function listAside(): Promise<AsideListing[]> {
  const keys = (await storage.getAllKeys()).filter((k) => k.startsWith(ASIDE)).sort();
  const texts = await storage.getMany(keys);
  return keys.map((key) => {
    const { from, reason } = JSON.parse(texts[key] ?? '{}') as { from?: string; reason?: string };
    return { key, from: from ?? key, reason: reason ?? 'unknown' };
  });
}

/** The untouched text of a document that was set aside, or of any stored document. */
export async function rawText(key: string): Promise<string | null> {
  const text = await storage.getItem(key);
  if (text === null || !key.startsWith(ASIDE)) return text;
  return (JSON.parse(text) as { text: string }).text;
}

export const forgetAside = (key: string): Promise<void> => storage.removeItem(key);

export async function loadSettings(): Promise<Settings> {
  const text = await storage.getItem(SETTINGS);
  if (text === null) return DEFAULT_SETTINGS;
  try {
    return validate(settingsSchema, parseObject(text), SETTINGS_VERSION) as Settings;
  } catch (error) {
    if (error instanceof DocumentError && error.kind === 'newer') settingsAreNewer = true;
    else await setAside([SETTINGS], (error as Error).message);
    return DEFAULT_SETTINGS;
  }
}

interface LastWords {
  /** revision the page stood on */
  known: number | null;
  tab: string;
  bundle: CaseBundle;
}

/** What a closing page could not write any more. */
export function leaveCase(bundle: CaseBundle, known: number | null): void {
  const words: LastWords = { known, tab: TAB, bundle };
  leaveWords(`case/${bundle.case.id}`, JSON.stringify(words));
}
export const dropCase = (caseId: string): void => dropWords(`case/${caseId}`);

/** Writes what closing pages left behind; a bundle that another tab has overtaken is set aside instead. */
export async function takeUpLastWords(): Promise<void> {
  for (const [key, text] of Object.entries(wordsLeft())) {
    if (key.startsWith('form/')) await saveForm(key.slice('form/'.length), text);
    else if (key.startsWith('case/')) await takeUpCase(key, text);
    dropWords(key);
  }
}

async function takeUpCase(key: string, text: string): Promise<void> {
  const id = key.slice('case/'.length);
  try {
    const { known, tab, bundle } = parseObject(text) as unknown as LastWords;
    const stored = readRevision(await storage.getItem(revisionKey(id)));
    // a write of that same page may have got through after its last words
    await saveCase(bundle, null, stored?.tab === tab ? stored.count : known);
  } catch (error) {
    if (error instanceof WriteFailed) throw error;
    const reason = 'these changes were not saved before the page closed, and another tab had written since';
    await write({
      [`${ASIDE}${new Date().toISOString()}/${key}`]: JSON.stringify({ from: key, reason, text }),
    });
  }
}

/** A form on a closing page. */
export const leaveForm = (name: string, text: string): void => leaveWords(`form/${name}`, text);

/** Form input that is not a command yet, so that a reload in mid-edit loses nothing. */
export const loadForm = (name: string): Promise<string | null> => storage.getItem(`form/${name}`);
export const saveForm = (name: string, text: string): Promise<void> => write({ [`form/${name}`]: text });
export const clearForm = (name: string): Promise<void> => storage.removeItem(`form/${name}`);

/** Settings written by a newer app are left as they are; this session then keeps its own in memory. */
let settingsAreNewer = false;
export const saveSettings = async (settings: Settings): Promise<void> => {
  if (!settingsAreNewer) await write({ [SETTINGS]: JSON.stringify(settings) });
};
