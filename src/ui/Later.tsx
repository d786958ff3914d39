import { type ReactNode, useDeferredValue } from 'react';

/** What need not be drawn within a press or under a finger: it follows in slices, and stands as it was until then. Nothing that is stepped. */
export const Later = ({ children }: { children: ReactNode }): ReactNode => useDeferredValue(children);
