import { DEFAULT_SETTINGS } from '@/store/settings';
import { loadSettings, saveSettings } from '@/store/documents';

import { changeSettings, settleSettings, useSettings } from './settings';

jest.mock('@/store/documents', () => ({
  saveSettings: jest.fn(() => Promise.resolve()),
  loadSettings: jest.fn(),
}));
const save = jest.mocked(saveSettings);

beforeEach(() => {
  jest.useFakeTimers();
  settleSettings();
  useSettings.setState(DEFAULT_SETTINGS, true);
  save.mockClear();
});
afterEach(() => {
  jest.runAllTimers();
  jest.useRealTimers();
});

test('a single change is written at once; what slides along a rail is written together, the last of it surely', () => {
  changeSettings({ fish: false });
  expect(save).toHaveBeenCalledTimes(1);
  for (let i = 0; i < 120; i += 1) changeSettings({ tank: { ...DEFAULT_SETTINGS.tank, depth: i / 120 } });
  // every step is there to be drawn
  expect(useSettings.getState().tank.depth).toBeCloseTo(119 / 120, 9);
  expect(save).toHaveBeenCalledTimes(1);
  jest.advanceTimersByTime(400);
  expect(save).toHaveBeenCalledTimes(2);
  expect(save.mock.calls.at(-1)![0].tank!.depth).toBeCloseTo(119 / 120, 9);
  jest.advanceTimersByTime(2000);
  expect(save).toHaveBeenCalledTimes(2);
});

test('a page that goes away writes what it still owes, once', () => {
  changeSettings({ meter: 'phone' });
  changeSettings({ meter: 'lux' });
  changeSettings({ meter: 'ideal' });
  settleSettings();
  expect(save).toHaveBeenCalledTimes(2);
  expect(save.mock.calls.at(-1)![0].meter).toBe('ideal');
  settleSettings();
  jest.advanceTimersByTime(2000);
  expect(save).toHaveBeenCalledTimes(2);
});

test('a store that refuses costs the memory of a setting, never the setting', async () => {
  save.mockRejectedValueOnce(new Error('full'));
  changeSettings({ paper: 'night' });
  await Promise.resolve();
  expect(useSettings.getState().paper).toBe('night');
  expect(loadSettings).not.toHaveBeenCalled();
});
