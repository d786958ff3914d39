/** Pages of this app in other tabs and windows of the browser hear of what is stored. */
interface Stored {
  caseId: string;
  revision: string;
}

const channel =
  typeof document !== 'undefined' && typeof BroadcastChannel !== 'undefined'
    ? new BroadcastChannel('chromatheca')
    : null;

export const tellOthers = (stored: Stored): void => channel?.postMessage(stored);

/** Asks to be told, now and when this page comes back from where it was out of sight: then of no case in particular. */
export function hearOthers(told: (stored: Stored | null) => void): void {
  channel?.addEventListener('message', (event: MessageEvent<Stored>) => told(event.data));
  globalThis.addEventListener?.('pageshow', () => told(null));
  globalThis.document?.addEventListener('visibilitychange', () => {
    if (document.visibilityState === 'visible') told(null);
  });
}
