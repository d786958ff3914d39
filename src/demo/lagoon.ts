import { parseTime } from '@/core/day/clock';
import type { Levels } from '@/core/day/thread';
import {
  type CaseBundle,
  emptyLog,
  type Plate,
  plainSpot,
  type RunningEntry,
  type Spot,
  type Thread,
  type Zone,
} from '@/core/case/types';
import { plainTank } from '@/core/optics/tank';

import { demoPanel } from './panel';

const plate = (id: string, name: string, mix: Levels, notes: string): Plate => ({
  id,
  name,
  lampKindId: demoPanel.id,
  notes,
  mix,
  locked: [],
  versions: [],
});

const plates = [
  plate(
    'demo-late',
    'Late light',
    {
      'near-uv': 0.5,
      violet: 0.72,
      'royal-blue': 0.86,
      blue: 0.7,
      cyan: 0.38,
      lime: 0.12,
      'cool-white': 0.2,
      'deep-red': 0.08,
    },
    'Blue with a little white, for the hours when people read beside the tank.',
  ),
  plate(
    'demo-noon',
    'Reading noon',
    {
      'near-uv': 0.4,
      violet: 0.7,
      'royal-blue': 0.82,
      blue: 0.74,
      cyan: 0.48,
      lime: 0.3,
      'cool-white': 0.55,
      'deep-red': 0.15,
    },
    'Whiter, so that sand, rock and fish show their colours.',
  ),
  plate(
    'demo-dusk',
    'Deep shelf',
    {
      'near-uv': 0.3,
      violet: 0.6,
      'royal-blue': 0.8,
      blue: 0.45,
      cyan: 0.05,
      lime: 0,
      'cool-white': 0,
      'deep-red': 0,
    },
    'First and last light.',
  ),
];

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
    spot('demo-copper', 'Copper table', 40, 32, 17, 'smallPolyp', 'orange-plate'),
    spot('demo-plum', 'Plum table', 104, 26, 15, 'smallPolyp', 'purple-table'),
    spot('demo-moss', 'Moss branch', 74, 34, 24, 'smallPolyp', 'green-tip-branch'),
    spot('demo-slate', 'Slate plate', 126, 38, 31, 'largePolyp', 'teal-cup'),
    spot('demo-straw', 'Straw polyp', 14, 14, 44, 'soft', 'yellow-polyps'),
  ],
});

const TYPED_IN_DAYS_AGO = 12;

/** The demo case, its dates counted from its first start. */
export function demoCase(nowMs: number, timeZone: string): CaseBundle {
  const caseId = 'demo';
  const running: RunningEntry = {
    id: 'demo-running',
    zoneId: 'demo-display',
    groupId: 'demo-panels',
    groupName: 'Panels',
    atUtc: new Date(nowMs - TYPED_IN_DAYS_AGO * 86_400_000).toISOString(),
    sure: 'typedIn',
    lampKind: demoPanel,
    lamps,
    threads: threads.map((t) => {
      const p = plates.find((x) => 'plateId' in t.mix && x.id === t.mix.plateId)!;
      return { minute: t.minute, strengthShare: t.strengthShare, mix: p.mix, mixName: p.name };
    }),
    capShare,
    easingShare: 1,
    usedTo: true,
  };
  return {
    case: {
      format: 'chromatheca-case',
      version: 4,
      id: caseId,
      name: 'Reading-room lagoon',
      demo: true,
      zones: [zone(timeZone)],
      lampKinds: [demoPanel],
      plates,
      references: [],
      forms: [],
    },
    history: { format: 'chromatheca-history', version: 5, caseId, entries: [running], plans: [] },
    readings: { format: 'chromatheca-readings', version: 3, caseId, sessions: [] },
    log: emptyLog(caseId),
  };
}
