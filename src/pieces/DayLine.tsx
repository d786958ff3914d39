import { scaleLinear } from 'd3-scale';
import { area, line } from 'd3-shape';
import { memo } from 'react';
import Svg, { Line, Path, Text } from 'react-native-svg';

import { shortTime } from '@/core/day/clock';
import { DAY_MINUTES } from '@/core/shape/ring';
import { font, usePaper } from '@/ui/theme';

import { type DayCurve, dayPoints } from './dayCurve';

interface Props extends DayCurve {
  from: number;
  to: number;
  nowMinute: number;
  /** another moment that is looked at */
  askedMinute?: number | null;
  width: number;
  height?: number;
  name: string;
}

const FOOT = 18;

/** A hairline of the day with now on it. */
export const DayLine = memo(function DayLine({
  parAt,
  knees,
  from,
  to,
  nowMinute,
  askedMinute = null,
  width,
  height = 76,
  name,
}: Props) {
  const paper = usePaper();
  const base = height - FOOT;
  const x = scaleLinear([from, to], [1, width - 1]);
  const points = dayPoints({ parAt, knees }, from, to);
  const top = Math.max(...points.map((p) => p[1]), 1);
  const y = scaleLinear([0, top], [base, 8]);
  const within = (minute: number) =>
    minute < from ? minute + DAY_MINUTES : minute > to ? minute - DAY_MINUTES : minute;
  const now = within(nowMinute);
  const asked = askedMinute === null ? null : within(askedMinute);
  const past = points.filter((p) => p[0] < now);
  const done: [number, number][] =
    now >= from && now <= to ? [...past, [now, parAt((now + DAY_MINUTES) % DAY_MINUTES)]] : [];
  return (
    <Svg width={width} height={height} role="img" aria-label={name}>
      {done.length > 1 && (
        <Path
          d={
            area<[number, number]>(
              (p) => x(p[0]),
              base,
              (p) => y(p[1]),
            )(done) ?? ''
          }
          fill={paper.line}
          fillOpacity={0.55}
        />
      )}
      <Path
        d={
          line<[number, number]>(
            (p) => x(p[0]),
            (p) => y(p[1]),
          )(points) ?? ''
        }
        fill="none"
        stroke={paper.ink}
        strokeWidth={1.5}
        strokeLinejoin="round"
      />
      <Line x1={0} x2={width} y1={base} y2={base} stroke={paper.line} strokeWidth={1} />
      {now >= from && now <= to && (
        <Line x1={x(now)} x2={x(now)} y1={2} y2={base + 4} stroke={paper.ink} strokeWidth={2} />
      )}
      {asked !== null && asked >= from && asked <= to && (
        <Line
          x1={x(asked)}
          x2={x(asked)}
          y1={2}
          y2={base + 4}
          stroke={paper.ink}
          strokeWidth={2}
          strokeDasharray="3 3"
        />
      )}
      <Text x={0} y={height - 3} fontSize={12} fontFamily={font.sans} fill={paper.quiet}>
        {shortTime(from)}
      </Text>
      <Text x={width} y={height - 3} fontSize={12} fontFamily={font.sans} fill={paper.quiet} textAnchor="end">
        {shortTime(to)}
      </Text>
    </Svg>
  );
});
