import { formatTime } from '../day/clock';
import { wrapMinute } from '../shape/ring';
import { emittedAt, parOf } from '../day/day';
import { lampLevels } from '../day/thread';
import type { Control, LampKind } from '../spectrum/lampKind';
import { hasCap, typedControls, typedPart } from '../spectrum/controls';
import type { ZoneLight } from './light';
import type { LitGroup } from './lit';

/** What is typed into a lamp: a row per thread, a column per control, in the lamp's own percents before its cap, where it has one. */
export interface LampTable {
  times: string[];
  controls: { name: string; kind: Control['kind']; percents: number[] }[];
  /** null = the lamp has no cap */
  capPercent: number | null;
}

/** A value of the table as it is read out: percents, or on and off. */
export const tableCell = (kind: Control['kind'], percents: number): string =>
  kind === 'onOff' ? (percents > 0 ? 'on' : 'off') : String(percents);

/** When the day ends dark, or what burns through the night, in words. */
export function endsWords({ times, controls }: LampTable): string {
  const n = times.length;
  if (n === 0) return 'No time is set: the lamp stays dark.';
  const lights = controls.filter((c) => c.kind !== 'tint' && c.kind !== 'trim');
  const lit = times.map((_, i) => lights.some((c) => c.percents[i]! > 0));
  if (!lit.includes(true)) return 'Every value is 0: the lamp stays dark.';
  if (!lit.includes(false)) {
    const least = lights
      .map((c) => ({ c, percents: Math.min(...c.percents) }))
      .filter((x) => x.percents > 0)
      .map(({ c, percents }) =>
        c.kind === 'onOff' ? `${c.name} stays on` : `${c.name} never falls below ${percents} %`,
      );
    return `▲ It is never dark: ${least.length > 0 ? least.join(', ') : 'at every time something is lit'}.`;
  }
  const minute = (i: number) => Number(times[i]!.slice(0, 2)) * 60 + Number(times[i]!.slice(3));
  // of the times at which it gets dark the one before the longest night
  const ends = lit.flatMap((l, i) => {
    if (l || !lit[(i + n - 1) % n]) return [];
    let next = 1;
    while (!lit[(i + next) % n]) next += 1;
    return [{ i, dark: wrapMinute(minute((i + next) % n) - minute(i)) }];
  });
  const end = ends.reduce((a, b) => (b.dark > a.dark ? b : a));
  return `Ends dark at ${times[end.i]!}.`;
}

const percent = (share: number) => Math.round(share * 10_000) / 100;

export function lampTable(group: LitGroup): LampTable {
  const part = typedPart(group.lampKind, group.day.capShare);
  return {
    times: group.threads.map((t) => formatTime(t.minute)),
    controls: group.lampKind.controls.map((c) => ({
      name: c.name,
      kind: c.kind,
      percents: group.threads.map((t) =>
        percent(typedControls(group.lampKind, t.mix, t.strengthShare * part)[c.id]!),
      ),
    })),
    capPercent: hasCap(group.lampKind) ? percent(group.day.capShare) : null,
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
    const part = typedPart(group.lampKind, group.day.capShare);
    const levels = (kind: LampKind) =>
      lampLevels(kind, thread.mix, thread.strengthShare * part).map((x) => (part > 0 ? x / part : x));
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
