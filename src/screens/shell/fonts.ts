import { font } from '@/ui/theme';

/** Type ships with the app (SIL Open Font License). */
export const FONTS = {
  [font.serif]: require('@fontsource/newsreader/files/newsreader-latin-400-normal.woff2'),
  [font.sans]: require('@fontsource/ibm-plex-sans/files/ibm-plex-sans-latin-400-normal.woff2'),
  [font.medium]: require('@fontsource/ibm-plex-sans/files/ibm-plex-sans-latin-500-normal.woff2'),
  [font.bold]: require('@fontsource/ibm-plex-sans/files/ibm-plex-sans-latin-600-normal.woff2'),
};
