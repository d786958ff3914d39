import sans from '@fontsource/ibm-plex-sans/files/ibm-plex-sans-latin-400-normal.woff2';
import medium from '@fontsource/ibm-plex-sans/files/ibm-plex-sans-latin-500-normal.woff2';
import bold from '@fontsource/ibm-plex-sans/files/ibm-plex-sans-latin-600-normal.woff2';
import serif from '@fontsource/newsreader/files/newsreader-latin-400-normal.woff2';

import { font } from '@/ui/theme';

/** Type ships with the app (SIL Open Font License). */
export const FONTS = { [font.serif]: serif, [font.sans]: sans, [font.medium]: medium, [font.bold]: bold };
