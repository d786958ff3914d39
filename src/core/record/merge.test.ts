import fc from 'fast-check';

import { mergeDocuments } from './merge';

const item = (id: string, more: object = {}) => ({ id, name: id, at: { x: 1, y: 2 }, ...more });
const doc = (...items: object[]) => ({ name: 'tank', units: [1, 2], items });

test('what only one changed is taken from that one: fields, items of lists, what was added, what was removed', () => {
  const base = doc(item('a'), item('b'), item('c'));
  const ours = { ...doc(item('a', { at: { x: 9, y: 2 } }), item('b'), item('d')), name: 'ours' };
  const theirs = {
    ...doc(item('a', { at: { x: 1, y: 7 } }), item('c', { name: 'C' }), item('e')),
    units: [3],
  };
  const { value, taken, both } = mergeDocuments(base, ours, theirs);
  expect(value).toEqual({
    name: 'ours',
    units: [3],
    // b was removed there; c was removed here and changed there, which is one of both
    items: [item('a', { at: { x: 9, y: 7 } }), item('d'), item('e')],
  });
  expect(both).toEqual(['items.c']);
  expect(taken).toBe(4);
});

test('what both changed, each in its own way, stays as it is here and is named', () => {
  const base = doc(item('a'));
  const { value, both } = mergeDocuments(base, doc(item('a', { name: 'A' })), doc(item('a', { name: 'α' })));
  expect(value).toEqual(doc(item('a', { name: 'A' })));
  expect(both).toEqual(['items.a.name']);
  // in the same way is no quarrel
  const same = doc(item('a', { name: 'A' }));
  expect(mergeDocuments(base, same, JSON.parse(JSON.stringify(same)) as typeof same)).toEqual({
    value: same,
    taken: 0,
    both: [],
  });
});

test('where it is not known how they parted nothing is removed: all that either has is there', () => {
  const { value, both, taken } = mergeDocuments(
    undefined,
    doc(item('a'), item('b')),
    doc(item('b', { name: 'B' }), item('c')),
  );
  expect(value).toEqual(doc(item('a'), item('b'), item('c')));
  expect(both).toEqual(['items.b.name']);
  expect(taken).toBe(1);
});

const thing = fc.record({
  id: fc.constantFrom('a', 'b', 'c', 'd'),
  n: fc.nat(3),
  o: fc.record({ p: fc.nat(2) }),
});
const things = fc.uniqueArray(thing, { selector: (t) => t.id });
const document = fc.record({ title: fc.nat(2), list: things });

test('of any documents: one side unchanged gives the other; with itself it is itself; no quarrel where only one changed', () => {
  fc.assert(
    fc.property(document, document, (a, b) => {
      const toB = mergeDocuments(a, a, b);
      expect(toB.both).toEqual([]);
      expect(new Set(toB.value.list.map((x) => JSON.stringify(x)))).toEqual(
        new Set(b.list.map((x) => JSON.stringify(x))),
      );
      expect(toB.value.title).toBe(b.title);
      expect(mergeDocuments(a, b, a).value).toEqual(b);
      expect(mergeDocuments(undefined, a, a)).toEqual({ value: a, taken: 0, both: [] });
    }),
    { numRuns: 200, seed: 24 },
  );
});

test('of any three: nothing that either added is lost, and what both left alone is there', () => {
  fc.assert(
    fc.property(document, document, document, (base, a, b) => {
      const ids = (d: typeof base) => new Set(d.list.map((x) => x.id));
      const { value } = mergeDocuments(base, a, b);
      for (const id of [...ids(a), ...ids(b)]) if (!ids(base).has(id)) expect(ids(value).has(id)).toBe(true);
      for (const id of ids(base)) if (ids(a).has(id) && ids(b).has(id)) expect(ids(value).has(id)).toBe(true);
    }),
    { numRuns: 200, seed: 25 },
  );
});
