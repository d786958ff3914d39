import { type ComponentType, lazy, type LazyExoticComponent, Suspense, useState } from 'react';

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
 */
export function part<P extends object>(load: () => Promise<ComponentType<P>>): ComponentType<P> {
  later(load);
  const asked = (): LazyExoticComponent<ComponentType<P>> =>
    lazy(async () => {
      try {
        return { default: await load() };
      } catch (error) {
        Part = asked();
        throw error;
      }
    });
  let Part = asked();
  return function Later(props: P) {
    const [Shown] = useState(() => Part);
    return (
      <Fetched>
        <Suspense fallback={null}>
          <Shown {...props} />
        </Suspense>
      </Fetched>
    );
  };
}
