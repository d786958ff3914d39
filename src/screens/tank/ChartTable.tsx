import { lengthFigure, lengthWords, unitsSaid } from '@/core/shape/units';
import { View } from 'react-native';

import type { Tank } from '@/core/optics/tank';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

const COLUMNS = [0.1, 0.3, 0.5, 0.7, 0.9];
const LINES = [
  { name: 'back', at: 0.85 },
  { name: 'middle', at: 0.5 },
  { name: 'front', at: 0.15 },
];

/** The chart from above in fifteen figures, for reading aloud. */
export function ChartTable({
  tank,
  depthCm,
  figure,
}: {
  tank: Pick<Tank, 'lengthCm' | 'widthCm'>;
  depthCm: number;
  figure: (xCm: number, yCm: number) => string;
}) {
  const cell = { flex: 1, textAlign: 'right' } as const;
  const columns = COLUMNS.map((share) => Math.round(share * tank.lengthCm));
  return (
    <View role="table" aria-label={`Light ${lengthWords(depthCm, true)} deep`}>
      <View role="row" style={{ flexDirection: 'row', gap: space.s, minHeight: 32 }}>
        <Type kind="small" role="columnheader" style={{ width: 52 }}>
          {`${unitsSaid().length} left`}
        </Type>
        {columns.map((x) => (
          <Type key={x} kind="small" role="columnheader" style={cell}>
            {lengthFigure(x)}
          </Type>
        ))}
      </View>
      {LINES.map(({ name, at }) => (
        <View key={name} role="row" style={{ flexDirection: 'row', gap: space.s, minHeight: 32 }}>
          <Type kind="small" role="rowheader" style={{ width: 52 }}>
            {name}
          </Type>
          {columns.map((x) => (
            <Type key={x} kind="label" role="cell" style={cell}>
              {figure(x, at * tank.widthCm)}
            </Type>
          ))}
        </View>
      ))}
    </View>
  );
}
