import { par } from '../spectrum/bands';
import { allFull } from '../spectrum/controls';
import { emissionSpectrum } from '../spectrum/emission';
import { lampKind, mixSpectrum } from '../spectrum/lamp';
import type { LampKind } from '../spectrum/lampKind';
import { xyOf, xyzOf } from '../colour/xyz';
import { temperatureOf } from '../colour/temperature';
import { METER_KINDS, meterKind, parFactor, parRatio } from '../meter/kinds';
import { cheapestFor, compare, leftUnused } from './compare';
import { allBlues, bandsHeld } from './held';
import { lampLibrary, libraryLamp } from './lamps';
import { REFERENCES } from './references';
import { mixWarnings } from './warnings';

const clear = new Float64Array(421).fill(1);
const d65 = REFERENCES.find((r) => r.id === 'd65')!.spectrum();

test('references: D65 has its published chromaticity; the halide about its kelvin figure; deep water is bluer', () => {
  const [x, y] = xyOf(xyzOf(d65))!;
  expect(x).toBeCloseTo(0.3127, 3);
  expect(y).toBeCloseTo(0.329, 3);
  const halide = temperatureOf(xyOf(xyzOf(REFERENCES.find((r) => r.id === 'halide-10000')!.spectrum()))!);
  expect(halide.cctK).toBeGreaterThan(8500);
  expect(halide.cctK).toBeLessThan(12_000);
  const [shallow, deep] = ['ocean-5', 'ocean-20'].map((id) =>
    xyOf(xyzOf(REFERENCES.find((r) => r.id === id)!.spectrum()))!,
  );
  expect(deep![0]).toBeLessThan(shallow![0]);
  for (const r of REFERENCES) expect(par(r.spectrum())).toBeGreaterThan(0);
});

describe('comparing', () => {
  const candidates = ['lib-eight-blue', 'lib-nine', 'lib-five-step'].map((id) => ({
    name: id,
    kind: libraryLamp(id),
    mix: allFull(libraryLamp(id)),
    hours: 8,
  }));

  test('at equal PAR doses are equal for equal hours and differ for others; at equal DLI the PAR differs', () => {
    const [a, b] = compare(candidates, { by: 'par', value: 150 }, clear);
    expect(a!.parUmol).toBeCloseTo(150, 6);
    expect(a!.dli).toBeCloseTo(b!.dli, 9);
    expect(a!.dli).toBeCloseTo((150 * 8 * 3600) / 1e6, 9);
    const [c, d] = compare(
      [candidates[0]!, { ...candidates[1]!, hours: 12 }],
      { by: 'dli', value: 5 },
      clear,
    );
    expect([c!.dli, d!.dli]).toEqual([expect.closeTo(5, 9), expect.closeTo(5, 9)]);
    expect(d!.parUmol / c!.parUmol).toBeCloseTo(8 / 12, 9);
    const inside = Object.entries(c!.photons).reduce(
      (s, [id, v]) => (id === 'nearUv' || id === 'farRed' ? s : s + v),
      0,
    );
    expect(inside).toBeLessThanOrEqual(c!.parUmol + 1e-9);
    expect(inside).toBeGreaterThan(0.98 * c!.parUmol);
  });

  test('token bands are found with all blues full, whatever a mix turns up', () => {
    const token = lampKind({
      id: 'token',
      name: 'token violet',
      channels: [
        {
          id: 'v',
          name: 'V',
          groups: [{ light: { shape: 'line', peakNm: 415, fwhmNm: 12 }, count: 1, wattsEach: 1 }],
        },
        {
          id: 'b',
          name: 'B',
          groups: [{ light: { shape: 'line', peakNm: 462, fwhmNm: 18 }, count: 30, wattsEach: 2 }],
        },
      ],
      beamAngleDeg: 90,
      faceLengthCm: 20,
      faceWidthCm: 10,
    });
    const of = (kind: LampKind, id: string) => bandsHeld(kind).find((b) => b.id === id)!.holds;
    expect(of(token, 'violet')).toBe('token');
    expect(of(token, 'green')).toBe('none');
    expect(of(libraryLamp('lib-eight-blue'), 'violet')).toBe('real');
    const [one] = compare(
      [{ name: 't', kind: token, mix: { v: 1, b: 0.1 }, hours: 8 }],
      { by: 'par', value: 100 },
      clear,
    );
    expect(one!.cannot.find((c) => c.band === 'violet')).toMatchObject({ holds: 'token' });
    // no lamp with as much violet is cheaper than the one that is named
    const violet = cheapestFor('violet', 'token')!;
    for (const { kind } of lampLibrary()) {
      const all = mixSpectrum(kind, allFull(kind));
      const share = all.slice(40, 71).reduce((s, v) => s + v, 0) / all.reduce((s, v) => s + v, 0);
      if (share > 0.12) expect(violet.price!).toBeLessThanOrEqual(kind.price!);
    }
    expect(allBlues(token).some((v) => v > 0)).toBe(true);
    // blue that cannot be lit alone is held all the same
    expect(of(libraryLamp('lib-refugium-fixed'), 'royalBlue')).toBe('real');
    expect(of(libraryLamp('lib-refugium-fixed'), 'nearUv')).toBe('none');
    expect(of(libraryLamp('lib-refugium-day'), 'royalBlue')).toBe('real');
  });

  test('what a mix leaves unused: emitters, watts, PAR', () => {
    const kind = libraryLamp('lib-nine');
    const one = leftUnused(kind, { 'royal-blue': 1 });
    expect(one.emittersAll - one.emitters).toBe(16);
    expect(one.watts).toBeGreaterThan(0.7 * one.wattsAll);
    const none = leftUnused(kind, allFull(kind));
    expect(none.emitters).toBe(0);
    expect(none.watts).toBeCloseTo(0, 6);
    expect(none.par).toBeCloseTo(0, 6);
  });
});

describe('warnings', () => {
  const ids = (kind: LampKind, mix: Record<string, number>) =>
    mixWarnings(kind, mixSpectrum(kind, mix)).map((w) => w.id);

  test('red and blue taken for violet, red above the ceiling, a single blue, a band hardly held', () => {
    const refugium = libraryLamp('lib-refugium-dim');
    expect(ids(refugium, { red: 0.4, blue: 1 })).toEqual(
      expect.arrayContaining(['looksViolet', 'hardly', 'red']),
    );
    const nine = libraryLamp('lib-nine');
    expect(ids(nine, { 'royal-blue': 1 })).toEqual(['singleBlue']);
    expect(ids(nine, { violet: 0.6, 'royal-blue': 0.8, blue: 0.7, cyan: 0.3 })).toEqual([]);
    expect(ids(nine, { 'deep-red': 1, blue: 0.3 })).toContain('red');
    expect(ids(nine, {})).toEqual([]);
  });
});

describe('meters', () => {
  const blue = emissionSpectrum({ shape: 'line', peakNm: 450, fwhmNm: 19, flux: 100 });

  test('an ideal meter needs no factor; a low-cost one reads violet and deep red too low', () => {
    expect(parFactor(meterKind('ideal'), blue)!.parPerShown).toBeCloseTo(1, 2);
    const violet = emissionSpectrum({ shape: 'line', peakNm: 415, fwhmNm: 14, flux: 100 });
    expect(parFactor(meterKind('lowCost'), violet)!.parPerShown).toBeGreaterThan(2);
    expect(parFactor(meterKind('lowCost'), d65)!.parPerShown).toBeLessThan(1.35);
  });

  test('a fixed lux factor fails under blue, and the doubt grows with it', () => {
    const lux = meterKind('lux');
    const [day, night] = [parFactor(lux, d65)!, parFactor(lux, blue)!];
    expect(1 / day.parPerShown).toBeCloseTo(54, -1);
    expect(night.parPerShown / day.parPerShown).toBeGreaterThan(5);
    expect(night.errorShare).toBeGreaterThan(2 * day.errorShare);
    for (const kind of METER_KINDS) expect(parFactor(kind, new Float64Array(421))).toBeNull();
  });

  test('before and after: the change of mix is corrected, the scale of the meter falls out', () => {
    const lux = meterKind('lux');
    const same = parRatio(lux, { shown: 200, light: blue }, { shown: 300, light: blue })!;
    expect(same.ratio).toBeCloseTo(1.5, 9);
    expect(same.errorShare).toBeLessThan(0.05);
    const shown = (light: Float64Array) => par(light) / parFactor(lux, light)!.parPerShown;
    const white = emissionSpectrum({ shape: 'gaussian', peakNm: 560, fwhmNm: 120, flux: 250 });
    const other = parRatio(lux, { shown: shown(blue), light: blue }, { shown: shown(white), light: white })!;
    expect(other.ratio).toBeCloseTo(par(white) / par(blue), 9);
  });
});
