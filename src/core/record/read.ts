import * as v from 'valibot';

/** What is wrong with a text that cannot be taken: the place, what is so there, and what to do about it. */
export interface Problem {
  kind: 'notJson' | 'newer' | 'invalid' | 'tooLarge';
  path: string;
  problem: string;
  remedy: string;
}
/** A value that was read, or why not. */
export type Read<T> = { ok: true; value: T } | { ok: false; problem: Problem };

export const good = <T>(value: T): Read<T> => ({ ok: true, value });
export const bad = (kind: Problem['kind'], path: string, problem: string, remedy: string): Read<never> => ({
  ok: false,
  problem: { kind, path, problem, remedy },
});
/** A problem in one line: where and what. */
export const problemLine = ({ path, problem }: Problem): string => [path, problem].filter(Boolean).join(': ');

/** Texts beyond this are refused before they are parsed. */
export const LARGEST_TEXT = 50_000_000;
const UNCHANGED = 'Choose a file that Chromatheca exported, unchanged.';

export type Loose = Record<string, unknown>;
export const isObject = (value: unknown): value is Loose =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
/** Changes every object of a list; what is no list of objects is left for validation to name. */
export const each = (items: unknown, change: (item: Loose) => Loose): unknown =>
  Array.isArray(items) ? items.map((item) => (isObject(item) ? change(item) : item)) : items;

/** A step from an older version of a document to the next one. */
export type Migration = (doc: Loose) => Loose;

/** Parses JSON that must be an object. */
export function parseObject(text: string): Read<Loose> {
  if (text.length > LARGEST_TEXT)
    return bad(
      'tooLarge',
      '',
      `the text has ${text.length} characters, more than ${LARGEST_TEXT}`,
      'Export the case anew or split it.',
    );
  try {
    const value: unknown = JSON.parse(text);
    return isObject(value) ? good(value) : bad('notJson', '', 'this is JSON, but no document', UNCHANGED);
  } catch (error) {
    return bad('notJson', '', `this is not JSON: ${(error as Error).message}`, UNCHANGED);
  }
}

/** Takes a parsed document to the newest version. Index 0 of the steps leads from version 1 to 2. */
export function migrated(doc: Loose, newest: number, steps: readonly Migration[], prefix = ''): Read<Loose> {
  const at = [prefix, 'version'].filter(Boolean).join('.');
  const { version } = doc;
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 1)
    return bad('invalid', at, 'is missing or no whole number', UNCHANGED);
  if (version > newest)
    return bad(
      'newer',
      at,
      `is ${version}; this app knows versions up to ${newest}`,
      'Open it with the newer Chromatheca that wrote it. Nothing was changed.',
    );
  let current = doc;
  for (let n = version; n < newest; n += 1) current = { ...steps[n - 1]!(current), version: n + 1 };
  return good(current);
}

/** What an issue says, and where. */
export const issueProblem = (issue: v.BaseIssue<unknown>, prefix = ''): Problem => ({
  kind: 'invalid',
  path: [prefix, v.getDotPath(issue) ?? ''].filter(Boolean).join('.'),
  problem: issue.type !== 'check' && issue.received === 'undefined' ? 'is missing' : issue.message,
  remedy: 'Correct this place in the file, or export the case again.',
});

/**
 * Migrates a parsed document forward and validates it.
 * @param prefix put before the path of an error
 */
export function validated<T>(
  schema: v.GenericSchema<unknown, T>,
  doc: Loose,
  newest: number,
  steps: readonly Migration[] = [],
  prefix = '',
): Read<T> {
  const current = migrated(doc, newest, steps, prefix);
  if (!current.ok) return current;
  const result = v.safeParse(schema, current.value, { abortPipeEarly: true });
  return result.success
    ? good(result.output)
    : { ok: false, problem: issueProblem(result.issues[0], prefix) };
}
