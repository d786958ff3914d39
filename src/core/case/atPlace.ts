import { crossingsAt, type Flicker, flicker, rippleBlendDeg } from '../optics/ripple';
import { type Sides, sidesAt } from '../optics/sides';
import type { Zone } from '../record/zone';
import type { Calibration } from './calibration';
import { type HungGroup, rigOf } from './lit';
import { channelOfRow } from './rows';

/** What ripples do to the light of a spot, and how it falls on every side. */
export interface AtPlace extends Flicker {
  /** how far its colour flickers, degrees */
  blendDeg: number;
  sides: Sides;
}

/** The same of one spot under lamps lit by row. @param down PAR there; @param up what the floor sends, µmol */
export function atPlace(
  zone: Zone,
  groups: readonly HungGroup[],
  cal: Calibration,
  spot: number,
  shares: ArrayLike<number>,
  down: number,
  up: number,
): AtPlace | null {
  const { rows } = rigOf(groups, zone, [], cal);
  const place = zone.spots[spot];
  if (!place || rows.length !== shares.length) return null;
  const crossings = crossingsAt(rows, zone.tank, place, shares, channelOfRow(groups));
  return {
    ...flicker(crossings, zone.rippleSlope, place.depthCm, down),
    blendDeg: rippleBlendDeg(crossings, zone.rippleSlope, place.depthCm),
    sides: sidesAt(crossings, place, down, up),
  };
}
