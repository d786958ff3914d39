import fc from 'fast-check';

import { headFor, headsOfEveryKind, type Line, namedApart, pageLine } from '@/state/bench';
import { findHead, loadHead, type LoadResult, restoreHead, showHead } from '@/state/load';
import { CONTROLLERS } from '@/core/controller/profiles';
import { programOf } from '@/core/controller/program';
import type { LampKind } from '@/core/spectrum/lampKind';
import { displayCase } from '@/demo/lagoon';
import {
  benchSchema,
  type BenchState,
  checksum,
  type Fault,
  FAULTS,
  type Head,
  type WireSchedule,
} from '@/wire/wire';

import { Bench } from './bench';

const bundle = displayCase(Date.UTC(2026, 10, 24), 'UTC');
const entry = bundle.history.entries[0]!;
const kind = entry.lampKind;
const names = kind.controls.map((c) => c.name);
const program = programOf(kind, entry.threads, 0.8);
/** A day every kind of head can hold: whole hours, few points, whole steps. */
const plain: WireSchedule = {
  capShare: 0.5,
  points: [
    { minute: 600, values: kind.controls.map(() => 1) },
    { minute: 1200, values: kind.controls.map(() => 0) },
  ],
};

const later = (p: WireSchedule): WireSchedule => ({
  ...p,
  points: p.points.map((x) => (x.minute === 600 ? { ...x, minute: 660 } : x)),
});

/** A bench whose clock stands at two in the afternoon, with heads. */
function bench(makes = [headFor(kind, 'Panels left')], waits: number[] = []) {
  let nowMs = 0;
  const b = new Bench(() => nowMs, 14 * 60, makes);
  const line = pageLine(b, async () => undefined);
  const state = () => b.handle('GET', '/heads', null).body as BenchState;
  let id = 0;
  const told: string[] = [];
  const load = (headId: string, what: WireSchedule = program, own: LampKind = kind): Promise<LoadResult> =>
    loadHead({
      line,
      headId,
      program: what,
      kind: own,
      names,
      clockMinute: () => state().minute,
      newId: () => `t${(id += 1)}`,
      onStep: (step) => void told.push(step.words),
      wait: async (ms) => void waits.push(ms),
    });
  const post = (path: string, body: unknown) => b.handle('POST', path, body);
  const held = (headId: string) =>
    b.handle('GET', `/heads/${headId}/schedule`, null).body as { active: WireSchedule | null };
  return { b, line, told, state, load, post, held, pass: (minutes: number) => (nowMs += minutes * 60_000) };
}

const fault = (b: ReturnType<typeof bench>, faults: Fault[], dropAt = 2, head = 'head-1') =>
  b.post(`/heads/${head}/faults`, { faults, dropAt });

test('a load that is read back and compared is proven; what was held is kept and can be put back', async () => {
  const b = bench();
  await b.load('head-1', plain);
  const result = await b.load('head-1');
  expect(result).toMatchObject({ ending: 'proven', before: plain });
  expect(b.held('head-1').active).toEqual(program);
  const back = await restoreHead({
    line: b.line,
    headId: 'head-1',
    before: result.before!,
    kind,
    names,
    newId: () => 'r',
    onStep: () => undefined,
    wait: async () => undefined,
  });
  expect(back.ending).toBe('proven');
  expect(b.held('head-1').active).toEqual(plain);
});

test('what is lost is asked for four times, each wait twice the one before', async () => {
  const waits: number[] = [];
  const silent = bench([headFor(kind, 'Panels left')], waits);
  fault(silent, ['offline']);
  expect(await silent.load('head-1')).not.toMatchObject({ ending: 'proven' });
  expect(waits).toEqual([150, 300, 600]);
});

test('a transfer that breaks off at any message, before or after it was taken, leaves the old or the new, and the app knows which', async () => {
  for (let at = -8; at <= 7; at += 1) {
    const b = bench();
    await b.load('head-1', plain);
    fault(b, ['drops'], at);
    const told = await b.load('head-1');
    // heard again without the fault
    fault(b, []);
    const { active } = b.held('head-1');
    const isNew = JSON.stringify(active) === JSON.stringify(program);
    expect(isNew || JSON.stringify(active) === JSON.stringify(plain)).toBe(true);
    if (told.ending === 'proven') expect(isNew).toBe(true);
    if (told.ending === 'old') expect(isNew).toBe(false);
    expect(['proven', 'old']).toContain(told.ending);
  }
  // with every try lost it stays as it was, and says so
  const b = bench();
  await b.load('head-1', plain);
  const real = b.b.handle.bind(b.b);
  b.b.handle = (method, path, body) => {
    const answer = real(method, path, body);
    return path.endsWith('/transfer')
      ? { ...answer, lost: (body as { step: string }).step === 'points' }
      : answer;
  };
  expect(await b.load('head-1')).toMatchObject({
    ending: 'old',
    words: expect.stringMatching(/broke off 4 times: it runs what it ran before/),
  });
});

test('every fault of every kind of head is reported, never passed over', async () => {
  for (const { profile } of CONTROLLERS) {
    const own: LampKind = { ...kind, controller: profile };
    const capped = (capShare: number) => ({ ...plain, capShare: profile.sets === 'switch' ? 1 : capShare });
    for (const f of FAULTS) {
      const b = bench([headFor(own, profile.name)]);
      expect(await b.load('head-1', capped(0.5), own)).toMatchObject({ ending: 'proven' });
      fault(b, [f], 1);
      if (f === 'clockReset') {
        b.post('/heads/head-1/power', {});
        expect(b.state().heads[0]!.clockMinute).toBeCloseTo(0, 6);
      }
      const result = await b.load('head-1', later(capped(f === 'rounds' ? 0.63 : 0.6)), own);
      // slow is only slow, a broken transfer is sent again, a clock is set on loading; two points are few enough; a switch has no cap
      const harmless =
        ['slow', 'drops', 'clockReset', 'fewPoints'].includes(f) ||
        (['capTwice', 'rounds'].includes(f) && profile.sets === 'switch');
      expect([f, profile.name, result.ending === 'proven']).toEqual([f, profile.name, harmless]);
      expect(result.words.length).toBeGreaterThan(10);
      if (f === 'drops') expect(b.told.some((w) => /try 2/.test(w))).toBe(true);
    }
  }
});

test('at night nothing is proven but what is held; its brightest point, shown for a minute, proves the rest', async () => {
  const shown = (b: ReturnType<typeof bench>) =>
    showHead({
      ...{ line: b.line, headId: 'head-1', program, kind, names, clockMinute: null },
      newId: () => 'show',
      onStep: () => undefined,
      wait: async () => undefined,
    });
  for (const f of ['capTwice', 'colourDown', null] as const) {
    const b = bench();
    b.pass(13 * 60);
    if (f) fault(b, [f]);
    const result = await b.load('head-1');
    expect(result).toMatchObject({ ending: 'held', words: expect.stringContaining('not proven') });
    expect((await shown(b)).ending).toBe(f ? 'mismatch' : 'proven');
    b.pass(2);
    expect(b.state().heads[0]!.mode).toBe('program');
  }
  const silent = bench();
  fault(silent, ['offline']);
  expect(await shown(silent)).toMatchObject({ ending: 'held', words: expect.stringContaining('not proven') });
});

test('a head that shows something else just now is not called dark: its light is not seen', async () => {
  const b = bench();
  b.post('/heads/head-1/look', { values: names.map(() => 0.3), minutes: 20, neverEnds: false });
  const result = await b.load('head-1');
  expect(result.ending).toBe('held');
  expect(result.words).toMatch(/cannot be seen now and is not proven$/);
  expect(result.words).not.toContain('dark');
});

test('what is dark while the rest is lit is said to be unproven', async () => {
  const b = bench();
  const half: WireSchedule = {
    capShare: 0.5,
    points: [
      { minute: 600, values: kind.controls.map((_, i) => (i === 0 ? 0 : 1)) },
      { minute: 1000, values: kind.controls.map((_, i) => (i === 0 ? 0 : 1)) },
      { minute: 1100, values: kind.controls.map(() => 1) },
      { minute: 1200, values: kind.controls.map(() => 0) },
    ],
  };
  expect(await b.load('head-1', half)).toMatchObject({
    ending: 'proven',
    words: expect.stringContaining(`${names[0]} is dark now and not proven`),
  });
});

test('a head with another controller than the lamp is said to have gets nothing', async () => {
  for (const make of headsOfEveryKind(kind)) {
    const b = bench([make]);
    const same =
      !make.profile.switches &&
      make.profile.interpolation === 'ramp' &&
      make.profile.capMeans === 'multiplies';
    const result = await b.load('head-1', plain);
    expect([make.name, result.ending]).toEqual([make.name, same ? 'proven' : 'old']);
    if (!same) expect(result.words).toMatch(/^this head .* while the lamp here .*: nothing was sent/);
  }
});

test.each<[Fault, RegExp]>([
  ['offline', /does not answer.*nothing was sent/],
  ['fewPoints', /takes at most 3 points, not 6: it runs what it ran before/],
  ['savesOnly', /saved, but not activated/],
  ['manual', /left in manual/],
  ['capTwice', /its cap acts twice/],
  ['colourDown', /Royal blue emits/],
  ['colourDead', /Royal blue gives no light where \d+(\.\d)? % was sent/],
  ['lampDead', /it gives no light where it should be lit/],
  ['rounds', /read back, it differs: .* became \d+ %/],
])('%s is told as what it is', async (f, words) => {
  const b = bench();
  await b.load('head-1', plain);
  fault(b, [f]);
  expect((await b.load('head-1')).words).toMatch(words);
});

test('heads of one name are told apart, and each shows which lamp it is', async () => {
  const one = headFor(kind, 'Left');
  const b = bench([one, headFor(kind, 'Right'), one]);
  const heads = namedApart(b.state().heads);
  expect(heads.map((h) => h.name)).toEqual(['Left (1)', 'Right', 'Left (2)']);
  await findHead(b.line, heads[2]!);
  expect(b.state().heads.map((h) => h.mode)).toEqual(['program', 'program', 'look']);
  b.pass(2);
  expect(b.state().heads[2]!.mode).toBe('program');
});

test('coarse steps come back as another number, and that is said', async () => {
  const make = headFor(kind, 'Coarse');
  const b = bench([{ ...make, profile: { ...make.profile, stepShare: 0.05 } }]);
  const result = await b.load('head-1');
  expect(result.ending).toBe('mismatch');
  expect(result.words).toMatch(/read back, it differs: .* \d+ % became \d+ %/);
});

test('clocks: reset by a power cut, fast on request; interludes end, or do not', () => {
  const b = bench();
  const head = (): Head => b.state().heads[0]!;
  expect(head().clockMinute).toBeCloseTo(840, 6);
  b.post('/heads/head-1/power', {});
  expect(head().clockMinute).toBeCloseTo(840, 6);
  fault(b, ['clockReset']);
  b.post('/heads/head-1/power', {});
  expect(head().clockMinute).toBeCloseTo(0, 6);
  b.pass(10);
  expect(head().clockMinute).toBeCloseTo(10, 6);
  b.post('/clock', { speed: 1440 });
  b.pass(0.5);
  expect(b.state().minute).toBeCloseTo((850 + 720) % 1440, 4);
  b.post('/clock', { speed: 1, minute: 600 });
  const values = kind.controls.map(() => 0.4);
  b.post('/heads/head-1/look', { values, minutes: 30 });
  expect(head()).toMatchObject({ mode: 'look' });
  b.pass(31);
  expect(head().mode).toBe('program');
  b.post('/heads/head-1/look', { values, minutes: 5, neverEnds: true });
  b.pass(20);
  expect(head().mode).toBe('look');
  expect(head().lookLeftMin).toBeLessThan(0);
  b.post('/heads/head-1/manual', { values });
  expect(b.b.live('head-1')!.drive[0]).toBeCloseTo(0.4, 6);
  b.post('/heads/head-1/manual', { values: null });
  expect(head().mode).toBe('look');
});

test('what a head does not understand is refused with the place; it stays as it was', () => {
  const b = bench();
  const bad: [string, unknown, number, RegExp][] = [
    ['/heads/head-1/transfer', { step: 'sing' }, 400, /step is/],
    ['/heads/head-1/transfer', { step: 'begin', transferId: 't', capShare: 2, points: 3 }, 400, /at most 1/],
    [
      '/heads/head-1/transfer',
      { step: 'points', transferId: 'x', first: 0, points: plain.points },
      409,
      /no such transfer/,
    ],
    ['/heads/head-1/transfer', { step: 'activate', revision: 99 }, 409, /holds revision 0/],
    ['/heads/head-1/faults', { faults: ['gremlins'] }, 400, /is one of/],
    ['/heads/head-1/manual', { values: [0.5] }, 409, /has 8 controls, not 1/],
    ['/heads/none/cap', { capShare: 1 }, 404, /no such head/],
    ['/heads/head-1/dance', {}, 404, /no such head or address/],
    ['/clock', { speed: 1e9 }, 400, /at most 1440/],
  ];
  for (const [path, body, status, message] of bad) {
    const answer = b.post(path, body);
    expect([path, answer.status]).toEqual([path, status]);
    expect(JSON.stringify(answer.body)).toMatch(message);
  }
  expect(b.held('head-1').active).toBeNull();
  // points that arrive out of order, twice, or changed on the way are never stored
  b.post('/heads/head-1/transfer', { step: 'begin', transferId: 't', capShare: 1, points: 2 });
  expect(
    b.post('/heads/head-1/transfer', { step: 'points', transferId: 't', first: 1, points: [plain.points[1]] })
      .status,
  ).toBe(409);
  b.post('/heads/head-1/transfer', { step: 'points', transferId: 't', first: 0, points: plain.points });
  expect(b.post('/heads/head-1/transfer', { step: 'commit', transferId: 't', checksum: 1 }).status).toBe(409);
  fc.assert(
    fc.property(fc.string({ maxLength: 40 }), fc.jsonValue(), (path, body) => {
      const answer = b.post(`/${path}`, body);
      expect(answer.status).toBeGreaterThanOrEqual(200);
      expect(answer.status).toBeLessThan(500);
    }),
    { numRuns: 200 },
  );
  expect(checksum(plain)).not.toBe(checksum(program));
});

test('an answer that cannot be read ends a load like one that was lost: nothing hangs, nothing counts', async () => {
  const b = bench();
  for (const garbled of ['/schedule', '/transfer', '']) {
    const line: Line = {
      ...b.line,
      send: (method, path, body, answer) =>
        path.endsWith(garbled) && (garbled !== '' || path === '/heads/head-1')
          ? Promise.resolve({
              ok: false,
              message: 'its answer cannot be read',
              code: 'unreadable',
              lost: true,
            })
          : b.line.send(method, path, body, answer),
    };
    const result = await loadHead({
      line,
      headId: 'head-1',
      program,
      kind,
      names,
      clockMinute: null,
      newId: () => `g${garbled}`,
      onStep: () => undefined,
      wait: async () => undefined,
    });
    expect(result.ending).not.toBe('proven');
  }
  // what the wire says is not what was agreed
  const garbage = { handle: () => ({ status: 200, body: { heads: 'many' }, delayMs: 0, lost: false }) };
  const line = pageLine(garbage as unknown as Bench, async () => undefined);
  expect(await line.send('GET', '/heads', null, benchSchema)).toEqual({
    ok: false,
    message: 'its answer cannot be read',
    code: 'unreadable',
    lost: true,
  });
});
