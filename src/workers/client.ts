import { type Reckoner, service } from './service';

/** Without workers (tests, native) the same functions run in place. */
const inPlace = Object.fromEntries(
  Object.entries(service).map(([name, run]) => [
    name,
    async (...input: unknown[]) => (run as (...i: unknown[]) => unknown)(...input),
  ]),
) as unknown as Reckoner;

export const reckoner = (): Reckoner => inPlace;

/** What would have a worker of its own. */
export async function once<T>(
  ask: (of: Reckoner) => Promise<T>,
  { signal }: { signal?: AbortSignal; mostMs: number },
): Promise<T> {
  if (signal?.aborted) throw new DOMException('stopped', 'AbortError');
  return ask(inPlace);
}
