import { circuitsOf, windowsOf } from '@/core/case/dawn';
import { draftGroups, type LitGroup } from '@/core/case/lit';
import { dateOf, dayNumber } from '@/core/day/wallClock';
import { libraryLamp } from '@/core/library/lamps';
import type { CaseBundle } from '@/core/record/documents';
import type { Group } from '@/core/record/zone';
import { watersCase } from '@/demo/lagoon';

import { setExtras } from './commands/days';
import { addGroup } from './commands/lamps';
import { setWindows, takeDay, threadsFrom } from './days';
import { draftLit } from './derive';

const demo = watersCase(Date.UTC(2026, 10, 24), 'UTC');
const [display] = demo.case.zones;
const panel = display!.groups[0]!;
const groupIn = (b: CaseBundle, id: string): Group =>
  b.case.zones.flatMap((z) => z.groups).find((g) => g.id === id)!;

describe('threads from a computed day', () => {
  const resolved = draftGroups(demo.case, display!, null)[0]!.threads;

  test('what says the same at the same minute stays the very thread it was', () => {
    expect(threadsFrom(demo.case, panel, resolved)).toEqual(
      [...panel.threads].sort((a, b) => a.minute - b.minute),
    );
  });

  test('a mix that is a plate’s refers to it; others are kept as their own, within 0 to 1 in millionths', () => {
    const plate = demo.case.plates.find((p) => p.lampKindId === panel.lampKindId)!;
    const [first, second] = threadsFrom(demo.case, panel, [
      { minute: 3, strengthShare: 1.2, mix: plate.mix },
      { minute: 4, strengthShare: -0.1, mix: { ...plate.mix, violet: 1.5, white: -2, blue: 0.12345678 } },
    ]);
    expect(first).toMatchObject({ minute: 3, strengthShare: 1, mix: { plateId: plate.id } });
    expect(second).toMatchObject({ minute: 4, strengthShare: 0 });
    expect(second!.mix).toMatchObject({ own: { violet: 1, white: 0, blue: 0.123457 } });
  });

  test('a taken day stands in place of the group’s, with a cap where one is given', () => {
    const threads = [{ ...resolved[0]!, minute: 77 }];
    const taken = takeDay(demo.case, panel, 'a day', threads, 0.35).apply(demo);
    expect(groupIn(taken, panel.id)).toMatchObject({ capShare: 0.35, threads: [{ minute: 77 }] });
    const kept = takeDay(demo.case, panel, 'a day', threads).apply(demo);
    expect(groupIn(kept, panel.id).capShare).toBe(panel.capShare);
    // nobody else's day is touched
    expect(kept.case.zones[1]).toBe(demo.case.zones[1]);
  });
});

describe('windows of circuits', () => {
  const kind = libraryLamp('lib-two-circuit');
  const plate = { id: 'p', lampKindId: kind.id, name: 'On', mix: { blue: 1, white: 1 } };
  const [one, two] = kind.controls;
  const group: Group = {
    ...panel,
    id: 'tubes',
    name: 'Tubes',
    lampKindId: kind.id,
    threads: [],
    capShare: 1,
  };
  const start = addGroup(
    display!.id,
    kind,
    { ...demo.case.plates[0]!, ...plate, mix: Object.fromEntries(kind.controls.map((c) => [c.id, 1])) },
    { ...group, threads: [{ id: 't', minute: 600, strengthShare: 1, mix: { plateId: 'p' } }] },
  ).apply(demo);
  const litIn = (b: CaseBundle): LitGroup[] =>
    draftGroups(b.case, b.case.zones[0]!, null).filter((g) => g.groupId === 'tubes');
  const groups = (b: CaseBundle) => b.case.zones.flatMap((z) => z.groups);

  test('each circuit is on when it is said to be; one that is not named stays as it is', () => {
    expect(circuitsOf(litIn(start)).map((c) => c.controlId)).toEqual([one!.id, two!.id]);
    const hours = new Map([
      [`tubes/${one!.id}`, [{ from: 600, to: 1200 }]],
      [`tubes/${two!.id}`, [{ from: 660, to: 1140 }]],
    ]);
    const set = setWindows('hours', start.case, groups(start), litIn(start), hours, 'm');
    expect(set.merge).toBe('m');
    const after = set.apply(start);
    expect(windowsOf(litIn(after)[0]!, one!.id)).toEqual([{ from: 600, to: 1200 }]);
    expect(windowsOf(litIn(after)[0]!, two!.id)).toEqual([{ from: 660, to: 1140 }]);
    const moved = new Map([[`tubes/${two!.id}`, [{ from: 700, to: 900 }]]]);
    const again = setWindows('hours', after.case, groups(after), litIn(after), moved).apply(after);
    expect(windowsOf(litIn(again)[0]!, one!.id)).toEqual([{ from: 600, to: 1200 }]);
    expect(windowsOf(litIn(again)[0]!, two!.id)).toEqual([{ from: 700, to: 900 }]);
  });

  test('a lamp set as a whole takes its strongest mix over the first window; without a window nothing changes', () => {
    const whole = new Map([[`${panel.id}/null`, [{ from: 500, to: 1100 }]]]);
    const lit = draftGroups(demo.case, display!, null).filter((g) => g.groupId === panel.id);
    const after = setWindows('hours', demo.case, groups(demo), lit, whole).apply(demo);
    const { threads } = draftGroups(after.case, after.case.zones[0]!, null).find(
      (g) => g.groupId === panel.id,
    )!;
    const strongest = Math.max(...lit[0]!.threads.map((t) => t.strengthShare));
    expect(threads.map((t) => [t.minute, t.strengthShare])).toEqual([
      [500, 0],
      [501, strongest],
      [1099, strongest],
      [1100, 0],
    ]);
    expect(setWindows('hours', demo.case, groups(demo), lit, new Map()).apply(demo)).toEqual(demo);
  });
});

test('a draft on a date has what acts on that date; the plain day has not', () => {
  const moving = setExtras(panel.id, () => ({ drift: { latitudeDeg: 52, mostMinutes: 60 } })).apply(demo);
  const zone = moving.case.zones[0]!;
  const first = (date: string | null) =>
    draftLit(moving.case, zone, date === null ? null : { date, timeZone: 'UTC' })[0]!.day.knots[0]!.minute;
  expect(first('2026-06-21')).toBeLessThan(first(null));
  expect(first('2026-12-21')).toBeGreaterThan(first(null));
  expect(draftLit(moving.case, zone)).toBe(draftLit(moving.case, zone, null));
  const on = { date: dateOf(dayNumber('2026-06-21')), timeZone: 'UTC' };
  expect(draftLit(moving.case, zone, on)).toBe(draftLit(moving.case, zone, { ...on }));
});
