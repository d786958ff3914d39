import fc from 'fast-check';

import type { CaseBundle } from '@/core/record/documents';
import { displayCase } from '@/demo/lagoon';

import { statesBack, undoText, wayBack } from './undo';

const bundle = displayCase(Date.UTC(2026, 10, 24), 'UTC');
/** A bundle whose log is anything. */
const having = (events: unknown): CaseBundle => ({
  ...bundle,
  log: { ...bundle.log, events: events as CaseBundle['log']['events'] },
});
const asJson = (x: unknown): unknown => JSON.parse(JSON.stringify(x));
const back = (after: CaseBundle, before: CaseBundle) => {
  const way = asJson(wayBack('x', after, before)) as ReturnType<typeof wayBack>;
  return { way, found: statesBack(after, [way], () => true)[0] };
};

test('the way back leads from anything to anything that can be stored', () => {
  fc.assert(
    fc.property(fc.jsonValue(), fc.jsonValue(), (a, b) => {
      const [after, before] = [having({ a, 'odd/~key': a }), having({ b, 'odd/~key': b })];
      expect(asJson(back(after, before).found)).toEqual(asJson(before));
    }),
    { seed: 21, numRuns: 300 },
  );
});

test('of a list that shares most with the other only what differs is written, wherever it is', () => {
  const item = fc.record({ id: fc.integer({ min: 0, max: 9 }), note: fc.string({ maxLength: 3 }) });
  const edit = fc.record({
    ...{ at: fc.nat(20), gone: fc.nat(4) },
    come: fc.array(item, { maxLength: 4 }),
  });
  fc.assert(
    fc.property(fc.array(item, { maxLength: 20 }), fc.array(edit, { maxLength: 3 }), (list, edits) => {
      const changed = edits.reduce((l, { at, gone, come }) => l.toSpliced(at, gone, ...come), list);
      const { way, found } = back(having(list), having(changed));
      expect(asJson(found!.log.events)).toEqual(asJson(changed));
      if (edits.length === 1)
        expect(way.back.log!.length).toBeLessThanOrEqual(2 * Math.max(edits[0]!.gone, edits[0]!.come.length));
    }),
    { seed: 22, numRuns: 300 },
  );
});

test('an entry more among very many is one operation, found in no time', () => {
  const many = Array.from({ length: 50_000 }, (_, i) => ({ id: `n${i}`, note: 'n' }));
  const before = having(many);
  const after = having(many.toSpliced(30_000, 0, { id: 'new', note: '' }));
  const began = performance.now();
  const way = wayBack('entry', after, before);
  expect(performance.now() - began).toBeLessThan(100);
  expect(way.back.log).toEqual([{ op: 'remove', path: '/events/30000' }]);
  expect(undoText('r', [way]).length).toBeLessThan(300);
  // what is absent and what is undefined are the same, as they are stored
  const plain = having({ a: 1, b: undefined });
  expect(back(plain, having({ a: 1, c: undefined })).way.back.log).toEqual([]);
});
