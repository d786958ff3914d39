const SMALL = [
  ...['no', 'one', 'two', 'three', 'four', 'five', 'six'],
  ...['seven', 'eight', 'nine', 'ten', 'eleven', 'twelve'],
];

/** A count as it stands in a sentence: "no", "two", "13". */
export const inWords = (n: number): string => SMALL[n] ?? String(n);

/** "1 coral", "5 corals" */
export const plural = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`;

/** "one coral", "two corals", "13 corals"; what they do goes along: "one lamp does", "two lamps do" */
export const counted = (n: number, one: string, many = `${one}s`): string =>
  `${inWords(n)} ${n === 1 ? one : many}`;

/** The beginning of a sentence. */
export const capital = (text: string): string => text.replace(/^./u, (letter) => letter.toUpperCase());
