/** From so many items on a list is worth being written ahead. */
const LONG = 500;
/** Items between two looks at how much time is left. */
const AT_ONCE = 200;

/** Items as JSON. Documents are never changed in place: what was written once stays right. */
const texts = new WeakMap<object, string>();
const itemText = (item: unknown): string => {
  if (typeof item !== 'object' || item === null) return JSON.stringify(item) ?? 'null';
  let text = texts.get(item);
  if (text === undefined) texts.set(item, (text = JSON.stringify(item)));
  return text;
};
const isLong = (x: unknown): x is unknown[] => Array.isArray(x) && x.length >= LONG;
const isAhead = (x: unknown): x is object[] => isLong(x) && typeof x[0] === 'object' && texts.has(x[0]!);

/** A document as `JSON.stringify` writes it; of lists that were written ahead only what is new is written. */
export function documentText(doc: object): string {
  const members = Object.entries(doc) as [string, unknown][];
  if (!members.some(([, own]) => isAhead(own))) return JSON.stringify(doc);
  return `{${members
    .filter(([, own]) => own !== undefined)
    .map(
      ([key, own]) =>
        `${JSON.stringify(key)}:${isAhead(own) ? `[${own.map(itemText).join()}]` : JSON.stringify(own)}`,
    )
    .join()}}`;
}

/** Writes the long lists of a document ahead, in moments in which nothing else is done: ten years of records are kept by one more. */
export function writeAhead(doc: object): void {
  if (typeof requestIdleCallback !== 'function') return;
  for (const list of Object.values(doc).filter(isLong)) {
    // the first item last: with it the list counts as written
    let at = list.length;
    const more = (left: IdleDeadline): void => {
      do for (const from = at; at > 0 && from - at < AT_ONCE;) itemText(list[(at -= 1)]);
      while (at > 0 && left.timeRemaining() > 2);
      if (at > 0) requestIdleCallback(more);
    };
    requestIdleCallback(more);
  }
}
