import * as DocumentPicker from 'expo-document-picker';

import { pickText } from './files';

jest.mock('expo-document-picker', () => ({ getDocumentAsync: jest.fn() }));
const picked = DocumentPicker.getDocumentAsync as jest.Mock;
const asset = (name: string, size: number, text: () => Promise<string>) =>
  picked.mockResolvedValueOnce({ assets: [{ name, size, uri: '', file: { text } }] });

test('a chosen file comes as text; choosing none is nothing', async () => {
  asset('day.json', 7, async () => '{"a":1}');
  expect(await pickText(['.json'], 7)).toEqual({ name: 'day.json', text: '{"a":1}' });
  picked.mockResolvedValueOnce({ canceled: true, assets: null });
  expect(await pickText(['.json'], 7)).toBeNull();
});

test('a file that is too large is not read; one that cannot be read says so; both by name', async () => {
  const read = jest.fn(async () => '');
  asset('big.json', 2_000_001, read);
  expect(await pickText(['.json'], 2_000_000)).toEqual({
    name: 'big.json',
    problem: 'It is larger than 2 MB: choose a smaller one.',
  });
  expect(read).not.toHaveBeenCalled();
  asset('gone.json', 7, () => Promise.reject(new Error('the disk is gone')));
  expect(await pickText(['.json'], 7)).toEqual({
    name: 'gone.json',
    problem: 'The browser could not read it: the disk is gone.',
  });
  picked.mockRejectedValueOnce(new Error('no chooser'));
  expect(await pickText(['.json'], 7)).toMatchObject({ name: 'The file', problem: expect.any(String) });
});
