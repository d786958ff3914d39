import { createContext, type ReactNode, useContext } from 'react';
import { StyleSheet, useColorScheme } from 'react-native';

/** Ink on paper. Saturated colour is never a token: it is always computed from a spectrum. */
const DAY = {
  name: 'day',
  paper: '#f5f0e5',
  raised: '#fbf8f0',
  ink: '#1f1b16',
  quiet: '#635a4d',
  line: '#d3cab9',
  strong: '#8b8171',
  inverse: '#f5f0e5',
  shade: 'rgba(31, 27, 22, 0.35)',
  plateDim: 1,
} as const;
const NIGHT = {
  name: 'night',
  paper: '#161310',
  raised: '#1f1b17',
  ink: '#e6dccb',
  quiet: '#a89c8b',
  line: '#3a342c',
  strong: '#7d7263',
  inverse: '#161310',
  shade: 'rgba(0, 0, 0, 0.6)',
  /** computed plates are dimmed to this on night paper */
  plateDim: 0.72,
} as const;
export type Paper = { [K in keyof typeof DAY]: (typeof DAY)[K] | (typeof NIGHT)[K] };

export const font = {
  serif: 'Newsreader',
  sans: 'Plex',
  medium: 'PlexMedium',
  bold: 'PlexSemiBold',
} as const;

/** Spacing and sizes, px. */
export const space = { xs: 4, s: 8, m: 12, l: 16, xl: 24, xxl: 36 } as const;
export const size = {
  target: 44,
  stepper: 48,
  strip: 48,
  tab: 56,
  rail: 208,
  page: 720,
  wide: 1024,
} as const;

const PaperContext = createContext<Paper>(DAY);

/** Chooses the paper: by system unless the keeper has said otherwise. */
export function PaperProvider({
  choice,
  children,
}: {
  choice: 'system' | 'day' | 'night';
  children: ReactNode;
}) {
  const system = useColorScheme();
  const night = choice === 'night' || (choice === 'system' && system === 'dark');
  return <PaperContext.Provider value={night ? NIGHT : DAY}>{children}</PaperContext.Provider>;
}

export const usePaper = (): Paper => useContext(PaperContext);

/** Styles that depend on the paper, made once per paper. */
export function themed<T extends StyleSheet.NamedStyles<T>>(
  make: (paper: Paper) => T & StyleSheet.NamedStyles<T>,
): () => T {
  const made = new Map<Paper, T>();
  return function useStyles() {
    const paper = usePaper();
    let styles = made.get(paper);
    if (!styles) {
      styles = StyleSheet.create(make(paper)) as T;
      made.set(paper, styles);
    }
    return styles;
  };
}
