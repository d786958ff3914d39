import { lengthWords } from '../shape/units';
import type { Alga } from '../feeding/algae';
import type { RigSpot } from '../optics/response';
import type { Tank } from '../optics/tank';

const DOWN_CM = 2;
const AWAY_CM = 3;
const DIRECTIONS = 8;
/** Farther than this nobody would call it the same place. */
const FARTHEST_CM = 60;

/** Somewhere an overlit alga could go: so far down, or so far away at its depth. */
export interface Way {
  place: RigSpot;
  downCm: number;
  awayCm: number;
}

/** Places below a spot and around it at its depth, nearest first. */
export function waysOut(spot: RigSpot, tank: Tank): Way[] {
  const out: Way[] = [];
  for (let d = DOWN_CM; spot.depthCm + d <= tank.depthCm; d += DOWN_CM)
    out.push({ place: { ...spot, depthCm: spot.depthCm + d }, downCm: d, awayCm: 0 });
  for (let r = AWAY_CM; r <= FARTHEST_CM; r += AWAY_CM)
    for (let k = 0; k < DIRECTIONS; k += 1) {
      const angle = (2 * Math.PI * k) / DIRECTIONS;
      const [xCm, yCm] = [spot.xCm + r * Math.cos(angle), spot.yCm + r * Math.sin(angle)];
      if (xCm >= 0 && yCm >= 0 && xCm <= tank.lengthCm && yCm <= tank.widthCm)
        out.push({ place: { ...spot, xCm, yCm }, downCm: 0, awayCm: r });
    }
  return out;
}

export interface Overlit {
  /** cm deeper at which its light is within what it takes; null = nowhere in this water */
  downCm: number | null;
  /** cm aside at its depth; null = nowhere */
  awayCm: number | null;
  words: string;
}

/**
 * How far down or away an overlit alga should go. Null when it is not overlit.
 * @param parAt µmol at each of the ways
 */
export function overlit(
  a: Alga,
  toUmol: number,
  hereUmol: number,
  ways: readonly Way[],
  parAt: readonly number[],
): Overlit | null {
  if (hereUmol <= toUmol) return null;
  const first = (list: (w: Way) => boolean) => ways.find((w, i) => list(w) && parAt[i]! <= toUmol) ?? null;
  const down = first((w) => w.downCm > 0);
  const away = first((w) => w.awayCm > 0);
  const where = [
    down ? `${lengthWords(down.downCm, true)} deeper` : null,
    away ? `${lengthWords(away.awayCm, true)} aside at its depth` : null,
  ].filter(Boolean);
  return {
    downCm: down?.downCm ?? null,
    awayCm: away?.awayCm ?? null,
    words: `${Math.round(hereUmol)} µmol is more than a ${a.name.toLowerCase()} takes (${toUmol}). ${
      a.group === 'red' ? 'Reds bleach: first pink or straw, then they fall apart. ' : ''
    }${where.length > 0 ? `Within its range ${where.join(', or ')}.` : 'Nowhere near is dim enough: raise the lamp or dim it.'}`,
  };
}
