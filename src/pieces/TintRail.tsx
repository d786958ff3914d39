import { memo, useMemo, useRef } from 'react';
import { View } from 'react-native';
import Svg, { Circle, Line } from 'react-native-svg';

import { seeUnder } from '@/core/colour/look';
import { channelLevels } from '@/core/spectrum/controls';
import { addScaled, zeroSpectrum } from '@/core/spectrum/grid';
import { keptSpectrum } from '@/core/spectrum/lamp';
import type { LampKind } from '@/core/spectrum/lampKind';
import { PixelField } from '@/ui/PixelField';
import { type Pull, Pulled } from '@/ui/Pulled';
import { SliderGrip } from '@/ui/SliderGrip';
import { size, usePaper } from '@/ui/theme';

interface Props {
  kind: LampKind;
  tintId: string;
  brightnessId: string;
  value: number;
  width: number;
  /** step of a typed value as a share */
  stepShare: number;
  locked: boolean;
  onPull: (id: string, value: number) => void;
  onRelease: () => void;
  onStep: (id: string, value: number) => void;
}

const COLUMNS = 48;
const HEIGHT = 22;
/** The eye half adapted: enough to tell the ends apart without drowning them in blue. Mark: rule of thumb. */
const HALF = 0.5;

/** A tint control as a rail: every place in the colour that a white card has under it. */
export const TintRail = memo(function TintRail({
  kind,
  tintId,
  brightnessId,
  value,
  width,
  stepShare,
  locked,
  onPull,
  onRelease,
  onStep,
}: Props) {
  const paper = usePaper();
  const pixels = useMemo(() => {
    const out = new Uint8ClampedArray(COLUMNS * 4);
    for (let i = 0; i < COLUMNS; i += 1) {
      const light = zeroSpectrum();
      channelLevels(kind, { [tintId]: i / (COLUMNS - 1), [brightnessId]: 1 }).forEach((v, c) =>
        addScaled(light, keptSpectrum(kind.channels[c]!), v),
      );
      const [r, g, b] = seeUnder(light, { degree: HALF })?.colour(light) ?? [0, 0, 0];
      out.set([r * paper.plateDim, g * paper.plateDim, b * paper.plateDim, 255], i * 4);
    }
    return out;
  }, [kind, tintId, brightnessId, paper.plateDim]);
  const start = useRef(value);
  const moved = useRef(false);
  const inner = width - size.target;
  const at = (v: number) => size.target / 2 + v * inner;
  const pull: Pull = {
    onBegin: () => {
      start.current = value;
      moved.current = false;
    },
    onUpdate: (e) => {
      if (Math.abs(e.translationX) < 3 && !moved.current) return;
      moved.current = true;
      const to = Math.min(1, Math.max(0, start.current + e.translationX / inner));
      onPull(tintId, stepShare > 0 ? Math.round(to / stepShare) * stepShare : to);
    },
    onFinalize: () => {
      if (moved.current) onRelease();
    },
  };
  const percent = Math.round(value * 100);
  return (
    <Pulled
      pull={pull}
      off={locked}
      style={{ width, height: size.target, justifyContent: 'center' }}
      testID="tint-rail"
    >
      <View style={{ position: 'absolute', left: size.target / 2, top: (size.target - HEIGHT) / 2 }}>
        <PixelField
          pixels={pixels}
          columns={COLUMNS}
          rows={1}
          width={inner}
          height={HEIGHT}
          name="White card along the tint"
        />
      </View>
      <Svg width={width} height={size.target} aria-hidden style={{ position: 'absolute' }}>
        <Circle
          cx={at(value)}
          cy={size.target / 2}
          r={11}
          fill={locked ? paper.quiet : paper.ink}
          stroke={paper.paper}
          strokeWidth={1.5}
        />
        <Line
          x1={at(value)}
          x2={at(value)}
          y1={size.target / 2 - 4}
          y2={size.target / 2 + 4}
          stroke={paper.paper}
          strokeWidth={1.5}
        />
      </Svg>
      <SliderGrip
        id={tintId}
        name="Tint"
        now={percent}
        valueText={`${percent} % of the way`}
        step={Math.max(1, Math.round(stepShare * 100))}
        onChange={(now, id) => onStep(id!, now / 100)}
        left={at(value) - size.target / 2}
        top={0}
      />
    </Pulled>
  );
});
