/** Minutes in a wall-clock day. Days are rings of wall-clock minutes. */
export const DAY_MINUTES = 1440;

/** A minute, wherever it was counted to, as a minute of the day. */
export const wrapMinute = (minute: number): number => ((minute % DAY_MINUTES) + DAY_MINUTES) % DAY_MINUTES;
/** Minutes from one to the next time of day. */
export const minutesUntil = (from: number, to: number): number => wrapMinute(to - from);
/** How far a time of day lies after another, the shorter way round: below 0 when it lies before it. */
export const minutesApart = (from: number, to: number): number =>
  wrapMinute(to - from + DAY_MINUTES / 2) - DAY_MINUTES / 2;
