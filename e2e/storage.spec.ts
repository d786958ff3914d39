import type { Page } from '@playwright/test';
import { readFileSync } from 'node:fs';

import { expect, go, importText, open, press, saved, takeAs, test, type } from './kit';

/** Reads or changes the store of the page behind the app's back. */
const store = (page: Page, change?: Record<string, string | null>) =>
  page.evaluate(async (edits) => {
    const db = await new Promise<IDBDatabase>((resolve, reject) => {
      const request = indexedDB.open('chromatheca');
      request.onsuccess = () => resolve(request.result);
      request.onerror = () => reject(request.error);
    });
    const name = db.objectStoreNames[0]!;
    const tx = db.transaction(name, edits ? 'readwrite' : 'readonly');
    const table = tx.objectStore(name);
    for (const [key, value] of Object.entries(edits ?? {})) {
      if (value === null) table.delete(key);
      else table.put(value, key);
    }
    const all = (request: IDBRequest) =>
      new Promise<unknown[]>((resolve) => (request.onsuccess = () => resolve(request.result)));
    const [keys, values] = await Promise.all([all(table.getAllKeys()), all(table.getAll())]);
    db.close();
    return Object.fromEntries(keys.map((k, i) => [String(k), String(values[i])]));
  }, change);

test('a reload in mid-edit loses nothing @phone', async ({ page }) => {
  await open(page, '/day');
  await page.getByTestId('cap').fill('47');
  await page.reload();
  await expect(page.getByTestId('cap')).toHaveValue('47');
  await saved(page);
  await page.reload();
  await expect(page.getByTestId('cap')).toHaveValue('47');
  await expect(page.getByTestId('aside')).toHaveCount(0);
});

test('a corrupted case is set aside, can be downloaded, and the app still starts @phone', async ({
  page,
}) => {
  await open(page);
  await store(page, { 'case/demo': '{"format":"chromatheca-case","version":1,"id":' });
  await page.reload();
  await expect(page.getByTestId('aside')).toContainText('Set aside, unchanged: the case');
  await expect(page.getByTestId('now-umol')).toBeVisible();
  const kept = Object.entries(await store(page)).filter(([k]) => k.startsWith('aside/'));
  // the whole case as it was found, in one file that can be mended and imported
  expect(kept).toHaveLength(1);
  expect(JSON.parse(JSON.parse(kept[0]![1]).text)).toMatchObject({
    case: '{"format":"chromatheca-case","version":1,"id":',
    history: { caseId: 'demo' },
  });
  await go(page, 'Case');
  const waiting = page.waitForEvent('download');
  await press(page.getByRole('button', { name: 'Download' }).first());
  await waiting;

  // valid JSON that breaks a rule is set aside too, and named
  const doc = JSON.parse((await store(page))['case/demo']!);
  doc.zones[0].groups[0].capShare = 7;
  await store(page, { 'case/demo': JSON.stringify(doc) });
  await page.reload();
  await expect(page.getByTestId('aside')).toContainText('case.zones.0.groups.0.capShare: must be at most 1');
});

test('a case of a newer version is left untouched @phone', async ({ page }) => {
  await open(page);
  const doc = JSON.parse((await store(page))['case/demo']!);
  const newer = JSON.stringify({ ...doc, version: 9, name: 'From tomorrow' });
  await store(page, { 'case/demo': newer });
  await page.reload();
  await saved(page);
  await go(page, 'Case');
  await expect(page.getByText('of a newer Chromatheca, untouched')).toBeVisible();
  expect((await store(page))['case/demo']).toBe(newer);
});

test('malformed imports name the place and the remedy and change nothing @phone', async ({ page }) => {
  await open(page, '/case');
  const before = await store(page);
  const parts = (id: string) => ({
    case: JSON.parse(before[`case/${id}`]!),
    history: JSON.parse(before[`history/${id}`]!),
    readings: JSON.parse(before[`readings/${id}`]!),
  });
  const file = (change: (f: ReturnType<typeof parts> & Record<string, unknown>) => void) => {
    const f = { format: 'chromatheca-file', version: 1, ...parts('demo') };
    change(f);
    return JSON.stringify(f);
  };
  const bad: [text: string, message: RegExp][] = [
    ['not json at all', /this is not JSON.*Choose a file that Chromatheca exported/],
    ['[1,2]', /no document/],
    ['{}', /no Chromatheca case file/],
    [file((f) => (f.version = 4)), /version: is 4; this app knows versions up to 2.*newer Chromatheca/],
    [file((f) => (f.case.version = 9)), /case\.version: is 9/],
    [file((f) => delete f.case.zones), /case\.zones: is missing/],
    [
      file((f) => (f.case.lampKinds[0].channels[2].groups[0].light.peakNm = 'blue')),
      /case\.lampKinds\.0\.channels\.2\.groups\.0\.light\.peakNm: give a number/,
    ],
  ];
  for (const [text, message] of bad) {
    await importText(page, text);
    await expect(page.getByTestId('case-message')).toHaveText(message);
    await expect(page.getByTestId('case-message')).toContainText('Nothing was changed.');
  }
  const after = await store(page);
  for (const key of ['case/demo', 'history/demo', 'readings/demo']) expect(after[key]).toBe(before[key]);

  // what is wrong in one entry costs that entry, and is told
  await importText(
    page,
    file((f) => {
      f.case.zones[0].spots[1].depthCm = 80;
      f.history.entries[0].atUtc = 'yesterday';
    }),
  );
  await takeAs(page, /of its own/);
  await expect(page.getByTestId('case-message')).toHaveText(
    /^Imported .*\(imported\)\. 2 entries could not be read and were left out: case\.zones\.0\.spots\.1\.depthCm, lies outside the water \(at most 50\scm\); history\.entries\.0\.atUtc, give an instant/,
  );
  expect((await store(page))['case/demo']).toBe(before['case/demo']);
});

test('one entry that cannot be read is set aside alone, and comes back by import once it is mended @phone', async ({
  page,
}) => {
  await open(page);
  const log = JSON.parse((await store(page))['log/demo']!);
  const count = log.events.length;
  log.events[2].atUtc = '2026-11-99T10:00:00.000Z';
  await store(page, { 'log/demo': JSON.stringify(log) });
  await page.reload();
  await expect(page.getByTestId('aside')).toContainText('1 entry of the log (events.2.atUtc');
  await expect(page.getByTestId('now-umol')).toBeVisible();
  expect(JSON.parse((await store(page))['log/demo']!).events).toHaveLength(count - 1);
  await go(page, 'Case');
  const waiting = page.waitForEvent('download');
  await press(page.getByRole('button', { name: 'Download' }).first());
  const text = readFileSync((await (await waiting).path())!, 'utf8');
  await importText(page, text.replace('2026-11-99', '2026-11-19'));
  await expect(page.getByTestId('case-message')).toHaveText('One entry was put into the log.');
  await saved(page);
  expect(JSON.parse((await store(page))['log/demo']!).events).toHaveLength(count);
});

test('a write of which a part fails leaves nothing of it behind @phone', async ({ page }) => {
  await open(page, '/log');
  const before = await store(page);
  // the second put of every transaction fails at once, as one that is too large does
  await page.evaluate(() => {
    const put = IDBObjectStore.prototype.put;
    const seen = new WeakMap<IDBTransaction, number>();
    IDBObjectStore.prototype.put = function (...what) {
      const n = (seen.get(this.transaction) ?? 0) + 1;
      seen.set(this.transaction, n);
      if (n === 2) throw new DOMException('The current transaction exceeded its quota', 'QuotaExceededError');
      return put.apply(this, what);
    };
  });
  await press(page.getByTestId('log-note'));
  await page.getByTestId('event-note').fill('Salinity 35');
  await press(page.getByTestId('keep-event'));
  await expect(page.getByTestId('save-failed')).toContainText('no room left');
  const after = await store(page);
  for (const key of ['log/demo', 'revision/demo', 'case/demo']) expect(after[key]).toBe(before[key]);
});

test('with no room left another case is not opened over what is unsaved, and an import changes nothing @phone', async ({
  page,
}) => {
  await open(page, '/case');
  const parts = await store(page);
  const doc = JSON.parse(parts['case/demo']!);
  await importText(page, JSON.stringify({ ...doc, id: 'mine', name: 'Mine', demo: false }));
  await expect(page.getByTestId('case-message')).toHaveText(/^Imported Mine\./);
  await go(page, 'Day');
  await page.evaluate(() => {
    const put = IDBObjectStore.prototype.put;
    (globalThis as unknown as { free: () => void }).free = () => (IDBObjectStore.prototype.put = put);
    IDBObjectStore.prototype.put = () => {
      throw new DOMException('The current transaction exceeded its quota limitations.', 'QuotaExceededError');
    };
  });
  await type(page, 'cap', '44');
  await expect(page.getByTestId('save-sign')).toHaveText('Not saved');
  await go(page, 'Case');
  await press(page.getByRole('button', { name: 'Open the demo' }));
  await expect(page.getByTestId('case-message')).toContainText('Mine has changes that are not stored');
  await importText(page, JSON.stringify({ ...doc, id: 'third', name: 'Third' }));
  await expect(page.getByTestId('case-message')).toContainText('Nothing was changed.');
  await go(page, 'Day');
  await expect(page.getByTestId('cap')).toHaveValue('44');
  await expect(page.getByTestId('save-sign')).toHaveText('Not saved');
  await page.evaluate(() => (globalThis as unknown as { free: () => void }).free());
  await press(page.getByRole('button', { name: 'Try again' }));
  await saved(page);
});

test('a case deleted and made anew in another tab is not written over @phone', async ({ page, context }) => {
  await open(page, '/day');
  const parts = await store(page);
  // its successor has been written as often, and is of another cap
  const successor = parts['case/demo']!.replace('"capShare":0.8', '"capShare":0.31');
  await store(page, { 'revision/demo': 'another-one', 'case/demo': successor });
  await type(page, 'cap', '55');
  await expect(page.getByTestId('stale')).toContainText('changed in another tab');
  expect((await store(page))['revision/demo']).toBe('another-one');
  // what two tabs choose stands side by side
  const second = await context.newPage();
  await open(second, '/case');
  await press(second.getByTestId('set-paper'));
  await press(second.getByRole('radio', { name: 'night' }));
  await go(page, 'Log');
  await press(page.getByRole('radio', { name: 'Refugium' }));
  await expect
    .poll(async () => JSON.parse((await store(page))['settings']!))
    .toMatchObject({ paper: 'night', zoneId: 'demo-sump-zone' });
});

test('a full store says so, keeps the change in hand and can try again @phone', async ({ page }) => {
  await open(page, '/day');
  await page.evaluate(() => {
    const put = IDBObjectStore.prototype.put;
    (globalThis as unknown as { free: () => void }).free = () => (IDBObjectStore.prototype.put = put);
    IDBObjectStore.prototype.put = () => {
      throw new DOMException('The current transaction exceeded its quota limitations.', 'QuotaExceededError');
    };
  });
  await type(page, 'cap', '44');
  await expect(page.getByTestId('save-failed')).toContainText('no room left');
  await expect(page.getByTestId('save-sign')).toHaveText('Not saved');
  await expect(page.getByTestId('cap')).toHaveValue('44');
  await page.evaluate(() => (globalThis as unknown as { free: () => void }).free());
  await press(page.getByRole('button', { name: 'Try again' }));
  await saved(page);
  await page.reload();
  await expect(page.getByTestId('cap')).toHaveValue('44');
});

test('a second tab follows the first, and the first the second @phone', async ({ page, context }) => {
  await open(page, '/day');
  const second = await context.newPage();
  await open(second, '/day');
  await type(second, 'cap', '33');
  await saved(second);
  await expect(page.getByTestId('cap')).toHaveValue('33');
  await type(page, 'cap', '55');
  await saved(page);
  await expect(second.getByTestId('cap')).toHaveValue('55');
  await expect(page.getByTestId('stale')).toHaveCount(0);
  // units are the device's, not a tab's
  await go(page, 'Tank');
  await expect(page.getByText('150 × 60 × 50 cm of water').first()).toBeVisible();
  await go(second, 'Case');
  await press(second.getByRole('button', { name: /centimetres/ }));
  await press(second.getByRole('radio', { name: /inches/ }));
  await expect(page.getByText(/× 19\.7\sin of water/).first()).toBeVisible();
});

test('tabs that do not hear of one another: what both changed is put together, the same thing is not written over @phone', async ({
  page,
  context,
}) => {
  const deaf = (p: Page) =>
    p.addInitScript(() => {
      (globalThis as { BroadcastChannel?: unknown }).BroadcastChannel = undefined;
      Object.defineProperty(document, 'visibilityState', { get: () => 'hidden' });
    });
  await deaf(page);
  await open(page, '/day');
  const second = await context.newPage();
  await deaf(second);
  await open(second, '/log');
  await press(second.getByTestId('log-note'));
  await second.getByTestId('event-note').fill('from the other tab');
  await press(second.getByTestId('keep-event'));
  await saved(second);
  await type(page, 'cap', '55');
  await saved(page);
  await go(page, 'Log');
  await expect(page.getByText('from the other tab').first()).toBeVisible();
  // the same thing in both
  await second.reload();
  await go(second, 'Day');
  await expect(second.getByTestId('cap')).toHaveValue('55');
  await type(second, 'cap', '33');
  await saved(second);
  await go(page, 'Day');
  await type(page, 'cap', '44');
  await expect(page.getByTestId('stale')).toContainText('changed in another tab');
  await second.reload();
  await expect(second.getByTestId('cap')).toHaveValue('33');
  await press(page.getByRole('button', { name: 'Reload' }));
  await expect(page.getByTestId('cap')).toHaveValue('33');
});

test('@phone everything goes into one zip and comes back from it, pictures too, in a browser that has nothing any more', async ({
  page,
}) => {
  await open(page, '/pictures');
  // the demo's own picture is drawn, and kept
  await expect(page.getByTestId('thumbnail-demo-photo-1').locator('img')).toHaveCount(1);
  await go(page, 'Log');
  await press(page.getByTestId('log-note'));
  await page.getByTestId('event-note').fill('before all was lost');
  await press(page.getByTestId('keep-event'));
  await saved(page);
  await go(page, 'Case');
  await page.getByTestId('backup-make').scrollIntoViewIfNeeded();
  const [made] = await Promise.all([page.waitForEvent('download'), press(page.getByTestId('backup-make'))]);
  expect(made.suggestedFilename()).toMatch(/^chromatheca-backup-\d{4}-\d\d-\d\d\.zip$/);
  await expect(page.getByTestId('backup-told')).toContainText('put it where this device cannot lose it');
  const path = (await made.path())!;
  await press(page.getByRole('button', { name: 'Delete the open case' }));
  await press(page.getByTestId('delete-confirm'));
  // the demo is laid out anew: another case of the same id, changed since
  await expect(page.getByTestId('backup-state')).toContainText('Last backed up');
  const [chooser] = await Promise.all([
    page.waitForEvent('filechooser'),
    press(page.getByTestId('backup-open')),
  ]);
  await chooser.setFiles(path);
  await expect(page.getByTestId('backed-demo')).toContainText('otherwise than here');
  await press(page.getByRole('radio', { name: 'put it in place of what is here' }));
  await press(page.getByTestId('backup-take'));
  await expect(page.getByTestId('backup-told')).toContainText('is as it was there');
  await saved(page);
  await page.reload();
  await go(page, 'Log');
  await expect(page.getByText('before all was lost').first()).toBeVisible();
});
