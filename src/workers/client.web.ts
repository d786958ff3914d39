import { proxy, type Remote, wrap } from 'comlink';

import type { Reckoner, service } from './service';

interface Running {
  worker: Worker;
  reckoner: Reckoner;
}
let running: Running | undefined;

/** A worker with the core's heavy functions. One that cannot start rejects every call with the reason. */
function start(stopped: () => void): Running {
  const worker = new Worker(new URL('./reckon.worker', import.meta.url));
  const broken = new Promise<never>((_, reject) => {
    worker.addEventListener('error', (event) => {
      stopped();
      reject(new Error(`the reckoning worker stopped: ${event.message || 'it could not be loaded'}`));
    });
  });
  broken.catch(() => undefined);
  const remote: Remote<typeof service> = wrap<typeof service>(worker);
  const functions = remote as unknown as Record<string, (...input: unknown[]) => Promise<unknown>>;
  // what it can do is known to the worker alone: its code stays out of the page
  const reckoner = new Proxy({} as Reckoner, {
    get:
      (_, name: string) =>
      (...input: unknown[]) =>
        // functions that report progress stay here and are called from there
        Promise.race([
          functions[name]!(...input.map((x) => (typeof x === 'function' ? proxy(x) : x))),
          broken,
        ]),
  });
  return { worker, reckoner };
}

/** The core's heavy functions, in a worker. */
export function reckoner(): Reckoner {
  running ??= start(() => (running = undefined));
  return running.reckoner;
}

/** Something that nobody knows how long it takes, in a worker of its own, which is ended with it: by its answer, a stop, or its time. */
export async function once<T>(
  ask: (of: Reckoner) => Promise<T>,
  { signal, mostMs }: { signal?: AbortSignal; mostMs: number },
): Promise<T> {
  if (signal?.aborted) throw new DOMException('stopped', 'AbortError');
  const { worker, reckoner: own } = start(() => undefined);
  let timer: ReturnType<typeof setTimeout> | undefined;
  const ended = new Promise<never>((_, reject) => {
    timer = setTimeout(() => reject(new Error(`it takes more than ${mostMs / 1000} s`)), mostMs);
    signal?.addEventListener('abort', () => reject(signal.reason as Error), { once: true });
  });
  try {
    return await Promise.race([ask(own), ended]);
  } finally {
    clearTimeout(timer);
    worker.terminate();
  }
}
