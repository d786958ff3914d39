import { meterKind, shownUnder } from '../meter/kinds';
import { type ResponseMatrix } from '../optics/response';
import { bandsOf } from '../record/readings';
import { BANDS, bandShares, type PerBand } from '../spectrum/bands';
import { normal, seeded, seedOf } from '../spectrum/random';
import { type Calibration, levelsIn } from './calibration';
import { spectrumUnder, zoneLight } from './light';
import type { HungGroup } from './lit';
import type { MeterUse, Reading } from '../record/readings';
import type { Zone } from '../record/zone';

/** How far a made-up truth lies from the model, one standard deviation each. Mark: rule of thumb. */
const TRUTH = { overall: 0.18, channel: 0.12, yellowShare: 0.4, beam: 0.1 } as const;

/**
 * A hidden truth: what a simulated meter reads, in place of water. The same seed makes the same truth. It is a calibration of which
 * only the values count.
 */
export function hiddenTruth(
  seed: number,
  groups: readonly HungGroup[],
  water: Zone['water'],
): Pick<Calibration, 'gains' | 'yellow440PerM' | 'beams'> {
  const random = seeded(seed);
  const around = (sd: number) => Math.max(0.3, 1 + sd * normal(random));
  const overall = around(TRUTH.overall);
  return {
    gains: Object.fromEntries(
      groups.map((g) => [
        g.groupId,
        Object.fromEntries(g.lampKind.channels.map((c) => [c.id, overall * around(TRUTH.channel)])),
      ]),
    ),
    yellow440PerM: water.yellow440PerM * around(TRUTH.yellowShare),
    beams: Object.fromEntries(groups.map((g) => [g.groupId, around(TRUTH.beam)])),
  };
}

/** One try differs from the next by this share and by this much, from where exactly the sensor stands. Mark: rule of thumb. */
const TRY_NOISE = { share: 0.04, umol: 0.6 } as const;
/** Ripples add this share per unit of surface slope. Mark: rule of thumb. */
const RIPPLE_SHARE_PER_SLOPE = 1;
/** A hand spectrometer's bands are each this uncertain. Mark: rule of thumb. */
const BAND_NOISE = 0.05;

/**
 * What a simulated meter shows at a spot, and from a spectrometer its bands.
 * @param truth response over the spots of the hidden truth's rig; @param salt what makes this try another than the last
 */
export function simulatedReading(
  truth: { matrix: ResponseMatrix; gains: Calibration['gains'] },
  groups: readonly HungGroup[],
  levels: Reading['levels'],
  spot: number,
  use: MeterUse,
  slope: number,
  seed: number,
  salt: string,
): { shown: number; bands: PerBand | null } {
  const light = zoneLight(truth.matrix, groups, { gains: truth.gains });
  const spectrum = spectrumUnder(
    light,
    groups.map((g) => levelsIn(g, levels)),
    spot,
  );
  const meter = meterKind(use.kind);
  // this piece of the meter is off by as much every time
  const piece = seeded(seedOf(`${seed} ${use.kind}`));
  const scale = 1 + meter.scaleError * normal(piece);
  const shown = shownUnder(meter, spectrum, {
    shiftNm: meter.spread.shiftNm * normal(piece),
    blueTail: Math.abs(normal(piece)),
  });
  const random = seeded(seedOf(`${seed} ${salt}`));
  const share = Math.hypot(TRY_NOISE.share, RIPPLE_SHARE_PER_SLOPE * slope);
  const noisy = (scale * shown * (1 + share * normal(random))) / use.immersionFactor;
  const bands =
    use.kind === 'spectrometer'
      ? bandsOf(
          normalised(
            BANDS.map((b) => bandShares(spectrum)[b.id] * Math.max(0, 1 + BAND_NOISE * normal(random))),
          ),
        )
      : null;
  return { shown: Math.max(0, round(noisy + TRY_NOISE.umol * normal(random))), bands };
}

const normalised = (values: readonly number[]): number[] => {
  const sum = values.reduce((s, v) => s + v, 0);
  return values.map((v) => (sum > 0 ? v / sum : 0));
};
/** Meters show whole units from 10 up, tenths below. */
const round = (v: number) => (v >= 10 ? Math.round(v) : Math.round(v * 10) / 10);
