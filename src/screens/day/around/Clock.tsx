import { fullSeconds } from '@/core/day/day';
import { clockRuns, nextClockChange, secondsOver } from '@/core/day/wallClock';
import { localDate, shortDate, useNowMs } from '@/state/time';
import { Section } from '@/ui/Parts';
import { Type } from '@/ui/Type';

import { apart, MOL } from '../../shared/words';
import type { PartProps } from './part';

/** Days whose light differs by less are alike: no reading tells them apart. Mark: rule of thumb. */
const SAME_SHARE = 0.01;

/** What the next clock change does to this lamp. */
export function Clock({ desk, light, groups }: PartProps) {
  const { zone, spotIndex, spot } = desk;
  const group = desk.group!;
  const kind = desk.lampKind!;
  const nowMs = useNowMs();
  const today = { date: localDate(nowMs, zone.timeZone), timeZone: zone.timeZone };
  const change = nextClockChange(today);
  const index = groups.findIndex((g) => g.groupId === group.id);
  const own = !kind.controller.followsClockChange;
  const words = () => {
    if (!change) return `Clocks do not change in ${zone.timeZone}.`;
    const day = groups[index]!.day;
    const clock = own
      ? ({ follows: false, setUtc: new Date(nowMs).toISOString() } as const)
      : ({ follows: true } as const);
    const seconds = secondsOver(day, clockRuns({ ...today, date: change.date }, clock));
    const at = (s: readonly number[]) =>
      light && spotIndex >= 0
        ? s.reduce((sum, v, c) => sum + v * light.par[index]![spotIndex]![c]!, 0) / 1e6
        : null;
    const [then, usual] = [at(seconds), at(fullSeconds(day))];
    const dose =
      then === null || usual === null
        ? ''
        : Math.abs(then - usual) < SAME_SHARE * usual
          ? ` That day gives ${spot!.name} as much light as any other.`
          : ` That day gives ${apart(MOL, then, usual).join(` mol at ${spot!.name} from ${group.name}, against `)} usually.`;
    return own
      ? `On ${shortDate(change.date)} clocks go ${change.hours < 24 ? 'forward' : 'back'}. This lamp keeps its own time: from then on its day runs an hour ${change.hours < 24 ? 'later' : 'earlier'} by the wall, until its clock is set.${dose}`
      : `On ${shortDate(change.date)} clocks go ${change.hours < 24 ? `forward: the skipped hour is not lit, the day has ${change.hours} hours` : `back: the repeated hour is lit twice, the day has ${change.hours} hours`}.${dose}`;
  };
  return (
    <Section title="Clock">
      <Type testID="clock-said">{words()}</Type>
      <Type kind="small">{`Days follow ${zone.timeZone}. Whether a lamp’s clock does is a property of its controller.`}</Type>
    </Section>
  );
}
