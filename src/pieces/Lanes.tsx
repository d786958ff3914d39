import { scaleLinear } from 'd3-scale';
import { curveStepAfter, line } from 'd3-shape';
import { memo } from 'react';
import Svg, { Circle, G, Line, Path, Text } from 'react-native-svg';

import { font, usePaper } from '@/ui/theme';

interface At {
  atMs: number;
  value: number;
}
/** One lane of what happened, on the axis of time that all share. */
export type TimeLane =
  | { is: 'steps' | 'points'; title: string; points: readonly At[]; format: (v: number) => string }
  /** marks without a size; a letter tells what */
  | { is: 'marks'; title: string; marks: readonly { atMs: number; sign: string }[] };

interface Props {
  lanes: readonly TimeLane[];
  fromMs: number;
  toMs: number;
  dateOf: (ms: number) => string;
  width: number;
  name: string;
}

const LANE = 64;
const MARKS = 40;
const FOOT = 18;
const LEFT = 4;
const heightOf = (l: TimeLane) => (l.is === 'marks' ? MARKS : LANE);

/** Light, tests and what was seen over one axis of time, so that what came before what is seen at a glance. */
export const Lanes = memo(function Lanes({ lanes, fromMs, toMs, dateOf, width, name }: Props) {
  const paper = usePaper();
  const x = scaleLinear([fromMs, toMs], [LEFT + 4, width - 6]);
  const tops = lanes.map((_, i) => lanes.slice(0, i).reduce((s, l) => s + heightOf(l), 0));
  const foot = lanes.reduce((s, l) => s + heightOf(l), 0);
  return (
    <Svg width={width} height={foot + FOOT} role="img" aria-label={name}>
      {lanes.map((lane, i) => (
        <G key={lane.title}>
          <Text x={LEFT} y={tops[i]! + 12} fontSize={12} fontFamily={font.sans} fill={paper.quiet}>
            {lane.title}
          </Text>
          <Line
            x1={LEFT}
            x2={width}
            y1={tops[i]! + heightOf(lane) - 4}
            y2={tops[i]! + heightOf(lane) - 4}
            stroke={paper.line}
            strokeWidth={1}
          />
          {lane.is === 'marks' ? (
            lane.marks.map((m, k) => (
              <Text
                key={k}
                x={x(m.atMs)}
                y={tops[i]! + MARKS - 10}
                fontSize={12}
                fontFamily={font.medium}
                fill={paper.ink}
                textAnchor="middle"
              >
                {m.sign}
              </Text>
            ))
          ) : (
            <Course lane={lane} x={x} top={tops[i]!} toMs={toMs} />
          )}
        </G>
      ))}
      {[fromMs, (fromMs + toMs) / 2, toMs].map((ms, i) => (
        <Text
          key={ms}
          x={i === 0 ? LEFT : x(ms)}
          y={foot + 13}
          fontSize={12}
          fontFamily={font.sans}
          fill={paper.quiet}
          textAnchor={i === 0 ? 'start' : i === 1 ? 'middle' : 'end'}
        >
          {dateOf(ms)}
        </Text>
      ))}
    </Svg>
  );
});

/** How wide a figure stands, px. */
const LABEL = 40;

function Course({
  lane,
  x,
  top,
  toMs,
}: {
  lane: Extract<TimeLane, { is: 'steps' | 'points' }>;
  x: (ms: number) => number;
  top: number;
  toMs: number;
}) {
  const paper = usePaper();
  const { points } = lane;
  if (points.length === 0) return null;
  const values = points.map((p) => p.value);
  const [low, high] = [Math.min(...values), Math.max(...values)];
  // a value that hardly moves is drawn as one that hardly moves
  const room = Math.max(0.15 * Math.abs(high), high - low, 1e-9);
  const [first, second] = points;
  // a line that soon rises goes through what stands over it: its first figure stands under it
  const risesSoon =
    second !== undefined && second.value > first!.value && x(second.atMs) - x(first!.atMs) < LABEL;
  const foot = risesSoon ? 22 : 8;
  const y = scaleLinear([low - 0.1 * room, low + 1.1 * room], [top + LANE - foot, top + 30]);
  const held = lane.is === 'steps' ? [...points, { atMs: toMs, value: values.at(-1)! }] : points;
  const path = line<At>(
    (p) => x(p.atMs),
    (p) => y(p.value),
  );
  if (lane.is === 'steps') path.curve(curveStepAfter);
  const last = points.length - 1;
  return (
    <>
      <Path d={path([...held]) ?? ''} fill="none" stroke={paper.ink} strokeWidth={1.6} />
      {points.map((p, k) => (
        <G key={k}>
          {lane.is === 'points' && (
            <Circle
              cx={x(p.atMs)}
              cy={y(p.value)}
              r={2.5}
              fill={paper.paper}
              stroke={paper.ink}
              strokeWidth={1.5}
            />
          )}
          {(k === 0 || k === last) && (
            <Text
              x={x(p.atMs)}
              y={y(p.value) + (k === 0 && risesSoon ? 14 : -6)}
              fontSize={12}
              fontFamily={font.medium}
              fill={paper.ink}
              textAnchor={k === 0 && last > 0 ? 'start' : 'end'}
            >
              {lane.format(p.value)}
            </Text>
          )}
        </G>
      ))}
    </>
  );
}
