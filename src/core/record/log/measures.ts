import { F_AT_0_C, F_PER_C, temperatureFigure, unitsSaid } from '../../shape/units';

/** What a test of the water measures, in the unit it is kept in; other units are turned into it as they are typed. */
export interface Measure {
  id: MeasureId;
  name: string;
  label: string;
  unit: string;
  low: number;
  high: number;
  /** in most reef tanks. Mark: rule of thumb; outside it is asked whether a digit slipped */
  usual: readonly [low: number, high: number];
  /** other units: typed after the number, or known by its size */
  also: readonly { unit: string; to: (v: number) => number; when?: (v: number) => boolean }[];
}

export type MeasureId =
  | 'nitratePpm'
  | 'phosphatePpm'
  | 'alkalinityDkh'
  | 'calciumPpm'
  | 'magnesiumPpm'
  | 'salinityPpt'
  | 'temperatureC'
  | 'ph';

/** Phosphate of a mass of phosphorus: 94.97 / 30.97. Mark: standard (molar masses). */
const PO4_PER_P = 3.066;
/** Degrees of carbonate hardness of a milliequivalent a litre. Mark: standard. */
const DKH_PER_MEQ = 2.804;
/** Density over that of pure water, per part in a thousand of salt, both at 25 °C. Mark: literature (sea water, 35 ppt: 1.0264). */
const GRAVITY_PER_PPT = 0.000_754;

export const MEASURES: readonly Measure[] = [
  {
    ...{ id: 'nitratePpm', name: 'nitrate', label: 'Nitrate (NO₃)', unit: 'ppm', low: 0, high: 1000 },
    ...{ usual: [0, 60], also: [] },
  },
  {
    ...{ id: 'phosphatePpm', name: 'phosphate', label: 'Phosphate (PO₄)', unit: 'ppm', low: 0, high: 100 },
    ...{ usual: [0, 0.6], also: [{ unit: 'ppb', to: (v) => (v * PO4_PER_P) / 1000 }] },
  },
  {
    ...{ id: 'alkalinityDkh', name: 'alkalinity', label: 'Alkalinity', unit: 'dKH', low: 0, high: 40 },
    ...{ usual: [6, 13], also: [{ unit: 'meq', to: (v) => v * DKH_PER_MEQ }] },
  },
  {
    ...{ id: 'calciumPpm', name: 'calcium', label: 'Calcium', unit: 'ppm', low: 0, high: 2000 },
    ...{ usual: [340, 520], also: [] },
  },
  {
    ...{ id: 'magnesiumPpm', name: 'magnesium', label: 'Magnesium', unit: 'ppm', low: 0, high: 5000 },
    ...{ usual: [1100, 1600], also: [] },
  },
  {
    ...{ id: 'salinityPpt', name: 'salinity', label: 'Salinity', unit: 'ppt', low: 0, high: 60 },
    usual: [31, 38],
    also: [{ unit: 'sg', to: (v) => (v - 1) / GRAVITY_PER_PPT, when: (v) => v >= 1 && v < 1.1 }],
  },
  {
    ...{ id: 'temperatureC', name: 'temperature', label: 'Temperature', unit: '°C', low: 0, high: 45 },
    usual: [21, 30],
    also: [{ unit: '°f', to: (v) => (v - F_AT_0_C) / F_PER_C, when: (v) => v > 45 && v <= 113 }],
  },
  {
    ...{ id: 'ph', name: 'pH', label: 'pH', unit: '', low: 4, high: 12 },
    ...{ usual: [7.6, 8.7], also: [] },
  },
];

/** A figure with as many places as its kind of test tells apart. */
export function measured(m: Pick<Measure, 'unit'>, v: number): string {
  const { unit, value } = asSaid(m, v);
  return String(Number(value.toFixed(value < 1 ? 3 : value < 100 ? 2 : 0))) + (unit === '' ? '' : ` ${unit}`);
}
/** A figure and its unit as they are said. */
export const asSaid = ({ unit }: Pick<Measure, 'unit'>, v: number): { unit: string; value: number } =>
  unit === '°C' ? { unit: unitsSaid().temperature, value: temperatureFigure(v) } : { unit, value: v };

/** Times the last value, or over it, from which it is asked whether a digit slipped. Mark: rule of thumb. */
const LEAP = { times: 4, share: 0.25 } as const;
/** Of these the level itself moves little: a quarter is a leap. */
const STEADY: readonly MeasureId[] = [
  'alkalinityDkh',
  'calciumPpm',
  'magnesiumPpm',
  'salinityPpt',
  'temperatureC',
  'ph',
];

/** What is doubtful of a value, or null. @param last the value before; null = none */
export function doubtOf(m: Measure, v: number, last: number | null): string | null {
  const [low, high] = m.usual;
  if (v < low || v > high)
    return `${m.name} is rarely ${measured(m, v)} in a reef: did a digit slip, or the unit?`;
  if (last === null || last <= 0) return null;
  const leap = STEADY.includes(m.id)
    ? Math.abs(v - last) > LEAP.share * last
    : v > 0 && Math.max(v / last, last / v) > LEAP.times;
  return leap
    ? `${m.name} was ${measured(m, last)} last time: measure once more before anything is dosed.`
    : null;
}
