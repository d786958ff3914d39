import { createAsyncStorage } from '@react-native-async-storage/async-storage';

import { newPlate } from '@/core/case/plate';
import { runnable } from '@/core/case/runnable';
import type { EasingPlan } from '@/core/record/history';
import type { CaseBundle } from '@/core/record/documents';
import { lampLibrary } from '@/core/library/lamps';
import { displayCase } from '@/demo/lagoon';
import { MOST_EVENTS } from '@/core/record/log';
import { loadCase, saveCase } from '@/store/documents';
import { exportText, withId } from '@/core/record/caseFile';

import { boot, openDemo } from './boot';
import { importFile } from './importing';
import {
  addPlate,
  movePlate,
  removePlate,
  removeVersion,
  restoreVersion,
  saveVersion,
  setLocked,
  BY_ITSELF,
  setMix,
} from './commands/plates';
import { addSession } from './commands/readings';
import { addThread, moveThread, removeThread, setCap } from './commands/days';
import { freeze, startPlan, takeDown, typeIn } from './commands/running';
import { moveSpot } from './commands/spots';
import { removeLampKind, setLampKind } from './commands/lamps';
import { setEvent } from './commands/log';
import { setZone } from './commands/waters';
import type { Command } from './commands/edit';
import { anew, dueStep, openSteps } from '@/core/case/planAhead';
import { goOn, newPlan, pausePlan, stepBelow, stepDone, stopPlan } from './ease';
import { importLamp, lampFile } from './lampFiles';
import { importPlate, plateFile } from './plates';
import { deskOf } from './desk';
import {
  closeSession,
  createCase,
  flush,
  markExported,
  openCase,
  redo,
  retrySave,
  run,
  runIn,
  undo,
  useSession,
} from './session';
import { plainTank } from '@/core/optics/tank';

const storage = createAsyncStorage('chromatheca');
const GROUP = 'demo-panels';
const demo = () => displayCase(Date.UTC(2026, 10, 24), 'Europe/Berlin');
const state = () => useSession.getState();
const group = () => state().bundle!.case.zones[0]!.groups[0]!;
const loaded = async (id: string) => {
  const found = await loadCase(id);
  if (found.is !== 'open') throw new Error(found.is);
  return found;
};
beforeEach(async () => {
  closeSession();
  await storage.clear();
  await createCase(demo());
});

test('a command is saved, one step of history, undone and redone', async () => {
  expect(run(setCap(GROUP, 0.5))).toBe(true);
  await flush();
  expect((await loaded('demo')).bundle.case.zones[0]!.groups[0]!.capShare).toBe(0.5);
  undo();
  expect(group().capShare).toBe(0.8);
  redo();
  expect(group().capShare).toBe(0.5);
  undo();
  run(setCap(GROUP, 0.3));
  redo();
  expect(group().capShare).toBe(0.3);
  await flush();
  expect(state().save).toEqual({ kind: 'saved' });
  // what is done again is a step of its own, however soon the next of its kind follows
  undo();
  redo();
  const steps = state().past.length;
  run({ ...setCap(GROUP, 0.2), merge: 'cap' });
  expect(state().past).toHaveLength(steps + 1);
});

test('steps of one key held down are one step of history; later ones are another', () => {
  run(setCap(GROUP, 0.79, 'cap'), 1000);
  run(setCap(GROUP, 0.78, 'cap'), 1100);
  run(setCap(GROUP, 0.77, 'cap'), 1200);
  run(setCap(GROUP, 0.7, 'cap'), 9000);
  undo();
  expect(group().capShare).toBe(0.77);
  undo();
  expect(group().capShare).toBe(0.8);
});

test('undo reaches a hundred commands back', () => {
  for (let i = 0; i < 130; i += 1) run(setCap(GROUP, i / 200));
  expect(state().past).toHaveLength(100);
});

test('a command with an invalid result is refused, named, and changes nothing', () => {
  const before = state().bundle;
  expect(run(setCap(GROUP, 1.5))).toBe(false);
  expect(state().bundle).toBe(before);
  expect(state().refusal).toMatch(/cap.*capShare must be at most 1/);
  const clash = group().threads[0]!;
  expect(run(moveThread(GROUP, { ...clash, minute: group().threads[1]!.minute }))).toBe(false);
});

test('typed in is the only way to running, is frozen by value, and can be undone', async () => {
  const { case: doc } = state().bundle!;
  const zone = doc.zones[0]!;
  run(setCap(GROUP, 0.6));
  const draftZone = state().bundle!.case.zones[0]!;
  run(
    typeIn(
      freeze(state().bundle!.case, draftZone, draftZone.groups[0]!, {
        id: 'e2',
        atUtc: '2026-11-24T10:00:00.000Z',
        usedTo: false,
      }),
    ),
  );
  run(setMix('demo-noon', { violet: 1 }));
  run(setCap(GROUP, 0.1));
  const entry = state().bundle!.history.entries[1]!;
  expect(entry.capShare).toBe(0.6);
  expect(entry.threads[2]).toMatchObject({ mixName: 'Reading noon', mix: { violet: 0.7 } });
  undo();
  undo();
  undo();
  expect(state().bundle!.history.entries).toHaveLength(1);
  await flush();
  expect((await loaded('demo')).bundle.history.entries).toHaveLength(1);
  expect(zone.groups[0]!.capShare).toBe(0.8);
});

describe('easing in', () => {
  const running = () => state().bundle!.history.entries[0]!;
  const plan = (change: Partial<EasingPlan> = {}): EasingPlan => ({
    id: 'p',
    zoneId: 'demo-display',
    name: 'Higher cap',
    createdUtc: '2026-11-24T09:00:00.000Z',
    targets: [runnable({ ...running(), capShare: 1 })],
    from: [runnable(running())],
    method: 'cap',
    schedule: { kind: 'fastest' },
    ceiling: 1.3,
    steps: [
      { date: '2026-11-24', setting: 0.9, doneUtc: null },
      { date: '2026-11-26', setting: 1, doneUtc: null },
    ],
    state: 'active',
    deeds: [],
    ...change,
  });
  const zone = () => state().bundle!.case.zones[0]!;
  const kept = () => state().bundle!.history.plans.find((p) => p.id === 'p')!;

  test('steps type in what they say; the last finishes the plan; undo takes plan and running back together', async () => {
    run(startPlan(plan(), []));
    expect(dueStep(kept(), '2026-11-23')).toBeNull();
    expect(dueStep(kept(), '2026-11-24')!.setting).toBe(0.9);
    run(stepDone(zone(), kept(), openSteps(kept()), '2026-11-24T10:00:00.000Z'));
    const first = state().bundle!.history.entries[1]!;
    expect(first).toMatchObject({ capShare: 0.9, usedTo: false, planId: 'p', threads: running().threads });
    expect(kept().state).toBe('active');
    run(stepDone(zone(), kept(), openSteps(kept()), '2026-11-28T10:00:00.000Z'));
    expect(kept().state).toBe('finished');
    expect(kept().deeds.map((d) => d.words)).toEqual([
      'Step 1 of 2 of Higher cap: cap 90 %.',
      'Step 2 of 2 of Higher cap: cap 100 %, due Thu 26 Nov.',
    ]);
    undo();
    expect(kept().steps[1]!.doneUtc).toBeNull();
    expect(state().bundle!.history.entries).toHaveLength(2);
    await flush();
    expect((await loaded('demo')).bundle.history.plans).toEqual(state().bundle!.history.plans);
  });

  test('held, paused, taken back, slower, stopped: what is typed in and what the log says', () => {
    run(startPlan(plan(), []));
    run(stepDone(zone(), kept(), openSteps(kept()), '2026-11-24T10:00:00.000Z'));
    expect(stepBelow(kept())).toBeNull();
    run(goOn(zone(), kept(), 'held', 'hold 5 days', [{ date: '2026-12-01', setting: 1, doneUtc: null }]));
    expect(openSteps(kept())).toEqual([{ date: '2026-12-01', setting: 1, doneUtc: null }]);
    run(pausePlan(kept()));
    expect(dueStep(kept(), '2026-12-24')).toBeNull();
    run(goOn(zone(), kept(), 'resumed', 'on from today', openSteps(kept())));
    run(
      stepDone(
        zone(),
        kept(),
        openSteps(kept()).concat({ date: '2026-12-09', setting: 1, doneUtc: null }),
        '2026-12-01T10:00:00.000Z',
      ),
    );
    expect(stepBelow(kept())).toBe(0.9);
    const entries = state().bundle!.history.entries.length;
    run(
      goOn(zone(), kept(), 'back', 'back', [{ date: '2026-12-20', setting: 1, doneUtc: null }], {
        backTo: 0.9,
      }),
    );
    expect(state().bundle!.history.entries).toHaveLength(entries + 1);
    expect(state().bundle!.history.entries.at(-1)!.capShare).toBe(0.9);
    run(goOn(zone(), kept(), 'slower', 'slower', openSteps(kept()), { ceiling: 1.15 }));
    expect(kept().ceiling).toBe(1.15);
    run(stopPlan(kept()));
    expect(kept().state).toBe('stopped');
    expect(kept().deeds.map((d) => d.what)).toEqual([
      'step',
      'held',
      'paused',
      'resumed',
      'step',
      'back',
      'slower',
      'stopped',
    ]);
  });

  test('another day typed in ends the plans of its lamps; a question asked anew starts from what is done', () => {
    run(startPlan(plan({ schedule: { kind: 'few', changes: 5, everyDays: 7, weekday: 7 } }), []));
    expect(anew(kept(), '2026-11-24', '2026-11-29').schedule).toMatchObject({ changes: 2 });
    const line = plan({
      schedule: { kind: 'line', fromShare: 0.5, days: 20 },
      steps: [
        { date: '2026-11-20', setting: 0.75, doneUtc: '2026-11-20T10:00:00.000Z' },
        { date: '2026-11-26', setting: 1, doneUtc: null },
      ],
    });
    expect(anew(line, '2026-11-24', '2026-11-24').schedule).toEqual({
      kind: 'line',
      fromShare: 0.75,
      days: 10,
    });
    run(typeIn({ ...running(), id: 'other', atUtc: '2026-11-24T10:00:00.000Z' }));
    expect(kept().state).toBe('stopped');
    expect(kept().deeds.at(-1)!.words).toBe('Another day was typed in.');
  });
});

test('what would not be read again is refused before it is kept: plans, running, log', () => {
  const before = state().bundle!;
  const entry = before.history.entries[0]!;
  const asked = {
    targets: [runnable(entry)],
    from: [],
    method: 'cap' as const,
    schedule: { kind: 'fastest' as const },
    ceiling: 1.3,
  };
  const steps = [{ date: '2026-11-24', setting: 1, doneUtc: null }];
  const zoneId = 'demo-display';
  // a coral with the longest of names still gives its plan one
  const long = newPlan(zoneId, `${'x'.repeat(120)} to its light`, asked, steps, 'begun');
  expect(long.name).toHaveLength(120);
  expect(newPlan(zoneId, 'climb', { ...asked, method: 'places' }, steps, 'begun')).toMatchObject({
    targets: [],
    from: [],
  });
  expect(run(startPlan({ ...long, steps: [{ ...steps[0]!, date: 'soon' }] }, []))).toBe(false);
  expect(state().refusal).toMatch(/ease in.*plans\.0\.steps\.0\.date give a date/);
  expect(run(startPlan({ ...long, ceiling: 1 }, []))).toBe(false);
  expect(run(typeIn({ ...entry, id: 'b', capShare: 3 }))).toBe(false);
  expect(state().refusal).toMatch(/entries\.0\.capShare must be at most 1/);
  const outage = {
    id: 'o',
    zoneId,
    note: '',
    kind: 'outage' as const,
    groupIds: null,
    atUtc: '2026-11-24T10:00:00.000Z',
    toUtc: '2026-11-24T09:00:00.000Z',
  };
  expect(run(setEvent(outage, 'power was out'))).toBe(false);
  expect(state().refusal).toMatch(/ends after it begins/);
  expect(state().bundle).toBe(before);
  expect(run(startPlan(long, []))).toBe(true);
  expect(run(setEvent({ ...outage, toUtc: null }, 'power was out'))).toBe(true);
  // what stood there already is not looked at again
  const { history } = state().bundle!;
  expect(history.plans[0]!.id).toBe(long.id);
});

describe('a coral that is moved', () => {
  const spot = () => state().bundle!.case.zones[0]!.spots[0]!;
  const events = () => state().bundle!.log.events;
  const at = (time: string) => ({ id: time, atUtc: `2026-11-24T${time}:00.000Z` });

  test('is logged from where to where; moves within the hour are one, and back again is none', () => {
    const home = spot();
    run(moveSpot('demo-display', { ...home, xCm: 60 }, at('10:00')));
    run(moveSpot('demo-display', { ...spot(), depthCm: 30 }, at('10:20')));
    expect(events()).toHaveLength(1);
    expect(events()[0]).toMatchObject({
      kind: 'moved',
      from: { xCm: 40, depthCm: 17 },
      to: { xCm: 60, depthCm: 30 },
    });
    run(moveSpot('demo-display', { ...spot(), depthCm: 40 }, at('12:00')));
    expect(events()).toHaveLength(2);
    undo();
    run(moveSpot('demo-display', home, at('10:40')));
    expect(events()).toHaveLength(0);
    // a new name is no move; nor is anything before something ran
    run(moveSpot('demo-display', { ...spot(), name: 'Copper' }, at('10:50')));
    run(moveSpot('demo-display', { ...spot(), xCm: 90 }, { id: 'early', atUtc: '2025-01-01T00:00:00.000Z' }));
    expect(events()).toHaveLength(0);
  });
});

test('threads and plates: what is added, removed and replaced keeps its light', () => {
  run(addThread(GROUP, 't-new', 720));
  const added = group().threads.find((t) => t.id === 't-new')!;
  expect(added.strengthShare).toBeGreaterThan(0.34);
  expect('own' in added.mix).toBe(true);
  run(addThread(GROUP, 't-dusk', 1180));
  expect(group().threads.find((t) => t.id === 't-dusk')!.mix).toEqual({ plateId: 'demo-dusk' });
  run(removePlate('demo-dusk'));
  expect(group().threads.find((t) => t.id === 't-dusk')!.mix).toEqual({ own: demo().case.plates[2]!.mix });
  run(removeThread(GROUP, 't-new'));
  expect(group().threads.some((t) => t.id === 't-new')).toBe(false);
  run(addPlate(newPlate('p9', 'Ninth', 'demo-panel', {})));
  expect(state().bundle!.case.plates.map((p) => p.id)).toContain('p9');
});

test('a smaller tank keeps its spots in the water; a lamp without a channel forgets it in every mix', () => {
  run(setZone('demo-display', { tank: plainTank(100, 30, 20) }));
  for (const s of state().bundle!.case.zones[0]!.spots) {
    expect(s.xCm <= 100 && s.yCm <= 30 && s.depthCm <= 20).toBe(true);
  }
  const kind = state().bundle!.case.lampKinds[0]!;
  run(
    setLampKind({
      ...kind,
      channels: kind.channels.filter((c) => c.id !== 'violet'),
      controls: kind.controls.filter((c) => c.id !== 'violet'),
    }),
  );
  expect(state().bundle!.case.plates.every((p) => !('violet' in p.mix))).toBe(true);
});

test('a stale tab stops writing; a failed write keeps the change and is tried again', async () => {
  const spy = jest.spyOn(storage, 'setMany').mockRejectedValue(new Error('quota'));
  run(setCap(GROUP, 0.4));
  await flush();
  expect(state().save).toMatchObject({ kind: 'failed', full: true });
  expect(group().capShare).toBe(0.4);
  spy.mockRestore();
  retrySave();
  await flush();
  expect(state().save.kind).toBe('saved');

  // another tab changed something else: both are put together
  const other = async (change: (doc: CaseBundle['case']) => CaseBundle['case']) => {
    const stored = await loaded('demo');
    const next = { ...stored.bundle, case: change(stored.bundle.case) };
    await saveCase(next, stored.bundle, [stored.revision]);
  };
  await other((doc) => ({ ...doc, name: 'Other tab' }));
  run(setCap(GROUP, 0.2));
  await flush();
  expect(state().save.kind).toBe('saved');
  expect(state().bundle!.case.name).toBe('Other tab');
  const both = (await loaded('demo')).bundle.case;
  expect([both.name, both.zones[0]!.groups[0]!.capShare]).toEqual(['Other tab', 0.2]);
  // undo takes back what was done here, and nothing of theirs is lost before that
  undo();
  await flush();
  const back = (await loaded('demo')).bundle.case;
  expect([back.name, back.zones[0]!.groups[0]!.capShare]).toEqual(['Other tab', 0.4]);

  // the same thing in both: nothing of the other tab's is written over
  await other((doc) => ({
    ...doc,
    zones: doc.zones.map((z) => ({ ...z, groups: z.groups.map((g) => ({ ...g, capShare: 0.7 })) })),
  }));
  run(setCap(GROUP, 0.2));
  await flush();
  expect(state().save.kind).toBe('stale');
  run(setCap(GROUP, 0.25));
  await flush();
  expect((await loaded('demo')).bundle.case.zones[0]!.groups[0]!.capShare).toBe(0.7);
});

test('the start opens the last case, else an own one, else lays out the demo; the demo replaces nothing', async () => {
  const made = withId(demo(), 'mine', 'Reading-room lagoon');
  const own = exportText({ ...made, case: { ...made.case, demo: false } });
  expect(await importFile(own)).toEqual({ ok: true, say: 'Imported Reading-room lagoon.' });
  closeSession();
  await boot();
  expect(state().bundle!.case.id).toBe('mine');
  run(setCap(GROUP, 0.11));
  await flush();
  await openDemo();
  expect(state().bundle!.case.id).toBe('demo');
  await openCase('mine');
  expect(group().capShare).toBe(0.11);
  // the same file again stands beside the first where that is asked for
  expect(await importFile(own, { beside: true })).toEqual({
    ok: true,
    say: 'Imported Reading-room lagoon (imported).',
  });
  await storage.clear();
  closeSession();
  await boot();
  expect(state().bundle!.case.demo).toBe(true);
});

test('the desk falls back to the first of everything and to the plate of the strongest thread', () => {
  const bundle = demo();
  const none = { zoneId: null, groupId: null, plateId: null, spotId: null };
  const desk = deskOf(bundle, bundle, none);
  expect([desk.zone.id, desk.group!.id, desk.plate!.id, desk.spot!.id, desk.spotIndex]).toEqual([
    'demo-display',
    GROUP,
    'demo-noon',
    'demo-copper',
    0,
  ]);
  const other = deskOf(bundle, bundle, { ...none, spotId: 'demo-straw', plateId: 'demo-late' });
  expect([other.plate!.id, other.spotIndex]).toEqual(['demo-late', 4]);
  expect(deskOf(bundle, bundle, { ...none, spotId: 'gone', groupId: 'gone' }).spot!.id).toBe('demo-copper');
});

test('plates: order, locks, versions and going back; a lamp taken down keeps its plates', () => {
  const plate = (id: string) => state().bundle!.case.plates.find((p) => p.id === id)!;
  run(movePlate('demo-noon', -1));
  expect(state().bundle!.case.plates[0]!.id).toBe('demo-noon');
  run(movePlate('demo-noon', -1));
  expect(state().bundle!.case.plates[0]!.id).toBe('demo-noon');
  run(setLocked('demo-noon', 'violet', true));
  run(setLocked('demo-noon', 'violet', true));
  expect(plate('demo-noon').locked).toEqual(['violet']);
  const at = '2026-11-24T12:00:00.000Z';
  run(saveVersion('demo-noon', { id: 'v1', atUtc: at, note: 'first' }));
  const first = plate('demo-noon').mix;
  run(setMix('demo-noon', { ...first, violet: 0.1 }));
  run(restoreVersion('demo-noon', 'v1', { id: 'v2', atUtc: at }));
  expect(plate('demo-noon').mix).toEqual(first);
  // what stood before going back is not lost, and is kept once
  expect(plate('demo-noon').versions.map((x) => [x.id, x.mix.violet])).toEqual([
    ['v1', first.violet],
    ['v2', 0.1],
  ]);
  run(restoreVersion('demo-noon', 'v2', { id: 'v3', atUtc: at }));
  expect(plate('demo-noon').versions).toHaveLength(2);
  run(removeVersion('demo-noon', 'v2'));
  expect(plate('demo-noon').versions).toHaveLength(1);
  run(removeLampKind('demo-panel'));
  expect(state().bundle!.case.lampKinds).toHaveLength(1);
  const ran = state().bundle!.history.entries.length;
  run(takeDown(GROUP, { id: 'down', atUtc: '2026-11-24T15:00:00.000Z' }));
  // where it ran it is dark from then on
  expect(state().bundle!.history.entries.slice(ran)).toMatchObject([
    { id: 'down', groupId: GROUP, threads: [], usedTo: false },
  ]);
  run(takeDown(GROUP, { id: 'again', atUtc: '2026-11-24T16:00:00.000Z' }));
  expect(state().bundle!.history.entries).toHaveLength(ran + 1);
  expect(state().bundle!.case.plates).toHaveLength(3);
  run(removeLampKind('demo-panel'));
  expect(state().bundle!.case.plates).toHaveLength(0);
});

test('a plate from a file: of the same lamp it joins in, of another its lamp comes along', () => {
  const doc = () => state().bundle!.case;
  const file = plateFile(doc().plates[0]!, doc().lampKinds[0]!);
  expect(file.name).toBe('late-light.plate.json');
  expect(importPlate(doc(), file.text)).toMatchObject({ ok: true, value: { foreign: false } });
  expect(doc().lampKinds).toHaveLength(1);
  const tubes = lampLibrary().find((l) => l.kind.source === 'tube')!.kind;
  const text = plateFile(newPlate('x', 'Tubes', tubes.id, { broad: 1 }), tubes).text;
  const taken = importPlate(doc(), text);
  if (!taken.ok) throw new Error('not taken');
  expect(taken.value.foreign).toBe(true);
  expect(doc().plates.find((p) => p.id === taken.value.plateId)!.lampKindId).toBe(tubes.id);
  importPlate(doc(), text);
  expect(doc().lampKinds).toHaveLength(2);
});

test('a lamp from a file: with all it is made of, once, under a name of its own; what is none is refused', () => {
  const doc = () => state().bundle!.case;
  const own = doc().lampKinds[0]!;
  const file = lampFile(own);
  expect(file.name).toMatch(/\.lamp\.json$/);
  expect(importLamp(doc(), file.text)).toMatchObject({ ok: true, value: { known: true } });
  const counted = { ...own, name: 'Counted at home', diffuserShare: 0.5 };
  const taken = importLamp(doc(), lampFile(counted).text);
  if (!taken.ok) throw new Error('not taken');
  // its id is another lamp's here: it gets one of its own
  expect(taken.value.kind.id).not.toBe(own.id);
  expect(doc().lampKinds.at(-1)).toEqual({ ...counted, id: taken.value.kind.id });
  expect(importLamp(doc(), lampFile(counted).text)).toMatchObject({ value: { known: true } });
  expect(importLamp(doc(), plateFile(doc().plates[0]!, own).text)).toMatchObject({ value: { known: true } });
  const lamps = doc().lampKinds.length;
  for (const [text, of] of [
    ['{', /JSON|read/i],
    ['{"format":"chromatheca-file"}', /whole case/],
    ['{"format":"other"}', /no Chromatheca lamp/],
    [file.text.replace('"version": 1', '"version": 9'), /newer/i],
    [file.text.replace('"channels"', '"canals"'), /channels/],
  ] as const) {
    const read = importLamp(doc(), text);
    if (read.ok) throw new Error('was taken');
    expect(JSON.stringify(read.problem)).toMatch(of);
  }
  expect(doc().lampKinds).toHaveLength(lamps);
});

test('what readings hold is looked at like everything else: a name that would not be read again is refused', async () => {
  const before = state().bundle!;
  const session = {
    id: 's',
    zoneId: 'demo-display',
    name: 'x'.repeat(151),
    atUtc: '2026-11-24T12:00:00.000Z',
    meter: { kind: 'lux' as const, immersionFactor: 1, sensorAboveCm: 0, simulated: false },
    pumpsOn: false,
    lit: '',
    counts: true,
    rig: null,
    readings: [],
  };
  expect(run(addSession(session))).toBe(false);
  expect(state().refusal).toMatch(/sessions\.0\.name at most 120 characters/);
  expect(state().bundle).toBe(before);
  expect(run(addSession({ ...session, name: 'Evening' }))).toBe(true);
  await flush();
  expect((await loaded('demo')).bundle.readings.sessions).toHaveLength(1);
});

test('lists are held against their limits whole, not by what is new in them', () => {
  const note = (i: number) => ({
    id: `n${i}`,
    zoneId: 'demo-display',
    atUtc: '2026-11-24T12:00:00.000Z',
    note: 'n',
    kind: 'note' as const,
  });
  const full = Array.from({ length: MOST_EVENTS }, (_, i) => note(i));
  const fill: Command = { name: 'fill', apply: (b) => ({ ...b, log: { ...b.log, events: full } }) };
  expect(run(fill)).toBe(true);
  expect(run(setEvent(note(MOST_EVENTS), 'one more'))).toBe(false);
  expect(state().refusal).toMatch(/events at most 100000 allowed/);
});

describe('going from case to case', () => {
  const another = (id: string): CaseBundle => {
    const made = withId(demo(), id, id);
    return { ...made, case: { ...made.case, demo: false } };
  };
  const put = async (id: string) => {
    await createCase(another(id));
    await openCase('demo');
  };
  /** Holds the next write back until it is let go. */
  const slowWrite = () => {
    const write = storage.setMany.bind(storage);
    let go = () => {};
    const gate = new Promise<void>((resolve) => (go = resolve));
    const spy = jest.spyOn(storage, 'setMany').mockImplementationOnce(async (entries) => {
      await gate;
      return write(entries);
    });
    return { go, spy };
  };

  test('a write on its way ends in the case it was begun for; the new one is saved as its own', async () => {
    await put('other');
    const { go, spy } = slowWrite();
    run(setCap(GROUP, 0.31));
    const going = openCase('other');
    go();
    expect(await going).toEqual({ ok: true });
    expect(run(setCap(GROUP, 0.52))).toBe(true);
    await flush();
    expect(state().save.kind).toBe('saved');
    expect((await loaded('demo')).bundle.case.zones[0]!.groups[0]!.capShare).toBe(0.31);
    expect((await loaded('other')).bundle.case.zones[0]!.groups[0]!.capShare).toBe(0.52);
    spy.mockRestore();
  });

  test('what is edited while another case is being read is kept before that one opens', async () => {
    await put('other');
    const going = openCase('other');
    // the case is still the old one while the store is read
    await Promise.resolve();
    expect(run(setCap(GROUP, 0.47))).toBe(true);
    expect(await going).toEqual({ ok: true });
    expect(state().bundle!.case.id).toBe('other');
    expect((await loaded('demo')).bundle.case.zones[0]!.groups[0]!.capShare).toBe(0.47);
    run(setCap(GROUP, 0.6));
    await flush();
    expect(state().save.kind).toBe('saved');
  });

  test('an answer that comes when another case is open changes nothing', async () => {
    await put('other');
    await openCase('other');
    const before = state().bundle;
    expect(runIn('demo', setCap(GROUP, 0.1))).toBe(false);
    expect(state().bundle).toBe(before);
    expect(runIn('other', setCap(GROUP, 0.1))).toBe(true);
  });

  test('what a full store did not take stays: no other case is opened over it until it is stored or given out', async () => {
    await put('other');
    const spy = jest.spyOn(storage, 'setMany').mockRejectedValue(new Error('quota'));
    run(setCap(GROUP, 0.44));
    await flush();
    expect(state().save.kind).toBe('failed');
    const refused = await openCase('other');
    expect(refused).toMatchObject({ ok: false, why: 'unsaved' });
    expect(group().capShare).toBe(0.44);
    expect(state().save.kind).toBe('failed');
    expect(await importFile(exportText(another('third')))).toMatchObject({
      ok: false,
      say: expect.stringMatching(/changes that are not stored.*Nothing was changed\./),
    });
    expect(state().bundle!.case.id).toBe('demo');
    markExported();
    expect(await openCase('other')).toEqual({ ok: true });
    spy.mockRestore();
  });

  test('an import that a full store refuses leaves the open case open, in memory and in the store', async () => {
    const before = state().bundle;
    const spy = jest.spyOn(storage, 'setMany').mockRejectedValue(new Error('quota'));
    expect(await importFile(exportText(another('third')))).toMatchObject({
      ok: false,
      say: expect.stringMatching(/no room left.*Nothing was changed\./),
    });
    expect(state().bundle).toBe(before);
    expect(state().save.kind).toBe('saved');
    spy.mockRestore();
    expect(await loadCase('third')).toEqual({ is: 'missing' });
  });

  test('with nothing open and no room the demo is there all the same, and says that it is not saved', async () => {
    closeSession();
    await storage.clear();
    const spy = jest.spyOn(storage, 'setMany').mockRejectedValue(new Error('quota'));
    await boot();
    expect(state().bundle!.case.demo).toBe(true);
    expect(state().save).toMatchObject({ kind: 'failed', full: true });
    spy.mockRestore();
    retrySave();
    await flush();
    expect(state().save.kind).toBe('saved');
    expect((await loaded(state().bundle!.case.id)).bundle).toEqual(state().bundle);
  });
});

describe('what comes back by import', () => {
  test('a file of twice as many entries as a log may have is read at once, and what is too much is told', async () => {
    const { log } = demo();
    const entry = (i: number) => ({
      ...{ id: `n-${i}`, zoneId: 'demo-display', atUtc: '2026-11-20T10:00:00.000Z' },
      ...{ note: '', kind: 'note' },
    });
    const text = (count: number) =>
      JSON.stringify({ ...log, caseId: 'gone', events: Array.from({ length: count }, (_, i) => entry(i)) });
    const timed = async (count: number) => {
      const began = performance.now();
      await importFile(text(count));
      return performance.now() - began;
    };
    const within = await timed(100_000);
    expect(await timed(200_000)).toBeLessThan(8 * within);
  });

  test('reading a file can be stopped', async () => {
    expect(await importFile('{}', { signal: AbortSignal.abort() })).toEqual({
      ok: false,
      say: 'Not imported. Stopped. Nothing was changed.',
    });
  });

  test('entries go into the open case, where they are not there yet, as one step that can be undone', async () => {
    const { log } = state().bundle!;
    const note = {
      id: 'late',
      zoneId: 'demo-display',
      atUtc: '2026-11-20T10:00:00.000Z',
      note: 'found again',
      kind: 'note',
    };
    const text = JSON.stringify({
      ...log,
      events: [...log.events, note, { ...note, id: 'bad', atUtc: 'once' }],
    });
    const said = await importFile(text);
    expect(said).toEqual({
      ok: true,
      say: expect.stringMatching(
        /^One entry was put into the log\. One entry could not be read .*events\.1\.atUtc/,
      ),
    });
    expect(state().bundle!.log.events.at(-1)).toEqual(note);
    expect(await importFile(JSON.stringify({ ...log, events: [note] }))).toEqual({
      ok: true,
      say: 'Nothing in it that is not here already.',
    });
    undo();
    expect(state().bundle!.log).toEqual(log);
  });

  test('entries of another case say where they belong', async () => {
    const { log } = state().bundle!;
    expect(await importFile(JSON.stringify({ ...log, caseId: 'gone' }))).toMatchObject({
      ok: false,
      say: expect.stringMatching(/a case that is not here/),
    });
    await createCase(withId(demo(), 'other', 'Other tank'));
    expect(await importFile(JSON.stringify(log))).toMatchObject({
      ok: false,
      say: expect.stringMatching(/belongs to Reading-room lagoon: open that case first/),
    });
  });

  test('a lone case document becomes a case with empty books', async () => {
    const { case: doc } = withId(demo(), 'lone', 'Lone');
    expect(await importFile(JSON.stringify(doc))).toMatchObject({ ok: true });
    expect(state().bundle).toMatchObject({ case: { id: 'lone' }, history: { entries: [], caseId: 'lone' } });
  });

  test('a plate that cannot be read is left out and named; a zone that cannot be read keeps the file out', async () => {
    const bundle = withId(demo(), 'x', 'X');
    const file = JSON.parse(exportText(bundle));
    file.case.plates.push({ id: 'p', name: '' });
    expect(await importFile(JSON.stringify(file))).toEqual({
      ok: true,
      say: expect.stringMatching(
        /^Imported X\. One entry could not be read and was left out: case\.plates\.3/,
      ),
    });
    file.case.zones[0].tank.lengthCm = 'long';
    expect(await importFile(JSON.stringify(file))).toEqual({
      ok: false,
      say: expect.stringMatching(/^Not imported\. case\.zones\.0\.tank\.lengthCm: give a number/),
    });
  });
});

test('the first change of a plate since it was put away keeps what it was, by itself; undo takes both back', () => {
  const plate = () => useSession.getState().bundle!.case.plates.find((p) => p.id === 'demo-noon')!;
  const was = plate();
  const own = () => plate().versions.filter((x) => x.note === BY_ITSELF);
  run(setMix('demo-noon', { ...was.mix, violet: 0.11 }, 'pull'));
  expect(own().map((x) => x.mix)).toEqual([was.mix]);
  // a second change of the same sitting is no version of its own
  run(setMix('demo-noon', { ...was.mix, violet: 0.12 }));
  expect(own()).toHaveLength(1);
  undo();
  undo();
  expect(plate()).toEqual(was);
  // nothing that changes nothing, nothing that is known already
  run(setMix('demo-noon', was.mix));
  expect(own()).toHaveLength(0);
  jest.useFakeTimers({
    now: Date.now() + 3 * 3_600_000,
    doNotFake: ['setTimeout', 'setInterval', 'setImmediate', 'queueMicrotask', 'nextTick'],
  });
  try {
    run(setMix('demo-noon', { ...was.mix, violet: 0.13 }));
    for (let i = 0; i < 40; i += 1) {
      jest.setSystemTime(Date.now() + 3 * 3_600_000);
      run(setMix('demo-noon', { ...was.mix, violet: 0.2 + i / 100 }));
    }
    expect(own()).toHaveLength(30);
    expect(own().at(-1)!.mix.violet).toBeCloseTo(0.58, 9);
  } finally {
    jest.useRealTimers();
  }
});
