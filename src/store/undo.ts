import { createAsyncStorage } from '@react-native-async-storage/async-storage';
import { applyPatch, escapePathComponent, type Operation } from 'fast-json-patch';
import { produce } from 'immer';
import * as v from 'valibot';

import { sharedEnds } from '@/core/shape/ends';
import { type CaseBundle, kindOfPart, type Part, PARTS } from '@/core/record/documents';

import { type Revision, undoKey } from './documents';

const storage = createAsyncStorage('chromatheca');
/** The way back takes at most so many characters; what is oldest is forgotten first. */
const LONGEST_TEXT = 400_000;
/** Documents of other versions are not what a patch was made for. */
const versions = (): string => PARTS.map((p) => kindOfPart(p).version).join('.');

/** The way back over one step: JSON Patches (RFC 6902) by the part they are for. */
export interface WayBack {
  name: string;
  back: Partial<Record<Part, Operation[]>>;
}

const stored = v.object({
  revision: v.string(),
  versions: v.string(),
  steps: v.array(
    v.object({
      name: v.string(),
      back: v.record(
        v.string(),
        v.array(v.looseObject({ op: v.picklist(['add', 'remove', 'replace']), path: v.string() })),
      ),
    }),
  ),
});

const isRecord = (x: unknown): x is Record<string, unknown> =>
  typeof x === 'object' && x !== null && !Array.isArray(x);
const asStored = (x: unknown): unknown => JSON.parse(JSON.stringify(x)) as unknown;

/**
 * JSON Patch from one state of a document to another, as they are stored. What is the same object in both is not looked into, and of a
 * list what is the same at either end: one entry more in ten years of records is one operation, found in their count of comparisons.
 */
function patch(from: unknown, to: unknown, path: string, out: Operation[]): void {
  if (from === to) return;
  if (Array.isArray(from) && Array.isArray(to)) {
    const { head, tail } = sharedEnds(from, to);
    const [gone, come] = [from.length - head - tail, to.length - head - tail];
    const both = Math.min(gone, come);
    for (let i = 0; i < both; i += 1) patch(from[head + i], to[head + i], `${path}/${head + i}`, out);
    for (let i = gone; i > both; i -= 1) out.push({ op: 'remove', path: `${path}/${head + i - 1}` });
    for (let i = both; i < come; i += 1)
      out.push({ op: 'add', path: `${path}/${head + i}`, value: asStored(to[head + i]) });
    return;
  }
  if (isRecord(from) && isRecord(to)) {
    for (const key of new Set([...Object.keys(from), ...Object.keys(to)])) {
      const [own, at] = [to[key], `${path}/${escapePathComponent(key)}`];
      if (own === undefined && from[key] === undefined) continue;
      if (own === undefined) out.push({ op: 'remove', path: at });
      else if (from[key] === undefined) out.push({ op: 'add', path: at, value: asStored(own) });
      else patch(from[key], own, at, out);
    }
    return;
  }
  if (JSON.stringify(from) !== JSON.stringify(to)) out.push({ op: 'replace', path, value: asStored(to) });
}

/** What lies between two states of a case, as they are stored: how to come from the later one to the earlier one. */
export function wayBack(name: string, after: CaseBundle, before: CaseBundle): WayBack {
  const back: WayBack['back'] = {};
  for (const part of PARTS) {
    if (after[part] === before[part]) continue;
    patch(after[part], before[part], '', (back[part] = []));
  }
  return { name, back };
}

/**
 * The states of a case before each kept step, from its present one back, newest first; as far as the patches fit and what they
 * make is sound.
 */
export function statesBack(
  bundle: CaseBundle,
  steps: readonly WayBack[],
  sound: (before: CaseBundle, after: CaseBundle) => boolean,
): CaseBundle[] {
  const out: CaseBundle[] = [];
  let at = bundle;
  for (const { back } of [...steps].reverse()) {
    try {
      const before = produce(at, (draft) => {
        for (const part of PARTS) if (back[part]) applyPatch(draft[part], back[part], true);
      });
      if (!sound(before, at)) break;
      out.push((at = before));
    } catch {
      break;
    }
  }
  return out;
}

/** The way back from what is stored under a revision, as it is kept beside it; the oldest steps go where it grows too long. */
export function undoText(revision: Revision, steps: readonly WayBack[]): string {
  const texts = steps.map((s) => JSON.stringify(s));
  let length = 0;
  let from = texts.length;
  while (from > 0 && (length += texts[from - 1]!.length) <= LONGEST_TEXT) from -= 1;
  const head = JSON.stringify({ revision, versions: versions() }).slice(0, -1);
  return `${head},"steps":[${texts.slice(from).join()}]}`;
}

/** The way back from a revision; none where it is of another one, or cannot be read. */
export async function loadUndo(caseId: string, revision: Revision): Promise<WayBack[]> {
  try {
    const read = v.safeParse(stored, JSON.parse((await storage.getItem(undoKey(caseId))) ?? ''));
    if (!read.success || read.output.revision !== revision || read.output.versions !== versions()) return [];
    return read.output.steps as unknown as WayBack[];
  } catch {
    return [];
  }
}
