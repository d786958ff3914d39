import { type Calibration, shareCovariance } from './calibration';
import { partsOf, type ZoneLight } from './light';
import type { HungGroup } from './lit';

/** How far light under the given levels may lie off, as shares of it: covariance between spots. */
export const doubtUnder = (
  cal: Calibration,
  light: ZoneLight,
  groups: readonly HungGroup[],
  levels: readonly (readonly number[])[],
): number[][] =>
  shareCovariance(
    cal,
    Array.from({ length: light.spots }, (_, spot) => partsOf(light, groups, levels, spot)),
  );
