import type { What } from './useTankLight';
import { mol, umol } from '../shared/words';

/** The figure of a chart's quantity, as it is printed. */
export const figureOf = (what: What, value: number): string => (what === 'dli' ? mol(value) : umol(value));
export const unitOf = (what: What): string => (what === 'dli' ? 'mol a day' : 'µmol');
/** A difference with its sign. */
export const signed = (text: string, value: number): string =>
  value > 0 ? `+${text}` : value < 0 ? `−${text}` : text;
export const cm = (value: number): string => String(Math.round(value * 10) / 10);

/** A place in the water. */
export interface Place {
  xCm: number;
  yCm: number;
  depthCm: number;
}
