import { useQuery } from '@tanstack/react-query';
import { router } from 'expo-router';
import { useMemo, useState } from 'react';
import { View } from 'react-native';

import type { CoralPlace } from '@/core/case/placing';
import { calibrationKey } from '@/core/case/calibration';
import { expectedAtPlace, foretoldEntry } from '@/core/case/foretold';
import { dayAt, levelsOfGroups, spectrumUnder, zoneLitHours } from '@/core/case/light';
import { rigKey } from '@/core/case/lit';
import { brightestMinute } from '@/core/case/plateaus';
import { sharesAt } from '@/core/case/rows';
import { PLACES, times } from '@/core/case/verdict';
import { NAME_LENGTH } from '@/core/shape/shape';
import { lengthWords } from '@/core/shape/units';
import { par } from '@/core/spectrum/bands';
import { integrate } from '@/core/spectrum/grid';
import { placeInHand } from '@/state/commands/hands';
import { withTold } from '@/state/commands/log';
import { draftOf, runningOf, useDesk } from '@/state/desk';
import { newId } from '@/state/id';
import { useCeiling } from '@/state/judgement';
import { useCalibration, useLight } from '@/state/light';
import { run } from '@/state/session';
import { changeSettings } from '@/state/settings';
import { placingQuery } from '@/state/hanging';
import { useField } from '@/state/tank';
import { localDate, useNowMs, utcIso } from '@/state/time';
import { Button } from '@/ui/Button';
import { Page } from '@/ui/Page';
import { Row, Section } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { bandWords, mol, umol } from '../shared/words';
import { HandSentence, handSpot, useInHand } from './InHand';
import { PlacePlan } from './PlacePlan';
import { Cards, type OwnLight } from './Cards';
import { firstWords, letter, lookWords, moreWords, rightWords, whenWords } from './placeWords';

/** A coral that is in hand: where it could go, how soon, and who would be its neighbours. */
export function PlacePage() {
  const desk = useDesk();
  const { zone, bundle } = desk;
  const nowMs = useNowMs();
  const cal = useCalibration(bundle, zone);
  const ceiling = useCeiling();
  const hand = useInHand(desk);
  const { coral, kept } = hand;
  const running = runningOf(desk, nowMs).groups;
  const groups = running.length > 0 ? running : draftOf(desk);
  const { field } = useField(groups, zone, cal);
  const { light } = useLight(groups, zone, cal);
  const [open, setOpen] = useState(0);
  const shares = useMemo(
    () => (light ? sharesAt(groups, brightestMinute(light, groups), cal) : new Float64Array()),
    [light, groups, cal],
  );
  const { data: found = null, error } = useQuery(
    placingQuery(
      [rigKey(groups, zone, zone.spots, cal), calibrationKey(cal), groups.map((g) => g.threads), zone.spots],
      coral,
      zone,
      groups,
      cal,
      light && field ? field : null,
      shares,
      ceiling,
    ),
  );
  const first = found?.places[0];
  const own = useMemo((): OwnLight | null => {
    const at = Math.max(0, desk.spotIndex);
    if (!light || light.spots <= at) return null;
    const day = dayAt(light, groups, at);
    const seen = spectrumUnder(light, levelsOfGroups(groups, day.peakMinute), at);
    const all = par(seen);
    return all > 0
      ? { peakUmol: day.peak, hours: zoneLitHours(groups), blueShare: integrate(seen, 400, 500) / all }
      : null;
  }, [light, groups, desk.spotIndex]);
  const take = (p: CoralPlace) => {
    const id = p.spotId ?? newId();
    const own = zone.spots.find((s) => s.id === p.spotId);
    const at = own ?? { xCm: Math.round(p.xCm), yCm: Math.round(p.yCm), depthCm: Math.round(p.depthCm) };
    const spot = {
      ...handSpot(coral, { ...at, id }, localDate(nowMs, zone.timeZone)),
      openShare: own?.openShare ?? 1,
    };
    const today = localDate(nowMs, zone.timeZone);
    // a climb to its place foretells by itself
    const told =
      p.afterDays === 0
        ? foretoldEntry(
            {
              ...{ id: newId(), zoneId: zone.id, atUtc: utcIso(nowMs), lastDate: today },
              of: `${spot.name} placed`.slice(0, NAME_LENGTH),
            },
            expectedAtPlace(spot, p),
          )
        : null;
    if (!run(withTold(placeInHand(zone.id, kept?.id ?? null, spot), told))) return;
    hand.clear();
    changeSettings({ spotId: id });
    router.navigate(
      p.afterDays === 0 ? '/tank' : (`/ease?of=running&coral=${encodeURIComponent(id)}` as never),
    );
  };
  return (
    <Page
      testID="place"
      title="A coral in hand"
      under={`${zone.name} · a place for it`}
      sentence={
        <Type kind="sentence" testID="place-sentence" roomLines={2} style={{ maxWidth: 700 }}>
          {groups.length === 0
            ? 'Without a lamp no place has light to choose by.'
            : error
              ? `The places could not be computed: ${error.message}.`
              : !found
                ? 'The light of every place is being computed.'
                : !first
                  ? 'No place is free here: corals or glass are too near everywhere.'
                  : firstWords(first, found.places, ceiling)}
        </Type>
      }
    >
      <HandSentence {...{ zone, hand }} forms={desk.doc.forms} />
      {coral.light && own && (
        <Type kind="small" testID="place-look">
          {lookWords(coral, own)}
        </Type>
      )}
      <Cards {...{ desk, own }} onRead={hand.set} />
      {groups.length === 0 && (
        <Button label="Add a lamp" kind="filled" wide onPress={() => router.navigate('/lamps')} />
      )}
      {found && <PlacePlan {...{ desk, found, open }} onOpen={setOpen} />}
      {found && found.places.length > 0 && (
        <Section title="Places">
          <View>
            {found.places.map((p, i) => (
              <View key={`${p.xCm} ${p.yCm} ${p.depthCm}`}>
                <Row
                  name={`${p.name}: ${umol(p.umol)} µmol, ${PLACES[p.placed.place].words}, ${whenWords(p, ceiling)}`}
                  onPress={() => setOpen(i)}
                >
                  <View style={{ flex: 1, paddingVertical: space.s }} testID={`place-${i}`}>
                    <Type
                      kind={i === open ? 'strong' : 'label'}
                    >{`${letter(i)} · ${p.name}, ${lengthWords(Math.round(p.depthCm))} deep`}</Type>
                    <Type kind="small">{`${umol(p.umol)} µmol ${bandWords(p.bandShare)}, ${mol(p.dliMol)} mol a day; ${times(p.step.ratio, p.bandShare)} ${coral.cameFrom ? 'what it comes from' : 'the light assumed for it'}; ${whenWords(p, ceiling)}`}</Type>
                  </View>
                  <Type kind="label" style={{ width: 132, textAlign: 'right' }}>
                    {`${PLACES[p.placed.place].sign} ${PLACES[p.placed.place].words},\n${rightWords(p)}`}
                  </Type>
                </Row>
                {i === open && (
                  <View style={{ gap: space.s, paddingBottom: space.m }}>
                    <Type kind="small" testID="place-more">
                      {moreWords(p, found.ways[i]!, found.places, desk)}
                    </Type>
                    <Button
                      label={p.afterDays === 0 ? 'It goes here' : 'It goes here, eased in'}
                      kind="filled"
                      onPress={() => take(p)}
                      testID="take-place"
                    />
                  </View>
                )}
              </View>
            ))}
          </View>
          <Type kind="small">
            Light is of the day’s brightest as it runs. Floor, rock and your empty spots are looked at; a rack
            or ledge is one once it is a spot on the chart. Ranges by kind and the reach of stings are rules
            of thumb; flow and food decide as much. Handle corals with gloves and eye protection: some hold
            strong toxins.
          </Type>
        </Section>
      )}
    </Page>
  );
}
