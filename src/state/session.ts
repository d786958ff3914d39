import { create } from 'zustand';

import { type CaseBundle, kindOfPart, PARTS } from '@/core/record/documents';
import { problemIn } from '@/core/record/documentKind';
import { mergeDocuments } from '@/core/record/merge';
import { problemLine } from '@/core/record/read';
import {
  dropCase,
  leaveCase,
  loadCase,
  newRevision,
  type Revision,
  revisionOf,
  saveCase,
} from '@/store/documents';
import { loadUndo, statesBack, undoText, type WayBack, wayBack } from '@/store/undo';

import type { Command } from './commands/edit';
import { hearOthers, tellOthers } from './others';

/** Undo reaches this many commands back. */
const LONGEST_HISTORY = 100;
/** Over a reload it reaches this many back. */
const LONGEST_KEPT = 30;
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

const NONE: Session = {
  bundle: null,
  past: [],
  future: [],
  save: { kind: 'saved' },
  peek: false,
  refusal: null,
};
export const useSession = create<Session>(() => NONE);
const { getState, setState } = useSession;

/**
 * The case that is open: which it is, what of it is stored and under which revision, what is being written. One object a case, so
 * that a write or an answer that comes late meets the case it was begun for, or none.
 */
class OpenCase {
  /** what is stored, and as what; null = never yet */
  private stored: { bundle: CaseBundle; revision: Revision } | null;
  /** the write under way: of what, as what */
  private inFlight: { bundle: CaseBundle; revision: Revision } | null = null;
  private writing: Promise<void> | null = null;
  /** what was left as last words, and as which revision another page may have written it */
  private left: { bundle: CaseBundle; revision: Revision } | null = null;
  /** given out as a file: it may leave memory */
  exported: CaseBundle | null = null;

  constructor(
    readonly id: string,
    bundle: CaseBundle,
    revision: Revision | null,
  ) {
    this.stored = revision === null ? null : { bundle, revision };
  }

  private get isOpen(): boolean {
    return open === this;
  }
  private tell(save: SaveState): void {
    if (this.isOpen) setState({ save });
  }

  /** Starts writing what is newest; writes follow one another, and what changes meanwhile goes with the next. */
  save(): void {
    if (getState().save.kind === 'stale') return;
    this.tell({ kind: 'saving' });
    if (leaving) this.leave();
    this.writing ??= this.writeAll().finally(() => (this.writing = null));
  }

  /** Resolves when everything is written or refused. */
  async flush(): Promise<void> {
    while (this.writing) await this.writing;
  }

  /** What this case's next write may be put on top of: what it stored last, or its own last words. */
  private follows(): (Revision | null)[] {
    return [this.stored?.revision ?? null, ...(this.left ? [this.left.revision] : [])];
  }

  private async writeAll(): Promise<void> {
    for (;;) {
      const bundle = this.isOpen ? getState().bundle : null;
      if (!bundle || bundle === this.stored?.bundle) break;
      const revision = newRevision();
      this.inFlight = { bundle, revision };
      // parts are compared with what is stored; after last words were taken up that may be theirs
      const saved = await saveCase(
        bundle,
        this.left ? null : (this.stored?.bundle ?? null),
        this.follows(),
        revision,
        undoText(revision, this.waysBack(bundle)),
      );
      this.inFlight = null;
      if (saved.is === 'overtaken' && (await this.merge(bundle))) continue;
      if (saved.is !== 'saved') {
        this.tell(
          saved.is === 'overtaken'
            ? { kind: 'stale' }
            : { kind: 'failed', full: saved.full, message: saved.message },
        );
        return;
      }
      this.stored = { bundle, revision };
      tellOthers({ caseId: this.id, revision });
      this.dropWords();
    }
    this.tell({ kind: 'saved' });
  }

  /**
   * Another page has written the case since: what both changed in different places is put together on top of that.
   * @returns false where both changed the same thing, or it is gone
   */
  private async merge(ours: CaseBundle): Promise<boolean> {
    const base = this.stored?.bundle;
    const loaded = base ? await loadCase(this.id) : null;
    if (!base || loaded?.is !== 'open' || !this.isOpen) return false;
    // what was edited meanwhile is put together with the next write
    if (getState().bundle !== ours) return true;
    const theirs = loaded.bundle;
    const onTop = (own: CaseBundle): CaseBundle | null => {
      const { value, both } = mergeDocuments(base, own, theirs);
      return both.length > 0 || problemOf(value, theirs) !== null ? null : value;
    };
    const bundle = onTop(ours);
    if (!bundle) return false;
    // undo takes back what was done here, and nothing of theirs: its steps are put on top of that, too
    const past: Step[] = [];
    for (const step of [...getState().past].reverse()) {
      const before = onTop(step.before);
      if (!before) break;
      past.unshift({ ...step, before });
    }
    this.stored = { bundle: theirs, revision: loaded.revision };
    setState({ bundle, past, future: [] });
    return true;
  }

  /** Takes over what another page has stored, where nothing here would be lost by it. */
  async follow(revision: Revision | null): Promise<void> {
    if (this.busy || !this.kept || this.stored === null) return;
    if ((revision ?? (await revisionOf(this.id))) === this.stored.revision) return;
    const loaded = await loadCase(this.id);
    if (loaded.is !== 'open' || !this.isOpen || this.busy || !this.kept) return;
    if (loaded.revision === this.stored.revision) return;
    adopt(loaded.bundle, loaded.revision);
    open?.restoreUndo(loaded.bundle, loaded.revision).catch(() => undefined);
  }

  /** ways back that are known already, by the step and what came of it */
  private readonly ways = new WeakMap<CaseBundle, { before: CaseBundle; way: WayBack }>();

  /** Undo is to reach back over a reload: how to come from each of the latest states to the one before it. */
  private waysBack(bundle: CaseBundle): WayBack[] {
    const steps = getState().past.slice(-LONGEST_KEPT);
    return steps.map(({ name, before }, i) => {
      const after = steps[i + 1]?.before ?? bundle;
      let known = this.ways.get(after);
      if (known?.before !== before) {
        known = { before, way: wayBack(name, after, before) };
        this.ways.set(after, known);
      }
      return known.way;
    });
  }

  /** Takes up the way back that was kept with what was opened; what was done meanwhile stays on top of it. */
  async restoreUndo(bundle: CaseBundle, revision: Revision): Promise<void> {
    const steps = await loadUndo(this.id, revision);
    if (steps.length === 0) return;
    const sound = (before: CaseBundle, after: CaseBundle) => problemOf(before, after) === null;
    const states = statesBack(bundle, steps, sound);
    const { past, bundle: present } = getState();
    if (!this.isOpen || (past[0]?.before ?? present) !== bundle) return;
    const restored = states.map((before, i): Step => ({
      name: steps.at(-1 - i)!.name,
      merge: undefined,
      atMs: 0,
      before,
    }));
    setState({ past: [...restored.reverse(), ...past].slice(-LONGEST_HISTORY) });
  }

  /** A closing page waits for no write: what is not stored yet is left for the next start. */
  leave(): void {
    const { bundle, save } = getState();
    if (!this.isOpen || !bundle || bundle === this.stored?.bundle || save.kind === 'stale') return;
    // a write of the same under way is the same revision: whichever gets through, it is stored once
    const as = this.inFlight?.bundle === bundle ? this.inFlight.revision : newRevision();
    const before = this.follows();
    const follows =
      this.inFlight && this.inFlight.revision !== as ? [...before, this.inFlight.revision] : before;
    this.left = { bundle, revision: as };
    leaveCase({ follows, as, bundle });
  }

  /** What is stored is newer than any last words of this page. */
  private dropWords(): void {
    if (!this.left) return;
    dropCase(this.id);
    this.left = null;
    if (leaving) this.leave();
  }

  get busy(): boolean {
    return this.writing !== null;
  }

  /** True when nothing would be lost by letting go of it: stored, or given out as a file. */
  get kept(): boolean {
    const { bundle } = getState();
    return bundle === null || bundle === this.stored?.bundle || bundle === this.exported;
  }
}

let open: OpenCase | null = null;

let leaving = false;
globalThis.addEventListener?.('pagehide', () => {
  leaving = true;
  open?.leave();
});
globalThis.addEventListener?.('pageshow', () => {
  if (!leaving) return;
  leaving = false;
  // back from where it was kept: what was left unwritten is written now
  if (open && !open.kept) open.save();
});

hearOthers((stored) => {
  if (open && (stored === null || stored.caseId === open.id))
    open.follow(stored?.revision ?? null).catch(() => undefined);
});

/** How opening or making a case ended. */
export type Opened =
  { ok: true } | { ok: false; why: 'missing' | 'unreadable' | 'newer' | 'unsaved' | 'refused'; say: string };

const UNSAVED = (name: string): Opened => ({
  ok: false,
  why: 'unsaved',
  say: `${name} has changes that are not stored. Export it to a file, or make room and try again; then this works.`,
});

/** Lets every write of the open case end. @returns why it must not be let go of, or null */
async function settle(): Promise<Opened | null> {
  // what is edited while a write ends is written next
  do await flush();
  while (open?.busy);
  return open && !open.kept ? UNSAVED(getState().bundle!.case.name) : null;
}

/** Opens a case. What is open stays open when that cannot be, or when it would lose what is not stored. */
export async function openCase(caseId: string): Promise<Opened> {
  const unsaved = await settle();
  if (unsaved) return unsaved;
  const loaded = await loadCase(caseId);
  if (loaded.is === 'missing')
    return { ok: false, why: 'missing', say: 'This case is not stored here any more.' };
  if (loaded.is === 'newer') return { ok: false, why: 'newer', say: problemLine(loaded.problem) };
  if (loaded.is === 'unreadable')
    return {
      ok: false,
      why: 'unreadable',
      say: 'This case could not be read and was set aside. It can be downloaded below.',
    };
  // what was edited while it was loading is written first
  const late = await settle();
  if (late) return late;
  adopt(loaded.bundle, loaded.revision);
  open?.restoreUndo(loaded.bundle, loaded.revision).catch(() => undefined);
  return { ok: true };
}

/** Stores a new case and makes it the open one. When it cannot be stored, what is open stays open. */
export async function createCase(bundle: CaseBundle): Promise<Opened> {
  const unsaved = await settle();
  if (unsaved) return unsaved;
  const saved = await saveCase(bundle, null, [null]);
  if (saved.is === 'saved') {
    const late = await settle();
    if (late) return late;
    adopt(bundle, saved.revision);
    return { ok: true };
  }
  const say =
    saved.is === 'refused' ? saved.message : 'Something of a case with this name is stored already.';
  // with nothing open there is nothing to stay with: it is kept in memory, and says so
  if (!open) {
    adopt(bundle, null);
    setState({
      save: {
        kind: 'failed',
        full: saved.is === 'refused' && saved.full,
        message: say,
      },
    });
    return { ok: true };
  }
  return { ok: false, why: 'refused', say };
}

/** Opens a case that is stored nowhere, with why. */
export function openInMemory(bundle: CaseBundle, why: string): void {
  adopt(bundle, null);
  setState({ save: { kind: 'failed', full: false, message: why } });
}

function adopt(bundle: CaseBundle, revision: Revision | null): void {
  open = new OpenCase(bundle.case.id, bundle, revision);
  setState({ ...NONE, bundle });
}

/** What is wrong with what a command made: every document is looked at, of long ones only what is new. */
function problemOf(next: CaseBundle, before: CaseBundle): string | null {
  for (const part of PARTS) {
    const problem = problemIn(kindOfPart(part), next[part], before[part]);
    if (problem !== null) return problem;
  }
  return null;
}

/** Runs a command: a new valid case, one step of history, saved at once. An invalid result is refused and said. */
export function run(command: Command, nowMs: number = Date.now()): boolean {
  const { bundle, past } = getState();
  if (!bundle) return false;
  const next = command.apply(bundle);
  const problem = problemOf(next, bundle);
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
  open?.save();
  return true;
}

/** Runs a command that answers something asked of a case a while ago; when another case is open by now nothing is done. */
export const runIn = (caseId: string, command: Command): boolean =>
  getState().bundle?.case.id === caseId && run(command);

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
  open?.save();
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
  open?.save();
}

export const setPeek = (peek: boolean): void => setState({ peek });
export const dismissRefusal = (): void => setState({ refusal: null });

/** Resolves when everything is written or refused. */
export const flush = async (): Promise<void> => open?.flush();

/** Tries a failed write again. */
export const retrySave = (): void => open?.save();

/** The open case was given out as a file: what is not stored of it may leave memory. */
export function markExported(): void {
  if (open) open.exported = getState().bundle;
}

/** Lets go of the open case without touching the store: it was deleted. */
export function closeSession(): void {
  open = null;
  setState(NONE);
}
