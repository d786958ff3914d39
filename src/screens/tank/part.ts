/** What draws the tank in section comes as one part. */
export { HangPage } from '../lamps/Hang';
export { PlacePage } from './PlaceCoral';
export { Tank } from './Tank';
