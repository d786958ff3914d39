import { createAsyncStorage } from '@react-native-async-storage/async-storage';

import { forgetTyped, readTyped, typedNow } from './typed';

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
