import { create } from 'zustand';

import type { DayFile } from './readDay';

/** A day that came in a link and is to be carried here; Carry takes it up. */
export const useGivenDay = create<{ day: DayFile | null }>(() => ({ day: null }));
export const giveDay = (day: DayFile): void => useGivenDay.setState({ day });
