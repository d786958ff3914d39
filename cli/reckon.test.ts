import { execFileSync, spawnSync } from 'node:child_process';
import { join } from 'node:path';

import { errorLine, type InputError, reckon as answer } from './verbs';

const reckon = (verb: string, text: string): unknown => {
  const out = answer(verb, text);
  if (!out.ok) throw new Error(errorLine(out.error));
  return out.value;
};
const fail = (verb: string, input: unknown): InputError => {
  const out = answer(verb, typeof input === 'string' ? input : JSON.stringify(input));
  if (out.ok) throw new Error('was accepted');
  return JSON.parse(errorLine(out.error)).error;
};
const point = { time: '08:00', strengthShare: 1, mix: { A: 1 } };

test.each([
  ['day', { points: [], parAtFull: { A: 1 } }, 'points', /empty/],
  ['day', { points: [{ ...point, mix: {} }], parAtFull: { A: 1 } }, 'points.0.mix', /empty/],
  ['day', { points: [{ ...point, mix: { B: 1 } }], parAtFull: { A: 1 } }, 'points.0.mix.B', /parAtFull/],
  ['day', { points: [point, point], parAtFull: { A: 1 } }, 'points.1.time', /twice/],
  ['day', { points: [{ ...point, time: '24:00' }], parAtFull: { A: 1 } }, 'points.0.time', /HH:MM/],
  [
    'day',
    { points: [{ ...point, strengthShare: 1.2 }], parAtFull: { A: 1 } },
    'points.0.strengthShare',
    /0 to 1/,
  ],
  ['day', { points: [point], parAtFull: { A: -1 } }, 'parAtFull.A', /below 0/],
  ['day', { points: [point], parAtFull: { A: 1 }, at: ['9'] }, 'at.0', /HH:MM/],
  ['day', { points: [point], parAtFull: { A: 1 }, interpolation: 'curve' }, 'interpolation', /ramp/],
  [
    'day',
    '{"points":[{"time":"08:00","strengthShare":1,"mix":{"constructor":1}}],"parAtFull":{"A":1}}',
    'points.0.mix',
    /named/,
  ],
  ['growth', { phases: [{ name: 'a', fragments: [{ startMg: 1, endMg: 2, days: 9 }] }] }, 'phases', /two/],
  ['growth', { phases: [0, 1].map((i) => ({ name: `${i}`, fragments: [] })) }, 'phases.0.fragments', /empty/],
  [
    'growth',
    { phases: [0, 1].map((i) => ({ name: `${i}`, fragments: [{ startMg: 1, endMg: 1 - i, days: 9 }] })) },
    'phases.1.fragments.0.endMg',
    /above 0/,
  ],
  ['spectrum', { emission: [] }, 'emission', /empty/],
  ['spectrum', { emission: [{ shape: 'cone' }] }, 'emission.0.shape', /shape/],
  [
    'spectrum',
    { emission: [{ shape: 'line', peakNm: 450, fwhmNm: 0, flux: 1 }] },
    'emission.0.fwhmNm',
    /above 0/,
  ],
  [
    'spectrum',
    '{"emission":[{"shape":"line","peakNm":1e999,"fwhmNm":9,"flux":1}]}',
    'emission.0.peakNm',
    /finite/,
  ],
  [
    'spectrum',
    { emission: [{ shape: 'line', peakNm: 450, fwhmNm: 9, flux: 2e9 }] },
    'emission.0.flux',
    /at most/,
  ],
  [
    'spectrum',
    { emission: [{ shape: 'table', quantity: 'power', points: [[400, 1]] }] },
    'emission.0.quantity',
    /quantity/,
  ],
  [
    'spectrum',
    { emission: [{ shape: 'table', quantity: 'photon', points: [[400, 1, 2], [1]] }] },
    'emission.0.points.1.1',
    /missing|point/,
  ],
  ['ease', { from: 1, to: 2, ceiling: 1, tauDays: 10 }, 'ceiling', /ceiling/],
  ['ease', { from: 0, to: 2, ceiling: 1.3, tauDays: 10 }, 'from', /no light/],
  ['ease', { from: 1, to: 2, ceiling: 1.3, tauDays: 0 }, 'tauDays', /above 0/],
  ['ease', { to: 2, ceiling: 1.3 }, 'from', /missing/],
  ['ease', 'no json', '', /JSON/],
  ['cast', '{}', '', /unknown verb/],
])('%s refuses bad input and names it (%#)', (verb, input, path, message) => {
  const error = fail(verb as string, input);
  expect(error.path).toBe(path);
  expect(error.message).toMatch(message as RegExp);
});

test('an error line never grows past 2000 characters', () => {
  const name = 'x'.repeat(9000);
  const error = { path: `points.0.mix.${name}`, message: 'y"\u0001'.repeat(5000) };
  expect(errorLine(error).length).toBeLessThanOrEqual(2000);
  expect(JSON.parse(errorLine(error)).error.path).toMatch(/^points\.0\.mix\.x+…$/);
});

test('the day verb lists every channel of parAtFull, zero where no mix has it', () => {
  const out = reckon(
    'day',
    JSON.stringify({
      capShare: 0.5,
      points: [point, { ...point, time: '20:00', strengthShare: 0 }],
      at: ['14:00'],
      parAtFull: { A: 100, B: 3 },
    }),
  );
  expect(out).toEqual({ levels: [{ A: 0.25, B: 0 }], par: [25], dli: expect.closeTo(2.16, 9), litHours: 24 });
});

test('no photons at all: shares are 0 and the ratios null', () => {
  expect(
    reckon('spectrum', '{"emission":[{"shape":"line","peakNm":450,"fwhmNm":9,"flux":0}]}'),
  ).toMatchObject({ par: 0, xy: null, cctK: null, luxPerPar: null, usableShare: null });
});

test('the program prints JSON and exits 0, or one error line and 2', () => {
  const program = join(__dirname, '../scripts/reckon.mjs');
  const run = (verb: string, input: string) =>
    spawnSync(process.execPath, [program, verb], { input, encoding: 'utf8' });
  const good = run('ease', '{"from":1,"to":1.2,"ceiling":1.3,"tauDays":10}');
  expect([good.status, JSON.parse(good.stdout)]).toEqual([0, { days: [1.2] }]);
  const bad = run('ease', '{"from":1}');
  expect([bad.status, bad.stdout]).toEqual([2, '']);
  expect(bad.stderr.trim().split('\n')).toHaveLength(1);
  expect(() => execFileSync(process.execPath, [program], { input: '', stdio: 'pipe' })).toThrow();
}, 60_000);

describe('carry and convert', () => {
  const line = (peakNm: number, flux = 1) => ({ shape: 'line', peakNm, fwhmNm: 20, flux });

  test('carry: levels, match and PAR ratio; a channel without photons gets 0', () => {
    const out = reckon(
      'carry',
      JSON.stringify({
        source: [line(450, 0.5), line(660, 0.2)],
        target: { A: [line(450)], B: [line(660)], C: [line(520, 0)] },
      }),
    ) as { levels: Record<string, number>; match: number; parRatio: number };
    expect(out.levels.A).toBeCloseTo(0.5, 9);
    expect(out.levels.B).toBeCloseTo(0.2, 9);
    expect(out.levels.C).toBe(0);
    expect(out.match).toBeCloseTo(1, 9);
    expect(out.parRatio).toBeCloseTo(1, 9);
  });

  test('convert: spectra from both formats', () => {
    expect(reckon('convert', JSON.stringify({ from: 'spectrum-csv', text: '400;1,5\n500;2' }))).toEqual({
      shape: 'table',
      points: [
        [400, 1.5],
        [500, 2],
      ],
      quantity: 'energy',
    });
  });

  test.each([
    ['carry', { source: [line(450)], target: {} }, 'target', /empty/],
    ['carry', { source: [line(450)], target: { A: [] } }, 'target.A', /empty/],
    ['carry', { source: [line(450, 0)], target: { A: [line(450)] } }, 'source', /no photons/],
    ['carry', { source: [line(450)] }, 'target', /missing|give/],
    ['convert', { from: 'pdf', text: '' }, 'from', /unknown format/],
    ['convert', { from: 'spdx', text: '<a/>' }, 'text', /line 1.*IESTM2714/],
    ['convert', { from: 'spectrum-csv', text: '400,1\n450,x' }, 'text', /line 2/],
    ['convert', { from: 'spdx' }, 'text', /missing/],
  ])('%s refuses bad input and names it (%#)', (verb, input, path, message) => {
    const error = fail(verb as string, input);
    expect(error.path).toBe(path);
    expect(error.message).toMatch(message as RegExp);
  });
});

test('any JSON is answered or refused by name: no verb breaks', () => {
  const odd: unknown[] = [null, 0, '', [], {}, [[]], { source: null }, { target: [] }, { from: 1, text: {} }];
  for (const verb of ['spectrum', 'day', 'ease', 'carry', 'convert']) {
    for (const input of odd) {
      const error = fail(verb, input);
      expect(typeof error.path).toBe('string');
      expect(error.message.length).toBeGreaterThan(3);
    }
  }
  const reserved = '{"source":[{"shape":"line","peakNm":450,"fwhmNm":9,"flux":1}],"target":{"__proto__":[]}}';
  expect(fail('carry', reserved).path).toBe('target');
});

test('carry prints bounded levels, match and PAR ratio where the source is too strong', () => {
  const line = (peakNm: number, flux: number) => ({ shape: 'gaussian', peakNm, fwhmNm: 20, flux });
  const out = reckon(
    'carry',
    JSON.stringify({ source: [line(450, 3)], target: { A: [line(450, 1)], B: [line(600, 1)] } }),
  ) as { levels: Record<string, number>; match: number; parRatio: number };
  // the source is three times what A can give
  expect(out.levels).toEqual({ A: 1, B: expect.closeTo(0, 6) });
  expect(out.match).toBeCloseTo(1 / 3, 9);
  expect(out.parRatio).toBeCloseTo(1 / 3, 6);
});

describe('reduce', () => {
  const day = {
    points: [
      { time: '09:00', strengthShare: 0, mix: { A: 1, B: 0.5 } },
      { time: '11:00', strengthShare: 1, mix: { A: 1, B: 0.5 } },
      { time: '16:00', strengthShare: 0.8, mix: { A: 0.5, B: 1 } },
      { time: '21:00', strengthShare: 0, mix: { A: 0.5, B: 1 } },
    ],
    parAtFull: { A: 100, B: 40 },
    capShare: 0.5,
  };

  test('exact when points suffice; fewer points lose light and say how much', () => {
    const exact = reckon('reduce', JSON.stringify({ day, controller: { maxPoints: 4, stepShare: 0.1 } })) as {
      points: { time: string; strengthShare: number; mix: Record<string, number> }[];
      peakErrorShare: number;
      dliErrorShare: number;
    };
    expect(exact.points.map((p) => p.time)).toEqual(['09:00', '11:00', '16:00', '21:00']);
    expect(exact.points[1]!.mix).toEqual({ A: 1, B: 0.5 });
    expect(exact.peakErrorShare).toBeLessThan(1e-9);
    expect(exact.dliErrorShare).toBeLessThan(1e-9);
    const held = reckon(
      'reduce',
      JSON.stringify({ day, controller: { maxPoints: 3, stepShare: 0.05, interpolation: 'hold' } }),
    ) as typeof exact;
    expect(held.points.length).toBeLessThanOrEqual(3);
    expect(held.peakErrorShare).toBeGreaterThan(0.1);
    // what comes out is a day that the day verb takes
    const back = reckon(
      'day',
      JSON.stringify({ ...day, points: held.points, interpolation: 'hold', at: ['12:00'] }),
    ) as {
      dli: number;
    };
    const wanted = reckon('day', JSON.stringify(day)) as { dli: number };
    expect(Math.abs(back.dli / wanted.dli - 1)).toBeCloseTo(held.dliErrorShare, 9);
  });

  test.each([
    [{ day, controller: { maxPoints: 0 } }, 'controller.maxPoints'],
    [{ day, controller: { maxPoints: 2.5 } }, 'controller.maxPoints'],
    [{ day, controller: { maxPoints: 2, stepShare: 2 } }, 'controller.stepShare'],
    [{ day, controller: { maxPoints: 2, interpolation: 'leap' } }, 'controller.interpolation'],
    [{ day: { ...day, points: [] }, controller: { maxPoints: 2 } }, 'day.points'],
    [{ controller: { maxPoints: 2 } }, 'day'],
  ])('bad input names its place: %#', (input, path) => {
    expect(fail('reduce', input).path).toBe(path);
  });

  test('convert: a day as CSV, and the line of what is wrong in one', () => {
    expect(
      reckon('convert', JSON.stringify({ from: 'day-csv', text: 'cap,80\ntime,Blue\n9:00,50\n' })),
    ).toEqual({
      controls: ['Blue'],
      points: [{ minute: 540, strengthShare: 1, mix: { Blue: 0.5 } }],
      capShare: 0.8,
    });
    expect(fail('convert', { from: 'day-csv', text: 'time,Blue\n9:00,500\n' }).message).toMatch(
      /line 2: .* Give 0 to 100/,
    );
  });
});

describe('field and fit', () => {
  const emission = { shape: 'gaussian', peakNm: 450, fwhmNm: 18, flux: 40 };
  const red = { ...emission, peakNm: 640 };
  const scene = {
    tank: {
      lengthCm: 80,
      widthCm: 45,
      depthCm: 45,
      walls: { left: 1, right: 1, front: 1, back: 0 },
      floorReflectance: 0.4,
    },
    water: { yellow440PerM: 0.2, scatterPerM: 0.05 },
    lamps: [
      {
        xCm: 40,
        yCm: 22,
        heightCm: 20,
        emitters: [
          { dxCm: 0, dyCm: 0, emission, beamExponent: 2 },
          { dxCm: 4, dyCm: 0, emission: red, beamExponent: 1 },
        ],
      },
    ],
  };
  const points = [
    { xCm: 40, yCm: 22, depthCm: 15 },
    { xCm: 10, yCm: 40, depthCm: 45 },
    { xCm: 0, yCm: 0, depthCm: 0 },
    { xCm: 60, yCm: 10, depthCm: 30 },
  ];
  interface FieldOut {
    par: number[];
    enteredShare: number;
  }
  const field = (input: object) => reckon('field', JSON.stringify(input)) as FieldOut;

  test('light adds up over emitters and halves with the flux; what enters does not depend on it', () => {
    const both = field({ ...scene, points });
    const half = {
      ...scene,
      lamps: scene.lamps.map((l) => ({
        ...l,
        emitters: l.emitters.map((e) => ({ ...e, emission: { ...e.emission, flux: e.emission.flux / 2 } })),
      })),
    };
    const less = field({ ...half, points });
    both.par.forEach((v, i) => expect(less.par[i]).toBeCloseTo(v / 2, 9));
    expect(less.enteredShare).toBeCloseTo(both.enteredShare, 9);
    expect(both.enteredShare).toBeGreaterThan(0.4);
    expect(both.enteredShare).toBeLessThan(0.98);
    expect(both.par[0]).toBeGreaterThan(both.par[1]!);
    // black glass everywhere leaves less, and nothing comes back from a black floor
    const black = field({
      ...scene,
      tank: { ...scene.tank, walls: { left: 0, right: 0, front: 0, back: 0 }, floorReflectance: 0 },
      points,
    });
    black.par.forEach((v, i) => expect(v).toBeLessThanOrEqual(both.par[i]!));
  });

  test('hidden gains come out of readings of the field; a gross one is a suspect', () => {
    const full = (emitters: number[]) =>
      field({
        ...scene,
        lamps: [{ ...scene.lamps[0], emitters: emitters.map((e) => scene.lamps[0]!.emitters[e]) }],
        points,
      }).par;
    const [a, b] = [full([0]), full([1])];
    const shots = [
      { A: 1, B: 0 },
      { A: 0, B: 1 },
      { A: 0.5, B: 0.5 },
    ];
    const readings = points.flatMap((p, i) =>
      shots.map((levels) => ({ ...p, levels, reading: 1.15 * a[i]! * levels.A + 0.85 * b[i]! * levels.B })),
    );
    const input = { field: scene, channels: { A: [[0, 0]], B: [[0, 1]] }, readings };
    const out = reckon('fit', JSON.stringify(input)) as {
      gain: { A: number; B: number };
      standardError: { A: number; B: number };
      suspects: number[];
      predicted: number[];
    };
    // with lamps apart and places asked for: what readings do not tell keeps its doubt
    const two = { ...scene, lamps: [scene.lamps[0]!, { ...scene.lamps[0]!, xCm: scene.lamps[0]!.xCm - 8 }] };
    const wide = {
      ...{
        field: two,
        channels: {
          A: [
            [0, 0],
            [1, 0],
          ],
          B: [
            [0, 1],
            [1, 1],
          ],
        },
        readings,
        lamps: true,
      },
      at: [
        { ...points[0]!, levels: { A: 1, B: 1 } },
        { ...points[0]!, levels: { A: 0 } },
      ],
    };
    const told = reckon('fit', JSON.stringify(wide)) as typeof out & {
      lampGain: number[];
      lampStandardError: number[];
      at: { par: number; bandShare: number }[];
    };
    expect(told.lampGain).toHaveLength(2);
    expect(told.at[0]!.par).toBeGreaterThan(0);
    expect(told.at[0]!.bandShare).toBeGreaterThan(0.02);
    expect(told.at[0]!.bandShare).toBeLessThan(0.3);
    expect(told.at[1]).toEqual({ par: 0, bandShare: 0 });
    const fewer = reckon('fit', JSON.stringify({ ...wide, readings: readings.slice(0, 2) })) as typeof told;
    expect(fewer.at[0]!.bandShare).toBeGreaterThan(told.at[0]!.bandShare);
    expect(out.gain.A).toBeCloseTo(1.15, 1);
    expect(out.gain.B).toBeCloseTo(0.85, 1);
    expect(out.suspects).toEqual([]);
    expect(out.predicted).toHaveLength(readings.length);
    readings[4]!.reading *= 4;
    expect((reckon('fit', JSON.stringify(input)) as typeof out).suspects).toEqual([4]);
    const one = reckon('fit', JSON.stringify({ ...input, readings: readings.slice(2, 3) })) as typeof out;
    expect(one.gain.A).toBe(one.gain.B);
    expect(Math.min(one.standardError.A, one.standardError.B)).toBeGreaterThanOrEqual(0.1);
  });

  test.each([
    ['field', { ...scene, points: [] }, 'points', /empty/],
    ['field', { ...scene, points: [{ xCm: 90, yCm: 0, depthCm: 0 }] }, 'points.0.xCm', /outside/],
    ['field', { ...scene, points: [{ xCm: 1, yCm: 0, depthCm: -1 }] }, 'points.0.depthCm', /below 0/],
    [
      'field',
      { ...scene, tank: { ...scene.tank, floorReflectance: 2 }, points },
      'tank.floorReflectance',
      /0 to 1/,
    ],
    ['field', { ...scene, tank: { ...scene.tank, depthCm: 0 }, points }, 'tank.depthCm', /above 0/],
    [
      'field',
      { ...scene, lamps: [{ ...scene.lamps[0], heightCm: 0 }], points },
      'lamps.0.heightCm',
      /above 0/,
    ],
    [
      'field',
      { ...scene, lamps: [{ ...scene.lamps[0], emitters: [] }], points },
      'lamps.0.emitters',
      /empty/,
    ],
    ['fit', { field: scene, channels: {}, readings: [] }, 'channels', /empty/],
    [
      'fit',
      { field: scene, channels: { A: [[0, 7]] }, readings: [{ ...points[0], levels: { A: 1 }, reading: 1 }] },
      'channels.A.0',
      /no emitter/,
    ],
    [
      'fit',
      {
        field: scene,
        channels: { A: [[0, 0]], B: [[0, 0]] },
        readings: [{ ...points[0], levels: { A: 1 }, reading: 1 }],
      },
      'channels.B.0',
      /already/,
    ],
    [
      'fit',
      { field: scene, channels: { A: [[0, 0]] }, readings: [{ ...points[0], levels: { C: 1 }, reading: 1 }] },
      'readings.0.levels.C',
      /no such channel/,
    ],
    [
      'fit',
      {
        field: scene,
        channels: { A: [[0, 0]] },
        readings: [{ ...points[0], levels: { A: 1 }, reading: -1 }],
      },
      'readings.0.reading',
      /below 0/,
    ],
    [
      'fit',
      {
        field: scene,
        channels: { A: [[0, 0]] },
        readings: [{ xCm: 1, yCm: 99, depthCm: 1, levels: { A: 1 }, reading: 1 }],
      },
      'readings.0.yCm',
      /outside/,
    ],
    ['convert', { from: 'ies', text: 'x' }, 'text', /line 1/],
    ['convert', { from: 'readings-csv', text: 'PAR\nmuch\n' }, 'text', /line 2/],
  ])('%s refuses and names the place', (verb, input, path, message) => {
    const error = fail(verb, input);
    expect(error.path).toBe(path);
    expect(error.message).toMatch(message);
  });
});

describe('algae from the command line', () => {
  const at = (peakNm: number) => ({ shape: 'line', peakNm, fwhmNm: 18, flux: 10 });

  test('what of a light feeds each kind, and whether it is refused', () => {
    const blue = reckon('feeding', JSON.stringify({ emission: [at(453), at(470)] })) as {
      algae: Record<string, { feedingShare: number; standing: string }>;
    };
    expect(Object.keys(blue.algae)).toHaveLength(6);
    expect(blue.algae.greenTangle).toMatchObject({ standing: 'refused' });
    expect(blue.algae.brownBlade).toMatchObject({ standing: 'good' });
    const red = reckon(
      'feeding',
      JSON.stringify({ emission: [at(660)], alga: 'greenTangle' }),
    ) as typeof blue;
    expect(Object.keys(red.algae)).toEqual(['greenTangle']);
    expect(red.algae.greenTangle!.feedingShare).toBeGreaterThan(blue.algae.greenTangle!.feedingShare);
    expect(
      reckon('feeding', JSON.stringify({ emission: [{ ...at(660), flux: 0 }], alga: 'redLeaf' })),
    ).toEqual({
      algae: { redLeaf: null },
    });
  });

  test('what a harvest took, in grams and in ppm', () => {
    const r = reckon('harvest', JSON.stringify({ wetG: 1000, litres: 400 })) as {
      nitrogenG: { low: number; high: number };
      ppm: { nitrate: { low: number } };
    };
    expect([r.nitrogenG.low, r.nitrogenG.high]).toEqual([expect.closeTo(1.6, 9), expect.closeTo(6, 9)]);
    expect(r.ppm.nitrate.low).toBeCloseTo(17.7, 1);
    expect(reckon('harvest', JSON.stringify({ wetG: 10, drained: 'dried' }))).not.toHaveProperty('ppm');
  });

  test.each([
    ['feeding', { emission: [] }, 'emission', /empty/],
    ['feeding', { emission: [at(500)], alga: 'kelp' }, 'alga', /is one of greenTangle/],
    ['harvest', { wetG: -1 }, 'wetG', /below 0/],
    ['harvest', { wetG: 1, litres: 0 }, 'litres', /above 0/],
    ['harvest', { wetG: 1, drained: 'shaken' }, 'drained', /is one of dripping/],
    ['harvest', {}, 'wetG', /missing/],
  ])('%s refuses %j', (verb, input, path, message) => {
    expect(fail(verb, input)).toEqual({ path, message: expect.stringMatching(message) as string });
  });
});

test('growth by phase, the second against the first', () => {
  const weighed = (startMg: number, endMg: number) => ({ startMg, endMg, days: 50 });
  const out = reckon(
    'growth',
    JSON.stringify({
      phases: [
        { name: 'A', fragments: [weighed(100, 120), weighed(200, 250)] },
        { name: 'B', fragments: [weighed(100, 140), weighed(200, 300)] },
      ],
    }),
  ) as { phases: { name: string; meanPerDay: number; n: number }[]; difference: number; p: number };
  expect(out.phases[1]).toMatchObject({ name: 'B', n: 2 });
  expect(out.phases[1]!.meanPerDay).toBeCloseTo((Math.log(1.4) + Math.log(1.5)) / 100, 12);
  expect(out.difference).toBeCloseTo((Math.log(1.4 / 1.2) + Math.log(1.5 / 1.25)) / 100, 12);
  expect(out.p).toBeCloseTo(2 / 6, 12);
});
