import { plural } from '@/core/shape/counts';
import { volumeWords } from '@/core/shape/units';
import { View } from 'react-native';
import { exported, intervals, testsOf } from '@/core/refugium/harvests';
import { WaterCourse } from '@/pieces/WaterCourse';
import { addDays, localDate, shortDate } from '@/state/time';
import { Fold, Row, Section } from '@/ui/Parts';
import { TakeAlong } from '@/ui/TakeAlong';
import { Type } from '@/ui/Type';
import { formats } from '../shared/formats';
import { grams } from '../shared/words';
import { boundsWords as between } from '@/core/feeding/range';
import { type MatState } from './useMats';

const DAY_MS = 86_400_000;

/** What was taken out, against what tests said. */
export function Taken({
  mats,
  nowMs,
  width,
  litres,
  tests,
  timeZone,
  onHarvest,
}: {
  mats: readonly MatState[];
  nowMs: number;
  width: number;
  litres: { litres: number; said: boolean };
  tests: ReturnType<typeof testsOf>;
  timeZone: string;
  onHarvest: (event: MatState['harvests'][number]) => void;
}) {
  const harvests = mats.flatMap((m) => m.harvests).sort((a, b) => (a.atUtc < b.atUtc ? -1 : 1));
  if (harvests.length === 0 && tests.length === 0)
    return (
      <Section title="Taken out">
        <Type>
          Here will stand what the algae took out of the water, week by week, beside what tests say. Weigh the
          first harvest; from the second on it is a rate.
        </Type>
      </Section>
    );
  const ago = (utc: string) => (nowMs - Date.parse(utc)) / DAY_MS;
  const days = Math.min(
    180,
    Math.max(14, Math.ceil(Math.max(...[...harvests, ...tests].map((e) => ago(e.atUtc)), 0) / 7) * 7),
  );
  const today = localDate(nowMs, timeZone);
  const shown = <T extends { atUtc: string }>(list: readonly T[]) => list.filter((e) => ago(e.atUtc) <= days);
  const each = mats.map((m) => ({ m, out: exported(m.harvests, litres.litres, nowMs) }));
  return (
    <Section title="Taken out">
      {each.map(({ m, out }) =>
        out && out.ppm ? (
          <Type key={m.spot.id} testID={`taken-${m.spot.name}`}>
            <Type kind="strong">{`${grams(out.wetGPerWeek)} g wet a week`}</Type>
            {` by ${plural(out.harvests, 'harvest')} over ${Math.round(out.days)} days: ${between(out.nitrogenGPerWeek)} g nitrogen and ${between(out.phosphorusGPerWeek)} g phosphorus, that is ${between(out.ppm.nitrate)} ppm nitrate and ${between(out.ppm.phosphate)} ppm phosphate of ${volumeWords(litres.litres)} a week.`}
          </Type>
        ) : m.harvests.length > 0 ? (
          <Type key={m.spot.id} kind="small">{`${m.spot.name}: one more harvest makes a rate.`}</Type>
        ) : null,
      )}
      <TakeAlong
        name="water-tests"
        caption={`Nitrate and phosphate by tests, and harvests, over ${days} days to ${shortDate(today)}.`}
        csv={async () =>
          (await formats()).tableCsv(
            ['date', 'nitrate (ppm)', 'phosphate (ppm)', 'harvest (g wet)'],
            [
              ...shown(tests).map((t) => [t.atUtc, t.nitratePpm, t.phosphatePpm, null]),
              ...shown(harvests).map((h) => [h.atUtc, null, null, h.wetG]),
            ],
          )
        }
      >
        <WaterCourse
          nitrate={shown(tests).flatMap((t) =>
            t.nitratePpm === null ? [] : [{ daysAgo: ago(t.atUtc), value: t.nitratePpm }],
          )}
          phosphate={shown(tests).flatMap((t) =>
            t.phosphatePpm === null ? [] : [{ daysAgo: ago(t.atUtc), value: t.phosphatePpm }],
          )}
          harvests={shown(harvests).map((h) => ({ daysAgo: ago(h.atUtc), wetG: h.wetG }))}
          days={days}
          dateOf={(d) => shortDate(addDays(today, -d)).slice(4)}
          width={width}
          name={`Nitrate and phosphate by tests and harvests over ${days} days`}
        />
      </TakeAlong>
      {harvests.length > 0 && (
        <>
          <Type kind="small">
            {`Of what you weigh drained, 8–15 % is dry; of the dry, 2–4 % is nitrogen and 0.1–0.3 % phosphorus (literature). The range runs from all of these at their lowest to all at their highest. Water in the system: ${volumeWords(litres.litres)}, ${litres.said ? 'as said' : 'reckoned from the boxes'}; change it under Size the light.`}
          </Type>
          <Fold title="Each harvest" testID="each-harvest">
            <View>
              {mats.flatMap((m) => {
                const grew = intervals(m.harvests);
                return [...m.harvests].reverse().map((h) => {
                  const i = grew.find((x) => x.toUtc === h.atUtc);
                  return (
                    <Row
                      key={h.id}
                      style={{ minHeight: 44 }}
                      onPress={() => onHarvest(h)}
                      name={`Harvest of ${shortDate(localDate(Date.parse(h.atUtc), timeZone))}`}
                    >
                      <View style={{ flex: 1 }}>
                        <Type kind="label">{`${shortDate(localDate(Date.parse(h.atUtc), timeZone))}${mats.length > 1 ? `, ${m.spot.name}` : ''}`}</Type>
                        <Type kind="small">
                          {i
                            ? `${grams(i.gainGPerDay)} g a day since the last${i.perDay === null ? '' : `, ${(100 * i.perDay).toFixed(1)} % a day${i.perDay > 0 ? `: doubles in ${Math.round(Math.LN2 / i.perDay)} days` : ''}`}`
                            : 'the first: growth is known from the next on'}
                        </Type>
                      </View>
                      <Type kind="strong">{`${Math.round(h.wetG)} g`}</Type>
                    </Row>
                  );
                });
              })}
            </View>
          </Fold>
        </>
      )}
    </Section>
  );
}
