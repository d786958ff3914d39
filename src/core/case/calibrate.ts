import { deviation } from 'd3-array';

import { type Fit, fitSteps, type Prediction } from '../meter/fit';
import { meterKind, parFactor } from '../meter/kinds';
import {
  GAIN_BOUNDS,
  LEAST_READINGS,
  METER_NOISE_SHARE,
  METER_NOISE_UMOL,
  UNREAD_SHARE,
} from '../meter/noise';
import { computeResponse, type ResponseMatrix } from '../optics/response';
import { BANDS, type PerBand } from '../spectrum/bands';
import { addScaled, GRID_SIZE, integrate, type Spectrum, zeroSpectrum } from '../spectrum/grid';
import {
  bareCalibration,
  type Calibration,
  hungGroups,
  levelsIn,
  type Parameter,
  type Residual,
} from './calibration';
import { type Bent, rigOf, rowNames } from './lit';
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
/** What a fit may find for yellow substances, m⁻¹, and for factors on beam exponents. Mark: rule of thumb. */
const YELLOW_BOUNDS = [0, 3] as const;
const BEAM_BOUNDS = [0.5, 2] as const;

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
 * Fits what is unknown of a zone's light to its readings: a gain per channel, the water's yellowness, the beams, and the scale of
 * each meter (which no reading of that meter alone can tell from the lamps, and which therefore stays in the bands). With
 * fewer than three readings only one overall gain moves. Yields how far it is, 0..1.
 */
export function* calibrateSteps(
  doc: CaseDoc,
  zone: Zone,
  sessions: readonly Session[],
): Generator<number, Calibration> {
  const now = hungGroups(doc, zone);
  const counted = sessionsThatCount(sessions, zone.id);
  const rigs = counted.map((s) => s.rig ?? now);
  const bare = bareCalibration(everyGroup([now, ...rigs]), zone.water);
  const sets = counted.map((session, s) => ({
    rig: rigs[s]!,
    places: session.readings.flatMap((r) => (r.tries.length > 0 ? (placeOf(zone, session, r) ?? []) : [])),
  }));
  const model = new Model(zone, sets, bare.parameters);
  const count = model.observations.length;
  if (count === 0) return bare;

  const overallOnly = sets.reduce((n, s) => n + s.places.length, 0) < LEAST_READINGS;
  model.overallOnly = overallOnly;
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

interface Observation {
  set: number;
  place: number;
  /** a band of a spectrometer; -1 = the whole reading */
  band: number;
  observed: number;
  /** doubt that the meter's response leaves, as a share */
  mixError: number;
  /** doubt of the median of its tries from their own spread, µmol */
  spread: number;
}

/** A row of light under a reading: its level, and the parameter that scales it. */
interface LitRow {
  level: number;
  group: RigGroup;
  gain: number;
}

/** The readings of a zone as a model of the fit's parameters: gains (or one for all), yellow, beams, meter scales. */
class Model {
  overallOnly = false;
  readonly observations: Observation[];
  private readonly meters: MeterUse[];
  private readonly litRows: LitRow[][][];
  private matrices: ResponseMatrix[] = [];
  private at: Bent = { yellow440PerM: 0, beams: {} };

  constructor(
    private readonly zone: Zone,
    private readonly sets: readonly { rig: RigGroup[]; places: Place[] }[],
    private readonly parameters: readonly Parameter[],
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
        return bands.map((band) => ({ set, place, band, observed: 0, mixError: 0, spread: 0 }));
      }),
    );
  }

  reading(observation: number): Reading {
    const { set, place } = this.observations[observation]!;
    return this.sets[set]!.places[place]!.reading;
  }

  /** Places of the zone's parameters in the fit; in an overall fit gains share one and the rest stand still. */
  private slot(i: number): number {
    if (!this.overallOnly) return i;
    return this.parameters[i]!.what === 'gain' ? 0 : -1;
  }
  private get own(): number {
    return this.overallOnly ? 1 : this.parameters.length;
  }

  prior(bare: Calibration): { mean: number[]; covariance: number[][] } {
    const scales = this.meters.map((m) => (m.trusted ? TRUSTED_SCALE : meterKind(m.kind).scaleError) ** 2);
    const own = this.overallOnly ? [[bare.covariance[0]![0]!]] : bare.covariance;
    const size = own.length + scales.length;
    return {
      mean: [...(this.overallOnly ? [1] : this.parameters.map((p) => p.nominal)), ...scales.map(() => 1)],
      covariance: Array.from({ length: size }, (_, i) =>
        Array.from({ length: size }, (__, j) => {
          if (i < own.length && j < own.length) return own[i]![j]!;
          return i === j ? scales[i - own.length]! : 0;
        }),
      ),
    };
  }

  bounds(): (readonly [number, number])[] {
    const own = this.overallOnly
      ? [GAIN_BOUNDS]
      : this.parameters.map((p) =>
          p.what === 'yellow' ? YELLOW_BOUNDS : p.what === 'beam' ? BEAM_BOUNDS : GAIN_BOUNDS,
        );
    return [...own, ...this.meters.map(() => GAIN_BOUNDS)];
  }

  private value(p: readonly number[], i: number): number {
    const slot = this.slot(i);
    return slot < 0 ? this.parameters[i]!.nominal : p[slot]!;
  }

  private bent(p: readonly number[]): Bent {
    const beams: Record<string, number> = {};
    let yellow440PerM = this.zone.water.yellow440PerM;
    this.parameters.forEach((q, i) => {
      if (q.what === 'yellow') yellow440PerM = this.value(p, i);
      if (q.what === 'beam') beams[q.groupId] = this.value(p, i);
    });
    return { yellow440PerM, beams };
  }

  /** Computes light exactly at these parameters; around them it then follows its slopes, and meters are read under its mixes. */
  settleAt(p: readonly number[]): void {
    this.at = this.bent(p);
    this.matrices = this.sets.map(({ rig, places }) =>
      computeResponse(
        rigOf(
          rig,
          this.zone,
          places.map((q) => ({ xCm: q.xCm, yCm: q.yCm, depthCm: q.sensorCm, openShare: q.openShare })),
          this.at,
        ),
      ),
    );
    this.observe(p);
  }

  /** Light of a row at other parameters over that where it was computed: exponential in yellowness, a power of the beam factor. */
  private factor(matrix: ResponseMatrix, at: number, groupId: string, bent: Bent): number {
    const whole = matrix.par[at]!;
    if (!(whole > 0)) return 1;
    const beam = Math.log((bent.beams[groupId] ?? 1) / (this.at.beams[groupId] ?? 1));
    return Math.exp(
      ((bent.yellow440PerM - this.at.yellow440PerM) * matrix.byYellow[at]! + beam * matrix.byBeam[at]!) /
        whole,
    );
  }

  /** Level of every row of a set's rig under a reading, with the parameter that scales it. */
  private rows(set: number, place: number): LitRow[] {
    const known = this.litRows[set]![place];
    if (known) return known;
    const { rig, places } = this.sets[set]!;
    const { levels } = places[place]!.reading;
    const own = new Map(rig.map((group) => [group.groupId, { group, levels: levelsIn(group, levels) }]));
    return (this.litRows[set]![place] = rowNames(rig).map(({ groupId, channelId }) => {
      const { group, levels: lit } = own.get(groupId)!;
      return {
        group,
        level: lit[group.lampKind.channels.findIndex((c) => c.id === channelId)]!,
        gain: this.parameters.findIndex(
          (q) => q.what === 'gain' && q.groupId === groupId && q.channelId === channelId,
        ),
      };
    }));
  }

  private spectrum(p: readonly number[], set: number, place: number, matrix: ResponseMatrix): Spectrum {
    const out = zeroSpectrum();
    this.rows(set, place).forEach(({ level, gain }, r) => {
      if (level === 0) return;
      const at = (place * matrix.rows + r) * GRID_SIZE;
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
      o.mixError = Math.sqrt(Math.max(0, factor.errorShare ** 2 - meter.scaleError ** 2));
      o.spread = spreadOf(reading.tries) * immersionFactor * factor.parPerShown;
    }
  }

  sigma(predicted: number, i: number): number {
    const o = this.observations[i]!;
    const noise =
      o.band < 0
        ? METER_NOISE_SHARE * Math.abs(predicted) + METER_NOISE_UMOL
        : BAND_NOISE_SHARE * Math.abs(predicted) + METER_NOISE_UMOL;
    return Math.hypot(Math.max(noise, o.band < 0 ? o.spread : 0), o.mixError * predicted);
  }

  predict(p: readonly number[]): Prediction {
    const bent = this.bent(p);
    const size = this.own + this.meters.length;
    const out: Prediction = { value: [], slope: [] };
    for (const o of this.observations) {
      const { session } = this.sets[o.set]!.places[o.place]!;
      const matrix = this.matrices[o.set]!;
      const meter = this.own + this.meters.findIndex((m) => meterId(m) === meterId(session.meter));
      const scale = p[meter]!;
      const slope = new Array<number>(size).fill(0);
      let sum = 0;
      this.rows(o.set, o.place).forEach(({ level, gain, group }, r) => {
        if (level === 0) return;
        const at = o.place * matrix.rows + r;
        const factor = this.factor(matrix, at, group.groupId, bent);
        const whole = matrix.par[at]! * factor;
        const part = o.band < 0 ? whole : factor * bandOf(matrix, at, o.band);
        // slopes of the whole, for the part
        const share = whole > 0 ? (factor * part) / whole : 0;
        const lit = level * this.value(p, gain);
        sum += lit * part;
        const add = (i: number, by: number) => {
          const slot = this.slot(i);
          if (slot >= 0) slope[slot]! += scale * by;
        };
        add(gain, level * part);
        this.parameters.forEach((q, i) => {
          if (q.what === 'yellow') add(i, lit * share * matrix.byYellow[at]!);
          if (q.what === 'beam' && q.groupId === group.groupId)
            add(i, (lit * share * matrix.byBeam[at]!) / this.value(p, i));
        });
      });
      slope[meter] = sum;
      out.value.push(scale * sum);
      out.slope.push(slope);
    }
    return out;
  }

  describe(bare: Calibration, fit: Fit): Calibration {
    const p = fit.parameters;
    const widen = fit.scatter > WIDE ? fit.scatter ** 2 : 1;
    const covariance = this.parameters.map((_, i) =>
      this.parameters.map((__, j) => {
        const [a, b] = [this.slot(i), this.slot(j)];
        if (a < 0 || b < 0) return bare.covariance[i]![j]!;
        return widen * fit.covariance[a]![b]!;
      }),
    );
    if (this.overallOnly) {
      this.parameters.forEach((q, i) => {
        if (q.what === 'gain' && !this.readAlone(i))
          covariance[i]![i] = Math.max(covariance[i]![i]!, UNREAD_SHARE ** 2);
      });
    }
    const gains: Calibration['gains'] = {};
    const parameters = this.parameters.map((q, i): Parameter => {
      const value = this.value(p, i);
      if (q.what === 'gain') (gains[q.groupId] ??= {})[q.channelId] = value;
      return { ...q, value, standardError: Math.sqrt(covariance[i]![i]!) };
    });
    return {
      ...this.bent(p),
      readings: this.sets.reduce((n, s) => n + s.places.length, 0),
      simulated: this.meters.some((m) => m.simulated),
      overallOnly: this.overallOnly,
      gains,
      parameters,
      covariance,
      residuals: this.residuals(fit),
      meter: this.newestMeter(fit, widen),
      meters: this.meters.map((m, i) => ({
        kind: m.kind,
        simulated: m.simulated,
        trusted: m.trusted === true,
        scale: p[this.own + i]!,
        standardError: Math.sqrt(widen * fit.covariance[this.own + i]![this.own + i]!),
      })),
      scatter: fit.scatter,
    };
  }

  private newestMeter(fit: Fit, widen: number): Calibration['meter'] {
    const newest = this.sets.reduce((a, b) =>
      (b.places[0]?.session.atUtc ?? '') >= (a.places[0]?.session.atUtc ?? '') ? b : a,
    );
    const used = newest.places[0]!.session.meter;
    const at = this.own + this.meters.findIndex((m) => meterId(m) === meterId(used));
    return {
      variance: widen * fit.covariance[at]![at]!,
      cross: this.parameters.map((_, i) => {
        const slot = this.slot(i);
        return slot < 0 ? 0 : widen * fit.covariance[slot]![at]!;
      }),
    };
  }

  private readAlone(parameter: number): boolean {
    return this.sets.some((s, set) =>
      s.places.some((_, place) => {
        const lit = this.rows(set, place).filter((r) => r.level > 0);
        return lit.length > 0 && lit.every((r) => r.gain === parameter);
      }),
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
        };
      }),
    );
  }
}

/** Scale error of a meter that is taken at its word. Mark: rule of thumb. */
const TRUSTED_SCALE = 0.005;
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
