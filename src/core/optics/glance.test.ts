import { displayCase } from '@/demo/lagoon';

import { draftGroups, rigOf } from '../case/lit';
import { brightestLevels, zoneLight, parUnder } from '../case/light';
import { Glances } from './glance';
import { computeResponse } from './response';

test('a glance is within a few percent of the whole response, however the lamps hang', () => {
  const bundle = displayCase(Date.parse('2026-11-24T12:00:00Z'), 'UTC');
  const plain = bundle.case.zones[0]!;
  // the floor is what a glance leaves aside
  const zone = { ...plain, tank: { ...plain.tank, floorReflectance: 0 } };
  const [group] = draftGroups(bundle.case, zone);
  const light = zoneLight(computeResponse(rigOf([group!], zone, zone.spots)), [group!]);
  const levels = brightestLevels(light, [group!], 0);
  const glances = new Glances(zone.tank, zone.water, levels[0]!, zone.spots, 25);
  for (const change of [
    {},
    { heightCm: 40 },
    { turnDeg: 90 },
    { tiltDeg: 15, tiltTowardDeg: 0 },
    { screenShare: 0.5 },
  ]) {
    const lamps = group!.lamps.map((l) => ({ ...l, ...change }));
    const hung = { ...group!, lamps };
    const whole = zoneLight(computeResponse(rigOf([hung], zone, zone.spots)), [hung]);
    zone.spots.forEach((s, i) => {
      const quick = lamps.reduce((sum, l) => sum + glances.of(group!.lampKind, l).spots[i]!, 0) * s.openShare;
      expect(Math.abs(quick / parUnder(whole, levels, i) - 1)).toBeLessThan(0.08);
    });
    const [a] = lamps.map((l) => glances.of(group!.lampKind, l));
    expect(a!.entered).toBeGreaterThan(0.3);
    expect(a!.entered).toBeLessThan(0.98);
    expect(Math.min(...a!.plan)).toBeGreaterThan(0);
    expect(glances.of(group!.lampKind, lamps[0]!)).toBe(a);
  }
  // a lamp at the left lights the left pane most
  const { glass } = glances.of(group!.lampKind, { ...group!.lamps[0]!, xCm: 20 });
  expect(glass[0]!).toBeGreaterThan(2 * glass[1]!);
});
