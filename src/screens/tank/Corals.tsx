import { capital, inWords } from '@/core/shape/counts';
import { lengthFigure, lengthWords } from '@/core/shape/units';
import { router } from 'expo-router';
import { View } from 'react-native';

import type { Judgement } from '@/core/case/judgement';
import { type FoundPlaces, placesFor } from '@/core/case/places';
import { OF_STATE, PLACES, ratioOf, stepOf } from '@/core/case/verdict';
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
import { Fold, Row, Section } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { newSpot } from '../shared/newSpot';
import { bandWords, mol, tenantsOf, umol } from '../shared/words';
import { percent } from '@/core/shape/percent';
import type { TankLight } from './useTankLight';

/** One coral or spot: what it gets against what it wants and is used to; the chosen one with all of it. */
function CoralRow({
  desk,
  judged,
  spot,
  chosen = false,
  onEdit,
  onFound,
}: Pick<Props, 'desk' | 'judged' | 'onEdit' | 'onFound'> & { spot: Spot; chosen?: boolean }) {
  const c = judged?.corals[desk.zone.spots.indexOf(spot)];
  const place = c?.placed && PLACES[c.placed.place];
  const step = c?.step ?? null;
  const kind = step?.large ? 'label' : 'small';
  return (
    <Row
      name={`${spot.name}${place ? `: ${umol(c.peak.umol)} µmol, ${place.words}` : ''}. ${chosen ? 'Chosen; opens its place and needs' : 'Chooses it'}`}
      onPress={() => {
        if (chosen) return onEdit(spot);
        changeSettings({ spotId: spot.id });
        onFound(null);
      }}
    >
      <View
        style={chosen ? { flex: 1 } : { flex: 1, flexDirection: 'row', flexWrap: 'wrap', columnGap: space.s }}
      >
        <Type kind={chosen ? 'strong' : 'label'}>{spot.name}</Type>
        {chosen ? (
          <Type kind="small" testID="chosen-coral">
            {c?.wants
              ? `${umol(c.peak.umol)} µmol ${bandWords(c.peak.bandShare)} at its brightest, ${mol(c.dayMol!)} mol a day; wants ${c.wants.fromUmol}–${c.wants.toUmol}`
              : 'an empty spot'}
          </Type>
        ) : (
          <Type kind={kind}>
            {c?.wants ? `${umol(c.peak.umol)} µmol${place && step ? ' · ' : ''}` : 'an empty spot'}
            {place && step && (
              <Type kind={kind} testID={`used-${spot.name}`}>
                {ratioOf(c)}
              </Type>
            )}
          </Type>
        )}
        {place && step && chosen && (
          <View style={{ flexDirection: 'row', alignItems: 'center', gap: space.s }}>
            <Balance ratio={step.ratio} ceiling={step.ceiling} width={72} />
            <Type kind={kind} testID={`used-${spot.name}`}>
              {stepOf(c, judged!.state)}
            </Type>
          </View>
        )}
      </View>
      {place && (
        <Type
          kind="label"
          style={{ textAlign: 'right', maxWidth: chosen ? 104 : 150 }}
          testID={`standing-${spot.name}`}
        >
          {`${place.sign} ${place.words}`}
        </Type>
      )}
    </Row>
  );
}

interface Props {
  desk: Desk;
  light: TankLight;
  judged: Judgement | null;
  found: FoundPlaces | null;
  /** the other corals stand open beneath the chosen one */
  open: boolean;
  onEdit: (spot: Spot) => void;
  onFound: (found: FoundPlaces | null) => void;
}

/** Corals and empty spots with their light against what they want; where the chosen one could go. */
export function Corals({ desk, light, judged, found, open, onEdit, onFound }: Props) {
  const { zone, spot } = desk;
  const { cal, groups } = light;
  const wants = spot && wantsOf(spot, zone);
  const look = () => {
    const field = light.field.field;
    if (!field || !wants || !judged) return;
    // where the light of the day is at its brightest over the spots; a dark day has no such minute
    const minute = judged.corals[desk.spotIndex]!.peak.minute ?? 0;
    onFound(placesFor(field, zone.tank, zone.spots, wants, sharesAt(groups, minute, cal)));
  };
  const others = zone.spots.filter((s) => s.id !== spot?.id);
  // whose step is too large is not folded away unseen
  const marked = judged?.corals.some((c, i) => c.step?.large && zone.spots[i]?.id !== spot?.id) ? '▲ ' : '';
  const row = { desk, judged, onEdit, onFound };
  const add = (
    <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
      <Button label="Add a spot" testID="add-spot" onPress={() => onEdit(newSpot(zone))} />
      <Button label="A coral in hand" testID="to-place" onPress={() => router.navigate('/place' as never)} />
    </View>
  );
  return (
    <>
      <View
        style={{ gap: space.m }}
        role="region"
        aria-label={`${capital(tenantsOf(zone.spots).many)} and spots`}
      >
        {spot && <CoralRow {...row} spot={spot} chosen />}
        {zone.spots.length === 0 && (
          <>
            <Type quiet>No spot yet. Tap the chart where a coral sits, and make it a spot.</Type>
            {add}
          </>
        )}
        {spot && (
          <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
            <Button label="Edit" name={`Edit ${spot.name}`} onPress={() => onEdit(spot)} testID="edit-spot" />
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
                disabled={!light.field.field || !judged}
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
        {zone.spots.length > 0 && (
          <Fold
            title={
              others.length === 0
                ? 'Another coral or spot'
                : `${marked}The other ${others.length === 1 ? 'spot' : `${inWords(others.length)} spots`}`
            }
            open={open}
            testID="other-corals"
          >
            {others.length > 0 && judged && judged.corals.some((c) => c.step) && (
              <Type kind="small" testID="used-of">
                {`µmol at its brightest; × what each is used to, ${OF_STATE[judged.state]}`}
              </Type>
            )}
            <View>
              {others.map((s) => (
                <CoralRow key={s.id} {...row} spot={s} />
              ))}
            </View>
            {add}
          </Fold>
        )}
      </View>
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
                  <Type kind="small">{`${lengthWords(c.xCm, true)} from left, ${lengthFigure(c.yCm, true)} from front, ${lengthFigure(c.depthCm, true)} deep`}</Type>
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
