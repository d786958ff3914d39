import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { memo, useMemo } from 'react';
import { View } from 'react-native';
import Svg, { Line, Path } from 'react-native-svg';

import { at } from '@/core/spectrum/grid';
import { usePaper } from '@/ui/theme';

import { NmAxis } from './NmAxis';

interface Props {
  lights: readonly { name: string; spectrum: Float64Array }[];
  width: number;
  height: number;
  /** read aloud in place of the drawing */
  name: string;
}

/** Ink styles, so that lines are told apart without colour. */
export const DASHES: readonly (string | undefined)[] = [undefined, '7 3', '2 3', '9 3 2 3'];
const FROM_NM = 375;
const TO_NM = 705;
const FOOT = 18;

/** Outlines of several lights over wavelength on one linear scale, in ink alone. */
export const Outlines = memo(function Outlines({ lights, width, height, name }: Props) {
  const paper = usePaper();
  const x = useMemo(() => scaleLinear([FROM_NM, TO_NM], [4, width - 4]), [width]);
  const base = height - FOOT;
  const paths = useMemo(() => {
    const top = Math.max(1e-12, ...lights.flatMap((l) => Array.from(l.spectrum)));
    const nms = Array.from({ length: (TO_NM - FROM_NM) / 2 + 1 }, (_, i) => FROM_NM + 2 * i);
    return lights.map(
      (l) =>
        line<number>(
          (nm) => x(nm),
          (nm) => base - (at(l.spectrum, nm) / top) * (base - 8),
        )(nms) ?? '',
    );
  }, [lights, x, base]);
  return (
    <View role="img" aria-label={name}>
      <Svg width={width} height={height} aria-hidden>
        <Line x1={0} x2={width} y1={base} y2={base} stroke={paper.ink} strokeWidth={1} />
        <NmAxis x={x} width={width} base={base} height={height} />
        {paths.map((d, i) => (
          <Path
            key={i}
            d={d}
            fill="none"
            stroke={paper.ink}
            strokeWidth={1.5}
            strokeDasharray={DASHES[i % DASHES.length]}
          />
        ))}
      </Svg>
    </View>
  );
});

/** The sample of a line's style, for a legend. */
export function DashSample({ index }: { index: number }) {
  const paper = usePaper();
  return (
    <Svg width={36} height={10} aria-hidden>
      <Line
        x1={0}
        x2={36}
        y1={5}
        y2={5}
        stroke={paper.ink}
        strokeWidth={1.5}
        strokeDasharray={DASHES[index % DASHES.length]}
      />
    </Svg>
  );
}
