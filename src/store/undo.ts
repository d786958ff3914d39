import { createAsyncStorage } from '@react-native-async-storage/async-storage';
import { applyPatch, compare, type Operation } from 'fast-json-patch';
import { produce } from 'immer';
import * as v from 'valibot';

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

/**
 * Two states of a document as they are stored, for a comparison: what is the same object in both is left as it is, so that one entry
 * more in ten years of records is not looked for in all of them.
 */
function bothAsStored(a: unknown, b: unknown): [unknown, unknown] {
  if (a === b) return [a, b];
  if (Array.isArray(a) && Array.isArray(b)) {
    const [x, y]: [unknown[], unknown[]] = [[...a], [...b]];
    for (let i = 0; i < Math.max(a.length, b.length); i += 1) {
      if (a[i] === b[i]) continue;
      const [p, q] = bothAsStored(a[i], b[i]);
      if (i < x.length) x[i] = p;
      if (i < y.length) y[i] = q;
    }
    return [x, y];
  }
  if (isRecord(a) && isRecord(b)) {
    const [x, y]: [Record<string, unknown>, Record<string, unknown>] = [{}, {}];
    for (const key of new Set([...Object.keys(a), ...Object.keys(b)])) {
      const [p, q] = bothAsStored(a[key], b[key]);
      if (p !== undefined) x[key] = p;
      if (q !== undefined) y[key] = q;
    }
    return [x, y];
  }
  return [asStored(a), asStored(b)];
}
const isRecord = (x: unknown): x is Record<string, unknown> =>
  typeof x === 'object' && x !== null && !Array.isArray(x);
const asStored = (x: unknown): unknown =>
  x === undefined ? undefined : (JSON.parse(JSON.stringify(x)) as unknown);

/** What lies between two states of a case, as they are stored: how to come from the later one to the earlier one. */
export function wayBack(name: string, after: CaseBundle, before: CaseBundle): WayBack {
  const back: WayBack['back'] = {};
  for (const part of PARTS) {
    if (after[part] === before[part]) continue;
    const [from, to] = bothAsStored(after[part], before[part]) as [object, object];
    back[part] = compare(from, to);
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
