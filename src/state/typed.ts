import { debounce } from 'es-toolkit/function';
import { useEffect } from 'react';
import { create } from 'zustand';

import { clearForm, leaveForm, loadForms, saveForm } from '@/store/documents';

/**
 * What is typed and not kept yet, by form and field, as it is typed. It stays whatever closes the form: a tap outside, Done, the back
 * key, another tab, a reload, a crash; it goes when the form is kept or is started over by name.
 */
type Fields = Readonly<Record<string, unknown>>;
const useForms = create<Readonly<Record<string, Fields>>>(() => ({}));

const NOTHING: Fields = {};
/** So many forms are remembered that nobody came back to. */
const MOST_FORMS = 60;
const WAIT_MS = 250;

/** forms whose text is not written yet; one whose write has begun is owed until it has ended, for the page may close in between */
const owed = new Set<string>();
function write(): void {
  const forms = useForms.getState();
  for (const name of owed) {
    const fields = forms[name];
    void (fields ? saveForm(name, JSON.stringify(fields)) : clearForm(name)).then((kept) => {
      // what a full store refused stays owed: a closing page leaves it as last words
      if (kept && useForms.getState()[name] === fields) owed.delete(name);
    });
  }
}
const writeSoon = debounce(write, WAIT_MS);
/** Leaves what is not written as the last words of a closing page; what was kept or started over a moment ago leaves nothing to read. */
export function leaveTyped(): void {
  const forms = useForms.getState();
  for (const name of owed) leaveForm(name, forms[name] ? JSON.stringify(forms[name]) : '');
}
globalThis.addEventListener?.('pagehide', leaveTyped);

function put(form: string, fields: Fields | null): void {
  const { [form]: _, ...others } = useForms.getState();
  const kept = Object.entries(others).slice(-(MOST_FORMS - 1));
  for (const name of Object.keys(others).slice(0, Math.max(0, Object.keys(others).length - MOST_FORMS + 1)))
    owed.add(name);
  useForms.setState(Object.fromEntries(fields ? [...kept, [form, fields]] : kept), true);
  owed.add(form);
  writeSoon();
}

/** Reads what was typed before a reload; what cannot be read is as if it had not been typed. */
export async function readTyped(): Promise<void> {
  const found = Object.entries(await loadForms()).flatMap(([name, text]): [string, Fields][] => {
    try {
      const fields = JSON.parse(text) as unknown;
      return fields && typeof fields === 'object' && !Array.isArray(fields) ? [[name, fields as Fields]] : [];
    } catch {
      return [];
    }
  });
  useForms.setState(Object.fromEntries(found), true);
}

/** Forgets everything typed: for tests and for a device that is handed on. */
export const forgetTyped = (): void => useForms.setState({}, true);

export interface Typed {
  /** a field as it was typed, else as it stands, and how it is typed */
  of: <T>(field: string, stands: T) => [T, (next: T | ((was: T) => T)) => void];
  /** all that was typed at once, for forms that keep their fields themselves; null = nothing */
  all: Fields | null;
  setAll: (fields: Fields) => void;
  /** something is typed that is not kept */
  changed: boolean;
  /** it is kept, or started over */
  clear: () => void;
}

const same = (a: unknown, b: unknown) => a === b || JSON.stringify(a) === JSON.stringify(b);

const typedOf = (form: string, fields: Fields): Typed => ({
  of: (field, stands) => [
    field in fields ? (fields[field] as typeof stands) : stands,
    (next) => {
      const now = useForms.getState()[form] ?? NOTHING;
      const was = (field in now ? now[field] : stands) as typeof stands;
      const value = typeof next === 'function' ? (next as (was: typeof stands) => typeof stands)(was) : next;
      const { [field]: _, ...rest } = now;
      // what stands anyway is not typed
      const all = same(value, stands) ? rest : { ...rest, [field]: value };
      put(form, Object.keys(all).length > 0 ? all : null);
    },
  ],
  all: fields === NOTHING ? null : fields,
  setAll: (all) => put(form, all),
  changed: fields !== NOTHING,
  clear: () => put(form, null),
});

/** What is typed into a form at this moment. */
export const typedNow = (form: string): Typed => typedOf(form, useForms.getState()[form] ?? NOTHING);

/**
 * What is typed into a form, followed.
 * @param form its name, with the id of what it is of
 */
export const useTyped = (form: string): Typed => typedOf(form, useForms((s) => s[form]) ?? NOTHING);

/** Keeps what a form library holds: its values whenever they differ from those it stands with. */
export function useTypedValues(typed: Typed, values: object, stands: object): void {
  const text = JSON.stringify(values);
  const { setAll, clear, changed } = typed;
  useEffect(() => {
    if (text !== JSON.stringify(stands)) setAll(JSON.parse(text) as Fields);
    else if (changed) clear();
    // only what is typed matters, not the functions made anew with each draw
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [text]);
}
