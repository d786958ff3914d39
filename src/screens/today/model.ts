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
import { minutesUntil } from '@/core/shape/ring';
import type { Spectrum } from '@/core/spectrum/grid';
import { fullWallWatts } from '@/core/spectrum/watts';

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
  next: { minute: number; name: string; umol: number } | null;
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
  const next = nextThread(groups, minute);
  return {
    levels,
    spectrum: spectrumUnder(light, levels, spot),
    umol: parUnder(light, levels, spot),
    peakUmol: dayAt(light, groups, spot).peak,
    watts: wattsUnder(groups, levels),
    fullWatts: groups.reduce((s, g) => s + g.lamps.length * fullWallWatts(g.lampKind), 0),
    parts: sum > 0 && lamps.length > 1 ? lamps.map((p) => ({ name: p.name, share: p.umol / sum })) : [],
    next: next && { ...next, umol: parUnder(light, levelsOfGroups(groups, next.minute), spot) },
  };
}

/** The next thread after a minute, over all groups and midnight. */
function nextThread(groups: readonly LitGroup[], minute: number): { minute: number; name: string } | null {
  const all = groups.flatMap((g) =>
    g.threads.map((t) => ({
      minute: t.minute,
      wait: minutesUntil(minute, t.minute),
      name: t.strengthShare === 0 ? `${groups.length > 1 ? g.name : 'lamps'} dark` : t.mixName,
    })),
  );
  const first = all.sort((a, b) => a.wait - b.wait)[0];
  return first ? { minute: first.minute, name: first.name } : null;
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
    : `Interlude ${formatTime(next.from)}-${formatTime(next.to)}${who}: ${next.interlude.mixName}.`;
}
