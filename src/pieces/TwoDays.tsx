import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { memo } from 'react';
import Svg, { G, Line, Path, Text } from 'react-native-svg';

import { shortTime } from '@/core/day/clock';
import { font, usePaper } from '@/ui/theme';

import { type DayCurve, dayPoints } from './dayCurve';

interface Props {
  /** drawn thin and broken: what was, or what is wanted */
  before: DayCurve;
  /** drawn strong: what would be */
  after: DayCurve;
  from: number;
  to: number;
  width: number;
  height?: number;
  name: string;
}

const FOOT = 18;
/** Two days over one another in µmol: the one broken and thin, the other strong. */
export const TwoDays = memo(function TwoDays({ before, after, from, to, width, height = 96, name }: Props) {
  const paper = usePaper();
  const x = scaleLinear([from, to], [1, width - 1]);
  const [was, is] = [dayPoints(before, from, to), dayPoints(after, from, to)];
  const top = Math.max(1, ...was.map((p) => p[1]), ...is.map((p) => p[1]));
  const y = scaleLinear([0, top], [height - FOOT, 16]);
  const path = (points: [number, number][]) =>
    line<[number, number]>(
      (p) => x(p[0]),
      (p) => y(p[1]),
    )(points) ?? '';
  const ticks = y.ticks(2).filter((v) => v > 0);
  const every = to - from > 900 ? 240 : 120;
  const hours: number[] = [];
  for (let m = Math.ceil((from + 30) / every) * every; m <= to - 30; m += every) hours.push(m);
  return (
    <Svg width={width} height={height} role="img" aria-label={name}>
      {ticks.map((v) => (
        <G key={v}>
          <Line x1={0} x2={width} y1={y(v)} y2={y(v)} stroke={paper.line} strokeWidth={1} />
          <Text
            x={width}
            y={y(v) - 3}
            fontSize={11}
            fontFamily={font.sans}
            fill={paper.quiet}
            textAnchor="end"
          >
            {v === ticks[ticks.length - 1] ? `${v} µmol` : v}
          </Text>
        </G>
      ))}
      <Line x1={0} x2={width} y1={y(0)} y2={y(0)} stroke={paper.line} strokeWidth={1} />
      <Path d={path(was)} fill="none" stroke={paper.quiet} strokeWidth={1.25} strokeDasharray="4 3" />
      <Path d={path(is)} fill="none" stroke={paper.ink} strokeWidth={2} strokeLinejoin="round" />
      {hours.map((m) => (
        <Text
          key={m}
          x={x(m)}
          y={height - 3}
          fontSize={11}
          fontFamily={font.sans}
          fill={paper.quiet}
          textAnchor="middle"
        >
          {shortTime(m)}
        </Text>
      ))}
    </Svg>
  );
});
