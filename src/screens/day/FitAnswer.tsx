import { View } from 'react-native';

import type { ZoneLight } from '@/core/case/light';
import type { LitGroup } from '@/core/case/lit';
import type { Doable } from '@/core/case/doable';
import type { FitAnswer } from '@/core/controller/answers';
import { FIT_AIMS } from '@/core/controller/fitWords';
import { capital } from '@/core/shape/counts';
import { percent } from '@/core/shape/percent';
import { formatTime } from '@/core/day/clock';
import type { ResolvedThread } from '@/core/day/thread';
import { dims, typedControls } from '@/core/spectrum/controls';
import type { LampKind } from '@/core/spectrum/lampKind';
import { TwoDays } from '@/pieces/TwoDays';
import type { Desk } from '@/state/desk';
import { Button } from '@/ui/Button';
import { usePageSize } from '@/ui/Page';
import { Fold } from '@/ui/Parts';
import { TakeAlong } from '@/ui/TakeAlong';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { curveOf, withThreads } from './changed';
import { formats } from '../shared/formats';
import { mol } from '../shared/words';
import { EVERY_MIN, minutesEvery } from './TakeDay';
import { windowOf } from './model';

/** The groups as they would be lit with the fitted day, the lamp hung as it was fitted for. */
const takenAs = (
  groups: LitGroup[],
  groupId: string,
  threads: readonly ResolvedThread[],
  hung: LampKind,
  capShare?: number,
): LitGroup[] =>
  withThreads(
    groups.map((g) => (g.groupId === groupId ? { ...g, lampKind: hung } : g)),
    groupId,
    threads,
    capShare,
  );

/** One answer: what it is best for, what it keeps and loses, drawn over the wanted day, its points, and the way to keep it. */
export function Answer({
  desk,
  groups,
  light,
  answer,
  hung,
  said,
  weighed,
  stepOf,
  first,
  onKeep,
}: {
  desk: Desk;
  groups: LitGroup[];
  light: ZoneLight;
  answer: FitAnswer;
  hung: LampKind;
  said: string;
  /** what was weighed by hand, for the answer to that */
  weighed: string;
  stepOf: (groups: LitGroup[]) => string;
  first: boolean;
  onKeep: () => void;
}) {
  const { spot, spotIndex } = desk;
  const page = usePageSize();
  const after = takenAs(groups, desk.group!.id, answer.threads, hung, answer.capShare);
  const [wanted, given] = [curveOf(light, groups, spotIndex), curveOf(light, after, spotIndex)];
  const id = answer.aims[0]!;
  const name = capital(answer.aims.map((a) => FIT_AIMS[a].toLowerCase()).join(', '));
  return (
    <View style={{ gap: space.s }} testID={`fit-${id}`}>
      <Type kind="heading">{name}</Type>
      {id === 'own' && <Type kind="small">{`${capital(weighed)}.`}</Type>}
      <Type kind="strong" testID={`fit-${id}-said`}>
        {said}
      </Type>
      <TakeAlong
        name={`day-${id}`}
        caption={`${desk.zone.name}, ${name}: µmol m⁻² s⁻¹ through the day at ${spot!.name}. Broken: the wanted day. Computed.`}
        csv={async () =>
          (await formats()).tableCsv(
            ['time', 'wanted (µmol m⁻² s⁻¹)', 'this answer (µmol m⁻² s⁻¹)'],
            minutesEvery(EVERY_MIN).map((m) => [
              formatTime(m),
              ...[wanted, given].map(({ parAt }) => Math.round(parAt(m) * 10) / 10),
            ]),
          )
        }
      >
        <TwoDays
          before={wanted}
          after={given}
          {...windowOf([...groups, ...after])}
          width={page.main}
          height={120}
          name={`µmol through the day at ${spot!.name}: the wanted day broken, this answer strong. ${said}`}
        />
      </TakeAlong>
      <Type kind="small">{stepOf(after)}</Type>
      <Fold title="Its points">
        <PointTable kind={hung} threads={answer.threads} />
      </Fold>
      <Button
        label="Keep this day"
        name={`Keep the day: ${name}`}
        kind={first ? 'filled' : 'outlined'}
        testID={`keep-${id}`}
        onPress={onKeep}
      />
    </View>
  );
}

/** A day that the controller runs as drawn, over the present one. */
export function DoableDay({
  desk,
  groups,
  light,
  day,
  hung,
  stepOf,
  onTake,
}: {
  desk: Desk;
  groups: LitGroup[];
  light: ZoneLight;
  day: Doable;
  hung: LampKind;
  stepOf: (groups: LitGroup[]) => string;
  onTake: () => void;
}) {
  const { spot, spotIndex } = desk;
  const page = usePageSize();
  const after = takenAs(groups, desk.group!.id, day.threads, hung);
  return (
    <View style={{ gap: space.s }}>
      <Type kind="heading">{day.name}</Type>
      <TwoDays
        before={curveOf(light, groups, spotIndex)}
        after={curveOf(light, after, spotIndex)}
        {...windowOf([...groups, ...after])}
        width={page.main}
        name={`${day.name}, over the present day`}
      />
      <Type kind="small">{`${mol(day.dli)} mol at ${spot!.name}; at most ${percent(day.awayShare)} of the peak from the present day at any moment. ${stepOf(after)}`}</Type>
      <Button label="Take this day" name={`Take ${day.name}`} onPress={onTake} />
    </View>
  );
}

/** The chosen points and what is set at each. */
function PointTable({ kind, threads }: { kind: LampKind; threads: readonly ResolvedThread[] }) {
  return (
    <View role="table" aria-label="Points of the fitted day" testID="fit-points">
      {threads.map((t) => {
        const typed = typedControls(kind, t.mix, t.strengthShare);
        return (
          <View key={t.minute} role="row" style={{ flexDirection: 'row', gap: space.m, paddingVertical: 3 }}>
            <Type kind="strong" role="rowheader" style={{ width: 52 }}>
              {formatTime(t.minute)}
            </Type>
            <Type kind="small" role="cell" style={{ flex: 1 }}>
              {kind.controls.every((c) => c.kind === 'onOff' || typed[c.id] === 0) && !dims(kind)
                ? kind.controls.map((c) => `${c.name} ${typed[c.id]! > 0 ? 'on' : 'off'}`).join(' · ')
                : t.strengthShare === 0
                  ? 'dark'
                  : kind.controls.map((c) => `${c.name} ${Math.round(typed[c.id]! * 1000) / 10}`).join(' · ')}
            </Type>
          </View>
        );
      })}
    </View>
  );
}
