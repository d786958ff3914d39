import { View } from 'react-native';

import { doneSteps, openSteps } from '@/core/case/planAhead';
import { stepWords } from '@/core/case/stepWords';
import type { EasingPlan } from '@/core/record/history';
import { useDesk } from '@/state/desk';
import { usePlanAhead } from '@/state/ease';
import { useCalibration } from '@/state/light';
import { shortDate, useNowMs } from '@/state/time';
import { Row } from '@/ui/Parts';
import { Type } from '@/ui/Type';

/** How a plan of the water on the desk goes on. */
export function useDeskAhead(plan: EasingPlan) {
  const { zone, bundle } = useDesk();
  const cal = useCalibration(bundle, zone);
  return usePlanAhead({ zone, past: bundle, cal, nowMs: useNowMs() }, plan);
}

/** A plan under way in a line: its next step and its last. */
export function PlanRow({ plan, onPress }: { plan: EasingPlan; onPress: () => void }) {
  const { ahead, refused, error } = useDeskAhead(plan);
  const words = () => {
    if (plan.state === 'paused') return 'Paused; what runs now stays.';
    if (openSteps(plan).length === 0) return 'Every step is done.';
    if (refused) return `No further step: ${refused}.`;
    if (error) return `The next step could not be reckoned: ${error}.`;
    if (!ahead) return 'The next step is being reckoned.';
    const { coming } = ahead;
    const done = doneSteps(plan).length;
    const next = `Step ${done + 1} of ${done + coming.length} on ${shortDate(coming[0]!.date)}: ${stepWords(plan, coming[0]!.setting)}`;
    return `${next}. The last on ${shortDate(coming.at(-1)!.date)}.${ahead.asPlanned ? '' : ' Planned anew from what they are used to.'}`;
  };
  return (
    <Row onPress={onPress} name={`Easing in: ${plan.name}`}>
      <View style={{ flex: 1 }}>
        <Type kind="label">{plan.name}</Type>
        <Type kind="small" testID="plan-row">
          {words()}
        </Type>
      </View>
    </Row>
  );
}
