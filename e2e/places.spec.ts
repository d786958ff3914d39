import { readFileSync } from 'node:fs';
import { join } from 'node:path';

import type { Page } from '@playwright/test';

import { termsOf } from '../src/screens/shared/terms';
import { figuresOf } from '../src/ui/touched';

import { expect, open, press, test } from './kit';

const at = (path: string) => readFileSync(join(__dirname, '..', path), 'utf8');
const AXE = at('node_modules/axe-core/axe.min.js');

interface Place {
  name: string;
  path: string;
  actions: { what: string; behind: string[]; keys: string[] }[];
}
const codes = (cell: string) => [...cell.matchAll(/`([^`]+)`/g)].map((m) => m[1]!);

/** The list of all actions as the docs give it. */
function listed(): Place[] {
  const text = at('docs/actions.md');
  return text
    .split(/^## /m)
    .slice(1)
    .map((part) => {
      const [head, ...lines] = part.split('\n');
      const [, name, path] = /^(.*) `([^`]+)`$/.exec(head!)!;
      const rows = lines.filter((l) => l.startsWith('| ')).slice(2);
      return {
        name: name!,
        path: path!,
        actions: rows.map((row) => {
          const [what, behind, keys] = row.split('|').slice(1, 4);
          return { what: what!.trim(), behind: codes(behind!), keys: codes(keys!) };
        }),
      };
    });
}

const keyOf = (page: Page, key: string) => {
  const main = page.getByRole('main');
  if (key.startsWith('#')) return main.getByTestId(key.slice(1)).first();
  const name = key.startsWith('/') ? new RegExp(key.slice(1, -1)) : key;
  const exact = typeof name === 'string';
  return main.getByRole('button', { name, exact }).or(main.getByRole('radio', { name, exact })).first();
};

/**
 * What axe finds that hinders somebody: serious and critical alone. Left out: that a key's name holds all its visible words; a row
 * that opens a thing is named by the thing, not by all its figures.
 */
const hindrances = (page: Page) =>
  page.evaluate(async () => {
    const axe = (globalThis as unknown as { axe: { run: (at: Document, how: object) => Promise<unknown> } })
      .axe;
    const found = (await axe.run(document, {
      resultTypes: ['violations'],
      rules: { 'label-content-name-mismatch': { enabled: false } },
    })) as {
      violations: { id: string; impact: string; nodes: { html: string }[] }[];
    };
    return found.violations
      .filter((v) => v.impact === 'serious' || v.impact === 'critical')
      .map((v) => `${v.id}: ${v.nodes.map((n) => n.html.slice(0, 160)).join(' | ')}`);
  });

/** What hangs over the page's edge, but for what can be scrolled sideways on purpose. */
const overhanging = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const scrolled = (e: Element): boolean => {
      const box = e.parentElement;
      if (!box) return false;
      const { overflowX } = getComputedStyle(box);
      return (
        ((overflowX === 'auto' || overflowX === 'scroll') && box.scrollWidth > box.clientWidth) ||
        scrolled(box)
      );
    };
    return [...document.querySelectorAll('body *')]
      .filter((e) => {
        const { left, right, width, height } = e.getBoundingClientRect();
        const over = right > innerWidth + 1 || left < -1;
        const paged = e.closest('svg, [data-testid^=sounding]') ?? e.querySelector('[data-testid^=sounding]');
        return over && width > 0 && height > 0 && !paged && !scrolled(e);
      })
      .map((e) => e.getAttribute('aria-label') ?? e.textContent ?? e.tagName);
  });

/** Figures with a unit that nothing is said of, on the page as it stands. */
const untold = async (page: Page): Promise<string[]> => {
  const texts = await page.getByRole('main').evaluate((main) => {
    const walker = document.createTreeWalker(main, NodeFilter.SHOW_TEXT);
    const out: { text: string; around: string[] }[] = [];
    while (walker.nextNode()) {
      const node = walker.currentNode;
      const acts =
        'a,button,input,textarea,select,label,svg,[role=button],[role=radio],[role=checkbox],[role=slider],[role=switch],[role=img]';
      if (!/\d/.test(node.textContent ?? '') || node.parentElement!.closest(acts)) continue;
      const around: string[] = [];
      for (let box = node.parentElement; box; box = box.parentElement)
        if ((box.textContent ?? '').length <= 400)
          around.push(box.textContent!.replaceAll('\u00a0', ' ').trim());
      out.push({ text: node.textContent!, around });
    }
    return out;
  });
  return texts.flatMap(({ text, around }) =>
    figuresOf(text)
      .filter(({ figure }) => /µmol|mol|lux|W|K|nm|ppm|stop|%|×/.test(figure))
      .filter(({ figure, clause }) => termsOf(figure, [clause, ...around]).length === 0)
      .map(({ figure, clause }) => `${figure} in “${clause}”`),
  );
};

const PLACES = listed();
// as narrow as a page of twice the text on a small phone
test.use({ viewport: { width: 320, height: 740 }, pictures: true });
// two halves, a core each
for (const half of [0, 1])
  test(`every action stands where the list has it, every place is found by name and open to all, part ${half + 1} of 2 @phone`, async ({
    page,
  }) => {
    await open(page, '/');
    await page.evaluate(AXE);
    for (const { name, path, actions } of PLACES.filter((_, i) => i % 2 === half)) {
      await page.keyboard.press('/');
      await page.getByTestId('find').fill(name);
      await expect(page.getByTestId('find-first')).toHaveText(name);
      await page.keyboard.press('Enter');
      await expect.poll(() => new URL(page.url()).pathname).toBe(path);
      for (const { what, behind, keys } of actions)
        for (const key of keys) {
          const target = keyOf(page, key);
          for (const fold of behind) if (!(await target.isVisible())) await press(keyOf(page, fold));
          await expect(target, `${name}: ${what}, by ${key}`).toBeVisible();
        }
      expect(await hindrances(page), name).toEqual([]);
      expect(await overhanging(page), name).toEqual([]);
      expect(await untold(page), name).toEqual([]);
    }
    await page.keyboard.press('?');
    await expect(page.getByTestId('keys')).toContainText('find a place, plate, coral, lamp or word');
    // a sheet hears the key once it stands, which is a moment after it is seen
    await expect(async () => {
      await page.keyboard.press('Escape');
      await expect(page.getByTestId('keys')).toHaveCount(0, { timeout: 2000 });
    }).toPass();
  });

test('the list of actions has every place that can be found', () => {
  const source = at('src/screens/shell/find.ts');
  const pages = [...source.matchAll(/^ {2}\['(\/[a-z-]*)', '([^']+)'/gm)].map((m) => `${m[2]} ${m[1]}`);
  expect(pages.length).toBeGreaterThan(25);
  expect(PLACES.map((p) => `${p.name} ${p.path}`).sort()).toEqual(pages.sort());
});
