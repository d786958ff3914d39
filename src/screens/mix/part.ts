/** Mixes come as one part: the comb, corals under them, designs, lamps and mixes side by side. */
export { Compare } from '../compare/Compare';
export { Corals } from '../corals/Corals';
export { Design } from '../design/Design';
export { Practice } from '../practice/Practice';
