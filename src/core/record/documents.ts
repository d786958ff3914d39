import type { DocumentKind } from './documentKind';
import { DOCUMENTS } from './registry';

export type Part = keyof typeof DOCUMENTS;
type DocOf<K> = K extends DocumentKind<infer T> ? T : never;
/** A case with its parts. */
export type CaseBundle = { [P in Part]: DocOf<(typeof DOCUMENTS)[P]> };

export const PARTS = Object.keys(DOCUMENTS) as Part[];
export const kindOfPart = (part: Part): DocumentKind => DOCUMENTS[part] as unknown as DocumentKind;

/** A case that has nothing but its own document yet. */
export const bundleOf = (doc: CaseBundle['case']): CaseBundle =>
  Object.fromEntries(
    PARTS.map((part) => [part, kindOfPart(part).empty?.(doc.id) ?? doc]),
  ) as unknown as CaseBundle;
