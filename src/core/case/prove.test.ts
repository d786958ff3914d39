import { demoCase } from '@/demo/lagoon';

import { computeResponse } from '../optics/response';
import { lux } from '../spectrum/lux';
import { normal, seeded } from '../spectrum/random';
import { zoneLight } from './light';
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

const bundle = demoCase(Date.UTC(2026, 10, 24), 'UTC');
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

test('200 lamps with a fault each: four readings name at least nine of ten, and never too surely', () => {
  const random = seeded(7);
  const ids = causesOf(input).map((c) => c.id);
  expect(ids).toHaveLength(8);
  let right = 0;
  let told = 0;
  const wrong: string[] = [];
  for (let i = 0; i < 200; i += 1) {
    const id = ids[i % ids.length]!;
    const lamp = lampThat(id, random);
    const readings = firstTimes(groups[0]!).map((m, k) => lamp.read(m, [0, 2, 1][k]!));
    let verdict = prove(input, readings, ['par', 'lux']);
    if (!verdict.named && verdict.next) {
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
  if (process.env.SHOW) console.log(right, told, wrong);
  expect(right).toBeGreaterThanOrEqual(180);
});
