import { useCallback } from 'react';

import type { Plate } from '@/core/record/caseDoc';
import { scaleAll } from '@/core/mix/versions';
import type { LampKind } from '@/core/spectrum/lampKind';
import { setMix } from '@/state/commands/plates';
import { setLive } from '@/state/desk';
import { run, useSession } from '@/state/session';

import { rounded, SCALE_STEP, withLevel } from './model';

/** The plate as it is kept: a pull starts anew from that each time. */
const kept = (plateId: string): Plate =>
  useSession.getState().bundle!.case.plates.find((p) => p.id === plateId)!;

/** Ways to change the levels of a plate: set, pulled (kept when the finger lifts), all together. Each stays the same function while the plate does. */
export function useLevels(kind: LampKind, plateId: string, onSet: (controlId: string) => void) {
  const setLevel = useCallback(
    (id: string, level: number) => {
      const { mix, locked } = kept(plateId);
      if (locked.includes(id)) return;
      run(setMix(plateId, withLevel(mix, id, level), `level-${plateId}-${id}`));
      onSet(id);
    },
    [plateId, onSet],
  );
  const pullLevel = useCallback(
    (id: string, level: number) => setLive(setMix(plateId, withLevel(kept(plateId).mix, id, level))),
    [plateId],
  );
  const scale = useCallback(
    (sign: 1 | -1) => {
      const { mix, locked } = kept(plateId);
      const scaled = scaleAll(kind, mix, sign > 0 ? SCALE_STEP : 1 / SCALE_STEP, locked);
      run(setMix(plateId, rounded(scaled), `scale-${plateId}`));
    },
    [kind, plateId],
  );
  return { setLevel, pullLevel, scale };
}
