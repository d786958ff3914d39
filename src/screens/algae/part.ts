/** Algae come as one part: a mat, which one, under which lamp. */
export { Algae } from './Algae';
export { Sizing } from './Sizing';
export { Which } from './Which';
