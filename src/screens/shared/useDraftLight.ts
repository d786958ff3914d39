import type { ZoneLight } from '@/core/case/light';
import type { LitGroup } from '@/core/case/lit';
import type { Gain } from '@/core/meter/gain';
import { type Desk, draftOf } from '@/state/desk';
import { type Accustomed, useAccustomed, useGain, useLight } from '@/state/light';
import { useNowMs } from '@/state/time';

export interface DraftLight {
  groups: LitGroup[];
  light: ZoneLight | null;
  error: string | null;
  gain: Gain;
  accustomed: Accustomed | null;
}

/** The draft of the zone on the desk, lit. */
export function useDraftLight(desk: Desk): DraftLight {
  const groups = draftOf(desk);
  const gain = useGain(desk.zone, desk.bundle.readings);
  const { light, error } = useLight(groups, desk.zone, gain.gain);
  const accustomed = useAccustomed(desk.zone, desk.bundle.history, gain.gain, useNowMs());
  return { groups, light, error, gain, accustomed };
}
