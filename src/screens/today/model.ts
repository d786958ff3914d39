import {
  dayAt,
  levelsOfGroups,
  partsUnder,
  parUnder,
  spectrumUnder,
  wattsUnder,
  type ZoneLight,
} from '@/core/case/light';
import type { LitGroup } from '@/core/case/lit';
import { interludesOn } from '@/core/day/extras';
import { formatTime } from '@/core/day/clock';
import type { CivilDay } from '@/core/day/wallClock';
import type { RunningEntry } from '@/core/record/history';
import { percent } from '@/core/shape/percent';
import { DAY_MINUTES, minutesUntil } from '@/core/shape/ring';
import type { Spectrum } from '@/core/spectrum/grid';
import { fullWallWatts } from '@/core/spectrum/watts';

import { umol } from '../shared/words';

/** What Today says of this moment at the chosen coral. */
export interface NowModel {
  levels: number[][];
  spectrum: Spectrum;
  /** µmol now, and the day's peak */
  umol: number;
  peakUmol: number;
  watts: number;
  fullWatts: number;
  /** what of it comes from which lamp; empty when there is one, or no light */
  parts: { name: string; share: number }[];
  /** the next thread, in words with its light; where a ramp leaves the dark there, what it leads to */
  next: { minute: number; words: string } | null;
}

export function nowModel(
  light: ZoneLight,
  groups: readonly LitGroup[],
  minute: number,
  spot: number,
): NowModel {
  const levels = levelsOfGroups(groups, minute);
  const lamps = partsUnder(light, groups, levels, spot);
  const sum = lamps.reduce((s, p) => s + p.umol, 0);
  const at = (m: number) => parUnder(light, levelsOfGroups(groups, m), spot);
  return {
    levels,
    spectrum: spectrumUnder(light, levels, spot),
    umol: parUnder(light, levels, spot),
    peakUmol: dayAt(light, groups, spot).peak,
    watts: wattsUnder(groups, levels),
    fullWatts: groups.reduce((s, g) => s + g.lamps.length * fullWallWatts(g.lampKind), 0),
    parts: sum > 0 && lamps.length > 1 ? lamps.map((p) => ({ name: p.name, share: p.umol / sum })) : [],
    next: nextThread(groups, minute, at),
  };
}

/** The next thread after a minute, over all groups and midnight. */
function nextThread(
  groups: readonly LitGroup[],
  minute: number,
  umolAt: (minute: number) => number,
): NowModel['next'] {
  const byWait = (from: number) => (a: { minute: number }, b: { minute: number }) =>
    minutesUntil(from, a.minute) - minutesUntil(from, b.minute);
  const next = groups.flatMap((g) => g.threads.map((t) => ({ ...t, group: g }))).sort(byWait(minute))[0];
  if (!next) return null;
  const { group } = next;
  if (next.strengthShare > 0)
    return { minute: next.minute, words: `${next.mixName}, ${umol(umolAt(next.minute))} µmol` };
  // a ramp leaves the dark where its dark thread stands
  const after = [...group.threads].sort(byWait((next.minute + 1) % DAY_MINUTES))[0]!;
  const begins = group.day.interpolation === 'ramp' && after.strengthShare > 0;
  const who = groups.length > 1 ? group.name : 'lamps';
  return {
    minute: next.minute,
    words: begins
      ? `${groups.length > 1 ? `${group.name}: light begins` : 'light begins'}, ${umol(umolAt(after.minute))} µmol by ${formatTime(after.minute)}`
      : `${who} dark, ${umol(umolAt(next.minute))} µmol`,
  };
}

/** An interlude that runs now or is still to come today, in words with its certain end; null = none. */
export function interludeWords(
  entries: readonly RunningEntry[],
  on: CivilDay,
  minute: number,
): string | null {
  const next = entries
    .flatMap((e) => interludesOn(e.extras?.interludes ?? [], on).map((i) => ({ ...i, group: e.groupName })))
    .filter((i) => i.to > minute)
    .sort((a, b) => a.from - b.from)[0];
  if (!next) return null;
  const who = entries.length > 1 ? ` of ${next.group}` : '';
  return next.from <= minute
    ? `Interlude until ${formatTime(next.to)}${who}: ${next.interlude.mixName} at ${percent(next.interlude.strengthShare)}; then the day goes on.`
    : `Interlude ${formatTime(next.from)}–${formatTime(next.to)}${who}: ${next.interlude.mixName}.`;
}
