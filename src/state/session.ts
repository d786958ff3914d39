import * as v from 'valibot';
import { create } from 'zustand';

import type { CaseBundle } from '@/core/case/types';
import { dropCase, leaveCase, loadCase, saveCase, StaleTab, WriteFailed } from '@/store/documents';
import { caseSchema, historySchema, logSchema } from '@/store/schema';

import type { Command } from './commands';

/** Undo reaches this many commands back. */
const LONGEST_HISTORY = 100;
/** Commands with the same merge key within this time are one step. */
const MERGE_MS = 1200;

interface Step {
  name: string;
  merge: string | undefined;
  atMs: number;
  /** the bundle before the command */
  before: CaseBundle;
}

export type SaveState =
  | { kind: 'saved' }
  | { kind: 'saving' }
  /** another tab has written; this one must not */
  | { kind: 'stale' }
  | { kind: 'failed'; full: boolean; message: string };

interface Session {
  bundle: CaseBundle | null;
  past: Step[];
  future: { name: string; after: CaseBundle }[];
  save: SaveState;
  /** while held, screens show the case before its last change */
  peek: boolean;
  /** a refused command, said once */
  refusal: string | null;
}

export const useSession = create<Session>(() => ({
  bundle: null,
  past: [],
  future: [],
  save: { kind: 'saved' },
  peek: false,
  refusal: null,
}));
const { getState, setState } = useSession;

let saved: { bundle: CaseBundle | null; revision: number | null } = { bundle: null, revision: null };
let saving: Promise<void> | null = null;

/** Opens a case. False when there is none, or it was corrupted and has been set aside. */
export async function openCase(caseId: string): Promise<boolean> {
  await flush();
  const loaded = await loadCase(caseId);
  if (!loaded) return false;
  adopt(loaded.bundle, loaded.revision);
  return true;
}

/** Makes a new bundle the open case and stores it. */
export async function createCase(bundle: CaseBundle): Promise<void> {
  await flush();
  adopt(bundle, null);
  save();
  await flush();
}

function adopt(bundle: CaseBundle, revision: number | null): void {
  saved = { bundle: revision === null ? null : bundle, revision };
  setState({ bundle, past: [], future: [], save: { kind: 'saved' }, peek: false, refusal: null });
}

const not =
  <T>(before: readonly T[]) =>
  (item: T) =>
    !before.includes(item);

/** What is wrong with what a command made; of histories and logs only what is new in them is looked at. */
function problemIn(next: CaseBundle, before: CaseBundle): string | null {
  const { history, log } = next;
  const checks: [
    changed: boolean,
    schema: v.GenericSchema<unknown, unknown>,
    made: () => unknown,
    what: string,
  ][] = [
    [next.case !== before.case, caseSchema, () => next.case, 'the case'],
    [
      history !== before.history,
      historySchema,
      () => ({
        ...history,
        entries: history.entries.filter(not(before.history.entries)),
        plans: history.plans.filter(not(before.history.plans)),
      }),
      'what runs',
    ],
    [
      log !== before.log,
      logSchema,
      () => ({ ...log, events: log.events.filter(not(before.log.events)) }),
      'the log',
    ],
  ];
  for (const [changed, schema, made, what] of checks) {
    if (!changed) continue;
    const checked = v.safeParse(schema, made(), { abortPipeEarly: true });
    if (!checked.success) {
      const issue = checked.issues[0];
      return `${v.getDotPath(issue) ?? what} ${issue.message}`;
    }
  }
  return null;
}

/** Runs a command: a new valid case, one step of history, saved at once. An invalid result is refused and said. */
export function run(command: Command, nowMs: number = Date.now()): boolean {
  const { bundle, past } = getState();
  if (!bundle) return false;
  const next = command.apply(bundle);
  const problem = problemIn(next, bundle);
  if (problem !== null) {
    setState({ refusal: `Not done (${command.name}): ${problem}.` });
    return false;
  }
  const last = past[past.length - 1];
  const merged = command.merge !== undefined && last?.merge === command.merge && nowMs - last.atMs < MERGE_MS;
  const step: Step = {
    name: command.name,
    merge: command.merge,
    atMs: nowMs,
    before: merged ? last.before : bundle,
  };
  setState({
    bundle: next,
    past: [...(merged ? past.slice(0, -1) : past), step].slice(-LONGEST_HISTORY),
    future: [],
    refusal: null,
  });
  save();
  return true;
}

export function undo(): void {
  const { bundle, past, future } = getState();
  const step = past[past.length - 1];
  if (!bundle || !step) return;
  setState({
    bundle: step.before,
    past: past.slice(0, -1),
    future: [...future, { name: step.name, after: bundle }],
    refusal: null,
  });
  save();
}

export function redo(): void {
  const { bundle, past, future } = getState();
  const step = future[future.length - 1];
  if (!bundle || !step) return;
  setState({
    bundle: step.after,
    past: [...past, { name: step.name, merge: undefined, atMs: 0, before: bundle }],
    future: future.slice(0, -1),
    refusal: null,
  });
  save();
}

export const setPeek = (peek: boolean): void => setState({ peek });
export const dismissRefusal = (): void => setState({ refusal: null });

/** Starts writing what is newest; writes follow one another, and what changes meanwhile goes with the next. */
function save(): void {
  if (getState().save.kind === 'stale') return;
  setState({ save: { kind: 'saving' } });
  if (leaving) leave();
  saving ??= writeAll().finally(() => {
    saving = null;
  });
}

let leaving = false;

/** A closing page waits for no write: what is not stored yet is left for the next start. */
function leave(): void {
  const { bundle, save: state } = getState();
  if (bundle && bundle !== saved.bundle && state.kind !== 'stale') leaveCase(bundle, saved.revision);
}

globalThis.addEventListener?.('pagehide', () => {
  leaving = true;
  leave();
});
globalThis.addEventListener?.('pageshow', () => {
  leaving = false;
});

async function writeAll(): Promise<void> {
  for (;;) {
    const { bundle } = getState();
    if (!bundle || bundle === saved.bundle) break;
    try {
      const revision = await saveCase(bundle, saved.bundle, saved.revision);
      saved = { bundle, revision };
      if (leaving) dropCase(bundle.case.id);
    } catch (error) {
      if (error instanceof StaleTab) setState({ save: { kind: 'stale' } });
      else {
        const full = error instanceof WriteFailed && error.full;
        setState({ save: { kind: 'failed', full, message: (error as Error).message } });
      }
      return;
    }
  }
  setState({ save: { kind: 'saved' } });
}

/** Resolves when everything is written or refused. */
export async function flush(): Promise<void> {
  while (saving) await saving;
}

/** Tries a failed write again. */
export const retrySave = (): void => save();

/** For tests: forgets the open case without touching the store. */
export function closeSession(): void {
  saved = { bundle: null, revision: null };
  setState({ bundle: null, past: [], future: [], save: { kind: 'saved' }, peek: false, refusal: null });
}
