import { throttle } from 'es-toolkit/function';
import { create } from 'zustand';

import { loadSettings, saveSettings } from '@/store/documents';
import { DEFAULT_SETTINGS, type Settings } from '@/store/settings';

import { hearChosen, tellOthers } from './others';

/** Settings of this device and the selection that every tab shares. */
export const useSettings = create<Settings>(() => DEFAULT_SETTINGS);

export async function readSettings(): Promise<Settings> {
  const settings = await loadSettings();
  useSettings.setState(settings, true);
  return settings;
}

/** While a finger slides along a rail, settings are written at most this often, ms. */
const WRITE_EVERY_MS = 300;
/** what was changed and not written yet */
let owed: Partial<Settings> = {};

const write = (): void => {
  const change = owed;
  owed = {};
  if (Object.keys(change).length > 0) saveSettings(change).catch(() => undefined);
};
const writeSoon = throttle(write, WRITE_EVERY_MS);

/** Writes what is still owed, as a page goes away. */
export function settleSettings(): void {
  writeSoon.cancel();
  write();
}
globalThis.addEventListener?.('pagehide', settleSettings);

/**
 * Changes settings and remembers them: the first change at once, what follows on its heels together. A full store costs the
 * memory of them, never the work.
 */
export function changeSettings(change: Partial<Settings>): void {
  useSettings.setState(change);
  owed = { ...owed, ...change };
  writeSoon();
  const { units, paper } = change;
  if (units || paper) tellOthers({ ...(units && { units }), ...(paper && { paper }) });
}
hearChosen((shared) => useSettings.setState(shared));

export type { Settings };
export { RECKONED_BY } from '@/store/settings';

/** No water, coral, lamps and plate chosen: the first of each. */
export const NOTHING_CHOSEN = { zoneId: null, spotId: null, groupId: null, plateId: null };
