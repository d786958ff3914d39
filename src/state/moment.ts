import { create } from 'zustand';

/** The hour of today that is looked at, and whether a finger is on its way; null = now. */
export const useMomentAsked = create<{ minute: number | null; pulling: boolean }>(() => ({
  minute: null,
  pulling: false,
}));

export const askMoment = (minute: number | null, pulling = false): void =>
  useMomentAsked.setState({ minute, pulling });
