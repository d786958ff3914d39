import { bad, good, type Result } from '../shape/result';
import { FIRST_NM as GRID_FIRST_NM, LAST_NM as GRID_LAST_NM } from '../spectrum/grid';

/** Why a file cannot be read: the line (1-based, 0 = the whole file), what is wrong and what to do. */
export interface FileProblem {
  line: number;
  problem: string;
  remedy: string;
}

/** What was read, or why it could not be. */
export type Read<T> = Result<T, FileProblem>;

export const unread = (line: number, problem: string, remedy: string) => bad({ line, problem, remedy });

/** A problem in words: where it is, what it is, what to do. */
export const problemWords = ({ line, problem, remedy }: FileProblem): string =>
  `${line > 0 ? `line ${line}: ` : ''}${problem}. ${remedy}`;

/** A spectrum read from a file, as the app stores it. */
export interface ReadSpectrum {
  shape: 'table';
  points: [nm: number, value: number][];
  quantity: 'energy' | 'photon';
  /** the file's own words for itself */
  description?: string;
}

/** Files beyond this many characters are refused before they are read. */
export const LARGEST_SPECTRUM_TEXT = 2_000_000;
/** The most points that are kept. */
const MOST_POINTS = 2000;
/** Wavelengths a table may name, nm. */
const FIRST_NM = 200;
const LAST_NM = 1200;

/** Checks points from a file and puts them in order. */
export function checkedPoints(
  rows: readonly { nm: number; value: number; line: number }[],
): Read<[number, number][]> {
  const seen = new Map<number, number>();
  const top = rows.reduce((most, r) => Math.max(most, r.value), 0);
  for (const { nm, value, line } of rows) {
    if (!Number.isFinite(nm) || !Number.isFinite(value))
      return unread(line, 'a number is not finite', 'Give plain numbers.');
    if (nm < FIRST_NM || nm > LAST_NM) {
      return unread(
        line,
        `${nm} is no wavelength between ${FIRST_NM} and ${LAST_NM} nm`,
        nm < 1.3 && nm > 0.2 ? 'Give wavelengths in nm, not µm.' : 'Give the wavelength first, in nm.',
      );
    }
    // spectrometers wander a little below zero in the dark; more than that is a mistake
    if (value < -0.05 * top)
      return unread(line, `the value ${value} is below 0`, 'Light is not negative: check the column.');
    if (seen.has(nm)) {
      return unread(line, `${nm} nm stands already in line ${seen.get(nm)}`, 'Give every wavelength once.');
    }
    if (Math.abs(value) > 1e9)
      return unread(line, `the value ${value} is beyond 1e9`, 'Scale the column down.');
    seen.set(nm, line);
  }
  if (rows.length < 2)
    return unread(0, 'there are fewer than two points', 'Give a wavelength and a value in each line.');
  if (rows.length > MOST_POINTS)
    return unread(0, `there are ${rows.length} points, more than ${MOST_POINTS}`, 'Export in steps of 1 nm.');
  if (top <= 0)
    return unread(
      0,
      'every value is 0',
      'Measure with the lamp lit, or choose the column that holds the light.',
    );
  const inside = rows.filter((r) => r.nm >= GRID_FIRST_NM && r.nm <= GRID_LAST_NM && r.value > 0);
  if (inside.length === 0)
    return unread(0, 'nothing lies between 360 and 780 nm', 'Export the visible part of the spectrum.');
  return good(rows.map((r): [number, number] => [r.nm, Math.max(0, r.value)]).sort((a, b) => a[0] - b[0]));
}
