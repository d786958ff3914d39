import { router } from 'expo-router';
import { useMemo } from 'react';
import { View } from 'react-native';

import type { Calibration } from '@/core/case/calibration';
import { brightestLevels } from '@/core/case/light';
import { PLACES } from '@/core/case/verdict';
import type { Stand, WholeWay } from '@/core/case/whole';
import { placeInHand } from '@/state/commands/hands';
import { moveSpot } from '@/state/commands/spots';
import type { Desk } from '@/state/desk';
import { newId } from '@/state/id';
import { useLight } from '@/state/light';
import { run } from '@/state/session';
import { localDate, nowUtcIso, useNowMs } from '@/state/time';
import { Button } from '@/ui/Button';
import { usePageSize } from '@/ui/Page';
import { Row, Section } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { Glimpse } from '../shared/Look';
import { handSpot } from '../tank/InHand';
import { howWords, letterOf } from './hangWords';
import { type Taken, takeFirst, takeParts } from './takeWhole';
import {
  dayWords,
  mixWords,
  standWords,
  wholeFigures,
  wholeGivesUp,
  wholeName,
  wholeStep,
  whoOf,
} from './wholeWords';

/** The proposals, the chosen one open: the tank under it, how, what it does and gives up, and its parts to take. */
export function WholeWays({
  desk,
  found,
  asked,
  cal,
  first,
}: {
  desk: Desk;
  found: readonly WholeWay[];
  asked: { letter: string; groupId: string; set: (change: Record<string, string>) => void };
  cal: Calibration;
  /** its lamps are not drafted yet */
  first: boolean;
}) {
  const { zone } = desk;
  const open = Math.max(
    0,
    found.findIndex((_, i) => letterOf(i) === asked.letter),
  );
  return (
    <Section title="Proposals">
      <View>
        {found.map((w, i) => (
          <View key={letterOf(i)}>
            <Row
              name={`${wholeName(w, i)}. ${wholeFigures(w, zone)} ${i === open ? 'Shown' : 'Shows it'}`}
              onPress={() => asked.set({ way: letterOf(i) })}
            >
              <View style={{ flex: 1, gap: 2, paddingVertical: space.s }} testID={`whole-${letterOf(i)}`}>
                <Type kind={i === open ? 'strong' : 'label'}>{wholeName(w, i)}</Type>
                <Type kind="small">{wholeFigures(w, zone)}</Type>
              </View>
            </Row>
            {i === open && <Way {...{ desk, w, cal, first }} groupId={asked.groupId} best={found[0]!} />}
          </View>
        ))}
      </View>
    </Section>
  );
}

function Way({
  desk,
  w,
  best,
  cal,
  first,
  groupId,
}: {
  desk: Desk;
  w: WholeWay;
  best: WholeWay;
  cal: Calibration;
  first: boolean;
  groupId: string;
}) {
  const { zone } = desk;
  const page = usePageSize();
  const group = zone.groups.find((g) => g.id === groupId);
  const kind = w.groups.find((g) => g.groupId === groupId)?.lampKind ?? w.groups.at(-1)!.lampKind;
  const take = (what: readonly Taken[]) => run(first ? takeFirst(desk, w) : takeParts(w, group!, what));
  const elsewhere = w.stands.filter((s) => s.to !== null || s.nowhere);
  const gives = w === best ? '' : wholeGivesUp(w, best);
  return (
    <View style={{ gap: space.s, paddingBottom: space.m }}>
      <Picture {...{ desk, w, cal }} width={page.main} />
      {gives !== '' && <Type kind="small">{gives}</Type>}
      <Type testID="whole-how">{howWords({ ...w, kind, figures: w })}</Type>
      <Type kind="small" testID="whole-mix">
        {mixWords(w, kind)}
      </Type>
      <Type kind="small">{dayWords(w)}</Type>
      {wholeStep(w, zone) !== '' && <Type kind="small">{wholeStep(w, zone)}</Type>}
      {elsewhere.map((s) => (
        <StandRow key={whoOf(s, zone).id} desk={desk} stand={s} />
      ))}
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
        <Button
          label={first ? 'Draft it' : 'Draft all of it'}
          kind="filled"
          onPress={() => take(['lamps', 'mix', 'day'])}
          testID="whole-take"
        />
        {!first && (
          <Button label="Only the lamps" onPress={() => take(['lamps'])} testID="whole-take-lamps" />
        )}
        {!first && w.mix.levels && (
          <Button label="Only the mix" onPress={() => take(['mix'])} testID="whole-take-mix" />
        )}
        {!first && w.laterMin !== 0 && (
          <Button label="Only the day" onPress={() => take(['day'])} testID="whole-take-day" />
        )}
        {!first && <Button label="Ease it in" onPress={() => router.navigate('/ease')} testID="whole-ease" />}
      </View>
    </View>
  );
}

/** Somebody who would stand elsewhere: once it does, one tap says so. */
function StandRow({ desk: { zone }, stand }: { desk: Desk; stand: Stand }) {
  const nowMs = useNowMs();
  const { who, to, placed } = stand;
  const { name, id } = whoOf(stand, zone);
  const there = () => {
    const at = { xCm: Math.round(to!.xCm), yCm: Math.round(to!.yCm), depthCm: Math.round(to!.depthCm) };
    run(
      who.spot === undefined
        ? placeInHand(
            zone.id,
            id,
            handSpot(zone.inHand![who.hand]!, { ...at, id: newId() }, localDate(nowMs, zone.timeZone)),
          )
        : moveSpot(zone.id, { ...zone.spots[who.spot]!, ...at }, { id: newId(), atUtc: nowUtcIso() }),
    );
  };
  return (
    <View style={{ gap: space.xs }} testID={`stand-${id}`}>
      <Type kind="small">
        {`${standWords(stand, zone)}${placed ? `, ${PLACES[placed.place].words}.` : ''}`}
      </Type>
      {to && (
        <Button
          label={`${name} stands there now`}
          name={`${name} stands ${to.name} now`}
          onPress={there}
          testID={`stands-${id}`}
        />
      )}
    </View>
  );
}

/** The tank as it would look under a proposal, those who would be new or elsewhere in their places. */
function Picture({ desk, w, cal, width }: { desk: Desk; w: WholeWay; cal: Calibration; width: number }) {
  const seen = useMemo((): Desk => {
    const { zone } = desk;
    const spots = w.stands.flatMap((s) => {
      const at = s.to ?? {};
      if (s.who.spot !== undefined) return [{ ...zone.spots[s.who.spot]!, ...at }];
      return s.to ? [handSpot(zone.inHand![s.who.hand]!, { ...s.to, id: whoOf(s, zone).id }, '')] : [];
    });
    const own = { ...zone, spots: spots.map((s) => ({ ...s, name: s.name })) };
    return { ...desk, zone: own, spot: own.spots[0] ?? null, spotIndex: own.spots.length > 0 ? 0 : -1 };
  }, [desk, w]);
  const { light } = useLight(w.groups, seen.zone, cal);
  if (!light || seen.zone.spots.length === 0) return null;
  return (
    <Glimpse
      {...{ desk: seen, light, width }}
      groups={w.groups}
      levels={brightestLevels(light, w.groups, 0)}
      name="The tank under this proposal"
    />
  );
}
