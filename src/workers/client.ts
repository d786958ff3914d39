import { type Reckoner, service } from './service';

/** Without workers (tests, native) the same functions run in place. */
const inPlace = Object.fromEntries(
  Object.entries(service).map(([name, run]) => [
    name,
    async (...input: unknown[]) => (run as (...i: unknown[]) => unknown)(...input),
  ]),
) as unknown as Reckoner;

export const reckoner = (): Reckoner => inPlace;
