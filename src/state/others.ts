import type { Settings } from '@/store/settings';

/** Pages of this app in other tabs and windows of the browser hear of what is stored. */
interface Stored {
  caseId: string;
  revision: string;
}
/** Choices that are those of the device, not of one of its pages. */
export type Shared = Pick<Settings, 'units' | 'paper'>;

const channel =
  typeof document !== 'undefined' && typeof BroadcastChannel !== 'undefined'
    ? new BroadcastChannel('chromatheca')
    : null;

export const tellOthers = (told: Stored | Partial<Shared>): void => channel?.postMessage(told);

export function hearChosen(chosen: (shared: Partial<Shared>) => void): void {
  channel?.addEventListener('message', ({ data }: MessageEvent<Stored | Partial<Shared>>) => {
    if (!('caseId' in data)) chosen(data);
  });
}

/** Asks to be told, now and when this page comes back from where it was out of sight: then of no case in particular. */
export function hearOthers(told: (stored: Stored | null) => void): void {
  channel?.addEventListener('message', ({ data }: MessageEvent<Stored | Partial<Shared>>) => {
    if ('caseId' in data) told(data);
  });
  globalThis.addEventListener?.('pageshow', () => told(null));
  globalThis.document?.addEventListener('visibilitychange', () => {
    if (document.visibilityState === 'visible') told(null);
  });
}
