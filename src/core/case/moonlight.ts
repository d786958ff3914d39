import { levelsAt, parOf } from '../day/day';
import { MOON_MOST_UMOL } from '../day/extras';
import { lampDay } from '../day/thread';
import { colourClass } from '../library/colours';
import type { Levels, LampKind } from '../spectrum/lampKind';

/** A group as a moon is made from it. */
export interface MoonLamp {
  kind: LampKind;
  capShare: number;
  /** [spot][channel] PAR at full, µmol m⁻² s⁻¹ */
  par: readonly (readonly number[])[];
}

/** PAR at the brightest spot under one setting alone, through steps, cap and lowest lit level. */
export function brightestUmol({ kind, capShare, par }: MoonLamp, mix: Levels, strengthShare: number): number {
  const levels = levelsAt(
    lampDay(kind, [{ minute: 0, strengthShare, mix }], { capShare, easingShare: 1 }),
    0,
  );
  return Math.max(0, ...par.map((p) => parOf(levels, p)));
}

/** Steps that are looked at for lamps without steps of their own. */
const FINE_STEP = 0.001;
const settings = ({ kind }: MoonLamp, most: number): number[] => {
  const step = kind.controller.pointStepShare || FINE_STEP;
  return Array.from({ length: most }, (_, k) => Math.min(1, Math.round((k + 1) * step * 1e4) / 1e4));
};

/** A colour that a moon can be made of. */
export interface MoonColour {
  id: string;
  name: string;
  /** the faintest light it gives at the brightest spot, µmol */
  leastUmol: number;
}

/**
 * The colour for a moon: blue, but no violet, which looks dimmer than it is; of several the first that is faint enough, else the
 * faintest. Null when no blue can be set alone.
 */
export function moonColour(lamp: MoonLamp): MoonColour | null {
  const blues = lamp.kind.controls
    .filter((c) => c.kind === 'level' && colourClass(lamp.kind, c) === 'blue')
    .map((c): MoonColour => {
      const lit = settings(lamp, 100)
        .map((s) => brightestUmol(lamp, { [c.id]: 1 }, s))
        .find((v) => v > 0);
      return { id: c.id, name: c.name, leastUmol: lit ?? Infinity };
    });
  return (
    blues.find((b) => b.leastUmol <= MOON_MOST_UMOL) ??
    [...blues].sort((a, b) => a.leastUmol - b.leastUmol)[0] ??
    null
  );
}

/** The settable strength of a colour nearest to a wanted light at the brightest spot, never above what a moon may be; null when none is faint enough. */
export function moonStrength(lamp: MoonLamp, controlId: string, wantedUmol: number): number | null {
  let best: { strength: number; off: number } | null = null;
  for (const strength of settings(lamp, 1 / (lamp.kind.controller.pointStepShare || FINE_STEP))) {
    const umol = brightestUmol(lamp, { [controlId]: 1 }, strength);
    if (umol > MOON_MOST_UMOL) break;
    const off = Math.abs(umol - wantedUmol);
    if (umol > 0 && (!best || off < best.off)) best = { strength, off };
  }
  return best?.strength ?? null;
}
