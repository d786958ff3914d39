import { useRef } from 'react';
import { View } from 'react-native';
import Svg, { Circle, Line } from 'react-native-svg';

import { printHide } from './print';
import { type Pull, Pulled } from './Pulled';
import { SliderGrip } from './SliderGrip';
import { size, usePaper } from './theme';
import { Type } from './Type';

/** A rail with one grip for a number between two ends: slide, tap, or arrow keys. */
export function Rail({
  label,
  hideLabel = false,
  value,
  min,
  max,
  step,
  valueText,
  width,
  onChange,
  testID,
}: {
  label: string;
  /** the label is only spoken: what is set stands beside the rail */
  hideLabel?: boolean;
  value: number;
  min: number;
  max: number;
  step: number;
  valueText: string;
  width: number;
  onChange: (value: number) => void;
  testID?: string;
}) {
  const paper = usePaper();
  const from = useRef(0);
  const inner = width - size.target;
  const at = size.target / 2 + ((value - min) / Math.max(max - min, 1e-9)) * inner;
  const snap = (v: number) => Math.min(max, Math.max(min, Math.round(v / step) * step));
  const pull: Pull = {
    onBegin: (e) => {
      // a touch beside the grip takes it there
      from.current =
        Math.abs(e.x - at) < size.target / 2 ? value : min + ((e.x - size.target / 2) / inner) * (max - min);
      onChange(snap(from.current));
    },
    onUpdate: (e) => onChange(snap(from.current + (e.translationX / inner) * (max - min))),
  };
  return (
    <View style={{ width }}>
      {!hideLabel && (
        <View style={{ flexDirection: 'row', justifyContent: 'space-between' }} aria-hidden>
          <Type kind="label">{label}</Type>
          <Type kind="label">{valueText}</Type>
        </View>
      )}
      <View {...printHide}>
        <Pulled pull={pull} style={{ width, height: size.target }} testID={testID}>
          <Svg width={width} height={size.target} aria-hidden>
            <Line
              x1={size.target / 2}
              x2={width - size.target / 2}
              y1={size.target / 2}
              y2={size.target / 2}
              stroke={paper.strong}
              strokeWidth={1.5}
            />
            <Circle cx={at} cy={size.target / 2} r={11} fill={paper.ink} />
          </Svg>
          <SliderGrip
            name={label}
            now={value}
            min={min}
            max={max}
            step={step}
            valueText={valueText}
            onChange={(to) => onChange(snap(to))}
            left={at - size.target / 2}
            top={0}
          />
        </Pulled>
      </View>
    </View>
  );
}
