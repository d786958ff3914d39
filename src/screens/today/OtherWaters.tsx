import { View } from 'react-native';

import { dayAt, levelsOfGroups, parUnder } from '@/core/case/light';
import { runningAt } from '@/core/case/lit';
import type { Zone } from '@/core/record/zone';
import { formatTime } from '@/core/day/clock';
import { litPieces } from '@/core/day/day';
import { type Desk } from '@/state/desk';
import { changeSettings } from '@/state/settings';
import { utcIso, wallMinute } from '@/state/time';
import { Row, Section } from '@/ui/Parts';
import { Type } from '@/ui/Type';

import { useWaterLight } from '../shared/useWaterLight';
import { umol } from '../shared/words';

/** The other waters of the case, summed up in a line each; a tap puts one on the desk. */
export function OtherWaters({ desk, nowMs }: { desk: Desk; nowMs: number }) {
  const others = desk.doc.zones.filter((z) => z.id !== desk.zone.id);
  if (others.length === 0) return null;
  return (
    <Section title={others.length === 1 ? 'The other water' : 'The other waters'}>
      <View testID="other-waters">
        {others.map((z) => (
          <Water key={z.id} zone={z} desk={desk} nowMs={nowMs} />
        ))}
      </View>
    </Section>
  );
}

function Water({ zone, desk, nowMs }: { zone: Zone; desk: Desk; nowMs: number }) {
  const { bundle } = desk;
  const { groups, light } = useWaterLight(desk, zone, nowMs, 'running');
  const runs = runningAt(bundle.history, zone, utcIso(nowMs)).length > 0;
  const minute = wallMinute(nowMs, zone.timeZone);
  const spot = zone.spots[0];
  const now = light && spot ? parUnder(light, levelsOfGroups(groups, minute), 0) : null;
  const peak = light && spot ? dayAt(light, groups, 0).peak : null;
  const lit = litPieces(groups.map((g) => g.day));
  const here = lit.find((p) => p.from <= minute && p.to > minute);
  // what ends at midnight goes on when the next day begins lit
  const end = here?.to === 1440 && lit[0]?.from === 0 ? lit[0].to : here?.to;
  const next = lit.find((p) => p.from > minute)?.from ?? lit[0]?.from;
  const state =
    zone.groups.length === 0
      ? 'no lamp yet'
      : !runs
        ? 'nothing known to be running'
        : lit.length === 1 && lit[0]!.to - lit[0]!.from >= 1440
          ? 'lit round the clock'
          : here
            ? `lit until ${formatTime(end!)}`
            : next === undefined
              ? 'dark all day'
              : `dark until ${formatTime(next)}`;
  return (
    <Row
      onPress={() => changeSettings({ zoneId: zone.id, groupId: null, plateId: null, spotId: null })}
      name={`Show ${zone.name}`}
    >
      <View style={{ flex: 1 }}>
        <Type kind="label">{zone.name}</Type>
        <Type kind="small" testID={`water-${zone.name}`}>
          {[state, runs && peak !== null ? `peak ${umol(peak)} µmol at ${spot!.name}` : null]
            .filter(Boolean)
            .join(' · ')}
        </Type>
      </View>
      {runs && now !== null && <Type kind="strong">{`${umol(now)} µmol`}</Type>}
    </Row>
  );
}
