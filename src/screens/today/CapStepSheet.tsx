import type { RunningEntry } from '@/core/case/types';
import { typeCapStep } from '@/state/commands';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { nowUtcIso, shortDate } from '@/state/time';
import { Button } from '@/ui/Button';
import { Note } from '@/ui/Parts';
import { Sheet } from '@/ui/Sheet';
import { Type } from '@/ui/Type';

import { percent, plural } from '../shared/words';

/** Today's step of an easing in: one number to type into the lamp. */
export function CapStepSheet({
  running,
  step,
  onClose,
}: {
  running: RunningEntry;
  step: { date: string; capShare: number };
  onClose: () => void;
}) {
  const rest = running.capSteps.filter((s) => s.date > step.date);
  const last = rest.at(-1);
  return (
    <Sheet title={`Cap ${percent(step.capShare)}`} onClose={onClose}>
      <Type>{`Set the cap of ${running.groupName} from ${percent(running.capShare)} to ${percent(step.capShare)}. Leave everything else as it is.`}</Type>
      {last && (
        <Type
          quiet
        >{`${plural(rest.length, 'more step')}, the last on ${shortDate(last.date)} at ${percent(last.capShare)}.`}</Type>
      )}
      <Note>
        If a coral pales, draws its polyps in, or suddenly shows welcome new colour, stay at the present cap
        for now.
      </Note>
      <Button
        label="Typed in"
        kind="filled"
        wide
        testID="typed-cap"
        onPress={() => {
          run(typeCapStep(running, newId(), nowUtcIso(), step));
          onClose();
        }}
      />
    </Sheet>
  );
}
