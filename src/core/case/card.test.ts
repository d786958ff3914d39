import { cardText, type CoralCard, lightKindOf, lookApart, QUESTIONS, readCard } from './card';

const FULL: CoralCard = {
  ...{ name: 'Copper table', peakUmol: 250, hours: 9.5, light: 'blue', origin: 'farmed' },
  water: { nitratePpm: 9, phosphatePpm: 0.07, ph: 8.15 },
};
const NOTHING: CoralCard = { name: null, peakUmol: null, hours: null, light: null, origin: null, water: {} };

test('a card is read as it was written, and gaps stay gaps', () => {
  expect(readCard(cardText(FULL))).toEqual(FULL);
  expect(cardText(NOTHING)).toBe('');
  expect(readCard('')).toEqual(NOTHING);
  expect(readCard(cardText({ ...NOTHING, peakUmol: 180 }))).toEqual({ ...NOTHING, peakUmol: 180 });
});

test('answers to the questions are read in a keeper’s own words; nonsense is not known', () => {
  const answered = (words: Record<number, string>) =>
    readCard(QUESTIONS.map((q, i) => `${q} ${words[i] ?? ''}`).join('\r\n'));
  expect(answered({})).toMatchObject({ peakUmol: null, hours: null, light: null, origin: null, water: {} });
  expect(
    answered({ 1: '~ 180 or so', 2: '10', 3: 'mostly blue, a little white', 5: 'home grown', 6: '5,5' }),
  ).toMatchObject({
    ...{ peakUmol: 180, hours: 10, light: 'blue', origin: 'farmed' },
    water: { nitratePpm: 5.5 },
  });
  expect(answered({ 1: 'bright', 2: '48', 3: 'under windows', 5: 'a friend', 6: '-3' })).toMatchObject({
    ...{ peakUmol: null, hours: null, light: null, origin: null, water: {} },
  });
  expect(answered({ 3: 'Deep blue only', 5: 'wild' })).toMatchObject({ light: 'deepBlue', origin: 'wild' });
  const hostile = Date.now();
  readCard(`${'kind of light:'.repeat(200_000)}`);
  expect(Date.now() - hostile).toBeLessThan(300);
});

test('lights are called by the kind they are nearest to, and apart only from a tenth on', () => {
  expect([0.95, 0.82, 0.62, 0.3].map(lightKindOf)).toEqual(['deepBlue', 'blue', 'white', 'sun']);
  expect(lookApart('deepBlue', 0.6)).toBe('whiter');
  expect(lookApart('white', 0.85)).toBe('bluer');
  expect(lookApart('blue', 0.75)).toBe('alike');
});
