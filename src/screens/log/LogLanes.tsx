import { useMemo, useState } from 'react';

import type { MetChange } from '@/core/case/replay';
import type { LogLine } from '@/core/case/timeline';
import { stepRatio } from '@/core/easing/accustomed';
import type { LogEventOf } from '@/core/record/log';
import { asSaid, measured, MEASURES } from '@/core/record/log/measures';
import { floorUmolOf } from '@/core/record/needs';
import { Lanes, type TimeLane } from '@/pieces/Lanes';
import type { Desk } from '@/state/desk';
import { localDate, shortDate } from '@/state/time';
import { usePageSize } from '@/ui/Page';
import { Fold } from '@/ui/Parts';
import { Choice } from '@/ui/Field';
import { TakeAlong } from '@/ui/TakeAlong';
import { Type } from '@/ui/Type';

import { formats } from '../shared/formats';
import { times, umol } from '../shared/words';

const SPANS = { '90': 'three months', '365': 'a year', all: 'everything' } as const;
type Span = keyof typeof SPANS;
const DAY_MS = 86_400_000;
/** What fits between the margins of A4 and of Letter, px of 96 to the inch. */
export const PAPER_WIDTH = 640;
/** What stands in the lane of what was seen. */
const SIGNS: Record<string, string> = { sign: 'o', befell: 'x', care: '·', chore: '·' };

/** Light at the chosen coral, what it is to it, tests, and what was seen, on one axis of time. */
export function LogLanes({
  desk: { zone, bundle, spot, spotIndex },
  lines,
  changes,
  nowMs,
  paper = false,
}: {
  desk: Desk;
  lines: readonly LogLine[];
  changes: readonly MetChange[];
  nowMs: number;
  /** on paper: a year of it, as wide as the page */
  paper?: boolean;
}) {
  const page = usePageSize();
  const [chosen, setSpan] = useState<Span>('90');
  const span = paper ? '365' : chosen;
  const first = Date.parse(lines.at(-1)?.atUtc ?? '') || nowMs;
  const fromMs = span === 'all' ? Math.min(first, nowMs - DAY_MS) : nowMs - Number(span) * DAY_MS;
  const lanes = useMemo((): TimeLane[] => {
    const inIt = <T extends { atMs: number }>(all: T[]) => {
      const last = all.findLast((p) => p.atMs < fromMs);
      return [
        ...(last ? [{ ...last, atMs: fromMs }] : []),
        ...all.filter((p) => p.atMs >= fromMs && p.atMs <= nowMs),
      ];
    };
    const met = changes.flatMap((c) => (c.after[spotIndex] ? [{ c, atMs: Date.parse(c.atUtc) }] : []));
    const floor = spot ? floorUmolOf(spot, zone) : 0;
    const tests = bundle.log.events
      .filter((e): e is LogEventOf<'test'> => e.kind === 'test')
      .sort((a, b) => (a.atUtc < b.atUtc ? -1 : 1));
    const marks = bundle.log.events.filter(
      (e) => e.zoneId === zone.id && e.kind in SIGNS && (!('spotId' in e) || e.spotId === spot?.id),
    );
    const seen = (e: { atUtc: string }) => Date.parse(e.atUtc) >= fromMs && Date.parse(e.atUtc) <= nowMs;
    return [
      {
        ...{ is: 'steps', title: `light at ${spot?.name ?? 'the spot'}, µmol`, format: umol },
        points: inIt(met.map(({ c, atMs }) => ({ atMs, value: c.after[spotIndex]!.peak }))),
      },
      {
        ...{ is: 'points', title: 'against what it was used to then', format: (v) => times(v) },
        points: met
          .map(({ c, atMs }) => ({
            atMs,
            value: stepRatio(c.after[spotIndex]!, c.used[spotIndex]!, floor).ratio,
          }))
          .filter((p) => p.atMs >= fromMs && p.atMs <= nowMs),
      },
      ...MEASURES.flatMap((m): TimeLane[] => {
        const { unit } = asSaid(m, 0);
        const points = tests.flatMap((t) => {
          const value = t[m.id];
          return typeof value === 'number' && seen(t)
            ? [{ atMs: Date.parse(t.atUtc), value: asSaid(m, value).value }]
            : [];
        });
        return points.length < 2
          ? []
          : [
              {
                is: 'points',
                title: `${m.name}${unit === '' ? '' : `, ${unit}`}`,
                points,
                format: (v) => measured({ unit: '' }, v),
              },
            ];
      }),
      {
        ...{ is: 'marks', title: 'o seen  x happened to it  · care' },
        marks: marks.filter(seen).map((e) => ({ atMs: Date.parse(e.atUtc), sign: SIGNS[e.kind]! })),
      },
    ];
  }, [bundle.log.events, changes, fromMs, nowMs, spot, spotIndex, zone]);
  if (lines.length === 0) return null;
  const drawn = (
    <Lanes
      {...{ lanes, fromMs }}
      toMs={nowMs}
      dateOf={(ms) => shortDate(localDate(ms, zone.timeZone))}
      width={paper ? PAPER_WIDTH : page.side}
      name={`Light, tests and what was seen at ${spot?.name ?? 'the spot'} over ${SPANS[span]}`}
    />
  );
  if (paper) return drawn;
  return (
    <Fold title="On one axis of time" testID="log-lanes" open={page.wide}>
      <Choice
        label="Shown"
        hideLabel
        value={span}
        onChange={setSpan}
        options={(Object.keys(SPANS) as Span[]).map((value) => ({ value, label: SPANS[value] }))}
      />
      <TakeAlong
        name="log-on-one-axis"
        caption={`${zone.name}: light at ${spot?.name ?? 'the spot'}, tests and what was seen over ${SPANS[span]} to ${shortDate(localDate(nowMs, zone.timeZone))}. Every line has a scale of its own.`}
        csv={async () =>
          (await formats()).tableCsv(
            ['line', 'at (UTC)', 'value'],
            lanes.flatMap((lane) =>
              lane.is === 'marks'
                ? lane.marks.map((m) => [lane.title, new Date(m.atMs).toISOString(), m.sign])
                : lane.points.map((p) => [lane.title, new Date(p.atMs).toISOString(), p.value]),
            ),
          )
        }
      >
        {drawn}
      </TakeAlong>
      <Type kind="small">
        Every line has a scale of its own; tests that were made twice or more are drawn.
      </Type>
    </Fold>
  );
}
