import * as v from 'valibot';

import { parseTime } from '@/core/day/clock';
import { ALGAE } from '@/core/feeding/algae';
import { DRY_SHARE } from '@/core/feeding/removal';

/** Largest magnitude of any number. */
const LIMIT = 1e9;
/** Names that no plain object may carry as a key. */
const RESERVED = ['__proto__', 'prototype', 'constructor'];

const number = v.pipe(
  v.number('give a number'),
  v.finite('give a finite number'),
  v.minValue(-LIMIT, `give a number of at least -${LIMIT}`),
  v.maxValue(LIMIT, `give a number of at most ${LIMIT}`),
);
const positive = v.pipe(number, v.gtValue(0, 'must be above 0'));
const notNegative = v.pipe(number, v.minValue(0, 'must not be below 0'));
const share = v.pipe(number, v.minValue(0, 'a share is 0 to 1'), v.maxValue(1, 'a share is 0 to 1'));
const time = v.pipe(
  v.string('give a time as "HH:MM"'),
  v.check((text) => parseTime(text) !== null, 'give a time as "HH:MM", 00:00 to 23:59'),
);

const map = <S extends v.GenericSchema<unknown, number>>(value: S) =>
  v.pipe(
    v.custom<Record<string, unknown>>(
      (input) => typeof input === 'object' && input !== null && !Array.isArray(input),
      'give an object with a number per channel',
    ),
    v.check((input) => Object.keys(input).length > 0, 'must not be empty'),
    v.check(
      (input) => !RESERVED.some((name) => Object.hasOwn(input, name)),
      `a channel cannot be named ${RESERVED.join(', ')}`,
    ),
    v.record(v.string(), value),
  );
const list = <S extends v.GenericSchema>(item: S) =>
  v.pipe(v.array(item, 'give a list'), v.minLength(1, 'must not be empty'));

const peaked = { peakNm: number, fwhmNm: positive, flux: notNegative };
export const emissionSchema = v.variant(
  'shape',
  [
    v.object({ shape: v.literal('gaussian'), ...peaked }),
    v.object({ shape: v.literal('line'), ...peaked }),
    v.object({
      shape: v.literal('table'),
      points: list(v.tuple([number, notNegative], 'give a point as [nm, value]')),
      quantity: v.picklist(['energy', 'photon'], 'quantity is "energy" or "photon"'),
      flux: v.optional(notNegative),
    }),
  ],
  'shape is "gaussian", "line" or "table"',
);

export const spectrumSchema = v.object({ emission: list(emissionSchema) });

export const daySchema = v.pipe(
  v.object({
    capShare: v.optional(share, 1),
    easingShare: v.optional(share, 1),
    points: list(v.object({ time, strengthShare: share, mix: map(share) })),
    at: v.optional(v.array(time, 'give a list'), []),
    parAtFull: map(notNegative),
    interpolation: v.optional(v.picklist(['ramp', 'hold'], 'interpolation is "ramp" or "hold"'), 'ramp'),
  }),
  v.rawCheck(({ dataset, addIssue }) => {
    if (!dataset.typed) return;
    const seen = new Set<string>();
    dataset.value.points.forEach((point, i) => {
      const complain = (field: string, message: string, key?: string) =>
        addIssue({
          message,
          path: [
            step(dataset.value, 'points', dataset.value.points),
            step(dataset.value.points, i, point),
            step(point, field, null),
            ...(key === undefined ? [] : [step(point.mix, key, null)]),
          ],
        });
      if (seen.has(point.time)) complain('time', `the time ${point.time} stands twice`);
      seen.add(point.time);
      for (const name of Object.keys(point.mix)) {
        if (!Object.hasOwn(dataset.value.parAtFull, name))
          complain('mix', 'this channel is missing from parAtFull', name);
      }
    });
  }),
);

export const reduceSchema = v.object({
  day: daySchema,
  controller: v.object({
    maxPoints: v.pipe(positive, v.integer('give a whole number'), v.maxValue(1440, 'a day has 1440 minutes')),
    stepShare: v.optional(share, 0),
    interpolation: v.optional(v.picklist(['ramp', 'hold'], 'interpolation is "ramp" or "hold"'), 'ramp'),
  }),
});

const emissions = list(emissionSchema);
export const carrySchema = v.object({
  source: emissions,
  target: v.pipe(
    v.custom<Record<string, unknown>>(
      (input) => typeof input === 'object' && input !== null && !Array.isArray(input),
      'give an object with a list of emissions per channel',
    ),
    v.check((input) => Object.keys(input).length > 0, 'must not be empty'),
    v.check(
      (input) => !RESERVED.some((name) => Object.hasOwn(input, name)),
      `a channel cannot be named ${RESERVED.join(', ')}`,
    ),
    v.record(v.string(), emissions),
  ),
});

const ALGA_IDS = ALGAE.map((a) => a.id);
const DRAININGS = Object.keys(DRY_SHARE) as (keyof typeof DRY_SHARE)[];

export const feedingSchema = v.object({
  emission: list(emissionSchema),
  alga: v.optional(v.picklist(ALGA_IDS, `is one of ${ALGA_IDS.join(', ')}`)),
});

export const growthSchema = v.object({
  phases: v.pipe(
    v.array(
      v.object({
        name: v.string('give text'),
        fragments: list(v.object({ startMg: positive, endMg: positive, days: positive })),
      }),
      'give a list',
    ),
    v.minLength(2, 'two phases or more are compared'),
  ),
});

export const harvestSchema = v.object({
  wetG: notNegative,
  drained: v.optional(v.picklist(DRAININGS, `is one of ${DRAININGS.join(', ')}`), 'drained'),
  litres: v.optional(positive),
});

export const convertSchema = v.object({ from: v.string('give text'), text: v.string('give text') });

export const easeSchema = v.object({
  from: notNegative,
  to: notNegative,
  ceiling: number,
  tauDays: v.optional(positive, 10),
  floor: v.optional(notNegative, 0),
  doubt: v.optional(notNegative, 0),
  range: v.optional(v.boolean(), false),
});

const wall = v.optional(share, 1);
const walls = v.optional(v.object({ left: wall, right: wall, front: wall, back: wall }), {
  left: 1,
  right: 1,
  front: 1,
  back: 1,
});
const point = { xCm: number, yCm: number, depthCm: notNegative };
const scene = {
  tank: v.object({
    lengthCm: positive,
    widthCm: positive,
    depthCm: positive,
    walls,
    floorReflectance: v.optional(share, 0),
  }),
  water: v.optional(
    v.object({ yellow440PerM: v.optional(notNegative, 0), scatterPerM: v.optional(notNegative, 0) }),
    { yellow440PerM: 0, scatterPerM: 0 },
  ),
  lamps: list(
    v.object({
      xCm: number,
      yCm: number,
      heightCm: positive,
      emitters: list(
        v.object({
          dxCm: v.optional(number, 0),
          dyCm: v.optional(number, 0),
          emission: emissionSchema,
          beamExponent: v.optional(notNegative, 1),
        }),
      ),
    }),
  ),
};

interface Box {
  tank: { lengthCm: number; widthCm: number; depthCm: number };
}
/** Where a point leaves the tank: the field and what it may be at most; null when it is inside, edges allowed. */
function outside(
  box: Box,
  at: { xCm: number; yCm: number; depthCm: number },
): [field: string, message: string] | null {
  const limits = { xCm: box.tank.lengthCm, yCm: box.tank.widthCm, depthCm: box.tank.depthCm };
  for (const [field, most] of Object.entries(limits)) {
    const value = at[field as keyof typeof at];
    if (value < 0 || value > most) return [field, `lies outside the tank: give 0 to ${most} cm`];
  }
  return null;
}

export const fieldSchema = v.pipe(
  v.object({ ...scene, points: list(v.object(point)) }),
  v.rawCheck(({ dataset, addIssue }) => {
    if (!dataset.typed) return;
    const data = dataset.value;
    data.points.forEach((p, i) => {
      const wrong = outside(data, p);
      if (wrong)
        addIssue({
          message: wrong[1],
          path: [step(data, 'points', data.points), step(data.points, i, p), step(p, wrong[0], null)],
        });
    });
  }),
);

export const fitSchema = v.pipe(
  v.object({
    field: v.object({ ...scene, points: v.optional(v.array(v.object(point), 'give a list'), []) }),
    channels: v.pipe(
      v.custom<Record<string, unknown>>(
        (input) => typeof input === 'object' && input !== null && !Array.isArray(input),
        'give an object with a list of [lamp, emitter] per channel',
      ),
      v.check((input) => Object.keys(input).length > 0, 'must not be empty'),
      v.check(
        (input) => !RESERVED.some((name) => Object.hasOwn(input, name)),
        `a channel cannot be named ${RESERVED.join(', ')}`,
      ),
      v.record(
        v.string(),
        list(
          v.tuple(
            [
              v.pipe(notNegative, v.integer('give a whole number')),
              v.pipe(notNegative, v.integer('give a whole number')),
            ],
            'give [lampIndex, emitterIndex]',
          ),
        ),
      ),
    ),
    readings: list(v.object({ ...point, levels: map(share), reading: notNegative })),
    lamps: v.optional(v.boolean(), false),
    scaleError: v.optional(notNegative, 0.05),
    at: v.optional(v.array(v.object({ ...point, levels: map(share) }), 'give a list'), []),
  }),
  v.rawCheck(({ dataset, addIssue }) => {
    if (!dataset.typed) return;
    const data = dataset.value;
    const seen = new Set<string>();
    for (const [name, places] of Object.entries(data.channels)) {
      places.forEach((place, i) => {
        const complain = (message: string) =>
          addIssue({
            message,
            path: [
              step(data, 'channels', data.channels),
              step(data.channels, name, places),
              step(places, i, place),
            ],
          });
        const [lamp, emitter] = place;
        if (!data.field.lamps[lamp]?.emitters[emitter])
          complain(`there is no emitter ${emitter} in lamp ${lamp}`);
        if (seen.has(place.join())) complain('this emitter already belongs to a channel');
        seen.add(place.join());
      });
    }
    for (const list of ['readings', 'at'] as const)
      data[list].forEach((r, i) => {
        const at = (field: string) =>
          [step(data, list, data[list]), step(data[list], i, r), step(r, field, null)] as [
            v.IssuePathItem,
            ...v.IssuePathItem[],
          ];
        const wrong = outside(data.field, r);
        if (wrong) addIssue({ message: wrong[1], path: at(wrong[0]) });
        for (const name of Object.keys(r.levels)) {
          if (!Object.hasOwn(data.channels, name))
            addIssue({
              message: 'there is no such channel',
              path: [...at('levels'), step(r.levels, name, null)],
            });
        }
      });
  }),
);

const step = (input: unknown, key: string | number, value: unknown): v.IssuePathItem =>
  ({ type: 'unknown', origin: 'value', input, key, value }) as v.IssuePathItem;
