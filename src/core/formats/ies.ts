import { photometryFlux } from '../optics/optic';
import type { Photometry } from '../spectrum/lampKind';
import { bad, good } from '../shape/result';
import { plainNumber } from './cells';
import { type FileProblem, type Read, unread } from './table';

const LARGEST_TEXT = 2_000_000;
const MOST_ANGLES = 361;
const KNOWN = /^\s*(IESNA:LM-63-(1995|2002)|IES:LM-63-2019|IESNA91)\s*$/i;

interface Token {
  text: string;
  line: number;
}

/**
 * Reads an IES LM-63 photometric file (1991, 1995, 2002, 2019), type C, as an optic: the shape of its light alone, since absolute
 * candela of a white lamp say nothing about a reef lamp's channels. Source: ANSI/IES LM-63. Mark: standard.
 */
export function parseIes(text: string): Read<Photometry> {
  if (text.length > LARGEST_TEXT)
    return unread(0, `the file has ${text.length} characters`, 'Choose a file of at most 2 MB.');
  if (text.includes('\u0000'))
    return unread(0, 'this is no text file', 'Choose an LM-63 file, usually named .ies.');
  const lines = text.replace(/^\ufeff/, '').split(/\r\n|\n|\r/);
  if (!KNOWN.test(lines[0] ?? ''))
    return unread(
      1,
      `"${short(lines[0] ?? '')}" does not name LM-63-1995, LM-63-2002 or LM-63-2019`,
      'Choose a photometric file that begins with such a line.',
    );
  const tilt = lines.findIndex((l) => /^\s*TILT\s*=/i.test(l));
  if (tilt < 0)
    return unread(lines.length, 'there is no line TILT=', 'The file is cut off or no LM-63 file.');
  for (let i = 1; i < tilt; i += 1) {
    const line = lines[i]!.trim();
    if (line !== '' && !line.startsWith('[') && KNOWN.test(lines[0]!) && !/IESNA91/i.test(lines[0]!))
      return unread(
        i + 1,
        `"${short(line)}" stands where a keyword such as [LUMINAIRE] is expected`,
        'Put free text behind a keyword in square brackets.',
      );
  }
  const name =
    keyword(lines.slice(0, tilt), 'LUMINAIRE') ?? keyword(lines.slice(0, tilt), 'TEST') ?? 'Photometric file';
  const reader = new Reader(
    lines.slice(tilt + 1).flatMap((l, i) =>
      l
        .split(/[\s,]+/)
        .filter((t) => t !== '')
        .map((t): Token => ({ text: t, line: tilt + 2 + i })),
    ),
    lines.length,
  );
  const tiltKind = /TILT\s*=\s*(\S+)/i.exec(lines[tilt]!)?.[1]?.toUpperCase();
  if (tiltKind === 'INCLUDE') {
    reader.number('the geometry of the tilt');
    const count = reader.count('the number of tilt angles');
    for (let i = 0; i < 2 * count; i += 1) reader.number('the tilt table');
  } else if (tiltKind !== 'NONE')
    return unread(
      tilt + 1,
      `TILT=${short(tiltKind ?? '')} points to another file`,
      'Export with TILT=NONE or TILT=INCLUDE.',
    );

  reader.number('the number of lamps');
  reader.number('the lumens per lamp');
  const multiplier = reader.number('the candela multiplier');
  if (!(multiplier > 0)) reader.fail(`the candela multiplier is ${multiplier}`, 'It must be above 0.');
  const vertical = reader.count('the number of vertical angles');
  const horizontal = reader.count('the number of horizontal angles');
  const type = reader.number('the photometric type');
  if (type !== 1)
    reader.fail(
      `the photometric type is ${type === 2 ? 'B' : type === 3 ? 'A' : type}`,
      'Only type C (1) can be an optic over a tank: export as type C.',
    );
  const units = reader.number('the unit of lengths');
  if (units !== 1 && units !== 2)
    reader.fail(`the unit of lengths is ${units}`, 'It is 1 (feet) or 2 (metres).');
  for (const what of ['width', 'length', 'height']) reader.number(`the luminous ${what}`);
  for (const what of ['the ballast factor', 'the reserved value', 'the input watts']) reader.number(what);

  const verticalDeg = reader.angles(vertical, 'vertical', 180);
  if (verticalDeg[0]! >= 90)
    reader.fail('all light goes up', 'An optic over a tank needs vertical angles from 0, straight down.');
  const horizontalDeg = reader.angles(horizontal, 'horizontal', 360);
  const first = horizontalDeg[0]!;
  const last = horizontalDeg[horizontalDeg.length - 1]!;
  if (first !== 0 || ![0, 90, 180, 360].includes(last))
    reader.fail(
      `horizontal angles run from ${first} to ${last}°`,
      'In type C they begin at 0 and end at 0, 90, 180 or 360.',
    );
  const intensity = horizontalDeg.map(() => verticalDeg.map(() => reader.intensity() * multiplier));
  reader.end();
  if (reader.problem) return bad(reader.problem);
  const photometry: Photometry = { name: name.slice(0, 120), verticalDeg, horizontalDeg, intensity };
  if (!(photometryFlux(photometry) > 0))
    return unread(0, 'no light goes down', 'Choose the file of a lamp that lights downwards.');
  return good(photometry);
}

function keyword(lines: readonly string[], word: string): string | null {
  const found = lines.find((l) => new RegExp(`^\\s*\\[${word}\\]`, 'i').test(l));
  const text = found?.replace(/^\s*\[[^\]]*\]/, '').trim();
  return text ? text : null;
}

const short = (text: string) => (text.length > 30 ? `${text.slice(0, 30)}…` : text);

/**
 * Numbers of the file in order, each with its line. The first number that is not as it should be is kept as the problem; from
 * there on there are no numbers (NaN), so that what reads on comes to its end.
 */
class Reader {
  private next = 0;
  problem: FileProblem | null = null;
  constructor(
    private readonly tokens: readonly Token[],
    private readonly lastLine: number,
  ) {}

  private get line(): number {
    return this.tokens[Math.max(0, this.next - 1)]?.line ?? this.lastLine;
  }

  /** Keeps the first problem. @returns no number */
  fail(problem: string, remedy: string, line = this.line): number {
    this.problem ??= { line, problem, remedy };
    return NaN;
  }

  number(what: string): number {
    if (this.problem) return NaN;
    const token = this.tokens[this.next];
    if (!token)
      return this.fail(
        `the file ends before ${what}`,
        'The file is cut off: export it again.',
        this.lastLine,
      );
    this.next += 1;
    const value = plainNumber(token.text);
    if (Number.isNaN(value))
      return this.fail(`"${short(token.text)}" stands where ${what} is expected`, 'Give a plain number.');
    if (Math.abs(value) > 1e9) return this.fail(`${what} is beyond 1e9`, 'Give a smaller number.');
    return value;
  }

  count(what: string): number {
    const value = this.number(what);
    if (Number.isInteger(value) && value >= 1 && value <= MOST_ANGLES) return value;
    this.fail(`${what} is ${value}`, `Give a whole number from 1 to ${MOST_ANGLES}.`);
    return 0;
  }

  angles(count: number, name: string, high: number): number[] {
    const out: number[] = [];
    for (let i = 0; i < count; i += 1) {
      const value = this.number(`${name} angle ${i + 1} of ${count}`);
      if (value < 0 || value > high)
        this.fail(`the ${name} angle ${value} lies outside 0 to ${high}°`, 'Check the angles.');
      if (i > 0 && value <= out[i - 1]!)
        this.fail(
          `the ${name} angle ${value} does not rise over ${out[i - 1]}`,
          'List angles in rising order.',
        );
      out.push(value);
    }
    return out;
  }

  intensity(): number {
    const value = this.number('an intensity');
    if (value < 0) this.fail(`the intensity ${value} is below 0`, 'Light is not negative: check the file.');
    return value;
  }

  end(): void {
    if (this.next >= this.tokens.length) return;
    this.next += 1;
    this.fail('there are more numbers than angles ask for', 'Check the numbers of angles.');
  }
}
