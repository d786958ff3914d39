import { formatTime, isoTime, parseTypedTime } from '@/core/day/clock';
import { CM_PER_INCH, F_AT_0_C, F_PER_C, LITRES_PER_GALLON, temperatureFigure } from '@/core/shape/units';
import { type Settings, useSettings } from '@/state/settings';
import { speakIn } from '@/state/units';
import { parseNumber } from '@/ui/parseNumber';
import { type Shown, showFields } from '@/ui/shown';

/** A number that is kept in one unit and typed in another; figures to a hundredth. */
const scaled = (factor: number, unit: string): Shown => {
  const times = (text: string, by: number, digits: number) => {
    const value = parseNumber(text);
    return value === null ? text : String(Number((value * by).toFixed(digits)));
  };
  return { unit, show: (kept) => times(kept, 1 / factor, 2), read: (typed) => times(typed, factor, 3) };
};

/** Degrees Fahrenheit; what is so much warmer has no zero of its own. */
const fahrenheit: Shown = {
  unit: '°F',
  show: (kept) => {
    const c = parseNumber(kept);
    return c === null ? kept : String(temperatureFigure(c));
  },
  read: (typed) => {
    const f = parseNumber(typed);
    return f === null ? typed : String(Number(((f - F_AT_0_C) / F_PER_C).toFixed(3)));
  },
};

const twelve: Shown = {
  show: (kept) => (/^\d\d:\d\d$/.test(kept) ? formatTime(parseTypedTime(kept)!) : kept),
  read: (typed) => {
    const minute = parseTypedTime(typed);
    return minute === null ? typed : isoTime(minute);
  },
};

function speak({ units }: Settings): void {
  speakIn(units);
  showFields({
    ...(units.length === 'in' && {
      cm: scaled(CM_PER_INCH, 'in'),
      'cm deep': scaled(CM_PER_INCH, 'in deep'),
    }),
    ...(units.volume === 'gal' && { l: scaled(LITRES_PER_GALLON, 'gal') }),
    ...(units.temperature === '°F' && { '°C': fahrenheit, '°C warmer': scaled(1 / F_PER_C, '°F warmer') }),
    ...(units.clock === '12 h' && { time: twelve }),
  });
}

/** Words and fields follow the units of the device's settings, from before anything is drawn. */
export function followUnits(): void {
  useSettings.subscribe((now, before) => {
    if (now.units !== before.units) speak(now);
  });
}
