import { plainSpot, type Spot, type Zone } from '@/core/record/zone';
import { newId } from '@/state/id';

/** A spot to begin with: in the middle of the water. */
export const newSpot = (zone: Zone): Spot =>
  plainSpot({
    id: newId(),
    name: `Coral ${zone.spots.length + 1}`,
    xCm: Math.round(zone.tank.lengthCm / 2),
    yCm: Math.round(zone.tank.widthCm / 2),
    depthCm: Math.round(zone.tank.depthCm / 2),
    need: null,
  });
