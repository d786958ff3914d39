import { useEffect, useRef } from 'react';

export interface KeyPress {
  key: string;
  shift: boolean;
  command: boolean;
  /** true while a field has the keyboard */
  typing: boolean;
  preventDefault: () => void;
}

/** Listens to keys of the whole page. */
export function usePageKeys(onKey: (press: KeyPress) => void): void {
  const latest = useRef(onKey);
  useEffect(() => {
    latest.current = onKey;
  });
  useEffect(() => {
    if (typeof document === 'undefined') return;
    const listen = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement | null;
      latest.current({
        key: event.key,
        shift: event.shiftKey,
        command: event.ctrlKey || event.metaKey,
        typing: target?.tagName === 'INPUT' || target?.tagName === 'TEXTAREA',
        preventDefault: () => event.preventDefault(),
      });
    };
    document.addEventListener('keydown', listen);
    return () => document.removeEventListener('keydown', listen);
  }, []);
}
