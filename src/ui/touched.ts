const NUMBER = String.raw`[+−]?(?:\d{1,3}(?: \d{3})+|\d+)(?:[.,]\d+)?`;
const UNIT = String.raw`µmol(?: m⁻² s⁻¹|/s)?|mol(?: a day)?|%(?: of PAR| of photons| a month| pure)?|×(?! ?\d)|k?lux\b|k?Wh?\b(?: a day)?|K\b|nm\b|ppm\b|stops?\b|h\b(?: \d+ min)?|min\b|points a month|°`;
/** A number or two, with a sign before and a unit after; a bare one stands at the end or before few words. No time of day, and no date. */
const FIGURE = new RegExp(
  String.raw`(?<![\d:.,\p{L}]|[\p{L}] ?-)(?:[±▲▽○] )?${NUMBER}(?:(?: to |–| ± )${NUMBER})?(?: (?:${UNIT})|°|(?=$|[,;)]| ·| →| at | in | of \d))(?!:\d)`,
  'gu',
);
/** Bare numbers count in lines as short as those of a table. */
const SHORT = 40;
/** What does something by itself when it is touched, and drawings, which are touched for what they show. */
const ACTS =
  'a,button,input,textarea,select,label,svg,canvas,[role=button],[role=link],[role=radio],[role=checkbox],[role=tab],[role=slider],[role=switch],[role=img]';
/** Longer than this it is no line around a figure but a whole page. */
const MOST_AROUND = 400;

/** A figure that was touched: as it stands, and the words around it, the nearest first. */
export interface Touched {
  figure: string;
  around: string[];
}

/** Words that belong together lie between two of these. */
const PARTS = / · |; |: |\. |, (?=\D)/u;

/** A space that does not break is a space. */
export const spaced = (text: string): string => text.replaceAll('\u00a0', ' ');

/** The figures of a text, each with its place and the words it stands with. */
export function figuresOf(written: string): { figure: string; from: number; to: number; clause: string }[] {
  const text = spaced(written);
  return [...text.matchAll(FIGURE)].flatMap(({ 0: figure, index }) => {
    let start = 0;
    const clause =
      text.split(PARTS).find((part) => {
        start = text.indexOf(part, start);
        return index >= start && index < start + part.length;
      }) ?? text;
    const bare = /\d$/u.test(figure) && !/^[±▲▽○]/u.test(figure);
    // a year, or the number of a step
    const names = /^(?:19|20)\d\d$/u.test(figure) || (index === 0 && /^\d+ · \p{L}/u.test(text));
    return bare && (names || clause.length > SHORT)
      ? []
      : [{ figure: figure.trim(), from: index, to: index + figure.length, clause: clause.trim() }];
  });
}

/** Lines that hold a text, from its own words outwards. */
export function linesAround(node: Node): string[] {
  const out: string[] = [];
  for (let box = node.parentElement; box; box = box.parentElement) {
    const text = spaced(box.textContent ?? '').trim();
    if (text.length > MOST_AROUND) break;
    if (text !== '' && text !== out[out.length - 1]) out.push(text);
  }
  return out;
}

/** What stands under a finger, if it is a figure and touching it does nothing else. */
export function touchedFigure(event: MouseEvent): Touched | null {
  const { target } = event;
  if (!(target instanceof Element) || target.closest(ACTS) || !document.caretRangeFromPoint) return null;
  if (getSelection()?.isCollapsed === false) return null;
  const range = document.caretRangeFromPoint(event.clientX, event.clientY);
  const node = range?.startContainer;
  if (!range || node?.nodeType !== Node.TEXT_NODE || !target.contains(node)) return null;
  const box = document.createRange();
  box.selectNodeContents(node);
  // beside the letters nothing was meant
  const on = [...box.getClientRects()].some(
    (r) =>
      event.clientX >= r.left &&
      event.clientX <= r.right &&
      event.clientY >= r.top &&
      event.clientY <= r.bottom,
  );
  if (!on) return null;
  const at = range.startOffset;
  const found = figuresOf(node.textContent ?? '').find(({ from, to }) => at >= from && at <= to);
  return found ? { figure: found.figure, around: [found.clause, ...linesAround(node)] } : null;
}
