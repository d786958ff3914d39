import type { DayFile } from './dayFile';

/** The day file: a day by value with the lamps it was made for and the coral it was judged at (docs/formats.md). */
export const FORMAT = 'chromatheca-day';
export const VERSION = 1;

/** Written apart from what reads it: the sheet writes, another place reads. */
export const dayText = (day: DayFile): string =>
  `${JSON.stringify({ format: FORMAT, version: VERSION, ...day }, null, 1).replace(/\[[-\d.,e\s]+\]/g, (list) => list.replace(/\s+/g, ''))}\n`;
