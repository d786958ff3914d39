import { router } from 'expo-router';
import { useMemo, useState } from 'react';
import { View } from 'react-native';

import { dueChores, overdueChores } from '@/core/case/chores';
import { dueStep } from '@/core/case/planAhead';
import { stepWords } from '@/core/case/stepWords';
import { activePlans, type EasingPlan, type RunningEntry } from '@/core/record/history';
import { inWords } from '@/core/shape/counts';
import type { Desk } from '@/state/desk';
import { Button } from '@/ui/Button';
import { font, space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { useDeskAhead } from '../shared/PlanRow';
import { PlanSheet } from '../sheets';

/** A step of easing in that is due, or put off by what happened since it was planned. */
function DueStep({ plan }: { plan: EasingPlan }) {
  const [open, setOpen] = useState(false);
  const { ahead, refused } = useDeskAhead(plan);
  const words = ahead
    ? ahead.due
      ? `Next step: ${stepWords(plan, ahead.coming[0]!.setting)}`
      : `${plan.name}: nothing to type in today`
    : refused
      ? `${plan.name}: no further step`
      : `A step of ${plan.name} is due`;
  return (
    <>
      <Button label={words} kind="filled" wide onPress={() => setOpen(true)} testID="due" />
      {open && <PlanSheet plan={plan} onClose={() => setOpen(false)} />}
    </>
  );
}

interface Props {
  desk: Desk;
  entries: RunningEntry[];
  readings: number;
  today: string;
  spotId: string | null;
  nowMs: number;
}

/** What was typed in by hand is worth a proof for so many days, whatever else is due. Mark: rule of thumb. */
const FRESH_DAYS = 3;
const justTyped = (entries: readonly RunningEntry[], nowMs: number): boolean =>
  entries.some((e) => e.sure === 'typedIn' && nowMs - Date.parse(e.atUtc) < FRESH_DAYS * 86_400_000);

/** The one thing due, and the way to prove what was just typed in. */
export function Due(props: Props) {
  return (
    <>
      <OneDue {...props} />
      {justTyped(props.entries, props.nowMs) && <ProveKey />}
    </>
  );
}

const ProveKey = () => (
  <Button
    label="Does it really run this?"
    kind="plain"
    onPress={() => router.navigate('/prove')}
    testID="today-prove"
  />
);

function OneDue({ desk, entries, readings, today, spotId, nowMs }: Props) {
  const { zone, bundle } = desk;
  // of ten years of entries once, not at every turn of the clock
  const chores = useMemo(() => dueChores(bundle, zone), [bundle, zone]);
  const due = activePlans(desk.bundle.history, zone.id).find((p) => dueStep(p, today));
  const unknown = zone.groups.find((g) => !entries.some((e) => e.groupId === g.id));
  if (zone.groups.length === 0) {
    return <Button label="Add a lamp" kind="filled" wide onPress={() => router.navigate('/case')} />;
  }
  if (due) return <DueStep plan={due} />;
  if (unknown) {
    return (
      <Button
        label={`Type ${entries.length === 0 ? 'the day' : unknown.name} into the lamp`}
        kind="filled"
        wide
        onPress={() => router.navigate('/sheet')}
        testID="due"
      />
    );
  }
  const [late, ...more] = overdueChores(chores, nowMs);
  if (late) {
    return (
      <Button
        label={`Upkeep due: ${late.chore.name.toLowerCase()}${more.length > 0 ? `, and ${inWords(more.length)} more` : ''}`}
        wide
        onPress={() => router.navigate('/upkeep')}
        testID="due"
      />
    );
  }
  if (readings === 0 && spotId !== null) {
    return (
      <Button
        label="Take one reading: PAR is still an estimate"
        wide
        onPress={() => router.navigate({ pathname: '/readings', params: { read: spotId } })}
        testID="due"
      />
    );
  }
  return (
    <View style={{ flexDirection: 'row', alignItems: 'center', flexWrap: 'wrap', gap: space.s }}>
      <Type kind="small" style={{ fontFamily: font.sans }} testID="due">
        Nothing is due today.
      </Type>
      {!justTyped(entries, nowMs) && entries.some((e) => e.sure !== 'proven') && <ProveKey />}
    </View>
  );
}
