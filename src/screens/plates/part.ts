/** What is kept as files comes as one part: plates, lamps, and what goes along in links. */
export { GiveSheet } from '../given/GiveSheet';
export { Given } from '../given/Given';
export { Lamps } from '../lamps/Lamps';
export { Plates } from './Plates';
