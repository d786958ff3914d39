import * as v from 'valibot';

/**
 * The wire between the app and lamp heads: JSON over HTTP, one message at a time, and a stream of what a head emits. Shares are
 * 0..1, times minutes of the head's own day. This file is all that both sides share (docs/bench.md).
 */
export const MOST_POINTS = 288;
export const MOST_CONTROLS = 24;
/** Points sent in one message. */
export const CHUNK = 4;

const text = v.pipe(
  v.string('give text'),
  v.minLength(1, 'must not be empty'),
  v.maxLength(80, 'at most 80 characters'),
);
const share = v.pipe(
  v.number('give a number'),
  v.finite('give a finite number'),
  v.minValue(0, 'must be at least 0'),
  v.maxValue(1, 'must be at most 1'),
);
const count = (most: number) =>
  v.pipe(
    v.number('give a number'),
    v.integer('give a whole number'),
    v.minValue(0, 'must be at least 0'),
    v.maxValue(most, `must be at most ${most}`),
  );
const minute = v.pipe(
  v.number('give a number'),
  v.finite('give a finite number'),
  v.minValue(0, 'must be at least 0'),
  v.maxValue(1440, 'must be at most 1440'),
);
const values = v.pipe(
  v.array(share, 'give a list'),
  v.minLength(1, 'at least 1 needed'),
  v.maxLength(MOST_CONTROLS, `at most ${MOST_CONTROLS} allowed`),
);
const point = v.object({ minute: count(1439), values });

/** A point as a head stores it: values of its controls before its cap. */
export type WirePoint = v.InferOutput<typeof point>;
export interface WireSchedule {
  capShare: number;
  points: WirePoint[];
}

export const transferMessage = v.variant(
  'step',
  [
    v.object({ step: v.literal('begin'), transferId: text, capShare: share, points: count(MOST_POINTS) }),
    v.object({
      step: v.literal('points'),
      transferId: text,
      first: count(MOST_POINTS),
      points: v.pipe(
        v.array(point, 'give a list'),
        v.minLength(1, 'at least 1 needed'),
        v.maxLength(CHUNK, `at most ${CHUNK} at a time`),
      ),
    }),
    v.object({ step: v.literal('commit'), transferId: text, checksum: count(0xffffffff) }),
    v.object({ step: v.literal('activate'), revision: count(1e9) }),
  ],
  'step is "begin", "points", "commit" or "activate"',
);
export type TransferMessage = v.InferOutput<typeof transferMessage>;

export const FAULTS = [
  'offline',
  'slow',
  'drops',
  'clockReset',
  'fewPoints',
  'savesOnly',
  'manual',
  'capTwice',
  'colourDown',
  'colourDead',
  'lampDead',
  'rounds',
] as const;
export type Fault = (typeof FAULTS)[number];

export const faultsMessage = v.object({
  faults: v.array(v.picklist(FAULTS, `is one of ${FAULTS.join(', ')}`), 'give a list'),
  /** which message of a transfer is lost, 0 = the first; its answer when it is negative minus one */
  dropAt: v.optional(
    v.pipe(v.number('give a number'), v.integer('give a whole number'), v.minValue(-100), v.maxValue(100)),
    2,
  ),
});
export const clockMessage = v.object({ minute });
export const capMessage = v.object({ capShare: share });
export const manualMessage = v.object({ values: v.nullable(values) });
/** A look of so many minutes in place of the program; a head may be told to forget its end. */
export const lookMessage = v.object({
  values,
  minutes: v.pipe(minute, v.minValue(1, 'must be at least 1')),
  neverEnds: v.optional(v.boolean('is true or false'), false),
});
export const benchClockMessage = v.object({
  minute: v.optional(minute),
  speed: v.optional(
    v.pipe(
      v.number('give a number'),
      v.minValue(0, 'must be at least 0'),
      v.maxValue(1440, 'must be at most 1440'),
    ),
  ),
});
export const headMessage = v.object({
  name: text,
  profile: v.object({
    name: text,
    maxPoints: v.nullable(count(MOST_POINTS)),
    everyMin: v.pipe(count(240), v.minValue(1, 'must be at least 1')),
    stepShare: share,
    lowestShare: share,
    interpolation: v.picklist(['ramp', 'hold'], 'is "ramp" or "hold"'),
    capMeans: v.picklist(['multiplies', 'rescales'], 'is "multiplies" or "rescales"'),
    switches: v.boolean('is true or false'),
  }),
  controls: v.pipe(
    v.array(v.object({ id: text, name: text }), 'give a list'),
    v.minLength(1, 'at least 1 needed'),
    v.maxLength(MOST_CONTROLS, `at most ${MOST_CONTROLS} allowed`),
  ),
});
export type HeadMake = v.InferOutput<typeof headMessage>;
export type HeadProfile = HeadMake['profile'];

const schedule = v.object({ capShare: share, points: v.array(point) });
export const headSchema = v.object({
  id: text,
  ...headMessage.entries,
  faults: v.array(v.picklist(FAULTS)),
  dropAt: v.number(),
  clockMinute: v.number(),
  /** how far its clock is ahead of the bench's, minutes */
  aheadMin: v.number(),
  mode: v.picklist(['program', 'manual', 'look']),
  /** bench minutes until a look ends; negative = it should have ended */
  lookLeftMin: v.nullable(v.number()),
  activeRevision: v.number(),
  storedRevision: v.number(),
});
export type Head = v.InferOutput<typeof headSchema>;
export const benchSchema = v.object({ minute: v.number(), speed: v.number(), heads: v.array(headSchema) });
export type BenchState = v.InferOutput<typeof benchSchema>;

/** What a head holds: stored last, and what its program runs. */
export const heldSchema = v.object({
  storedRevision: v.number(),
  activeRevision: v.number(),
  stored: v.nullable(schedule),
  active: v.nullable(schedule),
});
export type Held = v.InferOutput<typeof heldSchema>;
export const answerSchema = v.object({ ok: v.literal(true), revision: v.optional(v.number()) });

/** What a head emits at a moment, per control: what drives it, and the light that its curve makes of that. */
export const liveSchema = v.object({
  headId: text,
  benchMinute: v.number(),
  clockMinute: v.number(),
  mode: v.picklist(['program', 'manual', 'look']),
  lookLeftMin: v.nullable(v.number()),
  drive: v.array(v.number()),
  output: v.array(v.number()),
});
export type Live = v.InferOutput<typeof liveSchema>;
/** What the stream says each time: heads that answer, and the ids of those that do not. */
export const liveMessage = v.object({ live: v.array(liveSchema), gone: v.array(text) });
export type LiveMessage = v.InferOutput<typeof liveMessage>;

export const errorSchema = v.object({
  error: v.object({ code: v.string(), message: v.string(), path: v.optional(v.string()) }),
});

/** What both sides reckon over a schedule, so that a changed point is noticed (FNV-1a over its numbers in thousandths). */
export function checksum({ capShare, points }: WireSchedule): number {
  let hash = 0x811c9dc5;
  const take = (n: number) => {
    hash ^= Math.round(n) & 0xffff;
    hash = Math.imul(hash, 0x01000193) >>> 0;
  };
  take(capShare * 10_000);
  for (const p of points) {
    take(p.minute);
    p.values.forEach((x) => take(x * 10_000));
  }
  return hash >>> 0;
}
