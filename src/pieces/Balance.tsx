import { memo } from 'react';
import Svg, { Line, Path } from 'react-native-svg';

import { DISASTER } from '@/core/easing/accustomed';
import { usePaper } from '@/ui/theme';

const LOW = 0.5;

/** Place of a step ratio on the scale, 0..1: logarithmic from half to twice what the coral is used to. */
const place = (ratio: number) => Math.min(1, Math.max(0, Math.log(ratio / LOW) / Math.log(DISASTER / LOW)));

/** A small scale: today's light against what the coral is used to. The long mark is 1, the short one the most at a time. */
export const Balance = memo(function Balance({
  ratio,
  ceiling,
  width = 96,
}: {
  ratio: number;
  ceiling: number;
  width?: number;
}) {
  const paper = usePaper();
  const at = (r: number) => 5 + place(r) * (width - 10);
  return (
    <Svg width={width} height={24} aria-hidden>
      <Line x1={5} x2={width - 5} y1={17} y2={17} stroke={paper.strong} strokeWidth={1} />
      <Line x1={at(1)} x2={at(1)} y1={10} y2={23} stroke={paper.ink} strokeWidth={1.5} />
      <Line x1={at(ceiling)} x2={at(ceiling)} y1={14} y2={20} stroke={paper.ink} strokeWidth={1} />
      <Path d={`M${at(ratio)} 15 l-5 -9 h10 z`} fill={paper.ink} />
    </Svg>
  );
});
