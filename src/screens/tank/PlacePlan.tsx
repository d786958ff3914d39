import type { InHandPlaces } from '@/core/case/placing';
import { plural, several } from '@/core/shape/counts';
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
  // what lies one under another is one mark: touched again it goes on to the next of them
  const nearCm = (MARK_PX * zone.tank.lengthCm) / page.main;
  const marks = underOneAnother(found.places, nearCm);
  const touched = (first: number) => {
    const at = marks.find((m) => m[0] === first)!;
    onOpen(at[(at.indexOf(open) + 1) % at.length]!);
  };
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
      selected={`place ${marks.find((m) => m.includes(open))?.[0]}`}
      width={page.main}
      onProbe={() => undefined}
      onSelect={(id) => id.startsWith('place ') && touched(Number(id.slice(6)))}
      onMove={() => undefined}
      marks={[
        ...zone.spots
          .filter((s) => s.need !== null)
          .map((s) => ({
            ...{ id: `spot ${s.id}`, kind: 'coral' as const, name: s.name, figure: '', ...mark },
            ...{ across: s.xCm, down: zone.tank.widthCm - s.yCm },
          })),
        ...marks.map((at) => {
          const [p, letters] = [found.places[at[0]!]!, at.map(letter).join('')];
          return {
            ...{ id: `place ${at[0]}`, kind: 'spot' as const, name: letters, letter: letters, ...mark },
            figure: `${several(at.map((i) => umol(found.places[i]!.umol)))} µmol`,
            ...{ across: p.xCm, down: zone.tank.widthCm - p.yCm },
          };
        }),
      ]}
    />
  );
}
/** Places by their numbers, those that lie within so many cm of the first of a mark as one. */
export function underOneAnother(places: readonly { xCm: number; yCm: number }[], nearCm: number): number[][] {
  const marks: number[][] = [];
  places.forEach((p, i) => {
    const there = marks.find(([first]) => {
      const { xCm, yCm } = places[first!]!;
      return Math.hypot(p.xCm - xCm, p.yCm - yCm) < nearCm;
    });
    if (there) there.push(i);
    else marks.push([i]);
  });
  return marks;
}
/** Marks nearer to one another than this would hide each other, px. */
const MARK_PX = 16;
const NO_FIELD = [NaN, NaN, NaN, NaN];
