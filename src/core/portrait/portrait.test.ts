import { watersCase } from '@/demo/lagoon';

import { atPlace } from '../case/atPlace';
import { bareCalibration, hungGroups } from '../case/calibration';
import { draftGroups, rigOf } from '../case/lit';
import { levelsOfGroups } from '../case/light';
import { seeUnder } from '../colour/look';
import { xyzOf } from '../colour/xyz';
import { FORMS, type CoralForm } from '../coral/form';
import { ALGAE } from '../feeding/algae';
import { computeResponse } from '../optics/response';
import { sentUp } from '../optics/sides';
import { GRID_SIZE, zeroSpectrum } from '../spectrum/grid';
import { grownMat } from './algaeGrowth';
import { AT_DEPTHS, DEPTHS, type PortraitScene } from './buffers';
import { grownCoral } from './growth';
import { drawnShare, lookerOf } from './lookers';
import { figureOf, lampLevels, portraitKey, type PortraitLook, portraitOf } from './ofZone';
import { atEveryDepth, evenPalette, eyeLooks, linearPicture, onScreen, paint, palette } from './relight';
import { faceLight, type KeptLight, type PortraitInput, portraitScene, SKY, slantOn } from './scene';
import { USUAL_CM } from './sizes';
import { SIZES, type Stuff } from './stuff';
import { FIXED, figureSurfaces, surfaceId, weightsOf } from './surfaces';
import { pictureShape, placeAt, seenAt, viewOf } from './view';
import { coralWords, colourWords } from './words';

const { case: doc } = watersCase(Date.UTC(2026, 10, 24), 'UTC');
const [zone, sump] = [doc.zones[0]!, doc.zones[1]!];
const groups = draftGroups(doc, zone);
const cal = bareCalibration(hungGroups(doc, zone), zone);
const look: PortraitLook = { fish: false, card: true, width: 240, height: 94, coarse: false };
const input = portraitOf(doc, zone, groups, cal, look);
const scene = portraitScene(input);
const noon = levelsOfGroups(groups, 845);
const levels = lampLevels(scene, groups, noon, cal)!;

/** A tank with nothing in it but sand and a card. */
const bare = portraitScene({ ...input, corals: [], mats: [] });
const view = viewOf(zone.tank, bare.width, bare.height);
const spectrumAt = (xCm: number, yCm: number, depthCm: number, own = levels) => {
  const matrix = computeResponse(rigOf(groups, zone, [{ xCm, yCm, depthCm, openShare: 1 }]));
  const out = zeroSpectrum();
  const flat = own.flat();
  for (let r = 0; r < matrix.rows; r += 1)
    for (let i = 0; i < GRID_SIZE; i += 1) out[i]! += flat[r]! * matrix.spectra[r * GRID_SIZE + i]!;
  return out;
};
const xyzPicture = (of: PortraitScene, own: readonly (readonly number[])[]) =>
  linearPicture(of, atEveryDepth(of.lamps.length, palette(of, own)));
/** Mean luminance of a surface around a place on the floor, and of how many pixels. */
const luxAround = (picture: Float32Array, xCm: number, yCm: number, surface: 'card' | 'sand', reach = 5) => {
  const at = seenAt(view, xCm, yCm, zone.tank.depthCm);
  let [sum, count] = [0, 0];
  for (let j = Math.round(at.y) - reach; j <= at.y + reach; j += 1)
    for (let i = Math.round(at.x) - reach; i <= at.x + reach; i += 1) {
      const p = j * bare.width + i;
      if (i < 0 || j < 0 || j >= bare.height || Math.floor(bare.cell[p]! / DEPTHS) !== surfaceId(surface))
        continue;
      sum += picture[p * 3 + 1]!;
      count += 1;
    }
  return { lux: sum / count, count };
};

describe('true to the numbers', () => {
  test('a card right under a lamp has the colour that the core computes, to one step of eight bits', () => {
    const lone = [levels[0]!, levels[1]!.map(() => 0)];
    const lamp = groups[0]!.lamps[0]!;
    const xyz = palette(scene, lone);
    AT_DEPTHS.forEach((share, d) => {
      const light = spectrumAt(lamp.xCm, lamp.yCm, share * zone.tank.depthCm, lone);
      const white = xyzOf(light);
      const at = (surfaceId('card') * AT_DEPTHS.length + d) * 2 * 3;
      expect(xyz[at + 1]! / white[1]).toBeCloseTo(1, 3);
      const { degree, colour } = seeUnder(light)!;
      const shown = onScreen(xyz.slice(at, at + 3), eyeLooks(white, degree));
      const encoded = [...shown].map((v) =>
        Math.round(255 * (v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055)),
      );
      colour(light).forEach((v, k) => expect(Math.abs(encoded[k]! - v)).toBeLessThanOrEqual(1));
    });
  });

  test('a card on the sand is as bright as the light of its place, and sand under either lamp as the field says', () => {
    const picture = xyzPicture(bare, levels);
    const wide = 7;
    const [x, y] = [zone.tank.lengthCm - 1.6 * wide, wide];
    const card = luxAround(picture, x, y, 'card', 2);
    expect(card.count).toBeGreaterThan(6);
    // the water before it hides a little
    expect(Math.abs(card.lux / xyzOf(spectrumAt(x, y, zone.tank.depthCm))[1] - 1)).toBeLessThan(0.1);
    const places = [
      [42, 20],
      [108, 20],
      [75, 20],
      [20, 20],
    ] as const;
    const shares = places.map(([px, py]) => {
      const own = [levels[0]!, levels[1]!.map(() => 0)];
      const sand = luxAround(xyzPicture(bare, own), px, py, 'sand', 4).lux;
      return sand / xyzOf(spectrumAt(px, py, zone.tank.depthCm, own))[1];
    });
    const mean = shares.reduce((a, b) => a + b, 0) / shares.length;
    // sand sends back two thirds; ripples, dunes and its grain stay around that
    expect(mean).toBeGreaterThan(0.5);
    expect(mean).toBeLessThan(0.8);
    shares.forEach((s) => expect(Math.abs(s / mean - 1)).toBeLessThan(0.1));
  });

  /** Light at a place on a level face and on an upright one, lux, as the side figures reckon it. */
  const sidesThere = (place: { xCm: number; yCm: number; depthCm: number }, own = levels) => {
    const lux = (depthCm: number) => xyzOf(spectrumAt(place.xCm, place.yCm, depthCm, own))[1];
    const spots = [{ ...zone.spots[0]!, ...place }];
    const up = sentUp(zone.tank.floorReflectance, lux(zone.tank.depthCm));
    return atPlace({ ...zone, spots }, groups, cal, 0, own.flat(), lux(place.depthCm), up)!.sides;
  };

  test('a face is lit by its side as the figures of sides say', () => {
    const ways = SKY.map(([x, y]) => [x, y, -1].map((v) => v / Math.hypot(x, y, 1)));
    const on = (normal: readonly number[]) =>
      ways.reduce(
        (sum, w) =>
          sum +
          Math.max(
            0,
            normal.reduce((t, v, k) => t + v * w[k]!, 0),
          ),
        0,
      ) / ways.reduce((sum, w) => sum - w[2]!, 0);
    // the same light from straight above, the floor black: level, upright, upside down
    expect(faceLight(1, slantOn([0, 0, -1], 0, 0, -70), on([0, 0, -1]), 0, -1)).toBeCloseTo(1, 9);
    expect(faceLight(1, slantOn([0, 0, 1], 0, 0, -70), on([0, 0, 1]), 0, 1)).toBe(0);
    for (const spot of zone.spots) {
      const { down, flank, underside } = sidesThere(spot);
      const lamps = groups[0]!.lamps.map((lamp, l) => {
        const own = levels.map((of, k) => (k === l ? of : of.map(() => 0)));
        const there = sidesThere(spot, own).down / down;
        return { ...lamp, there };
      });
      const up = underside / down;
      const round = 24;
      let upright = 0;
      for (let k = 0; k < round; k += 1) {
        const turn = (2 * Math.PI * k) / round;
        const normal = [Math.cos(turn), Math.sin(turn), 0];
        for (const { there, xCm, yCm, heightCm } of lamps) {
          const direct = slantOn(normal, xCm - spot.xCm, yCm - spot.yCm, -heightCm * 1.34 - spot.depthCm);
          upright += faceLight(there, direct, on(normal), 0, 0) / round;
        }
        upright += up / 2 / round;
      }
      expect(upright / (flank / down)).toBeGreaterThan(0.9);
      expect(upright / (flank / down)).toBeLessThan(1.25);
      expect(faceLight(0, 0, 0, up, 1)).toBeCloseTo(up, 9);
    }
  });

  test('a coral moved from under one lamp to under the other is as much darker as the field says of level and upright faces', () => {
    // the other lamp at four tenths of the first
    const own = [levels[0]!, levels[0]!.map((v) => v * 0.4)];
    const [left, right] = groups[0]!.lamps.map((l) => ({ xCm: l.xCm, yCm: l.yCm, depthCm: 25 }));
    const [from, to] = [sidesThere(left!, own), sidesThere(right!, own)];
    const kept: KeptLight = new Map();
    for (const shape of ['brain', 'plate', 'leather'] as const) {
      const lit = [left!, right!].map((place) => {
        const coral = { ...place, id: 'wanders', shape, form: null, sizeCm: 16 };
        const of = portraitScene({ ...input, corals: [coral], mats: [], width: 716, height: 279 }, kept);
        const picture = xyzPicture(of, own);
        let [sum, count] = [0, 0];
        of.cell.forEach((c, at) => {
          if (of.surfaces[Math.floor(c / DEPTHS)]!.of !== 0) return;
          sum += picture[at * 3 + 1]!;
          count += 1;
        });
        expect(count).toBeGreaterThan(300);
        return sum / count;
      });
      const darker = lit[1]! / lit[0]!;
      expect(darker).toBeGreaterThan((to.down / from.down) * 0.99);
      expect(darker).toBeLessThan(to.flank / from.flank);
    }
  });

  test('published reflectances under two illuminants, against colours computed in another way', () => {
    // test colours 1 and 2 of CIE 13.3, 380-780 nm in steps of 5
    const samples = [
      '219 239 252 256 256 254 252 248 244 240 237 232 230 226 225 222 220 218 216 214 214 214 216 218 223 225 226 226 225 225 227 230 236 245 253 262 272 283 298 318 341 367 390 409 424 435 442 448 450 451 451 451 451 451 450 450 451 451 453 454 455 457 458 460 462 463 464 465 466 466 466 466 467 467 467 467 467 467 467 467 467',
      '70 79 89 101 111 116 118 120 121 122 122 122 123 124 127 128 131 134 138 143 150 159 174 190 207 225 242 253 260 264 267 269 272 276 282 289 299 309 322 329 335 339 341 341 342 342 342 341 341 339 339 338 338 337 336 335 334 332 332 331 331 330 329 328 328 327 326 325 324 324 324 323 322 321 320 318 316 315 315 314 314',
    ].map((text) => text.split(' ').map((v) => Number(v) / 1000));
    const reflectance = (sample: readonly number[], nm: number) => {
      const at = Math.min(79.999, Math.max(0, (nm - 380) / 5));
      const i = Math.floor(at);
      return sample[i]! + (sample[i + 1]! - sample[i]!) * (at - i);
    };
    // the observer as sums of lobes (Wyman, Sloan and Shirley 2013), apart from the product's table
    const lobe = (nm: number, top: number, low: number, high: number) =>
      Math.exp(-0.5 * ((nm - top) * (nm < top ? low : high)) ** 2);
    const observer = [
      (nm: number) =>
        0.362 * lobe(nm, 442, 0.0624, 0.0374) +
        1.056 * lobe(nm, 599.8, 0.0264, 0.0323) -
        0.065 * lobe(nm, 501.1, 0.049, 0.0382),
      (nm: number) => 0.821 * lobe(nm, 568.8, 0.0213, 0.0247) + 0.286 * lobe(nm, 530.9, 0.0613, 0.0322),
      (nm: number) => 1.217 * lobe(nm, 437, 0.0845, 0.0278) + 0.681 * lobe(nm, 459, 0.0385, 0.0725),
    ];
    // watts: illuminant A by its formula, and equal energy; the product counts photons
    const illuminants = [
      (nm: number) =>
        100 * (560 / nm) ** 5 * (Math.expm1(1.435e7 / (2848 * 560)) / Math.expm1(1.435e7 / (2848 * nm))),
      () => 100,
    ];
    for (const watts of illuminants)
      for (const sample of samples) {
        const grid = (of: (nm: number) => number) =>
          Float64Array.from({ length: GRID_SIZE }, (_, i) => of(360 + i));
        const photons = grid((nm) => watts(nm) * nm);
        const surfaces = [weightsOf(grid((nm) => reflectance(sample, nm))), weightsOf(grid(() => 1))].map(
          (weights) => ({ weights }),
        );
        const shown = evenPalette(surfaces, photons);
        const after = AT_DEPTHS.length * 3;
        const ours = [0, 1, 2].map((k) => shown[k]! / shown[after + 1]!);
        const sums = (of: (nm: number) => number) =>
          observer.map((bar) => {
            let sum = 0;
            for (let nm = 380; nm <= 780; nm += 5) sum += watts(nm) * bar(nm) * of(nm);
            return sum;
          });
        const white = sums(() => 1);
        const theirs = sums((nm) => reflectance(sample, nm)).map((v) => v / white[1]!);
        const xy = ([x, y, z]: readonly number[]) => [x! / (x! + y! + z!), y! / (x! + y! + z!)];
        expect(Math.abs(ours[1]! / theirs[1]! - 1)).toBeLessThan(0.01);
        xy(ours).forEach((v, k) => expect(Math.abs(v - xy(theirs)[k]!)).toBeLessThan(0.006));
      }
  });

  test('the picture is the sum of what arrives, glare and tone curve apart', () => {
    const colours = atEveryDepth(
      scene.lamps.length,
      onScreen(palette(scene, levels), lookerOf('adapted', [3000, 2000, 9000], null, 0.2)),
    );
    const { data } = paint(scene, colours);
    const linear = linearPicture(scene, colours);
    // where all around is about as bright, what glare takes it gives back
    let checked = 0;
    for (let at = 0; at < scene.cell.length; at += 97) {
      const own = [0, 1, 2].map((k) => linear[at * 3 + k]!);
      if (Math.max(...own) > 0.5) continue;
      const shown = [0, 1, 2].map((k) => (data[at * 4 + k]! / 255) ** 2.2);
      own.forEach((v, k) => expect(Math.abs(shown[k]! - v)).toBeLessThan(0.1 + 0.1 * v));
      checked += 1;
    }
    expect(checked).toBeGreaterThan(100);
  });

  test('twice the light is twice every pixel; a mix is the sum of its channels', () => {
    const once = xyzPicture(scene, levels);
    const twice = xyzPicture(
      scene,
      levels.map((l) => l.map((v) => 2 * v)),
    );
    const sum = new Float64Array(once.length);
    scene.lamps.forEach((lamp, l) =>
      lamp.channels.forEach((_, c) => {
        const part = xyzPicture(
          scene,
          levels.map((own, k) => own.map((v, m) => (k === l && m === c ? v : 0))),
        );
        for (let i = 0; i < sum.length; i += 1) sum[i]! += part[i]!;
      }),
    );
    const most = Math.max(...once);
    const off = (f: (i: number) => number) => once.reduce((w, _, i) => Math.max(w, Math.abs(f(i))), 0);
    expect(off((i) => twice[i]! - 2 * once[i]!)).toBeLessThan(most * 1e-5);
    expect(off((i) => sum[i]! - once[i]!)).toBeLessThan(most * 1e-4);
  });

  test('without light all is black, and nothing is bright that no light reaches', () => {
    const dark = paint(
      scene,
      atEveryDepth(
        2,
        onScreen(
          palette(
            scene,
            levels.map((l) => l.map(() => 0)),
          ),
          lookerOf('adapted', [0, 0, 0], null, 1),
        ),
      ),
    );
    expect(dark.data.every((v, i) => i % 4 === 3 || v === 0)).toBe(true);
    const lit = xyzPicture(scene, levels);
    const unlit = [...scene.cell.keys()].filter((p) =>
      [0, 1].every((l) => scene.arrive[p * 2 + l] === 0 && scene.haze[p * 2 + l] === 0),
    );
    expect(unlit.filter((p) => lit[p * 3 + 1] !== 0)).toEqual([]);
  });

  test('with its proteins taken away nothing glows: no part sends back more than falls on it, and no other colour', () => {
    const form = FORMS.find((f) => f.id === 'green-tip-branch')!;
    const plain: CoralForm = {
      ...form,
      regions: form.regions.map((r) => ({ ...r, brown: 0, proteins: {} })),
    };
    // one colour alone
    const lone = zeroSpectrum();
    for (let nm = 455; nm <= 465; nm += 1) lone[nm - 360] = 1;
    const [glowing, dull] = [form, plain].map((f) => evenPalette(figureSurfaces({ form: f }), lone));
    const card = xyzOf(lone);
    form.regions.forEach((_, k) => {
      const at = (FIXED.length + k) * AT_DEPTHS.length * 3;
      expect(dull![at + 1]!).toBeLessThanOrEqual(card[1]);
      // its chromaticity is the light's own
      expect(dull![at]! / dull![at + 1]!).toBeCloseTo(card[0] / card[1], 4);
      expect(glowing![at + 1]!).toBeGreaterThan(1.1 * dull![at + 1]!);
    });
  });

  test('the same layout gives the same bytes; what is moved, larger or another is another picture', () => {
    const again = portraitScene(input);
    expect(Buffer.compare(Buffer.from(again.arrive.buffer), Buffer.from(scene.arrive.buffer))).toBe(0);
    expect(Buffer.compare(Buffer.from(again.cell.buffer), Buffer.from(scene.cell.buffer))).toBe(0);
    const key = (change: object) =>
      portraitKey(
        doc,
        { ...zone, spots: zone.spots.map((s, i) => (i === 0 ? { ...s, ...change } : s)) },
        groups,
        cal,
        look,
      );
    const keys = [{}, { xCm: 41 }, { sizeCm: 30 }, { formId: 'red-crust' }].map(key);
    expect(new Set(keys).size).toBe(4);
    expect(key({ name: 'Another' })).toBe(keys[0]);
  });

  test('a coral that is moved leaves the lamps’ light as it was reckoned', () => {
    const kept: KeptLight = new Map();
    const walk = (of: PortraitInput) => portraitScene(of, kept);
    walk(input);
    const light = [...kept.values()];
    const moved = { ...input, corals: input.corals.map((c, i) => (i === 0 ? { ...c, xCm: c.xCm + 12 } : c)) };
    expect(walk(moved).arrive).toEqual(portraitScene(moved).arrive);
    expect([...kept.values()]).toEqual(light);
    expect(kept.size).toBe(1);
  });

  test('light of other lamps is refused', () => {
    expect(lampLevels(scene, [{ ...groups[0]!, groupId: 'gone' }], noon, cal)).toBeNull();
    expect(lampLevels(scene, groups, [[0.5]], cal)).toBeNull();
  });
});

describe('what is seen', () => {
  test('every place is where its way says; the picture holds the whole tank', () => {
    const v = viewOf(zone.tank, 716, 279);
    for (const [x, y, z] of [
      [0, 0, 0],
      [150, 0, 50],
      [40, 32, 17],
      [140, 60, 50],
    ] as const) {
      const at = seenAt(v, x, y, z);
      const back = placeAt(v, at.x, at.y, y);
      expect(back.x).toBeCloseTo(x, 6);
      expect(back.z).toBeCloseTo(z, 6);
      expect(at.x).toBeGreaterThanOrEqual(-1e-6);
      expect(at.x).toBeLessThanOrEqual(716 + 1e-6);
      expect(at.y).toBeLessThanOrEqual(279 + 1e-6);
    }
  });

  test('each coral is seen about where it stands, in its own surfaces', () => {
    scene.things.forEach((id, k) => {
      const spot = zone.spots.find((s) => s.id === id)!;
      const shown = [...scene.cell].flatMap((c, p) =>
        scene.surfaces[Math.floor(c / DEPTHS)]!.of === k ? [p] : [],
      );
      expect(shown.length).toBeGreaterThan(20);
      const meanX = shown.reduce((sum, p) => sum + (p % scene.width), 0) / shown.length;
      const v = viewOf(zone.tank, scene.width, scene.height);
      expect(Math.abs(meanX - seenAt(v, spot.xCm, spot.yCm, spot.depthCm).x)).toBeLessThan(
        scene.width * 0.06,
      );
    });
  });

  const shadesOf = (change: Partial<PortraitInput>) => {
    const s = portraitScene({ ...input, ...change });
    return new Set([...s.cell].map((c) => s.surfaces[Math.floor(c / DEPTHS)]!.name));
  };
  test('modelled rock is covered with stones, a step keeps sand on top, a refugium draws its mat, an undescribed coral is pale', () => {
    const solid = {
      id: 's',
      name: 's',
      xCm: 75,
      yCm: 30,
      lengthCm: 60,
      widthCm: 30,
      topCm: 25,
      bottomCm: 50,
    };
    for (const shape of ['mound', 'block', 'step'] as const)
      expect(
        shadesOf({ corals: [], fish: true, tank: { ...zone.tank, solids: [{ ...solid, shape }] } }),
      ).toContain(shape === 'step' ? 'sand' : 'rock');
    const mat = portraitOf(
      doc,
      sump,
      draftGroups(doc, sump),
      bareCalibration(hungGroups(doc, sump), sump),
      look,
    );
    expect(mat.fish).toBe(false);
    const seen = portraitScene(mat);
    expect(seen.things).toEqual(['demo-tangle']);
    expect([...seen.cell].some((c) => seen.surfaces[Math.floor(c / DEPTHS)]!.of === 0)).toBe(true);
    const undescribed = portraitOf(
      doc,
      { ...zone, spots: zone.spots.map((s) => ({ ...s, formId: null })) },
      groups,
      cal,
      look,
    );
    expect(undescribed.corals.every((c) => c.form === null)).toBe(true);
    expect(shadesOf({ corals: undescribed.corals })).toContain('undescribed');
  });

  test('a coarse scene of very much under many lamps casts no shadows, to be there in time; others do', () => {
    const small = { ...input, coarse: true, width: 120, height: 47 };
    const lamp = input.lamps[0]!;
    const light: KeptLight = new Map();
    const under = (count: number) => {
      // the light of one is that of each
      for (const [key, [one]] of light) light.set(key, Array<typeof one & {}>(count).fill(one!));
      const { arrive } = portraitScene({ ...small, lamps: Array.from({ length: count }, () => lamp) }, light);
      return Array.from({ length: 120 * 47 }, (_, at) => arrive[at * count]!);
    };
    const [few, many] = [under(1), under(100)];
    expect(many.every((v, at) => v >= few[at]!)).toBe(true);
    expect(many.filter((v, at) => v > few[at]! * 1.05).length).toBeGreaterThan(100);
  });

  test('corals of one form share what is computed of it', () => {
    const [first] = input.corals;
    const two = portraitScene({
      ...{ ...input, coarse: true, width: 120, height: 47 },
      corals: [first!, { ...first!, id: 'twin', xCm: 20 }],
    });
    const own = two.surfaces.flatMap((s, i) => (s.of >= 0 ? [two.table[i]!] : []));
    const regions = first!.form!.regions.length;
    expect(own).toHaveLength(2 * regions);
    own.slice(0, regions).forEach((t, i) => expect(own[regions + i]).toBe(t));
    expect(own[0]).not.toBe(own[1]);
  });

  test('a coarse scene shows the same things in the same places', () => {
    const coarse = portraitScene({ ...input, coarse: true, width: 120, height: 47 });
    const of = (s: PortraitScene) => s.boxes.map((b) => [b.x / s.width, b.halfX / s.width]);
    of(coarse).forEach((b, i) => b.forEach((v, k) => expect(v).toBeCloseTo(of(scene)[i]![k]!, 2)));
  });

  test('one thing by itself, close', () => {
    const form = FORMS[0]!;
    const alone = portraitScene(figureOf({ shape: form.shape, form }, 'x', 64));
    expect(alone.width).toBe(64);
    const own = [...alone.cell].filter((c) => alone.surfaces[Math.floor(c / DEPTHS)]!.of === 0).length;
    expect(own / alone.cell.length).toBeGreaterThan(0.1);
  });
});

describe('growth', () => {
  const used = (stuff: Stuff) =>
    new Set(
      Array.from({ length: stuff.count }, (_, i) => [stuff.marks[i * 4]!, stuff.marks[i * 4 + 1]!]).flat(),
    );
  test.each(FORMS.map((f) => [f.name, f] as const))(
    '%s: all its regions, its size, standing on its place',
    (_, form) => {
      const cm = USUAL_CM[form.shape];
      const regions = form.regions.map((__, i) => 50 + i);
      const grown = grownCoral(form.shape, cm, 7, regions);
      expect([...used(grown)].sort()).toEqual(regions);
      expect(grown.extentCm()).toBeCloseTo(cm, 3);
      expect(grown.count).toBeLessThan(6000);
      let [low, high] = [-Infinity, Infinity];
      for (let i = 0; i < grown.count; i += 1) {
        const z = grown.sizes[i * SIZES + 2]!;
        low = Math.max(low, z);
        high = Math.min(high, z);
      }
      expect(grown.sizes.every((v) => Number.isFinite(v))).toBe(true);
      // on the ground, growing up from it
      expect(low).toBeLessThan(cm * 0.12);
      expect(high).toBeLessThan(0);
      const bytes = (seed: number) =>
        [...grownCoral(form.shape, cm, seed, regions).sizes.subarray(0, 400)].join();
      expect(bytes(7)).toBe(bytes(7));
      expect(bytes(7)).not.toBe(bytes(8));
    },
  );

  test.each(ALGAE.map((a) => [a.name, a.id] as const))('%s covers its mat', (_, id) => {
    const mat = grownMat(id, { lengthCm: 38, widthCm: 28 }, 12, 3, 60);
    expect([...used(mat)]).toEqual([60]);
    expect(mat.count).toBeLessThan(16_000);
    expect(mat.extentCm()).toBeGreaterThan(22);
    expect(mat.extentCm()).toBeLessThan(70);
  });
});

describe('who looks, and in words', () => {
  test('a fresh eye sees a blue light bluer than one used to it; a camera bluer still; a dimmer share is darker', () => {
    const light = spectrumAt(40, 32, 17);
    const white = xyzOf(light);
    const card = Float32Array.from(white);
    const [used, fresh, camera] = (['adapted', 'fresh', 'camera'] as const).map((eye) =>
      onScreen(card, lookerOf(eye, white, null, 0.3)),
    );
    const blue = (c: Float32Array) => c[2]! / (c[0]! + c[1]! + c[2]!);
    expect(blue(fresh!)).toBeGreaterThan(blue(used!));
    expect(blue(camera!)).toBeGreaterThan(blue(used!));
    const half = onScreen(card, lookerOf('adapted', white, null, 0.15));
    half.forEach((v, k) => expect(v).toBeCloseTo(used![k]! / 2, 5));
  });

  test('by day a light is drawn as bright as it is; by moon as an eye sees that got used to the dark; dimmer is never brighter', () => {
    for (const share of [1, 0.5, 0.1]) expect(drawnShare(share, 'adapted')).toBe(share);
    expect(drawnShare(0, 'adapted')).toBe(0);
    // thirteen lux of four and a half thousand
    const moon = drawnShare(0.003, 'adapted');
    expect(moon).toBeCloseTo(0.1 * Math.cbrt(0.03), 9);
    expect(drawnShare(0.003, 'camera')).toBe(0.003);
    const shares = Array.from({ length: 200 }, (_, i) => drawnShare((i + 1) / 200, 'fresh'));
    shares.slice(1).forEach((s, i) => expect(s).toBeGreaterThan(shares[i]!));
  });

  test('a coral in a sentence: its parts, and how bright beside rock', () => {
    const light = spectrumAt(40, 32, 17);
    const white = xyzOf(light);
    const form = FORMS.find((f) => f.id === 'green-tip-branch')!;
    expect(coralWords('Moss', form, light, white, 0.6, white[1] * 0.28)).toMatch(
      /^Moss: tips (bright )?(blue-|yellow-)?(green|cyan), body .*, polyps .*, (brighter|darker|as bright)/,
    );
    expect(coralWords('Moss', null, light, white, 0.6, 1)).toContain('not described');
    expect(coralWords('Moss', form, zeroSpectrum(), white, 0.6, 0)).toBe('Moss: in the dark');
    expect(colourWords(white, white, 1)).toBe('white');
    expect(colourWords(white.map((v) => v * 0.1) as never, white, 1)).toBe('grey');
  });
});

test('a long tank’s picture is a strip, another’s as high as the usual one; the demo’s as it was', () => {
  const of = (lengthCm: number, depthCm: number) => pictureShape({ lengthCm, depthCm });
  expect(of(150, 50)).toBeCloseTo(0.39, 9);
  expect(of(60, 50)).toBe(0.39);
  expect(of(300, 50)).toBe(0.2);
  const v = viewOf({ lengthCm: 300, depthCm: 60 }, 390, Math.round(390 * of(300, 60)));
  // little but the water is seen: its surface lies within the upper quarter
  expect(seenAt(v, 150, 0, 0).y / v.height).toBeLessThan(0.25);
});
