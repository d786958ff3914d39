import { createAsyncStorage } from '@react-native-async-storage/async-storage';

import { leaveForm, saveForm } from '@/store/documents';

import { forgetTyped, leaveTyped, readTyped, typedNow } from './typed';

jest.mock('@/store/documents', () => {
  const real = jest.requireActual<typeof import('@/store/documents')>('@/store/documents');
  return { ...real, saveForm: jest.fn(real.saveForm), leaveForm: jest.fn() };
});

const storage = createAsyncStorage('chromatheca');
/** Longer than typing waits before it is written. */
const written = () => new Promise((done) => setTimeout(done, 400));

beforeEach(async () => {
  forgetTyped();
  await storage.clear();
});

test('a field is as it stands until it is typed, as it was typed until it is kept, also after a reload', async () => {
  const form = () => typedNow('spot s1');
  const [name, setName] = form().of('name', 'Moss');
  expect([name, form().changed]).toEqual(['Moss', false]);
  setName('Moss, low');
  form().of('depth', '20')[1]((was) => `${was}.5`);
  expect([form().of('name', 'Moss')[0], form().of('depth', '20')[0]]).toEqual(['Moss, low', '20.5']);
  // another form has its own
  expect(typedNow('spot s2').of('name', 'Plum')[0]).toBe('Plum');
  await written();
  forgetTyped();
  expect(form().of('name', 'Moss')[0]).toBe('Moss');
  await readTyped();
  expect([form().of('name', 'Moss')[0], form().of('depth', '20')[0]]).toEqual(['Moss, low', '20.5']);
  form().clear();
  expect(form().changed).toBe(false);
  await written();
  expect(await storage.getAllKeys()).toEqual([]);
});

test('what is typed back to what stands is not typed', async () => {
  const form = () => typedNow('needs z');
  form().of('texts', { soft: '50' })[1]({ soft: '60' });
  expect(form().changed).toBe(true);
  form().of('texts', { soft: '50' })[1]({ soft: '50' });
  expect(form().changed).toBe(false);
});

test('what cannot be read starts no trouble, and forms nobody came back to make room', async () => {
  await storage.setItem('form/broken', '{');
  await storage.setItem('form/list', '[1]');
  await storage.setItem('form/good', '{"a":"1"}');
  await readTyped();
  expect(typedNow('broken').changed).toBe(false);
  expect(typedNow('list').changed).toBe(false);
  expect(typedNow('good').of('a', '')[0]).toBe('1');
  for (let i = 0; i < 70; i += 1) typedNow(`f${i}`).of('a', '')[1](String(i));
  expect(typedNow('good').changed).toBe(false);
  expect(typedNow('f9').changed).toBe(false);
  expect(typedNow('f10').of('a', '')[0]).toBe('10');
  expect(typedNow('f69').of('a', '')[0]).toBe('69');
  await written();
  const keys = await storage.getAllKeys();
  expect(keys).not.toContain('form/good');
  expect(keys.filter((k) => k.startsWith('form/f'))).toHaveLength(60);
});

test('a page that closes while what was typed is being written leaves it as last words', async () => {
  let end = (_: boolean) => undefined as void;
  jest.mocked(saveForm).mockImplementationOnce(() => new Promise((done) => (end = done)));
  typedNow('yellow z').of('days', '')[1]('21');
  await written();
  leaveTyped();
  expect(jest.mocked(leaveForm).mock.calls).toEqual([['yellow z', '{"days":"21"}']]);
  end(true);
  await Promise.resolve();
  leaveTyped();
  expect(leaveForm).toHaveBeenCalledTimes(1);
});

test('what a full store refused is left as last words too, as it was typed last', async () => {
  jest.mocked(leaveForm).mockClear();
  jest.mocked(saveForm).mockResolvedValueOnce(false);
  typedNow('rock z').of('x', '')[1]('44');
  await written();
  leaveTyped();
  expect(jest.mocked(leaveForm).mock.calls).toEqual([['rock z', '{"x":"44"}']]);
  typedNow('rock z').of('x', '')[1]('45');
  await written();
  leaveTyped();
  expect(leaveForm).toHaveBeenCalledTimes(1);
  await readTyped();
  expect(typedNow('rock z').of('x', '')[0]).toBe('45');
});
