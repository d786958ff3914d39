import { queryOptions } from '@tanstack/react-query';
import { useCallback, useRef, useState } from 'react';

import type { Answer, DesignInput } from '@/core/mix/design';
import type { Levels } from '@/core/spectrum/controls';
import type { LampKind } from '@/core/spectrum/lamp';
import { reckoner } from '@/workers/client';

const always = { staleTime: Infinity, gcTime: 60_000, networkMode: 'always', retry: 0 } as const;

/** A mix inside the camera's range, from the worker; null when the lamp has none. */
export const photographQuery = (kind: LampKind, mix: Levels, through: Float64Array, fixed: Levels) =>
  queryOptions({
    queryKey: ['photograph', kind, mix, fixed, through[90], through[300]],
    queryFn: () => reckoner().photograph(kind, mix, through, fixed),
    ...always,
  });

/** A light carried to a lamp, from the worker. */
export const carryQuery = (name: string, source: Float64Array, kind: LampKind, through: Float64Array) =>
  queryOptions({
    queryKey: [
      'carry',
      name,
      kind,
      source.reduce((s, v, i) => s + v * (i + 1), 0),
      through[90],
      through[300],
    ],
    queryFn: () => reckoner().carry(source, kind, through, {}),
    ...always,
  });

export interface DesignState {
  /** 0..1 while it runs */
  progress: number | null;
  answers: Answer[] | null;
  error: string | null;
}

/** A design run in the worker, with progress; a new one takes the place of the last, and it can be stopped. */
export function useDesign(): DesignState & {
  start: (input: DesignInput) => void;
  cancel: () => void;
  clear: () => void;
} {
  const [state, setState] = useState<DesignState>({ progress: null, answers: null, error: null });
  const run = useRef(0);
  const cancel = useCallback(() => {
    run.current += 1;
    setState((s) => ({ ...s, progress: null }));
  }, []);
  const start = useCallback((input: DesignInput) => {
    const mine = (run.current += 1);
    setState({ progress: 0, answers: null, error: null });
    reckoner()
      .design(input, (share) => {
        if (run.current !== mine) return false;
        setState((s) => ({ ...s, progress: share }));
        return true;
      })
      .then(
        (answers) => run.current === mine && setState({ progress: null, answers, error: null }),
        (error: Error) =>
          run.current === mine && setState({ progress: null, answers: null, error: error.message }),
      );
  }, []);
  const clear = useCallback(() => setState({ progress: null, answers: null, error: null }), []);
  return { ...state, start, cancel, clear };
}
