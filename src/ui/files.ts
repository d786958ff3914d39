import * as DocumentPicker from 'expo-document-picker';

/** Offers a text as a file to keep. */
export function download(name: string, text: string, type = 'application/json'): void {
  const url = URL.createObjectURL(new Blob([text], { type }));
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 10_000);
}

/** A file that was chosen: its text, or why it was not read, as a sentence. */
export type Picked = { name: string } & ({ text: string } | { problem: string });

/** Lets the keeper choose a file and reads it as text; null when they choose none. */
export async function pickText(types: string[], mostBytes: number): Promise<Picked | null> {
  let name = 'The file';
  try {
    const result = await DocumentPicker.getDocumentAsync({
      type: types,
      copyToCacheDirectory: false,
      base64: false,
    });
    const asset = result.assets?.[0];
    if (!asset) return null;
    ({ name } = asset);
    if ((asset.size ?? 0) > mostBytes)
      return { name, problem: `It is larger than ${mostBytes / 1e6} MB: choose a smaller one.` };
    return { name, text: asset.file ? await asset.file.text() : await (await fetch(asset.uri)).text() };
  } catch (error) {
    return { name, problem: `The browser could not read it: ${(error as Error).message}.` };
  }
}

/** Puts a text on the clipboard. @returns false where the browser does not allow it */
export async function copyText(text: string): Promise<boolean> {
  try {
    await navigator.clipboard.writeText(text);
    return true;
  } catch {
    return false;
  }
}

export const printPage = (): void => globalThis.print?.();
