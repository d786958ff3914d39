import { FIRST_NM as GRID_FIRST_NM, LAST_NM as GRID_LAST_NM } from '../spectrum/grid';

/** A file that cannot be read: the line (1-based, 0 = the whole file), what is wrong and what to do. */
export class FileProblem extends Error {
  constructor(
    readonly line: number,
    readonly problem: string,
    readonly remedy: string,
  ) {
    super(line > 0 ? `line ${line}: ${problem}` : problem);
  }
}

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

/** Checks points from a file and puts them in order. @throws FileProblem naming the line */
export function checkedPoints(
  rows: readonly { nm: number; value: number; line: number }[],
): [number, number][] {
  const seen = new Map<number, number>();
  const top = rows.reduce((most, r) => Math.max(most, r.value), 0);
  for (const { nm, value, line } of rows) {
    if (!Number.isFinite(nm) || !Number.isFinite(value))
      throw new FileProblem(line, 'a number is not finite', 'Give plain numbers.');
    if (nm < FIRST_NM || nm > LAST_NM) {
      throw new FileProblem(
        line,
        `${nm} is no wavelength between ${FIRST_NM} and ${LAST_NM} nm`,
        nm < 1.3 && nm > 0.2 ? 'Give wavelengths in nm, not µm.' : 'Give the wavelength first, in nm.',
      );
    }
    // spectrometers wander a little below zero in the dark; more than that is a mistake
    if (value < -0.05 * top)
      throw new FileProblem(
        line,
        `the value ${value} is below 0`,
        'Light is not negative: check the column.',
      );
    if (seen.has(nm)) {
      throw new FileProblem(
        line,
        `${nm} nm stands already in line ${seen.get(nm)}`,
        'Give every wavelength once.',
      );
    }
    if (Math.abs(value) > 1e9)
      throw new FileProblem(line, `the value ${value} is beyond 1e9`, 'Scale the column down.');
    seen.set(nm, line);
  }
  if (rows.length < 2)
    throw new FileProblem(
      0,
      'there are fewer than two points',
      'Give a wavelength and a value in each line.',
    );
  if (rows.length > MOST_POINTS)
    throw new FileProblem(
      0,
      `there are ${rows.length} points, more than ${MOST_POINTS}`,
      'Export in steps of 1 nm.',
    );
  const inside = rows.filter((r) => r.nm >= GRID_FIRST_NM && r.nm <= GRID_LAST_NM && r.value > 0);
  if (inside.length === 0)
    throw new FileProblem(
      0,
      'nothing lies between 360 and 780 nm',
      'Export the visible part of the spectrum.',
    );
  return rows.map((r): [number, number] => [r.nm, Math.max(0, r.value)]).sort((a, b) => a[0] - b[0]);
}
