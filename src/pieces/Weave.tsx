import { wrapMinute, DAY_MINUTES } from '@/core/shape/ring';
import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { type ComponentType, memo, useLayoutEffect, useMemo, useRef } from 'react';
import { Pressable, View } from 'react-native';
import Svg, { G, Line, Path, Text } from 'react-native-svg';

import { shortTime } from '@/core/day/clock';
import { xyzOf } from '@/core/colour/xyz';
import { PixelField } from '@/ui/PixelField';
import { font, usePaper } from '@/ui/theme';

import { type DayCurve, dayPoints } from './dayCurve';
import type { HandleProps } from './WeaveHandle';
import {
  HANDLE,
  spread,
  tintPixels,
  weavePixels,
  type WeaveSource,
  WEAVE_ROWS,
  weaveShare,
} from './weaveShape';

export interface WeaveThread {
  id: string;
  minute: number;
  strengthShare: number;
  /** µmol at the coral at this thread, all lamps */
  umol: number;
  /** the same as it is said everywhere; else in whole µmol */
  told?: string;
}

export interface WeaveProps {
  /** spectra at the coral with their level at a minute */
  sources: readonly WeaveSource[];
  /** PAR at the coral at a minute */
  parAt: (minute: number) => number;
  /** minutes at which the PAR line bends */
  knees: readonly number[];
  threads: readonly WeaveThread[];
  /** minutes shown; `to` may lie after midnight */
  from: number;
  to: number;
  width: number;
  fieldHeight: number;
  /** the day that runs, where another is drafted */
  ghost?: DayCurve | null;
  /** when somebody is home, minutes of the ring */
  home?: { fromMinute: number; toMinute: number } | null;
  /** minutes of flashes, drawn as short marks */
  flashes?: readonly number[];
  /** steps in which a thread slides, minutes */
  snapMin?: number;
  selected: string | null;
  spotName: string;
  onSelect: (id: string) => void;
  /** while the finger moves */
  onMove: (id: string, minute: number, strengthShare: number) => void;
  onRelease: () => void;
  /** a key press */
  onStep: (id: string, minute: number, strengthShare: number) => void;
  onOpen: (id: string) => void;
  /** left out where the weave is looked at, not set */
  onMinute?: (minute: number) => void;
  /** how a thread is held; left out where there are none to hold */
  handle?: ComponentType<HandleProps>;
}

const REGISTER = 82;
const LEADERS = 16;
/** Where threads stand closer, their handles are narrow: hours over minutes; closer than this they stand in rows. */
const NARROW_PX = 24;
const RIBBON = 7;
const RIBBON_COLUMNS = 96;
const GUTTER = 30;
const COLUMNS = 192;
/** Ink on the dark field, on either paper. */
const ON_FIELD = '#f5f0e5';

/**
 * The day: time × wavelength as it falls on a coral, its µmol above in a register of its own, vertical threads with
 * handles below: slide for time, pull for strength, tap to open.
 */
export function Weave(props: WeaveProps) {
  const {
    sources,
    parAt,
    knees,
    threads,
    from,
    to,
    width,
    fieldHeight,
    selected,
    ghost,
    home,
    handle: Handle,
  } = props;
  const paper = usePaper();
  const latest = useRef(props);
  useLayoutEffect(() => {
    latest.current = props;
  });
  const x = useMemo(() => scaleLinear([from, to], [GUTTER, width]), [from, to, width]);
  // a minute of the ring inside the shown window
  const shown = (minute: number) =>
    minute < from
      ? minute + DAY_MINUTES
      : minute > to && minute - DAY_MINUTES >= from
        ? minute - DAY_MINUTES
        : minute;
  const inside = (minute: number) => shown(minute) <= to;

  const pixels = useMemo(() => {
    const minuteOf = (column: number) =>
      (from + ((column + 0.5) / COLUMNS) * (to - from) + DAY_MINUTES) % DAY_MINUTES;
    return weavePixels(sources, COLUMNS, minuteOf, paper.plateDim);
  }, [sources, from, to, paper.plateDim]);

  const whites = useMemo(() => sources.map((s) => s.full.map((light) => xyzOf(light))), [sources]);
  const tints = useMemo(() => {
    const minuteOf = (column: number) =>
      (from + ((column + 0.5) / RIBBON_COLUMNS) * (to - from) + DAY_MINUTES) % DAY_MINUTES;
    return tintPixels(whites, sources, RIBBON_COLUMNS, minuteOf, paper.plateDim);
  }, [whites, sources, from, to, paper.plateDim]);

  const points = useMemo(() => dayPoints({ parAt, knees }, from, to), [knees, parAt, from, to]);
  const runs = useMemo(() => (ghost ? dayPoints(ghost, from, to) : []), [ghost, from, to]);
  const top = Math.max(20, ...points.map((p) => p[1]), ...runs.map((p) => p[1]));
  const y = scaleLinear([0, top], [REGISTER - 6, 18]);
  const inked = (of: [number, number][]) =>
    line<[number, number]>(
      (p) => x(p[0]),
      (p) => y(p[1]),
    )(of) ?? '';
  const ink = inked(points);
  const hours = useMemo(() => {
    const every = to - from > 900 ? 240 : to - from > 480 ? 120 : 60;
    const out: number[] = [];
    for (let m = Math.ceil((from + 20) / every) * every; m <= to - 20; m += every) out.push(m);
    return out;
  }, [from, to]);

  const visible = threads.filter((t) => inside(t.minute));
  // lines of one kind are one path: a pulled thread draws few things anew
  const [rest, chosen] = [visible.filter((t) => t.id !== selected), visible.filter((t) => t.id === selected)];
  // handles as wide as there is room for: narrow ones, then more than one row of them
  const rows = Math.max(1, Math.ceil((visible.length * NARROW_PX) / width));
  const pitch = Math.min(HANDLE.width, Math.max(NARROW_PX, (rows * width) / Math.max(1, visible.length)));
  const centres: number[] = [];
  for (let row = 0; row < rows; row += 1) {
    const mine = visible.map((_, i) => i).filter((i) => i % rows === row);
    spread(
      mine.map((i) => x(shown(visible[i]!.minute))),
      pitch,
      0,
      width,
    ).forEach((centre, k) => (centres[mine[k]!] = centre));
  }

  const field = (
    <PixelField
      pixels={pixels}
      columns={COLUMNS}
      rows={WEAVE_ROWS}
      width={width - GUTTER}
      height={fieldHeight}
    />
  );
  return (
    <View style={{ width }} testID="weave">
      <Svg width={width} height={REGISTER} aria-hidden>
        {y.ticks(3).map((v) => (
          <G key={v}>
            <Line x1={GUTTER} x2={width} y1={y(v)} y2={y(v)} stroke={paper.line} strokeWidth={1} />
            <Text
              x={width}
              y={y(v) - 3}
              fontSize={12}
              fontFamily={font.sans}
              fill={paper.quiet}
              textAnchor="end"
            >
              {v === y.ticks(3).at(-1) ? `${v} µmol` : v}
            </Text>
          </G>
        ))}
        {[rest, chosen].map((of, i) => (
          <Path
            key={i}
            d={of.map((t) => `M${x(shown(t.minute))} ${y(t.umol)}V${REGISTER}`).join('')}
            stroke={paper.ink}
            strokeWidth={1 + i}
          />
        ))}
        {runs.length > 0 && (
          <Path d={inked(runs)} fill="none" stroke={paper.quiet} strokeWidth={1.5} strokeDasharray="4 3" />
        )}
        <Path d={ink} fill="none" stroke={paper.ink} strokeWidth={2} strokeLinejoin="round" />
        {(props.flashes ?? []).map((m, i) => (
          <Line
            key={i}
            x1={x(shown(m))}
            x2={x(shown(m))}
            y1={REGISTER - 6}
            y2={REGISTER - 16}
            stroke={paper.ink}
            strokeWidth={0.75}
          />
        ))}
      </Svg>
      <View style={{ marginLeft: GUTTER, height: RIBBON }}>
        <PixelField
          pixels={tints}
          columns={RIBBON_COLUMNS}
          rows={1}
          width={width - GUTTER}
          height={RIBBON - 1}
          name="Colour of a white card through the day"
        />
      </View>
      {props.onMinute ? (
        <Pressable
          onPress={(e) => {
            const event = e.nativeEvent as unknown as { offsetX?: number; locationX?: number };
            const px = (event.locationX ?? event.offsetX ?? 0) + GUTTER;
            props.onMinute!(wrapMinute(Math.round(x.invert(px) / 5) * 5));
          }}
          role="button"
          aria-label={`Spectrum through the day at ${props.spotName}. Opens the chain of the minute pressed.`}
          testID="weave-field"
          style={{ marginLeft: GUTTER }}
        >
          {field}
        </Pressable>
      ) : (
        <View style={{ marginLeft: GUTTER }}>{field}</View>
      )}
      <View style={{ position: 'absolute', top: REGISTER + RIBBON, left: 0, pointerEvents: 'none' }}>
        <Svg width={width} height={fieldHeight + LEADERS} aria-hidden>
          <FieldMarks {...{ x, hours, home, from, to, fieldHeight }} />
          {[rest, chosen].map((of, i) => (
            <Path
              key={i}
              d={of.map((t) => `M${x(shown(t.minute))} 0V${fieldHeight}`).join('')}
              stroke={ON_FIELD}
              strokeOpacity={i === 1 ? 0.95 : 0.6}
              strokeWidth={1 + i}
            />
          ))}
          <Path
            d={visible
              .map((t, i) => `M${x(shown(t.minute))} ${fieldHeight}L${centres[i]!} ${fieldHeight + LEADERS}`)
              .join('')}
            stroke={paper.ink}
            strokeWidth={1}
          />
        </Svg>
      </View>
      {threads.length > 0 && <View style={{ height: LEADERS }} />}
      <View style={{ height: threads.length > 0 ? rows * (HANDLE.height + 4) - 4 : 0, width }}>
        {Handle &&
          visible.map((t, i) => (
            <Handle
              key={t.id}
              id={t.id}
              minute={t.minute}
              strengthShare={t.strengthShare}
              umol={Math.round(t.umol) === 0 ? 'dark' : (t.told ?? String(Math.round(t.umol)))}
              chosen={t.id === selected}
              centre={centres[i]!}
              pitch={pitch}
              top={(i % rows) * (HANDLE.height + 4)}
              minutesPerPx={(to - from) / (width - GUTTER)}
              weave={latest}
            />
          ))}
      </View>
    </View>
  );
}

/** What is written on the field: wavelengths, hours, and when somebody is home. A pulled thread touches none of it. */
const FieldMarks = memo(function FieldMarks({
  x,
  hours,
  home,
  from,
  to,
  fieldHeight,
}: {
  x: (minute: number) => number;
  hours: readonly number[];
} & Pick<WeaveProps, 'home' | 'from' | 'to' | 'fieldHeight'>) {
  const paper = usePaper();
  return (
    <>
      {[400, 450, 500, 550, 600, 650].map((nm) => (
        <Text
          key={nm}
          x={0}
          y={weaveShare(nm) * fieldHeight + 4}
          fontSize={11}
          fontFamily={font.sans}
          fill={paper.quiet}
        >
          {nm}
        </Text>
      ))}
      {hours.map((m) => (
        <Text
          key={m}
          x={x(m)}
          y={fieldHeight - 6}
          fontSize={11}
          fontFamily={font.sans}
          fill={ON_FIELD}
          fillOpacity={0.75}
          textAnchor="middle"
        >
          {shortTime(m)}
        </Text>
      ))}
      {(home ? homeSpans(home, from, to) : []).map(([a, b]) => (
        <G key={a}>
          <Line
            x1={x(a)}
            x2={x(b)}
            y1={fieldHeight - 1.5}
            y2={fieldHeight - 1.5}
            stroke={ON_FIELD}
            strokeWidth={3}
          />
          <Text
            x={(x(a) + x(b)) / 2}
            y={fieldHeight - 20}
            fontSize={11}
            fontFamily={font.sans}
            fill={ON_FIELD}
            fillOpacity={0.75}
            textAnchor="middle"
          >
            at home
          </Text>
        </G>
      ))}
    </>
  );
});

/** The hours at home inside the shown window. */
function homeSpans(
  { fromMinute, toMinute }: { fromMinute: number; toMinute: number },
  from: number,
  to: number,
): [number, number][] {
  const length = wrapMinute(toMinute - fromMinute);
  return [-DAY_MINUTES, 0, DAY_MINUTES]
    .map((by): [number, number] => [Math.max(from, fromMinute + by), Math.min(to, fromMinute + by + length)])
    .filter(([a, b]) => b - a > 1);
}
