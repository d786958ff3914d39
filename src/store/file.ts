import { type CaseBundle, emptyLog } from '@/core/case/types';

import { CASE_MIGRATIONS, HISTORY_MIGRATIONS, LOG_MIGRATIONS, READINGS_MIGRATIONS } from './migrations';
import { DocumentError, parseObject, validate } from './read';
import {
  CASE_VERSION,
  caseSchema,
  HISTORY_VERSION,
  historySchema,
  LOG_VERSION,
  logSchema,
  READINGS_VERSION,
  readingsSchema,
} from './schema';

/** The case file: everything of one case in one JSON document (docs/formats.md). */
const FILE_FORMAT = 'chromatheca-file';
const FILE_VERSION = 2;

export const exportText = (bundle: CaseBundle): string =>
  `${JSON.stringify({ format: FILE_FORMAT, version: FILE_VERSION, ...bundle }, null, 1)}\n`;

const object = (value: unknown, path: string): Record<string, unknown> => {
  if (typeof value === 'object' && value !== null && !Array.isArray(value))
    return value as Record<string, unknown>;
  throw new DocumentError(
    'invalid',
    path,
    value === undefined ? 'is missing' : 'is no object',
    'Choose a file that Chromatheca exported, unchanged.',
  );
};

/** Reads a case file. @throws DocumentError naming the path and the remedy */
export function importText(text: string): CaseBundle {
  const file = parseObject(text);
  if (file.format !== FILE_FORMAT) {
    throw new DocumentError(
      'invalid',
      'format',
      'this is no Chromatheca case file',
      'Choose a file that Chromatheca exported.',
    );
  }
  if (typeof file.version === 'number' && file.version > FILE_VERSION) {
    throw new DocumentError(
      'newer',
      'version',
      `is ${file.version}; this app knows versions up to ${FILE_VERSION}`,
      'Open it with the newer Chromatheca that wrote it. Nothing was changed.',
    );
  }
  const doc = validate(caseSchema, object(file.case, 'case'), CASE_VERSION, CASE_MIGRATIONS, 'case');
  const bundle: CaseBundle = {
    case: doc,
    history: validate(
      historySchema,
      object(file.history, 'history'),
      HISTORY_VERSION,
      HISTORY_MIGRATIONS,
      'history',
    ),
    readings: validate(
      readingsSchema,
      object(file.readings, 'readings'),
      READINGS_VERSION,
      READINGS_MIGRATIONS,
      'readings',
    ),
    // files of version 1 have no log
    log:
      file.log === undefined && file.version === 1
        ? emptyLog(doc.id)
        : validate(logSchema, object(file.log, 'log'), LOG_VERSION, LOG_MIGRATIONS, 'log'),
  };
  for (const part of ['history', 'readings', 'log'] as const) {
    if (bundle[part].caseId !== bundle.case.id) {
      throw new DocumentError(
        'invalid',
        `${part}.caseId`,
        'belongs to another case',
        'Choose a file that Chromatheca exported, unchanged.',
      );
    }
  }
  return bundle;
}

/** The same case under another id, for importing beside one that is already here. */
export function withId(bundle: CaseBundle, id: string, name: string): CaseBundle {
  return {
    case: { ...bundle.case, id, name },
    history: { ...bundle.history, caseId: id },
    readings: { ...bundle.readings, caseId: id },
    log: { ...bundle.log, caseId: id },
  };
}
