import Papa from 'papaparse';

import { good } from '../shape/result';
import { plainNumber } from './cells';
import { checkedPoints, LARGEST_SPECTRUM_TEXT, type Read, type ReadSpectrum, unread } from './table';

const DELIMITERS = ['\t', ';', ','] as const;
type Delimiter = (typeof DELIMITERS)[number] | ' ';

/** A number with a decimal point or comma; NaN when it is none. */
const numberOf = (text: string, comma: boolean): number => {
  const t = text.trim().replace(/^"|"$/g, '');
  const clean = comma ? t.replace(',', '.') : t;
  return plainNumber(clean);
};

/** Tab, semicolon, comma or spaces: the first that splits most data lines in two. */
function delimiterOf(lines: readonly string[]): Delimiter {
  const digits = lines.filter((l) => /^\s*"?[+-]?[\d.]/.test(l)).slice(0, 50);
  for (const d of DELIMITERS) {
    if (digits.length > 0 && digits.filter((l) => l.includes(d)).length > digits.length / 2) return d;
  }
  return ' ';
}

/** What a heading or comment says of the values: photons or energy; energy unless it says otherwise. */
const quantityOf = (words: string): 'energy' | 'photon' =>
  /photon|quant|mol|ppfd|ppf\b/i.test(words) ? 'photon' : 'energy';

/**
 * Reads a spectrum: a wavelength in nm and a value per line, parted by comma, semicolon, tab or spaces, decimal point or
 * comma, the wavelength with or without "nm", with or without headings; lines that begin with # are comments. A heading that speaks of photons or µmol makes it
 * a photon spectrum, otherwise values are energy.
 */
export function parseSpectrumCsv(text: string): Read<ReadSpectrum> {
  if (text.length > LARGEST_SPECTRUM_TEXT)
    return unread(0, `the file has ${text.length} characters`, 'Choose a spectrum of at most 2 MB.');
  if (text.includes('\u0000')) return unread(0, 'this is no text file', 'Export the spectrum as CSV.');
  const lines = text.replace(/^\ufeff/, '').split(/\r\n|\n|\r/);
  const full = lines.filter((l) => l.trim() !== '' && !l.trim().startsWith('#'));
  if (full.length === 0) return unread(0, 'the file is empty', 'Give a wavelength and a value in each line.');
  const delimiter = delimiterOf(full);
  const rows: { nm: number; value: number; line: number }[] = [];
  const words: string[] = lines.filter((l) => l.trim().startsWith('#'));
  // a decimal comma is possible wherever commas do not part the columns
  const comma = delimiter !== ',';
  for (const [i, raw] of lines.entries()) {
    const line = i + 1;
    if (raw.trim() === '' || raw.trim().startsWith('#')) continue;
    const cells =
      delimiter === ' '
        ? raw.trim().split(/\s+/)
        : (Papa.parse<string[]>(raw, { delimiter }).data[0] ?? []).map((c) => c.trim());
    const nm = numberOf((cells[0] ?? '').replace(/\s?nm"?$/iu, ''), comma);
    if (Number.isNaN(nm)) {
      if (rows.length > 0)
        return unread(
          line,
          `"${short(cells[0] ?? raw)}" is no wavelength`,
          'Give numbers only below the headings.',
        );
      words.push(raw);
      continue;
    }
    if (cells.length < 2 || cells[1] === '')
      return unread(
        line,
        'the value is missing',
        'Give a wavelength and a value, parted by comma, semicolon or tab.',
      );
    if (delimiter === ',' && cells.length >= 3 && cells.every((c) => /^[+-]?\d+$/.test(c))) {
      return unread(
        line,
        'commas both part the columns and stand inside the numbers',
        'Export with semicolons or tabs, or with decimal points.',
      );
    }
    const value = numberOf(cells[1]!, comma);
    if (Number.isNaN(value))
      return unread(line, `"${short(cells[1]!)}" is no number`, 'Give the value in the second column.');
    rows.push({ nm, value, line });
  }
  const points = checkedPoints(rows);
  if (!points.ok) return points;
  return good({ shape: 'table', points: points.value, quantity: quantityOf(words.join(' ')) });
}

const short = (text: string) => (text.length > 24 ? `${text.slice(0, 24)}…` : text);

/** Writes a spectrum as CSV with a heading that says its quantity; reading it back gives the same points. */
export function spectrumCsv(
  points: readonly (readonly [number, number])[],
  quantity: 'energy' | 'photon',
): string {
  const fields = ['wavelength (nm)', quantity === 'photon' ? 'photons (relative)' : 'energy (relative)'];
  return `${Papa.unparse({ fields, data: points.map(([nm, v]) => [nm, v]) }, { newline: '\r\n' })}\r\n`;
}
