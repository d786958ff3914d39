import { formatTime } from '../day/clock';
import { emittedAt, parOf } from '../day/day';
import { lampLevels } from '../day/thread';
import type { Control, LampKind } from '../spectrum/lampKind';
import { typedControls } from '../spectrum/controls';
import type { ZoneLight } from './light';
import type { LitGroup } from './lit';

/** What is typed into a lamp: a row per thread, a column per control, in the lamp's own percents before its cap. */
export interface LampTable {
  times: string[];
  controls: { name: string; kind: Control['kind']; percents: number[] }[];
  capPercent: number;
}

/** A value of the table as it is read out: percents, or on and off. */
export const tableCell = (kind: Control['kind'], percents: number): string =>
  kind === 'onOff' ? (percents > 0 ? 'on' : 'off') : String(percents);

const percent = (share: number) => Math.round(share * 10_000) / 100;

export function lampTable(group: LitGroup): LampTable {
  return {
    times: group.threads.map((t) => formatTime(t.minute)),
    controls: group.lampKind.controls.map((c) => ({
      name: c.name,
      kind: c.kind,
      percents: group.threads.map((t) =>
        percent(typedControls(group.lampKind, t.mix, t.strengthShare)[c.id]!),
      ),
    })),
    capPercent: percent(group.day.capShare),
  };
}

/** The largest change in PAR that rounding to the lamp's steps makes at a spot, over all threads. */
export function roundingEffect(
  group: LitGroup,
  light: ZoneLight,
  groupIndex: number,
  spot: number,
): { umol: number; time: string } {
  let worst = { umol: 0, time: '' };
  group.threads.forEach((thread) => {
    const levels = (kind: LampKind) => lampLevels(kind, thread.mix, thread.strengthShare);
    const unrounded = levels({
      ...group.lampKind,
      controller: { ...group.lampKind.controller, pointStepShare: 0 },
    });
    const lit = emittedAt(group.day, levels(group.lampKind));
    const plain = emittedAt(group.day, unrounded);
    const umol = parOf(
      lit.map((v, i) => v - plain[i]!),
      light.par[groupIndex]![spot]!,
    );
    if (Math.abs(umol) > Math.abs(worst.umol)) worst = { umol, time: formatTime(thread.minute) };
  });
  return worst;
}
