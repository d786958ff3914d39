import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import * as v from 'valibot';

import { CONTROLLERS } from '@/core/controller/profiles';
import { onlySwitches } from '@/core/controller/program';
import type { ControllerProfile, LampKind } from '@/core/spectrum/lampKind';
import type { Bench as Heads } from '@/heads/bench';
import {
  benchSchema,
  type BenchState,
  errorSchema,
  type Head,
  type HeadMake,
  type HeadProfile,
  type Live,
  liveMessage,
} from '@/wire/wire';

import { pageHeads } from './pageHeads';
import { deviceTimeZone, wallMinute } from './time';

/** The way to lamp heads: a server beside the app, or the same heads inside this page. */
export interface Line {
  where: 'server' | 'page';
  /** one message, and how it ended: taken, refused, or without an answer that can be read */
  send: <T>(
    method: 'GET' | 'POST' | 'DELETE',
    path: string,
    body: unknown,
    answer: v.GenericSchema<unknown, T>,
  ) => Promise<Answer<T>>;
  /** tells what a head emits until the returned function is called; null = it cannot be reached */
  listen: (headId: string, tell: (live: Live | null) => void) => () => void;
}

export interface NoAnswer {
  ok: false;
  message: string;
  code: string;
  /** it is not known whether the message was taken */
  lost: boolean;
}
export type Answer<T> = { ok: true; value: T } | NoAnswer;
const LOST: NoAnswer = { ok: false, message: 'no answer', code: 'lost', lost: true };

/** The value of an answer, for a query that tells its failure by throwing. */
export async function must<T>(answer: Promise<Answer<T>>): Promise<T> {
  const got = await answer;
  if (got.ok) return got.value;
  throw new Error(got.message);
}

/** An answer as it should be, or that it cannot be read: then it is not known what was done. */
function readAnswer<T>(schema: v.GenericSchema<unknown, T>, made: unknown): Answer<T> {
  const read = v.safeParse(schema, made);
  return read.success
    ? { ok: true, value: read.output }
    : { ok: false, message: 'its answer cannot be read', code: 'unreadable', lost: true };
}

const BASE = '/api/bench';
/** A head that has not answered by then counts as lost, ms. */
const PATIENCE_MS = 4000;
const LIVE_EVERY_MS = 250;

function refused(status: number, body: unknown): NoAnswer {
  const parsed = v.safeParse(errorSchema, body);
  const { code, message, path } = parsed.success
    ? parsed.output.error
    : { code: 'failed', message: `the bench answered ${status}`, path: undefined };
  return { ok: false, message: path ? `${path}: ${message}` : message, code, lost: false };
}

/** The server's stream, open while anybody listens: one connection for all heads. */
const stream = (() => {
  const ears = new Map<string, Set<(live: Live | null) => void>>();
  let source: EventSource | null = null;
  const all = (live: Live | null) => ears.forEach((set) => set.forEach((tell) => tell(live)));
  const open = () => {
    source = new EventSource(`${BASE}/live`);
    source.onmessage = (event: MessageEvent<string>) => {
      const said = v.safeParse(liveMessage, JSON.parse(event.data));
      if (!said.success) return all(null);
      said.output.live.forEach((l) => ears.get(l.headId)?.forEach((tell) => tell(l)));
      said.output.gone.forEach((id) => ears.get(id)?.forEach((tell) => tell(null)));
    };
    source.onerror = () => all(null);
  };
  return {
    listen: (headId: string, tell: (live: Live | null) => void) => {
      const set = ears.get(headId) ?? new Set();
      ears.set(headId, set.add(tell));
      if (!source) open();
      return () => {
        set.delete(tell);
        if (set.size === 0) ears.delete(headId);
        if (ears.size > 0) return;
        source?.close();
        source = null;
      };
    },
  };
})();

const serverLine: Line = {
  where: 'server',
  send: async (method, path, body, answer) => {
    let response: Response;
    try {
      response = await fetch(`${BASE}${path}`, {
        method,
        ...(body === null
          ? {}
          : { body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } }),
        signal: AbortSignal.timeout(PATIENCE_MS),
      });
    } catch {
      return LOST;
    }
    const made: unknown = await response.json().catch(() => null);
    return response.ok ? readAnswer(answer, made) : refused(response.status, made);
  },
  listen: (headId, tell) => stream.listen(headId, tell),
};

/** What goes over a wire is text. */
const asJson = (x: unknown): unknown => JSON.parse(JSON.stringify(x ?? null));

/** A line to a bench in this page. */
export function pageLine(bench: Heads, wait: (ms: number) => Promise<void> = pause): Line {
  return {
    where: 'page',
    send: async (method, path, body, answer) => {
      const { status, body: made, delayMs, lost } = bench.handle(method, path, asJson(body));
      await wait(lost ? 60 : delayMs);
      if (lost) return LOST;
      return status >= 400 ? refused(status, made) : readAnswer(answer, asJson(made));
    },
    listen: (headId, tell) => {
      tell(bench.live(headId));
      const timer = setInterval(() => tell(bench.live(headId)), LIVE_EVERY_MS);
      return () => clearInterval(timer);
    },
  };
}

export const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

let line: Promise<Line> | null = null;
let pageBench: Heads | null = null;
/** A bench begins at the hour it is put up. */
const minuteNow = (): number => wallMinute(Date.now(), deviceTimeZone());

/** The line, found once: the server's bench where there is one, else one in this page, which forgets with it. */
export function findLine(): Promise<Line> {
  line ??= serverLine.send('GET', '/heads', null, benchSchema).then(async (found) => {
    if (found.ok) return serverLine;
    const heads = await pageHeads();
    return pageLine((pageBench ??= new heads.Bench(() => Date.now(), minuteNow())));
  });
  return line;
}
/** For tests: another line, or none yet. */
export const setLine = (next: Line | null): void => {
  line = next ? Promise.resolve(next) : null;
};

/** A lamp's controller as a head has it; circuits only switch, whatever their clock. */
export const headProfile = (p: ControllerProfile, switches = p.sets === 'switch'): HeadProfile => ({
  name: p.name,
  maxPoints: p.maxPoints === null ? null : Math.min(288, p.maxPoints * (p.sets === 'switch' ? 2 : 1)),
  everyMin: p.everyMin,
  stepShare: p.pointStepShare,
  lowestShare: p.lowestShare,
  interpolation: p.interpolation,
  capMeans: p.capMeans === 'rescales' ? 'rescales' : 'multiplies',
  switches,
});

const controlsOf = (kind: LampKind) => kind.controls.map(({ id, name }) => ({ id, name }));

/** A head for a hung lamp: its own controls behind its own controller. */
export const headFor = (kind: LampKind, name: string): HeadMake => ({
  name,
  profile: headProfile(kind.controller, onlySwitches(kind)),
  controls: controlsOf(kind),
});

/** The same lamp behind every kind of controller there is. */
export const headsOfEveryKind = (kind: LampKind): HeadMake[] =>
  CONTROLLERS.map(({ profile }) => ({
    name: profile.name,
    profile: headProfile(profile),
    controls: controlsOf(kind),
  }));

const QUERY = ['bench'];
const POLL_MS = 1000;

/** Heads of one name told apart by their order on the bench: "Left (1)", "Left (2)". */
export function namedApart(heads: readonly Head[]): Head[] {
  const of = (name: string) => heads.filter((h) => h.name === name);
  return heads.map((h) =>
    of(h.name).length > 1 ? { ...h, name: `${h.name} (${of(h.name).indexOf(h) + 1})` } : h,
  );
}
const apart = (bench: BenchState): BenchState => ({ ...bench, heads: namedApart(bench.heads) });

/** The bench as it stands, asked every second while somebody looks. */
export function useBench(): {
  line: Line | null;
  bench: BenchState | null;
  error: string | null;
  again: () => Promise<void>;
} {
  const client = useQueryClient();
  const found = useQuery({
    queryKey: ['bench line'],
    queryFn: findLine,
    staleTime: Infinity,
    gcTime: Infinity,
    networkMode: 'always',
  });
  const at = found.data ?? null;
  const query = useQuery({
    queryKey: QUERY,
    queryFn: () => must(at!.send('GET', '/heads', null, benchSchema)),
    select: apart,
    enabled: at !== null,
    refetchInterval: POLL_MS,
    staleTime: 0,
    retry: 0,
    networkMode: 'always',
  });
  return {
    line: at,
    bench: query.data ?? null,
    error: query.error?.message ?? null,
    again: () => client.invalidateQueries({ queryKey: QUERY }),
  };
}

/** What heads emit now, while somebody looks. */
export function useLive(at: Line | null, headIds: readonly string[]): Record<string, Live | null> {
  const [all, setAll] = useState<Record<string, Live | null>>({});
  const key = headIds.join(' ');
  useEffect(() => {
    if (!at || key === '') return;
    const stops = key
      .split(' ')
      .map((id) => at.listen(id, (live) => setAll((old) => ({ ...old, [id]: live }))));
    return () => stops.forEach((stop) => stop());
  }, [at, key]);
  return all;
}
