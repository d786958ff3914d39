import { useMemo } from 'react';

import { spectrumUnder, type ZoneLight } from '@/core/case/light';
import type { CoralForm } from '@/core/coral/form';
import { formOf } from '@/core/portrait/ofZone';
import type { CaseDoc } from '@/core/record/caseDoc';
import type { Zone } from '@/core/record/zone';
import { useSame } from '@/ui/useSame';

/** A coral whose form is known, under its own light. */
export interface SceneCoral {
  id: string;
  name: string;
  form: CoralForm;
  light: Float64Array;
}

/** The described corals of a zone, each under its own light. */
export const sceneOf = (
  doc: Pick<CaseDoc, 'forms'>,
  zone: Zone,
  light: ZoneLight,
  levels: readonly (readonly number[])[],
): SceneCoral[] =>
  zone.spots.flatMap((s, i) => {
    const form = formOf(doc, s);
    return form ? [{ id: s.id, name: s.name, form, light: spectrumUnder(light, levels, i) }] : [];
  });

/** The same, remembered while nothing they depend on changes. */
export function useScene(
  doc: CaseDoc,
  zone: Zone,
  light: ZoneLight | null,
  levels: readonly (readonly number[])[],
): SceneCoral[] {
  const now = useSame(levels);
  const { forms } = doc;
  return useMemo(() => (light ? sceneOf({ forms }, zone, light, now) : []), [forms, zone, light, now]);
}
