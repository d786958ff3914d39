import type { Control, Levels, LampKind } from '../spectrum/lampKind';
import { addScaled, zeroSpectrum } from '../spectrum/grid';
import { keptSpectrum } from '../spectrum/lamp';
import { centreNm } from './held';

/** Broader than this a light counts as white or lime, nm. Mark: rule of thumb. */
const BROAD_NM = 90;

interface ControlLight {
  nm: number;
  broad: boolean;
}
const lights = new WeakMap<LampKind, Map<Control, ControlLight>>();

/** What a control's light is: its centre, and whether it is broad (white, lime). Controls that light nothing alone have no centre. */
export function controlLight(kind: LampKind, control: Control): ControlLight {
  let known = lights.get(kind);
  if (!known) lights.set(kind, (known = new Map()));
  let light = known.get(control);
  if (!light) known.set(control, (light = lightOf(kind, control)));
  return light;
}

function lightOf(kind: LampKind, control: Control): ControlLight {
  const sum = zeroSpectrum();
  if (control.kind === 'level' || control.kind === 'onOff') {
    for (const ch of kind.channels) addScaled(sum, keptSpectrum(ch), control.drives[ch.id] ?? 0);
  }
  const total = sum.reduce((s, v) => s + v, 0);
  const width = total > 0 ? total ** 2 / sum.reduce((s, v) => s + v * v, 0) : 0;
  return { nm: centreNm(sum), broad: width > BROAD_NM };
}

export type ColourClass = 'violet' | 'blue' | 'white' | 'warm' | 'none';

const classes = new WeakMap<LampKind, Map<string, ColourClass>>();

/** What a control is to the look of a tank: violet below 430 nm, blue to 515, white when broad, else warm (green to red). Mark: rule of thumb. */
export function colourClass(kind: LampKind, control: Control): ColourClass {
  let known = classes.get(kind);
  if (!known) classes.set(kind, (known = new Map(kind.controls.map((c) => [c.id, classOf(kind, c)]))));
  return known.get(control.id) ?? classOf(kind, control);
}

function classOf(kind: LampKind, control: Control): ColourClass {
  if (control.kind !== 'level' && control.kind !== 'onOff') return 'none';
  const { nm, broad } = controlLight(kind, control);
  const tied = Object.keys(control.drives).length > 1;
  if (tied && nm < 500) return 'blue';
  if (broad && nm > 470) return 'white';
  return nm < 430 ? 'violet' : nm < 515 ? 'blue' : 'warm';
}

/** Which end of a tint is the bluest: 0 or 1. */
export function bluestTint(kind: LampKind, tint: Extract<Control, { kind: 'tint' }>): number {
  const blueness = (shares: Levels) => {
    const sum = zeroSpectrum();
    for (const ch of kind.channels) addScaled(sum, keptSpectrum(ch), shares[ch.id] ?? 0);
    return centreNm(sum);
  };
  const stops = tint.stops;
  return blueness(stops[0]!.shares) < blueness(stops[stops.length - 1]!.shares) ? 0 : 1;
}

/** Turns of a mix towards a look. */
export interface MixTurns {
  base: Levels;
  /** white, green and red left out */
  blue: Levels;
  /** more white than the base */
  white: Levels;
  /** violet alone, or the shortest light there is */
  violet: Levels;
}

/** How much whiter the white turn is, and from where when the base has none. Mark: rule of thumb. */
const WHITER = 1.6;
const FIRST_WHITE = 0.25;
const TINT_TURN = 0.35;

/** The turns of a lamp's mix that patterns of a day are made of; on a lamp with one colour all are alike. */
export function mixTurns(kind: LampKind, base: Levels): MixTurns {
  const classes = new Map(kind.controls.map((c) => [c.id, colourClass(kind, c)]));
  const lights = kind.controls.filter((c) => c.kind === 'level' || c.kind === 'onOff');
  const isBlue = (id: string) => classes.get(id) === 'blue' || classes.get(id) === 'violet';
  const hasBlue = lights.some((c) => isBlue(c.id));
  const hasTint = kind.controls.some((c) => c.kind === 'tint');
  const violets = lights.filter((c) => classes.get(c.id) === 'violet' && (base[c.id] ?? 0) > 0);
  const shortest = [...lights]
    .filter((c) => (base[c.id] ?? 0) > 0)
    .sort((a, b) => controlLight(kind, a).nm - controlLight(kind, b).nm)[0];
  const only = new Set(violets.length > 0 ? violets.map((c) => c.id) : shortest ? [shortest.id] : []);
  const turn = (
    change: (id: string, value: number, onOff: boolean) => number,
    tintTo: number | null,
  ): Levels =>
    Object.fromEntries(
      kind.controls.map((c) => {
        const v = base[c.id] ?? 0;
        if (c.kind === 'tint') {
          if (tintTo === null) return [c.id, v];
          const blue = bluestTint(kind, c);
          return [c.id, tintTo >= 1 ? blue : Math.min(1, Math.max(0, v + (blue === 1 ? -1 : 1) * TINT_TURN))];
        }
        if (c.kind === 'level' || c.kind === 'onOff') return [c.id, change(c.id, v, c.kind === 'onOff')];
        return [c.id, v];
      }),
    );
  const blue = hasBlue || hasTint ? turn((id, v) => (isBlue(id) ? v : 0), 1) : base;
  return {
    base,
    blue,
    white: turn((id, v, onOff) => {
      const what = classes.get(id);
      if (what === 'white') return onOff ? 1 : Math.min(1, Math.max(FIRST_WHITE, v * WHITER));
      return what === 'warm' && !onOff ? Math.min(1, v * 1.2) : v;
    }, 0),
    violet: hasTint && violets.length === 0 ? blue : turn((id, v) => (only.has(id) ? v : 0), 1),
  };
}
