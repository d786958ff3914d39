import { type LitGroup, rigKey, rigOf } from '@/core/case/lit';
import { accustomedAt, soFarAt, type Stretch } from '@/core/case/replay';
import type { HistoryDoc, Zone } from '@/core/case/types';
import type { DayLight } from '@/core/easing/accustomed';
import { carryToLamp, type CarriedMix } from '@/core/mix/carry';
import { photographMix, type PhotographMix } from '@/core/mix/photograph';
import { type Answer, type DesignInput, designSteps } from '@/core/mix/design';
import { Cancelled, computeResponse, type ResponseMatrix, type Rig } from '@/core/optics/response';
import type { Levels } from '@/core/spectrum/controls';
import type { Spectrum } from '@/core/spectrum/grid';
import type { LampKind } from '@/core/spectrum/lamp';

const MOST_KEPT = 24;
const kept = new Map<string, ResponseMatrix>();

/** The matrix of historical rigs comes back again and again while a history is replayed. */
function matrixFor(groups: LitGroup[], zone: Zone): ResponseMatrix {
  const key = rigKey(groups, zone, zone.spots);
  let matrix = kept.get(key);
  if (!matrix) {
    matrix = computeResponse(rigOf(groups, zone, zone.spots));
    if (kept.size >= MOST_KEPT) kept.delete(kept.keys().next().value!);
    kept.set(key, matrix);
  }
  return matrix;
}

/** The heavy core functions, as the worker offers them. */
export const service = {
  response: (rig: Rig): ResponseMatrix => computeResponse(rig),
  accustomed: (
    zone: Zone,
    history: HistoryDoc,
    gain: number,
    atUtc: string,
  ): { perSpot: DayLight[]; known: boolean } =>
    accustomedAt(zone, history, gain, atUtc, (groups) => matrixFor(groups, zone)),
  soFar: (zone: Zone, history: HistoryDoc, gain: number, stretches: Stretch[]): number[] =>
    soFarAt(zone, history, gain, stretches, (groups) => matrixFor(groups, zone)),
  carry: (source: Spectrum, kind: LampKind, through: Spectrum, fixed: Levels): CarriedMix =>
    carryToLamp(source, kind, through, fixed),
  photograph: (kind: LampKind, mix: Levels, through: Spectrum, fixed: Levels): PhotographMix | null =>
    photographMix(kind, mix, through, fixed),
  design: designed,
};

/** Between two reports of progress, ms. */
const REPORT_MS = 40;

/**
 * Runs a design and reports how far it is; the report answers whether to go on.
 * @throws Cancelled
 */
async function designed(
  input: DesignInput,
  onProgress: (share: number) => boolean | Promise<boolean>,
): Promise<Answer[]> {
  const steps = designSteps(input);
  let reported = performance.now();
  for (;;) {
    const next = steps.next();
    if (next.done) return next.value;
    if (performance.now() - reported > REPORT_MS) {
      if (!(await onProgress(next.value))) throw new Cancelled('cancelled');
      reported = performance.now();
    }
  }
}

type Async<F> = F extends (...input: infer I) => infer O ? (...input: I) => Promise<Awaited<O>> : never;
export type Reckoner = { [K in keyof typeof service]: Async<(typeof service)[K]> };
