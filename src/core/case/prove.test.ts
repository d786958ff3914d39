import { displayCase } from '@/demo/lagoon';

import { computeResponse } from '../optics/response';
import { lux } from '../spectrum/lux';
import { normal, seeded } from '../spectrum/random';
import { levelsOfGroups, zoneLight } from './light';
import { draftGroups, rigOf } from './lit';
import {
  type CauseId,
  causesOf,
  firstTimes,
  prove,
  type ProofKind,
  type ProofReading,
  type ProveInput,
} from './prove';

const bundle = displayCase(Date.UTC(2026, 10, 24), 'UTC');
const zone = bundle.case.zones[0]!;
const groups = draftGroups(bundle.case, zone);
const light = zoneLight(computeResponse(rigOf(groups, zone, zone.spots)), groups);
const before = {
  ...groups[0]!,
  day: {
    ...groups[0]!.day,
    knots: groups[0]!.day.knots.map((k) => ({
      ...k,
      minute: k.minute + 90,
      levels: k.levels.map((v) => v * 0.7),
    })),
  },
};
const input: ProveInput = { groups, index: 0, before, light, scale: 0.04 };

/** A made-up lamp that runs a variant of a cause; meters read it with noise and one scale that nobody knows. */
function lampThat(id: CauseId, random: () => number) {
  const cause = causesOf(input).find((c) => c.id === id)!;
  const variant = cause.variants[Math.floor(random() * cause.variants.length)]!;
  const gain = 1 + 0.03 * normal(random);
  const luxGain = 1 + 0.08 * normal(random);
  const par = (minute: number, spot: number, per = (_: number) => 1) => {
    const own = variant.at(minute);
    return own.reduce(
      (sum, levels, l) =>
        sum + levels.reduce((s, v, c) => s + v * light.lampPar[0]![l]![spot]![c]! * per(c), 0),
      0,
    );
  };
  return {
    words: variant.words,
    read: (minute: number, spot: number, kind: ProofKind = 'par'): ProofReading => {
      const truth = par(minute, spot) * gain;
      if (kind === 'lux') {
        const all = par(minute, spot, (c) => lux(light.spectra[0]![spot]![c]!) / light.par[0]![spot]![c]!);
        return {
          minute,
          spot,
          kind,
          value: Math.max(0, all * gain * luxGain * (1 + 0.05 * normal(random)) + 20 * normal(random)),
        };
      }
      return {
        minute,
        spot,
        kind: 'par',
        value: Math.max(0, truth * (1 + 0.04 * normal(random)) + 0.5 * normal(random)),
      };
    },
  };
}

/** All of them in `npm run long`. */
const LAMPS = process.env.LONG ? 200 : 80;
test('lamps with a fault each: four readings name at least nine of ten, and never too surely', () => {
  const random = seeded(7);
  const ids = causesOf(input).map((c) => c.id);
  expect(ids).toHaveLength(8);
  let right = 0;
  let told = 0;
  const wrong: string[] = [];
  for (let i = 0; i < LAMPS; i += 1) {
    const id = ids[i % ids.length]!;
    const lamp = lampThat(id, random);
    const [slope, noon] = firstTimes(groups[0]!);
    const readings = [lamp.read(noon!, 2), lamp.read(slope!, 0)];
    let verdict = prove(input, readings, ['par', 'lux']);
    // two more where they decide most
    for (let k = 0; k < 2 && verdict.next; k += 1) {
      readings.push(lamp.read(verdict.next.minute, verdict.next.spot, verdict.next.kind));
      verdict = prove(input, readings, ['par', 'lux']);
    }
    const sum = verdict.causes.reduce((s, c) => s + c.odds, 0);
    expect(sum).toBeLessThanOrEqual(1 + 1e-9);
    if (verdict.causes.filter((c) => c.fits).length > 1)
      verdict.causes.forEach((c) => expect(c.odds).toBeLessThanOrEqual(0.95));
    if (verdict.named?.id === id) told += 1;
    if (verdict.causes[0]!.id === id) right += 1;
    else
      wrong.push(
        `${id} (${lamp.words}) taken for ${verdict.causes[0]!.id}, ${verdict.named ? 'named' : 'cannot tell'}`,
      );
  }
  // named outright, and named first among what fits
  expect({ told: told >= 0.9 * LAMPS, wrong }).toEqual({ told: true, wrong });
  expect(right).toBeGreaterThanOrEqual(0.925 * LAMPS);
});

test('one reading at the plateau cannot tell, and the next that is asked for does', () => {
  const random = seeded(5);
  const lamp = lampThat('neverActivated', random);
  const readings = [lamp.read(845, 2)];
  const first = prove(input, readings);
  expect(first.named).toBeNull();
  expect(first.causes.filter((c) => c.fits).length).toBeGreaterThan(1);
  for (let i = 0; i < 3; i += 1) {
    const { next } = prove(input, readings);
    if (!next) break;
    readings.push(lamp.read(next.minute, next.spot));
  }
  expect(prove(input, readings).causes[0]!.id).toBe('neverActivated');
});

test('nothing read names nothing; percents that a lamp shows tell the cap; a cause it cannot have is not weighed', () => {
  expect(prove(input, []).named).toBeNull();
  const shown = (factor: number): ProofReading[] =>
    [600, 845, 1050].map((minute) => ({
      minute,
      spot: 0,
      kind: 'percent',
      value: Math.round(100 * factor * Math.max(...levelsOfGroups(groups, minute)[0]!)),
    }));
  expect(prove(input, shown(1), ['percent']).causes[0]!.id).toBe('asPlanned');
  expect(prove(input, shown(0.8), ['percent']).causes[0]!.id).toBe('capTwice');
  const open: ProveInput = {
    ...input,
    before: null,
    groups: groups.map((g) => ({ ...g, lamps: [g.lamps[0]!], day: { ...g.day, capShare: 1 } })),
    light: { ...light, lampPar: [[light.lampPar[0]![0]!]] },
  };
  expect(causesOf(open).map((c) => c.id)).not.toEqual(expect.arrayContaining(['capTwice']));
  expect(causesOf(open).map((c) => c.id)).not.toEqual(expect.arrayContaining(['neverActivated']));
  expect(causesOf(open).map((c) => c.id)).not.toEqual(expect.arrayContaining(['oneLampOut']));
});
