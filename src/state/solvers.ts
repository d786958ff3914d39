import { keepPreviousData, queryOptions, useQuery } from '@tanstack/react-query';
import { useCallback, useRef, useState } from 'react';

import type { CarriedDay, CarryTarget, ForeignDay } from '@/core/case/carryDay';
import type { Doable } from '@/core/case/doable';
import type { PatternDay, PatternId, PatternsInput } from '@/core/case/patterns';
import type { ChannelWorth, FittedDay } from '@/core/controller/fit';
import type { ResolvedThread } from '@/core/day/thread';
import type { Answer, DesignInput } from '@/core/mix/design';
import type { Levels } from '@/core/spectrum/controls';
import type { ControllerProfile, LampKind } from '@/core/spectrum/lamp';
import type { LampAsk, LampWay } from '@/core/refugium/lampFor';
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

export interface Solving<T> {
  /** 0..1 while it runs */
  progress: number | null;
  found: T | null;
  error: string | null;
}

/** Work in the worker, with progress; a new run takes the place of the last, and it can be stopped. */
export function useSolver<T>(): Solving<T> & {
  start: (work: (onProgress: (share: number) => boolean) => Promise<T>) => void;
  cancel: () => void;
  clear: () => void;
} {
  const [state, setState] = useState<Solving<T>>({ progress: null, found: null, error: null });
  const run = useRef(0);
  const cancel = useCallback(() => {
    run.current += 1;
    setState((s) => ({ ...s, progress: null }));
  }, []);
  const start = useCallback((work: (onProgress: (share: number) => boolean) => Promise<T>) => {
    const mine = (run.current += 1);
    setState({ progress: 0, found: null, error: null });
    work((share) => {
      if (run.current !== mine) return false;
      setState((s) => ({ ...s, progress: share }));
      return true;
    }).then(
      (found) => run.current === mine && setState({ progress: null, found, error: null }),
      (error: Error) =>
        run.current === mine && setState({ progress: null, found: null, error: error.message }),
    );
  }, []);
  const clear = useCallback(() => {
    run.current += 1;
    setState({ progress: null, found: null, error: null });
  }, []);
  return { ...state, start, cancel, clear };
}

/** A design of mixes. */
export function useDesign() {
  const { start, found, ...rest } = useSolver<Answer[]>();
  return {
    ...rest,
    answers: found,
    start: (input: DesignInput) => start((onProgress) => reckoner().design(input, onProgress)),
  };
}

/** A day fitted to a controller. */
export function useFit() {
  const { start, ...rest } = useSolver<FittedDay>();
  const fit = useCallback(
    (kind: LampKind, threads: ResolvedThread[], worth: ChannelWorth, controller: ControllerProfile) =>
      start((onProgress) => reckoner().fitDay(kind, threads, worth, controller, onProgress)),
    [start],
  );
  return { ...rest, fit };
}

/** A day carried to another lamp. */
export function useCarry() {
  const { start, ...rest } = useSolver<CarriedDay>();
  const carry = useCallback(
    (source: ForeignDay, target: CarryTarget) => start(() => reckoner().carryDay(source, target)),
    [start],
  );
  return { ...rest, carry };
}

/** Days that a controller can run with the present light. */
export function useDoable() {
  const { start, ...rest } = useSolver<Doable[]>();
  const look = useCallback(
    (...input: [Omit<PatternsInput, 'wantedDli'>, ResolvedThread[], ChannelWorth, ControllerProfile]) =>
      start((onProgress) => reckoner().doable(...input, onProgress)),
    [start],
  );
  return { ...rest, look };
}

/** Ways to light a mat of algae, with what was asked: what is found belongs to that, whatever is chosen since. */
export function useLampFor() {
  const { start, found, ...rest } = useSolver<{ ask: LampAsk; ways: LampWay[] }>();
  const look = useCallback(
    (ask: LampAsk) => start(async (onProgress) => ({ ask, ways: await reckoner().lampFor(ask, onProgress) })),
    [start],
  );
  return { ...rest, found, look };
}

/** Every pattern's day for a group, from the worker; what was there stands until the new ones are. */
export function usePatterns(input: PatternsInput | null): {
  days: Record<PatternId, PatternDay> | null;
  error: string | null;
} {
  const query = useQuery({
    queryKey: ['patterns', input],
    queryFn: ({ signal }) => reckoner().patterns(input!, () => !signal.aborted),
    enabled: input !== null,
    placeholderData: keepPreviousData,
    ...always,
  });
  return { days: query.data ?? null, error: query.error?.message ?? null };
}
