import { useEffect } from 'react';

/** Print: only the page's own content, black on white, unclipped, whatever the paper on screen. */
const CSS = `
@media print {
  [data-print="hide"] { display: none !important; }
  html, body, #root { height: auto !important; overflow: visible !important; background: #fff !important; }
  #root div { overflow: visible !important; max-height: none !important; background: transparent !important; }
  #root [data-print="flow"], #root [data-print="flow"] > div:not([data-print="hide"]) { height: auto !important; flex: none !important; position: static !important; display: block !important; transform: none !important; }
  #root * { color: #000 !important; border-color: #888 !important; }
}
@page { margin: 14mm; }
`;

/** Puts the print style into the page once. */
export function usePrintStyle(): void {
  useEffect(() => {
    if (typeof document === 'undefined' || document.getElementById('print-style')) return;
    const style = document.createElement('style');
    style.id = 'print-style';
    style.textContent = CSS;
    document.head.appendChild(style);
  }, []);
}

/** Marks for parts of a page, spread onto a View: left out of print, or laid out as flowing text. */
export const printHide = { dataSet: { print: 'hide' } } as object;
export const printFlow = { dataSet: { print: 'flow' } } as object;
