import { plural } from '@/core/shape/counts';
import { volumeRange, volumeWords } from '@/core/shape/units';
import { View } from 'react-native';

import { TEST_DAYS } from '@/core/refugium/harvests';
import { FLOORS, FOOD, outlooks, type Outlook, standsInFor, takenByGrowth } from '@/core/refugium/outlook';
import { NO_SYSTEM, systemLitres } from '@/core/record/system';
import { type Range, boundsWords as between } from '@/core/feeding/range';
import { setSystem } from '@/state/commands/waters';
import { useDesk } from '@/state/desk';
import { run } from '@/state/session';
import { useNowMs } from '@/state/time';
import { Choice, FieldRow } from '@/ui/Field';
import { Note, Section } from '@/ui/Parts';
import { Type } from '@/ui/Type';

import { NumberField } from '../shared/fields';
import { grams, ppm } from '../shared/words';
import type { MatState } from './useMats';

/** What the algae that are lit here take out, what comes in, and where that leads. */
export function OutlookSection({ mats }: { mats: readonly MatState[] }) {
  const { doc, bundle } = useDesk();
  const nowMs = useNowMs();
  const system = doc.system ?? NO_SYSTEM;
  const { litres, said } = systemLitres(doc);
  const grown = mats.flatMap((m) => m.growth ?? []);
  const wet = grown.reduce<Range>(
    (sum, g) => ({ low: sum.low + g.wet.low, mid: sum.mid + g.wet.mid, high: sum.high + g.wet.high }),
    { low: 0, mid: 0, high: 0 },
  );
  const weighed = grown.reduce((n, g) => n + g.weighed, 0);
  const taken = grown.length > 0 ? takenByGrowth(wet, litres) : null;
  const both = taken
    ? outlooks(
        doc,
        bundle.log,
        mats.map((m) => m.harvests),
        taken,
        nowMs,
      )
    : [];
  const number = (
    key: 'litres' | 'fedGPerDay',
    label: string,
    unit: string,
    low: number,
    high: number,
    hint?: string,
  ) => (
    <NumberField
      label={label}
      value={system[key]}
      unit={unit}
      low={low}
      high={high}
      hint={hint}
      wrong={`Give ${unit === 'l' ? volumeRange(low, high) : `${low} to ${high} ${unit}`}, or nothing.`}
      empty={() => run(setSystem({ [key]: null }))}
      take={(v) => run(setSystem({ [key]: v }))}
      testID={`system-${key}`}
    />
  );
  const dosed = (key: 'dosedNitratePpm' | 'dosedPhosphatePpm', label: string, most: number) => (
    <NumberField
      label={label}
      value={system[key]}
      unit="ppm a week"
      low={0}
      high={most}
      wrong={`Give 0 to ${most} ppm a week.`}
      take={(v) => run(setSystem({ [key]: v }))}
      testID={`system-${key}`}
    />
  );
  return (
    <Section title="What it takes out">
      {taken ? (
        <>
          <Type testID="expected">
            <Type kind="strong">{`${between(taken.nitrate)} ppm nitrate`}</Type>
            {` and ${between(taken.phosphate)} ppm phosphate a week, from ${between(wet)} g wet a day, likely ${grams(wet.mid)}.`}
          </Type>
          <Type kind="small">
            {weighed > 0
              ? `Expected from the light that ${mats.length === 1 ? 'is over it' : 'is over them'}, corrected by ${plural(weighed, 'weighed interval')}; 90 % of what is likely.`
              : 'Expected from the light alone, as cultures grow (literature); each weighed harvest narrows it.'}
          </Type>
          {both.map((o) => (
            <OutlookWords key={o.nutrient} o={o} />
          ))}
          <Type kind="label">What it could stand in for</Type>
          <Type testID="stands-in">{standsInFor(both[0]?.share ?? null)}</Type>
        </>
      ) : (
        <Type kind="small">A figure stands here once algae and a lamp over them are known.</Type>
      )}
      <FieldRow>
        {number(
          'litres',
          'Water in the system',
          'l',
          1,
          1e6,
          said ? undefined : `empty = ${volumeWords(litres)}, from the boxes`,
        )}
        {number('fedGPerDay', 'Fed', 'g a day', 0, 1e5)}
      </FieldRow>
      <Choice
        label="Mostly"
        value={system.food}
        onChange={(food) => run(setSystem({ food }))}
        options={[
          { value: 'dry', label: FOOD.dry.name },
          { value: 'frozen', label: FOOD.frozen.name },
        ]}
      />
      <FieldRow>
        {dosed('dosedNitratePpm', 'Nitrate dosed', 1000)}
        {dosed('dosedPhosphatePpm', 'Phosphate dosed', 100)}
      </FieldRow>
    </Section>
  );
}

const LONG_WEEKS = 52;

/** Where a nutrient goes, in words. */
export function OutlookWords({ o }: { o: Outlook }) {
  const name = o.nutrient === 'nitrate' ? 'Nitrate' : 'Phosphate';
  const floor = FLOORS[o.nutrient];
  const against =
    o.dosedPpm > 0
      ? ` You dose ${ppm(o.dosedPpm)} ppm a week: the algae work against it. Less light is cheaper than more dosing.`
      : '';
  const words =
    o.nowPpm === null
      ? `${name} has not been tested in the last ${TEST_DAYS} days: where it leads is not known.`
      : o.comes === null
        ? `${name} ${ppm(o.nowPpm)} ppm. Say what is fed, or log three tests over two weeks, and it can be told where it leads.`
        : o.weeks === null || o.weeks.soonest > LONG_WEEKS
          ? `${name} ${ppm(o.nowPpm)} ppm: what comes in (${between(o.comes)} ppm a week) is not used up by the algae.`
          : o.weeks.soonest === 0
            ? `${name} is at its floor of ${floor} ppm already: corals and algae go hungry.`
            : `${name} ${ppm(o.nowPpm)} ppm would be down at ${floor} ppm ${
                o.weeks.likely === null || o.weeks.likely > LONG_WEEKS
                  ? `in ${plural(Math.ceil(o.weeks.soonest), 'week')} at the soonest, likely not at all`
                  : `in about ${plural(Math.ceil(o.weeks.likely), 'week')}, ${plural(Math.ceil(o.weeks.soonest), 'week')} at the soonest`
              }; ${between(o.comes)} ppm a week come in.`;
  return (
    <View testID={`outlook-${o.nutrient}`}>
      {o.weeks !== null && o.weeks.soonest <= 8 ? (
        <Note>{`${words} Light it shorter or keep the mat small before it gets there.${against}`}</Note>
      ) : (
        <Type kind="small">{`${words}${against}`}</Type>
      )}
    </View>
  );
}
