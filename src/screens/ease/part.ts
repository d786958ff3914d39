/** Going on with care comes as one part: a change eased in, and what to do about too much of it. */
export { Ease } from './Ease';
export { Rescue } from '../rescue/Rescue';
