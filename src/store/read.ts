import * as v from 'valibot';

/** A text that cannot be taken, with the place and what to do about it. */
export class DocumentError extends Error {
  constructor(
    readonly kind: 'notJson' | 'newer' | 'invalid' | 'tooLarge',
    readonly path: string,
    readonly problem: string,
    readonly remedy: string,
  ) {
    super([path, problem].filter(Boolean).join(': '));
  }
}

/** Texts beyond this are refused before they are parsed. */
export const LARGEST_TEXT = 50_000_000;

/** Steps from an older version of a document to the next one. Index 0 leads from version 1 to 2. */
export type Migration = (doc: Record<string, unknown>) => Record<string, unknown>;

/** Parses JSON that must be an object. @throws DocumentError */
export function parseObject(text: string): Record<string, unknown> {
  if (text.length > LARGEST_TEXT) {
    throw new DocumentError(
      'tooLarge',
      '',
      `the text has ${text.length} characters, more than ${LARGEST_TEXT}`,
      'Export the case anew or split it.',
    );
  }
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    throw new DocumentError(
      'notJson',
      '',
      `this is not JSON: ${(error as Error).message}`,
      'Choose a file that Chromatheca exported, unchanged.',
    );
  }
  if (typeof value !== 'object' || value === null || Array.isArray(value)) {
    throw new DocumentError(
      'notJson',
      '',
      'this is JSON, but no document',
      'Choose a file that Chromatheca exported, unchanged.',
    );
  }
  return value as Record<string, unknown>;
}

/**
 * Migrates a parsed document forward and validates it.
 * @param prefix put before the path of an error
 * @throws DocumentError
 */
export function validate<T>(
  schema: v.GenericSchema<unknown, T>,
  doc: Record<string, unknown>,
  newest: number,
  migrations: readonly Migration[] = [],
  prefix = '',
): T {
  const at = (path: string) => [prefix, path].filter(Boolean).join('.');
  const version = doc.version;
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 1) {
    throw new DocumentError(
      'invalid',
      at('version'),
      'is missing or no whole number',
      'Choose a file that Chromatheca exported, unchanged.',
    );
  }
  if (version > newest) {
    throw new DocumentError(
      'newer',
      at('version'),
      `is ${version}; this app knows versions up to ${newest}`,
      'Open it with the newer Chromatheca that wrote it. Nothing was changed.',
    );
  }
  let current = doc;
  for (let n = version; n < newest; n += 1) current = { ...migrations[n - 1]!(current), version: n + 1 };
  const result = v.safeParse(schema, current, { abortPipeEarly: true });
  if (result.success) return result.output;
  const issue = result.issues[0];
  const missing = issue.type !== 'check' && issue.received === 'undefined';
  throw new DocumentError(
    'invalid',
    at(v.getDotPath(issue) ?? ''),
    missing ? 'is missing' : issue.message,
    'Correct this place in the file, or export the case again.',
  );
}
