import { CARD_ON_SCREEN } from '../colour/look';
import { adaptTo } from '../colour/adapt';
import { intoGamut, linearSrgb, oklab } from '../colour/screen';
import type { Xyz } from '../colour/xyz';
import { ARRIVE, AT_DEPTHS, DEPTHS, depthStep, HAZE, type PortraitScene } from './buffers';
import { type Surface, surfaceId } from './surfaces';

/** Emitted shares of every lamp's channels, in the scene's order of lamps and channels, calibration's gains in them. */
export type LampLevels = readonly (readonly number[])[];

const AT = AT_DEPTHS.length;

const shown = new WeakMap<PortraitScene, number[]>();
/** Surfaces that any pixel shows, and the water's own: no others need a colour. */
function seenIn(scene: PortraitScene): number[] {
  let found = shown.get(scene);
  if (!found) {
    const seen = new Uint8Array(scene.surfaces.length);
    for (const c of scene.cell) seen[(c / DEPTHS) | 0] = 1;
    seen[surfaceId('veil')] = 1;
    shown.set(scene, (found = [...seen.keys()].filter((s) => seen[s])));
  }
  return found;
}

/** XYZ (Y in lux) per surface, depth and lamp: what a face that light falls on squarely sends back, at AT_DEPTHS. */
export function palette(scene: PortraitScene, levels: LampLevels): Float32Array {
  const lamps = scene.lamps.length;
  const out = new Float32Array(scene.surfaces.length * AT * lamps * 3);
  for (const s of seenIn(scene))
    for (let l = 0; l < lamps; l += 1) {
      const table = scene.table[s]![l]!;
      const own = levels[l]!;
      const channels = own.length;
      for (let d = 0; d < AT; d += 1) {
        const to = ((s * AT + d) * lamps + l) * 3;
        for (let c = 0; c < channels; c += 1) {
          const level = own[c]!;
          if (level === 0) continue;
          const at = (d * channels + c) * 3;
          out[to] = out[to]! + level * table[at]!;
          out[to + 1] = out[to + 1]! + level * table[at + 1]!;
          out[to + 2] = out[to + 2]! + level * table[at + 2]!;
        }
      }
    }
  return out;
}

/** The same of a picture of one thing by itself, under one light everywhere. */
export function evenPalette(
  surfaces: readonly Pick<Surface, 'weights'>[],
  light: ArrayLike<number>,
): Float32Array {
  const out = new Float32Array(surfaces.length * AT * 3);
  surfaces.forEach(({ weights }, s) =>
    weights.forEach((w, k) => {
      let sum = 0;
      for (let i = 0; i < w.length; i += 1) sum += w[i]! * light[i]!;
      for (let d = 0; d < AT; d += 1) out[(s * AT + d) * 3 + k] = sum;
    }),
  );
  return out;
}

/** A palette at every step of depth, between those of AT_DEPTHS. */
export function atEveryDepth(lamps: number, colours: Float32Array): Float32Array {
  const span = lamps * 3;
  const surfaces = colours.length / (AT * span);
  const out = new Float32Array(surfaces * DEPTHS * span);
  for (let s = 0; s < surfaces; s += 1)
    for (let step = 0; step < DEPTHS; step += 1) {
      const { at, share } = STEPS[step]!;
      const from = (s * AT + at) * span;
      const to = (s * DEPTHS + step) * span;
      for (let k = 0; k < span; k += 1)
        out[to + k] = colours[from + k]! * (1 - share) + colours[from + span + k]! * share;
    }
  return out;
}
const STEPS = Array.from({ length: DEPTHS }, (_, step) => depthStep(step));

/** Whose eye looks: XYZ under a light → linear light on the screen. A linear map, and how bright. */
export interface Looker {
  /** linear sRGB of an XYZ whose white card is at `card` */
  matrix: readonly number[];
  /** clips each channel, as a camera does; else colours keep their hue */
  clips: boolean;
}

const columns = (map: (xyz: Xyz) => readonly number[]): number[] => {
  const [a, b, c] = [map([1, 0, 0]), map([0, 1, 0]), map([0, 0, 1])];
  return [a[0]!, b[0]!, c[0]!, a[1]!, b[1]!, c[1]!, a[2]!, b[2]!, c[2]!];
};

/**
 * An eye adapted to a white, drawing its card at the brightness of plates.
 * @param white XYZ of a white card in the light that it has adapted to
 * @param degree of adaptation, 0..1
 * @param exposure 1 = that card as plates draw it; 0.5 = half as bright
 */
export function eyeLooks(white: Xyz, degree: number, exposure = 1): Looker {
  const adapted = adaptTo(white, degree);
  const [lightness] = oklab(linearSrgb(adapted(white)));
  const card = (CARD_ON_SCREEN / Math.max(1, lightness) ** 3) * exposure;
  return { matrix: columns((xyz) => linearSrgb(adapted(xyz)).map((v) => v * card)), clips: false };
}

/** A camera whose white balance stands fixed, exposed for the same card. */
export function cameraLooks(white: Xyz, balance: Xyz, exposure = 1): Looker {
  const adapted = adaptTo(balance, 1);
  const card = (CARD_ON_SCREEN * balance[1] * exposure) / white[1];
  return { matrix: columns((xyz) => linearSrgb(adapted(xyz)).map((v) => v * card)), clips: true };
}

/** Colours this light on the screen are brought into its gamut as they are; brighter ones as if they were this light. */
const GAMUT_LIGHT = 0.55;

/** The palette as linear light on the screen, each colour within its gamut at a reference brightness. */
export function onScreen(xyz: Float32Array, { matrix: m, clips }: Looker): Float32Array {
  const out = new Float32Array(xyz.length);
  for (let i = 0; i < xyz.length; i += 3) {
    const [x, y, z] = [xyz[i]!, xyz[i + 1]!, xyz[i + 2]!];
    let r = m[0]! * x + m[1]! * y + m[2]! * z;
    let g = m[3]! * x + m[4]! * y + m[5]! * z;
    let b = m[6]! * x + m[7]! * y + m[8]! * z;
    if (clips) {
      r = Math.max(0, r);
      g = Math.max(0, g);
      b = Math.max(0, b);
    } else if (r < 0 || g < 0 || b < 0 || r > 1 || g > 1 || b > 1) {
      const light = 0.2126 * r + 0.7152 * g + 0.0722 * b;
      const down = light > GAMUT_LIGHT ? GAMUT_LIGHT / light : 1;
      [r, g, b] = intoGamut([r * down, g * down, b * down]).map((v) => Math.max(0, v) / down) as [
        number,
        number,
        number,
      ];
    }
    out[i] = r;
    out[i + 1] = g;
    out[i + 2] = b;
  }
  return out;
}

/** Linear light is shown as it is up to this; above, highlights are pressed together, their hue kept. */
const KNEE = 0.6;
const STEPS_OF_LIGHT = 4096;
const ENCODED = Uint8Array.from({ length: STEPS_OF_LIGHT + 1 }, (_, i) => {
  const v = i / STEPS_OF_LIGHT;
  return Math.round(255 * (v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055));
});

const thinned = new WeakMap<PortraitScene, Map<number, PortraitScene>>();
/** Every `step`th pixel of a scene: a smaller picture of the same. */
export function thin(scene: PortraitScene, step: number): PortraitScene {
  if (step <= 1) return scene;
  let own = thinned.get(scene);
  if (!own) thinned.set(scene, (own = new Map()));
  const known = own.get(step);
  if (known) return known;
  const lamps = scene.lamps.length;
  const [width, height] = [Math.ceil(scene.width / step), Math.ceil(scene.height / step)];
  const small: PortraitScene = {
    ...scene,
    width,
    height,
    cell: new Uint16Array(width * height),
    arrive: new Uint16Array(width * height * lamps),
    haze: new Uint8Array(width * height * lamps),
  };
  let to = 0;
  for (let j = 0; j < height; j += 1)
    for (let i = 0; i < width; i += 1) {
      const at = j * step * scene.width + i * step;
      small.cell[to] = scene.cell[at]!;
      for (let l = 0; l < lamps; l += 1) {
        small.arrive[to * lamps + l] = scene.arrive[at * lamps + l]!;
        small.haze[to * lamps + l] = scene.haze[at * lamps + l]!;
      }
      to += 1;
    }
  own.set(step, small);
  return small;
}

/**
 * The picture before its tone curve, three values a pixel: linear light on the screen, or XYZ.
 * @param colours at every depth
 */
export function linearPicture(scene: PortraitScene, colours: Float32Array): Float32Array {
  const { cell, arrive, haze } = scene;
  const pixels = cell.length;
  const out = new Float32Array(pixels * 3);
  const lamps = scene.lamps.length;
  const span = lamps * 3;
  // where the water's own colour at a cell's depth stands
  const veil = new Int32Array(scene.surfaces.length * DEPTHS);
  for (let c = 0; c < veil.length; c += 1) veil[c] = (surfaceId('veil') * DEPTHS + (c % DEPTHS)) * span;
  const perArrive = 1 / ARRIVE;
  const perHaze = 1 / HAZE;
  let to = 0;
  let q = 0;
  for (let at = 0; at < pixels; at += 1) {
    const c = cell[at]!;
    let p = c * span;
    let v = veil[c]!;
    let r = 0;
    let g = 0;
    let b = 0;
    for (let l = 0; l < lamps; l += 1) {
      const a = arrive[q]! * perArrive;
      const z = haze[q]! * perHaze;
      r += a * colours[p]! + z * colours[v]!;
      g += a * colours[p + 1]! + z * colours[v + 1]!;
      b += a * colours[p + 2]! + z * colours[v + 2]!;
      p += 3;
      v += 3;
      q += 1;
    }
    out[to] = r;
    out[to + 1] = g;
    out[to + 2] = b;
    to += 3;
  }
  return out;
}

/**
 * Glare in the eye: a share of light is spread over the picture around where it falls, narrowly and widely, as the eye's point
 * spread does (CIE 135/1: Vos and van den Berg's general glare function, here two boxes, each passed twice). Drawn in few, large pixels.
 */
const GLARE = [
  { share: 0.045, reach: 0.012 },
  { share: 0.025, reach: 0.05 },
] as const;
const GLARE_COLUMNS = 90;

/** Room that pictures are made in one after the other: new room for each frame under a finger would be collected under it too. */
const rooms: Record<string, Float64Array> = {};
const room = (of: string, length: number): Float64Array => {
  const known = rooms[of];
  return known && known.length >= length ? known : (rooms[of] = new Float64Array(length));
};

/** Boxes of so many steps to either side, along rows and columns, twice; what lies beyond an edge is as the edge is. */
function blurred(from: Float64Array, w: number, h: number, reach: number): Float64Array {
  const out = room('blurred', from.length);
  out.set(from);
  const kept = room('line', 3 * Math.max(w, h));
  for (let pass = 0; pass < 2; pass += 1) {
    for (let j = 0; j < h; j += 1) boxed(out, kept, j * w * 3, w, 3, reach);
    for (let i = 0; i < w; i += 1) boxed(out, kept, i * 3, h, w * 3, reach);
  }
  return out;
}

/** One line of a picture, three values a pixel, in place. */
function boxed(
  out: Float64Array,
  kept: Float64Array,
  first: number,
  length: number,
  step: number,
  reach: number,
) {
  const last = length - 1;
  const each = 1 / (2 * reach + 1);
  let r = 0;
  let g = 0;
  let b = 0;
  for (let i = 0, at = first, to = 0; i < length; i += 1, at += step, to += 3) {
    kept[to] = out[at]!;
    kept[to + 1] = out[at + 1]!;
    kept[to + 2] = out[at + 2]!;
  }
  for (let i = -reach; i <= reach; i += 1) {
    const k = 3 * (i < 0 ? 0 : i > last ? last : i);
    r += kept[k]!;
    g += kept[k + 1]!;
    b += kept[k + 2]!;
  }
  for (let i = 0, at = first; i < length; i += 1, at += step) {
    out[at] = r * each;
    out[at + 1] = g * each;
    out[at + 2] = b * each;
    const comes = i + reach + 1;
    const c = 3 * (comes > last ? last : comes);
    const l = i > reach ? 3 * (i - reach) : 0;
    r += kept[c]! - kept[l]!;
    g += kept[c + 1]! - kept[l + 1]!;
    b += kept[c + 2]! - kept[l + 2]!;
  }
}

/** The step of depth of every cell there can be. */
let depths: Uint8Array | undefined;

/**
 * The picture's pixels, RGBA: `linearPicture`, glare and tone curve in one pass.
 * @param into what is painted over, if it has the picture's size
 */
export function paint(
  scene: PortraitScene,
  colours: Float32Array,
  into?: Uint8ClampedArray<ArrayBuffer>,
): { width: number; height: number; data: Uint8ClampedArray<ArrayBuffer> } {
  const { width: w, height: h, cell, arrive, haze } = scene;
  const lamps = scene.lamps.length;
  const span = lamps * 3;
  const cells = scene.surfaces.length * DEPTHS;
  // what a step of arriving light and of haze is worth, in tables of their own: no division in a pixel
  const own = room('own', cells * span);
  for (let i = 0; i < cells * span; i += 1) own[i] = (colours[i]! * KEPT) / ARRIVE;
  const veil = new Float64Array(DEPTHS * span);
  const veilAt = surfaceId('veil') * DEPTHS * span;
  for (let i = 0; i < veil.length; i += 1) veil[i] = (colours[veilAt + i]! * KEPT) / HAZE;
  const depth = (depths ??= Uint8Array.from({ length: 65_536 }, (_, c) => c % DEPTHS));

  const small = Math.max(1, Math.round(w / GLARE_COLUMNS));
  const { glare, sw, sh } = glareOf(scene, { own, veil, depth }, small);
  const data = into?.length === w * h * 4 ? into : new Uint8ClampedArray(w * h * 4);
  const pixels = new Int32Array(data.buffer);
  const [knee, top] = [KNEE, STEPS_OF_LIGHT];
  const above = 1 - knee;
  const encoded = ENCODED;
  // the glare of a row at each of its own few columns; between two of them it changes evenly
  const line = new Float64Array((sw + 1) * 3);
  const perSmall = 1 / small;
  let q = 0;
  let to = 0;
  for (let j = 0; j < h; j += 1) {
    const fy = Math.min(sh - 1, j * perSmall);
    const y0 = Math.floor(fy);
    const v = fy - y0;
    const g0 = y0 * sw * 3;
    const g1 = Math.min(sh - 1, y0 + 1) * sw * 3;
    for (let i = 0; i < sw * 3; i += 1) line[i] = glare[g0 + i]! * (1 - v) + glare[g1 + i]! * v;
    for (let k = 0; k < 3; k += 1) line[sw * 3 + k] = line[(sw - 1) * 3 + k]!;
    for (let e = 0, left = w; left > 0; e += 3, left -= small) {
      let glareR = line[e]!;
      let glareG = line[e + 1]!;
      let glareB = line[e + 2]!;
      const moreR = (line[e + 3]! - glareR) * perSmall;
      const moreG = (line[e + 4]! - glareG) * perSmall;
      const moreB = (line[e + 5]! - glareB) * perSmall;
      for (let n = left < small ? left : small; n > 0; n -= 1) {
        const c = cell[to]!;
        let p = c * span;
        let d = depth[c]! * span;
        let r = glareR;
        let g = glareG;
        let b = glareB;
        glareR += moreR;
        glareG += moreG;
        glareB += moreB;
        for (let l = 0; l < lamps; l += 1) {
          const a = arrive[q]!;
          const z = haze[q]!;
          r += a * own[p]! + z * veil[d]!;
          g += a * own[p + 1]! + z * veil[d + 1]!;
          b += a * own[p + 2]! + z * veil[d + 2]!;
          p += 3;
          d += 3;
          q += 1;
        }
        if (r > knee || g > knee || b > knee) {
          const most = r > g ? (r > b ? r : b) : g > b ? g : b;
          // what is brighter comes ever nearer to the screen's white and never reaches it
          const over = most - knee;
          const k = (knee + (above * over) / (over + above)) / most;
          r *= k;
          g *= k;
          b *= k;
        }
        // red, green, blue, full: as little-endian machines keep them, which all are that browsers run on
        pixels[to] =
          -16777216 |
          (encoded[(b * top) | 0]! << 16) |
          (encoded[(g * top) | 0]! << 8) |
          encoded[(r * top) | 0]!;
        to += 1;
      }
    }
  }
  return { width: w, height: h, data };
}

/** What glare leaves where it falls. */
const KEPT = 1 - GLARE.reduce((sum, g) => sum + g.share, 0);

/** Glare over a picture of few, large pixels, each as one of its own is lit. */
function glareOf(
  { width: w, height: h, cell, arrive, haze, lamps }: PortraitScene,
  { own, veil, depth }: { own: Float64Array; veil: Float64Array; depth: Uint8Array },
  small: number,
): { glare: Float64Array; sw: number; sh: number } {
  const span = lamps.length * 3;
  const [sw, sh] = [Math.ceil(w / small), Math.ceil(h / small)];
  const size = sw * sh * 3;
  const low = room('low', size).subarray(0, size);
  const n = lamps.length;
  const each = 1 / KEPT;
  let to = 0;
  for (let j = 0; j < sh; j += 1)
    for (let i = 0; i < sw; i += 1) {
      const at = Math.min(h - 1, j * small) * w + Math.min(w - 1, i * small);
      const c = cell[at]!;
      let p = c * span;
      let d = depth[c]! * span;
      let r = 0;
      let g = 0;
      let b = 0;
      for (let q = at * n, end = q + n; q < end; q += 1) {
        const a = arrive[q]!;
        const z = haze[q]!;
        r += a * own[p]! + z * veil[d]!;
        g += a * own[p + 1]! + z * veil[d + 1]!;
        b += a * own[p + 2]! + z * veil[d + 2]!;
        p += 3;
        d += 3;
      }
      low[to] = r * each;
      low[to + 1] = g * each;
      low[to + 2] = b * each;
      to += 3;
    }
  const glare = room('glare', size);
  glare.fill(0);
  for (const { share, reach } of GLARE) {
    const wide = blurred(low, sw, sh, Math.max(1, Math.round(reach * sw)));
    for (let i = 0; i < size; i += 1) glare[i]! += share * wide[i]!;
  }
  return { glare, sw, sh };
}
