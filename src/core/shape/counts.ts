const SMALL = [
  ...['no', 'one', 'two', 'three', 'four', 'five', 'six'],
  ...['seven', 'eight', 'nine', 'ten', 'eleven', 'twelve'],
];

/** A count as it stands in a sentence: "no", "two", "13". */
export const inWords = (n: number): string => SMALL[n] ?? String(n);

/** All of them in a sentence: "both", "all five". */
export const allOf = (n: number): string => (n === 2 ? 'both' : `all ${inWords(n)}`);

/** "1 coral", "5 corals" */
export const plural = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`;

/** "one coral", "two corals", "13 corals"; what they do goes along: "one lamp does", "two lamps do" */
export const counted = (n: number, one: string, many = `${one}s`): string =>
  `${inWords(n)} ${n === 1 ? one : many}`;

/** Names in a sentence: "A, B and C"; of more than `most` the first ones and how many more. */
export const several = (names: readonly string[], most = 4): string =>
  names.length < 2
    ? names.join()
    : names.length > most
      ? `${names.slice(0, most - 1).join(', ')} and ${names.length - most + 1} more`
      : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`;

/** The beginning of a sentence. */
export const capital = (text: string): string => text.replace(/^./u, (letter) => letter.toUpperCase());
