/** How much a thing counts when it is weighed by hand. Mark: rule of thumb. */
export const COUNTS = { nothing: 0, little: 0.25, usual: 1, much: 5 } as const;
export type Counts = keyof typeof COUNTS;
export const COUNT_WORDS: Readonly<Record<Counts, string>> = {
  nothing: 'for nothing',
  little: 'for little',
  usual: 'as usual',
  much: 'for much',
};
