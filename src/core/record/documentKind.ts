import * as v from 'valibot';

import { sharedEnds } from '../shape/ends';
import {
  bad,
  good,
  isObject,
  issueProblem,
  type Loose,
  migrated,
  type Migration,
  type Problem,
  type Read,
} from './read';

/**
 * A kind of document of a case: everything that loading, saving, setting aside, exporting, importing and checking need to know
 * of it. The type of its documents is what its schema lets through.
 */
export interface DocumentKind<T extends object = object> {
  format: string;
  version: number;
  schema: v.GenericSchema<unknown, T>;
  /** steps from version 1 on to the present one */
  migrations: readonly Migration[];
  /** what a case has that never had one; null = there is no case without it */
  empty: ((caseId: string) => T) | null;
  /** where it says which case it belongs to */
  idKey: 'id' | 'caseId';
  /** lists it is made of, with the most items each may have: a command's result is checked by what is new in them */
  lists: Readonly<Record<string, number>>;
  /** what can be left out when it cannot be read, as paths with * for any index; the rest stays open */
  spare: readonly string[];
}

/** An item that could not be read, taken out of its document. */
export interface LeftOut {
  /** where the item stood, and what in it cannot be read */
  at: string;
  path: string;
  problem: string;
  /** the list of the document it stood in, and what it was */
  list: string;
  item: unknown;
}

const caseIdOf = (kind: DocumentKind, doc: object): unknown => (doc as Loose)[kind.idKey];
/** The same document in a case of another id. */
export const inCase = <T extends object>(kind: DocumentKind<T>, doc: T, caseId: string): T => ({
  ...doc,
  [kind.idKey]: caseId,
});

/**
 * Reads a parsed document: migrated, validated, of the case it should be of. Where `repair` is given, spare items that cannot be
 * read are taken out and told; without it the first of them is the problem.
 */
export function readDocument<T extends object>(
  kind: DocumentKind<T>,
  doc: unknown,
  {
    prefix = '',
    caseId,
    repair,
  }: { prefix?: string; caseId?: string; repair?: (left: LeftOut) => void } = {},
): Read<T> {
  if (!isObject(doc))
    return bad(
      'invalid',
      prefix,
      doc === undefined ? 'is missing' : 'is no object',
      'Choose a file that Chromatheca exported, unchanged.',
    );
  const now = migrated(doc, kind.version, kind.migrations, prefix);
  if (!now.ok) return now;
  let current = now.value;
  for (;;) {
    const result = v.safeParse(kind.schema, current, { abortPipeEarly: true });
    if (result.success) {
      if (caseId !== undefined && caseIdOf(kind, result.output) !== caseId)
        return bad(
          'invalid',
          [prefix, kind.idKey].filter(Boolean).join('.'),
          'belongs to another case',
          'Choose a file that Chromatheca exported, unchanged.',
        );
      return good(result.output);
    }
    const problem: Problem = issueProblem(result.issues[0], prefix);
    if (!repair) return { ok: false, problem };
    const without = withoutSpare(kind, current, result.issues, repair);
    if (!without) return { ok: false, problem };
    current = without;
  }
}

/** The document without the spare items in which issues lie; null when an issue lies elsewhere. */
function withoutSpare(
  kind: DocumentKind,
  doc: Loose,
  issues: readonly v.BaseIssue<unknown>[],
  repair: (left: LeftOut) => void,
): Loose | null {
  const out = new Map<string, Problem>();
  for (const issue of issues) {
    const keys = (v.getDotPath(issue) ?? '').split('.');
    // the deepest item that can be spared
    const pattern = keys
      .map((_, i) => keys.slice(0, keys.length - i))
      .find((head) => kind.spare.includes(head.map((k) => (/^\d+$/.test(k) ? '*' : k)).join('.')));
    if (!pattern) return null;
    const path = pattern.join('.');
    if (!out.has(path)) out.set(path, issueProblem(issue));
  }
  const inOrder = [...out].sort(([a], [b]) => a.localeCompare(b, 'en', { numeric: true }));
  for (const [path, problem] of inOrder) {
    const keys = path.split('.');
    const item = keys.reduce<unknown>((at, k) => (at as Loose | undefined)?.[k], doc);
    repair({ at: path, path: problem.path, problem: problem.problem, list: keys[0]!, item });
  }
  return without(
    doc,
    inOrder.map(([path]) => path.split('.')),
  ) as Loose;
}

/** A value without the items of lists that paths lead to, all in one pass: there may be a hundred thousand of them. */
function without(value: unknown, paths: readonly (readonly string[])[]): unknown {
  const under = new Map<string, string[][]>();
  for (const [key, ...rest] of paths) {
    if (key === undefined) continue;
    const known = under.get(key);
    if (known) known.push(rest);
    else under.set(key, [rest]);
  }
  const ends = (of: string[][] | undefined) => of?.some((rest) => rest.length === 0) ?? false;
  if (Array.isArray(value))
    return value.flatMap((x, i) => {
      const here = under.get(String(i));
      return ends(here) ? [] : [here ? without(x, here) : x];
    });
  if (!isObject(value)) return value;
  const out: Loose = { ...value };
  for (const [key, here] of under) out[key] = without(value[key], here);
  return out;
}

/** What is wrong with a document that a command made; of its lists only what is new is looked at, and how long they are. */
export function problemIn<T extends object>(kind: DocumentKind<T>, next: T, before: T): string | null {
  if (next === before) return null;
  const items = (doc: T, list: string) => (doc as Record<string, unknown[] | undefined>)[list] ?? [];
  const lists = Object.entries(kind.lists);
  const long = lists.find(([list, most]) => items(next, list).length > most);
  if (long) return `${long[0]} at most ${long[1]} allowed`;
  const fresh = Object.fromEntries(
    lists.map(([list]) => {
      const [was, is] = [items(before, list), items(next, list)];
      const { head, tail } = sharedEnds(was, is);
      const old = new Set(was.slice(head, was.length - tail));
      return [list, is.slice(head, is.length - tail).filter((item) => !old.has(item))];
    }),
  );
  const checked = v.safeParse(kind.schema, { ...next, ...fresh }, { abortPipeEarly: true });
  if (checked.success) return null;
  const { path, problem } = issueProblem(checked.issues[0]);
  return `${path || kind.format} ${problem}`;
}
