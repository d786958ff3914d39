import { differenceCiede2000, modeLab65, modeLrgb, modeRgb, modeXyz65, useMode } from 'culori/fn';

import type { Mean } from './pixels';

/** The colour of a patch of a photograph, balanced by a grey card in it, so that pictures of other days can be held against it. */

// modes are registered once, in this order: what converts is named by what it goes through
useMode(modeRgb);
const toLinear = useMode(modeLrgb);
useMode(modeXyz65);
const toLab = useMode(modeLab65);
const apart = differenceCiede2000();

/** How much light a grey card sends back. Mark: standard (18 %). */
const GREY = 0.18;

const linear = ([r, g, b]: Mean) => {
  const { r: lr, g: lg, b: lb } = toLinear({ mode: 'rgb', r: r / 255, g: g / 255, b: b / 255 })!;
  return [lr, lg, lb] as const;
};

export interface PatchColour {
  l: number;
  a: number;
  b: number;
}

/** A patch in CIELAB (D65), each channel scaled so that the grey card is grey of 18 %; null where the card is black or burnt out. */
export function patchColour(patch: Mean, grey: Mean): PatchColour | null {
  const card = linear(grey);
  if (grey.some((v) => v >= 254) || card.some((v) => v < 1e-3)) return null;
  const [r, g, b] = linear(patch).map((v, i) => (v * GREY) / card[i]!);
  const lab = toLab({ mode: 'lrgb', r: r!, g: g!, b: b! })!;
  return { l: lab.l, a: lab.a, b: lab.b };
}

/** CIEDE2000, CIE 142-2001. 1 is about what an eye tells apart side by side. Mark: standard. */
export const deltaE = (a: PatchColour, b: PatchColour): number =>
  apart({ mode: 'lab65', ...a }, { mode: 'lab65', ...b });

export interface Moved {
  deltaE: number;
  lighter: number;
  /** chroma over chroma before, difference */
  stronger: number;
  /** turned on the colour circle, degrees, −180 to 180; 0 where there is hardly any colour */
  hueDeg: number;
}

const LEAST_CHROMA = 4;
/** How one colour differs from an earlier one. */
export function movedBy(from: PatchColour, to: PatchColour): Moved {
  const chroma = (c: PatchColour) => Math.hypot(c.a, c.b);
  const hue = (c: PatchColour) => (Math.atan2(c.b, c.a) * 180) / Math.PI;
  const turn = ((hue(to) - hue(from) + 540) % 360) - 180;
  return {
    ...{ deltaE: deltaE(from, to), lighter: to.l - from.l, stronger: chroma(to) - chroma(from) },
    hueDeg: Math.min(chroma(from), chroma(to)) < LEAST_CHROMA ? 0 : turn,
  };
}
