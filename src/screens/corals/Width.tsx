import type { ShapeId } from '@/core/coral/form';
import { type Widening, widening } from '@/core/case/widths';
import { sizeOf } from '@/core/portrait/ofZone';
import type { Spot } from '@/core/record/zone';
import { plural } from '@/core/shape/counts';
import { lengthFigure, lengthRange, lengthWords } from '@/core/shape/units';
import { setSpotSize } from '@/state/commands/spots';
import { useDesk } from '@/state/desk';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { nowUtcIso, paperDate } from '@/state/time';
import { ValueField } from '@/ui/Field';
import { parseNumber } from '@/ui/parseNumber';
import { Type } from '@/ui/Type';

/** A month, days. */
const MONTH = 365.25 / 12;
/** A pace is told from as many days on: a week's growth is less than a ruler reads. Mark: rule of thumb. */
const PACE_DAYS = 30;

/** How a coral's width went since it was first measured. */
export function widthWords({ first, newest, days, byCm, bandCm }: Widening, timeZone: string): string {
  const on = (e: { atUtc: string }) => paperDate(Date.parse(e.atUtc), timeZone);
  if (days === 0)
    return `Measured on ${on(newest)}. Measure again in some months, and its growth is told here.`;
  const both = `${lengthWords(first.widthCm, true)} on ${on(first)}, ${lengthWords(newest.widthCm, true)} on ${on(newest)}`;
  const out = lengthWords(bandCm, true);
  if (Math.abs(byCm) <= bandCm)
    return `${both}: no growth can be told yet, two measurements under water may differ by ${out} (rule of thumb).`;
  const pace =
    days < PACE_DAYS ? '' : `, about ${lengthWords((Math.abs(byCm) * MONTH) / days, true)} a month`;
  return `${both}: ${lengthFigure(Math.abs(byCm), true)} ± ${out} ${byCm > 0 ? 'wider' : 'narrower'} in ${plural(days, 'day')}${pace}. ± is what rulers under water are out by (rule of thumb).`;
}

/** How wide a coral is across: what it is drawn by, and with the measurements before it how it grows. */
export function Width({ spot, shape }: { spot: Spot; shape: ShapeId }) {
  const { zone, bundle } = useDesk();
  const grew = widening(bundle.log, spot.id);
  return (
    <>
      <ValueField
        label="Width across"
        value={String(sizeOf(spot, shape))}
        unit="cm"
        numeric
        hint={
          spot.sizeCm === undefined
            ? 'as is usual for its shape; measured, it is kept with its date'
            : 'empty: as is usual for its shape'
        }
        testID="coral-size"
        onCommit={(text) => {
          const cm = text.trim() === '' ? null : parseNumber(text);
          if (text.trim() !== '' && (cm === null || cm < 1 || cm > 200))
            return `Give ${lengthRange(1, 200)}.`;
          run(setSpotSize(zone.id, spot.id, cm, { id: newId(), atUtc: nowUtcIso() }));
          return null;
        }}
      />
      {grew && (
        <Type kind="small" testID="coral-grew">
          {widthWords(grew, zone.timeZone)}
        </Type>
      )}
    </>
  );
}
