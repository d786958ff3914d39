import { parseTime } from '@/core/day/clock';
import { civilDay } from '@/core/day/wallClock';
import { bundleOf, type CaseBundle } from '@/core/record/documents';
import { type LogEvent } from '@/core/record/log';
import type { Plate } from '@/core/record/caseDoc';
import { plainSpot, type Spot, type Thread, type Zone } from '@/core/record/zone';
import type { RunningEntry } from '@/core/record/history';
import { CONTROLLERS } from '@/core/controller/profiles';
import { libraryLamp } from '@/core/library/lamps';
import { plainTank } from '@/core/optics/tank';

import { demoPanel } from './panel';
import { demoPlates, plate } from './plates';
import { datesFrom, LENS_IN_DAYS, storyEvents, storyExperiment, storyPlan, storyRuns } from './story';

export { demoShot } from './pictures';

const DAY: readonly (readonly [time: string, strengthShare: number, plateId: string])[] = [
  ['08:40', 0, 'demo-dusk'],
  ['10:30', 0.34, 'demo-late'],
  ['14:05', 1, 'demo-noon'],
  ['17:30', 0.92, 'demo-late'],
  ['19:00', 0.3, 'demo-dusk'],
  ['20:10', 0, 'demo-dusk'],
];
const threads = DAY.map(([time, strengthShare, plateId], i): Thread => ({
  id: `demo-thread-${i + 1}`,
  minute: parseTime(time)!,
  strengthShare,
  mix: { plateId },
}));

const spot = (
  id: string,
  name: string,
  xCm: number,
  yCm: number,
  depthCm: number,
  need: Spot['need'],
  formId: string,
): Spot => plainSpot({ id, name, xCm, yCm, depthCm, need, formId });

const lamps = [
  { id: 'demo-left', name: 'left', xCm: 42, yCm: 30, heightCm: 24, turnDeg: 0 },
  { id: 'demo-right', name: 'right', xCm: 108, yCm: 30, heightCm: 24, turnDeg: 0 },
];
const capShare = 0.8;

/** The reading-room lagoon: a public library's reef, invented. */
const zone = (timeZone: string): Zone => ({
  id: 'demo-display',
  name: 'Display',
  kind: 'display',
  timeZone,
  tank: plainTank(150, 60, 50),
  water: { yellow440PerM: 0.12, scatterPerM: 0.05 },
  carbonDate: null,
  rippleSlope: 0.05,
  needs: {},
  groups: [{ id: 'demo-panels', name: 'Panels', lampKindId: demoPanel.id, lamps, threads, capShare }],
  spots: [
    spot('demo-copper', 'Copper table', 40, 32, 17, 'smallPolyp', 'orange-table'),
    spot('demo-plum', 'Plum table', 104, 26, 15, 'smallPolyp', 'purple-table'),
    spot('demo-moss', 'Moss branch', 74, 34, 24, 'smallPolyp', 'green-tip-branch'),
    spot('demo-slate', 'Slate plate', 126, 38, 31, 'largePolyp', 'teal-plate'),
    spot('demo-straw', 'Straw polyp', 14, 14, 44, 'soft', 'yellow-polyps'),
  ],
});

/** Its sump: a section with tangled green algae under a lamp that is only on or off, on a timer in the wall. */
const sumpLamp = {
  ...libraryLamp('lib-refugium-fixed'),
  id: 'demo-sump-lamp',
  name: 'Red-and-blue lamp',
  controller: CONTROLLERS.find((c) => c.id === 'wall-timer')!.profile,
};
const sumpPlate: Plate = {
  ...plate('demo-grow', 'On', { grow: 1 }, ''),
  lampKindId: sumpLamp.id,
};
const sumpLamps = [{ id: 'demo-sump', name: 'sump', xCm: 22, yCm: 17, heightCm: 32, turnDeg: 0 }];
const NIGHT: readonly (readonly [time: string, strengthShare: number])[] = [
  ['20:30', 1],
  ['08:30', 0],
];
const sumpThreads = NIGHT.map(([time, strengthShare], i): Thread => ({
  id: `demo-night-${i + 1}`,
  minute: parseTime(time)!,
  strengthShare,
  mix: { plateId: sumpPlate.id },
}));
const sump = (timeZone: string): Zone => ({
  id: 'demo-sump-zone',
  name: 'Refugium',
  kind: 'refugium',
  timeZone,
  tank: plainTank(45, 35, 30),
  water: { yellow440PerM: 0.12, scatterPerM: 0.05 },
  carbonDate: null,
  rippleSlope: 0.05,
  needs: {},
  flow: {
    way: 'over',
    leaves: 'baffle',
    turnsPerHour: 9,
    screened: true,
    headroomCm: 12,
    drainsL: 11,
  },
  groups: [
    {
      id: 'demo-sump-group',
      name: 'Sump lamp',
      lampKindId: sumpLamp.id,
      lamps: sumpLamps,
      threads: sumpThreads,
      capShare: 1,
    },
  ],
  spots: [
    plainSpot({
      id: 'demo-tangle',
      name: 'Green tangle',
      xCm: 22,
      yCm: 17,
      depthCm: 8,
      need: 'macroalgae',
      algaId: 'greenTangle',
      mat: { lengthCm: 38, widthCm: 28 },
    }),
  ],
});

const TYPED_IN_DAYS_AGO = 12;
const SUMP_SINCE_DAYS = 75;
const DAY_MS = 86_400_000;

/** Days ago, wet g taken out, g left. */
const HARVESTS: readonly (readonly [daysAgo: number, wetG: number, leftG: number])[] = [
  [61, 150, 260],
  [47, 118, 255],
  [33, 126, 260],
  [19, 112, 250],
  [5, 121, 255],
];
/** Days ago, nitrate and phosphate in ppm. */
const TESTS: readonly (readonly [daysAgo: number, nitratePpm: number, phosphatePpm: number])[] = [
  [62, 14, 0.1],
  [48, 13, 0.09],
  [34, 11, 0.09],
  [20, 10, 0.07],
  [6, 9, 0.07],
];
const demoEvents = (nowMs: number): LogEvent[] => {
  const at = (daysAgo: number) => new Date(nowMs - daysAgo * DAY_MS).toISOString();
  const base = (id: string, daysAgo: number) => ({
    id,
    zoneId: 'demo-sump-zone',
    atUtc: at(daysAgo),
    note: '',
  });
  return [
    ...HARVESTS.map(([daysAgo, wetG, leftG], i): LogEvent => ({
      ...base(`demo-harvest-${i + 1}`, daysAgo),
      kind: 'harvest',
      spotId: 'demo-tangle',
      wetG,
      drained: 'drained',
      leftG,
    })),
    ...TESTS.map(([daysAgo, nitratePpm, phosphatePpm], i): LogEvent => ({
      ...base(`demo-test-${i + 1}`, daysAgo),
      kind: 'test',
      nitratePpm,
      phosphatePpm,
    })),
    { ...base('demo-salt', 9), kind: 'chore', chore: 'salt' },
    { ...base('demo-drip', 9), kind: 'chore', chore: 'drip' },
    { ...base('demo-fan', 40), kind: 'chore', chore: 'fan' },
    { ...base('demo-residual', 40), kind: 'chore', chore: 'residual' },
  ];
};

/** The display by itself: what hangs over it, what ran, nothing logged. Dates are counted from its first start. */
export function displayCase(nowMs: number, timeZone: string): CaseBundle {
  const caseId = 'demo';
  const running: RunningEntry = {
    id: 'demo-running',
    zoneId: 'demo-display',
    groupId: 'demo-panels',
    groupName: 'Panels',
    atUtc: new Date(nowMs - TYPED_IN_DAYS_AGO * DAY_MS).toISOString(),
    sure: 'typedIn',
    lampKind: demoPanel,
    lamps,
    threads: threads.map((t) => {
      const p = demoPlates.find((x) => 'plateId' in t.mix && x.id === t.mix.plateId)!;
      return { minute: t.minute, strengthShare: t.strengthShare, mix: p.mix, mixName: p.name };
    }),
    capShare,
    easingShare: 1,
    usedTo: true,
  };
  const bundle = bundleOf({
    format: 'chromatheca-case',
    version: 5,
    id: caseId,
    name: 'Reading-room lagoon',
    demo: true,
    zones: [zone(timeZone)],
    lampKinds: [demoPanel],
    plates: demoPlates,
    references: [],
    forms: [],
  });
  return { ...bundle, history: { ...bundle.history, entries: [running] } };
}

/** The display and its refugium, with what was weighed, tested and seen to there. */
export function watersCase(nowMs: number, timeZone: string): CaseBundle {
  const { case: doc, history, readings, log } = displayCase(nowMs, timeZone);
  const sumpRuns: RunningEntry = {
    id: 'demo-sump-running',
    zoneId: 'demo-sump-zone',
    groupId: 'demo-sump-group',
    groupName: 'Sump lamp',
    atUtc: new Date(nowMs - SUMP_SINCE_DAYS * DAY_MS).toISOString(),
    sure: 'typedIn',
    lampKind: sumpLamp,
    lamps: sumpLamps,
    threads: sumpThreads.map(({ minute, strengthShare }) => ({
      minute,
      strengthShare,
      mix: sumpPlate.mix,
      mixName: sumpPlate.name,
    })),
    capShare: 1,
    easingShare: 1,
    usedTo: true,
  };
  return {
    case: {
      ...doc,
      zones: [...doc.zones, sump(timeZone)],
      lampKinds: [...doc.lampKinds, sumpLamp],
      plates: [...doc.plates, sumpPlate],
      system: { litres: 420, fedGPerDay: 2.5, food: 'dry', dosedNitratePpm: 0, dosedPhosphatePpm: 0 },
    },
    history: { ...history, entries: [...history.entries, sumpRuns] },
    readings,
    log: { ...log, events: demoEvents(nowMs) },
  };
}

/** The demo: the same, and eight months of the display before today. */
export function demoCase(nowMs: number, timeZone: string): CaseBundle {
  const { case: doc, history, readings, log } = watersCase(nowMs, timeZone);
  const [display, ...others] = doc.zones;
  const [now, ...ran] = history.entries;
  const { id: _, atUtc: __, usedTo: ___, ...today } = now!;
  const date = datesFrom(civilDay(nowMs, timeZone).date);
  const seenTo = { choreLater: { lens: date(-LENS_IN_DAYS) } };
  return {
    case: { ...doc, zones: [{ ...display!, ...seenTo, experiments: [storyExperiment(date)] }, ...others] },
    history: {
      ...history,
      // what runs today was changed to, not begun with
      entries: [...storyRuns(nowMs, today), { ...now!, usedTo: false }, ...ran],
      plans: [storyPlan(nowMs, today, date)],
    },
    readings,
    log: { ...log, events: [...storyEvents(nowMs, display!.id, date), ...log.events] },
  };
}
