import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';

import { type ZoneLight, zoneLight } from '@/core/case/light';
import type { Stretch } from '@/core/case/replay';
import { entriesOf, type LitGroup, rigKey, rigOf } from '@/core/case/lit';
import type { HistoryDoc, ReadingsDoc, Zone } from '@/core/case/types';
import type { DayLight } from '@/core/easing/accustomed';
import { type Gain, overallGain } from '@/core/meter/gain';
import type { ResponseMatrix } from '@/core/optics/response';
import { reckoner } from '@/workers/client';

import { localDate, utcIso, wallMinute } from './time';

/** The zone's calibration from its readings. */
export function useGain(zone: Zone, readings: ReadingsDoc): Gain {
  return useMemo(
    () => overallGain(readings.readings.filter((r) => r.zoneId === zone.id)),
    [zone.id, readings],
  );
}

const made = new WeakMap<ResponseMatrix, Map<number, ZoneLight>>();

/** Sums of a matrix are kept with it: a pull changes levels, never these. */
function lightOfMatrix(matrix: ResponseMatrix, groups: readonly LitGroup[], gain: number): ZoneLight {
  let byGain = made.get(matrix);
  if (!byGain) made.set(matrix, (byGain = new Map()));
  let light = byGain.get(gain);
  if (!light) byGain.set(gain, (light = zoneLight(matrix, groups, gain)));
  return light;
}

export interface LightState {
  light: ZoneLight | null;
  error: string | null;
}

/** The light of lit groups over the zone's spots, from the worker; the same rig is computed once. */
export function useLight(groups: readonly LitGroup[], zone: Zone, gain: number): LightState {
  const key = rigKey(groups, zone, zone.spots);
  const rows = groups.reduce((sum, g) => sum + g.lamps.length * g.lampKind.channels.length, 0);
  const query = useQuery({
    queryKey: ['response', key],
    queryFn: () => reckoner().response(rigOf(groups, zone, zone.spots)),
    staleTime: Infinity,
    gcTime: 10 * 60_000,
    retry: 1,
    networkMode: 'always',
    // while a lamp is moved the old light stands until the new one is there, if it fits
    placeholderData: (previous: ResponseMatrix | undefined) =>
      previous && previous.rows === rows && previous.spots === zone.spots.length ? previous : undefined,
  });
  return {
    light: query.data ? lightOfMatrix(query.data, groups, gain) : null,
    error: query.error ? query.error.message : null,
  };
}

const HOUR_MS = 3_600_000;

export interface Accustomed {
  perSpot: DayLight[];
  /** false = nothing is known to have run: corals stand at their unknown start */
  known: boolean;
}

/** What the zone's corals are used to now (to the hour), replayed from the history of running. */
export function useAccustomed(
  zone: Zone,
  history: HistoryDoc,
  gain: number,
  nowMs: number,
): Accustomed | null {
  const entries = entriesOf(history, zone.id);
  const latest = entries[entries.length - 1];
  const hour = Math.floor(nowMs / HOUR_MS) * HOUR_MS;
  // an entry typed in within this hour counts from its own instant
  const at = utcIso(latest ? Math.max(hour, Date.parse(latest.atUtc)) : hour);
  const query = useQuery({
    // an entry never changes once it is typed in, so its id stands for it
    queryKey: ['accustomed', zone.id, zone.tank, zone.water, zone.spots, entries.map((e) => e.id), gain, at],
    queryFn: () => reckoner().accustomed(zone, history, gain, at),
    staleTime: Infinity,
    retry: 1,
    networkMode: 'always',
    placeholderData: keepPreviousData,
  });
  return query.data && query.data.perSpot.length === zone.spots.length ? query.data : null;
}

/** Today's wall clock up to now, cut wherever something was typed in. */
export function stretchesToday(zone: Zone, history: HistoryDoc, nowMs: number): Stretch[] {
  const now = Math.floor(wallMinute(nowMs, zone.timeZone));
  const today = localDate(nowMs, zone.timeZone);
  const cuts = entriesOf(history, zone.id)
    .filter((e) => localDate(Date.parse(e.atUtc), zone.timeZone) === today && Date.parse(e.atUtc) <= nowMs)
    .map((e) => ({ minute: Math.min(now, wallMinute(Date.parse(e.atUtc), zone.timeZone)), atUtc: e.atUtc }));
  const beforeToday = utcIso(nowMs - wallMinute(nowMs, zone.timeZone) * 60_000);
  const starts = [{ minute: 0, atUtc: beforeToday }, ...cuts];
  return starts.map((s, i) => ({
    fromMinute: s.minute,
    toMinute: starts[i + 1]?.minute ?? now,
    atUtc: s.atUtc,
  }));
}

/** Light so far today per spot, mol m⁻², from what really ran. */
export function useSoFar(zone: Zone, history: HistoryDoc, gain: number, nowMs: number): number[] | null {
  const stretches = stretchesToday(zone, history, nowMs);
  const query = useQuery({
    queryKey: [
      'so far',
      zone.id,
      zone.tank,
      zone.water,
      zone.spots,
      entriesOf(history, zone.id).map((e) => e.id),
      gain,
      stretches,
    ],
    queryFn: () => reckoner().soFar(zone, history, gain, stretches),
    staleTime: Infinity,
    gcTime: 60_000,
    networkMode: 'always',
    placeholderData: keepPreviousData,
  });
  return query.data && query.data.length === zone.spots.length ? query.data : null;
}
