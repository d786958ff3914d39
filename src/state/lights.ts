import type { LightPort } from '@/core/optics/port';
import { reckoner } from '@/workers/client';

/** The one way to light for screens and state. */
export const lights: LightPort = {
  response: (rig) => reckoner().response(rig),
  field: (rig, grid, onProgress) => reckoner().field(rig, grid, onProgress),
};

/** Starts the worker, so that it is there by the time light is asked for. */
export const warmUp = (): void => void reckoner();
