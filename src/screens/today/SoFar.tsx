import { plural } from '@/core/shape/counts';
import type { Calibration } from '@/core/case/calibration';
import { dayAt, type ZoneLight } from '@/core/case/light';
import type { LitGroup } from '@/core/case/lit';
import { lightChangedUtc } from '@/core/case/timeline';
import { formatTime } from '@/core/day/clock';
import type { Desk } from '@/state/desk';
import { useSoFar } from '@/state/light';
import { daysBetween, localDate, utcIso } from '@/state/time';
import { Section } from '@/ui/Parts';
import { Type } from '@/ui/Type';

import { mol, umol } from '../shared/words';

interface SoFarProps {
  desk: Desk;
  light: ZoneLight;
  groups: LitGroup[];
  calibration: Calibration;
  nowMs: number;
}

/** Light of today till now at the chosen coral, and how long the lamps have held still. */
export function SoFar({ desk, light, groups, calibration, nowMs }: SoFarProps) {
  const { zone, spot, spotIndex, bundle } = desk;
  const soFar = useSoFar(zone, bundle, calibration, nowMs)?.[spotIndex];
  const day = dayAt(light, groups, spotIndex);
  const changed = lightChangedUtc(zone, bundle.history, bundle.log, utcIso(nowMs));
  const still =
    changed === null
      ? 0
      : daysBetween(localDate(Date.parse(changed), zone.timeZone), localDate(nowMs, zone.timeZone));
  return (
    <Section title="Light so far">
      <Type testID="so-far">
        <Type kind="strong">{soFar === undefined ? '…' : mol(soFar)}</Type>
        {` mol today at ${spot!.name}; the running day gives ${mol(day.dli)}, peak ${umol(day.peak)} µmol at ${formatTime(day.peakMinute)}.`}
      </Type>
      <Type kind="small" testID="stillness">
        {still === 0
          ? 'Changed today. Hold still now: colour answers over weeks, not days.'
          : `${plural(still, 'day')} without a change.${still < 60 ? ' Hold still: colour answers over weeks, not days.' : ''}`}
      </Type>
    </Section>
  );
}
