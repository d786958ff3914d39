import { router } from 'expo-router';
import { useMemo } from 'react';
import { View } from 'react-native';

import { type DueItem, dueList } from '@/core/case/due';
import { plural } from '@/core/shape/counts';
import type { Desk } from '@/state/desk';
import { changeSettings, useSettings } from '@/state/settings';
import { daysAgo, daysBetween, localDate, shortDate } from '@/state/time';
import { Fold, Row, Section } from '@/ui/Parts';
import { Type } from '@/ui/Type';

/** A backup older than this is asked for, days. Mark: rule of thumb. */
const BACKUP_DAYS = 30;

/** Looked ahead so many days. */
const AHEAD_DAYS = 14;

/** Where something that is due is done. */
function goTo({ zoneId, what }: DueItem): void {
  changeSettings({ zoneId, groupId: null, plateId: null, spotId: null });
  if (what.is === 'chore') router.navigate('/upkeep');
  else if (what.is === 'measure')
    router.navigate({ pathname: '/experiments', params: { of: what.experimentId } } as never);
  else if (what.is === 'ask') router.navigate({ pathname: '/log', params: { entry: what.eventId } });
  else router.navigate({ pathname: '/log', params: { plan: what.planId } });
}

/** What is due in all waters, and what comes in two weeks. */
export function DueList({ desk, nowMs }: { desk: Desk; nowMs: number }) {
  const { bundle } = desk;
  const all = useMemo(() => dueList(bundle, nowMs, AHEAD_DAYS), [bundle, nowMs]);
  const today = localDate(nowMs, desk.zone.timeZone);
  const due = all.filter((d) => d.date <= today);
  const backedUp = useSettings((s) => s.backedUpUtc);
  // what is made up need not be kept
  const unkept =
    !desk.doc.demo && (backedUp === null || nowMs - Date.parse(backedUp) > BACKUP_DAYS * 86_400_000);
  const coming = all.filter((d) => d.date > today);
  if (all.length === 0 && !unkept) return null;
  const rows = (items: readonly DueItem[]) => (
    <View>
      {items.map((d) => {
        const days = daysBetween(today, d.date);
        return (
          <Row key={d.key} onPress={() => goTo(d)} name={`${d.title}, ${d.zoneName}`}>
            <View style={{ flex: 1 }}>
              <Type kind="label">{d.title}</Type>
              {desk.doc.zones.length > 1 && <Type kind="small">{d.zoneName}</Type>}
            </View>
            <Type kind="label">
              {days < 0 ? `▲ ${plural(-days, 'day')} late` : days === 0 ? '▲ today' : shortDate(d.date)}
            </Type>
          </Row>
        );
      })}
    </View>
  );
  return (
    <Section title="Due">
      <View testID="due-list">
        {unkept && (
          <Row onPress={() => router.navigate('/case')} name="Back up this device">
            <Type kind="label" style={{ flex: 1 }}>
              Back up this device
            </Type>
            <Type kind="label">
              {backedUp === null ? 'never yet' : daysAgo(backedUp, nowMs, desk.zone.timeZone)}
            </Type>
          </Row>
        )}
        {due.length > 0 ? rows(due) : !unkept && <Type kind="small">Nothing today.</Type>}
        {coming.length > 0 && (
          <Fold title={`${plural(coming.length, 'thing')} more in two weeks`} testID="due-coming">
            {rows(coming)}
          </Fold>
        )}
      </View>
    </Section>
  );
}
