import { parUnder, spectrumUnder } from '@/core/case/light';
import { type Moment, momentOf } from '@/core/case/moment';
import type { Desk } from '@/state/desk';

import { levelsAtMoment, strengthAt } from '../mix/view';
import { useScene } from '../shared/scene';
import { useDraftLight } from '../shared/useDraftLight';

/** Everything that is lit at the moment Mix speaks of, and the corals in it. */
export function useMoment(desk: Desk) {
  const { groups, light, error } = useDraftLight(desk);
  const { zone, spotIndex, group, plate, doc } = desk;
  const index = zone.groups.findIndex((g) => g.id === group?.id);
  const ready = light !== null && spotIndex >= 0 && group !== null && plate !== null;
  const moment: Moment = ready
    ? momentOf(light, groups, group, plate.id, spotIndex)
    : { minute: 720, used: false };
  const levels = ready ? levelsAtMoment(groups, index, plate, moment) : groups.map(() => []);
  const scene = useScene(doc, zone, ready ? light : null, levels);
  return {
    ready,
    error,
    groups,
    light,
    index,
    moment,
    levels,
    scene,
    strength: ready ? strengthAt(group, plate, moment) : 1,
    spectrum: ready ? spectrumUnder(light, levels, spotIndex) : null,
    par: ready ? parUnder(light, levels, spotIndex) : 0,
  };
}
