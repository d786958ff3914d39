import { waitFor } from '@testing-library/react';
import { TextEncoder } from 'node:util';

import type { Picked } from '@/ui/files';

// what writes calendars wants it, every browser has it, jsdom does not
globalThis.TextEncoder ??= TextEncoder;

let file: Picked | null = null;

/** What was offered as a file to keep, newest last. */
export const downloads: { name: string; text: string }[] = [];

/** What the keeper chooses next. */
export const giveFile = (next: typeof file): void => {
  file = next;
};

/** The file of a name, once it is offered: what writes it is fetched first. */
export const offered = (name: string): Promise<string> =>
  waitFor(() => {
    const found = downloads.findLast((d) => d.name === name);
    if (!found) throw new Error(`${name} is not offered`);
    return found.text;
  });

/** Nothing chosen, nothing kept. */
export function freshFiles(): void {
  file = null;
  downloads.length = 0;
}

/** Files as the tests of the places hold them. */
export const mockFiles = {
  pickText: async () => file,
  download: (name: string, text: string) => void downloads.push({ name, text }),
  copyText: async () => true,
  printPage: () => undefined,
};
