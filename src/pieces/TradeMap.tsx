import { View } from 'react-native';
import Svg, { Circle, Line, Text } from 'react-native-svg';

import { font, usePaper } from '@/ui/theme';

/** One arrangement on the map of what is traded: all three 0..1, more is better. */
export interface Traded {
  letter: string | null;
  suits: number;
  even: number;
  /** how little falls on the panes */
  clean: number;
}

const HEIGHT = 164;
const LEFT = 8;
const FOOT = 20;
const SMALLEST = 2;
const LARGEST = 7;

/** How well corals are served against how even the light is; a larger ring means more light on the panes. */
export function TradeMap({
  all,
  chosen,
  width,
  name,
}: {
  all: readonly Traded[];
  chosen: string | null;
  width: number;
  name: string;
}) {
  const paper = usePaper();
  const range = (of: (t: Traded) => number) => {
    const v = all.map(of);
    const [low, high] = [Math.min(...v), Math.max(...v)];
    return { low, span: Math.max(1e-6, high - low) };
  };
  const [xs, ys, rs] = [range((t) => t.even), range((t) => t.suits), range((t) => t.clean)];
  const x = (t: Traded) => LEFT + 16 + ((t.even - xs.low) / xs.span) * (width - LEFT - 44);
  const y = (t: Traded) => HEIGHT - FOOT - 12 - ((t.suits - ys.low) / ys.span) * (HEIGHT - FOOT - 46);
  const r = (t: Traded) => LARGEST - ((t.clean - rs.low) / rs.span) * (LARGEST - SMALLEST);
  const inOrder = [...all].sort((a, b) => Number(a.letter !== null) - Number(b.letter !== null));
  return (
    <View role="img" aria-label={name} style={{ width, height: HEIGHT }}>
      <Svg width={width} height={HEIGHT} aria-hidden>
        <Line x1={LEFT} y1={4} x2={LEFT} y2={HEIGHT - FOOT} stroke={paper.strong} />
        <Line x1={LEFT} y1={HEIGHT - FOOT} x2={width - 4} y2={HEIGHT - FOOT} stroke={paper.strong} />
        <Text x={LEFT + 6} y={14} fontFamily={font.sans} fontSize={11.5} fill={paper.quiet}>
          suits who lives here
        </Text>
        <Text
          x={width - 6}
          y={HEIGHT - 5}
          textAnchor="end"
          fontFamily={font.sans}
          fontSize={11.5}
          fill={paper.quiet}
        >
          more even; larger = more on the panes
        </Text>
        {inOrder.map((t, i) => (
          <Circle
            key={i}
            cx={x(t)}
            cy={y(t)}
            r={r(t)}
            fill={t.letter !== null && t.letter === chosen ? paper.ink : 'none'}
            stroke={paper.ink}
            strokeOpacity={t.letter === null ? 0.35 : 1}
            strokeWidth={t.letter === null ? 1 : 1.75}
          />
        ))}
        {inOrder.map(
          (t, i) =>
            t.letter !== null && (
              <Text
                key={`t${i}`}
                x={x(t) + 10}
                y={y(t) + 4}
                fontFamily={font.bold}
                fontSize={13}
                fill={paper.ink}
              >
                {t.letter}
              </Text>
            ),
        )}
      </Svg>
    </View>
  );
}
