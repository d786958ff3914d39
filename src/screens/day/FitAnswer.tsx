import { View } from 'react-native';

import type { ZoneLight } from '@/core/case/light';
import type { LitGroup } from '@/core/case/lit';
import type { FitAnswer } from '@/core/controller/answers';
import { FIT_AIMS } from '@/core/controller/fitWords';
import { behind } from '@/core/controller/misfits';
import { capital } from '@/core/shape/counts';
import { formatTime } from '@/core/day/clock';
import type { ResolvedThread } from '@/core/day/thread';
import { dims, typedControls } from '@/core/spectrum/controls';
import type { ControllerProfile } from '@/core/spectrum/lampKind';
import { TwoDays } from '@/pieces/TwoDays';
import type { Desk } from '@/state/desk';
import { Button } from '@/ui/Button';
import { usePageSize } from '@/ui/Page';
import { Fold } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { curveOf, withThreads } from './changed';
import { windowOf } from './model';

/** The groups as they would be lit with the fitted day behind that controller. */
export const takenAs = (
  groups: LitGroup[],
  groupId: string,
  threads: readonly ResolvedThread[],
  profile: ControllerProfile,
  capShare?: number,
): LitGroup[] =>
  withThreads(
    groups.map((g) => (g.groupId === groupId ? { ...g, lampKind: behind(g.lampKind, profile) } : g)),
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
  profile,
  said,
  stepOf,
  first,
  onKeep,
}: {
  desk: Desk;
  groups: LitGroup[];
  light: ZoneLight;
  answer: FitAnswer;
  profile: ControllerProfile;
  said: string;
  stepOf: (groups: LitGroup[]) => string;
  first: boolean;
  onKeep: () => void;
}) {
  const { spot, spotIndex } = desk;
  const page = usePageSize();
  const after = takenAs(groups, desk.group!.id, answer.threads, profile, answer.capShare);
  const id = answer.aims[0]!;
  const name = capital(answer.aims.map((a) => FIT_AIMS[a].toLowerCase()).join(', '));
  return (
    <View style={{ gap: space.s }} testID={`fit-${id}`}>
      <Type kind="heading">{name}</Type>
      <Type kind="strong" testID={`fit-${id}-said`}>
        {said}
      </Type>
      <TwoDays
        before={curveOf(light, groups, spotIndex)}
        after={curveOf(light, after, spotIndex)}
        {...windowOf([...groups, ...after])}
        width={page.main}
        height={120}
        name={`µmol through the day at ${spot!.name}: the wanted day broken, this answer strong. ${said}`}
      />
      <Type kind="small">{stepOf(after)}</Type>
      <Fold title="Its points">
        <PointTable desk={desk} threads={answer.threads} profile={profile} />
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

/** The chosen points and what is set at each. */
function PointTable({
  desk,
  threads,
  profile,
}: {
  desk: Desk;
  threads: readonly ResolvedThread[];
  profile: ControllerProfile;
}) {
  const kind = behind(desk.lampKind!, profile);
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
