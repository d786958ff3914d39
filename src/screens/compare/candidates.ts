import type { CaseDoc } from '@/core/record/caseDoc';
import type { Zone } from '@/core/record/zone';
import { levelsAt } from '@/core/day/day';
import { draftGroups } from '@/core/case/lit';
import { type Candidate } from '@/core/library/compare';
import { lampLibrary } from '@/core/library/lamps';
import { allFull } from '@/core/spectrum/controls';
import { par } from '@/core/spectrum/bands';
import { keptSpectrum } from '@/core/spectrum/lamp';
import type { LampKind, Levels } from '@/core/spectrum/lampKind';

/**
 * "plate.ID", "lamp.ID" with everything full, or "near.ID", the lamp as near the first plate as it can: what stands in the address of a
 * comparison.
 */
export interface Choosable {
  key: string;
  name: string;
  about: string;
  group: 'Plates' | 'Lamps of this case, everything full' | 'Library, everything full';
}

export const choosable = (doc: CaseDoc): Choosable[] => [
  ...doc.plates.map((p): Choosable => ({
    key: `plate.${p.id}`,
    name: p.name,
    about: doc.lampKinds.find((k) => k.id === p.lampKindId)!.name,
    group: 'Plates',
  })),
  ...doc.lampKinds.map((k): Choosable => ({
    key: `lamp.${k.id}`,
    name: k.name,
    about: 'everything full',
    group: 'Lamps of this case, everything full',
  })),
  ...lampLibrary().map(({ kind, about }): Choosable => ({
    key: `lamp.${kind.id}`,
    name: kind.name,
    about,
    group: 'Library, everything full',
  })),
];

/** Most that can stand side by side. */
export const MOST = 4;
const USUAL_HOURS = 8;

/**
 * Hours at its strongest that give the same dose as the day a lamp has here; the usual ones for a lamp that hangs nowhere.
 */
export function equivalentHours(doc: CaseDoc, zone: Zone, lampKindId: string): number {
  const lit = draftGroups(doc, zone).find((g) => g.lampKind.id === lampKindId);
  if (!lit || lit.day.knots.length === 0) return USUAL_HOURS;
  const weights = lit.lampKind.channels.map((c) => par(keptSpectrum(c)));
  const strength = (m: number) => levelsAt(lit.day, m).reduce((sum, v, i) => sum + v * weights[i]!, 0);
  const samples = Array.from({ length: 288 }, (_, i) => strength(i * 5 + 2.5));
  const peak = Math.max(...lit.day.knots.map((k) => strength(k.minute)), ...samples);
  if (!(peak > 0)) return USUAL_HOURS;
  const hours = samples.reduce((sum, v) => sum + v, 0) / 12 / peak;
  return Math.max(0.5, Math.round(hours * 2) / 2);
}

export const kindOf = (doc: CaseDoc, id: string): LampKind | undefined =>
  doc.lampKinds.find((k) => k.id === id) ?? lampLibrary().find((l) => l.kind.id === id)?.kind;

/** Candidates behind keys, without those that are gone. @param near mixes found for "near.ID", by that key */
export function candidatesOf(
  doc: CaseDoc,
  zone: Zone,
  keys: readonly string[],
  hours: Readonly<Record<string, number>>,
  near: Readonly<Record<string, Levels>> = {},
): (Candidate & { key: string })[] {
  return keys.slice(0, MOST).flatMap((key) => {
    const [group, id] = [key.slice(0, key.indexOf('.')), key.slice(key.indexOf('.') + 1)];
    if (group === 'plate') {
      const plate = doc.plates.find((p) => p.id === id);
      const kind = doc.lampKinds.find((k) => k.id === plate?.lampKindId);
      if (!plate || !kind) return [];
      return [
        {
          key,
          name: plate.name,
          kind,
          mix: plate.mix,
          hours: hours[key] ?? equivalentHours(doc, zone, kind.id),
        },
      ];
    }
    const kind = kindOf(doc, id);
    if (!kind) return [];
    return [
      {
        key,
        name: kind.name,
        kind,
        mix: near[key] ?? allFull(kind),
        hours: hours[key] ?? equivalentHours(doc, zone, kind.id),
      },
    ];
  });
}
