import { lengthFigure, lengthWords } from '@/core/shape/units';
import { useSame } from '@/ui/useSame';
import { useMemo } from 'react';
import { View } from 'react-native';

import { bandShare } from '@/core/case/calibration';
import { partsOf, parUnder, spectrumUnder, zoneLight } from '@/core/case/light';
import { type Liking, likings, ownLikings, placeName } from '@/core/case/places';
import { PLACES } from '@/core/case/verdict';
import { NINETY, PRIOR_SHARE } from '@/core/meter/noise';
import { plainSpot, type Spot } from '@/core/record/zone';
import { layerMix, mixAngleDeg, mixAt } from '@/core/optics/evenness';
import { parInField } from '@/core/optics/field';
import { Strip } from '@/pieces/Strip';
import type { Desk } from '@/state/desk';
import { newId } from '@/state/id';
import { channelOfRow, doseShares } from '@/core/case/rows';
import { usePlaces } from '@/state/tank';
import { useSettled } from '@/state/time';
import { Button } from '@/ui/Button';
import { Fold, Row, Section } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { bandWords, mol, umol } from '../shared/words';
import type { Place } from './parts';
import type { TankLight } from './useTankLight';

/** Light at a tapped place: PAR and its band, DLI, spectrum, how its colour differs, and who would like it. */
export function Probe({
  desk,
  light,
  place,
  width,
  onClose,
  onKeep,
}: {
  desk: Desk;
  light: TankLight;
  place: Place;
  width: number;
  onClose: () => void;
  onKeep: (spot: Spot) => void;
}) {
  const { zone } = desk;
  const { cal, groups, levels } = light;
  const { settled, still } = useSettled(place);
  const matrix = usePlaces(groups, zone, [{ ...settled, openShare: 1 }], cal);
  const field = light.field.field!;
  const exact = matrix && still ? zoneLight(matrix, groups, cal) : null;
  const shares = light.what === 'dli' ? null : light.shares;
  const now = exact
    ? parUnder(exact, levels, 0)
    : parInField(field, place.xCm, place.yCm, place.depthCm, shares ?? light.shares);
  const band = exact ? bandShare(cal, partsOf(exact, groups, levels, 0)) : null;
  const dose = parInField(field, place.xCm, place.yCm, place.depthCm, doseShares(groups, cal));
  const channels = useMemo(() => channelOfRow(groups), [groups]);
  const litRows = useSame(light.shares);
  const mean = useMemo(
    () => layerMix(field, place.depthCm, litRows, channels),
    [field, place.depthCm, litRows, channels],
  );
  const angle = mean.length > 1 ? mixAngleDeg(mixAt(field, place, light.shares, channels), mean) : null;
  const words = `${lengthWords(place.xCm, true)} from the left, ${lengthFigure(place.yCm, true)} from the front, ${lengthFigure(place.depthCm, true)} deep`;
  const doubt = band ?? NINETY * PRIOR_SHARE;
  const liked = likings(now, doubt, zone);
  const own = ownLikings(now, doubt, zone);
  return (
    <Section title="At this place" aside={<Button label="Close" kind="plain" onPress={onClose} />}>
      <Type kind="small">{`${placeName(zone.tank, place)}: ${words}`}</Type>
      <View style={{ flexDirection: 'row', alignItems: 'baseline', gap: space.s, flexWrap: 'wrap' }}>
        <Type kind="figure" testID="probe-umol">
          {umol(now)}
        </Type>
        <Type style={{ fontSize: 18 }} testID="probe-band">
          {`µmol${band === null ? '' : ` ${bandWords(band)}`}`}
        </Type>
      </View>
      <Type testID="probe-dli">{`${mol(dose)} mol a day. Colour ${angle === null ? 'like' : `${angle.toFixed(1)}° from`} the mean of this depth (0° is the same mix).`}</Type>
      {exact && (
        <Strip spectrum={spectrumUnder(exact, levels, 0)} width={width} name={`Spectrum at ${words}`} />
      )}
      <Fold title="Who would like it here?" testID="who-likes">
        <Likings list={liked} />
        {own.length > 0 && (
          <>
            <Type kind="small">Of those who live here:</Type>
            <Likings list={own} />
          </>
        )}
        <Type kind="small">Ranges by kind are rules of thumb; flow, food and neighbours decide as much.</Type>
      </Fold>
      <Button
        label="Make this a spot"
        wide
        testID="probe-keep"
        onPress={() =>
          onKeep(
            plainSpot({
              id: newId(),
              name: `Spot ${zone.spots.length + 1}`,
              xCm: place.xCm,
              yCm: place.yCm,
              depthCm: place.depthCm,
              need: null,
            }),
          )
        }
      />
    </Section>
  );
}

/** Who would find the light of a place right, too little or too much. */
const Likings = ({ list }: { list: readonly Liking[] }) => (
  <View>
    {list.map((l) => (
      <Row key={l.id} style={{ minHeight: 44 }}>
        <Type kind="label" style={{ flex: 1 }}>
          {l.name}
        </Type>
        <Type kind="small">{`${l.wants.fromUmol}–${l.wants.toUmol} µmol`}</Type>
        <Type kind="label" style={{ width: 116, textAlign: 'right' }}>
          {`${PLACES[l.placed.place].sign} ${PLACES[l.placed.place].words}`}
        </Type>
      </Row>
    ))}
  </View>
);
