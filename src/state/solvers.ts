import { queryOptions } from '@tanstack/react-query';

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
