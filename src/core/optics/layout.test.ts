import { lampLibrary, libraryLamp } from '../library/lamps';
import { par } from '../spectrum/bands';
import { integrate } from '../spectrum/grid';
import { keptSpectrum } from '../spectrum/lamp';
import type { LampKind } from '../spectrum/lampKind';
import { computeResponse, type Rig } from './response';
import { lampRows } from './rig';
import { plainTank } from './tank';
import { attenuationPerM, transmission } from './water';

const hanging = { xCm: 60, yCm: 25, heightCm: 20, turnDeg: 0 };

test.each(lampLibrary().map((l) => [l.kind.name, l.kind] as const))(
  '%s: every channel sends out all of its flux, from places on the face',
  (_, kind) => {
    const rows = lampRows(kind, hanging);
    expect(rows).toHaveLength(kind.channels.length);
    rows.forEach((row, c) => {
      row.spectra.forEach((__, s) => {
        const shares = row.emitters.filter((e) => e.spectrum === s).reduce((sum, e) => sum + e.share, 0);
        expect(shares).toBeCloseTo(1, 9);
      });
      const flux = row.spectra.reduce((sum, s) => sum + integrate(s), 0);
      expect(flux).toBeCloseTo(integrate(keptSpectrum(kind.channels[c]!)), 6);
      for (const e of row.emitters) {
        expect(Math.abs(e.xCm - hanging.xCm)).toBeLessThanOrEqual(kind.faceLengthCm / 2 + 1e-9);
        expect(Math.abs(e.yCm - hanging.yCm)).toBeLessThanOrEqual(kind.faceWidthCm / 2 + 1e-9);
      }
    });
  },
);

test('a cluster is tighter than the same emitters spread over the face', () => {
  const cluster = libraryLamp('lib-tint');
  const reach = (kind: LampKind) =>
    Math.max(...lampRows(kind, hanging).flatMap((r) => r.emitters.map((e) => Math.abs(e.xCm - hanging.xCm))));
  expect(reach(cluster)).toBeLessThan(0.5 * reach({ ...cluster, layout: 'spread' }));
});

test('tubes are lines of their own side by side; a bar is one line; both turn with the lamp', () => {
  const tubes = lampRows(libraryLamp('lib-tubes'), hanging);
  const ys = tubes.map((r) => new Set(r.emitters.map((e) => e.yCm)));
  expect(ys.map((s) => s.size)).toEqual([1, 1]);
  expect([...ys[0]!][0]).not.toBe([...ys[1]!][0]);
  const turned = lampRows(libraryLamp('lib-blue-bar'), { ...hanging, turnDeg: 90 });
  const xs = turned[0]!.emitters.map((e) => e.xCm);
  expect(Math.max(...xs) - Math.min(...xs)).toBeLessThan(3);
  const along = turned[0]!.emitters.map((e) => e.yCm);
  expect(Math.max(...along) - Math.min(...along)).toBeGreaterThan(80);
});

test('a line lights evenly along its length where a cluster of the same flux is hot in the middle', () => {
  const bar = libraryLamp('lib-blue-bar');
  const rig = (kind: LampKind): Rig => ({
    tank: plainTank(120, 50, 50),
    water: { yellow440PerM: 0.1, scatterPerM: 0.05 },
    rows: lampRows(kind, hanging),
    spots: [60, 85].map((xCm) => ({ xCm, yCm: 25, depthCm: 15, openShare: 1 })),
  });
  const ratio = (kind: LampKind) => {
    const m = computeResponse(rig(kind));
    return m.par[1]! / m.par[0]!;
  };
  expect(ratio(bar)).toBeGreaterThan(0.8);
  expect(ratio({ ...bar, layout: 'cluster' })).toBeLessThan(0.6);
});

test('transmission straight down is the exponential of the loss, and nothing is lost at the surface', () => {
  const water = { yellow440PerM: 0.4, scatterPerM: 0.05 };
  expect([...transmission(water, 0)].every((v) => v === 1)).toBe(true);
  const loss = attenuationPerM(water);
  transmission(water, 35).forEach((v, i) => expect(v).toBeCloseTo(Math.exp(-loss[i]! * 0.35), 12));
  // yellow water takes violet before green
  const t = transmission(water, 50);
  expect(t[410 - 360]!).toBeLessThan(t[540 - 360]!);
  expect(par(t)).toBeLessThan(300);
});

test('a leaning lamp lowers one side, throws its light that way, and keeps its flux', () => {
  const kind = libraryLamp('lib-nine');
  const level = lampRows(kind, hanging);
  const leaning = lampRows(kind, { ...hanging, tiltDeg: 20, tiltTowardDeg: 0 });
  const heights = leaning[0]!.emitters.map((e) => e.heightCm);
  expect(Math.max(...heights) - Math.min(...heights)).toBeGreaterThan(3);
  // what looks to the right hangs higher on the right: its face turns that way
  const sorted = [...leaning[0]!.emitters].sort((a, b) => a.xCm - b.xCm);
  expect(sorted.at(-1)!.heightCm).toBeGreaterThan(sorted[0]!.heightCm);
  expect(leaning[0]!.emitters.every((e) => e.frame !== null)).toBe(true);
  expect(level[0]!.emitters.every((e) => e.frame === null)).toBe(true);
  const par_ = (rows: typeof level, xCm: number) => {
    const m = computeResponse({
      tank: {
        ...plainTank(120, 50, 50),
        walls: { left: 0, right: 0, front: 0, back: 0 },
        floorReflectance: 0,
      },
      water: { yellow440PerM: 0.1, scatterPerM: 0.05 },
      rows,
      spots: [{ xCm, yCm: 25, depthCm: 25, openShare: 1 }],
    });
    return m.par.reduce((a, b) => a + b, 0);
  };
  expect(par_(leaning, 105)).toBeGreaterThan(1.05 * par_(level, 105));
  expect(par_(leaning, 15)).toBeLessThan(0.95 * par_(level, 15));
});

test('a diffuser keeps its share back and spreads the rest; a group’s own lens is its own', () => {
  const bare = libraryLamp('lib-nine');
  const matt = { ...bare, diffuserShare: 1 };
  const flux = (kind: LampKind) =>
    lampRows(kind, hanging)[0]!.spectra.reduce((sum, s) => sum + integrate(s), 0);
  expect(flux(matt) / flux(bare)).toBeCloseTo(0.88, 9);
  expect(lampRows(matt, hanging)[0]!.emitters[0]!.optic.diffuseShare).toBe(1);
  const lens = {
    ...bare,
    channels: bare.channels.map((c, i) =>
      i === 0 ? { ...c, groups: c.groups.map((g) => ({ ...g, beamAngleDeg: 40 })) } : c,
    ),
  };
  const exponents = lampRows(lens, hanging).map((r) => r.emitters[0]!.optic.exponent);
  expect(exponents[0]!).toBeGreaterThan(exponents[1]!);
  // a factor sharpens every beam; an optic from a file stays as it was measured
  expect(lampRows(bare, hanging, 1.5)[1]!.emitters[0]!.optic.exponent).toBeCloseTo(1.5 * exponents[1]!, 9);
  const file = {
    ...bare,
    optic: { name: 'o', verticalDeg: [0, 90], horizontalDeg: [0], intensity: [[1, 0]] },
  };
  const from = lampRows(file, hanging, 1.5)[0]!.emitters[0]!.optic;
  expect(from.photometry).toBe(file.optic);
  expect(lampRows(file, hanging)[0]!.emitters[0]!.optic).toEqual(from);
});
