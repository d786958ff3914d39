import { parUnder, partsUnder, spectrumUnder, type ZoneLight } from '@/core/case/light';
import { draftGroups, type LitGroup } from '@/core/case/lit';
import { type Moment, momentOf, threadsChanged } from '@/core/case/moment';
import type { Judgement } from '@/core/case/judgement';
import { alga } from '@/core/feeding/algae';
import { mixWarnings } from '@/core/library/warnings';
import { lightFigures } from '@/core/mix/figures';
import { fitOf } from '@/core/refugium/families';
import type { CaseDoc, Plate } from '@/core/record/caseDoc';
import type { Group, Spot, Zone } from '@/core/record/zone';
import { addScaled, type Spectrum, zeroSpectrum } from '@/core/spectrum/grid';
import { keptSpectrum } from '@/core/spectrum/lamp';
import { type Control, drivenChannels, type LampKind, type Levels } from '@/core/spectrum/lampKind';
import type { Crest } from '@/pieces/combShape';

import { tenantsOf } from '../shared/words';
import { levelsAtMoment, parByControl, soloLevels, strengthAt } from './view';

/** What Mix says of its plate at the chosen coral, at the one moment it speaks of. */
export interface MixModel {
  moment: Moment;
  levels: number[][];
  /** null while light or coral are missing: then nothing below is known */
  spectrum: Spectrum | null;
  figures: ReturnType<typeof lightFigures> | null;
  umol: number;
  /** of the plate's own group alone */
  ownUmol: number;
  byControl: Record<string, number> | null;
  /** how it feeds the alga that grows at the spot; null = none does */
  feeds: ReturnType<typeof fitOf> | null;
  warnings: { id: string; text: string }[];
  /** of the drafted day the mix is part of, or of the mix as the brightest of a day when no lit thread uses it; null = of none */
  judged: Judgement | null;
  parts: { name: string; umol: number }[];
}

export function mixModel(of: {
  zone: Zone;
  group: Group;
  kind: LampKind;
  plate: Plate;
  groups: readonly LitGroup[];
  light: ZoneLight | null;
  spot: Spot | null;
  spotIndex: number;
  /** a control lit alone */
  solo: string | null;
  /** a finger is on it: nothing that takes longer than a frame */
  touching: boolean;
  judge: (levels?: number[][]) => Judgement | null;
}): MixModel {
  const { zone, group, kind, plate, groups, light, spot, spotIndex, solo, touching, judge } = of;
  const index = zone.groups.findIndex((g) => g.id === group.id);
  const known = light !== null && spotIndex >= 0 ? light : null;
  const moment = known ? momentOf(known, groups, group, plate.id, spotIndex) : { minute: 720, used: false };
  const levels = solo
    ? soloLevels(groups, index, plate.mix, solo, strengthAt(group, plate, moment))
    : levelsAtMoment(groups, index, plate, moment);
  if (!known)
    return {
      moment,
      levels,
      spectrum: null,
      figures: null,
      umol: 0,
      ownUmol: 0,
      byControl: null,
      feeds: null,
      warnings: [],
      judged: null,
      parts: [],
    };
  const spectrum = spectrumUnder(known, levels, spotIndex);
  const own = known.par[index]![spotIndex]!.map((p, c) => p * levels[index]![c]!);
  // what lives at the spot says what of the light is of use, and what harms
  const grown = spot?.algaId ? alga(spot.algaId) : null;
  const fit = grown ? fitOf(spectrum, grown) : null;
  const warnings = () => [
    ...(fit && fit.standing !== 'good' ? [{ id: 'feeds', text: fit.words }] : []),
    ...(tenantsOf(zone.spots).one === 'alga' ? [] : mixWarnings(kind, spectrum)),
  ];
  return {
    moment,
    levels,
    spectrum,
    figures: lightFigures(spectrum),
    umol: parUnder(known, levels, spotIndex),
    ownUmol: own.reduce((a, b) => a + b, 0),
    byControl: solo ? null : parByControl(kind, own),
    feeds: fit,
    warnings: solo || touching ? [] : warnings(),
    judged: solo ? null : moment.used ? judge() : judge(levels),
    parts: partsUnder(known, groups, levels, spotIndex),
  };
}

/** Percent of its lamps' PAR by control, of those that have a share of their own. */
export const partOfPar = (
  kind: LampKind,
  { byControl, ownUmol }: Pick<MixModel, 'byControl' | 'ownUmol'>,
): Record<string, number> =>
  byControl && ownUmol > 0
    ? Object.fromEntries(
        kind.controls
          .filter((c) => c.kind !== 'tint' && c.kind !== 'trim')
          .map((c) => [c.id, Math.round((100 * byControl[c.id]!) / ownUmol)]),
      )
    : {};

/** What the last change of a plate does to the day, in light, against a former state of the case; empty when that had other lamps. */
export function changedThreads(
  light: ZoneLight | null,
  reference: CaseDoc | null,
  zone: Zone,
  groups: readonly LitGroup[],
  group: Group,
  plateId: string,
  spotIndex: number,
): { time: string; before: number; after: number }[] {
  const before = reference?.zones.find((z) => z.id === zone.id);
  return light && spotIndex >= 0 && reference && before && before.groups.length === zone.groups.length
    ? threadsChanged(light, draftGroups(reference, before), groups, group, plateId, spotIndex)
    : [];
}

/** One step of scaling all levels. */
export const SCALE_STEP = 1.05;
export const rounded = (mix: Levels): Levels =>
  Object.fromEntries(Object.entries(mix).map(([id, v]) => [id, Math.round(v * 1000) / 1000]));

export function everythingFull(kind: LampKind): Float64Array {
  const out = zeroSpectrum();
  for (const c of kind.channels) addScaled(out, keptSpectrum(c), 1);
  return out;
}

/** The hump of one control alone, at its value or at full where it is off. */
export function soloLight(crests: readonly Crest[], mix: Levels, id: string): Float64Array {
  const crest = crests.find((c) => c.id === id);
  const out = zeroSpectrum();
  if (crest) addScaled(out, crest.full, mix[id] || 1);
  return out;
}

export function aboutOf(kind: LampKind, control: Control, crest: Crest | undefined): string {
  if (control.kind === 'tint') return `${control.fromName} to ${control.toName}`;
  if (control.kind === 'trim') return `× ${control.fromFactor} to ${control.toFactor}`;
  const tied = control.kind === 'brightness' ? [] : drivenChannels(control);
  if (tied.length > 1) {
    return kind.channels
      .filter((c) => tied.includes(c.id))
      .map((c) => c.name.toLowerCase())
      .join(' + ');
  }
  return crest?.light ?? '';
}

export const withLevel = (mix: Levels, id: string, level: number): Levels => ({
  ...mix,
  [id]: Math.round(level * 1000) / 1000,
});
