/** What a meter says comes as one part: readings, the fit, two evenings side by side. */
export { BeforeAfterPage } from './BeforeAfter';
export { CalibrationPage } from './Calibration';
export { Readings } from './Readings';
