import { createAsyncStorage } from '@react-native-async-storage/async-storage';
import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import * as v from 'valibot';

import { calibrate } from '@/core/case/calibrate';
import { displayCase } from '@/demo/lagoon';

import { listAside, listCases, loadCase, loadSettings, rawText, saveCase, saveSettings } from './documents';
import { exportText, importText, mergedDocument, readFile, withId } from '@/core/record/caseFile';
import { plateText, readPlate } from './plateFile';
import { caseKind } from '@/core/record/caseDoc';
import {
  LARGEST_TEXT,
  parseObject,
  type Problem,
  problemLine,
  type Read,
  validated,
} from '@/core/record/read';
import { DEFAULT_SETTINGS } from './settings';
import { kindOfPart, PARTS } from '@/core/record/documents';

const storage = createAsyncStorage('chromatheca');
const demo = () => displayCase(Date.UTC(2026, 10, 24), 'Europe/Berlin');
const plain = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;
/** What was read. */
const taken = <T>(read: Read<T>): T => {
  if (!read.ok) throw new Error(problemLine(read.problem));
  return read.value;
};
const read = (text: string) => taken(importText(text));
/** What is wrong with a text. */
const refused = (work: () => Read<unknown>): Problem & { message: string } => {
  const result = work();
  if (result.ok) throw new Error('was accepted');
  return { ...result.problem, message: problemLine(result.problem) };
};
const loaded = async (id: string) => {
  const found = await loadCase(id);
  if (found.is !== 'open') throw new Error(found.is);
  return found;
};
const stored = async (...args: Parameters<typeof saveCase>): Promise<string> => {
  const saved = await saveCase(...args);
  if (saved.is !== 'saved') throw new Error(saved.is);
  return saved.revision;
};
beforeEach(() => storage.clear());

describe('older versions', () => {
  /** What version 3 brought to a zone, taken away again. */
  function older(
    zone: Record<string, unknown> & { tank: Record<string, unknown>; spots: Record<string, unknown>[] },
  ) {
    for (const key of ['walls', 'floorReflectance', 'lidShare', 'solids']) delete zone.tank[key];
    delete zone.carbonDate;
    delete zone.rippleSlope;
    delete zone.needs;
    for (const s of zone.spots) for (const key of ['wants', 'arrived', 'sourceLight']) delete s[key];
  }

  test('a case of version 2 gets clean glass and sand, and its single readings become sessions of one', () => {
    const file = JSON.parse(exportText(demo()));
    file.case.version = 2;
    file.history.version = 2;
    file.readings.version = 1;
    older(file.case.zones[0]);
    delete file.readings.sessions;
    const levels = { 'demo-panels': { violet: 0.4 } };
    file.readings.readings = [
      {
        id: 'r1',
        zoneId: 'demo-display',
        spotId: 'demo-plum',
        atUtc: '2026-11-20T12:00:00.000Z',
        valueUmol: 210,
        levels,
        modelUmol: 190,
      },
    ];
    const bundle = read(JSON.stringify(file));
    expect(bundle.case.zones[0]!.tank).toEqual(demo().case.zones[0]!.tank);
    expect(bundle.case.zones[0]!.spots).toEqual(demo().case.zones[0]!.spots);
    const [session] = bundle.readings.sessions;
    expect(session).toMatchObject({ rig: null, counts: true, meter: { kind: 'ideal' } });
    expect(session!.readings[0]).toMatchObject({ spotId: 'demo-plum', tries: [210], levels });
    // what it says is listened to, at the place of its spot
    const cal = calibrate(bundle.case, bundle.case.zones[0]!, bundle.readings.sessions);
    expect(cal.residuals[0]).toMatchObject({ xCm: 104, depthCm: 15, observedUmol: expect.closeTo(210, -1) });
  });

  /** The demo as version 1 wrote it: no controls, no dimming, plates without versions. */
  function version1(): string {
    const file = JSON.parse(exportText(demo()));
    const strip = (
      kind: Record<string, unknown> & { channels: Record<string, unknown>[]; controller: object },
    ) => {
      for (const key of ['source', 'controls', 'layout', 'powerBudgetWatts', 'price']) delete kind[key];
      kind.channels.forEach((c) => delete c.dimming);
      kind.controller = { pointStepShare: 0.01, interpolation: 'ramp' };
    };
    file.case.version = 1;
    file.history.version = 1;
    file.case.lampKinds.forEach(strip);
    file.history.entries.forEach((e: { lampKind: Parameters<typeof strip>[0] }) => strip(e.lampKind));
    file.case.plates.forEach((p: Record<string, unknown>) => {
      delete p.locked;
      delete p.versions;
    });
    delete file.case.references;
    delete file.case.forms;
    older(file.case.zones[0]);
    for (const s of file.case.zones[0].spots) {
      delete s.formId;
      delete s.soloNotes;
    }
    return JSON.stringify(file);
  }

  test('a case of version 1 migrates: a control per channel, the same light', () => {
    const now = plain(demo());
    const { case: doc, history } = read(version1());
    const spots = now.case.zones[0]!.spots.map((s) => ({ ...s, formId: null }));
    expect(doc).toEqual({
      ...now.case,
      zones: [{ ...now.case.zones[0]!, spots }],
      lampKinds: [{ ...now.case.lampKinds[0]!, price: null }],
    });
    expect(history.entries[0]!.lampKind.controls.map((c) => c.id)).toEqual(
      now.case.lampKinds[0]!.channels.map((c) => c.id),
    );
  });

  test('what was wrong in version 1 is still named at its place', () => {
    const file = JSON.parse(version1());
    file.case.lampKinds[0].channels = 'none';
    expect(refused(() => importText(JSON.stringify(file)))).toMatchObject({
      path: expect.stringMatching(/^case\.lampKinds\.0\.(channels|controls)/),
    });
  });

  test('controls that do not fit their channels are refused', () => {
    const bundle = plain(demo());
    bundle.case.lampKinds[0]!.controls.pop();
    expect(refused(() => importText(exportText(bundle)))).toMatchObject({
      path: 'case.lampKinds.0',
      problem: 'nothing drives the channel Deep red',
    });
  });
});

test('caps still to be typed in become a plan; files without a log get an empty one', () => {
  const file = JSON.parse(exportText(demo()));
  file.version = 1;
  delete file.log;
  file.history.version = 4;
  delete file.history.plans;
  const [entry] = file.history.entries;
  entry.capShare = 0.4;
  entry.capSteps = [
    { date: '2026-11-25', capShare: 0.6 },
    { date: '2026-11-30', capShare: 0.8 },
  ];
  const old = {
    ...entry,
    id: 'old',
    atUtc: '2026-01-01T00:00:00.000Z',
    capSteps: [{ date: '2026-01-02', capShare: 1 }],
  };
  file.history.entries.push(old);
  const { history, log } = read(JSON.stringify(file));
  expect(log.events).toEqual([]);
  expect(history.entries.every((e) => !('capSteps' in e))).toBe(true);
  expect(history.plans).toHaveLength(1);
  expect(history.plans[0]).toMatchObject({
    method: 'cap',
    state: 'active',
    steps: [
      { date: '2026-11-25', setting: expect.closeTo(0.75, 9), doneUtc: null },
      { date: '2026-11-30', setting: 1, doneUtc: null },
    ],
  });
  expect(history.plans[0]!.targets[0]).toMatchObject({ capShare: 0.8, groupId: 'demo-panels' });
  // a file of today without its log is broken
  const broken = { ...JSON.parse(exportText(demo())) };
  delete broken.log;
  expect(refused(() => importText(JSON.stringify(broken)))).toMatchObject({ path: 'log' });
});

test('a case of version 3 gets controllers that take any number of points; circuits become clocks', () => {
  const file = JSON.parse(exportText(demo()));
  file.case.version = 3;
  file.history.version = 3;
  file.readings.version = 2;
  const bare = (kind: { controller: Record<string, unknown> }) => {
    const { pointStepShare, interpolation, capMeans, easingOf } = kind.controller;
    kind.controller = { pointStepShare, interpolation, capMeans, easingOf };
  };
  file.case.lampKinds.forEach(bare);
  file.history.entries.forEach((e: { lampKind: Parameters<typeof bare>[0] }) => bare(e.lampKind));
  file.case.lampKinds[0].controls = file.case.lampKinds[0].controls.map((c: object) => ({
    ...c,
    kind: 'onOff',
  }));
  const { case: doc, history } = read(JSON.stringify(file));
  expect(doc.lampKinds[0]!.controller).toMatchObject({ sets: 'switch', maxPoints: null, rows: 'colours' });
  expect(history.entries[0]!.lampKind.controller).toEqual(demo().history.entries[0]!.lampKind.controller);
});

test.each([
  [
    'case.zones.0.groups.0.extras.moon.toMinute',
    { moon: { fromMinute: 0, toMinute: 1500, mix: {}, strengthShare: 0, real: null } },
  ],
  [
    'case.zones.0.groups.0.extras.weather.flashesPerSecond',
    { weather: { seed: 1, depthShare: 0.2, cloudyShare: 1, storms: true, flashesPerSecond: 9 } },
  ],
  [
    'case.zones.0.groups.0.extras.weather.depthShare',
    { weather: { seed: 1, depthShare: 0.9, cloudyShare: 1, storms: true, flashesPerSecond: 1 } },
  ],
  ['case.zones.0.groups.0.extras.drift.latitudeDeg', { drift: { latitudeDeg: 80, mostMinutes: 60 } }],
  [
    'case.zones.0.groups.0.extras.interludes.0.date',
    {
      interludes: [
        {
          id: 'i',
          kind: 'viewing',
          date: 'soon',
          fromMinute: 0,
          minutes: 5,
          strengthShare: 1,
          mix: {},
          mixName: 'x',
        },
      ],
    },
  ],
])('what acts on a day is checked: %s', (path, extras) => {
  const file = JSON.parse(exportText(demo()));
  file.case.zones[0].groups[0].extras = extras;
  expect(refused(() => importText(JSON.stringify(file))).path).toBe(path);
});

describe('what version 2 added is checked', () => {
  type File = ReturnType<typeof plain<ReturnType<typeof demo>>>;
  const lamp = (f: File) => f.case.lampKinds[0]!;
  test.each<[string, (f: File) => void, RegExp]>([
    ['case.lampKinds.0.source', (f) => (lamp(f).source = 'laser' as never), /"led", "tube" or "halide"/],
    ['case.lampKinds.0.layout', (f) => (lamp(f).layout = 'ring' as never), /"spread", "cluster" or "line"/],
    ['case.lampKinds.0.powerBudgetWatts', (f) => (lamp(f).powerBudgetWatts = 0), /at least 1 W/],
    [
      'case.lampKinds.0.channels.0.dimming.curve',
      (f) =>
        (lamp(f).channels[0]!.dimming.curve = [
          [0.6, 0.5],
          [0.2, 0.6],
        ]),
      /rises from point to point/,
    ],
    [
      'case.lampKinds.0.channels.1.dimming.lowestLitShare',
      (f) => (lamp(f).channels[1]!.dimming.lowestLitShare = 2),
      /at most 0.9/,
    ],
    [
      'case.lampKinds.0.controls.0.kind',
      (f) => (lamp(f).controls[0]!.kind = 'knob' as never),
      /kind is "level"/,
    ],
    [
      'case.lampKinds.0.controller.capMeans',
      (f) => (lamp(f).controller.capMeans = 'adds' as never),
      /"multiplies", "rescales" or "none"/,
    ],
    [
      'case.plates.0.versions.0.atUtc',
      (f) => f.case.plates[0]!.versions.push({ id: 'v', atUtc: 'once', note: '', mix: {} }),
      /instant/,
    ],
    ['case.zones.0.spots.0.formId', (f) => (f.case.zones[0]!.spots[0]!.formId = 7 as never), /text/],
    [
      'case.zones.0.spots.0.soloNotes.0.saw',
      (f) =>
        f.case.zones[0]!.spots[0]!.soloNotes.push({
          id: 'n',
          colour: 'Blue',
          region: 'tips',
          saw: 'nice' as never,
          atUtc: '2026-01-01T00:00:00.000Z',
        }),
      /"good", "lost" or "hueMoved"/,
    ],
    [
      'case.forms.0.regions.0.brown',
      (f) =>
        f.case.forms.push({
          id: 'f',
          name: 'F',
          shape: 'brain',
          regions: [{ id: 'r', name: 'R', pale: 0.5, brown: 3, chromo: {}, proteins: {} }],
        }),
      /at most 1/,
    ],
    [
      'case.references.0.points',
      (f) => f.case.references.push({ id: 'x', name: 'X', points: [[400, 1]], quantity: 'energy' }),
      /at least 2 points/,
    ],
  ])('%s', (path, spoil, message) => {
    const bundle = plain(demo());
    spoil(bundle);
    const error = refused(() => importText(exportText(bundle)));
    expect([error.path, error.message]).toEqual([path, expect.stringMatching(message)]);
  });
});

describe('the plate file', () => {
  const { plates, lampKinds } = demo().case;
  test('a plate travels with its lamp', () => {
    expect(taken(readPlate(plateText(plates[0]!, lampKinds[0]!)))).toMatchObject({
      plate: plain(plates[0]!),
      lampKind: plain(lampKinds[0]!),
    });
  });
  test('a plate of version 1 gets a controller that takes any number of points', () => {
    const old = JSON.parse(plateText(plates[0]!, lampKinds[0]!));
    old.version = 1;
    const { pointStepShare, interpolation, capMeans, easingOf } = old.lampKind.controller;
    old.lampKind.controller = { pointStepShare, interpolation, capMeans, easingOf };
    expect(taken(readPlate(JSON.stringify(old))).lampKind.controller).toEqual(lampKinds[0]!.controller);
  });
  test.each<[string, (text: string) => string, RegExp]>([
    ['a case file', () => exportText(demo()), /no Chromatheca plate/],
    ['a newer version', (t) => t.replace('"version": 2', '"version": 3'), /knows versions up to 2/],
    ['another lamp', (t) => t.replace('"lampKindId": "demo-panel"', '"lampKindId": "x"'), /another lamp/],
    ['a level beyond full', (t) => t.replace('"violet": 0.72', '"violet": 72'), /at most 1/],
    ['no JSON', () => 'plate', /not JSON/],
  ])('%s is refused', (_, change, message) => {
    const error = refused(() => readPlate(change(plateText(plates[0]!, lampKinds[0]!))));
    expect(error.message).toMatch(message);
    expect(error.remedy.length).toBeGreaterThan(10);
  });
});

describe('the case file', () => {
  test('round trip: what was exported is imported, to the letter', () => {
    const bundle = demo();
    expect(read(exportText(bundle))).toEqual(plain(bundle));
  });

  test.each<[string, (f: ReturnType<typeof plain<ReturnType<typeof demo>>>) => void, RegExp]>([
    ['case.zones.0.tank.lengthCm', (f) => (f.case.zones[0]!.tank.lengthCm = -1), /at least 5/],
    ['case.zones.0.timeZone', (f) => (f.case.zones[0]!.timeZone = 'Atlantis/Reef'), /time zone/],
    [
      'case.zones.0.groups.0.lampKindId',
      (f) => (f.case.zones[0]!.groups[0]!.lampKindId = 'gone'),
      /lamp kind/,
    ],
    [
      'case.zones.0.groups.0.threads.1.mix.plateId',
      (f) => (f.case.zones[0]!.groups[0]!.threads[1]!.mix = { plateId: 'gone' }),
      /no plate/,
    ],
    [
      'case.zones.0.groups.0.threads',
      (f) => (f.case.zones[0]!.groups[0]!.threads[1]!.minute = 520),
      /one minute/,
    ],
    ['case.plates.0.mix.violet', (f) => (f.case.plates[0]!.mix = { violet: 1.4 }), /at most 1/],
    [
      'case.lampKinds.0.channels.0.groups.0.count',
      (f) => (f.case.lampKinds[0]!.channels[0]!.groups[0]!.count = 2.5),
      /whole/,
    ],
    [
      'history.entries.0.rise.date',
      (f) => (f.history.entries[0]!.rise = { date: 'soon', days: 3, fromShare: 0.5, toShare: 1 }),
      /date/,
    ],
    [
      'log.events.0.toUtc',
      (f) =>
        (f.log.events = [
          {
            id: 'o',
            zoneId: 'demo-display',
            kind: 'outage',
            note: '',
            atUtc: '2026-11-24T10:00:00.000Z',
            toUtc: 'later',
            groupIds: null,
          },
        ]),
      /instant/,
    ],
    [
      'case.zones.0.tank.solids.0',
      (f) =>
        (f.case.zones[0]!.tank.solids = [
          {
            id: 'x',
            name: 'x',
            shape: 'block',
            xCm: 1,
            yCm: 1,
            lengthCm: 5,
            widthCm: 5,
            topCm: 9,
            bottomCm: 3,
          },
        ]),
      /bottom/,
    ],
    [
      'case.zones.0.spots.0.wants',
      (f) => (f.case.zones[0]!.spots[0]!.wants = { fromUmol: 9, toUmol: 3 }),
      /begins/,
    ],
    [
      'case.lampKinds.0.optic',
      (f) =>
        (f.case.lampKinds[0]!.optic = {
          name: 'o',
          verticalDeg: [0, 90],
          horizontalDeg: [0],
          intensity: [[1]],
        }),
      /row of intensities/,
    ],
    [
      'case.zones.0.groups.0.lamps.0.tiltDeg',
      (f) => (f.case.zones[0]!.groups[0]!.lamps[0]!.tiltDeg = 90),
      /60/,
    ],
    ['history.caseId', (f) => (f.history.caseId = 'other'), /another case/],
    ['readings.sessions', (f) => (f.readings.sessions = {} as never), /list|Array/i],
  ])('names %s and a remedy', (path, spoil, problem) => {
    const bundle = plain(demo());
    spoil(bundle);
    const error = refused(() => importText(exportText(bundle)));
    expect([error.path, error.kind]).toEqual([path, 'invalid']);
    expect(error.problem).toMatch(problem);
    expect(error.remedy).toMatch(/\w+/);
  });

  test('hostile texts are refused with a DocumentError, never with anything else', () => {
    fc.assert(
      fc.property(
        fc.oneof(
          fc.string(),
          fc.json(),
          fc.object().map((o) => JSON.stringify({ format: 'chromatheca-file', version: 1, ...o })),
        ),
        (text) => {
          expect(refused(() => importText(text)).remedy).toMatch(/\w/);
          expect(refused(() => readFile(text)).remedy).toMatch(/\w/);
        },
      ),
    );
    expect(refused(() => parseObject('x'.repeat(LARGEST_TEXT + 1))).kind).toBe('tooLarge');
    expect(refused(() => importText('['.repeat(20_000))).kind).toBe('notJson');
  });

  test('an unknown newer version is refused untouched; a missing one is named', () => {
    const doc = plain(demo().case) as unknown as Record<string, unknown>;
    expect(refused(() => validated(caseKind.schema, { ...doc, version: 6 }, 5)).kind).toBe('newer');
    expect(refused(() => validated(caseKind.schema, { ...doc, version: undefined }, 5)).path).toBe('version');
  });

  test('older versions migrate forward, step by step', () => {
    const { name, ...old } = plain(demo().case) as unknown as Record<string, unknown>;
    const schema = v.object({ version: v.literal(3), name: v.string(), marks: v.number() });
    const steps = [
      (doc: Record<string, unknown>) => ({ ...doc, name: doc.title }),
      (doc: Record<string, unknown>) => ({ ...doc, marks: 1 }),
    ];
    expect(taken(validated(schema, { ...old, title: name, version: 1 }, 3, steps))).toEqual({
      version: 3,
      name,
      marks: 1,
    });
    expect(taken(validated(schema, { name, version: 2 }, 3, steps))).toEqual({ version: 3, name, marks: 1 });
  });
});

describe('documents', () => {
  test('a saved case is loaded as it was, and only changed parts are written again', async () => {
    const bundle = plain(demo());
    const first = await stored(bundle, null, [null]);
    await storage.setItem('history/demo', 'untouched');
    const changed = { ...bundle, case: { ...bundle.case, name: 'Renamed' } };
    const second = await stored(changed, bundle, [first]);
    expect(second).not.toBe(first);
    expect(await storage.getItem('history/demo')).toBe('untouched');
    await storage.setItem('history/demo', JSON.stringify(bundle.history));
    expect(await loaded('demo')).toEqual({ is: 'open', bundle: changed, revision: second });
  });

  test('a tab that knows an older revision must not write; nor over a case deleted and made anew', async () => {
    const bundle = demo();
    const known = await stored(bundle, null, [null]);
    await stored({ ...bundle, case: { ...bundle.case, name: 'Other tab' } }, bundle, [known]);
    expect((await saveCase(bundle, null, [known])).is).toBe('overtaken');
    expect((await loaded('demo')).bundle.case.name).toBe('Other tab');
    await storage.clear();
    expect((await saveCase(bundle, null, [known])).is).toBe('overtaken');
    // as many writes as the old one had: another case all the same
    const anew = await stored({ ...bundle, case: { ...bundle.case, name: 'Anew' } }, null, [null]);
    expect((await saveCase(bundle, null, [known])).is).toBe('overtaken');
    expect(await loaded('demo')).toMatchObject({ revision: anew, bundle: { case: { name: 'Anew' } } });
  });

  test('a new case is written over nothing that is stored under its id, not even a lone part', async () => {
    await storage.setItem('log/demo', '{"version":99}');
    expect((await saveCase(demo(), null, [null])).is).toBe('overtaken');
    expect(await storage.getItem('log/demo')).toBe('{"version":99}');
    expect(await storage.getItem('case/demo')).toBeNull();
  });

  test('a case that is stored since before revisions had names is followed all the same', async () => {
    const bundle = plain(demo());
    await stored(bundle, null, [null]);
    await storage.setItem('revision/demo', '7 some-tab');
    const { revision } = await loaded('demo');
    expect((await saveCase(bundle, null, [revision])).is).toBe('saved');
    await storage.removeItem('revision/demo');
    const bare = await loaded('demo');
    expect((await saveCase(bundle, null, [bare.revision])).is).toBe('saved');
  });

  test('a frame is opened only where it says what it holds and where that came from', () => {
    const text = exportText(demo());
    expect(taken(readFile(JSON.stringify({ text, from: 'case/demo' })))).toMatchObject({ is: 'case' });
    for (const half of [{ text }, { from: 'case/demo' }, { text, from: 7 }, { text: 7, from: 'case/demo' }])
      expect(readFile(JSON.stringify(half)).ok).toBe(false);
  });

  test('a case that cannot be read is set aside whole, and its download comes back in once it is mended', async () => {
    await stored(demo(), null, [null]);
    const broken = { ...plain(demo()).case, zones: 'gone' };
    await storage.setItem('case/demo', JSON.stringify(broken));
    await storage.setItem('readings/demo', 'no JSON at all');
    expect(await loadCase('demo')).toMatchObject({ is: 'unreadable' });
    const [aside, ...others] = await listAside();
    expect(others).toEqual([]);
    expect(aside).toMatchObject({
      from: 'case/demo',
      what: 'the case',
      reason: expect.stringMatching(/case\.zones/),
    });
    expect(await storage.getItem('case/demo')).toBeNull();
    const text = (await rawText(aside!.key))!;
    expect(refused(() => readFile(text)).path).toBe('case.zones');
    const mended = text.replace('"zones":"gone"', () => `"zones":${JSON.stringify(demo().case.zones)}`);
    const file = taken(readFile(mended));
    expect(file).toMatchObject({ is: 'case', bundle: { case: { name: 'Reading-room lagoon' } } });
    // what was no JSON is told, and everything else is there
    expect(file.left.map((l) => l.path)).toEqual(['readings']);
    expect(file.is === 'case' && file.bundle.history.entries).toHaveLength(1);
  });

  test.each<[string, (b: ReturnType<typeof demo>) => unknown, string, RegExp]>([
    [
      'log/demo',
      (b) => ({
        ...b.log,
        events: [
          { id: 'ok', zoneId: 'demo-display', atUtc: '2026-11-20T10:00:00.000Z', note: 'fine', kind: 'note' },
          { id: 'bad', zoneId: 'demo-display', atUtc: '2026-19-99T10:00:00.000Z', note: 'x', kind: 'note' },
        ],
      }),
      'log',
      /events\.1\.atUtc: give an instant/,
    ],
    [
      'history/demo',
      (b) => ({ ...b.history, entries: [...b.history.entries, { ...b.history.entries[0], capShare: 7 }] }),
      'history',
      /entries\.1\.capShare/,
    ],
  ])(
    'one bad entry of %s is set aside alone; the rest opens, and the entry can be imported',
    async (key, spoil, part, reason) => {
      const bundle = plain(demo());
      const revision = await stored(bundle, null, [null]);
      await storage.setItem(key, JSON.stringify(spoil(bundle)));
      const open = await loaded('demo');
      expect(open.revision).not.toBe(revision);
      expect(open.bundle.case).toEqual(bundle.case);
      const [aside, ...others] = await listAside();
      expect(others).toEqual([]);
      expect(aside).toMatchObject({
        from: key,
        what: `1 entry of the ${part}`,
        reason: expect.stringMatching(reason),
      });
      // once: the next load finds nothing wrong
      expect(await loaded('demo')).toEqual(open);
      const text = (await rawText(aside!.key))!;
      const mended = text.replace('2026-19-99', '2026-11-19').replace('"capShare":7', '"capShare":0.7');
      const file = taken(readFile(mended));
      if (file.is !== 'part' || file.part !== part) throw new Error('is no part');
      expect(file.left).toEqual([]);
      const merged = mergedDocument(file.part, open.bundle[file.part] as never, file.doc as never);
      expect(merged.added).toBe(key === 'log/demo' ? 1 : 0);
      // as it stands it is told what is wrong, and nothing is taken from it
      expect(taken(readFile(text)).left).toHaveLength(1);
    },
  );

  test('a part that is gone or no document costs only itself', async () => {
    const bundle = plain(demo());
    await stored(bundle, null, [null]);
    await storage.setItem('history/demo', '[]');
    await storage.removeItem('log/demo');
    const open = await loaded('demo');
    expect(open.bundle.history.entries).toEqual([]);
    expect(open.bundle.log.events).toEqual([]);
    expect((await listAside()).map((a) => a.from)).toEqual(['history/demo']);
  });

  test('a spot that cannot be read is left out, with its case kept as it was found', async () => {
    const bundle = plain(demo());
    await stored(bundle, null, [null]);
    const found = JSON.stringify({
      ...bundle.case,
      zones: [{ ...bundle.case.zones[0]!, spots: [...bundle.case.zones[0]!.spots, { id: 'x', name: '' }] }],
    });
    await storage.setItem('case/demo', found);
    expect((await loaded('demo')).bundle.case).toEqual(bundle.case);
    const [aside] = await listAside();
    expect(await rawText(aside!.key)).toBe(found);
  });

  test('a newer document of any part is neither opened nor moved', async () => {
    for (const part of ['case', 'history', 'readings', 'log'] as const) {
      await storage.clear();
      const bundle = plain(demo());
      await stored(bundle, null, [null]);
      const newer = JSON.stringify({ ...bundle[part], version: 77 });
      await storage.setItem(`${part}/demo`, newer);
      expect(await loadCase('demo')).toMatchObject({ is: 'newer', problem: { path: `${part}.version` } });
      expect(await storage.getItem(`${part}/demo`)).toBe(newer);
      expect(await listAside()).toEqual([]);
    }
    await storage.setItem('case/demo', JSON.stringify({ ...demo().case, version: 7 }));
    expect(await listCases()).toEqual([{ id: 'demo', name: 'Reading-room lagoon', demo: true, newer: true }]);
  });

  test('a refused write says whether the store is full or refuses', async () => {
    const spy = jest
      .spyOn(storage, 'setMany')
      .mockRejectedValueOnce(new Error('The current transaction exceeded its quota limitations.'))
      .mockRejectedValueOnce(new Error('the connection is closing'));
    expect(await saveCase(demo(), null, [null])).toMatchObject({ is: 'refused', full: true });
    expect(await saveCase(demo(), null, [null])).toMatchObject({
      is: 'refused',
      full: false,
      message: expect.stringMatching(/connection is closing/),
    });
    spy.mockRestore();
  });

  test('own cases are listed before the demo; a copy under another id stands beside its original', async () => {
    await stored(demo(), null, [null]);
    const copy = withId(demo(), 'copy', 'Zebra');
    await stored({ ...copy, case: { ...copy.case, demo: false } }, null, [null]);
    expect((await listCases()).map((c) => c.name)).toEqual(['Zebra', 'Reading-room lagoon']);
    expect((await loaded('copy')).bundle.history.caseId).toBe('copy');
  });

  test('settings survive, odd values fall back, unreadable ones are set aside', async () => {
    await saveSettings({ ...DEFAULT_SETTINGS, paper: 'night' });
    expect((await loadSettings()).paper).toBe('night');
    await storage.setItem('settings', JSON.stringify({ ...DEFAULT_SETTINGS, paper: 'plaid', caseId: 'x' }));
    expect(await loadSettings()).toMatchObject({ paper: 'system', caseId: 'x' });
    await storage.setItem('settings', 'nonsense');
    expect(await loadSettings()).toEqual(DEFAULT_SETTINGS);
    expect((await listAside()).map((a) => a.from)).toEqual(['settings']);
  });

  test('what one tab chose is not written over by what another chose of other things', async () => {
    await saveSettings({ paper: 'night' });
    await saveSettings({ fish: false });
    expect(await loadSettings()).toMatchObject({ paper: 'night', fish: false });
  });

  test('settings of a newer app stay as they are', async () => {
    const newer = JSON.stringify({ ...DEFAULT_SETTINGS, version: 9 });
    await storage.setItem('settings', newer);
    expect(await loadSettings()).toEqual(DEFAULT_SETTINGS);
    await saveSettings({ paper: 'night' });
    expect(await storage.getItem('settings')).toBe(newer);
  });
});

describe('cases of former versions', () => {
  const fixture = (name: string) => readFileSync(join(__dirname, 'fixtures', `${name}.json`), 'utf8');
  test.each(['case-1', 'case-2', 'case-3', 'case-4', 'case-4-history-5', 'case-5'])(
    '%s opens with everything that was in it',
    (name) => {
      const text = fixture(name);
      const bundle = read(text);
      const file = taken(readFile(text));
      expect(file).toEqual({ is: 'case', bundle, left: [], states: [] });
      expect(read(exportText(bundle))).toEqual(bundle);
      expect(bundle.readings.sessions).toHaveLength(1);
      expect(bundle.history.entries.length).toBeGreaterThan(0);
      expect(bundle.case.zones[0]!.groups[0]!.threads.length).toBeGreaterThan(3);
    },
  );

  test('nothing of a full case of version 5 is lost: every field that may be there is still there', () => {
    const old = JSON.parse(fixture('case-5'));
    const now = plain(read(fixture('case-5')));
    const { bands } = old.readings.sessions[0].readings[0];
    expect(now.readings.sessions[0]!.readings[0]!.bands).toEqual({
      nearUv: bands[0],
      violet: bands[1],
      royalBlue: bands[2],
      blue: bands[3],
      cyan: bands[4],
      green: bands[5],
      amber: bands[6],
      red: bands[7],
      farRed: bands[8],
    });
    // bands got their names; all else is to the letter
    old.readings.sessions[0].readings[0].bands = now.readings.sessions[0]!.readings[0]!.bands;
    old.readings.version = 5;
    old.readings.proofs = [];
    expect({ format: old.format, version: old.version, ...now }).toEqual(old);
  });

  test('the fixture of version 5 has every field that may be absent, so that none can vanish unseen', () => {
    // what the schemas call optional, and where each is met in the fixture
    const optional = new Set<string>();
    const walk = (schema: unknown, path: string, seen: readonly unknown[]): void => {
      if (typeof schema !== 'object' || schema === null || seen.includes(schema)) return;
      const s = schema as Record<string, unknown> & { type?: string };
      if (s.type === 'optional') optional.add(path);
      const down = (child: unknown, key = '') =>
        walk(child, key ? `${path}.${key}` : path, [...seen, schema]);
      if (Array.isArray(s.pipe)) s.pipe.forEach((p) => down(p));
      if (s.wrapped) down(s.wrapped);
      if (s.item) down(s.item, '*');
      if (s.value && typeof s.value === 'object') down(s.value, '*');
      if (Array.isArray(s.options)) s.options.forEach((o) => down(o));
      if (s.entries) for (const [key, child] of Object.entries(s.entries as object)) down(child, key);
    };
    const bundle = read(fixture('case-5'));
    const has = (value: unknown, [key, ...rest]: readonly string[]): boolean => {
      if (key === undefined) return value !== undefined && value !== null;
      if (typeof value !== 'object' || value === null) return false;
      return key === '*'
        ? Object.values(value).some((x) => has(x, rest))
        : has((value as Record<string, unknown>)[key], rest);
    };
    for (const part of PARTS) walk(kindOfPart(part).schema, part, []);
    expect(optional.size).toBeGreaterThan(25);
    expect([...optional].filter((path) => !has(bundle, path.split('.')))).toEqual([]);
  });
});

test('a case that cannot be written as text is refused, and what is stored stays', async () => {
  const bundle = demo();
  await saveCase(bundle, null, [null]);
  const before = await rawText(`case/${bundle.case.id}`);
  const toJSON = (): never => {
    throw new RangeError('Invalid string length');
  };
  const saved = await saveCase(
    { ...bundle, case: { ...bundle.case, toJSON } as typeof bundle.case },
    bundle,
    [(await loaded(bundle.case.id)).revision],
  );
  expect(saved).toMatchObject({
    is: 'refused',
    full: false,
    message: expect.stringContaining('string length'),
  });
  expect(await rawText(`case/${bundle.case.id}`)).toBe(before);
});
