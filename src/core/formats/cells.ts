/** What cells of foreign files may hold: nothing longer is looked at, so that no text can take longer to refuse than to read. */

/** Longest number that is read, in characters. Mark: rule of thumb. */
const LONGEST_NUMBER = 40;
/** Longest heading that is read, in characters; what goes beyond is cut. Mark: rule of thumb. */
const LONGEST_HEADING = 160;

/** A plain number with a decimal point; NaN when it is none. */
export const plainNumber = (text: string): number =>
  text.length <= LONGEST_NUMBER && /^[+-]?(\d+\.?\d*|\.\d+)([eE][+-]?\d+)?$/.test(text) ? Number(text) : NaN;

/** A heading as far as it is read, stretches of blanks as one. */
export const headingOf = (text: string): string =>
  text.trim().slice(0, LONGEST_HEADING).replace(/\s+/g, ' ').trim();
