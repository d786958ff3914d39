import * as v from 'valibot';

import { id } from '../shape/shape';
import { type CaseBundle, kindOfPart, type Part, PARTS } from './documents';
import { inCase, type LeftOut, readDocument } from './documentKind';
import { bad, good, isObject, type Loose, parseObject, type Read } from './read';

/** The case file: everything of one case in one JSON document (docs/formats.md). */
const FILE_FORMAT = 'chromatheca-file';
const FILE_VERSION = 2;

/** @param states names under which this state of it, and those it came from, are known to whoever parts from it */
export const exportText = (bundle: CaseBundle, states: readonly string[] = []): string =>
  `${JSON.stringify({ format: FILE_FORMAT, version: FILE_VERSION, ...(states.length > 0 ? { states } : {}), ...bundle }, null, 1)}\n`;

/** More names of states than this no file carries. */
const MOST_STATES = 8;
const statesOf = ({ states }: Loose): string[] =>
  Array.isArray(states) ? states.filter((s): s is string => v.is(id, s)).slice(0, MOST_STATES) : [];

/** The documents of a case as they were found, in a file that import reads: what is no JSON stands there as text. */
export const foundText = (texts: Partial<Record<Part, string | null>>): string => {
  const parts = PARTS.flatMap((part): [string, unknown][] => {
    const text = texts[part];
    if (text === null || text === undefined) return [];
    const parsed = parseObject(text);
    return [[part, parsed.ok ? parsed.value : text]];
  });
  return JSON.stringify({ format: FILE_FORMAT, version: FILE_VERSION, ...Object.fromEntries(parts) });
};

/** A file as it was read, with what had to be left out of it. */
export type FileContent =
  | { is: 'case'; bundle: CaseBundle; left: LeftOut[]; states: string[] }
  /** some entries of a case: what was set aside of it, or one of its documents */
  | {
      is: 'part';
      part: Exclude<Part, 'case'>;
      caseId: string;
      doc: CaseBundle[Exclude<Part, 'case'>];
      left: LeftOut[];
    };

/**
 * Reads a case file as it stands: any fault is the answer. With `repair`, entries and documents that cannot be read are left out
 * and told, as long as the case itself can be read.
 */
function readCase(file: Loose, repair: ((left: LeftOut) => void) | null): Read<CaseBundle> {
  const parts: [Part, object][] = [];
  let caseId: string | undefined;
  for (const part of PARTS) {
    const kind = kindOfPart(part);
    const found = file[part];
    const without = kind.empty?.(caseId ?? '') ?? null;
    // files of version 1 have no log
    if (found === undefined && without !== null && (repair || file.version === 1)) {
      if (repair && file.version !== 1)
        repair({ at: part, path: part, problem: 'is missing', list: part, item: undefined });
      parts.push([part, without]);
      continue;
    }
    const told: LeftOut[] = [];
    const read = readDocument(kind, found, {
      prefix: part,
      ...(part === 'case' ? {} : { caseId }),
      ...(repair ? { repair: (l: LeftOut) => told.push({ ...l, path: `${part}.${l.path}` }) } : {}),
    });
    if (read.ok) {
      told.forEach((l) => repair?.(l));
      parts.push([part, read.value]);
      if (part === 'case') caseId = (read.value as { id: string }).id;
      continue;
    }
    if (!repair || without === null || read.problem.kind === 'newer') return read;
    repair({ at: part, path: read.problem.path, problem: read.problem.problem, list: part, item: found });
    parts.push([part, without]);
  }
  return good(Object.fromEntries(parts) as unknown as CaseBundle);
}

function checkedFile(text: string): Read<Loose> {
  const parsed = parseObject(text);
  if (!parsed.ok) return parsed;
  const file = parsed.value;
  if (typeof file.version === 'number' && file.format === FILE_FORMAT && file.version > FILE_VERSION)
    return bad(
      'newer',
      'version',
      `is ${file.version}; this app knows versions up to ${FILE_VERSION}`,
      'Open it with the newer Chromatheca that wrote it. Nothing was changed.',
    );
  return parsed;
}

const NO_FILE = bad(
  'invalid',
  'format',
  'this is no Chromatheca case file',
  'Choose a file that Chromatheca exported.',
);

/** Reads a case file strictly: any fault is named with its path and the remedy. */
export function importText(text: string): Read<CaseBundle> {
  const file = checkedFile(text);
  if (!file.ok) return file;
  return file.value.format === FILE_FORMAT ? readCase(file.value, null) : NO_FILE;
}

/** Reads whatever this app ever gave out: case files, single documents, what was set aside; repaired where that can be. */
export function readFile(text: string): Read<FileContent> {
  const checked = checkedFile(text);
  if (!checked.ok) return checked;
  // what was set aside stands in a frame that says where it came from
  const framed = checked.value;
  if (typeof framed.text === 'string' && typeof framed.from === 'string') return readFile(framed.text);
  // last words of a closed page hold a whole case
  const file = isObject(framed.bundle)
    ? { format: FILE_FORMAT, version: FILE_VERSION, ...framed.bundle }
    : framed;
  const left: LeftOut[] = [];
  if (file.format === FILE_FORMAT) {
    const read = readCase(file, (l) => left.push(l));
    return read.ok ? good({ is: 'case', bundle: read.value, left, states: statesOf(file) }) : read;
  }
  const part = PARTS.find((p) => kindOfPart(p).format === file.format);
  if (part === undefined) return NO_FILE;
  if (part === 'case') {
    const read = readCase({ format: FILE_FORMAT, version: 1, case: file }, (l) => left.push(l));
    return read.ok ? good({ is: 'case', bundle: read.value, left, states: statesOf(file) }) : read;
  }
  const read = readDocument(kindOfPart(part), file, { repair: (l) => left.push(l) });
  if (!read.ok) return read;
  const doc = read.value as CaseBundle[typeof part];
  return good({ is: 'part', part, caseId: doc.caseId, doc, left });
}

/** What of a document's lists another does not have yet, by id, put behind what it has. */
export function mergedDocument<P extends Part>(part: P, into: CaseBundle[P], from: CaseBundle[P]) {
  let added = 0;
  const lists = Object.keys(kindOfPart(part).lists).map((list) => {
    const items = (doc: CaseBundle[P]) => (doc as unknown as Record<string, { id: string }[]>)[list]!;
    const known = new Set(items(into).map((x) => x.id));
    const fresh = items(from).filter((x) => !known.has(x.id));
    added += fresh.length;
    return [list, [...items(into), ...fresh]] as const;
  });
  return { doc: { ...into, ...Object.fromEntries(lists) } as CaseBundle[P], added };
}

/** The same case under another id, for importing beside one that is already here. */
export function withId(bundle: CaseBundle, id: string, name: string): CaseBundle {
  const parts = PARTS.map((part) => [part, inCase(kindOfPart(part), bundle[part], id)] as const);
  const made = Object.fromEntries(parts) as unknown as CaseBundle;
  return { ...made, case: { ...made.case, name } };
}
