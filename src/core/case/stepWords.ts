import { lengthWords } from '../shape/units';
import { finePercent } from '../shape/percent';
import { formatTime } from '../day/clock';
import { DAY_MINUTES } from '../shape/ring';
import { litSpan } from '../day/day';
import { hasCap } from '../spectrum/controls';
import { circuitsOf, windowsOf } from './dawn';
import { litRunnable } from './lit';
import { atSetting, type Eased, placeAt } from './settings';
import type { Runnable } from '../record/history';

const hoursWords = (minutes: number): string => {
  const whole = Math.round(minutes);
  const [h, m] = [Math.floor(whole / 60), whole % 60];
  return m === 0 ? `${h} h` : `${h} h ${m} min`;
};
const span = (from: number, to: number) =>
  `${formatTime(Math.round(from) % DAY_MINUTES)}–${formatTime(Math.round(to) % DAY_MINUTES)} (${hoursWords(to - from)})`;

/** When a target is lit, in words. */
function whenLit(t: Runnable): string {
  const lit = litRunnable(t);
  const circuits = circuitsOf([lit]);
  if (circuits.length > 1)
    return circuits
      .map((c) => {
        const windows = windowsOf(lit, c.controlId);
        const name = t.lampKind.controls.find((x) => x.id === c.controlId)!.name;
        return `${name} ${windows.length === 0 ? 'off' : windows.map((w) => span(w.from, w.to)).join(' and ')}`;
      })
      .join(', ');
  const on = litSpan([lit.day]);
  return on ? span(on.start, on.end) : 'off';
}

/** What is set on a rung, a line per lamp group: what a keeper types in. */
export function stepLines(plan: Eased, setting: number): string[] {
  const many = plan.targets.length > 1;
  if (plan.method === 'places') {
    const p = placeAt(plan, setting);
    return p
      ? [`${lengthWords(p.xCm)} from left, ${lengthWords(p.yCm)} from front, ${lengthWords(p.depthCm)} deep`]
      : [];
  }
  return atSetting(plan, setting).map((t, i) => {
    const who = many ? `${t.groupName} ` : '';
    switch (plan.method) {
      case 'cap':
        return `${who}${hasCap(t.lampKind) ? 'cap' : 'strength'} ${finePercent(t.capShare)}`;
      case 'hours':
      case 'circuits':
        return `${who}${whenLit(t)}`;
      case 'height': {
        const up = Math.round(t.lamps[0]!.heightCm - plan.targets[i]!.lamps[0]!.heightCm);
        return `${who}${lengthWords(t.lamps[0]!.heightCm)} over the water${up > 0 ? ` (${lengthWords(up, true)} higher)` : ''}`;
      }
      default:
        return `${who}${finePercent(setting)} of the way to the new day`;
    }
  });
}

/** The same as one line. */
export const stepWords = (plan: Eased, setting: number): string => stepLines(plan, setting).join(', ');

/** What an easing percent of a controller is of, and the percent that stands for a share of the target. */
export function easingPercent(t: Runnable, share: number): { percent: number; of: string } {
  const { easingOf } = t.lampKind.controller;
  return easingOf === 'lamp'
    ? { percent: share * t.capShare * 100, of: 'of the lamp' }
    : {
        percent: share * 100,
        of: easingOf === 'cap' ? `of its cap, ${finePercent(t.capShare)}` : 'of the target',
      };
}
