import { sharedEnds } from '@/core/shape/ends';

/** From so many items on a list is worth being written ahead. */
const LONG = 500;
/** Items between two looks at how much time is left. */
const AT_ONCE = 200;

/** The latest text of a long list, without its brackets, by its first item. Documents are never changed in place. */
const texts = new WeakMap<object, { list: readonly unknown[]; text: string }>();
const itemsText = (items: readonly unknown[]): string => JSON.stringify(items).slice(1, -1);
const isLong = (x: unknown): x is object[] =>
  Array.isArray(x) && x.length >= LONG && typeof x[0] === 'object' && x[0] !== null;
const isAhead = (x: unknown): x is object[] => isLong(x) && texts.has(x[0]!);

/** The items of a list that was written ahead: of more of the same only those are written. */
function aheadText(list: readonly object[]): string {
  const known = texts.get(list[0]!)!;
  const { head } = sharedEnds(known.list, list);
  const more = head === known.list.length ? list.slice(head) : null;
  const text = !more ? itemsText(list) : more.length > 0 ? `${known.text},${itemsText(more)}` : known.text;
  texts.set(list[0]!, { list, text });
  return text;
}

/** A document as `JSON.stringify` writes it; of a list that was written ahead only what came to its end is written. */
export function documentText(doc: object): string {
  const members = Object.entries(doc) as [string, unknown][];
  if (!members.some(([, own]) => isAhead(own))) return JSON.stringify(doc);
  return `{${members
    .filter(([, own]) => own !== undefined)
    .map(
      ([key, own]) => `${JSON.stringify(key)}:${isAhead(own) ? `[${aheadText(own)}]` : JSON.stringify(own)}`,
    )
    .join()}}`;
}

/** Writes the long lists of a document ahead, in moments in which nothing else is done: ten years of records are kept by one more. */
export function writeAhead(doc: object): void {
  if (typeof requestIdleCallback !== 'function') return;
  for (const list of Object.values(doc).filter(isLong)) {
    const pieces: string[] = [];
    const more = (left: IdleDeadline): void => {
      do pieces.push(itemsText(list.slice(pieces.length * AT_ONCE, (pieces.length + 1) * AT_ONCE)));
      while (pieces.length * AT_ONCE < list.length && left.timeRemaining() > 2);
      if (pieces.length * AT_ONCE < list.length) requestIdleCallback(more);
      else if (!texts.has(list[0]!)) texts.set(list[0]!, { list, text: pieces.join() });
    };
    requestIdleCallback(more);
  }
}
