/** What looks at pictures comes as one part: they themselves, and what experiments take from them. */
export { FromPictures } from './FromPictures';
export { Pictures } from './Pictures';
