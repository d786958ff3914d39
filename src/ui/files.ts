import * as DocumentPicker from 'expo-document-picker';

/** Offers a text as a file to keep. */
export const download = (name: string, text: string, type = 'application/json'): void =>
  keepFile(name, new Blob([text], { type }));

/** Height of the line under a picture that is taken along, and of its letters, px. */
const CAPTION = 40;
const LETTERS = 20;

/**
 * Offers what is drawn within an element as a picture (PNG) with a line under it.
 * @returns false where there is nothing drawn, or the browser makes no picture of it
 */
export async function downloadPicture(name: string, from: Element | null, caption: string): Promise<boolean> {
  const drawn = from?.querySelector('canvas');
  const made = document.createElement('canvas');
  const context = drawn && made.getContext('2d');
  if (!context) return false;
  made.width = drawn.width;
  made.height = drawn.height + CAPTION;
  context.fillStyle = '#000000';
  context.fillRect(0, 0, made.width, made.height);
  context.drawImage(drawn, 0, 0);
  context.fillStyle = '#ffffff';
  context.font = `${LETTERS}px sans-serif`;
  context.fillText(caption, LETTERS / 2, drawn.height + CAPTION / 2 + LETTERS / 3, made.width - LETTERS);
  const blob = await new Promise<Blob | null>((resolve) => made.toBlob(resolve, 'image/png'));
  if (blob) keepFile(name, blob);
  return blob !== null;
}

function keepFile(name: string, content: Blob): void {
  const url = URL.createObjectURL(content);
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

/** A file that was chosen, as it is; why not, as a sentence; null when none was. */
export async function pickBlob(
  types: string[],
  mostBytes: number,
): Promise<{ name: string; file: File } | { name: string; problem: string } | null> {
  try {
    const result = await DocumentPicker.getDocumentAsync({
      type: types,
      copyToCacheDirectory: false,
      base64: false,
    });
    const asset = result.assets?.[0];
    if (!asset?.file) return null;
    const { name, file } = asset;
    return file.size > mostBytes
      ? { name, problem: `It is larger than ${mostBytes / 1e6} MB: choose a smaller one.` }
      : { name, file };
  } catch (error) {
    return { name: 'The file', problem: `The browser could not read it: ${(error as Error).message}.` };
  }
}
/** A picture, or one taken where the device offers that. */
export const pickPicture = (mostBytes: number) => pickBlob(['image/*'], mostBytes);

/** Offers what is kept in the browser as a file. */
export const keepBlob = (name: string, content: Blob): void => keepFile(name, content);

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
