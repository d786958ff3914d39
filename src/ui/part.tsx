import { type ComponentType, lazy, type LazyExoticComponent, Suspense, useState } from 'react';

import { Fetched } from './Fetched';

/**
 * A component whose code is fetched when it is first drawn. Until it is there nothing stands in its place; where it cannot be
 * fetched that is said, and the next time it is opened it is asked for again.
 */
export function part<P extends object>(load: () => Promise<ComponentType<P>>): ComponentType<P> {
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
