import { deflateSync } from 'node:zlib';

import type { Page } from '@playwright/test';

import { expect, go, open, press, saved, test, type } from './kit';

test.use({ pictures: true });

test('@phone a test in two taps and a number, found again, and the whole log taken out and read in elsewhere', async ({
  page,
}) => {
  await open(page);
  await go(page, 'Log');
  await press(page.getByTestId('log-test'));
  await page.getByTestId('test-nitratePpm').fill('7');
  await press(page.getByTestId('keep-event'));
  await expect(page.getByRole('button', { name: /Water test: nitrate 7\sppm/ })).toBeVisible();
  await press(page.getByTestId('log-sign'));
  await press(page.getByTestId('sign-browning'));
  await expect(page.getByTestId('triage')).toContainText('leave the lamp alone');
  await press(page.getByTestId('sign-done'));
  await saved(page);
  const [kept] = await Promise.all([page.waitForEvent('download'), press(page.getByTestId('log-entries'))]);
  const path = (await kept.path())!;
  await press(page.getByTestId('log-find'));
  await page.getByTestId('log-words').fill('browning');
  await expect(page.locator('[data-testid^="line-"]')).toHaveCount(1);
  // what was removed comes back from the file, and nothing twice
  await press(page.getByRole('button', { name: /^\d\d:\d\d Copper table: browning/ }));
  await press(page.getByTestId('remove-event'));
  await expect(page.getByRole('button', { name: /^\d\d:\d\d Copper table: browning/ })).toHaveCount(0);
  const [chooser] = await Promise.all([
    page.waitForEvent('filechooser'),
    press(page.getByTestId('log-read')),
  ]);
  await chooser.setFiles(path);
  await expect(page.getByTestId('log-read-told')).toContainText(/^one entry read in.*stood here already/);
  await expect(page.getByRole('button', { name: /^\d\d:\d\d Copper table: browning/ })).toBeVisible();
});

test('@phone a question with A, B and A again: weighed by touch, kept over a reload, answered in a sentence', async ({
  page,
}) => {
  await open(page, '/experiments');
  await press(page.getByTestId('experiment-another'));
  await page.getByTestId('experiment-name').fill('Does violet make it grow?');
  await press(page.getByTestId('experiment-new'));
  await press(page.getByTestId('set-phases'));
  await press(page.getByRole('radio', { name: 'A, then B, then A again' }));
  await press(page.getByTestId('set-start'));
  await type(page, 'experiment-start', '2026-03-01');
  const ends = [1.1, 1.3, 1.1];
  for (const [phase, times] of ends.entries())
    for (const at of ['first', 'last'] as const) {
      const on = page.getByRole('radio', {
        name: new RegExp(`^(✓ )?${['A', 'B', 'A again'][phase]}, ${at}, `),
      });
      await press(on);
      await type(page, 'measured-on', DATES[phase]![at]);
      for (let i = 1; i <= 5; i += 1)
        await type(
          page,
          `measure-Fragment ${i}`,
          String(Math.round((800 + 20 * i) * (at === 'last' ? times + i / 200 : 1))),
        );
    }
  await saved(page);
  await page.reload();
  await expect(page.getByTestId('experiments-sentence')).toContainText(
    /more than chance, so B may have done it if nothing else changed\. With A again .*it went as A came back/,
  );
  await expect(page.getByTestId('phase-1')).toContainText('measured Sun 10 May to Sun 21 Jun');
});

/** When it was weighed. */
const DATES = [
  { first: '2026-03-15', last: '2026-04-26' },
  { first: '2026-05-10', last: '2026-06-21' },
  { first: '2026-07-05', last: '2026-08-16' },
] as const;

/** A picture of one colour with a grey card in its corner, as PNG. */
function picture(width: number, height: number, colour: readonly number[], card: readonly number[]): Buffer {
  return png(width, height, (x, y) => (x < width / 4 && y > (3 * height) / 4 ? card : colour));
}
function png(width: number, height: number, of: (x: number, y: number) => readonly number[]): Buffer {
  const rows = Buffer.alloc(height * (1 + 3 * width));
  for (let y = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1) rows.set(of(x, y), y * (1 + 3 * width) + 1 + 3 * x);
  const chunk = (type: string, data: Buffer) => {
    const body = Buffer.concat([Buffer.from(type), data]);
    const out = Buffer.alloc(body.length + 8);
    out.writeUInt32BE(data.length, 0);
    body.copy(out, 4);
    out.writeUInt32BE(crc32(body), body.length + 4);
    return out;
  };
  const head = Buffer.alloc(13);
  head.writeUInt32BE(width, 0);
  head.writeUInt32BE(height, 4);
  head.set([8, 2, 0, 0, 0], 8);
  return Buffer.concat([
    Buffer.from([137, 80, 78, 71, 13, 10, 26, 10]),
    chunk('IHDR', head),
    chunk('IDAT', deflateSync(rows)),
    chunk('IEND', Buffer.alloc(0)),
  ]);
}
const crc32 = (data: Buffer): number => {
  let crc = 0xffffffff;
  for (const byte of data) {
    crc ^= byte;
    for (let k = 0; k < 8; k += 1) crc = crc & 1 ? (crc >>> 1) ^ 0xedb88320 : crc >>> 1;
  }
  return (crc ^ 0xffffffff) >>> 0;
};

/** Of a coral that nobody has photographed yet. */
async function ofPlum(page: Page): Promise<void> {
  await press(page.getByTestId('set-spot'));
  await press(page.getByRole('radio', { name: 'Plum table' }));
}

async function addPicture(page: Page, name: string, buffer: Buffer): Promise<void> {
  const [chooser] = await Promise.all([
    page.waitForEvent('filechooser'),
    press(page.getByTestId('picture-add')),
  ]);
  await chooser.setFiles({ name, mimeType: 'image/png', buffer });
  await expect(page.getByTestId('picture-told')).toContainText(name);
}

test('@phone pictures of a coral: made smaller and kept over a reload, a patch told through a wrong white balance, judged blind', async ({
  page,
}) => {
  await open(page, '/pictures');
  await ofPlum(page);
  const add = (name: string, colour: readonly number[], card: readonly number[], size = 400) =>
    addPicture(page, name, picture(size, size / 2, colour, card));
  await add('first.png', [150, 90, 60], [118, 118, 118], 2400);
  await expect(page.getByTestId('picture-told')).toContainText('at most 1600 px');
  // the same coral through a bluer, darker exposure
  await add('second.png', [107, 70, 66], [84, 92, 130]);
  await saved(page);
  await page.reload();
  await expect(page.locator('[data-testid^="thumbnail-"]')).toHaveCount(2);
  for (const at of [0, 1]) await press(page.locator('[data-testid^="thumbnail-"]').nth(at));
  for (const [point, left, top] of [
    ['grey card', 0.1, 0.9],
    ['patch', 0.6, 0.4],
  ] as const) {
    await press(page.getByRole('radio', { name: point, exact: true }));
    for (const at of [0, 1]) {
      const shown = page.locator('[data-testid^="pointed-"]').nth(at);
      await shown.scrollIntoViewIfNeeded();
      const box = (await shown.boundingBox())!;
      await shown.tap({ position: { x: left * box.width, y: top * box.height } });
    }
  }
  await expect(page.getByTestId('patch')).toContainText(
    /No change of colour can be told from the camera \(ΔE [0-3]\.\d/,
  );
  await press(page.getByRole('radio', { name: 'over one another' }));
  await expect(page.getByTestId('pictures-over')).toBeVisible();
  await add('third.png', [190, 170, 150], [118, 118, 118]);
  await press(page.getByTestId('blind-begin'));
  for (let i = 0; i < 6; i += 1) await press(page.getByTestId('blind-right'));
  await expect(page.getByTestId('blind-told')).toContainText('for none of three pairs');
  // what is no picture is refused in words
  const [chooser] = await Promise.all([
    page.waitForEvent('filechooser'),
    press(page.getByTestId('picture-add')),
  ]);
  await chooser.setFiles({ name: 'broken.png', mimeType: 'image/png', buffer: Buffer.from('no picture') });
  await expect(page.getByTestId('picture-told')).toContainText(
    'broken.png: It could not be read as a picture',
  );
  await expect(page.locator('[data-testid^="thumbnail-"]')).toHaveCount(3);
});

test.describe('in a browser of its own, whose room is bounded', () => {
  test.use({ cold: true });
  test('@phone a coral is outlined by a finger in two pictures; a browser without room refuses a third, and nothing is lost', async ({
    page,
    context,
    baseURL,
  }) => {
    const client = await context.newCDPSession(page);
    await client.send('Storage.overrideQuotaForOrigin', { origin: baseURL!, quotaSize: 8e6 });
    await open(page, '/pictures');
    await ofPlum(page);
    await addPicture(page, 'first.png', picture(400, 300, [150, 90, 60], [118, 118, 118]));
    await addPicture(page, 'second.png', picture(400, 300, [150, 90, 60], [118, 118, 118]));
    /** Around the middle of a picture, so many px away. */
    const around = async (at: number, reach: number) => {
      const shown = page.locator('[data-testid^="outlining-"]').nth(at);
      await shown.scrollIntoViewIfNeeded();
      const box = (await shown.boundingBox())!;
      const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
      const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', turn?: number) =>
        client.send('Input.dispatchTouchEvent', {
          type,
          touchPoints:
            turn === undefined ? [] : [{ x: x + reach * Math.cos(turn), y: y + reach * Math.sin(turn) }],
        });
      await touch('touchStart', 0);
      for (let i = 1; i < 48; i += 1) await touch('touchMove', (i * Math.PI) / 24);
      await touch('touchEnd');
    };
    // both that were added are chosen
    for (const [point, left] of [
      ['first point', 0.1],
      ['second point', 0.9],
    ] as const) {
      await press(page.getByRole('radio', { name: point, exact: true }));
      for (const at of [0, 1]) {
        const shown = page.locator('[data-testid^="pointed-"]').nth(at);
        await shown.scrollIntoViewIfNeeded();
        const box = (await shown.boundingBox())!;
        await shown.tap({ position: { x: left * box.width, y: box.height / 2 } });
      }
    }
    await press(page.getByRole('radio', { name: 'outline', exact: true }));
    await around(0, 80);
    await around(1, 96);
    // (96/80)² of the area; of one day, so that it says how a hand draws and not that the coral grew
    await expect(page.getByTestId('growth')).toContainText(
      /^Both pictures are of one day: their outlines differ by 4[2-6]\s%\. That is how steadily a hand draws, not growth\./,
    );
    await saved(page);
    // a really full store: pictures of noise, which cannot be made small, until there is no room for one
    let seed = 7;
    const noise = png(1500, 1500, () =>
      Array.from({ length: 3 }, () => (seed = (seed * 48271) % 2147483647) & 255),
    );
    let kept = 2;
    for (; kept < 12; kept += 1) {
      await addPicture(page, `noise-${kept}.png`, noise);
      if (((await page.getByTestId('picture-told').textContent()) ?? '').includes('no room left')) break;
    }
    await expect(page.getByTestId('picture-told')).toContainText('This browser has no room left for it');
    await expect(page.locator('[data-testid^="thumbnail-"]')).toHaveCount(kept);
    await saved(page);
    await page.reload();
    await expect(page.locator('[data-testid^="thumbnail-"]')).toHaveCount(kept);
    // with room again it goes on
    await client.send('Storage.overrideQuotaForOrigin', { origin: baseURL! });
    await page.reload();
    await addPicture(page, 'again.png', noise);
    await expect(page.locator('[data-testid^="thumbnail-"]')).toHaveCount(kept + 1);
  });
});
