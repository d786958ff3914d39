import { par } from '../spectrum/bands';
import { REPEAT_SHARE } from './noise';
import {
  FIRST_NM,
  GRID_SIZE,
  JOULE_NM_PER_UMOL,
  type Spectrum,
  integrateWeighted,
  nmAt,
  sample,
} from '../spectrum/grid';
import { LUMENS_PER_WATT } from '../spectrum/lux';
import { cmf } from '../spectrum/observer';

export const METER_KIND_IDS = ['ideal', 'lowCost', 'lux', 'phone', 'spectrometer'] as const;
export type MeterKindId = (typeof METER_KIND_IDS)[number];

/** A meter as a spectral response: what it shows per µmol at each wavelength. */
export interface MeterKind {
  id: MeterKindId;
  name: string;
  unit: 'µmol' | 'lux';
  response: () => Spectrum;
  /** how its response may differ from that from one piece to the next, in nm and in share */
  spread: { shiftNm: number; blueTail: number };
  /** error of its scale that no mix changes, as a share (one standard deviation) */
  scaleError: number;
}

const smooth = (nm: number, from: number, to: number) => {
  const t = Math.min(1, Math.max(0, (nm - from) / (to - from)));
  return t * t * (3 - 2 * t);
};
/** V(λ) in lux per µmol at each wavelength. */
const photopic = (): Spectrum => cmf().y.map((v, i) => (LUMENS_PER_WATT * v * JOULE_NM_PER_UMOL) / nmAt(i));

/**
 * Kinds of meters. Responses are generic: an ideal quantum sensor, one that under-reads below 430 and above 650 nm, a lux
 * meter, and a phone's sensor that is broader than the eye. Mark: rule of thumb.
 */
export const METER_KINDS: readonly MeterKind[] = [
  {
    id: 'ideal',
    name: 'Quantum meter, full spectrum',
    unit: 'µmol',
    response: () => sample((nm) => (nm >= 400 && nm <= 700 ? 1 : 0)),
    spread: { shiftNm: 3, blueTail: 0 },
    scaleError: 0.05,
  },
  {
    id: 'lowCost',
    name: 'Quantum meter, low-cost',
    unit: 'µmol',
    response: () => sample((nm) => smooth(nm, 390, 455) * (1 - smooth(nm, 640, 695))),
    spread: { shiftNm: 6, blueTail: 0 },
    scaleError: 0.08,
  },
  {
    id: 'lux',
    name: 'Lux meter',
    unit: 'lux',
    response: photopic,
    spread: { shiftNm: 6, blueTail: 0.012 },
    scaleError: 0.05,
  },
  {
    id: 'phone',
    name: 'Phone light sensor',
    unit: 'lux',
    response: () => {
      const v = photopic();
      return v.map((x, i) => x + 0.03 * 147 * (1 - smooth(nmAt(i), 500, 560)) * smooth(nmAt(i), 380, 430));
    },
    spread: { shiftNm: 10, blueTail: 0.03 },
    scaleError: 0.15,
  },
  {
    id: 'spectrometer',
    name: 'Hand spectrometer',
    unit: 'µmol',
    response: () => sample((nm) => (nm >= 400 && nm <= 700 ? 1 : 0)),
    spread: { shiftNm: 1, blueTail: 0 },
    scaleError: 0.05,
  },
];

export const meterKind = (id: MeterKindId): MeterKind => METER_KINDS.find((m) => m.id === id)!;

const shifted = (s: Spectrum, by: number): Spectrum => {
  const out = new Float64Array(GRID_SIZE);
  for (let i = 0; i < GRID_SIZE; i += 1) out[i] = s[Math.min(GRID_SIZE - 1, Math.max(0, i - by))]!;
  return out;
};
/** Top of the photopic response, lux per µmol at 555 nm: the scale of a stray blue tail. */
const TAIL_SCALE = 147;

/**
 * What one piece of a meter shows under a light, in its unit: its response moved by some nm, with a share of the stray blue its kind
 * may have.
 */
export function shownUnder(
  kind: MeterKind,
  light: Spectrum,
  piece: { shiftNm: number; blueTail: number } = { shiftNm: 0, blueTail: 0 },
): number {
  const response = shifted(kind.response(), Math.round(piece.shiftNm));
  const tail = piece.blueTail * kind.spread.blueTail * TAIL_SCALE;
  if (tail > 0) for (let nm = FIRST_NM; nm < 500; nm += 1) response[nm - FIRST_NM]! += tail;
  return integrateWeighted(light, response);
}

/** In what one piece of a meter may differ from its kind: its response moved, a stray blue tail, ends cut as a cheaper one's are. */
export const PIECE_TRAITS = ['shift', 'tail', 'ends'] as const;
type Trait = (typeof PIECE_TRAITS)[number];
/** A sensor's ends may be cut this far of the way to those of a low-cost one, one standard deviation. Mark: rule of thumb. */
const ENDS_CUT = 0.7;
/** How far a trait may lie from its kind's, standard deviations: a tail only adds, ends are only cut where they were said to be whole. */
export const PIECE_BOUNDS: Readonly<Record<Trait, (kind: MeterKindId) => readonly [number, number]>> = {
  shift: () => [-4, 4],
  tail: () => [0, 4],
  ends: (kind) => (kind === 'lowCost' ? [-3, 3] : [0, 3]),
};

/**
 * What a standard deviation of each trait does to what a piece shows under a light; the doubt belongs to the mix.
 * @returns in the order of PIECE_TRAITS: of its logarithm for the shift, as a share of it for what adds or takes (which is linear);
 * 0 where the kind has no such trait or sees nothing
 */
export function pieceSlopes(kind: MeterKind, light: Spectrum): number[] {
  const response = kind.response();
  const shown = integrateWeighted(light, response);
  if (!(shown > 0)) return PIECE_TRAITS.map(() => 0);
  const { shiftNm, blueTail } = kind.spread;
  const under = (r: Spectrum) => Math.log(integrateWeighted(light, r) / shown);
  const tail = sample((nm) => (nm < 500 ? blueTail * TAIL_SCALE : 0));
  return [
    shiftNm > 0 ? (under(shifted(response, shiftNm)) - under(shifted(response, -shiftNm))) / 2 : 0,
    blueTail > 0 ? integrateWeighted(light, tail) / shown : 0,
    kind.unit === 'µmol' && kind.id !== 'spectrometer' ? ENDS_CUT * endsOf(light) : 0,
  ];
}

/** What a sensor with cut ends shows less of a light than one with whole ends, as a share, negative. */
function endsOf(light: Spectrum): number {
  const cut = integrateWeighted(light, meterKind('lowCost').response());
  const whole = integrateWeighted(light, meterKind('ideal').response());
  return cut > 0 && whole > 0 ? cut / whole - 1 : 0;
}

export interface MeterFactor {
  /** µmol of PAR per unit shown */
  parPerShown: number;
  /** half width of the band beside it, one standard deviation, as a share */
  errorShare: number;
}

/**
 * What to multiply a reading with for PAR under a light, and how sure: the factor belongs to the mix. The doubt is found by
 * moving the response about as much as such meters differ. Null when the meter sees nothing.
 */
export function parFactor(kind: MeterKind, light: Spectrum): MeterFactor | null {
  const response = kind.response();
  const shown = integrateWeighted(light, response);
  const p = par(light);
  if (!(shown > 0 && p > 0)) return null;
  const { shiftNm, blueTail } = kind.spread;
  const tail = sample((nm) => (nm < 500 ? blueTail * TAIL_SCALE : 0));
  const variants = [
    shifted(response, shiftNm),
    shifted(response, -shiftNm),
    ...(blueTail > 0 ? [response.map((v, i) => v + tail[i]!)] : []),
  ];
  const off = variants.map((r) => Math.abs(integrateWeighted(light, r) / shown - 1));
  return { parPerShown: p / shown, errorShare: Math.hypot(kind.scaleError, Math.max(0, ...off)) };
}

/**
 * Before and after with one meter: the ratio of PAR, corrected for the change of mix. The scale error of the meter falls
 * out; what is left is how differently it sees the two mixes.
 */
export function parRatio(
  kind: MeterKind,
  before: { shown: number; light: Spectrum },
  after: { shown: number; light: Spectrum },
): { ratio: number; errorShare: number } | null {
  const [a, b] = [parFactor(kind, before.light), parFactor(kind, after.light)];
  if (!a || !b || !(before.shown > 0)) return null;
  const mixPart = (f: MeterFactor) => Math.sqrt(Math.max(0, f.errorShare ** 2 - kind.scaleError ** 2));
  return {
    ratio: (after.shown * b.parPerShown) / (before.shown * a.parPerShown),
    errorShare: Math.hypot(REPEAT_SHARE, Math.abs(mixPart(b) - mixPart(a))),
  };
}
