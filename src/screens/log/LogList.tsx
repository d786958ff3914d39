import { View } from 'react-native';

import type { LogLine } from '@/core/case/timeline';
import { shortTime } from '@/core/day/clock';
import { localDate, shortDate, timeOfDay, wallMinute } from '@/state/time';
import { Row } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';
import { Windowed } from '@/ui/Windowed';

import { apart, giveOrTake, MOL, mol, times, UMOL, umol } from '../shared/words';

/** Lines of the log under their days, newest first; only those in sight are drawn. */
export function LogList({
  lines,
  timeZone,
  onOpen,
}: {
  lines: readonly LogLine[];
  timeZone: string;
  onOpen: (line: LogLine) => void;
}) {
  const days = lines.map((l) => localDate(Date.parse(l.atUtc), timeZone));
  const isFirst = (i: number) => i === 0 || days[i] !== days[i - 1];
  return (
    <Windowed
      count={lines.length}
      keyOf={(i) => lines[i]!.id}
      usualPx={(i) => (isFirst(i) ? 116 : 64)}
      draw={(i) => (
        <>
          {isFirst(i) && (
            <Type kind="heading" style={{ paddingTop: space.l }}>
              {shortDate(days[i]!)}
            </Type>
          )}
          <Line line={lines[i]!} timeZone={timeZone} onPress={() => onOpen(lines[i]!)} />
        </>
      )}
    />
  );
}

function Line({ line, timeZone, onPress }: { line: LogLine; timeZone: string; onPress: () => void }) {
  const { met } = line;
  const ms = Date.parse(line.atUtc);
  return (
    <Row
      onPress={onPress}
      name={`${timeOfDay(ms, timeZone)} ${line.title}`}
      style={{ alignItems: 'flex-start', minHeight: 44 }}
    >
      <Type kind="small" style={{ width: 44, paddingTop: 2 }}>
        {shortTime(Math.floor(wallMinute(ms, timeZone)))}
      </Type>
      <View style={{ flex: 1, gap: 2 }} testID={`line-${line.lane}`}>
        <Type kind="label">{line.title}</Type>
        {line.details.slice(0, 3).map((d) => (
          <Type key={d} kind="small">
            {d}
          </Type>
        ))}
        {line.details.length > 3 && <Type kind="small">{`and ${line.details.length - 3} more`}</Type>}
        {met && (
          <Type kind="small">
            {met.before
              ? `${apart(UMOL, met.before.peak, met.after.peak).join(' → ')} µmol, ${apart(MOL, met.before.dli, met.after.dli).join(' → ')} mol a day`
              : `${umol(met.after.peak)} µmol, ${mol(met.after.dli)} mol a day`}
          </Type>
        )}
      </View>
      {met && (
        <View style={{ alignItems: 'flex-end' }}>
          <Type kind="strong">
            {met.ratioBefore === null
              ? times(met.ratioAfter, met.bandShare)
              : `${met.ratioBefore.toFixed(2)} → ${times(met.ratioAfter, met.bandShare)}`}
          </Type>
          {giveOrTake(met.bandShare) !== '' && <Type kind="small">{giveOrTake(met.bandShare)}</Type>}
        </View>
      )}
    </Row>
  );
}
