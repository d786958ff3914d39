import { normal, seeded } from '../spectrum/random';
import { lampGains } from './lampGains';

const doubt = { shared: 0.25, channel: 0.15, lamp: 0.12, scale: 0.05 };

/** Two lamps of two channels over ten places, hidden gains and all. */
function home(seed: number, readings: number) {
  const random = seeded(seed);
  const ln = (sd: number) => Math.exp(sd * normal(random));
  const shared = ln(doubt.shared);
  const gain = [shared * ln(doubt.channel), shared * ln(doubt.channel)];
  const lamp = [ln(doubt.lamp), ln(doubt.lamp)];
  const scale = ln(doubt.scale);
  const light = (levels: readonly number[]) =>
    Array.from({ length: 2 }, () => levels.map((l) => l * (20 + 100 * random())));
  const of = (place: readonly (readonly number[])[]) =>
    place.reduce((s, own, l) => s + own.reduce((t, v, c) => t + v * gain[c]! * lamp[l]!, 0), 0);
  const read = Array.from({ length: readings }, (_, i) =>
    light(i < 3 ? [1, 1] : i % 2 === 0 ? [1, 0] : [0, 1]),
  );
  const shown = read.map((p) => scale * of(p) * (1 + 0.04 * normal(random)) + normal(random));
  const places = Array.from({ length: 6 }, () => light([0.8, 0.5]));
  return { read, shown, places, real: places.map(of) };
}

test('bands hold places that were not read, and narrow with readings', () => {
  let [inside, all] = [0, 0];
  const widths = [1, 3, 9].map((readings) => {
    let width = 0;
    for (let seed = 1; seed <= 40; seed += 1) {
      const { read, shown, places, real } = home(seed, readings);
      const { at } = lampGains(shown, read, doubt, places);
      at.forEach((a, i) => {
        inside += Number(Math.abs(real[i]! / a.par - 1) <= a.bandShare);
        all += 1;
        width += a.bandShare;
      });
    }
    return width;
  });
  expect(inside / all).toBeGreaterThan(0.85);
  expect(inside / all).toBeLessThan(0.97);
  expect(widths[0]!).toBeGreaterThan(widths[1]!);
  expect(widths[1]!).toBeGreaterThan(widths[2]!);
});

test('a lamp that gives half is found', () => {
  const { read, shown, places } = home(3, 9);
  const plain = lampGains(shown, read, doubt, places);
  const dark = read.map((p) => [p[0]!, p[1]!.map((v) => 2 * v)]);
  // the model thinks twice of the second lamp: it is found at half of before
  const half = lampGains(shown, dark, doubt, places);
  expect(half.lampGain[1]! / plain.lampGain[1]!).toBeLessThan(0.7);
  expect(half.lampGain[0]! / plain.lampGain[0]!).toBeGreaterThan(0.8);
  expect(plain.lampStandardError[0]!).toBeLessThan(0.15);
});
