import { memo } from 'react';
import Svg, { Line, Rect } from 'react-native-svg';

import { usePaper } from '@/ui/theme';

/** What a head emits beside what it should, colour by colour: a bar for the one, a mark for the other. */
export const DriveBars = memo(function DriveBars({
  drive,
  should,
  width = 120,
  name,
}: {
  drive: readonly number[];
  should: readonly number[] | null;
  width?: number;
  name: string;
}) {
  const paper = usePaper();
  const step = width / Math.max(1, drive.length);
  const height = 34;
  const y = (v: number) => height - 3 - v * (height - 6);
  return (
    <Svg width={width} height={height} role="img" aria-label={name}>
      <Line x1={0} x2={width} y1={y(0)} y2={y(0)} stroke={paper.line} strokeWidth={1} />
      {drive.map((v, i) => (
        <Rect
          key={i}
          x={i * step + step * 0.2}
          y={y(v)}
          width={step * 0.6}
          height={Math.max(0.5, y(0) - y(v))}
          fill={paper.strong}
        />
      ))}
      {should?.map((v, i) => (
        <Line
          key={`s${i}`}
          x1={i * step + 1}
          x2={(i + 1) * step - 1}
          y1={y(v)}
          y2={y(v)}
          stroke={paper.ink}
          strokeWidth={2}
        />
      ))}
    </Svg>
  );
});
