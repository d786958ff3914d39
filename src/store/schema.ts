import * as v from 'valibot';

import type { CaseDoc, HistoryDoc, ReadingsDoc } from '@/core/case/types';
import { type Control, controlsProblem } from '@/core/spectrum/controls';
import type { LampKind } from '@/core/spectrum/lamp';

/** The newest versions this app writes. Older ones migrate forward; newer ones are refused untouched. */
export const CASE_VERSION = 2;
export const HISTORY_VERSION = 2;
export const READINGS_VERSION = 1;
export const SETTINGS_VERSION = 1;

const MOST = 1000;
const id = v.pipe(
  v.string('give text'),
  v.minLength(1, 'must not be empty'),
  v.maxLength(80, 'at most 80 characters'),
);
const name = v.pipe(
  v.string('give text'),
  v.trim(),
  v.minLength(1, 'must not be empty'),
  v.maxLength(120, 'at most 120 characters'),
);
const text = v.pipe(v.string('give text'), v.maxLength(4000, 'at most 4000 characters'));
const finite = v.pipe(v.number('give a number'), v.finite('give a finite number'));
const between = (low: number, high: number, unit = '') =>
  v.pipe(
    finite,
    v.minValue(low, `must be at least ${low}${unit}`),
    v.maxValue(high, `must be at most ${high}${unit}`),
  );
const share = between(0, 1);
const instant = v.pipe(
  v.string('give text'),
  v.isoTimestamp('give an instant such as 2026-01-31T12:00:00.000Z'),
);
const list = <S extends v.GenericSchema>(item: S, least = 0) =>
  v.pipe(
    v.array(item, 'give a list'),
    v.minLength(least, `at least ${least} needed`),
    v.maxLength(MOST, `at most ${MOST} allowed`),
  );
const levels = v.record(id, share);

const points = v.pipe(
  v.array(v.tuple([between(200, 1200, ' nm'), between(0, 1e9)]), 'give a list'),
  v.minLength(2, 'at least 2 points needed'),
  v.maxLength(2000, 'at most 2000 points allowed'),
);
const quantity = v.picklist(['energy', 'photon'], 'is "energy" or "photon"');

const emitterGroup = v.object({
  light: v.variant(
    'shape',
    [
      v.object({
        shape: v.literal('line'),
        peakNm: between(360, 780, ' nm'),
        fwhmNm: between(1, 300, ' nm'),
      }),
      v.object({
        shape: v.literal('table'),
        points,
        quantity,
        efficacyUmolPerJ: between(0, 10),
        whiteCctK: v.optional(between(1000, 25_000, ' K')),
      }),
    ],
    'shape is "line" or "table"',
  ),
  count: v.pipe(between(1, 500), v.integer('give a whole number')),
  wattsEach: between(0.01, 1000, ' W'),
  fluxEachUmolPerS: v.optional(between(0, 10_000, ' µmol/s')),
});

const dimming = v.object({
  lowestLitShare: between(0, 0.9),
  curve: v.pipe(
    v.array(v.tuple([share, share]), 'give a list'),
    v.maxLength(50, 'at most 50 points allowed'),
    v.check(
      (all) => all.every(([x, y], i) => x > (all[i - 1]?.[0] ?? 0) && x < 1 && y >= (all[i - 1]?.[1] ?? 0)),
      'rises from point to point, levels above 0 and below 1',
    ),
  ),
});

const control: v.GenericSchema<unknown, Control> = v.variant(
  'kind',
  [
    v.object({ kind: v.picklist(['level', 'onOff']), id, name, drives: levels }),
    v.object({ kind: v.literal('brightness'), id, name }),
    v.object({
      kind: v.literal('tint'),
      id,
      name,
      fromName: name,
      toName: name,
      stops: list(v.object({ at: share, shares: levels }), 2),
    }),
    v.object({
      kind: v.literal('trim'),
      id,
      name,
      channelIds: list(id, 1),
      fromFactor: between(0, 10),
      toFactor: between(0, 10),
    }),
  ],
  'kind is "level", "onOff", "brightness", "tint" or "trim"',
);

const lampShape = v.object({
  id,
  name,
  source: v.picklist(['led', 'tube', 'halide'], 'is "led", "tube" or "halide"'),
  channels: v.pipe(
    list(v.object({ id, name, groups: list(emitterGroup, 1), dimming }), 1),
    v.maxLength(24, 'at most 24 channels'),
    v.check((all) => new Set(all.map((c) => c.id)).size === all.length, 'two channels share an id'),
  ),
  controls: v.pipe(list(control, 1), v.maxLength(24, 'at most 24 controls')),
  layout: v.picklist(['spread', 'cluster', 'line'], 'is "spread", "cluster" or "line"'),
  powerBudgetWatts: v.nullable(between(1, 5000, ' W')),
  price: v.nullable(between(0, 1e6)),
  beamAngleDeg: between(5, 175, '°'),
  faceLengthCm: between(0, 300, ' cm'),
  faceWidthCm: between(0, 300, ' cm'),
  controller: v.object({
    pointStepShare: between(0, 0.5),
    interpolation: v.picklist(['ramp', 'hold'], 'is "ramp" or "hold"'),
    capMeans: v.picklist(['multiplies', 'rescales'], 'is "multiplies" or "rescales"'),
    easingOf: v.picklist(['lamp', 'cap', 'target'], 'is "lamp", "cap" or "target"'),
  }),
});
export const lampKind: v.GenericSchema<unknown, LampKind> = v.pipe(
  lampShape,
  v.rawCheck(({ dataset, addIssue }) => {
    const problem = dataset.typed ? controlsProblem(dataset.value) : null;
    if (problem) addIssue({ message: problem });
  }),
);

const hungLamp = v.object({
  id,
  name,
  xCm: between(-200, 1200, ' cm'),
  yCm: between(-200, 1200, ' cm'),
  heightCm: between(1, 300, ' cm'),
  turnDeg: between(-360, 360, '°'),
});

const minute = v.pipe(between(0, 1439), v.integer('give a whole minute'));
const oncePerMinute = <T extends { minute: number }>(threads: T[]) =>
  new Set(threads.map((t) => t.minute)).size === threads.length;

const thread = v.object({
  id,
  minute,
  strengthShare: share,
  mix: v.union([v.object({ plateId: id }), v.object({ own: levels })], 'is { plateId } or { own }'),
});

const zone = v.object({
  id,
  name,
  kind: v.picklist(['display', 'refugium', 'planted'], 'is "display", "refugium" or "planted"'),
  timeZone: v.pipe(
    v.string('give text'),
    v.check(isTimeZone, 'is no time zone known here, such as Europe/Berlin'),
  ),
  tank: v.object({
    lengthCm: between(5, 1000, ' cm'),
    widthCm: between(5, 1000, ' cm'),
    depthCm: between(5, 300, ' cm'),
  }),
  water: v.object({ yellow440PerM: between(0, 5), scatterPerM: between(0, 5) }),
  groups: list(
    v.object({
      id,
      name,
      lampKindId: id,
      lamps: list(hungLamp, 1),
      threads: v.pipe(list(thread), v.check(oncePerMinute, 'two threads stand at one minute')),
      capShare: share,
    }),
  ),
  spots: list(
    v.object({
      id,
      name,
      xCm: between(0, 1000, ' cm'),
      yCm: between(0, 1000, ' cm'),
      depthCm: between(0, 300, ' cm'),
      openShare: share,
      need: v.nullable(
        v.picklist(['soft', 'largePolyp', 'smallPolyp'], 'is "soft", "largePolyp" or "smallPolyp"'),
      ),
      formId: v.nullable(id),
      soloNotes: list(
        v.object({
          id,
          colour: name,
          region: name,
          saw: v.picklist(['good', 'lost', 'hueMoved'], 'is "good", "lost" or "hueMoved"'),
          atUtc: instant,
        }),
      ),
    }),
  ),
});

function isTimeZone(zoneName: string): boolean {
  try {
    new Intl.DateTimeFormat('en', { timeZone: zoneName });
    return true;
  } catch {
    return false;
  }
}

/** References inside a case: every id that is named must exist; spots lie in the water. */
const referencesHold = v.rawCheck<CaseDoc>(({ dataset, addIssue }) => {
  if (!dataset.typed) return;
  const doc = dataset.value;
  const complain = (message: string, ...keys: (string | number)[]) =>
    addIssue({
      message,
      path: keys.map((key) => ({
        type: 'unknown',
        origin: 'value',
        input: doc,
        key,
        value: null,
      })) as unknown as [v.IssuePathItem],
    });
  const kinds = new Set(doc.lampKinds.map((k) => k.id));
  const plates = new Map(doc.plates.map((p) => [p.id, p]));
  doc.plates.forEach((p, i) => {
    if (!kinds.has(p.lampKindId))
      complain('names a lamp kind that is not in this case', 'plates', i, 'lampKindId');
  });
  doc.zones.forEach((z, zi) => {
    z.groups.forEach((g, gi) => {
      if (!kinds.has(g.lampKindId)) {
        complain('names a lamp kind that is not in this case', 'zones', zi, 'groups', gi, 'lampKindId');
      }
      g.threads.forEach((t, ti) => {
        if ('plateId' in t.mix && plates.get(t.mix.plateId)?.lampKindId !== g.lampKindId) {
          complain(
            'names no plate for this lamp kind',
            'zones',
            zi,
            'groups',
            gi,
            'threads',
            ti,
            'mix',
            'plateId',
          );
        }
      });
    });
    z.spots.forEach((s, si) => {
      const limits = { xCm: z.tank.lengthCm, yCm: z.tank.widthCm, depthCm: z.tank.depthCm };
      for (const [key, limit] of Object.entries(limits) as [keyof typeof limits, number][]) {
        if (s[key] > limit)
          complain(`lies outside the water (at most ${limit} cm)`, 'zones', zi, 'spots', si, key);
      }
    });
  });
});

export const plate = v.object({
  id,
  name,
  lampKindId: id,
  notes: text,
  mix: levels,
  locked: list(id),
  versions: list(v.object({ id, atUtc: instant, note: text, mix: levels })),
});

const amounts = v.record(id, share);
const form = v.object({
  id,
  name,
  shape: v.picklist(
    ['branch', 'table', 'plate', 'crust', 'brain', 'cup', 'polyps', 'disc', 'leather', 'tentacles'],
    'is no shape known here',
  ),
  regions: v.pipe(
    list(v.object({ id, name, pale: share, brown: share, chromo: amounts, proteins: amounts }), 1),
    v.maxLength(6, 'at most 6 regions'),
  ),
});

export const caseSchema: v.GenericSchema<unknown, CaseDoc> = v.pipe(
  v.object({
    format: v.literal('chromatheca-case', 'is no Chromatheca case'),
    version: v.literal(CASE_VERSION),
    id,
    name,
    demo: v.boolean('is true or false'),
    zones: list(zone, 1),
    lampKinds: list(lampKind),
    plates: list(plate),
    references: list(v.object({ id, name, points, quantity })),
    forms: list(form),
  }),
  referencesHold,
);

export const historySchema: v.GenericSchema<unknown, HistoryDoc> = v.object({
  format: v.literal('chromatheca-history', 'is no Chromatheca history'),
  version: v.literal(HISTORY_VERSION),
  caseId: id,
  entries: v.array(
    v.object({
      id,
      zoneId: id,
      groupId: id,
      groupName: name,
      atUtc: instant,
      sure: v.literal('typedIn'),
      lampKind,
      lamps: list(hungLamp, 1),
      threads: v.pipe(
        list(v.object({ minute, strengthShare: share, mix: levels, mixName: name })),
        v.check(oncePerMinute, 'two threads stand at one minute'),
      ),
      capShare: share,
      easingShare: share,
      usedTo: v.boolean('is true or false'),
      capSteps: v.array(v.object({ date: v.pipe(v.string(), v.isoDate('give a date')), capShare: share })),
    }),
  ),
});

export const readingsSchema: v.GenericSchema<unknown, ReadingsDoc> = v.object({
  format: v.literal('chromatheca-readings', 'is no Chromatheca list of readings'),
  version: v.literal(READINGS_VERSION),
  caseId: id,
  readings: v.array(
    v.object({
      id,
      zoneId: id,
      spotId: id,
      atUtc: instant,
      valueUmol: between(0, 20_000),
      levels: v.record(id, levels),
      modelUmol: between(0, 1e6),
    }),
  ),
});

/** Settings of the device; they never travel with a case. */
export const settingsSchema = v.object({
  format: v.literal('chromatheca-settings'),
  version: v.literal(SETTINGS_VERSION),
  paper: v.fallback(v.picklist(['system', 'day', 'night']), 'system'),
  caseId: v.fallback(v.nullable(v.string()), null),
  zoneId: v.fallback(v.nullable(v.string()), null),
  spotId: v.fallback(v.nullable(v.string()), null),
  groupId: v.fallback(v.nullable(v.string()), null),
  plateId: v.fallback(v.nullable(v.string()), null),
  /** fish in pictures and advice */
  fish: v.fallback(v.boolean(), true),
  /** the kind of meter the keeper has */
  meter: v.fallback(v.picklist(['ideal', 'lowCost', 'lux', 'phone']), 'lux'),
  /** what is laid behind the comb: "light:ID", "plate:ID" or "own:ID" */
  behind: v.fallback(v.nullable(v.string()), null),
  /** how far the eye has adapted to the tank; null = from the light's own brightness */
  eyeDegree: v.fallback(v.nullable(share), null),
});
export type Settings = v.InferOutput<typeof settingsSchema>;

export const DEFAULT_SETTINGS: Settings = {
  format: 'chromatheca-settings',
  version: SETTINGS_VERSION,
  paper: 'system',
  caseId: null,
  zoneId: null,
  spotId: null,
  groupId: null,
  plateId: null,
  fish: true,
  meter: 'lux',
  behind: null,
  eyeDegree: null,
};
