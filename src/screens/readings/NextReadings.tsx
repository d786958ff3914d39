import { capital, plural } from '@/core/shape/counts';
import { router } from 'expo-router';
import { useMemo, useState } from 'react';
import { View } from 'react-native';
import { type Calibration } from '@/core/case/calibration';
import { brightestLevels } from '@/core/case/light';
import { planVisit, type Visit } from '@/core/case/visit';
import { litNow, type Desk } from '@/state/desk';
import { useLight } from '@/state/light';
import { changeSettings } from '@/state/settings';
import { useNowMs } from '@/state/time';
import { Button } from '@/ui/Button';
import { Section } from '@/ui/Parts';
import { Sentence } from '@/ui/Sentence';
import { Type } from '@/ui/Type';
import { bandWords, tenantsOf } from '../shared/words';
import { percent } from '@/core/shape/percent';

/** Minutes that a round with the meter may take. */
const MINUTES = [5, 10, 20, 40] as const;

export function Next({ desk, cal }: { desk: Desk; cal: Calibration }) {
  const { zone } = desk;
  const nowMs = useNowMs();
  const groups = litNow(desk, nowMs);
  const { light } = useLight(groups, zone, cal);
  const [minutes, setMinutes] = useState<number>(10);
  const visit = useMemo(() => {
    if (!light || zone.spots.length === 0) return null;
    const corals = zone.spots.flatMap((s, i) => (s.need ? [i] : []));
    const about = corals.length > 0 ? corals : zone.spots.map((_, i) => i);
    return planVisit(cal, light, groups, brightestLevels(light, groups, about[0]!), about, minutes);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the light is made of the groups
  }, [cal, light, zone.spots, minutes]);
  if (!visit) return null;
  const named = (stop: Visit['stops'][number]) => {
    const group = groups.find((g) => g.groupId === stop.alone?.groupId);
    const channel = group?.lampKind.channels.find((c) => c.id === stop.alone?.channelId);
    return `${channel ? `${channel.name} alone at full` : 'the day at its brightest'} at ${zone.spots[stop.spot]!.name}`;
  };
  const first = visit.stops[0];
  const worth = first !== undefined && visit.bandBefore - visit.bandAfter > 0.005;
  return (
    <Section title="What to read next">
      <Sentence
        testID="visit"
        parts={[
          'In ',
          {
            id: 'visit-minutes',
            name: 'Minutes with the meter',
            value: `${minutes} minutes`,
            options: MINUTES.map((m) => ({ value: String(m), label: `${m} minutes` })),
            chosen: String(minutes),
            onChoose: (v) => setMinutes(Number(v)),
          },
          worth
            ? ` the mean ± over the ${tenantsOf(zone.spots).many} would fall from ${percent(visit.bandBefore)} to ${percent(visit.bandAfter)}, by ${plural(visit.stops.length, 'reading')}:`
            : ` no reading would narrow the bands by much: they stand at ${bandWords(visit.bandBefore)} on average.`,
        ]}
      />
      {worth && (
        <>
          <View testID="visit-stops">
            {visit.stops.map((stop, i) => (
              <Type key={`${stop.spot} ${stop.alone?.channelId}`} kind={i === 0 ? 'strong' : 'body'}>
                {`${i + 1} · ${capital(named(stop))}`}
              </Type>
            ))}
          </View>
          <Button
            label="Read the first"
            testID="read-next"
            onPress={() => {
              const spot = zone.spots[first.spot]!;
              changeSettings({ spotId: spot.id });
              const lit = first.alone ? `alone:${first.alone.groupId}/${first.alone.channelId}` : 'now';
              router.navigate({ pathname: '/readings', params: { read: spot.id, lit } });
            }}
          />
          <Type kind="small">The round is planned anew with every reading.</Type>
        </>
      )}
    </Section>
  );
}
