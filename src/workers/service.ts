import { type AtPlace, atPlace } from '@/core/case/atPlace';
import { calibrateSteps } from '@/core/case/calibrate';
import { type CarriedDay, carryDay, type CarryTarget, type ForeignDay } from '@/core/case/carryDay';
import type { Calibration } from '@/core/case/calibration';
import { type DisputeAnswer, disputeSteps } from '@/core/case/disputes';
import { type Doable, doableSteps } from '@/core/case/doable';
import { type PatternAnswer, type PatternsInput, patternSteps } from '@/core/case/patterns';
import { rigKey, rigOf } from '@/core/case/lit';
import { type EaseAnswer, type EaseCourse, type EaseQuestion, easeSteps } from '@/core/case/easePlan';
import { type ChooseAsk, chooseSteps, type LampChoice } from '@/core/case/choose';
import { type HangAnswer, type HangAsk, Hanger, type HangFigures, hangSteps } from '@/core/case/hang';
import { forecast } from '@/core/case/forecast';
import { type KeptMatrix, keptMatrix, parTable } from '@/core/case/light';
import { type ParOf, replay, type Replayed, soFarAt, type Stretch } from '@/core/case/replay';
import { type ClimbPlaces, climbSteps } from '@/core/case/climb';
import { type InHandPlaces, placesInHand } from '@/core/case/placing';
import { type Rescue, rescueOf } from '@/core/case/rescue';
import { type SwapAnswer, type SwapAsk, swapSteps } from '@/core/case/swap';
import { type WholeAsk, wholeSteps, type WholeWay } from '@/core/case/whole';
import { hiddenTruth, simulatedReading } from '@/core/case/simulated';
import type { CaseDoc } from '@/core/record/caseDoc';
import { readFile } from '@/core/record/caseFile';
import type { HistoryDoc } from '@/core/record/history';
import type { LogDoc } from '@/core/record/log';
import type { MeterUse, Reading, RigGroup, Session } from '@/core/record/readings';
import type { HungLamp, Zone } from '@/core/record/zone';
import { answerSteps, type FitAnswer, type FitAsk } from '@/core/controller/answers';
import type { ChannelWorth } from '@/core/controller/fit';
import type { ResolvedThread } from '@/core/day/thread';
import { type Mean, outlineMean, roundMean } from '@/core/colour/pixels';
import { carryToLamp, type CarriedMix } from '@/core/mix/carry';
import { photographMix, type PhotographMix } from '@/core/mix/photograph';
import { type Answer, designSteps } from '@/core/mix/design';
import type { DesignInput } from '@/core/mix/aims';
import { type LampAsk, lampForSteps, type LampWay } from '@/core/refugium/lampFor';
import { type Field, type FieldGrid } from '@/core/optics/field';
import { fieldSteps } from '@/core/optics/fieldSteps';
import type { PortraitScene } from '@/core/portrait/buffers';
import { type KeptLight, type PortraitInput, portraitSteps } from '@/core/portrait/scene';
import { photographSteps, type Shot } from '@/core/portrait/studio';
import { computeResponse, type ResponseMatrix, type Rig, type RigSpot } from '@/core/optics/response';
import type { Levels, ControllerProfile, LampKind } from '@/core/spectrum/lampKind';
import type { Spectrum } from '@/core/spectrum/grid';
import { sayIn, type Units } from '@/core/shape/units';

import { checkSteps, type ModelCheck } from '@/core/check/modelCheck';

const MOST_KEPT = 400;
const kept = new Map<string, KeptMatrix>();

/** Light of historical and planned rigs comes back again and again while they are lived through: its spectra are not kept. */
const parOf =
  (zone: Zone, cal: Calibration): ParOf =>
  (groups, yellow440PerM, places) => {
    const bent = { ...cal, yellow440PerM };
    const key = rigKey(groups, zone, places, bent);
    let matrix = kept.get(key);
    if (!matrix) {
      matrix = keptMatrix(computeResponse(rigOf(groups, zone, places, bent)));
      if (kept.size >= MOST_KEPT) kept.delete(kept.keys().next().value!);
      kept.set(key, matrix);
    }
    return parTable(matrix, groups, cal);
  };

const keptLight: KeptLight = new Map();
let pulled: { key: string; hanger: Hanger } | null = null;

/** How much of a picture is kept in reducing it, 0..1. */
const JPEG = 0.85;
/** Photographs that are being made, one after the other. */
let shots: Promise<void> = Promise.resolve();

/** The heavy core functions, as the worker offers them. */
export const service = {
  /** words made here are said in these units */
  sayIn: (units: Units): void => sayIn(units),
  response: (rig: Rig): ResponseMatrix => computeResponse(rig),
  accustomed: (zone: Zone, history: HistoryDoc, log: LogDoc, cal: Calibration, atUtc: string): Replayed =>
    replay(zone, history, log, cal, atUtc, parOf(zone, cal)),
  soFar: (zone: Zone, history: HistoryDoc, log: LogDoc, cal: Calibration, stretches: Stretch[]): number[] =>
    soFarAt(zone, history, log, cal, stretches, parOf(zone, cal)),
  /** a change planned from what the corals are used to now */
  ease: (
    zone: Zone,
    history: HistoryDoc,
    log: LogDoc,
    cal: Calibration,
    nowUtc: string,
    question: EaseQuestion,
    onProgress: Progress,
  ): Promise<EaseAnswer> => {
    const lights = parOf(zone, cal);
    const { perSpot } = replay(zone, history, log, cal, nowUtc, lights);
    return walked(
      easeSteps(zone, history, nowUtc, cal.yellow440PerM, perSpot, question, lights, cal),
      onProgress,
    );
  },
  /** where lamps could hang, against what corals are used to now */
  hang: (
    ask: Omit<HangAsk, 'used'>,
    history: HistoryDoc,
    log: LogDoc,
    nowUtc: string,
    onProgress: Progress,
  ): Promise<HangAnswer> => {
    const { perSpot, known } = replay(ask.zone, history, log, ask.cal, nowUtc, parOf(ask.zone, ask.cal));
    return walked(hangSteps({ ...ask, used: known ? perSpot : null }), onProgress);
  },
  /** which lamps would do, against what corals are used to now */
  choose: (
    ask: Omit<ChooseAsk, 'used'>,
    history: HistoryDoc,
    log: LogDoc,
    nowUtc: string,
    onProgress: Progress,
  ): Promise<LampChoice[]> => {
    const { perSpot, known } = replay(ask.zone, history, log, ask.cal, nowUtc, parOf(ask.zone, ask.cal));
    return walked(chooseSteps({ ...ask, used: known ? perSpot : null }), onProgress);
  },
  /** a picture no longer than so many px, as JPEG; turned as its camera says */
  reduce: async (file: Blob, mostPx: number): Promise<{ blob: Blob; widthPx: number; heightPx: number }> => {
    const picture = await createImageBitmap(file);
    const by = Math.min(1, mostPx / Math.max(picture.width, picture.height));
    const canvas = new OffscreenCanvas(
      Math.max(1, Math.round(picture.width * by)),
      Math.max(1, Math.round(picture.height * by)),
    );
    canvas.getContext('2d')!.drawImage(picture, 0, 0, canvas.width, canvas.height);
    picture.close();
    const blob = await canvas.convertToBlob({ type: 'image/jpeg', quality: JPEG });
    return { blob, widthPx: canvas.width, heightPx: canvas.height };
  },
  /** whatever file of cases this app ever gave out */
  readFile,
  /** a made-up picture, as a file of its own */
  shoot: async (shot: Shot): Promise<Blob> => {
    // nobody waits for it: what is asked meanwhile goes first, but for other pictures: the first is there before the second is begun
    const letIn = () => new Promise<boolean>((resolve) => setTimeout(() => resolve(true)));
    const drawn = shots.then(() => walked(photographSteps(shot), letIn));
    shots = drawn.then(
      () => undefined,
      () => undefined,
    );
    const { width, height, data } = await drawn;
    const canvas = new OffscreenCanvas(width, height);
    canvas.getContext('2d')!.putImageData(new ImageData(data, width, height), 0, 0);
    return canvas.convertToBlob({ type: 'image/jpeg', quality: JPEG });
  },
  /** mean of a round patch of a picture, its middle as shares of the picture, its reach as a share of the width */
  patchMean: async (file: Blob, at: { x: number; y: number }, reach: number): Promise<Mean> => {
    const picture = await createImageBitmap(file);
    const r = Math.max(2, Math.round(reach * picture.width));
    const side = 2 * r + 1;
    const canvas = new OffscreenCanvas(side, side);
    const context = canvas.getContext('2d', { willReadFrequently: true })!;
    context.drawImage(picture, r - at.x * picture.width, r - at.y * picture.height);
    picture.close();
    return roundMean(context.getImageData(0, 0, side, side).data, side);
  },
  /** mean of what a line encloses in a picture, its corners as shares of the picture */
  lineMean: async (file: Blob, outline: readonly { x: number; y: number }[]): Promise<Mean> => {
    const picture = await createImageBitmap(file);
    const { width, height } = picture;
    const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!;
    context.drawImage(picture, 0, 0);
    picture.close();
    return outlineMean(
      context.getImageData(0, 0, width, height).data,
      width,
      height,
      outline.map(({ x, y }) => [x * width, y * height]),
    );
  },
  /** a whole tank: lamps, mix, day and places together, against what corals are used to now */
  whole: (
    ask: Omit<WholeAsk, 'used'>,
    history: HistoryDoc,
    log: LogDoc,
    nowUtc: string,
    onProgress: Progress,
  ): Promise<WholeWay[]> => {
    const { perSpot, known } = replay(ask.zone, history, log, ask.cal, nowUtc, parOf(ask.zone, ask.cal));
    return walked(wholeSteps({ ...ask, used: known ? perSpot : null }), onProgress);
  },
  /** other lamps in place of some that run, so that corals keep their light */
  swap: (ask: SwapAsk, onProgress: Progress): Promise<SwapAnswer> => walked(swapSteps(ask), onProgress),
  /** what lamps would do where a finger holds them; what does not change while it moves is kept under its key */
  hangAt: (
    key: string,
    ask: Omit<HangAsk, 'used'>,
    lamps: HungLamp[],
    kind: LampKind,
    capShare: number,
  ): HangFigures => {
    if (pulled?.key !== key) pulled = { key, hanger: new Hanger({ ...ask, used: null }) };
    const { hanger } = pulled;
    return hanger.figures(hanger.full(lamps, kind), capShare);
  },
  /** ripples, and light from all sides, at a spot */
  atPlace: (...asked: Parameters<typeof atPlace>): AtPlace | null => atPlace(...asked),
  /** where a coral in hand could go */
  placing: (...asked: Parameters<typeof placesInHand>): InHandPlaces => placesInHand(...asked),
  /** what lies ahead of the corals with what runs and the plans under way */
  forecast: (
    zone: Zone,
    history: HistoryDoc,
    log: LogDoc,
    cal: Calibration,
    nowUtc: string,
    today: string,
  ): EaseCourse => {
    const lights = parOf(zone, cal);
    const { perSpot } = replay(zone, history, log, cal, nowUtc, lights);
    return forecast(zone, history, nowUtc, today, cal.yellow440PerM, perSpot, lights, cal);
  },
  rescue: (
    zone: Zone,
    history: HistoryDoc,
    log: LogDoc,
    cal: Calibration,
    nowUtc: string,
    aim: number,
  ): Rescue => {
    const lights = parOf(zone, cal);
    const { perSpot } = replay(zone, history, log, cal, nowUtc, lights);
    return rescueOf(zone, history, nowUtc, cal.yellow440PerM, perSpot, aim, lights, cal);
  },
  /** places of the tank from dark to the chosen one, for a coral that climbs */
  climb: (
    zone: Zone,
    history: HistoryDoc,
    cal: Calibration,
    nowUtc: string,
    spotId: string,
    onProgress: Progress,
  ): Promise<ClimbPlaces> =>
    walked(climbSteps(zone, history, nowUtc, cal.yellow440PerM, spotId, parOf(zone, cal)), onProgress),
  carry: (source: Spectrum, kind: LampKind, through: Spectrum, fixed: Levels): CarriedMix =>
    carryToLamp(source, kind, through, fixed),
  photograph: (kind: LampKind, mix: Levels, through: Spectrum, fixed: Levels): PhotographMix | null =>
    photographMix(kind, mix, through, fixed),
  design: (input: DesignInput, onProgress: Progress): Promise<Answer[]> =>
    walked(designSteps(input), onProgress),
  calibrate: (doc: CaseDoc, zone: Zone, sessions: Session[], onProgress?: Progress): Promise<Calibration> =>
    walked(calibrateSteps(doc, zone, sessions), onProgress),
  /** what a meter of the app's own shows at a place of a tank whose truth nobody is told */
  simulate: (
    zone: Zone,
    { rig, meter, pumpsOn }: SimulatedSession,
    at: RigSpot,
    levels: Reading['levels'],
    seed: number,
    salt: string,
  ): { shown: number; bands: Reading['bands'] } => {
    const truth = hiddenTruth(seed, rig, zone.water);
    const matrix = computeResponse(rigOf(rig, zone, [at], truth));
    const slope = pumpsOn ? zone.rippleSlope : 0;
    return simulatedReading({ matrix, gains: truth.gains }, rig, levels, 0, meter, slope, seed, salt);
  },
  patterns: (input: PatternsInput, onProgress: Progress): Promise<PatternAnswer[]> =>
    walked(patternSteps(input), onProgress),
  /** days of the schools that keepers disagree on */
  disputes: (input: PatternsInput, onProgress: Progress): Promise<DisputeAnswer[]> =>
    walked(disputeSteps(input), onProgress),
  /** days with the present light that a controller can run */
  doable: (
    input: Omit<PatternsInput, 'wantedDli' | 'present'>,
    threads: ResolvedThread[],
    worth: ChannelWorth,
    controller: ControllerProfile,
    onProgress: Progress,
  ): Promise<Doable[]> => walked(doableSteps(input, threads, worth, controller), onProgress),
  carryDay: (source: ForeignDay, target: CarryTarget): CarriedDay => carryDay(source, target),
  /** answers of a controller to a day */
  fitDay: (ask: FitAsk, onProgress: Progress): Promise<FitAnswer[]> => walked(answerSteps(ask), onProgress),
  /** ways to light a mat of algae */
  lampFor: (ask: LampAsk, onProgress: Progress): Promise<LampWay[]> => walked(lampForSteps(ask), onProgress),
  check: (zone: Zone, groups: RigGroup[], onProgress: Progress): Promise<ModelCheck> =>
    walked(checkSteps(zone, groups), onProgress),
  field: (rig: Omit<Rig, 'spots'>, grid: FieldGrid, onProgress: Progress): Promise<Field> =>
    walked(fieldSteps(rig, grid), onProgress),
  /** a picture's scene: where each pixel's light comes from */
  portrait: (input: PortraitInput, onProgress?: Progress): Promise<PortraitScene> =>
    walked(portraitSteps(input, keptLight), onProgress),
};

/** What a simulated meter is held under. */
export interface SimulatedSession {
  rig: RigGroup[];
  meter: MeterUse;
  pumpsOn: boolean;
}

/** Told how far something is; its answer says whether to go on. */
export type Progress = (share: number) => boolean | Promise<boolean>;

/** Between two reports of progress, ms. */
const REPORT_MS = 40;

/**
 * Walks through a computation that yields how far it is, reports that, and lets other requests in between. Stopped, it rejects as
 * the platform's own work does: with an AbortError.
 */
async function walked<T>(steps: Generator<number, T>, onProgress?: Progress): Promise<T> {
  let reported = performance.now();
  for (;;) {
    const next = steps.next();
    if (next.done) return next.value;
    if (performance.now() - reported > REPORT_MS) {
      if (onProgress && !(await onProgress(next.value))) throw new DOMException('stopped', 'AbortError');
      reported = performance.now();
    }
  }
}

type Async<F> = F extends (...input: infer I) => infer O ? (...input: I) => Promise<Awaited<O>> : never;
export type Reckoner = { [K in keyof typeof service]: Async<(typeof service)[K]> };
