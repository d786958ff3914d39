import {
  type ComponentType,
  lazy,
  type LazyExoticComponent,
  startTransition,
  Suspense,
  useEffect,
  useState,
} from 'react';

import { Fetched } from './Fetched';

/** What fetches the parts of the app that the page came without. */
const parts = new Set<() => Promise<unknown>>();

/** Names something that is fetched when it is asked for; in a quiet moment it is fetched anyway. */
export function later<T>(load: () => Promise<T>): () => Promise<T> {
  parts.add(load);
  return load;
}

const quiet = (): Promise<void> =>
  new Promise((resolve) => {
    if (typeof requestIdleCallback === 'function') requestIdleCallback(() => resolve(), { timeout: 2000 });
    else setTimeout(resolve, 200);
  });

/** Fetches every part, one quiet moment each, so that all goes on when the server is gone; what fails is asked for when it is opened. */
export async function fetchParts(): Promise<void> {
  for (const load of parts) {
    await quiet();
    await load().catch(() => undefined);
  }
}

/**
 * A component whose code is fetched when it is first drawn. Until it is there nothing stands in its place; where it cannot be
 * fetched that is said, and the next time it is opened it is asked for again.
 *
 * What is here already is drawn without waiting: React holds back for 300 ms whatever comes in the place of a fallback. It is drawn
 * a little at a time all the same, so that a press is never held up by it.
 * @param here what came with the page
 */
export function part<P extends object>(
  load: () => Promise<ComponentType<P>>,
  here?: ComponentType<P>,
): ComponentType<P> {
  const fetched = later(async () => (here = await load()));
  const asked = (): LazyExoticComponent<ComponentType<P>> =>
    lazy(async () => {
      try {
        return { default: await fetched() };
      } catch (error) {
        Part = asked();
        throw error;
      }
    });
  let Part = asked();
  return function Later(props: P) {
    const [Shown] = useState(() => here ?? Part);
    const [due, setDue] = useState(Shown !== here);
    useEffect(() => startTransition(() => setDue(true)), []);
    if (!due) return null;
    return (
      <Fetched>
        <Suspense fallback={null}>
          <Shown {...props} />
        </Suspense>
      </Fetched>
    );
  };
}
