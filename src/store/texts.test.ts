import fc from 'fast-check';

import { documentText, writeAhead } from './texts';

const waiting: ((left: { timeRemaining: () => number }) => void)[] = [];
beforeAll(() => {
  Object.assign(globalThis, { requestIdleCallback: (work: (typeof waiting)[number]) => waiting.push(work) });
});
afterAll(() => {
  Reflect.deleteProperty(globalThis, 'requestIdleCallback');
});
/** Lets all idle moments pass. @returns how many it took, each with time for one look */
function pass(): number {
  let moments = 0;
  for (; waiting.length > 0; moments += 1) waiting.shift()!({ timeRemaining: () => 0 });
  return moments;
}
const events = (count: number) => Array.from({ length: count }, (_, i) => ({ id: `e${i}`, note: `n ${i}` }));

test('a list is written ahead in many short moments, and the document is the same text before, between and after', () => {
  const doc = { version: 1, events: events(1100), last: undefined, name: 'a "b"\n' };
  const text = JSON.stringify(doc);
  expect(documentText(doc)).toBe(text);
  writeAhead(doc);
  waiting.shift()!({ timeRemaining: () => 0 });
  expect(documentText(doc)).toBe(text);
  expect(pass()).toBe(5);
  expect(documentText(doc)).toBe(text);
});

test('short lists wait for no moment', () => {
  writeAhead({ events: events(20) });
  expect(waiting).toHaveLength(0);
});

test('what is added, changed, taken out or put elsewhere is in the text; of what is added at the end nothing else is written', () => {
  const doc = { events: events(600), names: events(3) };
  writeAhead(doc);
  pass();
  const write = jest.spyOn(JSON, 'stringify');
  const more = { ...doc, events: [...doc.events, { id: 'new', note: 'x' }] };
  const text = documentText(more);
  const written = write.mock.results.reduce((sum, r) => sum + (r.value as string).length, 0);
  write.mockRestore();
  expect(text).toBe(JSON.stringify(more));
  expect(written).toBeLessThan(200);
  expect(documentText(more)).toBe(text);
  expect(documentText(doc)).toBe(JSON.stringify(doc));
  fc.assert(
    fc.property(
      fc.nat(600),
      fc.nat(2),
      fc.nat(599),
      fc.oneof(fc.jsonValue(), fc.constant(undefined), fc.object()),
      (at, out, from, put) => {
        const list: unknown[] = [...doc.events];
        list.splice(at, out, put, ...list.slice(from, from + 3));
        const changed = { ...doc, events: list, put };
        expect(documentText(changed)).toBe(JSON.stringify(changed));
      },
    ),
    { seed: 4, numRuns: 300 },
  );
});
