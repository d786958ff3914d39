import { bad, good, parseObject, type Read } from '@/core/record/read';

/** What a link can carry, by the letter that stands in it. */
export const GIVEN = { p: 'plate', d: 'day', l: 'lamp', c: 'card', t: 'tank' } as const;
export type GivenLetter = keyof typeof GIVEN;
const VERSION = '1';
/** Nobody pastes more, and nothing that is given unpacks to more, characters and bytes. */
const MOST_CODE = 100_000;
const MOST_BYTES = 1_000_000;

/** A text of one of these kinds. */
export interface Given {
  letter: GivenLetter;
  text: string;
}

const base64url = (bytes: Uint8Array): string => {
  let text = '';
  for (let i = 0; i < bytes.length; i += 8192) text += String.fromCharCode(...bytes.subarray(i, i + 8192));
  return btoa(text).replaceAll('+', '-').replaceAll('/', '_').replace(/=+$/, '');
};
const unbase64 = (text: string): Uint8Array<ArrayBuffer> =>
  Uint8Array.from(atob(text.replaceAll('-', '+').replaceAll('_', '/')), (c) => c.charCodeAt(0));

async function gathered(stream: ReadableStream<Uint8Array>, most: number): Promise<Uint8Array<ArrayBuffer>> {
  const reader = stream.getReader();
  const parts: Uint8Array[] = [];
  let length = 0;
  for (;;) {
    const { done, value } = await reader.read();
    if (done) break;
    length += value.length;
    if (length > most) {
      void reader.cancel();
      throw new Error('it unpacks to more than anything that is given');
    }
    parts.push(value);
  }
  const out = new Uint8Array(length);
  let at = 0;
  for (const p of parts) {
    out.set(p, at);
    at += p.length;
  }
  return out;
}
const through = (bytes: Uint8Array<ArrayBuffer>, by: GenericTransformStream): ReadableStream<Uint8Array> =>
  new Blob([bytes]).stream().pipeThrough(by as ReadableWritablePair<Uint8Array, Uint8Array<ArrayBuffer>>);

/** Without the blanks that make a file readable; a text that is no JSON as it is. */
const bare = (text: string): string => {
  const parsed = parseObject(text);
  return parsed.ok ? JSON.stringify(parsed.value) : text;
};

/** What stands behind the # of a link: kind, version, and the text, deflated (RFC 1951) in base64url (RFC 4648). */
export async function codeOf({ letter, text }: Given): Promise<string> {
  const bytes = new TextEncoder().encode(bare(text));
  const packed = await gathered(through(bytes, new CompressionStream('deflate-raw')), MOST_CODE);
  return `${letter}${VERSION}.${base64url(packed)}`;
}

/** Of a link, or of what stands behind its #. */
export async function readCode(pasted: string): Promise<Read<Given>> {
  const code = pasted.trim().replace(/^[^#]*#/, '');
  const no = (problem: string, remedy = 'Copy the whole link once more, from # to its end.') =>
    bad('invalid', '', problem, remedy);
  if (code.length > MOST_CODE) return no('it is longer than any link');
  const [, letter, version, data] = /^([a-z])(\d+)\.([\w-]+)$/.exec(code) ?? [];
  if (letter === undefined || !Object.hasOwn(GIVEN, letter)) return no('this is no link of Chromatheca');
  if (version !== VERSION)
    return bad(
      'newer',
      '',
      `it is of version ${version}`,
      'Open it with the newer Chromatheca that made it.',
    );
  try {
    const bytes = await gathered(
      through(unbase64(data!), new DecompressionStream('deflate-raw')),
      MOST_BYTES,
    );
    return good({
      letter: letter as GivenLetter,
      text: new TextDecoder('utf-8', { fatal: true }).decode(bytes),
    });
  } catch {
    return no('it is damaged, or not all of it is here');
  }
}

/** The whole link, to this address. */
export const linkOf = (code: string): string => `${globalThis.location?.origin ?? ''}/given#${code}`;
