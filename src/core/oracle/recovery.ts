import { calibrate } from '../case/calibrate';
import { bareCalibration, type Calibration, DOUBT, yellowDoubt } from '../case/calibration';
import { bandUnder, parUnder, spectrumUnder, zoneLight } from '../case/light';
import { type Bent, lampKey, rigOf } from '../case/lit';
import { meterKind, type MeterKindId, shownUnder } from '../meter/kinds';
import { computeResponse } from '../optics/response';
import { plainTank } from '../optics/tank';
import type { CaseDoc } from '../record/caseDoc';
import type { RigGroup, Session } from '../record/readings';
import { plainSpot, type Zone } from '../record/zone';
import { lampKind } from '../spectrum/lamp';
import { normal, seeded } from '../spectrum/random';

/** Hides a truth, reads it, fits, and asks how often the band holds corals that were never read. */

const line = (id: string, peakNm: number, count: number) => ({
  id,
  name: id,
  groups: [{ light: { shape: 'line' as const, peakNm, fwhmNm: 20 }, count, wattsEach: 3 }],
});
const kindOf = (beamAngleDeg: number) =>
  lampKind({
    id: 'k',
    name: 'Five colours',
    channels: [
      line('violet', 415, 3),
      line('royal', 450, 6),
      line('cyan', 495, 2),
      {
        id: 'white',
        name: 'white',
        groups: [
          ...line('', 452, 1).groups,
          { ...line('', 570, 3).groups[0]!, light: { shape: 'line' as const, peakNm: 570, fwhmNm: 110 } },
        ],
      },
      line('red', 660, 1),
    ],
    beamAngleDeg,
    faceLengthCm: 24,
    faceWidthCm: 12,
  });
const SAID_BEAM = 100;
const lamps = [
  { id: 'a', name: 'left', xCm: 30, yCm: 25, heightCm: 22, turnDeg: 0 },
  { id: 'b', name: 'right', xCm: 90, yCm: 25, heightCm: 22, turnDeg: 0 },
];
const groupOf = (beamAngleDeg: number): RigGroup => ({
  ...{ groupId: 'g', name: 'Lamps', lampKind: kindOf(beamAngleDeg), lamps },
});
const said = groupOf(SAID_BEAM);
const ids = said.lampKind.channels.map((c) => c.id);
const spots = (
  [
    [30, 25, 15],
    [92, 30, 20],
    [60, 18, 28],
    [20, 38, 35],
    [105, 12, 32],
    [50, 35, 22],
    [75, 25, 10],
    [12, 12, 40],
    [110, 40, 12],
    [60, 25, 42],
    [38, 10, 25],
    [84, 42, 38],
    [25, 20, 20],
    [100, 25, 26],
    [65, 40, 33],
    [45, 22, 14],
  ] as const
).map(([xCm, yCm, depthCm], i) =>
  plainSpot({ id: `s${i}`, name: `Spot ${i}`, xCm, yCm, depthCm, need: 'soft' }),
);
/** Spots that are read, of which three with everything lit at first; the others are corals that never are. */
const READ = 9;
const zone: Zone = {
  ...{ id: 'z', name: 'Display', kind: 'display', timeZone: 'UTC' },
  tank: plainTank(120, 50, 48),
  water: { yellow440PerM: 0.12, scatterPerM: 0.05 },
  ...{ carbonDate: null, rippleSlope: 0.05, needs: {} },
  groups: [{ id: 'g', name: 'Lamps', lampKindId: 'k', lamps, threads: [], capShare: 1 }],
  spots,
};
const doc = { lampKinds: [said.lampKind] } as CaseDoc;
const bare = bareCalibration([said], zone);

interface Hidden {
  group: RigGroup;
  bent: Bent;
  gains: Calibration['gains'];
  meter: MeterKindId;
  piece: { shiftNm: number; blueTail: number };
  scale: number;
}

/** A home as it is assumed to be. */
function home(random: () => number): Hidden {
  const ln = (sd: number) => Math.exp(sd * normal(random));
  const shared = ln(DOUBT.kind);
  return {
    group: said,
    bent: {
      yellow440PerM: Math.max(0, 0.12 + yellowDoubt(0.12) * normal(random)),
      beams: { g: ln(DOUBT.beam) },
      lamps: Object.fromEntries(
        lamps.map((l) => [
          lampKey('g', l.id),
          { gain: ln(DOUBT.lamp), higherCm: DOUBT.heightCm * normal(random) },
        ]),
      ),
      panes: Math.min(1, ln(DOUBT.panes)),
      floor: ln(DOUBT.floor),
    },
    gains: { g: Object.fromEntries(ids.map((id) => [id, shared * ln(DOUBT.channel)])) },
    ...{ meter: 'ideal', piece: { shiftNm: 2 * normal(random), blueTail: 0 } },
    scale: 1 + 0.05 * normal(random),
  };
}

/** Kinds of truths: as assumed, and each wrong in a way that the model was not told. */
export const SCENARIOS: Readonly<
  Record<string, (truth: Hidden, random: () => number) => { truth: Hidden; meter: MeterKindId }>
> = {
  assumed: (truth) => ({ truth, meter: 'ideal' }),
  'beam 70° for 100°': (truth) => ({ truth: { ...truth, group: groupOf(70) }, meter: 'ideal' }),
  'a lamp 6 cm higher': (truth) => ({
    truth: { ...truth, bent: withLamp(truth.bent, 'a', { higherCm: 6 }) },
    meter: 'ideal',
  }),
  'a lamp at 60 %': (truth) => ({
    truth: { ...truth, bent: withLamp(truth.bent, 'b', { gain: 0.6 }) },
    meter: 'ideal',
  }),
  'filmed panes': (truth) => ({ truth: { ...truth, bent: { ...truth.bent, panes: 0.5 } }, meter: 'ideal' }),
  'yellow 1.0 for 0.12': (truth) => ({
    truth: { ...truth, bent: { ...truth.bent, yellow440PerM: 1 } },
    meter: 'ideal',
  }),
  'a lux meter of its own': (truth, random) => ({
    truth: {
      ...truth,
      meter: 'lux',
      piece: { shiftNm: 6 * normal(random), blueTail: Math.abs(1.5 * normal(random)) },
    },
    meter: 'lux',
  }),
  'low-cost, called full-spectrum': (truth) => ({ truth: { ...truth, meter: 'lowCost' }, meter: 'ideal' }),
};
const withLamp = (bent: Bent, id: string, change: Partial<{ gain: number; higherCm: number }>): Bent => {
  const key = lampKey('g', id);
  return { ...bent, lamps: { ...bent.lamps, [key]: { ...bent.lamps![key]!, ...change } } };
};

const lightOf = (group: RigGroup, bent: Bent, gains: Calibration['gains']) =>
  zoneLight(computeResponse(rigOf([group], zone, spots, bent)), [group], { gains });
const day = [[0.7, 0.9, 0.6, 0.5, 0.4]];
const alone = (c: number) => [ids.map((_, k) => (k === c ? 1 : 0))];

export interface Recovered {
  /** corals whose light lay within the band, of how many */
  inside: number;
  all: number;
  /** mean half width of the bands, and mean error, as shares */
  width: number;
  error: number;
  cal: Calibration;
}

/**
 * One truth of a scenario, read so often, and what the fit makes of corals that were not read.
 * @param spoil a reading that is wrong, and @param by what: 2.5 or ten times too high, or read under everything at full
 */
export function recovered(
  scenario: string,
  seed: number,
  readings: 3 | 9,
  spoil = -1,
  by: 'high' | 'ten' | 'full' = 'high',
): Recovered {
  const random = seeded(seed);
  const { truth, meter } = SCENARIOS[scenario]!(home(random), random);
  const real = lightOf(truth.group, truth.bent, truth.gains);
  const shots = Array.from({ length: readings }, (_, i) => ({
    spot: i % READ,
    // everything at three places; then colours alone, each at another place
    levels: i < 3 || i === 8 ? day : alone((i - 3) % ids.length),
  }));
  const session: Session = {
    ...{ id: 'session', zoneId: 'z', name: 'Evening', atUtc: '2026-11-24T18:00:00.000Z' },
    meter: { kind: meter, immersionFactor: 1, sensorAboveCm: 0, simulated: false },
    ...{ pumpsOn: false, lit: '', counts: true, rig: [said] },
    readings: shots.map(({ spot, levels }, i) => {
      const full = i === spoil && by === 'full';
      const light = spectrumUnder(real, full ? [ids.map(() => 1)] : levels, spot);
      const exact = truth.scale * shownUnder(meterKind(truth.meter), light, truth.piece);
      const unit = meterKind(truth.meter).unit === 'lux' ? 20 : 1;
      const noisy = exact * (1 + 0.04 * normal(random)) + unit * normal(random);
      const { id, name, xCm, yCm, depthCm } = spots[spot]!;
      return {
        ...{
          id: `r${i}`,
          spotId: id,
          name,
          xCm,
          yCm,
          depthCm,
          atUtc: '2026-11-24T18:00:00.000Z',
          bands: null,
        },
        tries: [Math.max(0, i === spoil && !full ? (by === 'ten' ? 10 : 2.5) * noisy : noisy)],
        levels: { g: Object.fromEntries(ids.map((c, k) => [c, levels[0]![k]!])) },
      };
    }),
  };
  const cal = calibrate(doc, zone, [session]);
  const found = lightOf(said, cal, cal.gains);
  const out: Recovered = { inside: 0, all: 0, width: 0, error: 0, cal };
  for (let spot = READ; spot < spots.length; spot += 1) {
    const par = parUnder(found, day, spot);
    const band = bandUnder(cal, found, [said], day, spot);
    const off = Math.abs(parUnder(real, day, spot) / par - 1);
    out.inside += Number(off <= band);
    out.all += 1;
    out.width += band;
    out.error += off;
  }
  return { ...out, width: out.width / out.all, error: out.error / out.all };
}

/** The band before any reading. */
export const bareWidth = (): number => {
  const light = lightOf(said, bare, {});
  return bandUnder(bare, light, [said], day, READ);
};
