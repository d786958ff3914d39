import type { InHandPlaces } from '@/core/case/placing';
import { plural } from '@/core/shape/counts';
import { Sounding } from '@/pieces/Sounding';
import type { Desk } from '@/state/desk';
import { usePageSize } from '@/ui/Page';

import { umol } from '../shared/words';
import { letter } from './placeWords';

/** The places on the plan, by their letters, among those who live here. */
export function PlacePlan({
  desk: { zone },
  found,
  open,
  onOpen,
}: {
  desk: Desk;
  found: InHandPlaces;
  open: number;
  onOpen: (i: number) => void;
}) {
  const page = usePageSize();
  const mark = { read: null, standing: null };
  return (
    <Sounding
      testID="place-plan"
      name={`The tank from above with ${plural(found.places.length, 'place')} for it`}
      view={{
        ...{ kind: 'top', acrossCm: zone.tank.lengthCm, downCm: zone.tank.widthCm, airCm: 0 },
        ...{ nx: 2, ny: 2, values: NO_FIELD, layered: false },
      }}
      format={String}
      suits={null}
      signed={false}
      read={[]}
      solids={zone.tank.solids}
      probe={null}
      selected={`place ${open}`}
      width={page.main}
      onProbe={() => undefined}
      onSelect={(id) => id.startsWith('place ') && onOpen(Number(id.slice(6)))}
      onMove={() => undefined}
      marks={[
        ...zone.spots
          .filter((s) => s.need !== null)
          .map((s) => ({
            ...{ id: `spot ${s.id}`, kind: 'coral' as const, name: s.name, figure: '', ...mark },
            ...{ across: s.xCm, down: zone.tank.widthCm - s.yCm },
          })),
        ...found.places.map((p, i) => ({
          ...{ id: `place ${i}`, kind: 'spot' as const, name: letter(i), figure: umol(p.umol), ...mark },
          ...{ across: p.xCm, down: zone.tank.widthCm - p.yCm },
        })),
      ]}
    />
  );
}
const NO_FIELD = [NaN, NaN, NaN, NaN];
