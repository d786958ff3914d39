/**
 * What was typed into a field of a document and could not be taken, by field and by what stands there: it is back when the field is, also
 * after a reload of this tab.
 */
const KEY = 'chromatheca/unsaid';
const MOST = 40;

const store = (): Storage | undefined => {
  try {
    return globalThis.sessionStorage;
  } catch {
    return undefined;
  }
};

function read(): Record<string, string> {
  try {
    return JSON.parse(store()?.getItem(KEY) ?? '{}') as Record<string, string>;
  } catch {
    return {};
  }
}

export const unsaid = (field: string): string | null => read()[field] ?? null;

/** @param text null = it was taken, or put back */
export function setUnsaid(field: string, text: string | null): void {
  const { [field]: before, ...others } = read();
  if (text === null && before === undefined) return;
  const kept = Object.entries(others).slice(-(MOST - 1));
  try {
    store()?.setItem(
      KEY,
      JSON.stringify(Object.fromEntries(text === null ? kept : [...kept, [field, text]])),
    );
  } catch {
    // a full store costs this its memory
  }
}
