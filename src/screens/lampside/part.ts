/** What is done beside a lamp comes as one part: loaded into it, read back, proven, and the bench it is tried on. */
export { BenchPage } from './BenchPage';
export { Load } from './Load';
export { Prove } from './Prove';
