import { useEffect } from 'react';

interface Lock {
  release: () => Promise<void>;
}

/** Keeps the screen awake while this is shown, where the browser can. */
export function useAwake(): void {
  useEffect(() => {
    const wake = (
      globalThis.navigator as { wakeLock?: { request: (what: 'screen') => Promise<Lock> } } | undefined
    )?.wakeLock;
    let lock: Lock | null = null;
    let over = false;
    wake
      ?.request('screen')
      .then((taken) => {
        if (over) void taken.release();
        else lock = taken;
      })
      // a browser may say no, as on a low battery: reading goes on all the same
      .catch(() => undefined);
    return () => {
      over = true;
      void lock?.release().catch(() => undefined);
    };
  }, []);
}
