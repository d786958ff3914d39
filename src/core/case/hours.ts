import { wrapMinute, DAY_MINUTES } from '../shape/ring';
import { type Day, type Lit, litSpan } from '../day/day';

/** Minutes that lie in both. */
export const sharedMinutes = (a: readonly Lit[], b: readonly Lit[]): number =>
  a.reduce(
    (sum, x) => sum + b.reduce((s, y) => s + Math.max(0, Math.min(x.to, y.to) - Math.max(x.from, y.from)), 0),
    0,
  );

const total = (pieces: readonly Lit[]) => pieces.reduce((sum, p) => sum + p.to - p.from, 0);

/** How the days of two waters lie to each other, minutes of 24 h. */
export interface Overlap {
  both: number;
  onlyA: number;
  onlyB: number;
  /** nothing is lit */
  dark: number;
}
export function overlap(a: readonly Lit[], b: readonly Lit[]): Overlap {
  const both = sharedMinutes(a, b);
  const [onlyA, onlyB] = [total(a) - both, total(b) - both];
  return { both, onlyA, onlyB, dark: DAY_MINUTES - both - onlyA - onlyB };
}

/** Where nothing else says when: about the middle of the afternoon, when somebody looks. Mark: rule of thumb. */
const AFTERNOON = 15 * 60 + 30;

/** The middle of what is lit of some days, minutes on the ring; null when they are always dark or never. */
function middleOf(days: readonly Day[]): number | null {
  const span = litSpan(days);
  return span && span.end - span.start < DAY_MINUTES ? (span.start + span.end) / 2 : null;
}

/** A lamp's switching, minutes on the ring; `off` lies before `on` when it runs over midnight, and at `on` when it is always lit. */
export interface OnOff {
  onMinute: number;
  offMinute: number;
}

/**
 * When to light for so many hours so that as much as can be falls into the dark of others: about the middle of their longest dark
 * stretch, on the steps of a timer.
 */
export const oppositeHours = (others: readonly Day[], hours: number, everyMin: number): OnOff =>
  about((middleOf(others) ?? AFTERNOON - DAY_MINUTES / 2) + DAY_MINUTES / 2, hours, everyMin);

/** When to light a water that is looked at: about the middle of what is lit already, on the steps of a timer. */
export const sharedHours = (others: readonly Day[], hours: number, everyMin: number): OnOff =>
  about(middleOf(others) ?? AFTERNOON, hours, everyMin);

/** So many hours about a minute, on the steps of a timer. */
function about(middle: number, hours: number, everyMin: number): OnOff {
  const length = Math.min(DAY_MINUTES, Math.round((hours * 60) / everyMin) * everyMin);
  const on = Math.round((middle - length / 2) / everyMin) * everyMin;
  return { onMinute: wrapMinute(on), offMinute: wrapMinute(on + length) };
}

/** How long a lamp that ramps takes to its full, minutes. Mark: rule of thumb. */
const RAMP_MIN = 20;

/** A day that is on from one minute to another: switched where the lamp holds, with short ramps where it ramps; on all day when both are the same. */
export function blockDay(
  { interpolation, everyMin }: { interpolation: 'ramp' | 'hold'; everyMin: number },
  onMinute: number,
  offMinute: number,
): { minute: number; strengthShare: number }[] {
  if (onMinute === offMinute) return [{ minute: onMinute, strengthShare: 1 }];
  if (interpolation === 'hold')
    return [
      { minute: onMinute, strengthShare: 1 },
      { minute: offMinute, strengthShare: 0 },
    ];
  const length = (offMinute - onMinute + DAY_MINUTES) % DAY_MINUTES;
  const ramp = Math.max(everyMin, Math.ceil(RAMP_MIN / everyMin) * everyMin);
  if (length <= 3 * ramp)
    return [
      { minute: onMinute, strengthShare: 0 },
      { minute: wrapMinute(onMinute + Math.round(length / 2)), strengthShare: 1 },
      { minute: offMinute, strengthShare: 0 },
    ];
  return [
    { minute: onMinute, strengthShare: 0 },
    { minute: wrapMinute(onMinute + ramp), strengthShare: 1 },
    { minute: wrapMinute(offMinute - ramp), strengthShare: 1 },
    { minute: offMinute, strengthShare: 0 },
  ];
}
