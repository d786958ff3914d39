import { useSame } from '@/ui/useSame';
import { useMemo } from 'react';

import { spectrumUnder, type ZoneLight } from '@/core/case/light';
import type { CaseDoc } from '@/core/record/caseDoc';
import type { Spot, Zone } from '@/core/record/zone';
import { type CoralForm, libraryForm } from '@/core/coral/form';
import { alga } from '@/core/feeding/algae';
import type { SceneAlga, SceneCoral } from '@/pieces/TankPlate';

/** The form of a spot's coral: one of the case, or of the library; null when nobody has said. */
export const formOf = (doc: Pick<CaseDoc, 'forms'>, spot: Spot): CoralForm | null =>
  spot.formId === null
    ? null
    : (doc.forms.find((f) => f.id === spot.formId) ?? libraryForm(spot.formId) ?? null);

/** The corals of a zone in place, each under its own light. */
export function sceneOf(
  doc: Pick<CaseDoc, 'forms'>,
  zone: Zone,
  light: ZoneLight,
  levels: readonly (readonly number[])[],
): SceneCoral[] {
  return zone.spots.flatMap((s, i) => {
    const form = formOf(doc, s);
    return form
      ? [
          {
            id: s.id,
            name: s.name,
            form,
            across: s.xCm / zone.tank.lengthCm,
            down: s.depthCm / zone.tank.depthCm,
            back: s.yCm / zone.tank.widthCm,
            light: spectrumUnder(light, levels, i),
          },
        ]
      : [];
  });
}

/** The algae of a zone in place, each mat under its own light. */
export const algaeOf = (zone: Zone, light: ZoneLight, levels: readonly (readonly number[])[]): SceneAlga[] =>
  zone.spots.flatMap((s, i) =>
    s.need === 'macroalgae' && s.algaId
      ? [
          {
            id: s.id,
            name: s.name,
            alga: alga(s.algaId),
            across: s.xCm / zone.tank.lengthCm,
            down: s.depthCm / zone.tank.depthCm,
            back: s.yCm / zone.tank.widthCm,
            wide: (s.mat?.lengthCm ?? 0) / zone.tank.lengthCm,
            light: spectrumUnder(light, levels, i),
          },
        ]
      : [],
  );

/** Corals and algae of a zone, remembered while nothing they depend on changes. */
export function useScene(
  doc: CaseDoc,
  zone: Zone,
  light: ZoneLight | null,
  levels: readonly (readonly number[])[],
): { corals: SceneCoral[]; algae: SceneAlga[] } {
  const now = useSame(levels);
  const { forms } = doc;
  return useMemo(
    () => ({
      corals: light ? sceneOf({ forms }, zone, light, now) : [],
      algae: light ? algaeOf(zone, light, now) : [],
    }),
    [forms, zone, light, now],
  );
}
