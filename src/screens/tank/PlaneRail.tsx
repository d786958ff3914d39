import { lengthWords } from '@/core/shape/units';
import type { Zone } from '@/core/record/zone';
import type { SoundingView } from '@/pieces/soundingShape';
import { Rail } from '@/ui/Rail';
import { chooseTank } from './useTankLight';

const PLANES = {
  top: { label: 'Depth of the chart', limit: 'depthCm', set: 'depth', testID: 'depth-rail' },
  front: { label: 'Section from the front', limit: 'widthCm', set: 'fromFront', testID: 'front-rail' },
  side: { label: 'Section from the left', limit: 'lengthCm', set: 'fromLeft', testID: 'left-rail' },
} as const;

/** Where the plane of a chart lies. */
export function PlaneRail({
  kind,
  tank,
  planeCm,
  width,
  hideLabel,
}: {
  kind: SoundingView['kind'];
  tank: Zone['tank'];
  planeCm: Record<SoundingView['kind'], number>;
  width: number;
  hideLabel: boolean;
}) {
  const { label, limit, set, testID } = PLANES[kind];
  return (
    <Rail
      {...{ label, hideLabel, width, testID }}
      value={planeCm[kind]}
      min={0}
      max={Math.round(tank[limit])}
      step={1}
      valueText={lengthWords(planeCm[kind], true)}
      onChange={(v) => chooseTank({ [set]: v / tank[limit] })}
    />
  );
}
