import { keepPreviousData, queryOptions, useQuery } from '@tanstack/react-query';
import { useCallback, useEffect, useRef, useState } from 'react';

import type { CarriedDay, CarryTarget, ForeignDay } from '@/core/case/carryDay';
import type { DisputeAnswer } from '@/core/case/disputes';
import type { Doable } from '@/core/case/doable';
import type { PatternAnswer, PatternsInput } from '@/core/case/patterns';
import type { FitAnswer, FitAsk } from '@/core/controller/answers';
import type { ChannelWorth } from '@/core/controller/fit';
import type { ResolvedThread } from '@/core/day/thread';
import type { Answer } from '@/core/mix/design';
import type { DesignInput } from '@/core/mix/aims';
import type { Levels, ControllerProfile, LampKind } from '@/core/spectrum/lampKind';
import type { LampAsk, LampWay } from '@/core/refugium/lampFor';
import { reckoner } from '@/workers/client';

export const always = { staleTime: Infinity, gcTime: 60_000, networkMode: 'always', retry: 0 } as const;

/** A spectrum in the key of a query: all of it, to six figures. */
const spectrumKey = (s: Float64Array): string => Array.from(s, (x) => x.toPrecision(6)).join();

/** A mix inside the camera's range, from the worker; null when the lamp has none. */
export const photographQuery = (kind: LampKind, mix: Levels, through: Float64Array, fixed: Levels) =>
  queryOptions({
    queryKey: ['photograph', kind, mix, fixed, spectrumKey(through)],
    queryFn: () => reckoner().photograph(kind, mix, through, fixed),
    ...always,
  });

/** A light carried to a lamp, from the worker. */
export const carryQuery = (name: string, source: Float64Array, kind: LampKind, through: Float64Array) =>
  queryOptions({
    queryKey: ['carry', name, kind, spectrumKey(source), spectrumKey(through)],
    queryFn: () => reckoner().carry(source, kind, through, {}),
    ...always,
  });

export interface Solving<T> {
  /** 0..1 while it runs */
  progress: number | null;
  found: T | null;
  error: string | null;
}

/** Answers found lately, by what was asked: who goes back to a question has its answer at once. */
const answered: { to: readonly unknown[]; found: unknown }[] = [];
const MOST_ANSWERED = 12;
const same = (a: readonly unknown[], b: readonly unknown[]): boolean =>
  a.length === b.length && a.every((x, i) => Object.is(x, b[i]));

/**
 * Work in the worker, with progress; a new run takes the place of the last, and it can be stopped. It belongs to what was asked
 * about (documents are never changed in place): once that is another, nothing is found and what runs is stopped, as it is when
 * nobody is there any more to see it.
 */
export function useSolver<T>(of: readonly unknown[] = []): Solving<T> & {
  /** @param question all that the answer depends on, where it is to be known again */
  start: (
    work: (onProgress: (share: number) => boolean) => Promise<T>,
    question?: readonly unknown[],
  ) => void;
  cancel: () => void;
  clear: () => void;
} {
  const [state, setState] = useState<Solving<T>>(NOTHING);
  const [about, setAbout] = useState(of);
  const run = useRef(0);
  const asked = useRef(of);
  asked.current = of;
  const cancel = useCallback(() => {
    run.current += 1;
    setState((s) => ({ ...s, progress: null }));
  }, []);
  const start = useCallback(
    (work: (onProgress: (share: number) => boolean) => Promise<T>, question?: readonly unknown[]) => {
      const mine = (run.current += 1);
      const end = (how: Partial<Solving<T>>) => run.current === mine && setState({ ...NOTHING, ...how });
      setAbout(asked.current);
      const known = question && answered.find(({ to }) => same(to, question));
      if (known) {
        end({ found: known.found as T });
        return;
      }
      end({ progress: 0 });
      work((share) => {
        if (run.current !== mine) return false;
        setState((s) => ({ ...s, progress: share }));
        return true;
      }).then(
        (found) => {
          if (question) answered.unshift({ to: question, found });
          answered.splice(MOST_ANSWERED);
          end({ found });
        },
        (error: Error) => end({ error: error.message }),
      );
    },
    [],
  );
  useEffect(() => () => void (run.current += 1), []);
  const clear = useCallback(() => {
    run.current += 1;
    setState(NOTHING);
  }, []);
  const belongs = same(of, about);
  if (!belongs && state !== NOTHING) setState(NOTHING);
  useEffect(() => {
    if (!belongs) run.current += 1;
  }, [belongs]);
  return { ...(belongs ? state : NOTHING), start, cancel, clear };
}
const NOTHING = { progress: null, found: null, error: null };

/** A design of mixes. */
export function useDesign(of: readonly unknown[]) {
  const { start, found, ...rest } = useSolver<Answer[]>(of);
  return {
    ...rest,
    answers: found,
    start: (input: DesignInput) => start((onProgress) => reckoner().design(input, onProgress)),
  };
}

/** Answers of a controller to a day. */
export function useFit(of: readonly unknown[]) {
  const { start, ...rest } = useSolver<FitAnswer[]>(of);
  const fit = useCallback(
    (ask: FitAsk) => start((onProgress) => reckoner().fitDay(ask, onProgress)),
    [start],
  );
  return { ...rest, fit };
}

/** A day carried to another lamp. */
export function useCarry(of: readonly unknown[]) {
  const { start, ...rest } = useSolver<CarriedDay>(of);
  const carry = useCallback(
    (source: ForeignDay, target: CarryTarget) => start(() => reckoner().carryDay(source, target)),
    [start],
  );
  return { ...rest, carry };
}

/** Days that a controller can run with the present light. */
export function useDoable(of: readonly unknown[]) {
  const { start, ...rest } = useSolver<Doable[]>(of);
  const look = useCallback(
    (
      ...input: [
        Omit<PatternsInput, 'wantedDli' | 'present'>,
        ResolvedThread[],
        ChannelWorth,
        ControllerProfile,
      ]
    ) => start((onProgress) => reckoner().doable(...input, onProgress)),
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

export interface Shaped<T> {
  days: T[] | null;
  error: string | null;
  /** they still are those of what was asked before */
  stale: boolean;
}

/** Days for a group, from the worker; what was there stands until the new ones are. */
function useShaped<T>(
  what: string,
  input: PatternsInput | null,
  ask: (input: PatternsInput, onProgress: () => boolean) => Promise<T[]>,
): Shaped<T> {
  const query = useQuery({
    queryKey: [what, input],
    queryFn: async ({ signal }) => ({
      kind: input!.kind,
      days: await ask(input!, () => !signal.aborted),
    }),
    enabled: input !== null,
    placeholderData: keepPreviousData,
    ...always,
  });
  return {
    // days of another lamp mean nothing to this one
    days: query.data && query.data.kind === input?.kind ? query.data.days : null,
    error: query.error?.message ?? null,
    stale: query.isPlaceholderData,
  };
}

/** Every pattern's day. */
export const usePatterns = (input: PatternsInput | null): Shaped<PatternAnswer> =>
  useShaped('patterns', input, (i, go) => reckoner().patterns(i, go));

/** Every school's day, of each question that keepers disagree on. */
export const useDisputes = (input: PatternsInput | null): Shaped<DisputeAnswer> =>
  useShaped('disputes', input, (i, go) => reckoner().disputes(i, go));
