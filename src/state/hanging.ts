import { keepPreviousData, queryOptions } from '@tanstack/react-query';
import { useCallback, useEffect, useRef, useState } from 'react';

import { type Calibration, calibrationKey } from '@/core/case/calibration';
import type { ChooseAsk, LampChoice } from '@/core/case/choose';
import type { HangAnswer, HangAsk, HangFigures } from '@/core/case/hang';
import { type LitGroup, rigKey } from '@/core/case/lit';
import type { Hand } from '@/core/case/placing';
import type { SwapAnswer, SwapAsk } from '@/core/case/swap';
import type { WholeAsk, WholeWay } from '@/core/case/whole';
import type { Field } from '@/core/optics/field';
import type { HistoryDoc } from '@/core/record/history';
import type { LogDoc } from '@/core/record/log';
import type { HungLamp, Zone } from '@/core/record/zone';
import type { LampKind } from '@/core/spectrum/lampKind';
import { reckoner } from '@/workers/client';

import { always, useSolver } from './solvers';
import { nowUtcIso } from './time';

/** What is asked about lamps over a tank, as a key: their light and its doubt, their days, who wants what, and what else is asked. */
export const hangKey = (
  groups: readonly LitGroup[],
  zone: Zone,
  cal: Calibration,
  more: readonly unknown[],
): string =>
  JSON.stringify([
    rigKey(groups, zone, zone.spots, cal),
    calibrationKey(cal),
    groups.map((g) => [g.threads, g.day.capShare]),
    zone.spots.map((s) => [s.need, s.wants]),
    more,
  ]);

/** What corals are used to is another within days: within the hour an answer stands. */
const hourOf = (nowUtc: string): string => nowUtc.slice(0, 13);

/** Looks anew whenever the key of what is asked changes; not at all while there is nothing to ask. */
export function useLookAgain<Ask>(
  key: string,
  ask: Ask | null,
  look: (key: string, ask: Ask, history: HistoryDoc, log: LogDoc, nowUtc: string) => void,
  { history, log }: { history: HistoryDoc; log: LogDoc },
): void {
  const latest = useRef({ ask, history, log });
  latest.current = { ask, history, log };
  useEffect(() => {
    const now = latest.current;
    if (now.ask) look(key, now.ask, now.history, now.log, nowUtcIso());
  }, [key, look]);
}

/** Where lamps of a group could hang. */
export function useHang(of: readonly unknown[]) {
  const { start, ...rest } = useSolver<HangAnswer>(of);
  const look = useCallback(
    (key: string, ask: Omit<HangAsk, 'used'>, history: HistoryDoc, log: LogDoc, nowUtc: string) =>
      start(
        (onProgress) => reckoner().hang(ask, history, log, nowUtc, onProgress),
        ['hang', key, history, log, hourOf(nowUtc)],
      ),
    [start],
  );
  return { ...rest, look };
}

/** Places for a coral in hand, from the worker; null while the light of the tank is not there. */
export const placingQuery = (
  key: readonly unknown[],
  coral: Hand,
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
    (lamps: HungLamp[], kind: LampKind, capShare: number) => {
      const run = () => {
        busy.current = true;
        next.current = null;
        reckoner()
          .hangAt(key, ask, lamps, kind, capShare)
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

/** Which lamps would do. */
export function useChoose(of: readonly unknown[]) {
  const { start, ...rest } = useSolver<LampChoice[]>(of);
  const look = useCallback(
    (key: string, ask: Omit<ChooseAsk, 'used'>, history: HistoryDoc, log: LogDoc, nowUtc: string) =>
      start(
        (onProgress) => reckoner().choose(ask, history, log, nowUtc, onProgress),
        ['choose', key, history, log, hourOf(nowUtc)],
      ),
    [start],
  );
  return { ...rest, look };
}

/** Lamps, mix, day and places of a whole tank. */
export function useWhole(of: readonly unknown[]) {
  const { start, ...rest } = useSolver<WholeWay[]>(of);
  const look = useCallback(
    (key: string, ask: Omit<WholeAsk, 'used'>, history: HistoryDoc, log: LogDoc, nowUtc: string) =>
      start(
        (onProgress) => reckoner().whole(ask, history, log, nowUtc, onProgress),
        ['whole', key, history, log, hourOf(nowUtc)],
      ),
    [start],
  );
  return { ...rest, look };
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
