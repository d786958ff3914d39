/** What decides where lamps and corals go, and draws the tank in section, comes as one part. */
export { ChoosePage } from '../lamps/Choose';
export { HangPage } from '../lamps/Hang';
export { SwapPage } from '../lamps/Swap';
export { WholePage } from '../lamps/Whole';
export { PlacePage } from './PlaceCoral';
export { Tank } from './Tank';
