import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useMemo, useState } from 'react';

import type { Calibration } from '@/core/case/calibration';
import type { HungGroup } from '@/core/case/lit';
import { figureOf, portraitKey, type PortraitLook, portraitOf } from '@/core/portrait/ofZone';
import type { PortraitScene } from '@/core/portrait/buffers';
import type { PortraitInput } from '@/core/portrait/scene';
import { pictureShape } from '@/core/portrait/view';
import type { CaseDoc } from '@/core/record/caseDoc';
import type { Zone } from '@/core/record/zone';
import { reckoner } from '@/workers/client';

import { hungText } from './light';
import { useSettled } from './time';

export interface PortraitState {
  /** the whole scene, a coarse one until it is there, or the last one */
  scene: PortraitScene | null;
  /** 0..1 while one is being made */
  progress: number | null;
  cancel: () => void;
  /** goes on with what was stopped; null = nothing was */
  goOn: (() => void) | null;
}

/** Pictures are made this wide, px; smaller ones are drawn from the same. */
const WIDTH = { phone: 716, wide: 1040 } as const;
/** A coarse scene is this many times smaller. */
const COARSE = 2;
/** While something is moved the coarse scene follows; the whole one is made when it has stood still for so long. */
const STILL_MS = 250;
/** With two cores the whole one, a second of work, would take its turn from the page: it waits until nothing else goes on there. */
const WAIT_MS = (globalThis.navigator?.hardwareConcurrency ?? 4) <= 2 ? 1000 : 0;

/** What takes longer than this says how far it is. */
const TELL_MS = 500;

let draws: boolean | undefined;
/** Whether pixels can be drawn here at all; where not, no scene is made. */
const canDraw = (): boolean =>
  (draws ??= typeof document !== 'undefined' && Boolean(document.createElement('canvas').getContext?.('2d')));

const options = { staleTime: Infinity, gcTime: 10 * 60_000, retry: 0, networkMode: 'always' as const };

/** The scene of a water's picture, made in the worker, kept by what it is made of. */
export function usePortrait(
  doc: Pick<CaseDoc, 'forms'>,
  zone: Zone,
  groups: readonly HungGroup[],
  cal: Calibration,
  { fish, card, wide }: { fish: boolean; card: boolean; wide: boolean },
): PortraitState {
  const client = useQueryClient();
  const [progress, setProgress] = useState(0);
  const width = wide ? WIDTH.wide : WIDTH.phone;
  const height = Math.round(width * pictureShape(zone.tank));
  const look: PortraitLook = { fish, card, width, height, coarse: false };
  // levels move with a finger; what hangs and stands there does not
  const hung = hungText(groups);
  const key = useMemo(
    () => portraitKey({ forms: doc.forms }, zone, groups, cal, look),
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [doc.forms, zone.id, zone.tank, zone.water, zone.spots, hung, cal, fish, card, width],
  );
  const { still } = useSettled(key, Math.max(STILL_MS, WAIT_MS));
  const able = canDraw() && groups.length > 0;
  const [stopped, stop] = useState<string | null>(null);
  const wanted = able && stopped !== key;
  const [stood, setStood] = useState(WAIT_MS === 0);
  useEffect(() => {
    const timer = setTimeout(() => setStood(true), WAIT_MS);
    return () => clearTimeout(timer);
  }, []);
  const [wholeKey, coarseKey] = [
    ['portrait', key],
    ['coarse portrait', key],
  ];
  const making = async (input: PortraitInput, signal: AbortSignal) => {
    setProgress(0);
    const begun = performance.now();
    return reckoner().portrait(input, (share) => {
      if (performance.now() - begun > TELL_MS) setProgress(share);
      return !signal.aborted;
    });
  };
  const coarse = useQuery({
    queryKey: coarseKey,
    queryFn: ({ signal }) => {
      const small = { ...look, width: width / COARSE, height: Math.round(height / COARSE) };
      return making({ ...portraitOf(doc, zone, groups, cal, small), coarse: true }, signal);
    },
    enabled: wanted && client.getQueryData(wholeKey) === undefined,
    placeholderData: keepPreviousData,
    ...options,
    gcTime: 60_000,
  });
  // of a large tank the coarse one takes seconds, too: side by side in one worker each would wait for the other
  const whole = useQuery({
    queryKey: wholeKey,
    queryFn: ({ signal }) => making(portraitOf(doc, zone, groups, cal, look), signal),
    enabled: wanted && still && stood && !coarse.isFetching,
    placeholderData: keepPreviousData,
    ...options,
  });
  const fresh = whole.data !== undefined && !whole.isPlaceholderData;
  const scene = fresh ? whole.data! : (coarse.data ?? whole.data ?? null);
  return {
    scene,
    progress: able && (whole.isFetching || coarse.isFetching) ? progress : null,
    cancel: () => {
      stop(key);
      for (const queryKey of [wholeKey, coarseKey]) void client.cancelQueries({ queryKey });
    },
    goOn: able && stopped === key && !fresh ? () => stop(null) : null,
  };
}

/** The scene of one coral or alga by itself. */
export function useFigure(
  what: Parameters<typeof figureOf>[0],
  id: string,
  px: number,
): PortraitScene | null {
  const query = useQuery({
    queryKey: ['figure', 'algaId' in what ? what.algaId : [what.shape, what.form], id, px],
    queryFn: () => reckoner().portrait(figureOf(what, id, px) satisfies PortraitInput),
    enabled: canDraw(),
    placeholderData: keepPreviousData,
    ...options,
  });
  return query.data ?? null;
}
