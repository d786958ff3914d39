import { bareCalibration, hungGroups } from '@/core/case/calibration';
import { draftGroups, rigOf } from '@/core/case/lit';
import { levelsById, rigGroups } from '@/core/case/plateaus';
import type { Session } from '@/core/record/readings';
import { displayCase } from '@/demo/lagoon';
import { channelOfRow, doseShares, rowShares, sharesAt } from '@/core/case/rows';
import { dayAt, zoneLight } from '@/core/case/light';
import { parInField } from '@/core/optics/field';

import { service } from './service';

const bundle = displayCase(Date.UTC(2026, 10, 24), 'UTC');
const zone = bundle.case.zones[0]!;
const groups = draftGroups(bundle.case, zone);
const bare = bareCalibration(hungGroups(bundle.case, zone), zone);
const small = { nx: 16, ny: 8, depthsCm: [0, 15, 30, 50] };
const rig = rigOf(groups, zone, []);

/** A clock that makes every step look slow, so that each is reported. */
const slowly = () => {
  let now = 0;
  jest.spyOn(performance, 'now').mockImplementation(() => (now += 1000));
};
afterEach(() => jest.restoreAllMocks());

test('a field reports how far it is, in rising steps, and gives the same as without', async () => {
  slowly();
  const told: number[] = [];
  const field = await service.field(rig, small, (share) => told.push(share) > 0);
  expect(told.length).toBeGreaterThan(10);
  told.slice(1).forEach((share, i) => expect(share).toBeGreaterThanOrEqual(told[i]!));
  expect(field.par.length).toBe(4 * rig.rows.length * 16 * 8);
});

test('an answer of no stops it, whatever it is', async () => {
  slowly();
  await expect(service.field(rig, small, () => false)).rejects.toMatchObject({ name: 'AbortError' });
  await expect(service.check(zone, hungGroups(bundle.case, zone), () => false)).rejects.toMatchObject({
    name: 'AbortError',
  });
});

test('what the chart adds up is what the corals get: PAR at a moment and the day’s dose', async () => {
  const fine = { nx: 60, ny: 24, depthsCm: [0, 6, 12, 18, 24, 30, 36, 43, 50] };
  const field = await service.field(rig, fine, () => true);
  const light = zoneLight(await service.response(rigOf(groups, zone, zone.spots)), groups);
  const noon = sharesAt(groups, 845, bare);
  const dose = doseShares(groups, bare);
  zone.spots.forEach((s, i) => {
    const day = dayAt(light, groups, i);
    expect(parInField(field, s.xCm, s.yCm, s.depthCm, noon) / day.peak).toBeCloseTo(1, 1);
    expect(parInField(field, s.xCm, s.yCm, s.depthCm, dose) / day.dli).toBeCloseTo(1, 1);
  });
  // gains come in with the shares
  const doubled = {
    ...bare,
    gains: { [groups[0]!.groupId]: Object.fromEntries(groups[0]!.lampKind.channels.map((c) => [c.id, 2])) },
  };
  sharesAt(groups, 845, doubled).forEach((v, r) => expect(v).toBeCloseTo(2 * noon[r]!, 12));
});

test('rows belong to channels: those of twin lamps together, those of other groups apart', () => {
  const [group] = groups;
  const channels = group!.lampKind.channels.length;
  const rows = channelOfRow([group!, { ...group!, groupId: 'other', lamps: group!.lamps.slice(0, 1) }]);
  expect(rows).toHaveLength(3 * channels);
  expect(rows.slice(0, channels)).toEqual(rows.slice(channels, 2 * channels));
  expect(Math.min(...rows.slice(2 * channels))).toBe(channels);
  expect([...rowShares(groups, [group!.lampKind.channels.map((_, c) => c / 10)], bare)]).toHaveLength(
    2 * channels,
  );
});

test('a calibration from the worker bends what it lights; a simulated meter reads its hidden truth', async () => {
  const levels = levelsById(groups, [groups[0]!.lampKind.channels.map(() => 0.5)]);
  const use = { kind: 'ideal' as const, immersionFactor: 1, sensorAboveCm: 0, simulated: true };
  const rigs = rigGroups(groups);
  const ask = (i: number, seed = 5, pumpsOn = false) =>
    service.simulate(zone, { rig: rigs, meter: use, pumpsOn }, zone.spots[i]!, levels, seed, `t${i}`).shown;
  const shown = zone.spots.map((_, i) => ask(i));
  expect(ask(0)).toBe(shown[0]);
  expect(ask(0, 6, true)).not.toBe(shown[0]);
  const session: Session = {
    id: 's',
    zoneId: zone.id,
    name: 's',
    atUtc: '2026-11-24T12:00:00.000Z',
    meter: use,
    pumpsOn: false,
    lit: '',
    counts: true,
    rig: rigs,
    readings: zone.spots.map((s, i) => ({
      id: `r${i}`,
      spotId: s.id,
      name: s.name,
      xCm: s.xCm,
      yCm: s.yCm,
      depthCm: s.depthCm,
      atUtc: '2026-11-24T12:00:00.000Z',
      tries: [shown[i]!],
      bands: null,
      levels,
    })),
  };
  const cal = await service.calibrate(bundle.case, zone, [session]);
  expect(cal.readings).toBe(5);
  const before = await service.accustomed(zone, bundle.history, bundle.log, bare, '2026-11-24T12:00:00.000Z');
  const after = await service.accustomed(zone, bundle.history, bundle.log, cal, '2026-11-24T12:00:00.000Z');
  // what corals are used to moves along with what is known of the lamps
  const ratio = after.perSpot[0]!.peak / before.perSpot[0]!.peak;
  const fitted = zoneLight(await service.response(rigOf(groups, zone, zone.spots, cal)), groups, cal);
  const model = zoneLight(await service.response(rigOf(groups, zone, zone.spots)), groups);
  expect(ratio).toBeCloseTo(dayAt(fitted, groups, 0).peak / dayAt(model, groups, 0).peak, 6);
});
