import type { RunningEntry } from '@/core/case/types';
import { typeCapStep } from '@/state/commands';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { daysBetween, nowUtcIso, shortDate } from '@/state/time';
import { Button } from '@/ui/Button';
import { Note } from '@/ui/Parts';
import { Sheet } from '@/ui/Sheet';
import { Type } from '@/ui/Type';

import { percent, plural } from '../shared/words';

/** The next step of an easing in: one number to type into the lamp. */
export function CapStepSheet({
  running,
  today,
  onClose,
}: {
  running: RunningEntry;
  today: string;
  onClose: () => void;
}) {
  const [step, ...rest] = running.capSteps;
  if (!step) return null;
  const late = daysBetween(step.date, today);
  const last = rest.at(-1);
  return (
    <Sheet title={`Cap ${percent(step.capShare)}`} onClose={onClose}>
      <Type>{`Set the cap of ${running.groupName} from ${percent(running.capShare)} to ${percent(step.capShare)}. Leave everything else as it is.`}</Type>
      {last && (
        <Type
          quiet
        >{`${plural(rest.length, 'more step')}, the last planned for ${shortDate(last.date)} at ${percent(last.capShare)}.`}</Type>
      )}
      {late > 0 && (
        <Type quiet>{`It was due ${plural(late, 'day')} ago; the later steps move by as much.`}</Type>
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
          run(typeCapStep(running, newId(), nowUtcIso(), today));
          onClose();
        }}
      />
    </Sheet>
  );
}
