import { type Reckoner, service } from './service';

/** Without workers (tests, native) the same functions run in place. */
const inPlace: Reckoner = {
  response: async (...input) => service.response(...input),
  accustomed: async (...input) => service.accustomed(...input),
  soFar: async (...input) => service.soFar(...input),
};

export const reckoner = (): Reckoner => inPlace;
