import { create } from 'zustand';

/** A figure that was asked about: as it stands, and the words around it, the nearest first. */
export interface Asked {
  figure: string;
  around: readonly string[];
}

/** What lies over every page: looking for something by its name, the list of keys, or what a figure is. */
export const useFinding = create<{ open: 'find' | 'keys' | Asked | null }>(() => ({ open: null }));

export const closeFinding = (): void => useFinding.setState({ open: null });
export const find = (): void => useFinding.setState({ open: 'find' });
export const showKeys = (): void => useFinding.setState({ open: 'keys' });
export const ask = (figure: Asked): void => useFinding.setState({ open: figure });
