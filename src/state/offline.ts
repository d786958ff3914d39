import { create } from 'zustand';

/** A newer version of the app that lies ready, until it is taken. */
export const useUpdate = create<{ waiting: ServiceWorker | null }>(() => ({ waiting: null }));

/**
 * Keeps the app on the device, so that every place opens with the network off. A newer version is fetched beside it and offered; it is
 * never put in place of one in use. Where a browser keeps nothing all goes on as before.
 */
export async function keepOffline(): Promise<void> {
  const workers = globalThis.navigator?.serviceWorker;
  if (!workers || process.env.NODE_ENV !== 'production') return;
  try {
    const kept = await workers.register('/sw.js');
    const offer = () => {
      // the first version of all is nobody's update
      if (kept.waiting && workers.controller) useUpdate.setState({ waiting: kept.waiting });
    };
    offer();
    kept.addEventListener('updatefound', () => kept.installing?.addEventListener('statechange', offer));
  } catch {
    // private windows and blocked site data keep no worker
  }
}

/** Takes the newer version: it steps in, and the page loads itself with it. What is typed is kept by the page going away. */
export function takeUpdate(): void {
  navigator.serviceWorker.addEventListener('controllerchange', () => globalThis.location.reload(), {
    once: true,
  });
  useUpdate.getState().waiting?.postMessage({ type: 'SKIP_WAITING' });
}
