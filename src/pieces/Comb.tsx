import { scaleLinear } from 'd3-scale';
import { area, line } from 'd3-shape';
import { memo, useCallback, useMemo, useRef, useState } from 'react';
import Svg, { Circle, Defs, G, Line, LinearGradient, Path, Rect, Stop, Text } from 'react-native-svg';

import { wavelengthColours } from '@/core/colour/look';
import { cssRgb } from '@/core/colour/screen';
import type { Levels } from '@/core/spectrum/lampKind';
import { at, indexOfNm } from '@/core/spectrum/grid';
import { type Pull, Pulled } from '@/ui/Pulled';
import { SliderGrip } from '@/ui/SliderGrip';
import { font, size, usePaper } from '@/ui/theme';

import { combSpan, type Crest, heightShare } from './combShape';
import { NmAxis } from './NmAxis';
import { pullTo } from './pull';

interface Props {
  crests: readonly Crest[];
  /** values of the controls */
  levels: Levels;
  /** the light they make together, on the grid, in the crests' unit */
  sum: Float64Array;
  /** photon flux per nm with everything full: what just fills the height */
  most: Float64Array;
  /** another light laid behind, already at equal PAR */
  behind?: Float64Array | null;
  /** controls that a pull leaves alone */
  locked?: readonly string[];
  /** the only control that is lit */
  solo?: string | null;
  width: number;
  height?: number;
  /** step of a level as a share */
  stepShare: number;
  selected: string | null;
  onSelect: (channelId: string) => void;
  /** while the finger moves */
  onPull: (channelId: string, level: number) => void;
  /** the finger lifts */
  onRelease: () => void;
  /** a key press or another whole step */
  onStep: (channelId: string, level: number) => void;
}

const NONE: readonly string[] = [];
const HEAD = 40;
const FOOT = 20;
/** Drawing every second nm is finer than a pixel. */
const EVERY_NM = 2;

/**
 * The mix editor: each channel's own emission standing at its wavelength with a grip on its crest. Touch anywhere, slide
 * sideways to choose the crest, up or down to pull it.
 */
export function Comb({
  crests,
  levels,
  sum,
  most,
  behind,
  locked = NONE,
  solo,
  width,
  height = 300,
  stepShare,
  selected,
  onSelect,
  onPull,
  onRelease,
  onStep,
}: Props) {
  const paper = usePaper();
  const [fromNm, toNm] = useMemo(() => combSpan(crests), [crests]);
  const base = height - FOOT;
  const x = useMemo(() => scaleLinear([fromNm, toNm], [8, width - 8]), [fromNm, toNm, width]);
  const nms = useMemo(() => {
    const out: number[] = [];
    for (let nm = fromNm; nm <= toNm; nm += EVERY_NM) out.push(nm);
    return out;
  }, [fromNm, toNm]);
  // all channels at full just fill the height; heights go by the square root of power, so that weak channels show
  const perRoot = useMemo(() => {
    return (base - HEAD) / Math.sqrt(Math.max(...most, 1e-12));
  }, [most, base]);
  const top = HEAD - 6;
  const draw = useCallback(
    (s: Float64Array) =>
      line<number>(
        (nm) => x(nm),
        (nm) => Math.max(top, base - perRoot * Math.sqrt(at(s, nm))),
      )(nms) ?? '',
    [nms, x, base, perRoot, top],
  );
  const outline = useMemo(() => draw(sum), [draw, sum]);
  const reference = useMemo(() => (behind ? draw(behind) : null), [draw, behind]);

  const live = useRef({ x: 0, y: 0, startX: 0, lastY: 0, id: null as string | null, level: 0 });
  const [pulled, setPulled] = useState<string | null>(null);
  const nearest = (px: number) =>
    crests.reduce((best, c) => (Math.abs(x(c.nm) - px) < Math.abs(x(best.nm) - px) ? c : best)).id;

  const pull: Pull = {
    onBegin: (e) => {
      live.current = { x: e.x, y: e.y, startX: e.x, lastY: e.y, id: null, level: 0 };
      onSelect(nearest(e.x));
    },
    onUpdate: (e) => {
      const state = live.current;
      if (state.id === null) {
        const dx = e.x - state.x;
        const dy = e.y - state.y;
        if (Math.abs(dy) > 6 && Math.abs(dy) > Math.abs(dx) * 0.8) {
          state.id = nearest(e.x);
          if (locked.includes(state.id)) {
            state.id = null;
            return;
          }
          state.level = levels[state.id] ?? 0;
          state.startX = e.x;
          state.lastY = e.y;
          setPulled(state.id);
        } else {
          onSelect(nearest(e.x));
          if (Math.abs(dx) > 12) state.y = e.y;
        }
        return;
      }
      state.level = pullTo(state.level, state.lastY - e.y, e.x - state.startX);
      state.lastY = e.y;
      const kind = crests.find((c) => c.id === state.id)!.kind;
      onPull(
        state.id,
        kind === 'onOff'
          ? Number(state.level >= 0.5)
          : stepShare > 0
            ? Math.min(1, Math.round(state.level / stepShare) * stepShare)
            : state.level,
      );
    },
    onFinalize: () => {
      if (live.current.id !== null) onRelease();
      live.current.id = null;
      setPulled(null);
    },
  };

  const stepTo = useCallback((now: number, id?: string) => onStep(id!, now / 100), [onStep]);
  const front = crests.find((c) => c.id === (pulled ?? selected)) ?? null;
  const percent = (id: string) => Math.round((levels[id] ?? 0) * 100);
  const shareOf = (c: Crest) => heightShare(c, levels[c.id] ?? 0);
  const gripY = (c: Crest) => Math.max(top, base - perRoot * Math.sqrt(at(c.full, c.nm) * shareOf(c)));
  const says = (c: Crest) =>
    c.kind === 'onOff' ? ((levels[c.id] ?? 0) > 0 ? 'on' : 'off') : `${percent(c.id)} %`;
  const labelX = front ? Math.min(width - 74, Math.max(74, x(front.nm))) : 0;

  return (
    <Pulled pull={pull} style={{ width, height }} testID="comb">
      <Svg width={width} height={height} aria-hidden>
        <Defs>
          <Rainbow fromNm={fromNm} toNm={toNm} x1={x(fromNm)} x2={x(toNm)} dim={paper.plateDim} />
        </Defs>
        <NmAxis x={x} width={width} base={base} height={height} />
        {crests.map((c) => (
          <Hump
            key={c.id}
            crest={c}
            nms={nms}
            x={x}
            perRoot={perRoot}
            base={base}
            level={shareOf(c)}
            opacity={
              solo ? (c.id === solo ? 0.95 : 0.12) : front === null ? 0.62 : front.id === c.id ? 0.95 : 0.4
            }
          />
        ))}
        {front && <Ghost crest={front} nms={nms} x={x} perRoot={perRoot} base={base} colour={paper.strong} />}
        <Line x1={0} x2={width} y1={base} y2={base} stroke={paper.ink} strokeWidth={1} />
        {reference && (
          <Path
            d={reference}
            fill="none"
            stroke={paper.quiet}
            strokeWidth={1.5}
            strokeDasharray="6 3"
            testID="comb-behind"
          />
        )}
        <Path d={outline} fill="none" stroke={paper.ink} strokeWidth={1.75} />
        {crests.map((c) => (
          <Grip
            key={c.id}
            cx={x(c.nm)}
            cy={gripY(c)}
            chosen={front?.id === c.id}
            locked={locked.includes(c.id)}
          />
        ))}
        {front && (
          <G>
            <Text x={labelX} y={15} fontSize={15} fontFamily={font.bold} fill={paper.ink} textAnchor="middle">
              {`${front.name} ${says(front)}`}
            </Text>
            <Text
              x={labelX}
              y={31}
              fontSize={12}
              fontFamily={font.sans}
              fill={paper.quiet}
              textAnchor="middle"
            >
              {locked.includes(front.id)
                ? 'locked'
                : front.kind === 'onOff'
                  ? `circuit · ${front.light}`
                  : front.kind === 'trim'
                    ? `of its range · ${front.light}`
                    : `of full · ${front.light}`}
            </Text>
          </G>
        )}
      </Svg>
      {crests.map((c) => (
        <SliderGrip
          key={c.id}
          name={`${c.name}, ${c.light}`}
          now={percent(c.id)}
          valueText={
            c.kind === 'onOff' ? says(c) : `${says(c)} of ${c.kind === 'trim' ? 'its range' : 'full'}`
          }
          step={c.kind === 'onOff' ? 100 : Math.max(1, Math.round(stepShare * 100))}
          id={c.id}
          onFocus={onSelect}
          onChange={stepTo}
          left={x(c.nm) - size.target / 2}
          top={gripY(c) - size.target / 2}
        />
      ))}
    </Pulled>
  );
}

interface HumpProps {
  crest: Crest;
  nms: readonly number[];
  x: (nm: number) => number;
  perRoot: number;
  base: number;
}

/** A channel's own emission; its path is made once, a pull only scales it. */
const Hump = memo(function Hump({
  crest,
  nms,
  x,
  perRoot,
  base,
  level,
  opacity,
}: HumpProps & { level: number; opacity: number }) {
  const d = useMemo(
    () =>
      area<number>(
        (nm) => x(nm),
        0,
        (nm) => -perRoot * Math.sqrt(at(crest.full, nm)),
      )([...nms]) ?? '',
    [crest, nms, x, perRoot],
  );
  return (
    <Path
      d={d}
      fill="url(#rainbow)"
      fillOpacity={opacity}
      transform={`translate(0, ${base}) scale(1, ${Math.sqrt(level)})`}
    />
  );
});

const Ghost = memo(function Ghost({ crest, nms, x, perRoot, base, colour }: HumpProps & { colour: string }) {
  const d = useMemo(
    () =>
      line<number>(
        (nm) => x(nm),
        (nm) => base - perRoot * Math.sqrt(at(crest.full, nm)),
      )([...nms]) ?? '',
    [crest, nms, x, perRoot, base],
  );
  return <Path d={d} fill="none" stroke={colour} strokeWidth={1} strokeDasharray="3 3" />;
});

/** The drawn grip of a channel. */
const Grip = memo(function Grip({
  cx,
  cy,
  chosen,
  locked,
}: {
  cx: number;
  cy: number;
  chosen: boolean;
  locked: boolean;
}) {
  const paper = usePaper();
  if (locked) {
    return (
      <Rect
        x={cx - 8}
        y={cy - 8}
        width={16}
        height={16}
        fill={paper.ink}
        stroke={paper.paper}
        strokeWidth={1.5}
      />
    );
  }
  return (
    <>
      <Circle
        cx={cx}
        cy={cy}
        r={chosen ? 11 : 8.5}
        fill={chosen ? paper.ink : paper.paper}
        stroke={paper.ink}
        strokeWidth={1.5}
      />
      <Line
        x1={cx - 3.5}
        x2={cx + 3.5}
        y1={cy}
        y2={cy}
        stroke={chosen ? paper.paper : paper.ink}
        strokeWidth={1.5}
      />
    </>
  );
});

/** The colours of the wavelengths as one gradient across the comb. */
const Rainbow = memo(function Rainbow({
  fromNm,
  toNm,
  x1,
  x2,
  dim,
}: {
  fromNm: number;
  toNm: number;
  x1: number;
  x2: number;
  dim: number;
}) {
  const stops: number[] = [];
  for (let nm = fromNm; nm <= toNm; nm += 6) stops.push(nm);
  return (
    <LinearGradient id="rainbow" gradientUnits="userSpaceOnUse" x1={x1} y1={0} x2={x2} y2={0}>
      {stops.map((nm) => {
        const [r, g, b] = wavelengthColours()[indexOfNm(nm)]!;
        return (
          <Stop
            key={nm}
            offset={(nm - fromNm) / (toNm - fromNm)}
            stopColor={cssRgb([Math.round(r * dim), Math.round(g * dim), Math.round(b * dim)])}
          />
        );
      })}
    </LinearGradient>
  );
});
