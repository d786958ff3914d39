import { keepPreviousData, queryOptions, useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback, useRef, useState } from 'react';

import type { Calibration } from '@/core/case/calibration';
import { holdsRows, type HungGroup, rigKey, rigOf, rowNames } from '@/core/case/lit';
import type { Reading, RigGroup } from '@/core/record/readings';
import type { Zone } from '@/core/record/zone';
import { type Field, gridFor } from '@/core/optics/field';
import type { RigSpot, ResponseMatrix } from '@/core/optics/response';
import { reckoner } from '@/workers/client';

import { lights } from './lights';
import type { ModelCheck } from '@/core/check/modelCheck';
import type { SimulatedSession } from '@/workers/service';

export interface FieldState {
  field: Field | null;
  /** 0..1 while it is being computed */
  progress: number | null;
  error: string | null;
  cancel: () => void;
  again: () => void;
}

/** The light in every cell of the water from every lamp and channel at full, from the worker; kept by rig. */
export function useField(groups: readonly HungGroup[], zone: Zone, cal: Calibration): FieldState {
  const client = useQueryClient();
  const [progress, setProgress] = useState(0);
  const queryKey = ['field', rigKey(groups, zone, [], cal)];
  const rows = rowNames(groups).length;
  const grid = gridFor(zone.tank);
  const query = useQuery<Field>({
    queryKey,
    queryFn: ({ signal }) => {
      setProgress(0);
      return lights.field(rigOf(groups, zone, [], cal), grid, (share) => {
        setProgress(share);
        return !signal.aborted;
      });
    },
    enabled: rows > 0,
    staleTime: Infinity,
    gcTime: 10 * 60_000,
    retry: 0,
    networkMode: 'always',
    // the old chart stands until the new one is there, if it fits
    placeholderData: (old) =>
      old && holdsRows(old.names, groups) && old.grid.nx === grid.nx && old.grid.ny === grid.ny
        ? old
        : undefined,
  });
  return {
    field: rows > 0 ? (query.data ?? null) : null,
    progress: query.isFetching ? progress : null,
    error: query.error ? query.error.message : null,
    cancel: () => void client.cancelQueries({ queryKey }),
    again: () => void query.refetch(),
  };
}

/** Light at places that are no spots: the tapped one, those of readings. */
export function usePlaces(
  groups: readonly HungGroup[],
  zone: Zone,
  places: readonly RigSpot[],
  cal: Calibration,
): ResponseMatrix | null {
  const query = useQuery({
    queryKey: ['response', rigKey(groups, zone, places, cal)],
    queryFn: () => lights.response(rigOf(groups, zone, places, cal)),
    enabled: places.length > 0 && groups.length > 0,
    staleTime: Infinity,
    gcTime: 60_000,
    networkMode: 'always',
    placeholderData: keepPreviousData,
  });
  return places.length > 0 && query.data?.spots === places.length ? query.data : null;
}

/** What a simulated meter shows; asked once per try. */
export const simulate = (
  zone: Zone,
  session: SimulatedSession,
  at: RigSpot,
  levels: Reading['levels'],
  salt: string,
) => reckoner().simulate(zone, session, at, levels, SIMULATED_SEED, salt);
/** One truth for all simulated meters of this app. */
const SIMULATED_SEED = 20_261;

/** Light under other water: fresh carbon, or yellower. */
export const waterQuery = (
  groups: readonly HungGroup[],
  zone: Zone,
  cal: Calibration,
  yellow440PerM: number,
) =>
  queryOptions({
    queryKey: ['response', rigKey(groups, zone, zone.spots, { ...cal, yellow440PerM })],
    queryFn: () => lights.response(rigOf(groups, zone, zone.spots, { ...cal, yellow440PerM })),
    staleTime: Infinity,
    networkMode: 'always',
  });

export interface CheckState {
  progress: number | null;
  found: ModelCheck | null;
  error: string | null;
  start: () => void;
  cancel: () => void;
}

/** The model held against photons traced one by one. */
export function useModelCheck(zone: Zone, groups: RigGroup[]): CheckState {
  const [state, setState] = useState<Pick<CheckState, 'progress' | 'found' | 'error'>>({
    progress: null,
    found: null,
    error: null,
  });
  const run = useRef(0);
  const cancel = useCallback(() => {
    run.current += 1;
    setState((s) => ({ ...s, progress: null }));
  }, []);
  const start = () => {
    const mine = (run.current += 1);
    setState({ progress: 0, found: null, error: null });
    reckoner()
      .check(zone, groups, (share) => {
        if (run.current !== mine) return false;
        setState((s) => ({ ...s, progress: share }));
        return true;
      })
      .then(
        (found) => run.current === mine && setState({ progress: null, found, error: null }),
        (error: Error) =>
          run.current === mine && setState({ progress: null, found: null, error: error.message }),
      );
  };
  return { ...state, start, cancel };
}
