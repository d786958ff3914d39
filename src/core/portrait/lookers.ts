import { adaptationDegree, D65 } from '../colour/adapt';
import { CAMERA_TO_K } from '../mix/photograph';
import { planckUv } from '../colour/temperature';
import type { Xyz } from '../colour/xyz';
import { cameraLooks, eyeLooks, type Looker } from './relight';

/** An eye that has got used to the tank, one that has just come into the room, or a camera's fixed white balance. */
export type EyeId = 'adapted' | 'fresh' | 'camera';

/** Pictures are drawn this much brighter than a lone card: most of a tank is darker than a card. Mark: drawing licence. */
export const EXPOSURE = 1.9;

/** Below this share of the day's brightest an eye gets used to the dark. Mark: rule of thumb. */
const DUSK = 0.1;
/** How much of the dark it does not make up for: brightness is sensed about as the cube root of light (Stevens). Mark: literature. */
const SENSED = 1 / 3;

/**
 * How bright a light is drawn that is this share of the day's brightest: as it is by day; at dusk and by moon as an eye sees that has
 * got used to it, always dimmer than what is brighter. A camera does not get used to anything.
 */
export const drawnShare = (share: number, eye: EyeId): number =>
  eye === 'camera' || share >= DUSK || share <= 0 ? share : DUSK * (share / DUSK) ** SENSED;

/** White of a camera that is set to the coldest light it can balance. */
function balanced(kelvin: number): Xyz {
  const [u, v] = planckUv(1e6 / kelvin);
  const p = 2 * u - 8 * v + 4;
  const [x, y] = [(3 * u) / p, (2 * v) / p];
  return [x / y, 1, (1 - x - y) / y];
}
let cameraWhite: Xyz | undefined;

/**
 * Who looks at a tank.
 * @param white XYZ (Y in lux) of a white card at the chosen place
 * @param degree of adaptation; null = from the light's own brightness
 * @param share how bright that card is drawn, 1 = as bright as the reference moment
 */
export function lookerOf(eye: EyeId, white: Xyz, degree: number | null, share: number): Looker {
  // in the dark nothing is seen, by whomever
  const card: Xyz = white[1] > 0 ? white : D65;
  const exposure = white[1] > 0 ? EXPOSURE * share : 0;
  if (eye === 'camera') return cameraLooks(card, (cameraWhite ??= balanced(CAMERA_TO_K)), exposure);
  return eyeLooks(card, eye === 'fresh' ? 0 : (degree ?? adaptationDegree(card[1])), exposure);
}
