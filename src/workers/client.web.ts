import { proxy, type Remote, wrap } from 'comlink';

import type { Reckoner, service } from './service';

let remote: Remote<typeof service> | undefined;
let broken: Promise<never> | undefined;

/** The core's heavy functions, in a worker. A worker that cannot start rejects every call with the reason. */
export function reckoner(): Reckoner {
  if (!remote) {
    const worker = new Worker(new URL('./reckon.worker', import.meta.url));
    broken = new Promise((_, reject) => {
      worker.addEventListener('error', (event) => {
        remote = undefined;
        reject(new Error(`the reckoning worker stopped: ${event.message || 'it could not be loaded'}`));
      });
    });
    broken.catch(() => undefined);
    remote = wrap<typeof service>(worker);
  }
  const running = remote as unknown as Record<string, (...input: unknown[]) => Promise<unknown>>;
  const failure = broken!;
  // what it can do is known to the worker alone: its code stays out of the page
  return new Proxy({} as Reckoner, {
    get:
      (_, name: string) =>
      (...input: unknown[]) =>
        // functions that report progress stay here and are called from there
        Promise.race([
          running[name]!(...input.map((x) => (typeof x === 'function' ? proxy(x) : x))),
          failure,
        ]),
  });
}
