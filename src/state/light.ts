import { keepPreviousData, type QueryClient, useQuery, useQueryClient } from '@tanstack/react-query';
import { useMemo, useState } from 'react';

import { bareCalibration, type Calibration, calibrationKey, hungGroups } from '@/core/case/calibration';
import { sessionsThatCount, type Session } from '@/core/record/readings';
import { type ZoneLight, zoneLight } from '@/core/case/light';
import type { LogDoc } from '@/core/record/log';
import { actingEvents, cutsOf } from '@/core/case/course';
import type { Replayed, Stretch } from '@/core/case/replay';
import {
  channelIds,
  entriesOf,
  holdsRows,
  type HungGroup,
  type LitGroup,
  rigKey,
  rigOf,
} from '@/core/case/lit';
import type { CaseBundle } from '@/core/record/documents';
import type { Zone } from '@/core/record/zone';
import { runsUpTo } from '@/core/day/wallClock';
import type { ResponseMatrix } from '@/core/optics/response';
import { reckoner } from '@/workers/client';

import { type Desk, litNow } from './desk';
import { lights } from './lights';

import { token } from './remembered';
import { utcIso } from './time';

/** What hangs, as a text that stays the same while a finger moves only levels and days. */
export const hungText = (groups: readonly HungGroup[]): string =>
  groups.map((g) => `${g.groupId} ${token(g.lampKind)} ${token(g.lamps)}`).join();

/** What is known of the zone without its readings. */
export function useBare({ case: doc }: CaseBundle, zone: Zone): Calibration {
  const hung = hungGroups(doc, zone);
  const what = `${hungText(hung)} ${hung.map((g) => g.name).join()}`;
  return useMemo(
    () => bareCalibration(hung, zone),
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [what, zone.tank, zone.water],
  );
}

export interface CalibrationState {
  calibration: Calibration;
  /** 0..1 while it is being fitted anew */
  progress: number | null;
  error: string | null;
  cancel: () => void;
  again: () => void;
}

/** What a calibration is known by: readings by the lists they stand in, the rest by what of it there is to be fitted to. */
const calibrationKeyOf = (
  zone: Zone,
  hung: readonly HungGroup[],
  sessions: readonly Session[],
  standing: boolean,
) => [
  'calibration',
  zone.id,
  zone.tank,
  zone.water,
  sessions.map(token),
  standing ? [hung.map((g) => [g.lamps, token(g.lampKind)]), zone.spots] : zone.spots.map((s) => s.openShare),
  // what there is to be fitted: channels, and beams where no file says them
  hung.map((g) => [g.groupId, channelIds(g.lampKind), Boolean(g.lampKind.optic)]),
];

/**
 * The zone's calibration from its readings, fitted in the worker; without readings the bare model and its doubt. Sessions are told
 * apart by identity: a bundle made while drawing is made once (`remembered`), or the fit begins anew with every draw.
 */
export function useCalibrationState(bundle: CaseBundle, zone: Zone): CalibrationState {
  const { case: doc, readings } = bundle;
  const bare = useBare(bundle, zone);
  const sessions = useMemo(() => sessionsThatCount(readings.sessions, zone.id), [readings, zone.id]);
  // readings of an older version stand wherever their spot and the lamps stand now
  const standing = sessions.some((s) => s.rig === null);
  const client = useQueryClient();
  const [progress, setProgress] = useState(0);
  const hung = hungGroups(doc, zone);
  const what = hungText(hung);
  const queryKey = useMemo(
    () => calibrationKeyOf(zone, hung, sessions, standing),
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [zone.id, zone.tank, zone.water, zone.spots, what, sessions, standing],
  );
  const query = useQuery<Calibration>({
    queryKey,
    queryFn: ({ signal }) => {
      setProgress(0);
      return reckoner().calibrate(doc, zone, sessions, (share) => {
        setProgress(share);
        return !signal.aborted;
      });
    },
    enabled: sessions.length > 0,
    staleTime: Infinity,
    gcTime: 30 * 60_000,
    retry: 0,
    networkMode: 'always',
    placeholderData: keepPreviousData,
  });
  const found = sessions.length > 0 ? query.data : undefined;
  return {
    calibration: found ?? bare,
    progress: sessions.length > 0 && query.isFetching ? progress : null,
    error: query.error && sessions.length > 0 ? query.error.message : null,
    cancel: () => void client.cancelQueries({ queryKey }),
    again: () => void query.refetch(),
  };
}

export const useCalibration = (bundle: CaseBundle, zone: Zone): Calibration =>
  useCalibrationState(bundle, zone).calibration;

const sums = new WeakMap<ResponseMatrix, Map<string, ZoneLight>>();
const gainsText = new WeakMap<Calibration, string>();

/** Sums of a matrix are kept with it: a pull changes levels, never these. */
function lightOfMatrix(matrix: ResponseMatrix, groups: readonly LitGroup[], cal: Calibration): ZoneLight {
  let bySum = sums.get(matrix);
  if (!bySum) sums.set(matrix, (bySum = new Map()));
  let gains = gainsText.get(cal);
  if (gains === undefined) gainsText.set(cal, (gains = JSON.stringify(cal.gains)));
  const key = `${groups.map((g) => g.groupId).join()} ${gains}`;
  let light = bySum.get(key);
  if (!light) bySum.set(key, (light = zoneLight(matrix, groups, cal)));
  return light;
}

export interface LightState {
  light: ZoneLight | null;
  error: string | null;
  /** the light stands for what was there before, until the new one is computed */
  stale: boolean;
}

const lightQuery = (
  groups: readonly LitGroup[],
  zone: Zone,
  cal: Calibration,
  key = rigKey(groups, zone, zone.spots, cal),
) => ({
  queryKey: ['response', key],
  queryFn: () => lights.response(rigOf(groups, zone, zone.spots, cal)),
  staleTime: Infinity,
  gcTime: 10 * 60_000,
  retry: 1,
  networkMode: 'always' as const,
});

/** Asks for the light of the water on the desk before any place is drawn: the worker computes it meanwhile. */
export function askAhead(client: QueryClient, desk: Desk, nowMs: number): void {
  const { doc, zone } = desk;
  const groups = litNow(desk, nowMs);
  if (groups.length > 0 && zone.spots.length > 0)
    void client.prefetchQuery(lightQuery(groups, zone, bareCalibration(hungGroups(doc, zone), zone)));
}

/** The light of lit groups over the zone's spots, from the worker; the same rig is computed once. */
export function useLight(groups: readonly LitGroup[], zone: Zone, cal: Calibration): LightState {
  const what = hungText(groups);
  const key = useMemo(
    () => rigKey(groups, zone, zone.spots, cal),
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [what, zone.tank, zone.water, zone.spots, cal],
  );
  const query = useQuery({
    ...lightQuery(groups, zone, cal, key),
    // while a lamp is moved the old light stands until the new one is there, if it fits
    placeholderData: (previous: ResponseMatrix | undefined) =>
      previous && previous.spots === zone.spots.length && holdsRows(previous.names, groups)
        ? previous
        : undefined,
  });
  return {
    light: query.data ? lightOfMatrix(query.data, groups, cal) : null,
    error: query.error ? query.error.message : null,
    stale: query.isPlaceholderData,
  };
}

const HOUR_MS = 3_600_000;

/** What ran and what happened. */
export type Past = Pick<CaseBundle, 'history' | 'log'>;

export type Accustomed = Replayed;

/** What the past of a zone's light is known by: entries never change once typed in, so their ids stand for them. */
export const pastKey = ({ history, log }: Past, zone: Zone) => [
  zone.id,
  zone.tank,
  zone.water,
  zone.spots,
  zone.needs,
  entriesOf(history, zone.id).map((e) => e.id),
  actingEvents(log, zone.id),
];

/** A log as a worker is given it: what acts on the zone's light, not ten years of entries. */
export const actingLog = (log: LogDoc, zone: Zone): LogDoc => ({
  ...log,
  events: [...actingEvents(log, zone.id)],
});

/** The past as it is asked for: to the hour, or to what happened last within it. */
export function pastAt({ history, log }: Past, zone: Zone, nowMs: number): string {
  const hour = Math.floor(nowMs / HOUR_MS) * HOUR_MS;
  const latest = cutsOf(zone, history, log).filter((ms) => ms <= nowMs);
  return utcIso(Math.max(hour, ...latest.slice(-1)));
}

/** What the zone's corals are used to as today begins, replayed from the history of running and the log. */
export function useAccustomed(zone: Zone, past: Past, cal: Calibration, nowMs: number): Accustomed | null {
  const { history, log } = past;
  const queryKey = useMemo(
    () => [
      'accustomed',
      ...pastKey({ history, log }, zone),
      calibrationKey(cal),
      pastAt({ history, log }, zone, nowMs),
    ],
    [history, log, zone, cal, nowMs],
  );
  const query = useQuery({
    queryKey,
    queryFn: () =>
      reckoner().accustomed(zone, history, actingLog(log, zone), cal, pastAt({ history, log }, zone, nowMs)),
    staleTime: Infinity,
    retry: 1,
    networkMode: 'always',
    placeholderData: keepPreviousData,
  });
  return query.data && query.data.perSpot.length === zone.spots.length ? query.data : null;
}

/** Today's wall clock up to now, cut wherever something was typed in or the clocks change. */
export function stretchesToday(zone: Zone, { history, log }: Past, nowMs: number): Stretch[] {
  const typed = cutsOf(zone, history, log);
  // to the minute, so that the light so far is asked for once a minute
  const now = Math.floor(nowMs / 60_000) * 60_000;
  return runsUpTo(now, zone.timeZone, typed).map((r) => ({
    fromMinute: r.fromMinute,
    toMinute: r.toMinute,
    atUtc: utcIso(r.fromMs),
  }));
}

/** Light so far today per spot, mol m⁻², from what really ran. */
export function useSoFar(zone: Zone, past: Past, cal: Calibration, nowMs: number): number[] | null {
  const stretches = useMemo(() => stretchesToday(zone, past, nowMs), [zone, past, nowMs]);
  const query = useQuery({
    queryKey: ['so far', ...pastKey(past, zone), calibrationKey(cal), stretches],
    queryFn: () => reckoner().soFar(zone, past.history, actingLog(past.log, zone), cal, stretches),
    staleTime: Infinity,
    gcTime: 60_000,
    networkMode: 'always',
    placeholderData: keepPreviousData,
  });
  return query.data && query.data.length === zone.spots.length ? query.data : null;
}
