/**
 * In which units lengths, volumes, temperatures and times of day are said to whoever reads. Documents, files and sums stay in
 * centimetres, litres, degrees Celsius and minutes; only words and fields know of this.
 */
export interface Units {
  length: 'cm' | 'in';
  volume: 'l' | 'gal';
  clock: '24 h' | '12 h';
  temperature: '°C' | '°F';
}

export const METRIC: Units = { length: 'cm', volume: 'l', clock: '24 h', temperature: '°C' };

/** Exact (international inch, 1959). Mark: standard. */
export const CM_PER_INCH = 2.54;
/** Exact (US liquid gallon, 231 cubic inches). Mark: standard. */
export const LITRES_PER_GALLON = 3.785411784;

let said: Units = METRIC;

/** From now on words are said in these units. */
export const sayIn = (units: Units): void => void (said = units);
export const unitsSaid = (): Units => said;

const figure = (value: number, digits: number): string => String(Number(value.toFixed(digits)));

/** Degrees Fahrenheit of one Celsius, and where its ice melts. Exact. Mark: standard. */
export const F_PER_C = 1.8;
export const F_AT_0_C = 32;

/** A temperature as a bare figure, in what it is said in. */
export const temperatureFigure = (c: number): number =>
  said.temperature === '°C' ? c : Number((c * F_PER_C + F_AT_0_C).toFixed(1));

/** A length as a bare figure: whole centimetres, or tenths of an inch; `finer` by one digit. */
export const lengthFigure = (cm: number, finer = false): string =>
  said.length === 'cm' ? figure(cm, finer ? 1 : 0) : figure(cm / CM_PER_INCH, 1);

/** "12 cm", "4.7 in" */
export const lengthWords = (cm: number, finer = false): string => `${lengthFigure(cm, finer)} ${said.length}`;

/** "38 cm²", "5.9 in²" */
export const areaWords = (cm2: number): string =>
  said.length === 'cm' ? `${figure(cm2, cm2 < 10 ? 1 : 0)} cm²` : `${figure(cm2 / CM_PER_INCH ** 2, 1)} in²`;

/** "150 × 60 × 55 cm", "59.1 × 23.6 × 21.7 in" */
export const sizeWords = (...cm: number[]): string =>
  `${cm.map((side) => lengthFigure(side, true)).join(' × ')} ${said.length}`;

/** "5 to 1000 cm", "2 to 393.7 in": ends that are themselves within. */
export function lengthRange(lowCm: number, highCm: number): string {
  if (said.length === 'cm') return `${lowCm} to ${highCm} cm`;
  const low = Math.ceil((lowCm / CM_PER_INCH) * 10) / 10;
  return `${low} to ${Math.floor((highCm / CM_PER_INCH) * 10) / 10} in`;
}

/** "0 to 500 l", "0 to 132 gal" */
export const volumeRange = (lowL: number, highL: number): string =>
  said.volume === 'l'
    ? `${lowL} to ${highL} l`
    : `${Math.ceil(lowL / LITRES_PER_GALLON)} to ${Math.floor(highL / LITRES_PER_GALLON)} gal`;

/** A volume as a bare figure: whole litres or gallons, tenths below ten of them. */
export function volumeFigure(litres: number): string {
  const value = said.volume === 'l' ? litres : litres / LITRES_PER_GALLON;
  return figure(value, value < 10 ? 1 : 0);
}

/** "42 l", "11 gal" */
export const volumeWords = (litres: number): string => `${volumeFigure(litres)} ${said.volume}`;
