import { type Units, METRIC, sayIn } from '@/core/shape/units';
import { reckoner } from '@/workers/client';

let before: Units = METRIC;

/** Words here and in the worker are said in these units from now on. */
export function speakIn(units: Units): void {
  sayIn(units);
  if (JSON.stringify(units) !== JSON.stringify(before))
    void reckoner()
      .sayIn(units)
      .catch(() => undefined);
  before = units;
}
