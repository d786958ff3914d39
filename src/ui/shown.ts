import { readDate, writeDate } from './readDate';

/** How a field shows what it keeps: another unit, a date or a time as its reader writes them. */
export interface Shown {
  unit?: string;
  show: (kept: string) => string;
  read: (typed: string) => string;
}

const date: Shown = { show: writeDate, read: (typed) => readDate(typed) ?? typed };
let forms: Readonly<Record<string, Shown>> = { date };

/** From now on fields of these units, or that pick a time, are shown so. */
export const showFields = (of: Readonly<Record<string, Shown>>): void => void (forms = { ...of, date });
export const shownAs = (key: string | undefined): Shown | undefined =>
  key === undefined ? undefined : forms[key];
