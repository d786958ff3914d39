import { scaleLinear, scaleLog } from 'd3-scale';
import { line } from 'd3-shape';
import { memo } from 'react';
import Svg, { Line, Path, Text } from 'react-native-svg';

import { DISASTER } from '@/core/easing/accustomed';
import { font, usePaper } from '@/ui/theme';

interface Props {
  /** [day][coral] today's light against what each is used to then */
  ratios: readonly (readonly number[])[];
  names: readonly string[];
  /** corals that are drawn strong and named, the most limited first */
  strong: readonly number[];
  ceiling: number;
  /** the largest step ratio of each day if the change were made at once */
  atOnce?: readonly number[];
  /** µmol a day at its brightest at the chosen coral */
  peaks: readonly number[];
  peakName: string;
  /** day → "3 Dec" */
  dateOf: (day: number) => string;
  width: number;
  name: string;
}

const UMOL = 58;
const HEIGHT = 244;
const FOOT = 20;
const LEFT = 34;
const DASHES = [undefined, '7 3', '2 3'];
/** How the lines of the strong ones look, for the key under the chart. */
const LOOKS = ['—', '– –', '···'];

/** The key under the chart. */
export const courseKey = (names: readonly string[], strong: readonly number[]): string =>
  `${strong.map((s, i) => `${LOOKS[i % LOOKS.length]} ${names[s]}`).join('   ')}${names.length > strong.length ? '   thin: the others' : ''}`;

/** Times what corals are used to, day by day, under the ceiling; above, in a register of its own, the light that makes it. */
export const RatioCourse = memo(function RatioCourse({
  ratios,
  names,
  strong,
  ceiling,
  atOnce,
  peaks,
  peakName,
  dateOf,
  width,
  name,
}: Props) {
  const paper = usePaper();
  const days = ratios.length;
  const most = Math.max(
    ceiling * 1.12,
    1.35,
    ...ratios.flat().filter(Number.isFinite),
    ...(atOnce ?? []).filter(Number.isFinite),
  );
  const top = Math.min(6, most * 1.04);
  const low = Math.max(0.5, Math.min(0.9, ...ratios.flat().filter((r) => r > 0)));
  const x = scaleLinear([0, Math.max(1, days - 1)], [LEFT, width - 4]);
  const y = scaleLog([low, top], [HEIGHT - FOOT, UMOL + 22]).clamp(true);
  const u = scaleLinear([0, Math.max(1, ...peaks)], [UMOL, 16]);
  // a day's light is one: steps stand at its beginning
  const steps = (values: readonly number[], at: (v: number) => number) =>
    line<[number, number]>()(
      values.flatMap((v, d): [number, number][] => [
        [x(d), at(v)],
        [x(Math.min(days - 1, d + 1)), at(v)],
      ]),
    ) ?? '';
  const marks = [1, ceiling, ...(top > DISASTER ? [DISASTER] : [])];
  const ticks = Array.from({ length: 4 }, (_, i) => Math.round((i * (days - 1)) / 3));
  return (
    <Svg width={width} height={HEIGHT} role="img" aria-label={name}>
      <Path d={steps(peaks, u)} fill="none" stroke={paper.ink} strokeWidth={1.5} />
      <Text x={LEFT} y={11} fontSize={12} fontFamily={font.sans} fill={paper.quiet}>
        {`${peakName}: ${Math.round(peaks[0] ?? 0)} → ${Math.round(peaks[peaks.length - 1] ?? 0)} µmol at its brightest`}
      </Text>
      <Line x1={LEFT} x2={width} y1={UMOL} y2={UMOL} stroke={paper.line} strokeWidth={1} />
      {marks.map((m) => (
        <Line
          key={m}
          x1={LEFT}
          x2={width}
          y1={y(m)}
          y2={y(m)}
          stroke={m === 1 ? paper.ink : paper.strong}
          strokeWidth={1}
          strokeDasharray={m === 1 ? undefined : '4 4'}
        />
      ))}
      {marks.map((m) => (
        <Text
          key={`t${m}`}
          x={LEFT - 4}
          y={y(m) + 4}
          fontSize={12}
          fontFamily={font.sans}
          fill={paper.ink}
          textAnchor="end"
        >
          {m === 1 ? '1 ×' : String(Math.round(m * 100) / 100)}
        </Text>
      ))}
      {names.map((n, s) =>
        strong.includes(s) ? null : (
          <Path
            key={n}
            d={steps(
              ratios.map((r) => r[s]!),
              y,
            )}
            fill="none"
            stroke={paper.line}
            strokeWidth={1.25}
          />
        ),
      )}
      {atOnce && (
        <Path
          d={steps(atOnce.slice(0, days), y)}
          fill="none"
          stroke={paper.quiet}
          strokeWidth={2}
          strokeDasharray="1 4"
          strokeLinecap="round"
        />
      )}
      {strong.map((s, i) => (
        <Path
          key={s}
          d={steps(
            ratios.map((r) => r[s]!),
            y,
          )}
          fill="none"
          stroke={paper.ink}
          strokeWidth={i === 0 ? 2 : 1.4}
          strokeDasharray={DASHES[i % DASHES.length]}
        />
      ))}
      <Line x1={LEFT} x2={width} y1={HEIGHT - FOOT} y2={HEIGHT - FOOT} stroke={paper.line} strokeWidth={1} />
      {ticks.map((d, i) => (
        <Text
          key={`d${i}`}
          x={i === 0 ? LEFT : x(d)}
          y={HEIGHT - 4}
          fontSize={12}
          fontFamily={font.sans}
          fill={paper.quiet}
          textAnchor={i === 0 ? 'start' : i === ticks.length - 1 ? 'end' : 'middle'}
        >
          {i === 0 ? 'today' : dateOf(d)}
        </Text>
      ))}
    </Svg>
  );
});
