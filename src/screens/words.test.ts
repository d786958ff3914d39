import type { CoralPlace } from '@/core/case/placing';
import { stretchesToday } from '@/state/light';
import { displayCase } from '@/demo/lagoon';
import { addDays, daysAgo, daysBetween, instantOf, localDate, wallMinute } from '@/state/time';

import { judgementWith } from '@/core/fixtures/judgement';
import { firstMix, newCase, safeFirst } from '@/core/case/firstDay';
import {
  emptyChannel,
  emptyGroup,
  emptyLamp,
  formFromLamp,
  lampFormSchema,
  lampFromForm,
  readCurve,
} from './case/lampForm';
import { apart, madeFrom, MOL, mol, parBasis, times, tintWords, umol, umolExact } from './shared/words';
import { firstWords } from './tank/placeWords';
import { todaySentence } from './today/sentence';
import { draftGroups, rigOf } from '@/core/case/lit';
import { dayAt, zoneLight } from '@/core/case/light';
import { plainSpot } from '@/core/record/zone';
import { computeResponse, type Rig } from '@/core/optics/response';
import { plainTank } from '@/core/optics/tank';
import { demoPanel } from '@/demo/panel';
import { lampLibrary, libraryLamp } from '@/core/library/lamps';
import { par } from '@/core/spectrum/bands';
import { mixSpectrum } from '@/core/spectrum/lamp';
import * as v from 'valibot';

const DAY_MS = 86_400_000;
const names = ['Copper', 'Plum', 'Moss', 'Slate', 'Straw'];
const judged = (ratios: number[]) =>
  judgementWith(
    ratios.map((ratio, i) => ({ name: names[i]!, ratio })),
    { state: 'runs' },
  );
const say = (ratios: number[], more: Partial<Parameters<typeof todaySentence>[0]> = {}) =>
  todaySentence({
    judged: judged(ratios),
    tenants: { one: 'coral', many: 'corals' },
    unknown: [],
    groups: 1,
    lamps: 2,
    since: '12 days ago',
    ...more,
  });

test('Today in one sentence', () => {
  expect(say([1, 1, 1, 1, 1])).toBe(
    'All five are within what they are used to. The lamps run as typed in 12 days ago.',
  );
  expect(say([1.1])).toBe('Copper is within what it is used to. The lamps run as typed in 12 days ago.');
  expect(say([1.4, 1, 1.8])).toBe(
    'Moss gets 1.80 × what it is used to and one other too much at once: ease it in. The lamps run as typed in 12 days ago.',
  );
  expect(say([1.1], { lamps: 1 })).toMatch(/ The lamp runs as typed in 12 days ago\.$/);
  expect(say([2.4])).toContain('lower the cap tonight');
  expect(say([], { since: null })).toMatch(/^Nothing is known to be running/);
  expect(say([1], { groups: 0 })).toBe('No lamp hangs over this water yet.');
  expect(say([1, 1], { unknown: ['Bar'] })).toContain(
    'Both are within what they are used to. The lamps run as typed in 12 days ago; of Bar nothing is known.',
  );
  // what was not looked at is not spoken of
  expect(say([1], { judged: { ...judged([1]), stepsKnown: false } })).toBe(
    'The lamps run as typed in 12 days ago.',
  );
  expect(say([1], { judged: null })).toBe('The lamps run as typed in 12 days ago.');
});

test('figures never pretend precision', () => {
  expect([umol(243.4), umol(381), umol(617), umol(9.96), umol(3.14), umol(0)]).toEqual([
    ...['245', '380', '620', '10', '3.1', '0'],
  ]);
  expect([umolExact(243.4), umolExact(3.14)]).toEqual(['243', '3.1']);
  expect([mol(5.97), mol(2.33), mol(12.34), mol(0)]).toEqual(['6.0', '2.35', '12.5', '0']);
  // said so that nothing of more than a fortieth is lost, whatever it is
  for (let v = 0.5; v < 3000; v *= 1.013)
    expect(Math.abs(Number(umol(v)) / v - 1)).toBeLessThan(v < 10 ? 0.11 : v < 50 ? 0.08 : 0.026);
  expect(apart(MOL, 5.97, 6.21)).toEqual(['6.0', '6.2']);
  expect(apart(MOL, 5.97, 5.99)).toEqual(['5.97', '5.99']);
  expect([times(1.256), times(1000), times(Infinity)]).toEqual(['1.26 ×', 'over 10 ×', 'over 10 ×']);
  expect(parBasis({ readings: 0, simulated: false })).toBe('estimate, no reading yet');
  expect(parBasis({ readings: 1, simulated: false }, 0.184)).toBe('fitted to 1 reading, ± 18 %');
  expect(parBasis({ readings: 3, simulated: true }, 0.1)).toBe(
    'fitted to 3 readings, simulated ones among them, ± 10 %',
  );
  expect(tintWords({ cctK: 6512, duv: 0, xy: [0.31, 0.33], hue: 'blue', purity: 0.1 })).toBe('6500 K');
  expect(tintWords({ cctK: null, duv: -0.1, xy: [0.2, 0.1], hue: 'royal blue', purity: 0.9 })).toBe(
    'bluer than any kelvin figure: royal blue, 90 % pure',
  );
  expect(tintWords({ cctK: null, duv: 0.1, xy: [0.2, 0.7], hue: 'green', purity: 0.8 })).toMatch(
    /^no kelvin figure fits: green/,
  );
  expect(tintWords(null)).toBe('no light');
});

test('wall clocks: minutes, dates and instants in a time zone, over a clock change', () => {
  const ms = Date.parse('2026-11-24T14:40:30Z');
  expect(wallMinute(ms, 'Europe/Berlin')).toBeCloseTo(15 * 60 + 40.5, 9);
  expect(localDate(Date.parse('2026-11-24T23:30:00Z'), 'Europe/Berlin')).toBe('2026-11-25');
  expect(instantOf('2026-10-25', 12 * 60, 'Europe/Berlin')).toBe('2026-10-25T11:00:00.000Z');
  expect(instantOf('2026-10-24', 12 * 60, 'Europe/Berlin')).toBe('2026-10-24T10:00:00.000Z');
  expect([addDays('2026-12-31', 1), daysBetween('2026-10-24', '2026-10-26')]).toEqual(['2027-01-01', 2]);
  expect([
    daysAgo('2026-11-24T01:00:00Z', ms, 'Europe/Berlin'),
    daysAgo('2026-11-23T22:00:00Z', ms, 'Europe/Berlin'),
  ]).toEqual(['today', 'yesterday']);
});

test('today is cut where something was typed in', () => {
  const now = Date.parse('2026-11-24T14:40:00Z');
  const bundle = displayCase(now, 'Europe/Berlin');
  const zone = bundle.case.zones[0]!;
  expect(stretchesToday(zone, bundle, now).map((s) => [s.fromMinute, s.toMinute])).toEqual([[0, 940]]);
  const entry = { ...bundle.history.entries[0]!, id: 'b', atUtc: '2026-11-24T09:00:00.000Z' };
  const history = { ...bundle.history, entries: [...bundle.history.entries, entry] };
  const cut = stretchesToday(zone, { ...bundle, history }, now);
  expect(cut.map((s) => [s.fromMinute, s.toMinute])).toEqual([
    [0, 600],
    [600, 940],
  ]);
  expect(cut[0]!.atUtc < entry.atUtc).toBe(true);
  expect(Date.parse(bundle.history.entries[0]!.atUtc)).toBe(now - 12 * DAY_MS);
});

test('a typed lamp becomes a lamp kind; commas are decimal points; errors name their field', () => {
  const group = { ...emptyGroup(), peak: '455', width: '20', count: '6', watts: '2,5' };
  const channel = { ...emptyChannel('a'), name: 'Blue', groups: [group] };
  const white = {
    ...emptyChannel('w'),
    name: 'White',
    groups: [{ ...group, light: 'white' as const, peak: '7000' }],
    lowest: '5',
    curve: '20:5, 60:40',
  };
  const form = { ...emptyLamp('x'), name: 'Mine', channels: [channel, white] };
  expect(v.safeParse(lampFormSchema, form).success).toBe(true);
  const kind = lampFromForm(form, 'k');
  expect(kind.channels[0]!.groups[0]).toEqual({
    light: { shape: 'line', peakNm: 455, fwhmNm: 20 },
    count: 6,
    wattsEach: 2.5,
  });
  expect(kind.channels[1]!.groups[0]!.light).toMatchObject({ shape: 'table', whiteCctK: 7000 });
  expect(kind.channels[1]!.dimming).toEqual({
    lowestLitShare: 0.05,
    curve: [
      [0.2, 0.05],
      [0.6, 0.4],
    ],
  });
  const problems = (change: object) =>
    v.safeParse(lampFormSchema, { ...form, ...change }).issues?.map((i) => [v.getDotPath(i), i.message]);
  expect(
    problems({
      channels: [
        { ...channel, groups: [{ ...group, peak: '4550' }] },
        { ...channel, groups: [{ ...group, count: '2.5' }], curve: '60:40, 20:5' },
      ],
    }),
  ).toEqual([
    ['channels.0.groups.0.peak', 'Give 360 to 780 nm.'],
    ['channels.1.groups.0.count', 'Give a whole number.'],
    ['channels.1.curve', 'Give rising points such as 20:5, 60:40 (% of drive : % of light).'],
  ]);
  expect(problems({ budget: '400' })).toEqual([
    ['budget', 'The channels add up to only 34 W from the wall: check counts and watts, or give less here.'],
  ]);
  expect(problems({ setting: 'tied' })!.map(([path]) => path)).toEqual(['channels.0.key', 'channels.1.key']);
  expect(problems({ setting: 'tint' })!.map(([path]) => path)).toEqual(['channels.0.white']);
  expect(problems({ setting: 'balance' })!.map(([path]) => path)).toEqual(['channels.0.share']);
  expect(readCurve('a:b')).toBeNull();
  // editing keeps what cannot be typed
  const optic = { name: 'o', verticalDeg: [0, 90], horizontalDeg: [0], intensity: [[1, 0]] };
  const lens = {
    ...demoPanel,
    optic,
    diffuserShare: 0.2,
    channels: demoPanel.channels.map((c) => ({
      ...c,
      groups: c.groups.map((g) => ({ ...g, beamAngleDeg: 60 })),
    })),
  };
  for (const one of [demoPanel, lens, ...lampLibrary().map((l) => l.kind)]) {
    const back = formFromLamp(one);
    expect([one.name, v.safeParse(lampFormSchema, back).issues]).toEqual([one.name, undefined]);
    expect(lampFromForm(back, one.id, one)).toEqual(one);
  }
});

const lights = { response: async (rig: Rig) => computeResponse(rig) };
test('the first day of an own tank is safe at every spot, whatever the lamp', async () => {
  let n = 0;
  const id = () => `id-${(n += 1)}`;
  for (const [watts, height] of [
    [2, 20],
    [40, 8],
    [0.2, 60],
  ] as const) {
    const kind = {
      ...demoPanel,
      channels: demoPanel.channels.map((c) => ({
        ...c,
        groups: c.groups.map((g) => ({ ...g, wattsEach: watts })),
      })),
    };
    const bundle = await newCase({
      lights,
      id,
      name: 'Mine',
      timeZone: 'UTC',
      tank: plainTank(90, 45, 45),
      kind,
      lamps: [{ id: 'l', name: 'lamp', xCm: 45, yCm: 22, heightCm: height, turnDeg: 0 }],
      spots: [
        plainSpot({
          id: 's',
          name: 'Soft',
          xCm: 40,
          yCm: 20,
          depthCm: 10,
          need: 'soft',
        }),
        plainSpot({
          id: 't',
          name: 'Any',
          xCm: 10,
          yCm: 20,
          depthCm: 40,
          need: null,
        }),
      ],
    });
    const zone = bundle.case.zones[0]!;
    const groups = draftGroups(bundle.case, zone);
    const light = zoneLight(computeResponse(rigOf(groups, zone, zone.spots)), groups);
    const cap = zone.groups[0]!.capShare;
    if (cap > 0.01)
      zone.spots.forEach((_, s) => expect(dayAt(light, groups, s).peak).toBeLessThanOrEqual(50));
    expect((await safeFirst(bundle, { ...zone, spots: [] }, zone.groups[0]!, lights)).capShare).toBe(0.1);
  }
  expect(Object.values(firstMix(demoPanel)).every((share) => share > 0 && share < 1)).toBe(true);
  // a lamp that cannot be dimmed is made safe by its hours
  const kind = libraryLamp('lib-two-circuit');
  const bundle = await newCase({
    lights,
    id,
    name: 'Switched',
    timeZone: 'UTC',
    tank: plainTank(90, 45, 45),
    kind,
    lamps: [{ id: 'l', name: 'lamp', xCm: 45, yCm: 22, heightCm: 20, turnDeg: 0 }],
    spots: [
      plainSpot({
        id: 's',
        name: 'Soft',
        xCm: 40,
        yCm: 20,
        depthCm: 15,
        need: 'soft',
      }),
    ],
  });
  const zone = bundle.case.zones[0]!;
  const groups = draftGroups(bundle.case, zone);
  const light = zoneLight(computeResponse(rigOf(groups, zone, zone.spots)), groups);
  expect(dayAt(light, groups, 0).taken.dli).toBeLessThanOrEqual((50 * 8 * 3600) / 1e6 + 1e-9);
  expect(firstMix(kind)).toEqual({ blue: 1, white: 0 });
  for (const { kind: any } of lampLibrary()) expect(par(mixSpectrum(any, firstMix(any)))).toBeGreaterThan(10);
});

test('what is made from what was made is named by what it comes from, not by all before', () => {
  expect(madeFrom('Photographs', 'Reading noon')).toBe('Photographs, from Reading noon');
  expect(madeFrom('Photographs', 'Nearest the look, from Reading noon')).toBe(
    'Photographs, from Nearest the look',
  );
  expect(madeFrom('x'.repeat(200), 'y')).toHaveLength(120);
});

test('the best place is not called right where it only nearly is', () => {
  const at = (name: string, place: 'within' | 'perhapsBelow', afterDays: number | null) =>
    ({ name, umol: 200, placed: { place, within: 0.6 }, afterDays }) as unknown as CoralPlace;
  const [nearly, late] = [at('on a rack', 'perhapsBelow', 0), at('on the floor', 'within', 38)];
  expect(firstWords(nearly, [nearly], 1.3)).toBe(
    'No place is right for it without doubt; the nearest is on a rack: 200 µmol, at once.',
  );
  expect(firstWords(nearly, [nearly, late, { ...late, afterDays: 40 }], 1.3)).toBe(
    'Two places are right for it, but only after 38 days where it is darker; sooner, and nearly right, is on a rack: 200 µmol, at once.',
  );
  // neither later nor too much: only its neighbours speak against it
  const soon = { ...late, afterDays: 0 };
  expect(firstWords(nearly, [nearly, soon], 1.3)).toMatch(
    /^One place is right for it, but in another coral’s way; nearly right is on a rack/,
  );
  expect(firstWords({ ...nearly, afterDays: 12 }, [nearly, { ...late, afterDays: 9 }], 1.3)).not.toMatch(
    /sooner/,
  );
  expect(firstWords(nearly, [nearly, { ...late, afterDays: null }], 1.3)).toMatch(
    /^One place is right for it, but more than 1\.30 × at once, with no darker place to begin at; nearly right is on a rack/,
  );
  expect(firstWords(late, [late, nearly], 1.3)).toMatch(/^One place is right for it: on the floor/);
});
