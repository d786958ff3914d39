import { create } from 'zustand';

import { loadSettings, saveSettings } from '@/store/documents';
import { DEFAULT_SETTINGS, type Settings } from '@/store/schema';

/** Settings of this device and the selection that every tab shares. */
export const useSettings = create<Settings>(() => DEFAULT_SETTINGS);

export async function readSettings(): Promise<Settings> {
  const settings = await loadSettings();
  useSettings.setState(settings, true);
  return settings;
}

/** Changes settings and remembers them; a full store costs the memory of them, never the work. */
export function changeSettings(change: Partial<Settings>): void {
  useSettings.setState(change);
  saveSettings(useSettings.getState()).catch(() => undefined);
}

export type { Settings };
