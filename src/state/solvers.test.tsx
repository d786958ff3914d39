import { act, renderHook } from '@testing-library/react';

import { useSolver } from './solvers';

/** Work that the test ends. */
function work() {
  const asks: { onProgress: (share: number) => boolean; answer: (found: string) => void }[] = [];
  const ask = (onProgress: (share: number) => boolean) =>
    new Promise<string>((answer) => void asks.push({ onProgress, answer }));
  return { asks, ask };
}

test('who goes back to a question has its answer at once; another question is asked anew', async () => {
  const { asks, ask } = work();
  const log = {};
  const { result, rerender, unmount } = renderHook(({ key }) => useSolver<string>([key]), {
    initialProps: { key: 'a' },
  });
  act(() => result.current.start(ask, ['a', log]));
  expect(result.current).toMatchObject({ progress: 0, found: null });
  await act(async () => asks[0]!.answer('first'));
  expect(result.current).toMatchObject({ progress: null, found: 'first' });
  rerender({ key: 'b' });
  expect(result.current.found).toBeNull();
  act(() => result.current.start(ask, ['b', log]));
  expect(asks).toHaveLength(2);
  rerender({ key: 'a' });
  act(() => result.current.start(ask, ['a', log]));
  expect(result.current).toMatchObject({ progress: null, found: 'first', error: null });
  expect(asks).toHaveLength(2);
  // what was given up says nothing any more
  expect(asks[1]!.onProgress(0.5)).toBe(false);
  await act(async () => asks[1]!.answer('late'));
  expect(result.current.found).toBe('first');
  // the same words about another log are another question
  act(() => result.current.start(ask, ['a', {}]));
  expect(asks).toHaveLength(3);
  unmount();

  // a page that is opened again knows it still
  const again = renderHook(() => useSolver<string>(['a']));
  act(() => again.result.current.start(ask, ['a', log]));
  expect(again.result.current.found).toBe('first');
  expect(asks).toHaveLength(3);
});

test('what nobody waits for any more is stopped; what is not to be known again is asked each time', async () => {
  const { asks, ask } = work();
  const { result, unmount } = renderHook(() => useSolver<string>());
  act(() => result.current.start(ask));
  await act(async () => asks[0]!.answer('once'));
  act(() => result.current.start(ask));
  expect(asks).toHaveLength(2);
  expect(asks[1]!.onProgress(0.2)).toBe(true);
  unmount();
  expect(asks[1]!.onProgress(0.4)).toBe(false);
});
