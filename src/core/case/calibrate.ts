import { deviation } from 'd3-array';

import { type Fit, type FitInput, fitSteps, type Prediction } from '../meter/fit';
import { meterKind, PIECE_BOUNDS, PIECE_TRAITS, parFactor, pieceSlopes } from '../meter/kinds';
import { METER_NOISE_LUX, METER_NOISE_SHARE, METER_NOISE_UMOL } from '../meter/noise';
import { FIELD_SHARE, fieldWeights } from '../meter/places';
import { computeResponse, type ResponseMatrix } from '../optics/response';
import { BANDS, type PerBand } from '../spectrum/bands';
import { addScaled, GRID_SIZE, integrate, type Spectrum, zeroSpectrum } from '../spectrum/grid';
import {
  bareCalibration,
  byLog,
  type Calibration,
  hungGroups,
  levelsIn,
  type Parameter,
  type Residual,
} from './calibration';
import { type Bent, type LampBent, lampKey, rigOf, rowNames } from './lit';
import { type Criticism, criticise, type Suspected } from './criticism';
import type { CaseDoc } from '../record/caseDoc';
import {
  type MeterUse,
  type Reading,
  type RigGroup,
  type Session,
  sessionsThatCount,
  shownOf,
} from '../record/readings';
import type { Zone } from '../record/zone';

/** Bands of a spectrometer are each this uncertain, beside 1 µmol. Mark: rule of thumb. */
const BAND_NOISE_SHARE = 0.08;
/** Bending and fitting are repeated until nothing moves, at most this often. */
const PASSES = 6;
const SETTLED = 1e-3;
/** What a fit may find: logarithms of factors, yellowness per m, cm for heights. Mark: rule of thumb. */
const BOUNDS: Record<Parameter['what'], readonly [number, number]> = {
  gain: [Math.log(0.05), Math.log(5)],
  lamp: [Math.log(0.02), Math.log(2)],
  height: [-10, 10],
  leanRight: [-25, 25],
  leanBack: [-25, 25],
  beam: [Math.log(0.4), Math.log(2.5)],
  yellow: [0, 4],
  panes: [Math.log(0.2), Math.log(1.3)],
  floor: [Math.log(0.2), Math.log(2.5)],
  field: [-0.5, 0.5],
};
/** Readings scatter like Student's t with so many degrees of freedom: most as said, some far off. Mark: rule of thumb. */
const NOISE_TAILS = 4;
/**
 * The same of what may lie far off: one lamp in about twenty gives less than half of its light, water can be far yellower than anybody
 * thinks, and a piece of a meter unlike its kind. Mark: rule of thumb.
 */
const TAILS: Readonly<Partial<Record<Parameter['what'], Tail>>> = {
  lamp: { nu: 2, heldAtMost: 1 },
  yellow: { nu: 3, heldAtMost: 0.35 },
};
const TRAIT_TAILS: Readonly<Record<(typeof PIECE_TRAITS)[number], Tail>> = {
  shift: { nu: 3, heldAtMost: 0.4 },
  tail: { nu: 3, heldAtMost: 0.4 },
  ends: { nu: 3, heldAtMost: 0.6 },
};

/** A reading at its place under the lamps of its session. */
interface Place {
  session: Session;
  reading: Reading;
  xCm: number;
  yCm: number;
  /** of the sensor */
  sensorCm: number;
  openShare: number;
}

/** Where a reading was taken; readings of an older version stand at their spot. Null when that is gone. */
function placeOf(zone: Zone, session: Session, reading: Reading): Place | null {
  const spot = zone.spots.find((s) => s.id === reading.spotId);
  const from = session.rig === null ? spot : reading;
  if (!from) return null;
  return {
    session,
    reading,
    xCm: Math.min(from.xCm, zone.tank.lengthCm),
    yCm: Math.min(from.yCm, zone.tank.widthCm),
    sensorCm: Math.min(zone.tank.depthCm, Math.max(0, from.depthCm - session.meter.sensorAboveCm)),
    openShare: spot?.openShare ?? 1,
  };
}

/**
 * Fits what is unknown of a zone's light to its readings: the light of each colour and of each lamp, how high lamps hang, beams, the
 * water's yellowness, panes and floor, each meter's scale and response, and what is left over place by place. What readings do not
 * tell stays as doubtful as it was. Yields how far it is, 0..1. Source: docs/science, Calibration.
 */
export function* calibrateSteps(
  doc: CaseDoc,
  zone: Zone,
  sessions: readonly Session[],
): Generator<number, Calibration> {
  const now = hungGroups(doc, zone);
  const counted = sessionsThatCount(sessions, zone.id);
  const rigs = counted.map((s) => s.rig ?? now);
  const bare = bareCalibration(everyGroup([now, ...rigs]), zone);
  const sets = counted.map((session, s) => ({
    rig: rigs[s]!,
    places: session.readings.flatMap((r) => (r.tries.length > 0 ? (placeOf(zone, session, r) ?? []) : [])),
  }));
  const model = new Model(zone, sets, bare.parameters, bare.box);
  const count = model.observations.length;
  if (count === 0) return bare;

  const prior = model.prior(bare);
  let parameters: number[] = prior.mean;
  let fit: Fit | null = null;
  // each pass bends light as the last one found, and reads meters under the mix that then arrives
  for (let pass = 0; pass < PASSES; pass += 1) {
    const from = parameters;
    model.settleAt(from);
    const steps = fitSteps({
      observed: model.observations.map((o) => o.observed),
      predict: (p) => model.predict(p),
      prior,
      bounds: model.bounds(),
      sigma: (predicted, i) => model.sigma(predicted, i),
      trusted: (i) => model.reading(i).trusted === true,
      noiseTails: NOISE_TAILS,
      priorTails: model.tails(),
    });
    for (;;) {
      const next = steps.next();
      if (next.done) {
        fit = next.value;
        parameters = fit.parameters;
        break;
      }
      yield (pass + next.value) / PASSES;
    }
    if (pass > 0 && parameters.every((v, i) => Math.abs(v - from[i]!) < SETTLED)) break;
  }
  return model.describe(bare, fit!);
}

/** The calibration in one go. */
export function calibrate(doc: CaseDoc, zone: Zone, sessions: readonly Session[]): Calibration {
  const steps = calibrateSteps(doc, zone, sessions);
  for (;;) {
    const next = steps.next();
    if (next.done) return next.value;
  }
}

/** Every group that hangs or hung, once. */
function everyGroup(rigs: readonly RigGroup[][]): RigGroup[] {
  const seen = new Map<string, RigGroup>();
  for (const g of rigs.flat()) if (!seen.has(g.groupId)) seen.set(g.groupId, g);
  return [...seen.values()];
}

type Tail = NonNullable<ReturnType<NonNullable<FitInput['priorTails']>['get']>>;

interface Observation {
  set: number;
  place: number;
  /** a band of a spectrometer; -1 = the whole reading */
  band: number;
  observed: number;
  /** what each trait of this piece of the meter would do to it, per standard deviation */
  traits: number[];
  /** doubt that the nodes of the field leave at its place, as a share */
  leftShare: number;
  /** what its response may be off under this light beside all traits, as a share */
  shapeShare: number;
  /** what the last digit of the meter stands for, µmol */
  digitUmol: number;
  /** doubt of the median of its tries from their own spread, µmol */
  spread: number;
}

/** A row of light under a reading: its level, and the parameter that scales it. */
interface LitRow {
  level: number;
  /** places of the parameters that are its own; −1 = it has none */
  gain: number;
  lamp: number;
  height: number;
  leanRight: number;
  leanBack: number;
  beam: number;
}

/** The readings of a zone as a model of the fit's parameters: the zone's, then each meter's scale and traits. */
class Model {
  readonly observations: Observation[];
  private readonly meters: MeterUse[];
  private readonly litRows: LitRow[][][];
  private matrices: ResponseMatrix[] = [];
  /** parameters at which the light was computed */
  private at: number[] = [];

  constructor(
    private readonly zone: Zone,
    private readonly sets: readonly { rig: RigGroup[]; places: Place[] }[],
    readonly parameters: readonly Parameter[],
    private readonly box: Calibration['box'],
  ) {
    const seen = new Map<string, MeterUse>();
    for (const { places } of sets)
      for (const { session } of places) {
        const id = meterId(session.meter);
        // one piece of a kind: trusted in one session, trusted in all
        seen.set(id, { ...session.meter, trusted: session.meter.trusted ?? seen.get(id)?.trusted });
      }
    this.meters = [...seen.values()];
    this.litRows = sets.map(() => []);
    this.observations = sets.flatMap((s, set) =>
      s.places.flatMap((p, place) => {
        const bands = p.reading.bands
          ? BANDS.map((_, b) => b).filter((b) => b > 0 && b < BANDS.length - 1)
          : [-1];
        return bands.map((band) => ({
          set,
          place,
          band,
          observed: 0,
          traits: [],
          leftShare: 0,
          shapeShare: 0,
          digitUmol: METER_NOISE_UMOL,
          spread: 0,
        }));
      }),
    );
  }

  reading(observation: number): Reading {
    const { set, place } = this.observations[observation]!;
    return this.sets[set]!.places[place]!.reading;
  }

  private get own(): number {
    return this.parameters.length;
  }
  private index(what: Parameter['what']): number {
    return this.parameters.findIndex((q) => q.what === what);
  }

  prior(bare: Calibration): { mean: number[]; covariance: number[][] } {
    const meters = this.meters.flatMap((m) => {
      const scale = m.trusted ? TRUSTED_SCALE : meterKind(m.kind).scaleError;
      return [scale, ...PIECE_TRAITS.map(() => (m.trusted ? TRUSTED_TRAIT : 1))].map((sd) => sd ** 2);
    });
    const size = this.own + meters.length;
    return {
      mean: [
        ...this.parameters.map((p) => (byLog(p.what) ? Math.log(p.nominal) : p.nominal)),
        ...meters.map(() => 0),
      ],
      covariance: Array.from({ length: size }, (_, i) =>
        Array.from({ length: size }, (__, j) => {
          if (i < this.own && j < this.own) return bare.covariance[i]![j]!;
          return i === j ? meters[i - this.own]! : 0;
        }),
      ),
    };
  }

  bounds(): (readonly [number, number])[] {
    return [
      ...this.parameters.map((p) => BOUNDS[p.what]),
      ...this.meters.flatMap((m) => [BOUNDS.gain, ...PIECE_TRAITS.map((t) => PIECE_BOUNDS[t](m.kind))]),
    ];
  }

  /** Parameters that may lie far off, with the degrees of freedom of their tails. */
  tails(): Map<number, Tail> {
    return new Map([
      ...this.parameters.flatMap((q, i): [number, Tail][] => {
        const tail = TAILS[q.what];
        return tail ? [[i, tail]] : [];
      }),
      ...this.meters.flatMap((m) =>
        PIECE_TRAITS.map((t, k): [number, Tail] => [this.meterAt(m) + 1 + k, TRAIT_TAILS[t]]),
      ),
    ]);
  }

  /** A parameter as it is: a factor, per m, cm. */
  private value(p: readonly number[], i: number): number {
    return byLog(this.parameters[i]!.what) ? Math.exp(p[i]!) : p[i]!;
  }

  private bent(p: readonly number[]): Required<Bent> {
    const beams: Record<string, number> = {};
    const lamps: Record<string, LampBent> = {};
    this.parameters.forEach((q, i) => {
      const v = this.value(p, i);
      const key = lampKey(q.groupId, q.lampId);
      if (q.what === 'beam') beams[q.groupId] = v;
      if (q.what === 'lamp') lamps[key] = { higherCm: 0, ...lamps[key], gain: v };
      if (q.what === 'height') lamps[key] = { gain: 1, ...lamps[key], higherCm: v };
      if (q.what === 'leanRight' || q.what === 'leanBack') {
        const side = q.what === 'leanRight' ? 'right' : 'back';
        const lamp = lamps[key]!;
        lamps[key] = { ...lamp, lean: { right: 0, back: 0, ...lamp.lean, [side]: v } };
      }
    });
    const of = (what: Parameter['what']) => this.value(p, this.index(what));
    return { yellow440PerM: of('yellow'), beams, lamps, panes: of('panes'), floor: of('floor') };
  }

  /** Computes light exactly at these parameters; around them it then follows its slopes, and meters are read under its mixes. */
  settleAt(p: readonly number[]): void {
    this.at = [...p];
    const bent = this.bent(p);
    this.matrices = this.sets.map(({ rig, places }) =>
      computeResponse(
        rigOf(
          rig,
          this.zone,
          places.map((q) => ({ xCm: q.xCm, yCm: q.yCm, depthCm: q.sensorCm, openShare: q.openShare })),
          bent,
        ),
      ),
    );
    this.observe(p);
  }

  /** Level of every row of a set's rig under a reading, with the parameter that scales it. */
  private rows(set: number, place: number): LitRow[] {
    const known = this.litRows[set]![place];
    if (known) return known;
    const { rig, places } = this.sets[set]!;
    const { levels } = places[place]!.reading;
    const own = new Map(rig.map((group) => [group.groupId, { group, levels: levelsIn(group, levels) }]));
    const find = (what: Parameter['what'], groupId: string, channelId = '', lampId = '') =>
      this.parameters.findIndex(
        (q) => q.what === what && q.groupId === groupId && q.channelId === channelId && q.lampId === lampId,
      );
    return (this.litRows[set]![place] = rowNames(rig).map(({ groupId, lampId, channelId }) => {
      const { group, levels: lit } = own.get(groupId)!;
      return {
        level: lit[group.lampKind.channels.findIndex((c) => c.id === channelId)]!,
        gain: find('gain', groupId, channelId),
        lamp: find('lamp', groupId, '', lampId),
        height: find('height', groupId, '', lampId),
        leanRight: find('leanRight', groupId, '', lampId),
        leanBack: find('leanBack', groupId, '', lampId),
        beam: find('beam', groupId),
      };
    }));
  }

  private spectrum(p: readonly number[], set: number, place: number, matrix: ResponseMatrix): Spectrum {
    const out = zeroSpectrum();
    this.rows(set, place).forEach(({ level, gain }, r) => {
      if (level === 0) return;
      const at = (place * matrix.rows + r) * GRID_SIZE;
      // the lamp's own factor is in the matrix
      addScaled(out, matrix.spectra.subarray(at, at + GRID_SIZE), level * this.value(p, gain));
    });
    return out;
  }

  /** Turns what meters showed into PAR under the mix that the model says arrived. */
  private observe(p: readonly number[]): void {
    for (const o of this.observations) {
      const { session, reading } = this.sets[o.set]!.places[o.place]!;
      const { kind, immersionFactor } = session.meter;
      const shown = shownOf(reading) * immersionFactor;
      const light = this.spectrum(p, o.set, o.place, this.matrices[o.set]!);
      const meter = meterKind(kind);
      const factor = parFactor(meter, light) ?? { parPerShown: 1, errorShare: meter.scaleError };
      const umol = shown * factor.parPerShown;
      o.observed = o.band < 0 ? umol : umol * parShare(reading.bands!, o.band);
      o.digitUmol = meter.unit === 'lux' ? METER_NOISE_LUX * factor.parPerShown : METER_NOISE_UMOL;
      o.shapeShare =
        meter.unit === 'lux'
          ? SHAPE_PART * Math.sqrt(Math.max(0, factor.errorShare ** 2 - meter.scaleError ** 2))
          : 0;
      o.traits = pieceSlopes(meter, light);
      o.leftShare = FIELD_SHARE * Math.sqrt(fieldWeights(this.box, this.matrices[o.set]!.at[o.place]!).left);
      o.spread = spreadOf(reading.tries) * immersionFactor * factor.parPerShown;
    }
  }

  sigma(predicted: number, i: number): number {
    const o = this.observations[i]!;
    const noise =
      o.band < 0
        ? METER_NOISE_SHARE * Math.abs(predicted) + o.digitUmol
        : BAND_NOISE_SHARE * Math.abs(predicted) + METER_NOISE_UMOL;
    return Math.hypot(
      Math.max(noise, o.band < 0 ? o.spread : 0),
      o.leftShare * predicted,
      o.shapeShare * predicted,
    );
  }

  predict(p: readonly number[]): Prediction {
    const size = p.length;
    const [yellow, panes, floor] = [this.index('yellow'), this.index('panes'), this.index('floor')];
    const moved = p.map((v, i) => v - this.at[i]!);
    const out: Prediction = { value: [], slope: [] };
    const fields = this.parameters.flatMap((q, i) => (q.what === 'field' ? [i] : []));
    for (const o of this.observations) {
      const { session } = this.sets[o.set]!.places[o.place]!;
      const matrix = this.matrices[o.set]!;
      const slope = new Array<number>(size).fill(0);
      const { weights } = fieldWeights(this.box, matrix.at[o.place]!);
      let sum = 0;
      this.rows(o.set, o.place).forEach(({ level, gain, lamp, height, leanRight, leanBack, beam }, r) => {
        if (level === 0) return;
        const at = o.place * matrix.rows + r;
        const whole = matrix.par[at]!;
        if (!(whole > 0)) return;
        // how its logarithm moves with each
        const by = {
          yellow: matrix.byYellow[at]! / whole,
          beam: beam < 0 ? 0 : matrix.byBeam[at]! / whole,
          height: matrix.byHeight[at]! / whole,
          right: matrix.byLean.right[at]! / whole,
          back: matrix.byLean.back[at]! / whole,
          panes: matrix.byPane[at]! / whole,
          floor: matrix.byFloor[at]! / whole,
        };
        const off =
          moved[yellow]! * by.yellow +
          (beam < 0 ? 0 : moved[beam]! * by.beam) +
          moved[height]! * by.height +
          (leanRight < 0 ? 0 : moved[leanRight]! * by.right + moved[leanBack]! * by.back) +
          moved[panes]! * by.panes +
          moved[floor]! * by.floor +
          moved[lamp]!;
        const term =
          level * this.value(p, gain) * Math.exp(off) * (o.band < 0 ? whole : bandOf(matrix, at, o.band));
        sum += term;
        slope[gain]! += term;
        slope[lamp]! += term;
        slope[height]! += term * by.height;
        if (leanRight >= 0) {
          slope[leanRight]! += term * by.right;
          slope[leanBack]! += term * by.back;
        }
        if (beam >= 0) slope[beam]! += term * by.beam;
        slope[yellow]! += term * by.yellow;
        slope[panes]! += term * by.panes;
        slope[floor]! += term * by.floor;
      });
      const meter = this.meterAt(session.meter);
      const [shift, ...shares] = o.traits;
      const added = Math.max(
        LEAST_SHOWN,
        1 + shares.reduce((total, t, k) => total + t * p[meter + 2 + k]!, 0),
      );
      const field = fields.reduce((total, i, n) => total + weights[n]! * p[i]!, 0);
      const shown = Math.exp(p[meter]! + shift! * p[meter + 1]! + field) * added;
      for (let i = 0; i < this.own; i += 1) slope[i]! *= shown;
      const value = sum * shown;
      fields.forEach((i, n) => (slope[i] = value * weights[n]!));
      slope[meter] = value;
      slope[meter + 1] = value * shift!;
      shares.forEach((t, k) => (slope[meter + 2 + k] = (value * t) / added));
      out.value.push(value);
      out.slope.push(slope);
    }
    return out;
  }

  /** Place of a meter's scale in the parameters; its traits follow. */
  private meterAt(use: MeterUse): number {
    return this.own + (1 + PIECE_TRAITS.length) * this.meters.findIndex((m) => meterId(m) === meterId(use));
  }

  describe(bare: Calibration, fit: Fit): Calibration {
    const p = fit.parameters;
    const criticism = this.criticism(bare, fit);
    const widen = Math.max(fit.scatter > WIDE ? fit.scatter : 1, criticism?.widen ?? 1) ** 2;
    const covariance = this.parameters.map((_, i) =>
      this.parameters.map((__, j) => widen * fit.covariance[i]![j]!),
    );
    const gains: Calibration['gains'] = {};
    const parameters = this.parameters.map((q, i): Parameter => {
      const value = this.value(p, i);
      if (q.what === 'gain') (gains[q.groupId] ??= {})[q.channelId] = value;
      const sd = Math.sqrt(covariance[i]![i]!);
      return { ...q, value, standardError: byLog(q.what) ? value * sd : sd };
    });
    return {
      ...this.bent(p),
      readings: this.sets.reduce((n, s) => n + s.places.length, 0),
      simulated: this.meters.some((m) => m.simulated),
      gains,
      parameters,
      covariance,
      box: bare.box,
      residuals: this.residuals(fit),
      meter: this.newestMeter(fit, widen),
      meters: this.meters.map((m) => {
        const { factor, variance } = this.meterUnder(m, fit);
        return {
          kind: m.kind,
          simulated: m.simulated,
          trusted: m.trusted === true,
          scale: factor,
          standardError: factor * Math.sqrt(widen * variance),
        };
      }),
      scatter: fit.scatter,
      criticism,
    };
  }

  /** Whether what the fit left over says that the model is wrong in kind, and what would explain it. */
  private criticism(bare: Calibration, fit: Fit): Criticism | null {
    const { covariance } = this.prior(bare);
    const now = this.predict(fit.parameters);
    const left = this.observations.map((o, i) => {
      const { xCm, yCm, sensorCm } = this.sets[o.set]!.places[o.place]!;
      const sigma = this.sigma(fit.predicted[i]!, i);
      return {
        ...{ xCm, yCm, depthCm: sensorCm, sigmas: fit.sigmas[i]! },
        slopes: now.slope[i]!.map((v) => v / sigma),
      };
    });
    const known = this.parameters.flatMap((q, at): Suspected[] => {
      const words = CAUSES[q.what]?.(q.name);
      return words ? [{ at, variance: covariance[at]![at]!, ...words }] : [];
    });
    const meters = this.meters.flatMap((m) =>
      PIECE_TRAITS.map((_, k): Suspected => {
        const at = this.meterAt(m) + 1 + k;
        const words = `the ${meterKind(m.kind).name.toLowerCase()} answers colours otherwise than its kind`;
        return { at, variance: covariance[at]![at]!, kind: 'meter', words };
      }),
    );
    return criticise(left, covariance, [...known, ...meters], fit.scatter);
  }

  /** What a meter shows over what is there, under the mean of the lights it was read in: its scale and its traits. */
  private meterUnder(m: MeterUse, { parameters: p, covariance }: Fit) {
    const at = this.meterAt(m);
    const own = this.observations.filter(
      (o) => meterId(this.sets[o.set]!.places[o.place]!.session.meter) === meterId(m),
    );
    const [shift, ...shares] = PIECE_TRAITS.map(
      (_, k) => own.reduce((s, o) => s + o.traits[k]!, 0) / own.length,
    );
    const added = Math.max(LEAST_SHOWN, 1 + shares.reduce((s, t, k) => s + t * p[at + 2 + k]!, 0));
    const slope = [1, shift!, ...shares.map((t) => t / added)];
    return {
      at,
      slope,
      factor: Math.exp(p[at]! + shift! * p[at + 1]!) * added,
      variance: slope.reduce(
        (s, x, i) => s + slope.reduce((t, y, j) => t + x * y * covariance[at + i]![at + j]!, 0),
        0,
      ),
    };
  }

  private newestMeter(fit: Fit, widen: number): Calibration['meter'] {
    const newest = this.sets.reduce((a, b) =>
      (b.places[0]?.session.atUtc ?? '') >= (a.places[0]?.session.atUtc ?? '') ? b : a,
    );
    const { variance, slope, at } = this.meterUnder(newest.places[0]!.session.meter, fit);
    return {
      variance: widen * variance,
      cross: this.parameters.map(
        (_, i) => widen * slope.reduce((s, x, k) => s + x * fit.covariance[i]![at + k]!, 0),
      ),
    };
  }

  /** What would explain a reading that does not fit: another light, a lamp that gives less, a slip of the hand. */
  private fitsIf(fit: Fit, i: number): string[] {
    const o = this.observations[i]!;
    const { rig, places } = this.sets[o.set]!;
    const matrix = this.matrices[o.set]!;
    const factor = o.observed / fit.predicted[i]!;
    const names = rowNames(rig);
    const rows = this.rows(o.set, o.place);
    /** light of rows at other levels, over all of it as it was said to be lit */
    const over = (levelOf: (row: LitRow, r: number) => number) => {
      let [sum, whole] = [0, 0];
      rows.forEach((row, r) => {
        const full = this.value(fit.parameters, row.gain) * matrix.par[o.place * matrix.rows + r]!;
        sum += levelOf(row, r) * full;
        whole += row.level * full;
      });
      return whole > 0 ? sum / whole : 0;
    };
    const lamps = rig.flatMap((g) => g.lamps.map((l) => ({ groupId: g.groupId, ...l })));
    const without = lamps.flatMap((l) => {
      const own = (r: number) => names[r]!.groupId === l.groupId && names[r]!.lampId === l.id;
      const rest = over((row, r) => (own(r) ? 0 : row.level));
      const left = rest < 1 ? (factor - rest) / (1 - rest) : 1;
      if (rest > 0.97 || left < -0.05 || left > 0.8) return [];
      return [
        {
          words: `lamp ${l.name} gave ${left < 0.05 ? 'no light' : `${Math.round(left * 100)} % of its light`}`,
          ratio: factor,
        },
      ];
    });
    const others = places
      .filter((p, k) => k !== o.place && p.reading.spotId !== places[o.place]!.reading.spotId)
      .map((p) => ({
        words: `it was read at ${p.reading.name}`,
        ratio: this.lightAt(fit, o.set, places.indexOf(p), o.place) / fit.predicted[i]!,
      }));
    return [
      { words: 'everything was at full', ratio: over(() => 1) },
      ...without,
      ...others,
      { words: 'a digit slipped, ten times', ratio: 10 },
      { words: 'a digit slipped, a tenth', ratio: 0.1 },
    ]
      .filter((x) => x.ratio > 0 && Math.abs(Math.log(factor / x.ratio)) < EXPLAINED)
      .sort((a, b) => Math.abs(Math.log(factor / a.ratio)) - Math.abs(Math.log(factor / b.ratio)))
      .map((x) => x.words)
      .filter((w, k, all) => all.indexOf(w) === k)
      .slice(0, MOST_EXPLAINED);
  }

  /** Light at one place of a set under the levels of another's reading. */
  private lightAt(fit: Fit, set: number, place: number, levelsOf: number): number {
    const matrix = this.matrices[set]!;
    return this.rows(set, levelsOf).reduce(
      (sum, row, r) =>
        sum + row.level * this.value(fit.parameters, row.gain) * matrix.par[place * matrix.rows + r]!,
      0,
    );
  }

  private residuals(fit: Fit): Residual[] {
    return this.sets.flatMap((s, set) =>
      s.places.map((place, at): Residual => {
        const own = this.observations.flatMap((o, i) => (o.set === set && o.place === at ? [i] : []));
        const sum = (of: (i: number) => number) => own.reduce((total, i) => total + of(i), 0);
        const worst = own.reduce(
          (a, b) => (Math.abs(fit.sigmas[b]!) > Math.abs(fit.sigmas[a]!) ? b : a),
          own[0]!,
        );
        const { session, reading } = place;
        return {
          sessionId: session.id,
          readingId: reading.id,
          spotId: reading.spotId,
          name: reading.name,
          xCm: place.xCm,
          yCm: place.yCm,
          depthCm: place.sensorCm + session.meter.sensorAboveCm,
          levels: reading.levels,
          observedUmol: sum((i) => this.observations[i]!.observed),
          sigmaUmol: Math.sqrt(sum((i) => this.sigma(fit.predicted[i]!, i) ** 2)),
          predictedUmol: sum((i) => fit.predicted[i]!),
          sigmas: fit.sigmas[worst]!,
          suspect: own.some((i) => fit.suspects.includes(i)),
          dropped: own.some((i) => fit.dropped.includes(i)),
          trusted: reading.trusted === true,
          fitsIf: own.some((i) => fit.suspects.includes(i)) ? this.fitsIf(fit, own[0]!) : [],
        };
      }),
    );
  }
}

/** So much of what a lux meter's response may be off is each light's own, between its traits. Mark: rule of thumb. */
const SHAPE_PART = 0.5;
/** A reading is explained by what comes within this of it, of the logarithm. Mark: rule of thumb. */
const EXPLAINED = 0.12;
const MOST_EXPLAINED = 2;
/** What a parameter that is wrong by more than was thought means. */
const CAUSES: Partial<Record<Parameter['what'], (name: string) => Pick<Suspected, 'kind' | 'words'>>> = {
  lamp: (name) => ({ kind: 'lamp', words: `${uncapital(name)} is far from that of its kind` }),
  height: (name) => ({
    kind: 'height',
    words: `${uncapital(name.replace(' higher by', ' otherwise than said'))}`,
  }),
  leanRight: (name) => ({
    kind: 'lean',
    words: `${uncapital(name.replace(/ to the .*/, ' otherwise than said'))}`,
  }),
  leanBack: (name) => ({
    kind: 'lean',
    words: `${uncapital(name.replace(/ to the .*/, ' otherwise than said'))}`,
  }),
  beam: () => ({ kind: 'beam', words: 'the beam is narrower or wider than said' }),
  yellow: () => ({ kind: 'yellow', words: 'the water is far clearer or yellower than said' }),
  panes: () => ({ kind: 'panes', words: 'the panes throw back far less or more' }),
  floor: () => ({ kind: 'floor', words: 'the floor throws back far less or more' }),
};
const uncapital = (text: string) => text.charAt(0).toLowerCase() + text.slice(1);

/** However much of a reading a trait takes, this is left. */
const LEAST_SHOWN = 0.05;
/** Scale error of a meter that is taken at its word, and of its traits. Mark: rule of thumb. */
const TRUSTED_SCALE = 0.005;
const TRUSTED_TRAIT = 0.05;
/** Readings that scatter this much wider than their noise widen every band. Mark: rule of thumb. */
const WIDE = 1.3;

const meterId = (m: MeterUse): string => `${m.kind} ${m.simulated}`;

/** Doubt of the median of a few tries, from their own spread (1.25 × standard error of the mean). Mark: standard. */
function spreadOf(tries: readonly number[]): number {
  return tries.length < 3 ? 0 : (1.25 * deviation(tries)!) / Math.sqrt(tries.length);
}

/** Share of PAR in one of the bands inside it, from shares over all nine. */
function parShare(bands: PerBand, band: number): number {
  const inside = BANDS.slice(1, -1).reduce((sum, b) => sum + bands[b.id], 0);
  return inside > 0 ? bands[BANDS[band]!.id] / inside : 0;
}

function bandOf(matrix: ResponseMatrix, at: number, band: number): number {
  const { fromNm, toNm } = BANDS[band]!;
  return integrate(matrix.spectra.subarray(at * GRID_SIZE, (at + 1) * GRID_SIZE), fromNm, toNm);
}
