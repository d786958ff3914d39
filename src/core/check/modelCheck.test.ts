import { bareCalibration, hungGroups } from '../case/calibration';
import { displayCase } from '@/demo/lagoon';

import { checkSteps, type ModelCheck } from './modelCheck';

const { case: doc } = displayCase(Date.UTC(2026, 10, 24), 'UTC');
const zone = doc.zones[0]!;
const groups = hungGroups(doc, zone);

/** Walks to the end and says how often it told how far it was. */
function walked(steps: Generator<number, ModelCheck>): { found: ModelCheck; told: number[] } {
  const told: number[] = [];
  for (;;) {
    const next = steps.next();
    if (next.done) return { found: next.value, told };
    told.push(next.value);
  }
}

test('two models that share nothing agree on the demo tank, with lamps that lean behind a diffuser', () => {
  const leaning = groups.map((g) => ({
    ...g,
    lampKind: { ...g.lampKind, diffuserShare: 0.4 },
    lamps: g.lamps.map((l) => ({ ...l, tiltDeg: 12, tiltTowardDeg: 270 })),
  }));
  const { found, told } = walked(checkSteps(zone, leaning));
  expect(found.cells).toBe(72);
  expect(found.agree).toBeGreaterThanOrEqual(0.95 * found.cells);
  expect(found.medianOff).toBeLessThan(0.02);
  expect(found.leftOut).toEqual([]);
  expect(told.length).toBeGreaterThan(10);
  told.slice(1).forEach((share, i) => expect(share).toBeGreaterThanOrEqual(told[i]!));
});

test('lamps with an optic from a file are left out and named; a dark tank has nothing to compare', () => {
  const optic = { name: 'o', verticalDeg: [0, 90], horizontalDeg: [0], intensity: [[1, 0]] };
  const { found } = walked(
    checkSteps(
      zone,
      groups.map((g) => ({ ...g, lampKind: { ...g.lampKind, optic } })),
    ),
  );
  expect(found).toMatchObject({ cells: 0, agree: 0, leftOut: ['Panels'] });
  expect(bareCalibration(groups, zone).parameters.some((p) => p.what === 'beam')).toBe(true);
});
