import type { CaseBundle, Part } from '@/core/record/documents';
import type { LeftOut } from '@/core/record/documentKind';
import { NOTHING_CHOSEN, changeSettings, readSettings } from './settings';
import { problemLine, type Read } from '@/core/record/read';
import { NAME_LENGTH } from '@/core/shape/shape';
import { slug } from '@/core/shape/slug';
import {
  type AsideListing,
  isFree,
  listAside,
  listCases,
  removeCase,
  takeUpLastWords,
} from '@/store/documents';
import { photosOf, removePhoto } from '@/store/photos';
import { ANSWER_MS, within } from '@/store/answers';
import { exportText, type FileContent, mergedDocument, withId } from '@/core/record/caseFile';
import { once } from '@/workers/client';

import { newId } from './id';
import { askToKeep } from './keeping';
import {
  closeSession,
  createCase,
  flush,
  markExported,
  openCase,
  openInMemory,
  type Opened,
  run,
  useSession,
} from './session';
import { deviceTimeZone } from './time';
import { readTyped } from './typed';

export interface Boot {
  aside: AsideListing[];
}

/**
 * Starts the app: settings, then the last open case, else an own one, else the demo. Nothing unreadable stops it; where the store
 * cannot be read at all, or does not answer, the demo is laid out in memory, which is said, and can be given out as a file.
 */
export async function boot(): Promise<Boot> {
  try {
    return await within(ANSWER_MS, bootFromStore());
  } catch (error) {
    if (!useSession.getState().bundle) {
      const { demoCase } = await import('@/demo/lagoon');
      openInMemory(
        demoCase(Date.now(), deviceTimeZone()),
        `The browser's store cannot be read (${(error as Error)?.message ?? String(error)}): what is in it stays as it is. Private windows and blocked site data do that.`,
      );
    }
    return { aside: [] };
  }
}

async function bootFromStore(): Promise<Boot> {
  // with a full store the last words stay where they are until there is room
  await takeUpLastWords().catch(() => undefined);
  const [settings] = await Promise.all([readSettings(), readTyped().catch(() => undefined)]);
  const cases = await listCases();
  const wanted = [...cases].sort(
    (a, b) => Number(b.id === settings.caseId) - Number(a.id === settings.caseId),
  );
  for (const c of wanted) {
    if (await tryOpen(c.id)) return { aside: await listAside() };
  }
  await openDemo();
  return { aside: await listAside() };
}

async function tryOpen(caseId: string): Promise<boolean> {
  if (!(await openCase(caseId)).ok) return false;
  changeSettings({ caseId });
  if (!useSession.getState().bundle?.case.demo) void askToKeep();
  return true;
}

/** Nothing of a case is chosen when another is opened. */

/**
 * Opens the demo, laying a new one out when there is none. It never touches another case, and nothing that is stored under its id:
 * not a newer app's demo, not what is left of one.
 */
export async function openDemo(): Promise<Opened> {
  const there = (await listCases()).filter((c) => c.demo && !c.newer);
  const { demoCase } = await import('@/demo/lagoon');
  const demo = demoCase(Date.now(), deviceTimeZone());
  const { id, name } = demo.case;
  const own = there.find((c) => c.id === id) ?? there[0];
  if (own && (await tryOpen(own.id))) return { ok: true };
  const made = (await isFree(id)) ? demo : withId(demo, newId(), name);
  const opened = await createCase(made);
  if (opened.ok) changeSettings({ caseId: made.case.id });
  return opened;
}

/** Opens a case by id. @returns what went wrong, or null */
export async function switchCase(caseId: string): Promise<string | null> {
  const opened = await openCase(caseId);
  if (!opened.ok) return opened.say;
  changeSettings({ caseId, ...NOTHING_CHOSEN });
  return null;
}

/** Deletes the open case and opens what is left. @returns what went wrong, or null */
export async function deleteOpenCase(): Promise<string | null> {
  const id = useSession.getState().bundle?.case.id;
  if (!id) return null;
  await flush();
  const removed = await removeCase(id);
  if (!removed.ok) return removed.message;
  // its pictures go with it
  void photosOf(id).then((all) => Promise.all(all.map(removePhoto)));
  closeSession();
  changeSettings({ caseId: null, ...NOTHING_CHOSEN });
  await boot();
  return null;
}

/** The open case as the text of a case file, with a file name. */
export function exportOpenCase(): { name: string; text: string } | null {
  const { bundle } = useSession.getState();
  if (!bundle) return null;
  markExported();
  return { name: `${slug(bundle.case.name, 'case')}.chromatheca.json`, text: exportText(bundle) };
}

/** The largest file that is let in takes a few seconds. Mark: rule of thumb. */
const LONGEST_READ_MS = 30_000;

export type Imported = { ok: true; say: string } | { ok: false; say: string };

/** What had to be left out of a file, in a sentence; nothing when that is nothing. */
const leftWords = (left: readonly LeftOut[]): string =>
  left.length === 0
    ? ''
    : ` ${left.length === 1 ? 'One entry' : `${left.length} entries`} could not be read and ${left.length === 1 ? 'was' : 'were'} left out: ${left
        .slice(0, 3)
        .map((l) => [l.path, l.problem].filter(Boolean).join(', '))
        .join(
          '; ',
        )}${left.length > 3 ? ' and more' : ''}. The file still has ${left.length === 1 ? 'it' : 'them'}: correct ${left.length === 1 ? 'it' : 'them'} there and import it again.`;

/**
 * Imports whatever this app gave out. A case becomes a case of its own: an id that is already here gets a new one, so that nothing
 * is replaced. Entries of a case go into it, where they are not there yet.
 */
export async function importFile(text: string, signal?: AbortSignal): Promise<Imported> {
  let read: Read<FileContent>;
  try {
    read = await once((r) => r.readFile(text), { signal, mostMs: LONGEST_READ_MS });
  } catch (error) {
    const why = signal?.aborted ? 'Stopped' : `It could not be read: ${(error as Error).message}`;
    return { ok: false, say: `Not imported. ${why}. Nothing was changed.` };
  }
  if (!read.ok)
    return {
      ok: false,
      say: `Not imported. ${problemLine(read.problem)}. ${read.problem.remedy} Nothing was changed.`,
    };
  const { value } = read;
  if (value.is === 'part') return importPart(value.part, value.caseId, value.doc, value.left);
  const { bundle, left } = value;
  const own = (await isFree(bundle.case.id))
    ? bundle
    : withId(bundle, newId(), `${bundle.case.name} (imported)`.slice(0, NAME_LENGTH));
  const made = await createCase(own);
  if (!made.ok) return { ok: false, say: `Not imported. ${made.say} Nothing was changed.` };
  changeSettings({ caseId: own.case.id, ...NOTHING_CHOSEN });
  return { ok: true, say: `Imported ${own.case.name}.${leftWords(left)}` };
}

async function importPart<P extends Exclude<Part, 'case'>>(
  part: P,
  caseId: string,
  doc: CaseBundle[P],
  left: readonly LeftOut[],
): Promise<Imported> {
  const { bundle } = useSession.getState();
  if (bundle?.case.id !== caseId) {
    const home = (await listCases()).find((c) => c.id === caseId);
    return {
      ok: false,
      say: home
        ? `Not imported. This belongs to ${home.name}: open that case first, then import it again. Nothing was changed.`
        : 'Not imported. This belongs to a case that is not here: import that case first. Nothing was changed.',
    };
  }
  const { doc: merged, added } = mergedDocument(part, bundle[part], doc);
  if (added === 0)
    return {
      ok: left.length === 0,
      say: `Nothing in it that is not here already.${leftWords(left)}`,
    };
  const done = run({ name: `import into the ${part}`, apply: (b) => ({ ...b, [part]: merged }) });
  return done
    ? {
        ok: true,
        say: `${added === 1 ? 'One entry was' : `${added} entries were`} put into the ${part}.${leftWords(left)}`,
      }
    : { ok: false, say: `Not imported. ${useSession.getState().refusal ?? ''} Nothing was changed.` };
}
