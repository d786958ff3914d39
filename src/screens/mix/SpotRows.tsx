import { memo } from 'react';
import { View } from 'react-native';

import type { Judgement } from '@/core/case/judgement';
import { parUnder, type ZoneLight } from '@/core/case/light';
import { PLACES } from '@/core/case/verdict';
import type { Zone } from '@/core/record/zone';
import { Row } from '@/ui/Parts';
import { Type } from '@/ui/Type';

import { umol } from '../shared/words';

/** What every spot gets of a mix, and how the day it is part of stands against what lives there. */
export const SpotRows = ({
  zone,
  light,
  levels,
  judged,
}: {
  zone: Zone;
  light: ZoneLight;
  levels: number[][];
  judged: Judgement | null;
}) =>
  zone.spots.map((s, i) => {
    const here = umol(parUnder(light, levels, i));
    const c = judged?.corals[i];
    const brightest = c && umol(c.peak.umol);
    const wants = c?.wants
      ? `wants ${c.wants.fromUmol}–${c.wants.toUmol} at its brightest${brightest === here ? '' : `, the day gives ${brightest}`}`
      : '';
    const place = c?.placed && PLACES[c.placed.place];
    return (
      <SpotRow
        key={s.id}
        name={s.name}
        value={here}
        wants={wants}
        word={place ? `${place.sign} ${place.words}` : ''}
      />
    );
  });

const SpotRow = memo(function SpotRow({
  name,
  value,
  wants,
  word,
}: {
  name: string;
  value: string;
  wants: string;
  word: string;
}) {
  return (
    <Row>
      <View style={{ flex: 1 }}>
        <Type kind="label">{name}</Type>
        {wants !== '' && <Type kind="small">{wants}</Type>}
      </View>
      <Type kind="strong" testID={`par-${name}`}>{`${value} µmol`}</Type>
      {word !== '' && (
        <Type kind="small" style={{ width: 88 }} testID={`mix-standing-${name}`}>
          {word}
        </Type>
      )}
    </Row>
  );
});
