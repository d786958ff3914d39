import { exportText, type FileContent, mergedDocument, withId } from '@/core/record/caseFile';
import type { LeftOut } from '@/core/record/documentKind';
import type { CaseBundle, Part } from '@/core/record/documents';
import { problemLine, type Read } from '@/core/record/read';
import { NAME_LENGTH } from '@/core/shape/shape';
import type { BackedUp } from '@/store/backup';
import { isFree, listCases, loadCase } from '@/store/documents';
import { partHere } from '@/store/parted';
import { once } from '@/workers/client';

import { newId } from './id';
import { createCase, flush, run, useSession } from './session';
import { changeSettings, NOTHING_CHOSEN } from './settings';

/** The largest file that is let in takes a few seconds. Mark: rule of thumb. */
const LONGEST_READ_MS = 30_000;

export interface Imported {
  ok: boolean;
  say: string;
  /** the case is here, otherwise than in the file; then `say` is what could not be read of that */
  asks?: BackedUp;
}

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
 * Imports whatever this app gave out. A case becomes a case of its own; where one of its id is here, nothing is replaced: it is asked what
 * is to be done, or it stands beside that one. Entries of a case go into it, where they are not there yet.
 */
export async function importFile(
  text: string,
  { signal, beside = false }: { signal?: AbortSignal; beside?: boolean } = {},
): Promise<Imported> {
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
  const { bundle, left, states } = value;
  const { id, name } = bundle.case;
  if (await isFree(id)) return imported(bundle, left, states);
  await flush();
  const here = beside ? null : await loadCase(id);
  if (here?.is !== 'open') return importBeside(bundle, left);
  if (exportText(here.bundle) === exportText(bundle))
    return { ok: true, say: `${name} is here already, just as in the file: nothing was changed.` };
  const asks = { id, bundle, texts: {}, photos: [], names: states, leftOut: left.length };
  return { ok: true, say: leftWords(left).trim(), asks };
}

async function imported(
  bundle: CaseBundle,
  left: readonly LeftOut[],
  states: readonly string[] = [],
): Promise<Imported> {
  const made = await createCase(bundle);
  if (!made.ok) return { ok: false, say: `Not imported. ${made.say} Nothing was changed.` };
  const { id, name } = bundle.case;
  changeSettings({ caseId: id, ...NOTHING_CHOSEN });
  // what came in is what both have now
  if (states[0] !== undefined) await partHere(id, { name: states[0], text: exportText(bundle) });
  return { ok: true, say: `Imported ${name}.${leftWords(left)}` };
}

/** As a case of its own, beside the one it came from. */
export const importBeside = (bundle: CaseBundle, left: readonly LeftOut[] = []) =>
  imported(withId(bundle, newId(), `${bundle.case.name} (imported)`.slice(0, NAME_LENGTH)), left);

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
