import { useState } from 'react';

import type { EaseAnswer } from '@/core/case/easePlan';
import { courseKey, RatioCourse } from '@/pieces/RatioCourse';
import type { Desk } from '@/state/desk';
import { addDays, shortDate } from '@/state/time';
import { Choice } from '@/ui/Field';
import { Section } from '@/ui/Parts';
import { TakeAlong } from '@/ui/TakeAlong';
import { Type } from '@/ui/Type';

import { formats } from '../shared/formats';
import { OfSpot } from '../shared/OfSpot';
import { times } from '../shared/words';
import { doubtWords, settledWords } from './words';

/** The step ratio of every coral day by day as planned, beside all of it at once where that is asked for. */
export function DayByDay({
  desk: { zone, spot, spotIndex },
  answer,
  course,
  today,
  takes,
  width,
}: {
  desk: Desk;
  answer: EaseAnswer;
  course: NonNullable<EaseAnswer['course']>;
  today: string;
  /** the ceiling of a coral */
  takes: (spot: number) => number;
  width: number;
}) {
  const [atOnce, setAtOnce] = useState(false);
  const names = zone.spots.map((x) => x.name);
  const worst = answer.atOnce.ratios.map((day) => Math.max(...day));
  return (
    <Section
      title="Day by day"
      aside={
        <Choice
          label="Beside it"
          hideLabel
          value={atOnce ? 'once' : 'plan'}
          onChange={(v) => setAtOnce(v === 'once')}
          options={[
            { value: 'plan', label: 'Plan' },
            { value: 'once', label: 'And at once' },
          ]}
        />
      }
    >
      <TakeAlong
        name="step-ratios"
        caption={`${zone.name}: step ratio of each coral, day by day, as planned from ${shortDate(today)}. Peaks: ${names[Math.max(0, spotIndex)]}.`}
        csv={async () =>
          (await formats()).tableCsv(
            ['date', ...names.map((n) => `${n} (×)`), ...names.map((n) => `${n} (peak, µmol)`)],
            course.ratios.map((r, d) => [addDays(today, d), ...r, ...course.light[d]!.map((l) => l.peak)]),
          )
        }
      >
        <RatioCourse
          ratios={course.ratios}
          names={names}
          strong={answer.limits.slice(0, 3).map((l) => l.spot)}
          ceiling={takes(answer.limits[0]?.spot ?? 0)}
          atOnce={atOnce ? worst : undefined}
          peaks={course.light.map((l) => l[Math.max(0, spotIndex)]!.peak)}
          peakName={names[Math.max(0, spotIndex)]!}
          dateOf={(d) => shortDate(addDays(today, d)).slice(4)}
          width={width}
          name={`Step ratio over ${course.ratios.length} days; at most ${times(course.worst.ratio)} at ${names[course.worst.spot]} on ${shortDate(course.worst.date)}`}
        />
      </TakeAlong>
      <Type kind="small">
        {courseKey(
          names,
          answer.limits.slice(0, 3).map((l) => l.spot),
        )}
      </Type>
      {atOnce && (
        <Type kind="small" testID="at-once">
          {`Dotted: switched on at once, the largest of all: ${worst
            .filter((_, d) => [0, 3, 7, 14, 28].includes(d))
            .map((r, i) => `${times(r)} ${['today', 'after 3 days', 'after 7', 'after 14', 'after 28'][i]}`)
            .join(', ')}.`}
        </Type>
      )}
      <Type kind="small" testID="settled">
        {[doubtWords(answer, zone), settledWords(course, zone)].filter(Boolean).join(' ')}
      </Type>
      <OfSpot says="µmol are at" spots={zone.spots} spot={spot} />
    </Section>
  );
}
