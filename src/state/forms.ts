import { debounce } from 'es-toolkit/function';
import { useEffect, useRef } from 'react';

import { clearForm, leaveForm, loadForm, saveForm } from '@/store/documents';

const WAIT_MS = 250;

/** Remembers what is typed into a form until it is done: shortly after each change, and in the last moment of a closing page. */
export function useKeptForm(name: string, text: string): void {
  const latest = useRef(text);
  useEffect(() => {
    latest.current = text;
    const save = debounce(() => void saveForm(name, text).catch(() => undefined), WAIT_MS);
    save();
    return save.cancel;
  }, [name, text]);
  useEffect(() => {
    const leave = () => leaveForm(name, latest.current);
    globalThis.addEventListener?.('pagehide', leave);
    return () => globalThis.removeEventListener?.('pagehide', leave);
  }, [name]);
}

export { clearForm, loadForm };
