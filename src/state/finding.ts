import { create } from 'zustand';

/** Whether something is being looked for by its name. */
export const useFinding = create<{ open: boolean }>(() => ({ open: false }));

export const setFinding = (open: boolean): void => useFinding.setState({ open });
export const find = (): void => setFinding(true);
