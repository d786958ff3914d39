import type { InHand, Spot } from '@/core/record/zone';
import { type Command, keep, onZone, put, together } from './edit';
import { setSpot } from './spots';

/** Remembers a coral that has no place yet, or what is said of it. */
export const setInHand = (zoneId: string, coral: InHand, merge?: string): Command =>
  onZone(`${coral.name} in hand`, zoneId, (z) => put((z.inHand ??= []), coral), merge);

export const removeInHand = (zoneId: string, id: string, name: string): Command =>
  onZone(`${name} is not in hand`, zoneId, (z) => {
    if (!z.inHand) return;
    keep(z.inHand, (c) => c.id !== id);
    if (z.inHand.length === 0) delete z.inHand;
  });

/** Gives a coral in hand its place. */
export const placeInHand = (zoneId: string, handId: string | null, spot: Spot): Command =>
  handId === null
    ? setSpot(zoneId, spot)
    : together(`${spot.name} placed`, setSpot(zoneId, spot), removeInHand(zoneId, handId, spot.name));
