import { memo } from 'react';
import { View } from 'react-native';

import { parUnder, type ZoneLight } from '@/core/case/light';
import { type Standing, standingOf, wantsOf } from '@/core/record/needs';
import type { Spot, Zone } from '@/core/record/zone';
import { Row } from '@/ui/Parts';
import { Type } from '@/ui/Type';

import { umol } from '../shared/words';

/** What every spot gets of a mix, and how that stands against what lives there. */
export const SpotRows = ({ zone, light, levels }: { zone: Zone; light: ZoneLight; levels: number[][] }) =>
  zone.spots.map((s, i) => {
    const par = parUnder(light, levels, i);
    const wants = wantsOf(s, zone);
    return (
      <SpotRow key={s.id} spot={s} zone={zone} value={umol(par)} standing={wants && standingOf(par, wants)} />
    );
  });

const STANDINGS = { below: '▼ below', within: 'within', above: '▲ above' } as const;

const SpotRow = memo(function SpotRow({
  spot,
  zone,
  value,
  standing,
}: {
  spot: Spot;
  zone: Zone;
  value: string;
  standing: Standing | null;
}) {
  const { name } = spot;
  const need = wantsOf(spot, zone);
  const word = standing ? STANDINGS[standing] : '';
  return (
    <Row>
      <View style={{ flex: 1 }}>
        <Type kind="label">{name}</Type>
        {need && <Type kind="small">{`wants ${need.fromUmol}–${need.toUmol}`}</Type>}
      </View>
      <Type kind="strong" testID={`par-${name}`}>{`${value} µmol`}</Type>
      {need && (
        <Type kind="small" style={{ width: 62 }}>
          {word}
        </Type>
      )}
    </Row>
  );
});
