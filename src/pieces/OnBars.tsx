import { scaleLinear } from 'd3-scale';
import { useRef } from 'react';
import { View } from 'react-native';
import Svg, { Line, Rect } from 'react-native-svg';

import { formatHours, formatTime } from '@/core/day/clock';
import { DAY_MINUTES } from '@/core/shape/ring';
import { type Pull, Pulled } from '@/ui/Pulled';
import { SliderGrip } from '@/ui/SliderGrip';
import { size, space, usePaper } from '@/ui/theme';
import { Type } from '@/ui/Type';

export interface OnBar {
  id: string;
  name: string;
  /** unrolled: `to` may lie after midnight */
  windows: { from: number; to: number }[];
}

interface Props {
  bars: readonly OnBar[];
  from: number;
  to: number;
  width: number;
  /** the clock's own steps, minutes */
  stepOf: (id: string) => number;
  onMove: (id: string, index: number, window: { from: number; to: number }) => void;
  onRelease: () => void;
  onStep: (id: string, index: number, window: { from: number; to: number }) => void;
}

const ROW = size.target;

/** Circuits as bars of the time they are on: slide an end, or step it with the arrow keys. */
export function OnBars({ bars, from, to, width, stepOf, onMove, onRelease, onStep }: Props) {
  const paper = usePaper();
  const x = scaleLinear([from, to], [size.target / 2, width - size.target / 2]);
  // the same window as the chart above shows it
  const shown = (m: number) => {
    let at = m;
    while (at < from) at += DAY_MINUTES;
    while (at > to && at - DAY_MINUTES >= from) at -= DAY_MINUTES;
    return Math.min(at, to);
  };
  return (
    <View style={{ width, gap: space.s }} testID="on-bars">
      {bars.map((bar) => (
        <View key={bar.id}>
          <View style={{ flexDirection: 'row', justifyContent: 'space-between' }}>
            <Type kind="label">{bar.name}</Type>
            <Type kind="label" testID={`bar-${bar.name}`}>
              {bar.windows.length === 0
                ? 'off all day'
                : `${bar.windows.map((w) => `${formatTime(w.from)}–${formatTime(w.to)}`).join(', ')} · ${formatHours(bar.windows.reduce((sum, w) => sum + w.to - w.from, 0) / 60)}`}
            </Type>
          </View>
          <View style={{ height: ROW }}>
            <Svg width={width} height={ROW} aria-hidden>
              <Line
                x1={size.target / 2}
                x2={width - size.target / 2}
                y1={ROW / 2}
                y2={ROW / 2}
                stroke={paper.line}
                strokeWidth={1}
              />
              {bar.windows.map((w, i) => {
                const [a, b] = [x(shown(w.from)), x(shown(w.to))];
                return b >= a ? (
                  <Rect
                    key={i}
                    x={a}
                    y={ROW / 2 - 5}
                    width={Math.max(2, b - a)}
                    height={10}
                    fill={paper.ink}
                  />
                ) : null;
              })}
            </Svg>
            {bar.windows.flatMap((w, i) =>
              (['from', 'to'] as const).map((end) => (
                <End
                  key={`${i}-${end}`}
                  name={`${bar.name} ${end === 'from' ? 'on' : 'off'}${bar.windows.length > 1 ? `, ${i + 1}` : ''}`}
                  testID={`end-${bar.name}-${end}${i > 0 ? `-${i + 1}` : ''}`}
                  at={x(shown(w[end]))}
                  minute={w[end]}
                  step={stepOf(bar.id)}
                  minutesPerPx={(to - from) / (width - size.target)}
                  onTo={(minute, kept) => {
                    const moved = { ...w, [end]: minute };
                    const length = moved.to - moved.from;
                    if (length < stepOf(bar.id) || length > DAY_MINUTES) return;
                    (kept ? onStep : onMove)(bar.id, i, moved);
                  }}
                  onRelease={onRelease}
                />
              )),
            )}
          </View>
        </View>
      ))}
    </View>
  );
}

interface EndProps {
  name: string;
  testID: string;
  at: number;
  minute: number;
  step: number;
  minutesPerPx: number;
  onTo: (minute: number, kept: boolean) => void;
  onRelease: () => void;
}

function End({ name, testID, at, minute, step, minutesPerPx, onTo, onRelease }: EndProps) {
  const paper = usePaper();
  const held = useRef(0);
  const moved = useRef(false);
  const snap = (m: number) => Math.round(m / step) * step;
  const pull: Pull = {
    onBegin: () => {
      held.current = minute;
      moved.current = false;
    },
    onUpdate: (e) => {
      const to = snap(held.current + e.translationX * minutesPerPx);
      if (to === minute) return;
      moved.current = true;
      onTo(to, false);
    },
    onFinalize: () => {
      if (moved.current) onRelease();
    },
  };
  return (
    <>
      <Pulled
        pull={pull}
        testID={testID}
        style={{
          position: 'absolute',
          left: at - size.target / 2,
          top: 0,
          width: size.target,
          height: ROW,
          alignItems: 'center',
          justifyContent: 'center',
        }}
      >
        <View
          style={{
            width: 16,
            height: 26,
            borderWidth: 1.5,
            borderColor: paper.ink,
            borderRadius: 3,
            backgroundColor: paper.raised,
          }}
        />
      </Pulled>
      <View style={{ pointerEvents: 'none' }}>
        <SliderGrip
          name={name}
          now={minute}
          min={0}
          max={2 * DAY_MINUTES}
          step={Math.max(step, 5)}
          valueText={formatTime(minute)}
          onChange={(to) => onTo(snap(to), true)}
          left={at - size.target / 2}
          top={0}
        />
      </View>
    </>
  );
}
