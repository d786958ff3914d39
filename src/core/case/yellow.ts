import { FRESH_YELLOW } from '../record/log/carbon';

/** What a tank gains in yellow substances without fresh carbon, m⁻¹ at 440 nm. Mark: rule of thumb. */
const YELLOW_PER_DAY = 0.005;
const OLD_YELLOW = 0.5;

/** A guess of yellow substances from days since fresh carbon, m⁻¹ at 440 nm: from fresh, rising by the day to an old tank's. */
export const yellowAfterCarbon = (days: number): number =>
  Math.min(OLD_YELLOW, FRESH_YELLOW + YELLOW_PER_DAY * Math.max(0, days));

/** What a white card looks like when it is seen through the length of the tank, and what that stands for. Mark: rule of thumb. */
export const CARD_GUESSES = [
  { id: 'white', label: 'White', yellow440PerM: 0.04 },
  { id: 'cream', label: 'Cream', yellow440PerM: 0.12 },
  { id: 'straw', label: 'Straw', yellow440PerM: 0.3 },
  { id: 'tea', label: 'Weak tea', yellow440PerM: 0.7 },
] as const;
export type CardGuess = (typeof CARD_GUESSES)[number]['id'];

/**
 * A white card's look belongs to the way through the water: half a metre of yellow water looks like twice as yellow a
 * quarter of a metre. Guesses are given for this length, cm.
 */
const CARD_WAY_CM = 60;
export const yellowFromCard = (guess: CardGuess, wayCm: number): number =>
  Math.min(2, (CARD_GUESSES.find((c) => c.id === guess)!.yellow440PerM * CARD_WAY_CM) / Math.max(15, wayCm));
