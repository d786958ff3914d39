/** Height of the lines under a chart that is taken along, of its letters, and the room around it, px. */
const LINE = 18;
const LETTERS = 12;
const ROOM = 12;
/** Points of a picture for each of the chart's. */
const SHARP = 2;
const LETTERS_WIDE = 0.52 * LETTERS;

const escaped = (text: string): string =>
  text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');

/** A text in lines of at most so many letters. */
function lines(text: string, most: number): string[] {
  const out: string[] = [];
  for (const word of text.split(' ')) {
    const last = out.at(-1);
    if (last !== undefined && last.length + 1 + word.length <= most) out[out.length - 1] = `${last} ${word}`;
    else out.push(word);
  }
  return out;
}

/**
 * What is drawn within an element (drawings, and fields of pixels as pictures) as one SVG, with a caption under it.
 * @returns null where nothing is drawn
 */
export function chartSvg(
  box: Element,
  caption: string,
  { paper, ink }: { paper: string; ink: string },
): { text: string; width: number; height: number } | null {
  const around = box.getBoundingClientRect();
  const parts = [...box.querySelectorAll('svg, canvas')].flatMap((part) => {
    // a drawing within a drawing comes with it
    if (part.parentElement?.closest('svg')) return [];
    // what one sets it with stays here
    const control = part.closest('[data-print="hide"]');
    if (control && box.contains(control)) return [];
    const at = part.getBoundingClientRect();
    const place = `x="${at.left - around.left + ROOM}" y="${at.top - around.top + ROOM}" width="${at.width}" height="${at.height}"`;
    if (part instanceof HTMLCanvasElement)
      return [`<image ${place} preserveAspectRatio="none" href="${part.toDataURL()}"/>`];
    const inside = [...part.childNodes].map((n) => new XMLSerializer().serializeToString(n)).join('');
    const view = part.getAttribute('viewBox') ?? `0 0 ${at.width} ${at.height}`;
    return [`<svg ${place} viewBox="${escaped(view)}">${inside}</svg>`];
  });
  if (parts.length === 0) return null;
  const width = Math.ceil(around.width) + 2 * ROOM;
  const told = lines(caption, Math.max(20, Math.floor((width - 2 * ROOM) / LETTERS_WIDE)));
  const under = Math.ceil(around.height) + 2 * ROOM;
  const height = under + told.length * LINE + ROOM;
  const words = told.map(
    (line, i) =>
      `<text x="${ROOM}" y="${under + i * LINE + LETTERS}" font-size="${LETTERS}" font-family="sans-serif" fill="${ink}">${escaped(line)}</text>`,
  );
  return {
    text: `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}"><rect width="${width}" height="${height}" fill="${paper}"/>${parts.join('')}${words.join('')}</svg>`,
    width,
    height,
  };
}

/** The same as a picture of pixels (PNG); null where the browser makes none. */
export async function chartPng(svg: { text: string; width: number; height: number }): Promise<Blob | null> {
  const drawn = new Image();
  drawn.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg.text)}`;
  await drawn.decode();
  const made = document.createElement('canvas');
  made.width = svg.width * SHARP;
  made.height = svg.height * SHARP;
  made.getContext('2d')!.drawImage(drawn, 0, 0, made.width, made.height);
  return new Promise((resolve) => made.toBlob(resolve, 'image/png'));
}
