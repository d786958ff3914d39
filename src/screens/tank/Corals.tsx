import { router } from 'expo-router';
import { View } from 'react-native';

import type { Judgement } from '@/core/case/judgement';
import { type FoundPlaces, placesFor } from '@/core/case/places';
import { PLACES, stepOf } from '@/core/case/verdict';
import { wantsOf } from '@/core/record/needs';
import type { Spot } from '@/core/record/zone';
import { CEILINGS } from '@/core/easing/accustomed';
import { Balance } from '@/pieces/Balance';
import { moveSpot } from '@/state/commands/spots';
import { newId } from '@/state/id';
import type { Desk } from '@/state/desk';
import { run } from '@/state/session';
import { changeSettings } from '@/state/settings';
import { sharesAt } from '@/core/case/rows';
import { nowUtcIso } from '@/state/time';
import { Button } from '@/ui/Button';
import { Row, Section } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { newSpot } from '../shared/newSpot';
import { bandWords, mol, tenantsOf, umol } from '../shared/words';
import { percent } from '@/core/shape/percent';
import { cm } from './parts';
import type { TankLight } from './useTankLight';

interface Props {
  desk: Desk;
  light: TankLight;
  judged: Judgement | null;
  found: FoundPlaces | null;
  onEdit: (spot: Spot) => void;
  onFound: (found: FoundPlaces | null) => void;
}

/** Corals and empty spots with their light against what they want; where the chosen one could go. */
export function Corals({ desk, light, judged, found, onEdit, onFound }: Props) {
  const { zone, spot } = desk;
  const { cal, groups } = light;
  const wants = spot && wantsOf(spot, zone);
  const look = () => {
    const field = light.field.field;
    // where the light of the day is at its brightest over the spots
    const minute = judged?.corals[desk.spotIndex]?.peak.minute;
    if (!field || !wants || minute === undefined || minute === null) return;
    onFound(placesFor(field, zone.tank, zone.spots, wants, sharesAt(groups, minute, cal)));
  };
  return (
    <>
      <Section
        title={`${tenantsOf(zone.spots).many.replace(/^./, (c) => c.toUpperCase())} and spots`}
        aside={
          <Button
            label="Add"
            name="Add a spot"
            kind="plain"
            testID="add-spot"
            onPress={() => onEdit(newSpot(zone))}
          />
        }
      >
        <View>
          {zone.spots.map((s, i) => {
            const c = judged?.corals[i];
            const place = c?.placed && PLACES[c.placed.place];
            const step = c && stepOf(c, judged.state);
            return (
              <Row
                key={s.id}
                name={`${s.name}${place ? `: ${umol(c.peak.umol)} µmol, ${place.words}` : ''}. ${s.id === spot?.id ? 'Chosen; opens its place and needs' : 'Chooses it'}`}
                onPress={() => {
                  if (s.id === spot?.id) onEdit(s);
                  else {
                    changeSettings({ spotId: s.id });
                    onFound(null);
                  }
                }}
              >
                <View style={{ flex: 1 }}>
                  <Type kind={s.id === spot?.id ? 'strong' : 'label'}>{s.name}</Type>
                  <Type kind="small">
                    {c?.wants
                      ? `${umol(c.peak.umol)} µmol ${bandWords(c.peak.bandShare)} at its brightest, ${mol(c.dayMol!)} mol a day; wants ${c.wants.fromUmol}–${c.wants.toUmol}`
                      : 'an empty spot'}
                  </Type>
                  {place && step && (
                    <View style={{ flexDirection: 'row', alignItems: 'center', gap: space.s }}>
                      <Balance ratio={c.step!.ratio} ceiling={c.step!.ceiling} width={72} />
                      <Type kind={c.step!.large ? 'label' : 'small'} testID={`used-${s.name}`}>
                        {step}
                      </Type>
                    </View>
                  )}
                </View>
                {place && (
                  <Type
                    kind="label"
                    style={{ textAlign: 'right', maxWidth: 104 }}
                    testID={`standing-${s.name}`}
                  >
                    {`${place.sign} ${place.words}`}
                  </Type>
                )}
              </Row>
            );
          })}
        </View>
        {zone.spots.length === 0 && (
          <Type quiet>No spot yet. Tap the chart where a coral sits, and make it a spot.</Type>
        )}
        {spot && (
          <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
            <Button label={`Edit ${spot.name}`} onPress={() => onEdit(spot)} testID="edit-spot" />
            {(judged?.corals[desk.spotIndex]?.step?.ratio ?? 0) > CEILINGS.gentle && (
              <Button
                label="Ease it in"
                name={`Ease ${spot.name} in`}
                onPress={() => router.navigate(`/ease?of=running&coral=${encodeURIComponent(spot.id)}`)}
                testID="ease-coral"
              />
            )}
            {wants && (
              <Button
                label="Where could it go?"
                onPress={look}
                disabled={!light.field.field}
                testID="where"
              />
            )}
            <Button
              label="Colours"
              name="Corals and their colours"
              onPress={() => router.navigate('/corals')}
            />
          </View>
        )}
      </Section>
      {found && spot && (
        <Section
          title={`Where ${spot.name} could go`}
          aside={<Button label="Close" kind="plain" onPress={() => onFound(null)} />}
        >
          <View>
            {found.candidates.map((c, i) => (
              <Row key={i}>
                <Type kind="strong" style={{ width: 22 }}>
                  {String.fromCharCode(65 + i)}
                </Type>
                <View style={{ flex: 1 }}>
                  <Type kind="label">{`${umol(c.umol)} µmol, ${c.name}`}</Type>
                  <Type kind="small">{`${cm(c.xCm)} cm from left, ${cm(c.yCm)} from front, ${cm(c.depthCm)} deep`}</Type>
                </View>
                <Button
                  label="Move it there"
                  name={`Move ${spot.name} to ${String.fromCharCode(65 + i)}`}
                  kind="plain"
                  onPress={() => {
                    const { xCm, yCm, depthCm } = c;
                    if (
                      run(
                        moveSpot(
                          zone.id,
                          { ...spot, xCm: round(xCm), yCm: round(yCm), depthCm: round(depthCm) },
                          { id: newId(), atUtc: nowUtcIso() },
                        ),
                      )
                    )
                      onFound(null);
                  }}
                />
              </Row>
            ))}
          </View>
          <Type kind="small">
            {found.candidates.length === 0
              ? `No place on floor or rock has the ${wants!.fromUmol}–${wants!.toUmol} µmol it wants; change the light, or a rock’s height.`
              : `Letters stand on the chart. ${percent(found.groundShare)} of floor and rock suit it. A new place is new light: the coral gets used to it over weeks, so look at its balance first and move it in steps where the step is large.`}
          </Type>
        </Section>
      )}
    </>
  );
}

const round = (v: number) => Math.round(v * 2) / 2;
