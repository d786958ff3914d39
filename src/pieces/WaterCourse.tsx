import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { memo } from 'react';
import Svg, { Circle, G, Line, Path, Text } from 'react-native-svg';

import { font, usePaper } from '@/ui/theme';

export interface WaterPoint {
  /** days before now, 0 = today */
  daysAgo: number;
  value: number;
}

interface Props {
  nitrate: readonly WaterPoint[];
  phosphate: readonly WaterPoint[];
  harvests: readonly { daysAgo: number; wetG: number }[];
  /** days that are shown */
  days: number;
  dateOf: (daysAgo: number) => string;
  width: number;
  name: string;
}

const PART = 88;
const HARVEST = 46;
const FOOT = 18;
const LEFT = 4;

/** What tests said over the weeks, each with a scale of its own, and beneath them what was harvested when. */
export const WaterCourse = memo(function WaterCourse({
  nitrate,
  phosphate,
  harvests,
  days,
  dateOf,
  width,
  name,
}: Props) {
  const paper = usePaper();
  const x = scaleLinear([days, 0], [LEFT + 4, width - 6]);
  const parts = [
    { title: 'nitrate, ppm', points: nitrate, dash: undefined },
    { title: 'phosphate, ppm', points: phosphate, dash: '6 3' },
  ];
  const most = Math.max(1, ...harvests.map((h) => h.wetG));
  const base = 2 * PART + HARVEST;
  const ticks = [days, Math.round(days / 2), 0];
  return (
    <Svg width={width} height={base + FOOT} role="img" aria-label={name}>
      {parts.map(({ title, points, dash }, i) => {
        const y = scaleLinear(
          [0, Math.max(1e-6, ...points.map((p) => p.value)) * 1.15],
          [(i + 1) * PART - 6, i * PART + 33],
        );
        const sorted = [...points].sort((a, b) => b.daysAgo - a.daysAgo);
        return (
          <G key={title}>
            <Text x={LEFT} y={i * PART + 12} fontSize={12} fontFamily={font.sans} fill={paper.quiet}>
              {points.length === 0 ? `${title}: not tested` : title}
            </Text>
            <Line x1={LEFT} x2={width} y1={y(0)} y2={y(0)} stroke={paper.line} strokeWidth={1} />
            <Path
              d={
                line<WaterPoint>(
                  (p) => x(p.daysAgo),
                  (p) => y(p.value),
                )(sorted) ?? ''
              }
              fill="none"
              stroke={paper.ink}
              strokeWidth={1.6}
              strokeDasharray={dash}
            />
            {sorted.map((p, k) => (
              <G key={k}>
                <Circle
                  cx={x(p.daysAgo)}
                  cy={y(p.value)}
                  r={3}
                  fill={paper.paper}
                  stroke={paper.ink}
                  strokeWidth={1.5}
                />
                {(k === 0 || k === sorted.length - 1) && (
                  <Text
                    x={x(p.daysAgo)}
                    y={y(p.value) - 7}
                    fontSize={12}
                    fontFamily={font.medium}
                    fill={paper.ink}
                    textAnchor={k === 0 ? 'start' : 'end'}
                  >
                    {String(Math.round(p.value * 1000) / 1000)}
                  </Text>
                )}
              </G>
            ))}
          </G>
        );
      })}
      <Text x={LEFT} y={2 * PART + 12} fontSize={12} fontFamily={font.sans} fill={paper.quiet}>
        {harvests.length === 0 ? 'harvests: none weighed' : 'harvests, g wet'}
      </Text>
      <Line x1={LEFT} x2={width} y1={base} y2={base} stroke={paper.ink} strokeWidth={1} />
      {harvests.map((h, i) => (
        <Line
          key={i}
          x1={x(h.daysAgo)}
          x2={x(h.daysAgo)}
          y1={base}
          y2={base - Math.max(3, (h.wetG / most) * (HARVEST - 18))}
          stroke={paper.ink}
          strokeWidth={5}
        />
      ))}
      {ticks.map((d, i) => (
        <Text
          key={d}
          x={i === 0 ? LEFT : x(d)}
          y={base + 14}
          fontSize={12}
          fontFamily={font.sans}
          fill={paper.quiet}
          textAnchor={i === 0 ? 'start' : i === 1 ? 'middle' : 'end'}
        >
          {d === 0 ? 'today' : dateOf(d)}
        </Text>
      ))}
    </Svg>
  );
});
