import { levelsOfGroups } from '@/core/case/light';
import type { LitGroup } from '@/core/case/lit';
import type { Moment } from '@/core/case/moment';
import type { Group } from '@/core/record/zone';
import type { Plate } from '@/core/record/caseDoc';
import { lampDay, lampLevels } from '@/core/day/thread';
import { emittedAt, levelsAt } from '@/core/day/day';
import { drivenChannels, type Levels, type LampKind } from '@/core/spectrum/lampKind';

/** Strength at which Mix speaks of a plate: its brightest thread's, or full when no thread uses it. */
export const strengthAt = (group: Group, plate: Plate, moment: Moment): number =>
  (moment.used &&
    group.threads.find((t) => t.minute === moment.minute && 'plateId' in t.mix && t.mix.plateId === plate.id)
      ?.strengthShare) ||
  1;

/** Emitted shares of a group if it ran one mix at a strength, under its cap. */
export function levelsOfMix(group: LitGroup, mix: Levels, strengthShare: number): number[] {
  const day = lampDay(group.lampKind, [{ minute: 0, strengthShare, mix }], {
    capShare: group.day.capShare,
    easingShare: group.day.easingShare,
  });
  return levelsAt(day, 0);
}

/** Emitted shares of all groups at the moment of a plate; a plate that no thread uses is shown at full strength, beside the rest. */
export function levelsAtMoment(
  groups: readonly LitGroup[],
  index: number,
  plate: Plate,
  moment: Moment,
): number[][] {
  const levels = levelsOfGroups(groups, moment.minute);
  if (!moment.used) levels[index] = levelsOfMix(groups[index]!, plate.mix, 1);
  return levels;
}

/** Emitted shares with one control alone: only the channels it drives, all other groups dark. */
export function soloLevels(
  groups: readonly LitGroup[],
  index: number,
  mix: Levels,
  controlId: string,
  strengthShare: number,
): number[][] {
  const { lampKind, day } = groups[index]!;
  const control = lampKind.controls.find((c) => c.id === controlId)!;
  const all = { ...mix, [controlId]: mix[controlId] || 1 };
  const own = new Set(
    control.kind === 'brightness'
      ? lampKind.controls.filter((c) => c.kind === 'tint').flatMap(drivenChannels)
      : drivenChannels(control),
  );
  const typed = lampLevels(lampKind, all, strengthShare).map((v, i) =>
    own.has(lampKind.channels[i]!.id) ? v : 0,
  );
  return groups.map((g, i) => (i === index ? emittedAt(day, typed) : g.lampKind.channels.map(() => 0)));
}

/** Controls that are locked, with their values: what solvers leave alone. */
export const lockedValues = (plate: Plate): Levels =>
  Object.fromEntries(plate.locked.map((id) => [id, plate.mix[id] ?? 0]));

/** PAR at full of what a control drives, by control, from PAR per channel. */
export const parByControl = (kind: LampKind, own: readonly number[]): Record<string, number> =>
  Object.fromEntries(
    kind.controls.map((c) => {
      const ids = new Set(
        c.kind === 'brightness'
          ? kind.controls.filter((t) => t.kind === 'tint').flatMap(drivenChannels)
          : drivenChannels(c),
      );
      return [c.id, kind.channels.reduce((sum, ch, i) => sum + (ids.has(ch.id) ? own[i]! : 0), 0)];
    }),
  );
