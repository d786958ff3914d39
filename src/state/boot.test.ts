import { createAsyncStorage } from '@react-native-async-storage/async-storage';

import { demoCase, displayCase } from '@/demo/lagoon';
import { listCases, loadCase } from '@/store/documents';
import { importText, withId } from '@/core/record/caseFile';

import { boot, deleteOpenCase, exportOpenCase, openDemo, switchCase } from './boot';
import { setZone } from './commands/waters';
import { closeSession, createCase, flush, run, useSession } from './session';
import { changeSettings, settleSettings, useSettings } from './settings';

const storage = createAsyncStorage('chromatheca');
const NOW = Date.UTC(2026, 10, 24);
const own = (id: string, name: string) => {
  const bundle = withId(displayCase(NOW, 'UTC'), id, name);
  return { ...bundle, case: { ...bundle.case, demo: false } };
};
const openId = () => useSession.getState().bundle?.case.id;
/** What was chosen is written down at once, as when the page is left. */
const settled = async () => {
  settleSettings();
  await Promise.resolve();
};
/** The page anew: nothing in memory, what was chosen written down. */
const reload = async () => {
  await flush();
  await settled();
  closeSession();
};

beforeEach(async () => {
  closeSession();
  await storage.clear();
  changeSettings({ caseId: null, zoneId: null, spotId: null, groupId: null, plateId: null });
  await settled();
});

describe('starting', () => {
  test('with nothing stored the demo is laid out, both its waters lit and logged', async () => {
    expect(await boot()).toEqual({ aside: [] });
    expect(openId()).toBe('demo');
    const { case: doc, history, log } = useSession.getState().bundle!;
    expect(doc.zones.map((z) => z.name)).toEqual(['Display', 'Refugium']);
    expect(new Set(history.entries.map((e) => e.zoneId)).size).toBe(2);
    expect(log.events.length).toBeGreaterThan(5);
    // and is stored: the next start finds it
    await reload();
    await boot();
    expect(await listCases()).toHaveLength(1);
  });

  test('the case that was open last is opened, whatever else is there', async () => {
    await createCase(own('a', 'First'));
    await createCase(own('b', 'Second'));
    expect(await switchCase('a')).toBeNull();
    await reload();
    await boot();
    expect(openId()).toBe('a');
    expect(await switchCase('b')).toBeNull();
    await reload();
    await boot();
    expect(openId()).toBe('b');
  });

  test('what cannot be read is set aside, and another case is opened in its place', async () => {
    await createCase(own('a', 'First'));
    await createCase(own('b', 'Second'));
    await switchCase('a');
    await reload();
    await storage.setItem('case/a', '{"format":"chromatheca-case","version":');
    const { aside } = await boot();
    expect(openId()).toBe('b');
    expect(aside.map((a) => a.from)).toContain('case/a');
    expect(useSettings.getState().caseId).toBe('b');
  });

  test('a demo of a newer app stays as it is; this app lays out one of its own', async () => {
    const newer = JSON.stringify({ ...demoCase(NOW, 'UTC').case, version: 99 });
    await storage.setItem('case/demo', newer);
    await openDemo();
    expect(openId()).not.toBe('demo');
    expect(useSession.getState().bundle!.case.demo).toBe(true);
    expect(await storage.getItem('case/demo')).toBe(newer);
    // asked again, an own demo is not laid out twice
    await createCase(own('between', 'Between'));
    await openDemo();
    const first = openId();
    expect(await switchCase(first!)).toBeNull();
    expect((await listCases()).filter((c) => c.demo && !c.newer)).toHaveLength(1);
  });
});

describe('the demo replaces nothing', () => {
  test.each(['history', 'readings', 'log'])('a lone %s of a newer app under its id stays', async (part) => {
    await storage.setItem(`${part}/demo`, '{"version":99}');
    await openDemo();
    await flush();
    expect(await storage.getItem(`${part}/demo`)).toBe('{"version":99}');
    expect(openId()).not.toBe('demo');
    expect(useSession.getState().save.kind).toBe('saved');
    // it is found again as the demo that it is
    const first = openId();
    await createCase(own('a', 'First'));
    await openDemo();
    expect(openId()).toBe(first);
  });

  test.each(['history', 'readings', 'log'])('a demo whose %s is of a newer app stays whole', async (part) => {
    await openDemo();
    await flush();
    const texts = await storage.getMany(['case/demo', 'history/demo', 'readings/demo', 'log/demo']);
    const newer = JSON.stringify({ ...JSON.parse(texts[`${part}/demo`]!), version: 99 });
    await storage.setItem(`${part}/demo`, newer);
    closeSession();
    await boot();
    expect(openId()).not.toBe('demo');
    expect(await storage.getItem(`${part}/demo`)).toBe(newer);
    expect(await storage.getItem('case/demo')).toBe(texts['case/demo']);
  });
});

describe('going from case to case', () => {
  test('what was chosen in one is not looked for in another', async () => {
    await createCase(own('a', 'First'));
    await createCase(own('b', 'Second'));
    changeSettings({ zoneId: 'demo-display', spotId: 'x', groupId: 'y', plateId: 'z' });
    expect(await switchCase('a')).toBeNull();
    expect(useSettings.getState()).toMatchObject({
      caseId: 'a',
      zoneId: null,
      spotId: null,
      groupId: null,
      plateId: null,
    });
  });

  test('one that is broken says so and where it is; one of a newer app is refused untouched', async () => {
    await createCase(own('a', 'First'));
    await createCase(own('b', 'Second'));
    await flush();
    await storage.setItem('case/a', 'not a document');
    expect(await switchCase('a')).toMatch(/could not be read and was set aside/);
    const text = JSON.stringify({ ...own('b', 'Second').case, version: 99 });
    await storage.setItem('case/b', text);
    expect(await switchCase('b')).toMatch(/version/);
    expect(await storage.getItem('case/b')).toBe(text);
  });

  test('deleting takes the open case with all its documents and opens what is left', async () => {
    await createCase(own('a', 'First'));
    await createCase(own('b', 'Second'));
    run(setZone('demo-display', { name: 'Changed a moment ago' }));
    await deleteOpenCase();
    expect(openId()).toBe('a');
    expect(await loadCase('b')).toEqual({ is: 'missing' });
    expect((await storage.getAllKeys()).filter((k) => k.endsWith('/b'))).toEqual([]);
    await deleteOpenCase();
    expect(openId()).toBe('demo');
    closeSession();
    await deleteOpenCase();
    expect(await listCases()).toHaveLength(1);
  });

  test('an exported file is named by its case and reads back as the same case', async () => {
    closeSession();
    expect(exportOpenCase()).toBeNull();
    await createCase(own('a', 'Große Wanne No. 2'));
    const file = exportOpenCase()!;
    expect(file.name).toBe('gro-e-wanne-no-2.chromatheca.json');
    expect(importText(file.text)).toMatchObject({
      ok: true,
      value: { case: useSession.getState().bundle!.case },
    });
    await createCase(own('c', '珊瑚'));
    expect(exportOpenCase()!.name).toBe('case.chromatheca.json');
  });
});
