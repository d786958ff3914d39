import { create } from 'zustand';

/** What lies over every page: looking for something by its name, or the list of keys. */
export const useFinding = create<{ open: 'find' | 'keys' | null }>(() => ({ open: null }));

export const closeFinding = (): void => useFinding.setState({ open: null });
export const find = (): void => useFinding.setState({ open: 'find' });
export const showKeys = (): void => useFinding.setState({ open: 'keys' });
