import { dequal } from 'dequal';

import { isObject } from './read';

/** Two states of a document put together, and what could not be: there ours stays. */
export interface Merged<T> {
  value: T;
  /** how many values came from theirs */
  taken: number;
  /** where both were changed, each in its own way: paths such as "zones.display.name" */
  both: string[];
}

const ABSENT = Symbol('absent');
type Value = unknown;

/** Items that are told apart by an id. */
const listed = (v: Value): v is { id: string }[] =>
  Array.isArray(v) && v.every((x) => isObject(x) && typeof x.id === 'string');
const hasIds = (...all: readonly Value[]): boolean =>
  all.every((v) => v === ABSENT || listed(v)) && all.some((v) => listed(v) && v.length > 0);

/**
 * Puts together what two devices made of one document since they parted: what only one of them changed is taken from that one, by field
 * and by item of every list whose items carry ids; what both changed stays as it is here and is named.
 * @param base how it was when they parted; undefined = not known: then nothing counts as removed, and what differs stays as it is here
 */
export function mergeDocuments<T>(base: T | undefined, ours: T, theirs: T): Merged<T> {
  let taken = 0;
  const both: string[] = [];
  const known = base !== undefined;
  const merge = (was: Value, mine: Value, other: Value, path: string): Value => {
    if (mine === other || dequal(mine, other)) return mine;
    // without what it was, what is only on one side was added there
    if (!known && (mine === ABSENT || other === ABSENT)) {
      if (mine === ABSENT) taken += 1;
      return mine === ABSENT ? other : mine;
    }
    if (known && dequal(was, mine)) {
      taken += 1;
      return other;
    }
    if (known && dequal(was, other)) return mine;
    if (hasIds(mine, other) && listed(mine) && listed(other)) return lists(was, mine, other, path);
    if (isObject(mine) && isObject(other)) return objects(was, mine, other, path);
    both.push(path);
    return mine;
  };
  const within = (path: string, key: string) => (path === '' ? key : `${path}.${key}`);
  const objects = (was: Value, mine: object, other: object, path: string): Value => {
    const of = (o: Value, key: string): Value =>
      isObject(o) && Object.hasOwn(o, key) ? (o as Record<string, Value>)[key] : ABSENT;
    const out: [string, Value][] = [];
    for (const key of new Set([...Object.keys(mine), ...Object.keys(other)])) {
      const value = merge(of(was, key), of(mine, key), of(other, key), within(path, key));
      if (value !== ABSENT) out.push([key, value]);
    }
    return Object.fromEntries(out);
  };
  const lists = (was: Value, mine: { id: string }[], other: { id: string }[], path: string): Value => {
    const by = (list: Value) => new Map(listed(list) ? list.map((x) => [x.id, x]) : []);
    const [before, own, others] = [by(was), by(mine), by(other)];
    const one = (id: string) =>
      merge(before.get(id) ?? ABSENT, own.get(id) ?? ABSENT, others.get(id) ?? ABSENT, within(path, id));
    // in our order, theirs behind
    return [...mine.map((x) => x.id), ...other.filter((x) => !own.has(x.id)).map((x) => x.id)]
      .map(one)
      .filter((v) => v !== ABSENT);
  };
  return { value: merge(known ? base : ABSENT, ours, theirs, '') as T, taken, both };
}
