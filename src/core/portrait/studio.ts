import { type Xyz, xyzOf } from '../colour/xyz';
import type { CoralForm } from '../coral/form';
import { ended } from '../shape/ended';
import { mixSpectrum } from '../spectrum/lamp';
import type { LampKind, Levels } from '../spectrum/lampKind';
import { DEPTHS } from './buffers';
import { figureOf } from './ofZone';
import { atEveryDepth, cameraLooks, evenPalette, onScreen, paint } from './relight';
import { portraitSteps } from './scene';
import { CARD, USUAL_CM } from './sizes';
import { coralSurfaces, fixedSurfaces } from './surfaces';

/** A photograph of one coral beside a grey card, as a camera with its own balance and exposure takes it. */
export interface Shot {
  form: CoralForm;
  /** what it grew from */
  seed: string;
  /** how wide it is, as a share of what fills the frame */
  widthShare: number;
  /** share of its symbionts and of its colours that are left: 1 = all of them */
  leftShare: number;
  lampKind: LampKind;
  mix: Levels;
  /** the camera's white balance off by these factors of red and blue, its exposure by another */
  red: number;
  blue: number;
  exposure: number;
  /** width of the frame */
  px: number;
}

/** How much light a grey card sends back. Mark: standard (18 %). */
const GREY = 0.18;
/** What of the square scene is in the frame, as shares. Mark: drawing licence. */
const FRAME = { left: 0.16, top: 0.32, width: 0.68, height: 0.51 } as const;

const paler = (form: CoralForm, left: number): CoralForm => ({
  ...form,
  regions: form.regions.map((r) => ({
    ...r,
    brown: r.brown * left,
    chromo: scaled(r.chromo, left),
    proteins: scaled(r.proteins, left),
  })),
});
const scaled = <T extends Partial<Record<string, number>>>(of: T, by: number): T =>
  Object.fromEntries(Object.entries(of).map(([k, v]) => [k, v! * by])) as T;

export interface Photographed {
  width: number;
  height: number;
  data: Uint8ClampedArray<ArrayBuffer>;
  /** pixels in which the coral itself is seen */
  coral: Uint8Array;
}

/** Takes it: RGBA pixels, 8 bits. */
export const photograph = (shot: Shot): Photographed => ended(photographSteps(shot));

/** The same, saying how far it is. */
export function* photographSteps(shot: Shot): Generator<number, Photographed> {
  const { px, exposure } = shot;
  const side = Math.round(px / FRAME.width);
  const input = figureOf({ shape: shot.form.shape, form: shot.form }, shot.seed, side);
  const scene = yield* portraitSteps({
    ...input,
    corals: input.corals.map((c) => ({ ...c, sizeCm: (c.sizeCm ?? USUAL_CM[c.shape]) * shot.widthShare })),
  });
  const light = mixSpectrum(shot.lampKind, shot.mix);
  const white = xyzOf(light);
  const surfaces = [...fixedSurfaces(), ...coralSurfaces(paler(shot.form, shot.leftShare), 0)];
  const looker = cameraLooks(white, balanced(white, shot), exposure);
  const colours = onScreen(evenPalette(surfaces, light), looker);
  const whole = paint(scene, atEveryDepth(1, colours));
  const [width, height] = [px, Math.round(side * FRAME.height)];
  const [left, top] = [Math.round(side * FRAME.left), Math.round(side * FRAME.top)];
  const made = {
    ...{ width, height, data: new Uint8ClampedArray(4 * width * height) },
    coral: new Uint8Array(width * height),
  };
  for (let y = 0; y < height; y += 1) {
    const from = (y + top) * side + left;
    made.data.set(whole.data.subarray(4 * from, 4 * (from + width)), 4 * y * width);
    for (let x = 0; x < width; x += 1)
      made.coral[y * width + x] = Number(((scene.cell[from + x]! / DEPTHS) | 0) >= fixedSurfaces().length);
  }
  card(
    made,
    onScreen(
      Float32Array.from(white, (v) => v * GREY),
      looker,
    ),
  );
  return made;
}

/** What the camera takes for white: the light itself, off by its own error. */
const balanced = ([x, y, z]: Xyz, { red, blue }: Pick<Shot, 'red' | 'blue'>): Xyz => [
  (x / y) * red,
  1,
  (z / y) * blue,
];

/** Lays the card over its corner of the frame: lit as squarely as it is held. */
function card(
  { width, height, data }: Pick<Photographed, 'width' | 'height' | 'data'>,
  colour: Float32Array,
): void {
  const [r, g, b] = [...colour].map((v) =>
    Math.round(255 * (v <= 0.0031308 ? 12.92 * v : 1.055 * Math.min(1, v) ** (1 / 2.4) - 0.055)),
  );
  for (let y = Math.floor(CARD.top * height); y < (CARD.top + CARD.height) * height; y += 1)
    for (let x = Math.floor(CARD.left * width); x < (CARD.left + CARD.width) * width; x += 1)
      data.set([r!, g!, b!, 255], 4 * (y * width + x));
}
