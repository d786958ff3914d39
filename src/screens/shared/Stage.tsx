import { memo, type ReactNode } from 'react';
import { View } from 'react-native';

import type { Judgement } from '@/core/case/judgement';
import { PLACES, stepOf } from '@/core/case/verdict';
import type { Spot } from '@/core/record/zone';
import type { Desk } from '@/state/desk';
import { Sentence } from '@/ui/Sentence';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { spotPart } from './spotPart';
import { MARKS } from './Verdict';
import { umol, umolExact } from './words';

const AtSpot = memo(function AtSpot({
  spots,
  spot,
  when,
}: {
  spots: readonly Spot[];
  spot: Spot;
  when: string;
}) {
  return <Sentence parts={[when === '' ? 'at ' : `${when} at `, spotPart(spots, spot)]} />;
});

/** What stays in sight: the picture, and under it the chosen coral's figure and how that is judged. */
export function Stage({
  desk,
  picture,
  figure,
  when,
  judged,
  ids = {},
  more,
  live = false,
  lines = 1,
}: {
  desk: Desk;
  picture: ReactNode;
  /** µmol of the moment at the chosen coral; null = not known yet */
  figure: number | null;
  /** of which moment and state: "now", "at 14:05 under Reading noon" */
  when: string;
  judged: Judgement | null;
  /** how tests find its figure and its verdict */
  ids?: { figure?: string; verdict?: string };
  /** a finger moves what it says: then every µmol is shown, for differences are better known than what they lie between */
  live?: boolean;
  /** lines that its verdict may come to take while a finger is on what it stands over */
  lines?: number;
  /** what else has to stay in sight */
  more?: ReactNode;
}) {
  const { zone, spot, spotIndex } = desk;
  const mine = judged?.corals[spotIndex];
  const place = mine?.placed && PLACES[mine.placed.place];
  const step = judged && mine && stepOf(mine, judged.state);
  return (
    <View style={{ gap: 2 }} testID="stage">
      {picture}
      {spot && (
        <View style={{ flexDirection: 'row', alignItems: 'baseline', gap: space.s }}>
          <Type kind="heading" testID={ids.figure ?? 'stage-umol'}>
            {figure === null ? '…' : figure === 0 ? 'Dark' : `${(live ? umolExact : umol)(figure)} µmol`}
          </Type>
          <View style={{ flex: 1 }}>
            <AtSpot spots={zone.spots} spot={spot} when={figure === null ? '' : when} />
          </View>
        </View>
      )}
      {spot && (
        <Type
          kind={mine?.step?.large ? 'strong' : 'label'}
          // its line is kept free until it is known, so that nothing moves then
          roomLines={lines}
          testID={mine && (place || step) ? (ids.verdict ?? 'stage-verdict') : undefined}
        >
          {[
            place && `${place.sign} peak ${place.words}`,
            step && `${mine!.step!.large ? MARKS[mine!.gravity] : ''}${step}`,
          ]
            .filter(Boolean)
            .join(' · ')}
        </Type>
      )}
      {more}
    </View>
  );
}
