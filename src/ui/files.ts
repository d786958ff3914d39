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

/** Lets the keeper choose a file and reads it as text; null when they choose none. */
export async function pickText(
  types: string[],
  mostBytes: number,
): Promise<{ name: string; text: string } | null> {
  const result = await DocumentPicker.getDocumentAsync({
    type: types,
    copyToCacheDirectory: false,
    base64: false,
  });
  const asset = result.assets?.[0];
  if (!asset) return null;
  if ((asset.size ?? 0) > mostBytes) {
    throw new Error(
      `${asset.name} is larger than ${Math.round(mostBytes / 1e6)} MB: choose a file that Chromatheca exported.`,
    );
  }
  const text = asset.file ? await asset.file.text() : await (await fetch(asset.uri)).text();
  return { name: asset.name, text };
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
