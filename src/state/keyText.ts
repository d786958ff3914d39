import { hashKey, type QueryKey } from '@tanstack/react-query';

const texts = new WeakMap<object, string>();

/** What a query is told apart by, as text: what a key is made of is written once for as long as it is the same object. */
export const keyText = (key: QueryKey): string =>
  key
    .map((part) => {
      if (typeof part !== 'object' || part === null) return JSON.stringify(part);
      let text = texts.get(part);
      if (text === undefined) texts.set(part, (text = hashKey([part])));
      return text;
    })
    .join();
