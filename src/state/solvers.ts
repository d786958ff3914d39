import { keepPreviousData, queryOptions, useQuery } from '@tanstack/react-query';
import { useCallback, useEffect, useRef, useState } from 'react';

import type { CarriedDay, CarryTarget, ForeignDay } from '@/core/case/carryDay';
import type { HangAnswer, HangAsk, HangFigures } from '@/core/case/hang';
import type { HistoryDoc } from '@/core/record/history';
import type { LogDoc } from '@/core/record/log';
import type { Calibration } from '@/core/case/calibration';
import type { LitGroup } from '@/core/case/lit';
import type { SwapAnswer, SwapAsk } from '@/core/case/swap';
import type { InHand } from '@/core/case/placing';
import type { Field } from '@/core/optics/field';
import type { HungLamp, Zone } from '@/core/record/zone';
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

const always = { staleTime: Infinity, gcTime: 60_000, networkMode: 'always', retry: 0 } as const;

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

/**
 * Work in the worker, with progress; a new run takes the place of the last, and it can be stopped. It belongs to what was asked
 * about (documents are never changed in place): once that is another, nothing is found and what runs is stopped.
 */
export function useSolver<T>(of: readonly unknown[] = []): Solving<T> & {
  start: (work: (onProgress: (share: number) => boolean) => Promise<T>) => void;
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
  const start = useCallback((work: (onProgress: (share: number) => boolean) => Promise<T>) => {
    const mine = (run.current += 1);
    setAbout(asked.current);
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
    setState(NOTHING);
  }, []);
  const belongs = of.length === about.length && of.every((x, i) => Object.is(x, about[i]));
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

/** Every pattern's day for a group, from the worker; what was there stands until the new ones are. */
export function usePatterns(input: PatternsInput | null): {
  days: PatternAnswer[] | null;
  error: string | null;
  /** they still are those of what was asked before */
  stale: boolean;
} {
  const query = useQuery({
    queryKey: ['patterns', input],
    queryFn: async ({ signal }) => ({
      kind: input!.kind,
      days: await reckoner().patterns(input!, () => !signal.aborted),
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

/** Where lamps of a group could hang. */
export function useHang(of: readonly unknown[]) {
  const { start, ...rest } = useSolver<HangAnswer>(of);
  const look = useCallback(
    (ask: Omit<HangAsk, 'used'>, history: HistoryDoc, log: LogDoc, nowUtc: string) =>
      start((onProgress) => reckoner().hang(ask, history, log, nowUtc, onProgress)),
    [start],
  );
  return { ...rest, look };
}

/** Places for a coral in hand, from the worker; null while the light of the tank is not there. */
export const placingQuery = (
  key: readonly unknown[],
  coral: InHand,
  zone: Zone,
  groups: readonly LitGroup[],
  cal: Calibration,
  field: Field | null,
  shares: ArrayLike<number>,
  ceiling: number,
) =>
  queryOptions({
    queryKey: ['placing', ...key, coral, ceiling],
    queryFn: () => reckoner().placing(coral, zone, groups, cal, field!, shares, ceiling),
    enabled: field !== null,
    placeholderData: keepPreviousData,
    ...always,
  });

/** Ripples, and light from all sides, at a spot, from the worker. */
export const atPlaceQuery = (
  key: readonly unknown[],
  ...asked: Parameters<ReturnType<typeof reckoner>['atPlace']>
) =>
  queryOptions({
    queryKey: ['at place', ...key, ...asked.slice(3)],
    queryFn: () => reckoner().atPlace(...asked),
    placeholderData: keepPreviousData,
    ...always,
  });

/** What lamps would do where a finger holds them: the latest asked is answered, one at a time. */
export function useHangAt(key: string, ask: Omit<HangAsk, 'used'>) {
  const [figures, setFigures] = useState<HangFigures | null>(null);
  const busy = useRef(false);
  const next = useRef<(() => void) | null>(null);
  const look = useCallback(
    (lamps: HungLamp[], diffuserShare: number, capShare: number) => {
      const run = () => {
        busy.current = true;
        next.current = null;
        reckoner()
          .hangAt(key, ask, lamps, diffuserShare, capShare)
          .then(setFigures, () => undefined)
          .finally(() => {
            busy.current = false;
            next.current?.();
          });
      };
      if (busy.current) next.current = run;
      else run();
    },
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the key says what is asked
    [key],
  );
  return { figures, look, clear: () => setFigures(null) };
}

/** Other lamps in place of some that run. */
export function useSwap(of: readonly unknown[]) {
  const { start, ...rest } = useSolver<SwapAnswer>(of);
  const look = useCallback(
    (ask: SwapAsk) => start((onProgress) => reckoner().swap(ask, onProgress)),
    [start],
  );
  return { ...rest, look };
}
