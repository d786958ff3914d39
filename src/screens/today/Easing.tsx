import { router } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';

import { riseShare } from '@/core/case/lit';
import type { EasingPlan, RunningEntry } from '@/core/record/history';
import { percent } from '@/core/shape/percent';
import type { Desk } from '@/state/desk';
import { addDays, localDate, shortDate } from '@/state/time';
import { Button } from '@/ui/Button';
import { Section } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import type { PlanAct } from '../ease/PlanSheet';
import { PlanRow } from '../shared/PlanRow';
import { PlanSheet } from '../sheets';

/** What is being eased in: the next step, the lamp’s own rise, signs. */
export function Easing({ desk, entries, nowMs }: { desk: Desk; entries: RunningEntry[]; nowMs: number }) {
  const { zone, bundle } = desk;
  const today = localDate(nowMs, zone.timeZone);
  const [open, setOpen] = useState<{ plan: EasingPlan; act?: PlanAct; days?: number } | null>(null);
  const plans = bundle.history.plans.filter(
    (p) => p.zoneId === zone.id && (p.state === 'active' || p.state === 'paused'),
  );
  const rising = entries.filter((e) => e.rise && riseShare(e.rise, today) < e.rise.toShare);
  return (
    <Section title="Easing in">
      <View testID="easing-step">
        {plans.length === 0 && rising.length === 0 && <Type kind="small">No easing-in step is planned.</Type>}
        {plans.map((p) => (
          <PlanRow key={p.id} plan={p} onPress={() => setOpen({ plan: p })} />
        ))}
        {rising.map((e) => (
          <Type key={e.id} kind="small">
            {`${e.groupName} rises by itself: ${percent(riseShare(e.rise, today))} of the target today, whole on ${shortDate(addDays(e.rise!.date, e.rise!.days))}.`}
          </Type>
        ))}
      </View>
      <View style={{ flexDirection: 'row', gap: space.s, flexWrap: 'wrap' }}>
        <Button label="Plan a change" onPress={() => router.navigate('/ease')} testID="today-ease" />
      </View>
      {open && (
        <PlanSheet plan={open.plan} act={open.act} holdDays={open.days} onClose={() => setOpen(null)} />
      )}
    </Section>
  );
}
