import { type ScaleLinear } from 'd3-scale';
import { memo } from 'react';
import { G, Line, Text } from 'react-native-svg';

import { font, usePaper } from '@/ui/theme';

interface Props {
  x: ScaleLinear<number, number>;
  width: number;
  /** where the drawing stands, in px from its top */
  base: number;
  height: number;
}

/** Ticks and numbers of wavelength under a spectrum, in nm; none that an edge would cut. */
export const NmAxis = memo(function NmAxis({ x, width, base, height }: Props) {
  const paper = usePaper();
  return (
    <>
      {x
        .ticks(width > 500 ? 8 : 6)
        .filter((nm) => x(nm) > 14 && x(nm) < width - 14)
        .map((nm) => (
          <G key={nm}>
            <Line x1={x(nm)} x2={x(nm)} y1={base} y2={base + 4} stroke={paper.strong} strokeWidth={1} />
            <Text
              x={x(nm)}
              y={height - 3}
              fontSize={12}
              fontFamily={font.sans}
              fill={paper.quiet}
              textAnchor="middle"
            >
              {nm}
            </Text>
          </G>
        ))}
    </>
  );
});
