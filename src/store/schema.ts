import * as v from 'valibot';

import {
  type CaseDoc,
  type EasingPlan,
  type HistoryDoc,
  type LogDoc,
  type LogEvent,
  NEEDS,
  type NeedId,
  type ReadingsDoc,
} from '@/core/case/types';
import { ALGAE } from '@/core/feeding/algae';
import type { MeterKindId } from '@/core/meter/kinds';
import { BANDS } from '@/core/spectrum/bands';
import {
  type Control,
  controlsProblem,
  type ControllerProfile,
  type LampKind,
} from '@/core/spectrum/lampKind';
import { type Extras, FLASHES_MOST, CLOUD_DEPTH_MOST } from '@/core/day/extras';

/** The newest versions this app writes. Older ones migrate forward; newer ones are refused untouched. */
export const CASE_VERSION = 5;
export const HISTORY_VERSION = 5;
export const READINGS_VERSION = 3;
export const LOG_VERSION = 2;
export const SETTINGS_VERSION = 1;

const METERS: MeterKindId[] = ['ideal', 'lowCost', 'lux', 'phone', 'spectrometer'];
const MOST = 1000;
const id = v.pipe(
  v.string('give text'),
  v.minLength(1, 'must not be empty'),
  v.maxLength(80, 'at most 80 characters'),
);
export const name = v.pipe(
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
export const share = between(0, 1);
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

const truth = v.boolean('is true or false');
const controller: v.GenericSchema<unknown, ControllerProfile> = v.object({
  name,
  sets: v.picklist(['levels', 'switch'], 'is "levels" or "switch"'),
  maxPoints: v.nullable(v.pipe(between(1, 1000), v.integer('give a whole number'))),
  everyMin: v.pipe(between(1, 240, ' min'), v.integer('give whole minutes')),
  pointStepShare: between(0, 0.5),
  lowestShare: between(0, 0.9),
  interpolation: v.picklist(['ramp', 'hold'], 'is "ramp" or "hold"'),
  capMeans: v.picklist(['multiplies', 'rescales'], 'is "multiplies" or "rescales"'),
  easingOf: v.picklist(['lamp', 'cap', 'target'], 'is "lamp", "cap" or "target"'),
  easesItself: truth,
  followsClockChange: truth,
  interludeUnderCap: truth,
  rows: v.picklist(['times', 'colours'], 'is "times" or "colours"'),
});

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
  beamAngleDeg: v.optional(between(5, 175, '°')),
});

const rising = (all: number[]) => all.every((x, i) => i === 0 || x > all[i - 1]!);
const angles = (high: number) =>
  v.pipe(
    v.array(between(0, high, '°'), 'give a list'),
    v.minLength(1, 'at least 1 needed'),
    v.maxLength(400, 'at most 400 allowed'),
    v.check(rising, 'rises from angle to angle'),
  );
/** How an optic throws light, from a photometric file. */
const photometry = v.pipe(
  v.object({
    name: text,
    verticalDeg: angles(180),
    horizontalDeg: angles(360),
    intensity: v.pipe(
      v.array(
        v.pipe(v.array(between(0, 1e12), 'give a list'), v.maxLength(400, 'at most 400 allowed')),
        'give a list',
      ),
      v.maxLength(400, 'at most 400 allowed'),
    ),
  }),
  v.check(
    (p) =>
      p.intensity.length === p.horizontalDeg.length &&
      p.intensity.every((row) => row.length === p.verticalDeg.length),
    'needs one row of intensities per horizontal angle, one value per vertical angle',
  ),
);

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
  optic: v.optional(v.nullable(photometry)),
  diffuserShare: v.optional(share),
  faceLengthCm: between(0, 300, ' cm'),
  faceWidthCm: between(0, 300, ' cm'),
  controller,
});
export const lampKind: v.GenericSchema<unknown, LampKind> = v.pipe(
  lampShape,
  v.rawCheck(({ dataset, addIssue }) => {
    const problem = dataset.typed ? controlsProblem(dataset.value) : null;
    if (problem) addIssue({ message: problem });
  }),
);

export const hungLamp = v.object({
  id,
  name,
  xCm: between(-200, 1200, ' cm'),
  yCm: between(-200, 1200, ' cm'),
  heightCm: between(1, 300, ' cm'),
  turnDeg: between(-360, 360, '°'),
  tiltDeg: v.optional(between(0, 60, '°')),
  tiltTowardDeg: v.optional(between(-360, 360, '°')),
});

const minute = v.pipe(between(0, 1439), v.integer('give a whole minute'));
const oncePerMinute = <T extends { minute: number }>(threads: T[]) =>
  new Set(threads.map((t) => t.minute)).size === threads.length;

/** Threads by value. */
export const runningThreads = v.pipe(
  list(v.object({ minute, strengthShare: share, mix: levels, mixName: name })),
  v.check(oncePerMinute, 'two threads stand at one minute'),
);

const thread = v.object({
  id,
  minute,
  strengthShare: share,
  mix: v.union(
    [v.object({ plateId: id }), v.object({ own: levels, fromPlateId: v.optional(id) })],
    'is { plateId } or { own }',
  ),
});

const day = v.pipe(v.string('give text'), v.isoDate('give a date such as 2026-01-31'));
const solid = v.pipe(
  v.object({
    id,
    name,
    shape: v.picklist(['block', 'mound', 'step'], 'is "block", "mound" or "step"'),
    xCm: between(-500, 1500, ' cm'),
    yCm: between(-500, 1500, ' cm'),
    lengthCm: between(1, 1000, ' cm'),
    widthCm: between(1, 1000, ' cm'),
    topCm: between(0, 299, ' cm'),
    bottomCm: between(1, 300, ' cm'),
  }),
  v.check((s) => s.bottomCm > s.topCm, 'its bottom lies below its top'),
);

const need = v.picklist(Object.keys(NEEDS) as NeedId[], `is one of ${Object.keys(NEEDS).join(', ')}`);
const wants = v.pipe(
  v.object({ fromUmol: between(0, 3000, ' µmol'), toUmol: between(1, 3000, ' µmol') }),
  v.check((w) => w.toUmol > w.fromUmol, 'ends above where it begins'),
);

const latitudeDeg = between(-66, 66, '°');
const window = { fromMinute: minute, toMinute: minute };
const extras: v.GenericSchema<unknown, Extras> = v.object({
  moon: v.optional(
    v.object({
      ...window,
      mix: levels,
      strengthShare: share,
      real: v.nullable(
        v.object({ latitudeDeg: between(-90, 90, '°'), longitudeDeg: between(-180, 180, '°') }),
      ),
    }),
  ),
  weather: v.optional(
    v.object({
      seed: v.pipe(between(0, 4_294_967_295), v.integer('give a whole number')),
      depthShare: between(0, CLOUD_DEPTH_MOST),
      cloudyShare: share,
      storms: truth,
      flashesPerSecond: between(0.1, FLASHES_MOST),
    }),
  ),
  interludes: v.optional(
    list(
      v.object({
        id,
        kind: v.picklist(['photograph', 'feeding', 'viewing', 'maintenance'], 'is no kind known here'),
        date: day,
        fromMinute: minute,
        minutes: v.pipe(between(1, 720, ' min'), v.integer('give whole minutes')),
        strengthShare: share,
        mix: levels,
        mixName: name,
      }),
    ),
  ),
  drift: v.optional(v.object({ latitudeDeg, mostMinutes: between(1, 180, ' min') })),
});
const limit = v.pipe(
  v.object({ floor: v.nullable(between(0, 100, ' mol')), ceiling: v.nullable(between(0, 100, ' mol')) }),
  v.check(
    (l) => l.floor === null || l.ceiling === null || l.floor <= l.ceiling,
    'its ceiling lies below its floor',
  ),
);

const CHORES = ['lens', 'fan', 'salt', 'drip', 'residual'] as const;
const ALGA_IDS = ALGAE.map((a) => a.id);
const choreDays = v.pipe(between(1, 3650, ' days'), v.integer('give whole days'));

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
    walls: v.object({ left: share, right: share, front: share, back: share }),
    floorReflectance: share,
    lidShare: share,
    solids: v.pipe(list(solid), v.maxLength(40, 'at most 40 solids')),
  }),
  water: v.object({ yellow440PerM: between(0, 5), scatterPerM: between(0, 5) }),
  carbonDate: v.nullable(day),
  rippleSlope: between(0, 0.3),
  needs: v.record(need, wants),
  home: v.optional(v.nullable(v.object(window))),
  doseLimits: v.optional(v.record(v.picklist(BANDS.map((b) => b.id)), limit)),
  flow: v.optional(
    v.object({
      way: v.picklist(['over', 'through', 'beneath', 'still'], 'is no way of water known here'),
      leaves: v.picklist(['weir', 'baffle'], 'is "weir" or "baffle"'),
      turnsPerHour: v.nullable(between(0, 1000, ' times an hour')),
      screened: v.boolean('is true or false'),
      headroomCm: v.nullable(between(0, 300, ' cm')),
      drainsL: v.nullable(between(0, 5000, ' l')),
    }),
  ),
  choreDays: v.optional(v.record(v.picklist(CHORES, 'is no chore known here'), choreDays)),
  groups: list(
    v.object({
      id,
      name,
      lampKindId: id,
      lamps: list(hungLamp, 1),
      threads: v.pipe(list(thread), v.check(oncePerMinute, 'two threads stand at one minute')),
      capShare: share,
      extras: v.optional(extras),
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
      need: v.nullable(need),
      wants: v.nullable(wants),
      arrived: v.nullable(day),
      sourceLight: text,
      cameFrom: v.optional(
        v.nullable(v.object({ peakUmol: between(1, 3000, ' µmol'), hours: between(0.5, 24, ' h') })),
      ),
      algaId: v.optional(v.nullable(v.picklist(ALGA_IDS, 'is no alga known here'))),
      mat: v.optional(
        v.nullable(v.object({ lengthCm: between(1, 1000, ' cm'), widthCm: between(1, 1000, ' cm') })),
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
    kwhPrice: v.optional(v.nullable(between(0, 1e6))),
    system: v.optional(
      v.object({
        litres: v.nullable(between(1, 1e6, ' l')),
        fedGPerDay: v.nullable(between(0, 1e5, ' g')),
        food: v.picklist(['dry', 'frozen'], 'is "dry" or "frozen"'),
        dosedNitratePpm: between(0, 1000, ' ppm'),
        dosedPhosphatePpm: between(0, 100, ' ppm'),
      }),
    ),
  }),
  referencesHold,
);

const ofGroup = { groupId: id, groupName: name };
const typed = {
  lampKind,
  lamps: list(hungLamp, 1),
  threads: runningThreads,
  capShare: share,
  extras: v.optional(extras),
};
const wholeDays = (most: number) => v.pipe(between(0, most, ' days'), v.integer('give whole days'));
const place = v.object({
  xCm: between(0, 1000, ' cm'),
  yCm: between(0, 1000, ' cm'),
  depthCm: between(0, 300, ' cm'),
  openShare: share,
});

const plan: v.GenericSchema<unknown, EasingPlan> = v.object({
  id,
  zoneId: id,
  name,
  createdUtc: instant,
  targets: list(v.object({ ...ofGroup, ...typed })),
  from: list(v.object({ ...ofGroup, ...typed })),
  method: v.picklist(
    ['cap', 'hours', 'circuits', 'height', 'blend', 'places'],
    'is no way of easing known here',
  ),
  schedule: v.variant(
    'kind',
    [
      v.object({ kind: v.picklist(['fastest', 'itself']) }),
      v.object({ kind: v.literal('line'), fromShare: share, days: wholeDays(2000) }),
      v.object({
        kind: v.literal('few'),
        changes: v.pipe(between(1, 400), v.integer('give a whole number')),
        everyDays: v.pipe(between(1, 90, ' days'), v.integer('give whole days')),
        weekday: v.nullable(v.pipe(between(1, 7), v.integer('give a whole number'))),
      }),
    ],
    'kind is "fastest", "line", "few" or "itself"',
  ),
  ceiling: between(1.001, 10),
  raiseCm: v.optional(between(0, 200, ' cm')),
  climb: v.optional(v.object({ spotId: id, places: list(place, 2) })),
  steps: list(v.object({ date: day, setting: share, doneUtc: v.nullable(instant) })),
  state: v.picklist(['active', 'paused', 'finished', 'stopped'], 'is no state known here'),
  deeds: list(
    v.object({
      id,
      atUtc: instant,
      what: v.picklist(
        [
          'started',
          'step',
          'replanned',
          'held',
          'back',
          'slower',
          'paused',
          'resumed',
          'finished',
          'stopped',
        ],
        'is no deed known here',
      ),
      words: text,
    }),
  ),
});

export const historySchema: v.GenericSchema<unknown, HistoryDoc> = v.object({
  format: v.literal('chromatheca-history', 'is no Chromatheca history'),
  version: v.literal(HISTORY_VERSION),
  caseId: id,
  entries: v.array(
    v.object({
      id,
      zoneId: id,
      ...ofGroup,
      atUtc: instant,
      sure: v.picklist(['typedIn', 'loaded', 'proven', 'doubted'], 'is no kind of sureness known here'),
      ...typed,
      easingShare: share,
      usedTo: truth,
      planId: v.optional(id),
      rise: v.optional(v.object({ date: day, days: wholeDays(2000), fromShare: share, toShare: share })),
    }),
  ),
  plans: list(plan),
});

const event = { id, zoneId: id, atUtc: instant, note: text };
const logEvent: v.GenericSchema<unknown, LogEvent> = v.variant(
  'kind',
  [
    v.pipe(
      v.object({
        ...event,
        kind: v.literal('outage'),
        toUtc: v.nullable(instant),
        groupIds: v.nullable(list(id, 1)),
      }),
      v.check((o) => o.toUtc === null || o.toUtc > o.atUtc, 'ends after it begins'),
    ),
    v.object({
      ...event,
      kind: v.literal('carbon'),
      yellowBefore: between(0, 5),
      yellowAfter: between(0, 5),
    }),
    v.object({ ...event, kind: v.literal('lens'), groupId: v.nullable(id), gainShare: between(0, 4) }),
    v.object({ ...event, kind: v.literal('moved'), spotId: id, from: place, to: place }),
    v.object({
      ...event,
      kind: v.literal('sign'),
      spotId: id,
      sign: v.picklist(
        ['paling', 'browning', 'polypsIn', 'polypsOut', 'tissue', 'newColour'],
        'is no sign known here',
      ),
    }),
    v.object({ ...event, kind: v.literal('note') }),
    v.object({
      ...event,
      kind: v.literal('harvest'),
      spotId: id,
      wetG: between(0, 1e6, ' g'),
      drained: v.picklist(['dripping', 'drained', 'squeezed', 'dried'], 'is no way of draining known here'),
      leftG: v.nullable(between(0, 1e6, ' g')),
    }),
    v.object({
      ...event,
      kind: v.literal('test'),
      nitratePpm: v.nullable(between(0, 1000, ' ppm')),
      phosphatePpm: v.nullable(between(0, 100, ' ppm')),
    }),
    v.object({
      ...event,
      kind: v.literal('chore'),
      chore: v.picklist(['fan', 'salt', 'drip', 'residual'], 'is no chore known here'),
    }),
  ],
  'kind is "outage", "carbon", "lens", "moved", "sign", "note", "harvest", "test" or "chore"',
);

export const logSchema: v.GenericSchema<unknown, LogDoc> = v.object({
  format: v.literal('chromatheca-log', 'is no Chromatheca log'),
  version: v.literal(LOG_VERSION),
  caseId: id,
  events: v.pipe(v.array(logEvent, 'give a list'), v.maxLength(20_000, 'at most 20000 allowed')),
});

export const readingsSchema: v.GenericSchema<unknown, ReadingsDoc> = v.object({
  format: v.literal('chromatheca-readings', 'is no Chromatheca list of readings'),
  version: v.literal(READINGS_VERSION),
  caseId: id,
  sessions: list(
    v.object({
      id,
      zoneId: id,
      name,
      atUtc: instant,
      meter: v.object({
        kind: v.picklist(METERS, `is one of ${METERS.join(', ')}`),
        immersionFactor: between(0.5, 3),
        sensorAboveCm: between(0, 50, ' cm'),
        simulated: v.boolean('is true or false'),
      }),
      pumpsOn: v.boolean('is true or false'),
      lit: text,
      counts: v.boolean('is true or false'),
      rig: v.nullable(list(v.object({ groupId: id, name, lampKind, lamps: list(hungLamp, 1) }))),
      readings: list(
        v.object({
          id,
          spotId: v.nullable(id),
          name,
          xCm: between(0, 1000, ' cm'),
          yCm: between(0, 1000, ' cm'),
          depthCm: between(0, 300, ' cm'),
          atUtc: instant,
          tries: v.pipe(
            v.array(between(0, 1e6), 'give a list'),
            v.minLength(1, 'at least 1 needed'),
            v.maxLength(50, 'at most 50 allowed'),
          ),
          bands: v.nullable(
            v.pipe(v.array(share, 'give a list'), v.length(BANDS.length, 'nine bands needed')),
          ),
          levels: v.record(id, levels),
        }),
      ),
    }),
  ),
});

const TANK_VIEW = {
  view: 'top' as const,
  whose: 'running' as const,
  what: 'plateau' as const,
  minute: -1,
  against: 'none' as const,
  againstMinute: -1,
  depth: 0.4,
  fromFront: 0.5,
  fromLeft: 0.5,
  suits: 'chosen',
  bound: 0.25,
};
const READING_HABITS = {
  immersionFactor: 1,
  sensorAboveCm: 1,
  simulated: false,
  pumpsOn: false,
  places: 'spots' as const,
  gridColumns: 5,
  gridRows: 3,
  gridDepthCm: 30,
  lit: 'plateau:-1',
  litShare: 1,
};

const EASE_HABITS = {
  school: 'usual' as const,
  ownCeiling: 1.2,
  stage: 'growing' as const,
  eye: 'daily' as const,
};

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
  meter: v.fallback(v.picklist(METERS), 'lux'),
  /** what the tank's chart shows */
  tank: v.fallback(
    v.object({
      view: v.picklist(['top', 'front', 'side']),
      whose: v.picklist(['running', 'draft']),
      what: v.picklist(['now', 'plateau', 'dli']),
      /** minute of the chosen plateau; −1 = the brightest */
      minute: v.number(),
      against: v.picklist(['none', 'other', 'plateau']),
      againstMinute: v.number(),
      /** share of the depth, from the front, from the left */
      depth: share,
      fromFront: share,
      fromLeft: share,
      /** whose wants are drawn: a need, or "chosen" = the chosen coral's, or "none" */
      suits: v.string(),
      /** how far from the mean is hot or cold */
      bound: share,
    }),
    () => ({ ...TANK_VIEW }),
  ),
  /** how readings are taken */
  readings: v.fallback(
    v.object({
      immersionFactor: between(0.5, 3),
      sensorAboveCm: between(0, 50, ' cm'),
      simulated: v.boolean(),
      pumpsOn: v.boolean(),
      /** where readings are taken: at the spots, on a grid, or both */
      places: v.picklist(['spots', 'grid', 'both']),
      gridColumns: between(1, 12),
      gridRows: between(1, 8),
      gridDepthCm: between(0, 300, ' cm'),
      /** what is lit: "plateau:MINUTE", "now", "full", "alone:GROUP/CHANNEL" or "plate:ID" */
      lit: v.string(),
      litShare: share,
    }),
    () => ({ ...READING_HABITS }),
  ),
  /** steps in which a thread slides, minutes */
  daySnap: v.fallback(v.picklist([1, 5, 15, 60]), 5),
  /** days are compared at equal light */
  equalDli: v.fallback(v.boolean(), true),
  /** the caution about flashing light has been read */
  flashesRead: v.fallback(v.boolean(), false),
  /** how changes are eased in, as chosen last */
  ease: v.fallback(
    v.object({
      school: v.picklist(['gentle', 'usual', 'brisk', 'own']),
      ownCeiling: between(1.01, 3),
      stage: v.picklist(['young', 'growing', 'mature']),
      eye: v.picklist(['daily', 'weekly', 'seldom']),
    }),
    () => ({ ...EASE_HABITS }),
  ),
  /** simulated heads: whose lamps each is, and what it held before it was loaded last */
  heads: v.fallback(
    v.record(
      v.string(),
      v.object({
        groupId: v.string(),
        before: v.nullable(
          v.object({
            capShare: share,
            points: v.array(v.object({ minute: v.number(), values: v.array(share) })),
          }),
        ),
      }),
    ),
    {},
  ),
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
  tank: TANK_VIEW,
  readings: READING_HABITS,
  daySnap: 5,
  equalDli: true,
  flashesRead: false,
  ease: EASE_HABITS,
  heads: {},
  behind: null,
  eyeDegree: null,
};
