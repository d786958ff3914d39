import { scaleLinear } from 'd3-scale';
import { memo, useMemo } from 'react';
import { View } from 'react-native';
import Svg, { Line, Text } from 'react-native-svg';

import { formatEnd, formatTime, shortTime } from '@/core/day/clock';
import { DAY_MINUTES } from '@/core/shape/ring';
import type { Lit } from '@/core/day/day';
import { PixelField } from '@/ui/PixelField';
import { font, usePaper } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { weavePixels, type WeaveSource, WEAVE_ROWS } from './weaveShape';

/** One water of the weave. */
export interface NightRow {
  id: string;
  name: string;
  /** spectra where it is looked at, with their level at a minute; null = not computed yet */
  sources: readonly WeaveSource[] | null;
  /** when it is lit, from midnight to midnight */
  lit: readonly Lit[];
}

interface Props {
  row: NightRow;
  /** minute of the day at which the 48 hours begin */
  fromMinute: number;
  /** minute of now, on the same line; null = not drawn */
  nowMinute: number | null;
  width: number;
}

const HOURS = 48;
const COLUMNS = 192;
const FIELD = 74;
const AXIS = 20;
const ON_FIELD = '#f5f0e5';

const linesOf = (fromMinute: number) =>
  Array.from({ length: HOURS / 6 + 1 }, (_, i) => Math.ceil(fromMinute / 360) * 360 + i * 360).filter(
    (m) => m >= fromMinute && m <= fromMinute + HOURS * 60,
  );
const scaleOf = (fromMinute: number, width: number) =>
  scaleLinear([fromMinute, fromMinute + HOURS * 60], [0, width]);

/** The day of one water over 48 hours: two nights in one look; fields under one another show what shares the clock. */
export const NightField = memo(function NightField({ row, fromMinute, nowMinute, width }: Props) {
  const paper = usePaper();
  const x = scaleOf(fromMinute, width);
  return (
    <View style={{ width, gap: 2 }} testID={`night-${row.name}`}>
      <Type kind="label">{row.name}</Type>
      <View style={{ height: FIELD }}>
        <Field row={row} fromMinute={fromMinute} width={width} dim={paper.plateDim} />
        <View style={{ position: 'absolute', top: 0, left: 0, pointerEvents: 'none' }}>
          <Svg width={width} height={FIELD} aria-hidden>
            {linesOf(fromMinute).map((m) => (
              <Line
                key={m}
                x1={x(m)}
                x2={x(m)}
                y1={0}
                y2={FIELD}
                stroke={ON_FIELD}
                strokeOpacity={m % DAY_MINUTES === 0 ? 0.6 : 0.22}
                strokeWidth={1}
                strokeDasharray={m % DAY_MINUTES === 0 ? undefined : '2 4'}
              />
            ))}
            {nowMinute !== null && (
              <Line x1={x(nowMinute)} x2={x(nowMinute)} y1={0} y2={FIELD} stroke={ON_FIELD} strokeWidth={2} />
            )}
          </Svg>
        </View>
      </View>
    </View>
  );
});

/** The clock under the fields. */
export const NightAxis = memo(function NightAxis({
  fromMinute,
  width,
}: {
  fromMinute: number;
  width: number;
}) {
  const paper = usePaper();
  const x = scaleOf(fromMinute, width);
  return (
    <Svg width={width} height={AXIS} aria-hidden>
      {linesOf(fromMinute).map((m) => (
        <Text
          key={m}
          x={Math.min(width - 20, Math.max(16, x(m)))}
          y={13}
          fontSize={12}
          fontFamily={font.sans}
          fill={m % DAY_MINUTES === 0 ? paper.ink : paper.quiet}
          textAnchor="middle"
        >
          {shortTime(m)}
        </Text>
      ))}
    </Svg>
  );
});

const litWords = (lit: readonly Lit[]) =>
  lit.length === 0
    ? 'always dark'
    : `lit ${lit.map((p) => `${formatTime(p.from)} to ${formatEnd(p.to)}`).join(', ')}`;

const Field = memo(function Field({
  row,
  fromMinute,
  width,
  dim,
}: {
  row: NightRow;
  fromMinute: number;
  width: number;
  dim: number;
}) {
  const { sources } = row;
  const pixels = useMemo(() => {
    const minuteOf = (column: number) => (fromMinute + ((column + 0.5) / COLUMNS) * HOURS * 60) % DAY_MINUTES;
    return weavePixels(sources ?? [], COLUMNS, minuteOf, dim);
  }, [sources, fromMinute, dim]);
  return (
    <PixelField
      pixels={pixels}
      columns={COLUMNS}
      rows={WEAVE_ROWS}
      width={width}
      height={FIELD}
      name={`${row.name}: ${litWords(row.lit)}`}
    />
  );
});
