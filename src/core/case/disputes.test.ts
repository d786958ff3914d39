import { displayCase } from '@/demo/lagoon';

import { dli, levelsAt, litPieces } from '../day/day';
import { lampDay, type ResolvedThread } from '../day/thread';
import { lampLibrary } from '../library/lamps';
import { computeResponse } from '../optics/response';
import { colourClass } from '../library/colours';
import { dims } from '../spectrum/controls';
import type { LampKind } from '../spectrum/lampKind';
import { dayFigures } from './dayFigures';
import { disputesFor, disputeSteps, type DisputeAnswer, type DisputeId } from './disputes';
import { daysAt, zoneLight } from './light';
import { draftGroups, type LitGroup, rigOf } from './lit';
import type { PatternsInput } from './patterns';
import { ended } from '../shape/ended';

const bundle = displayCase(Date.parse('2026-11-24T12:00:00Z'), 'Europe/Berlin');
const zone = bundle.case.zones[0]!;
const panel = draftGroups(bundle.case, zone)[0]!;
const light = zoneLight(computeResponse(rigOf([panel], zone, zone.spots)), [panel]);
const home = { fromMinute: 18 * 60, toMinute: 22 * 60 };

/** The demo's corals under another lamp in the place of its own, or its own. */
function under(kind: LampKind): { light: typeof light; group: LitGroup } {
  if (kind === panel.lampKind) return { light, group: panel };
  const group = {
    ...panel,
    lampKind: kind,
    threads: [],
    day: lampDay(kind, [], { capShare: 1, easingShare: 1 }),
  };
  return { light: zoneLight(computeResponse(rigOf([group], zone, zone.spots)), [group]), group };
}
const inputOf = (kind: LampKind, present: ResolvedThread[], par: readonly number[]): PatternsInput => ({
  ...{ kind, home, lit: null, others: [], lookedAt: true, capShare: 0.6, easingShare: 1, par, present },
  base: present.find((t) => t.strengthShare === 1)?.mix ?? {},
  wantedDli: dli(lampDay(kind, present, { capShare: 0.6, easingShare: 1 }), par),
});
const answered = (input: PatternsInput): Record<DisputeId, DisputeAnswer['schools']> =>
  Object.fromEntries(ended(disputeSteps(input)).map((d) => [d.id, d.schools])) as never;

/** A lamp's threads for a day of ten hours with every colour lit. */
function tenHours(kind: LampKind): ResolvedThread[] {
  const mix = Object.fromEntries(kind.controls.map((c) => [c.id, c.kind === 'tint' ? 0.5 : 0.6]));
  const at = (minute: number, strengthShare: number) => ({ minute, strengthShare, mix });
  return [at(600, 0), at(660, 1), at(1140, 1), at(1200, 0)];
}
/** The figures of a school's day at the demo's first coral. */
function figures(
  of: ReturnType<typeof under>,
  { threads, capShare }: { threads: ResolvedThread[]; capShare: number },
) {
  const day = lampDay(of.group.lampKind, threads, { capShare, easingShare: 1 });
  const lit = [{ ...of.group, threads: threads.map((t) => ({ ...t, mixName: '' })), day }];
  return { ...dayFigures(of.light, lit, 0, 'smallPolyp'), taken: daysAt(of.light, lit, [0])[0]!.taken };
}

const LIBRARY = lampLibrary().map((l) => l.kind);

test.each(LIBRARY.map((k) => [k.id, k] as const))(
  '%s: every school gives the present light within 2 %, or says why not',
  (_, kind) => {
    const of = under(kind);
    const par = of.light.par[0]![0]!;
    const input = inputOf(kind, tenHours(kind), par);
    for (const schools of Object.values(answered(input)))
      for (const { day, sameAs } of schools) {
        const given = dli(lampDay(kind, day.threads, { capShare: day.capShare, easingShare: 1 }), par);
        if (day.reason === null) expect(Math.abs(given / input.wantedDli - 1)).toBeLessThanOrEqual(0.02);
        else expect(day.reason).toMatch(/\w/);
        if (sameAs !== null) expect(schools.map((s) => s.id)).toContain(sameAs);
      }
  },
);

test('what schools are said to gain and give up is so for the demo’s lamp, at the same light a day', () => {
  const of = under(panel.lampKind);
  const input = inputOf(panel.lampKind, panel.threads, light.par[0]![0]!);
  const found = answered(input);
  const by = (id: DisputeId, school: string) => {
    const { day } = found[id].find((s) => s.id === school)!;
    expect(day.reason).toBeNull();
    return figures(of, day);
  };
  const [blue, mixed, white] = ['blue', 'mixed', 'white'].map((s) => by('colour', s)) as [
    ReturnType<typeof by>,
    ReturnType<typeof by>,
    ReturnType<typeof by>,
  ];
  // of the same light corals take more of blue and less of white
  expect(blue.taken.dli).toBeGreaterThan(mixed.taken.dli);
  expect(mixed.taken.dli).toBeGreaterThan(white.taken.dli);
  expect(blue.dose.green + blue.dose.red).toBeLessThan((white.dose.green + white.dose.red) / 3);
  // a short height needs a higher peak, and more of it is too much
  const [broad, summit] = [by('height', 'broad'), by('height', 'summit')];
  expect(summit.peak).toBeGreaterThan(1.1 * broad.peak);
  // so do fewer hours
  const [short, long] = [by('hours', 'short'), by('hours', 'long')];
  expect([short.litHours, long.litHours]).toEqual([8, 12]);
  expect(short.peak).toBeGreaterThan(1.2 * long.peak);
  // switched light needs a lower peak or fewer hours
  const [dawn, switched] = [by('slopes', 'broad'), by('slopes', 'switched')];
  expect(switched.peak < dawn.peak || switched.litHours < dawn.litHours).toBe(true);
  // hours of violet alone bring more of it
  expect(by('violet', 'violet').dose.violet).toBeGreaterThan(by('violet', 'broad').dose.violet);
});

test('a turned day keeps its hours and slopes, and leaves out what the turn leaves out', () => {
  const { kind } = { kind: panel.lampKind };
  const input = inputOf(kind, panel.threads, light.par[0]![0]!);
  const blue = answered(input).colour.find((s) => s.id === 'blue')!.day;
  expect(blue.threads.map((t) => t.minute)).toEqual(panel.threads.map((t) => t.minute));
  const whites = kind.controls.filter((c) => ['white', 'warm'].includes(colourClass(kind, c)));
  expect(whites.length).toBeGreaterThan(0);
  for (const t of blue.threads) for (const c of whites) expect(t.mix[c.id] ?? 0).toBe(0);
  const shape = (threads: ResolvedThread[], cap: number) => {
    const day = lampDay(kind, threads, { capShare: cap, easingShare: 1 });
    const all = (m: number) => levelsAt(day, m).reduce((s, v, c) => s + v * light.par[0]![0]![c]!, 0);
    const top = Math.max(...threads.map((t) => all(t.minute)));
    return threads.map((t) => all(t.minute) / top);
  };
  const [was, is] = [shape(panel.threads, 0.6), shape(blue.threads, blue.capShare)];
  // steps and drive of the lamp shift it a little
  was.forEach((v, i) => expect(Math.abs(v - is[i]!)).toBeLessThan(0.06));
});

test('a lamp that cannot do what schools differ by says so; one that is dark has no schools of colour', () => {
  const plain = LIBRARY.find((k) => !dims(k))!;
  const of = under(plain);
  const colour = answered(inputOf(plain, tenHours(plain), of.light.par[0]![0]!)).colour;
  for (const s of colour) expect(s.day.reason).toContain('cannot be dimmed');
  const dark = answered({ ...inputOf(panel.lampKind, [], light.par[0]![0]!), wantedDli: 4 }).colour;
  for (const s of dark) expect(s.day.reason).toContain('dark');
  const one: LampKind = {
    ...panel.lampKind,
    controls: panel.lampKind.controls.filter((c) => colourClass(panel.lampKind, c) === 'blue').slice(0, 1),
  };
  const same = answered(inputOf(one, tenHours(one), light.par[0]![0]!)).colour;
  expect(same.map((s) => s.sameAs)).toEqual([null, 'blue', 'blue']);
});

test('a water that nobody looks at is asked when it is lit, by its display where there is one', () => {
  expect(disputesFor(false, true).map((d) => d.schools.map((s) => s.id))).toEqual([
    ['opposite', 'half', 'round', 'along'],
  ]);
  expect(disputesFor(false, false)[0]!.schools.map((s) => s.id)).toEqual(['half', 'round']);
  const display = lampDay(panel.lampKind, panel.threads, { capShare: 1, easingShare: 1 });
  const input = {
    ...inputOf(panel.lampKind, panel.threads, light.par[0]![0]!),
    lookedAt: false,
    others: [display],
  };
  const { algae } = answered(input);
  const hours = (s: (typeof algae)[number]) =>
    litPieces([lampDay(panel.lampKind, s.day.threads, { capShare: s.day.capShare, easingShare: 1 })]).reduce(
      (sum, p) => sum + (p.to - p.from) / 60,
      0,
    );
  const byId = Object.fromEntries(algae.map((s) => [s.id, hours(s)]));
  // what is lit while the display is dark and what is lit with it fill the clock
  expect(byId.opposite! + byId.along!).toBeCloseTo(24, 0);
  expect(byId.round).toBeCloseTo(24, 0);
});

test('every question has two schools, says what is not proven, and never twice the same name', () => {
  for (const d of [...disputesFor(true, true), ...disputesFor(false, true)]) {
    expect(d.schools.length).toBeGreaterThanOrEqual(2);
    expect(new Set(d.schools.map((s) => s.name)).size).toBe(d.schools.length);
    expect(d.asks).toMatch(/\?$/);
    expect(d.unproven).toMatch(/\.$/);
  }
});
