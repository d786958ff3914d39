import { createContext, type ReactNode, useContext, useMemo } from 'react';

import type { LitGroup } from '@/core/case/lit';
import type { ZoneLight } from '@/core/case/light';
import type { Plate } from '@/core/record/caseDoc';
import type { Group } from '@/core/record/zone';
import { mixSpectrum } from '@/core/spectrum/lamp';
import type { LampKind } from '@/core/spectrum/lampKind';
import { type Crest, crestMix, crestsOf } from '@/pieces/combShape';
import { type Desk, useDesk, useLive } from '@/state/desk';
import { useSession } from '@/state/session';
import { useSettings } from '@/state/settings';
import { useSame } from '@/ui/useSame';

import { useDraftLight } from '../shared/useDraftLight';
import { laidBehind, type OtherLight, otherLight } from './behind';
import { changedThreads, type MixModel, mixModel, soloLight } from './model';

/** A mix as it is drawn now, with what a finger holds. */
export interface MixNow {
  desk: Desk;
  group: Group;
  kind: LampKind;
  plate: Plate;
  groups: LitGroup[];
  light: ZoneLight | null;
  error: string | null;
  basis: string;
  model: MixModel;
  /** light and coral are known */
  ready: boolean;
  crests: Crest[];
  /** a control lit alone */
  solo: string | null;
  /** photon flux of the lamps, on the grid */
  sum: Float64Array;
  other: OtherLight | null;
  behind: ReturnType<typeof laidBehind>;
  touching: boolean;
  /** what the last change of the plate does to the day, in light */
  changed: ReturnType<typeof changedThreads>;
}

const Now = createContext<MixNow | null>(null);
/** Within `Moving`. */
export const useMixNow = (): MixNow => useContext(Now)!;

/** Under a finger the mix is made anew for what shows it, and nothing around that is drawn again. */
export function Moving({ solo, children }: { solo: string | null; children: ReactNode }) {
  const desk = useDesk();
  const { doc, zone, spotIndex, spot } = desk;
  const group = desk.group!;
  const kind = desk.lampKind!;
  const plate = desk.plate!;
  const { groups, light, error, basis, judge, judgeMix } = useDraftLight(desk);
  const touching = useLive((s) => s.command !== null);
  const behindKey = useSettings((s) => s.behind);
  // a pull redraws humps only where one control acts on what another drives
  const acting = useSame(crestMix(kind, plate.mix));
  const crests = useMemo(() => crestsOf(kind, acting), [kind, acting]);
  const sum = useMemo(
    () => (solo ? soloLight(crests, plate.mix, solo) : mixSpectrum(kind, plate.mix)),
    [kind, plate.mix, crests, solo],
  );
  const other = useMemo(() => otherLight(doc, behindKey), [doc, behindKey]);
  const behind = useMemo(() => (other && !solo ? laidBehind(sum, other) : null), [sum, other, solo]);
  const model = mixModel({
    ...{ zone, group, kind, plate, groups, light, spot, spotIndex, solo, touching },
    judge: (mixLevels) => (mixLevels ? judgeMix(mixLevels) : judge()),
  });
  const before = useSession((s) => s.past[s.past.length - 1]?.before.case);
  const beforePlate = before?.plates.find((p) => p.id === plate.id);
  const reference = touching
    ? desk.saved.case
    : before && beforePlate && beforePlate.mix !== plate.mix
      ? before
      : null;
  const changed = changedThreads(light, reference, zone, groups, group, plate.id, spotIndex);
  const ready = light !== null && spotIndex >= 0;
  return (
    <Now
      value={{
        ...{ desk, group, kind, plate, groups, light, error, basis, model, ready, crests, solo, sum },
        ...{ other, behind, touching, changed },
      }}
    >
      {children}
    </Now>
  );
}
