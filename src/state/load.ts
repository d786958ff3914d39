import { finePercent } from '@/core/shape/percent';
import { minutesApart } from '@/core/shape/ring';
import { driveAt, onlySwitches, type Program } from '@/core/controller/program';
import type { LampKind } from '@/core/spectrum/lampKind';
import {
  answerSchema,
  checksum,
  CHUNK,
  type Head,
  headSchema,
  type HeadProfile,
  heldSchema,
  type TransferMessage,
  type WireSchedule,
} from '@/wire/wire';

import { emissionWords, LIT } from './emission';
import { type Answer, type Line, type NoAnswer, pause } from './bench';

/** How a load ended at one head. */
export type Ending =
  /** read back and compared, and its light is what was sent */
  | 'proven'
  /** read back and compared, but dark by the program now: what it emits is not proven */
  | 'held'
  /** it holds and runs what it held before */
  | 'old'
  /** it runs something else than what was sent, or not at all as sent: what was found is said */
  | 'mismatch'
  /** it did not answer any more: it holds the old or the new, whole, and tells which once it answers */
  | 'unknown';

export interface LoadResult {
  headId: string;
  ending: Ending;
  words: string;
  /** what it held before; null = nothing, or it could not be asked */
  before: WireSchedule | null;
}

export interface LoadStep {
  headId: string;
  words: string;
  share: number;
}

const TRIES = 4;
const BACK_OFF_MS = 150;
/** A clock within this much of the wall counts as set, min. */
const CLOCK_SLACK = 2;
const SAME = 0.0011;

/** Sends until an answer comes, waiting longer each time; what is refused is not tried again. */
async function steady<T>(
  work: () => Promise<Answer<T>>,
  wait: (ms: number) => Promise<void>,
): Promise<Answer<T>> {
  for (let i = 0; ; i += 1) {
    const answer = await work();
    if (answer.ok || !answer.lost || i + 1 >= TRIES) return answer;
    await wait(BACK_OFF_MS * 2 ** i);
  }
}

const same = (a: WireSchedule | null, b: WireSchedule): boolean =>
  a !== null &&
  Math.abs(a.capShare - b.capShare) < SAME &&
  a.points.length === b.points.length &&
  a.points.every(
    (p, i) =>
      p.minute === b.points[i]!.minute &&
      p.values.every((x, k) => Math.abs(x - b.points[i]!.values[k]!) < SAME),
  );

/** The first thing in which what a head holds differs from what was sent. */
function firstDifference(held: WireSchedule | null, sent: WireSchedule, names: readonly string[]): string {
  if (!held) return 'it holds nothing';
  if (Math.abs(held.capShare - sent.capShare) >= SAME)
    return `cap ${finePercent(sent.capShare)} became ${finePercent(held.capShare)}`;
  if (held.points.length !== sent.points.length)
    return `${sent.points.length} points became ${held.points.length}`;
  for (const [i, p] of sent.points.entries()) {
    const k = p.values.findIndex((x, c) => Math.abs(x - held.points[i]!.values[c]!) >= SAME);
    if (k >= 0)
      return `${names[k] ?? 'a colour'} ${finePercent(p.values[k]!)} became ${finePercent(held.points[i]!.values[k]!)}`;
  }
  return 'nothing differs';
}

/** In what a head's controller is not the one this lamp is said to have; null = it is. */
function otherController(p: HeadProfile, kind: LampKind): string | null {
  const { controller: c } = kind;
  const switches = onlySwitches(kind);
  const pairs: [boolean, boolean, string, string][] = [
    [p.switches, switches, 'switches on and off', 'is set in levels'],
    [
      p.interpolation === 'hold',
      c.interpolation === 'hold',
      'holds each value',
      'runs evenly between points',
    ],
    [
      !p.switches && p.capMeans === 'rescales',
      !switches && c.capMeans === 'rescales',
      'rescales the day to its cap',
      'multiplies every point by its cap',
    ],
  ];
  const differs = pairs.find(([head, lamp]) => head !== lamp);
  if (!differs) return null;
  const [head, , yes, no] = differs;
  return `this head ${head ? yes : no}, while the lamp here ${head ? no : yes} (its controller, under Day)`;
}

/** One try of a transfer: cap and points staged, stored at once, activated. What ended it too early is told; null = nothing. */
async function transfer(
  line: Line,
  headId: string,
  program: WireSchedule,
  transferId: string,
  told: (share: number) => void,
): Promise<NoAnswer | null> {
  const total = 3 + Math.ceil(program.points.length / CHUNK);
  let sent = 0;
  const send = async (message: TransferMessage) => {
    const answer = await line.send('POST', `/heads/${headId}/transfer`, message, answerSchema);
    sent += 1;
    told(sent / total);
    return answer;
  };
  const begun = await send({
    step: 'begin',
    transferId,
    capShare: program.capShare,
    points: program.points.length,
  });
  if (!begun.ok) return begun;
  for (let first = 0; first < program.points.length; first += CHUNK) {
    const points = program.points.slice(first, first + CHUNK);
    const taken = await send({ step: 'points', transferId, first, points });
    if (!taken.ok) return taken;
  }
  const stored = await send({ step: 'commit', transferId, checksum: checksum(program) });
  if (!stored.ok) return stored;
  const active = await send({ step: 'activate', revision: stored.value.revision ?? 0 });
  return active.ok ? null : active;
}

/**
 * Puts a program into a head and proves it: what it held is read first, the program sent with retries, read back and compared, and what the
 * head emits set beside what it should. Whatever is lost on the way, the answer says whether the old or the new program is in it.
 */
export async function loadHead(input: {
  line: Line;
  headId: string;
  program: Program;
  kind: LampKind;
  names: readonly string[];
  /** minute its clock is to show; null = left alone */
  clockMinute: (() => number) | null;
  newId: () => string;
  onStep: (step: LoadStep) => void;
  wait?: (ms: number) => Promise<void>;
}): Promise<LoadResult> {
  const { line, headId, program, kind, names, newId, onStep, wait = pause } = input;
  const tell = (words: string, share: number) => onStep({ headId, words, share });
  const ask = () => steady(() => line.send('GET', `/heads/${headId}/schedule`, null, heldSchema), wait);
  tell('reading what it holds', 0.05);
  const first = await ask();
  const before = first.ok ? first.value : null;
  const end = (ending: Ending, words: string): LoadResult => ({
    headId,
    ending,
    words,
    before: before?.active ?? null,
  });
  const silent = ({ message }: NoAnswer) =>
    end('unknown', `it does not answer (${message}): nothing was sent, it runs what it ran before`);
  if (!first.ok) return silent(first);
  const askHead = () => steady(() => line.send('GET', `/heads/${headId}`, null, headSchema), wait);
  const head = await askHead();
  if (!head.ok) return silent(head);
  const other = otherController(head.value.profile, kind);
  if (other) return end('old', `${other}: nothing was sent, it runs what it ran before`);
  if (input.clockMinute) {
    const minute = input.clockMinute;
    const set = await steady(
      () => line.send('POST', `/heads/${headId}/clock`, { minute: minute() }, answerSchema),
      wait,
    );
    if (!set.ok) return silent(set);
  }
  const wasActive = first.value.activeRevision;

  let refusal: string | null = null;
  for (let i = 0; i < TRIES; i += 1) {
    tell(i === 0 ? 'sending' : `sending again, try ${i + 1}`, 0.1);
    const broke = await transfer(line, headId, program, newId(), (share) =>
      tell('sending', 0.1 + 0.6 * share),
    );
    refusal = broke === null ? null : broke.lost ? `the transfer broke off ${TRIES} times` : broke.message;
    if (!broke?.lost) break;
    // what was lost may have been the answer alone
    const held = await ask();
    if (held.ok && held.value.activeRevision !== wasActive && same(held.value.active, program)) {
      refusal = null;
      break;
    }
    await wait(BACK_OFF_MS * 2 ** i);
  }

  tell('reading back', 0.8);
  const back = await ask();
  if (!back.ok)
    return end(
      'unknown',
      refusal === null
        ? 'it took everything, then did not answer: it holds the new program, which is not proven'
        : 'it does not answer any more: it holds the old or the new program, whole, and says which once it answers',
    );
  const held = back.value;
  const isOld = held.activeRevision === wasActive;
  if (refusal !== null && isOld) return end('old', `${refusal}: it runs what it ran before`);
  if (!same(held.active, program)) {
    if (isOld && same(held.stored, program))
      return end('mismatch', 'saved, but not activated: it runs what it ran before');
    return end('mismatch', `read back, it differs: ${firstDifference(held.stored, program, names)}`);
  }

  tell('looking at what it emits', 0.9);
  const now = await askHead();
  if (!now.ok) return end('unknown', `it holds the new program, but does not answer now (${now.message})`);
  const wrong = stands(input, now.value.mode, now.value.clockMinute);
  if (wrong) return end('mismatch', wrong);
  const light = lightOf(input, driveAt(kind, program, now.value.clockMinute), await live(input, 'program'));
  tell('compared', 1);
  return end(light.ending, light.words);
}

/** How bright a head shows itself to be told from another, as a share of full. */
const FOUND_SHARE = 0.1;

/** Tells which lamp a head is: all its colours dimly lit for a minute, then its program again. */
export const findHead = (line: Line, head: Head): Promise<Answer<unknown>> =>
  line.send(
    'POST',
    `/heads/${head.id}/look`,
    { values: head.controls.map(() => FOUND_SHARE), minutes: SHOWN_MIN, neverEnds: false },
    answerSchema,
  );

/** Minutes for which a head is asked to show its brightest point. */
const SHOWN_MIN = 1;

/** Proves what a dark head emits: it shows the brightest point of its program for a minute, under its cap, and what it gives is compared. */
export async function showHead(input: Parameters<typeof loadHead>[0]): Promise<LoadResult> {
  const { line, headId, program, kind, onStep, wait = pause } = input;
  onStep({ headId, words: 'showing its brightest point for a minute', share: 0.5 });
  const end = (ending: Ending, words: string): LoadResult => ({ headId, ending, words, before: null });
  const point = [...program.points].sort((a, b) => bright(b.values) - bright(a.values))[0]!;
  const asked = await steady(
    () =>
      line.send(
        'POST',
        `/heads/${headId}/look`,
        { values: point.values, minutes: SHOWN_MIN, neverEnds: false },
        answerSchema,
      ),
    wait,
  );
  if (!asked.ok)
    return end('held', `it did not show its light (${asked.message}): what it emits is not proven`);
  const light = lightOf(input, driveAt(kind, program, point.minute), await live(input, 'look'));
  return end(light.ending, light.words);
}
const bright = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0);

/** What is wrong with a head's mode or clock, though it holds the right program; null = nothing. */
function stands(
  { clockMinute }: Parameters<typeof loadHead>[0],
  mode: 'program' | 'manual' | 'look',
  clock: number,
): string | null {
  if (mode === 'manual') return 'it holds the new program but was left in manual: set it to its program';
  if (!clockMinute) return null;
  const off = minutesApart(clockMinute(), clock);
  return Math.abs(off) > CLOCK_SLACK
    ? `its clock stands ${Math.round(Math.abs(off))} min ${off > 0 ? 'ahead' : 'behind'}`
    : null;
}

/** What a head drives just now, in a mode; null = it is in another. */
async function live(
  { line, headId }: Parameters<typeof loadHead>[0],
  mode: 'program' | 'look',
): Promise<readonly number[] | null> {
  const told = await new Promise<Parameters<Parameters<Line['listen']>[1]>[0]>((resolve) => {
    const stop = line.listen(headId, (l) => {
      queueMicrotask(() => stop());
      resolve(l);
    });
  });
  return told?.mode === mode ? told.drive : null;
}

/** What the light of a head says of the program it holds. */
function lightOf(
  { program, names }: Parameters<typeof loadHead>[0],
  should: readonly number[],
  drive: readonly number[] | null,
): { ending: Ending; words: string } {
  const same = 'read back and compared: it holds what was sent';
  const wrong = drive && emissionWords(program, names, should, drive);
  if (wrong) return { ending: 'mismatch', words: wrong };
  const used = names.filter((_, i) => program.points.some((p) => p.values[i]! > 0));
  const open = names.filter((n, i) => used.includes(n) && (!drive || should[i]! <= LIT));
  if (open.length > 0 && open.length === used.length)
    return {
      ending: 'held',
      words: `${same}; ${drive ? 'it is dark now, so what it emits' : 'what it emits by it cannot be seen now and'} is not proven`,
    };
  return {
    ending: 'proven',
    words: `${same}, and emits it${open.length > 0 ? `; ${open.join(', ')} ${open.length === 1 ? 'is' : 'are'} dark now and not proven` : ''}`,
  };
}

/** Puts back what a head held before. */
export const restoreHead = (
  input: Omit<Parameters<typeof loadHead>[0], 'program' | 'clockMinute'> & { before: WireSchedule },
): Promise<LoadResult> => loadHead({ ...input, program: input.before, clockMinute: null });
