import { useEffect } from 'react';

/**
 * What no style sheet of React Native can say: the ring around what the keyboard holds, in ink like everything that is not
 * light; and print, which shows only the page's own content, black on white and unclipped.
 */
const CSS = `
:focus { outline: none; }
:focus-visible, input:focus { outline: 2px solid #8b8171; outline-offset: 2px; border-radius: 4px; }
[data-print="only"] { display: none !important; }
@media print {
  [data-print="only"] { display: block !important; }
  [data-print="hide"] { display: none !important; }
  html, body, #root { height: auto !important; overflow: visible !important; background: #fff !important; }
  #root div { overflow: visible !important; max-height: none !important; background: transparent !important; }
  #root [data-print="flow"], #root [data-print="flow"] > div:not([data-print="hide"]) { height: auto !important; flex: none !important; position: static !important; display: block !important; transform: none !important; }
  #root * { color: #000 !important; border-color: #888 !important; }
}
@page { margin: 14mm; }
`;

/** Puts this style into the page once. */
export function usePageStyle(): void {
  useEffect(() => {
    if (typeof document === 'undefined' || document.getElementById('page-style')) return;
    const style = document.createElement('style');
    style.id = 'page-style';
    style.textContent = CSS;
    document.head.appendChild(style);
  }, []);
}

/** Marks for parts of a page, spread onto a View: left out of print, there in print alone, or laid out as flowing text. */
export const printHide = { dataSet: { print: 'hide' } } as object;
export const printOnly = { dataSet: { print: 'only' } } as object;
export const printFlow = { dataSet: { print: 'flow' } } as object;
