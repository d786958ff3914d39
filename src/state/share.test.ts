import { displayCase } from '@/demo/lagoon';
import { lampLibrary } from '@/core/library/lamps';
import { seeded } from '@/core/spectrum/random';
import { readPlate } from '@/store/plateFile';

import { lampFile } from './lampFiles';
import { plateFile } from './plates';
import { codeOf, readCode } from './share';

const doc = displayCase(Date.UTC(2026, 10, 24), 'UTC').case;
const plate = plateFile(doc.plates[0]!, doc.lampKinds[0]!).text;

test('a plate fits into 2 KB with its lamp and comes out as it was; lamps and cards, too', async () => {
  const code = await codeOf({ letter: 'p', text: plate });
  expect(code.length).toBeLessThan(2048);
  expect(code).toMatch(/^p1\.[\w-]+$/);
  const read = await readCode(`https://example.org/given#${code}`);
  if (!read.ok) throw new Error();
  expect(read.value.letter).toBe('p');
  expect(readPlate(read.value.text)).toEqual(readPlate(plate));
  for (const { kind } of lampLibrary()) {
    const text = lampFile(kind).text;
    const back = await readCode(await codeOf({ letter: 'l', text }));
    expect(back.ok && JSON.parse(back.value.text)).toEqual(JSON.parse(text));
  }
  const card = 'coral: Straw polyp, größer\nlight at its brightest: 80 µmol';
  const back = await readCode(await codeOf({ letter: 'c', text: card }));
  expect(back.ok && back.value).toEqual({ letter: 'c', text: card });
});

test('what is no link, damaged, newer, or a bomb is refused in words', async () => {
  const say = async (text: string) => {
    const read = await readCode(text);
    return read.ok ? 'taken' : read.problem.problem;
  };
  const code = await codeOf({ letter: 'p', text: plate });
  expect(await say('')).toBe('this is no link of Chromatheca');
  expect(await say('https://example.org/')).toBe('this is no link of Chromatheca');
  expect(await say('x1.abc')).toBe('this is no link of Chromatheca');
  expect(await say(code.replace('p1', 'p2'))).toBe('it is of version 2');
  expect(await say(code.slice(0, -40))).toMatch(/damaged/);
  expect(await say('p1.!!')).toBe('this is no link of Chromatheca');
  expect(await say(`p1.${'A'.repeat(200_000)}`)).toBe('it is longer than any link');
  const bomb = await codeOf({ letter: 'c', text: 'x'.repeat(3_000_000) });
  expect(bomb.length).toBeLessThan(10_000);
  expect(await say(bomb)).toMatch(/damaged/);
  // changed anywhere it is refused, or what comes out is a text that its reader looks at again
  const random = seeded(25);
  for (let i = 0; i < 200; i += 1) {
    const at = 3 + Math.floor(random() * (code.length - 3));
    const read = await readCode(
      code.slice(0, at) + 'ABCxyz019-_'[Math.floor(random() * 11)]! + code.slice(at + 1),
    );
    if (read.ok) expect(typeof readPlate(read.value.text).ok).toBe('boolean');
  }
});
