import { lengthWords } from '@/core/shape/units';
import { useLayoutEffect, useMemo, useRef, useState } from 'react';
import { View } from 'react-native';
import Svg, { Circle, ClipPath, Defs, G, Line, Path, Pattern, Rect, Text } from 'react-native-svg';

import type { Standing } from '@/core/record/needs';
import type { Solid } from '@/core/optics/tank';
import { type Pull, Pulled } from '@/ui/Pulled';
import { SliderGrip } from '@/ui/SliderGrip';
import { font, size, usePaper } from '@/ui/theme';

import { Glyph, HeldFigure, MARK, Rock, waterLine } from './SoundingMarks';
import {
  type Box,
  contourPaths,
  contourValues,
  type Label,
  NEAR_RINGS,
  type Placed,
  placeRichest,
  type Sheet,
  type SoundingMark,
  type SoundingView,
  textWidth,
  valueAt,
} from './soundingShape';

interface Props {
  view: SoundingView;
  /** figure as it is printed */
  format: (value: number) => string;
  /** what is wanted: below is dotted, above is hatched */
  suits: { from: number; to: number } | null;
  /** true when values are differences: the zero line is strong, losses are dashed */
  signed: boolean;
  marks: readonly SoundingMark[];
  /** figures that were read */
  read: readonly { id: string; across: number; down: number; text: string }[];
  solids: readonly Solid[];
  probe: { across: number; down: number } | null;
  selected: string | null;
  width: number;
  /** the part of the width that is in sight, px: what is printed and taken hold of stands there; absent = all of it */
  part?: { from: number; to: number };
  /** the spoken name */
  name: string;
  onProbe: (across: number, down: number) => void;
  onSelect: (id: string) => void;
  onMove: (id: string, across: number, down: number) => void;
  /** while a mark is held: what stands beside it */
  held?: (id: string, across: number, down: number) => string;
  testID?: string;
}

const GRAB_PX = 24;
const TAP_PX = 6;
/** What a coral's label says and how far it may go, richest first: name, figure and reading; then nearer the figure alone. */
const LAYOUTS = [
  { lines: 3, rings: NEAR_RINGS },
  { lines: 2, rings: NEAR_RINGS },
  { lines: 2 },
  { lines: 1 },
];
const FIGURE = 11.5;
const NAME = 12.5;
const NO_RULER = 0;

/** The tank like a nautical chart: contour lines and printed figures of light, corals as marks, readings as soundings, to scale. */
export function Sounding(props: Props) {
  const { view, width, marks, suits, signed, format, probe, solids, read, selected } = props;
  const paper = usePaper();
  const latest = useRef(props);
  useLayoutEffect(() => {
    latest.current = props;
  });
  const [held, setHeld] = useState<{ id: string; across: number; down: number } | null>(null);
  const scale = (width - 2 - NO_RULER) / view.acrossCm;
  const top = view.airCm * scale + 1;
  const height = top + view.downCm * scale + 1;
  const px = (across: number) => 1 + across * scale;
  const py = (down: number) => top + down * scale;
  const sheet = useMemo((): Sheet => {
    const { nx, ny, values, layered, acrossCm, downCm } = view;
    return {
      nx,
      ny,
      values,
      project: (gx, gy) => {
        const down = layered ? Math.min(1, Math.max(0, (gy - 0.5) / (ny - 1))) : gy / ny;
        return [1 + (gx / nx) * acrossCm * scale, top + down * downCm * scale];
      },
    };
  }, [view, scale, top]);

  const drawn = useMemo(() => {
    const finite = Array.from(view.values).filter((v) => Number.isFinite(v));
    const low = Math.min(...finite);
    const high = Math.max(...finite);
    const lines = contourPaths(
      sheet,
      signed ? withZero(contourValues(low, high)) : contourValues(Math.max(low, 0), high),
    );
    const edges = suits ? contourPaths(sheet, [suits.from, suits.to]) : [];
    return { lines, edges, any: finite.length > 0 };
  }, [sheet, view, suits, signed]);

  const shown = marks.map((m) => (held?.id === m.id ? { ...m, across: held.across, down: held.down } : m));
  const { from, to } = props.part ?? { from: 0, to: width };
  const bounds: Box = { x0: from + 2, y0: 2, x1: to - 2, y1: height - 2 };
  const inSight = (m: SoundingMark) => !props.part || (px(m.across) >= from && px(m.across) <= to);
  const obstacles = shown
    .filter((m) => m.kind !== 'lamp')
    .map((m) => around(px(m.across), py(m.down), MARK + 2));
  if (probe) obstacles.push(around(px(probe.across), py(probe.down), MARK + 2));
  /** labels of the chart in order of importance; where room is short corals keep their figures alone */
  const labelsOf = ({ lines: most, rings }: { lines: number; rings?: number }) => {
    const labels: Label[] = [];
    const texts = new Map<string, Texted>();
    const add = (
      id: string,
      x: number,
      y: number,
      lines: string[],
      bold: boolean,
      fontSize: number,
      gap: number,
    ) => {
      texts.set(id, { lines, bold, size: fontSize, at: [x, y] });
      labels.push({
        id,
        x,
        y,
        gap,
        width: Math.max(...lines.map((t) => textWidth(t, fontSize))),
        height: lines.length * (fontSize + 2) + 1,
      });
    };
    for (const m of shown) {
      if (m.kind === 'lamp' || m.letter || !inSight(m)) continue;
      const standing = m.standing ? ` ${SIGNS[m.standing]}` : '';
      const all = [m.name, `${m.figure}${standing}`, ...(m.read === null ? [] : [`read ${m.read}`])];
      const lines = most > 1 ? all.slice(0, most) : all.slice(1, 2);
      add(`m ${m.id}`, px(m.across), py(m.down), lines, true, NAME, MARK + 3);
    }
    for (const m of shown) {
      if (m.kind !== 'lamp' || !inSight(m)) continue;
      add(`m ${m.id}`, px(m.across), py(m.down), [m.name], false, FIGURE, 0);
    }
    for (const r of read) add(`r ${r.id}`, px(r.across), py(r.down), [r.text], true, FIGURE, 4);
    for (const c of drawn.lines) {
      const along = c.along.filter(([x]) => x >= from && x <= to);
      const middle = along[Math.floor(along.length / 2)];
      if (middle)
        add(
          `c ${c.value}`,
          middle[0],
          middle[1],
          [signed && c.value > 0 ? `+${c.value}` : String(c.value)],
          false,
          FIGURE,
          0,
        );
    }
    // soundings of the model on a lattice
    const stepX = 52;
    const stepY = 30;
    for (let y = top + stepY / 2; y < height - 6; y += stepY) {
      for (let x = from + stepX / 2; x < to; x += stepX) {
        const gy = view.layered
          ? ((y - top) / (view.downCm * scale)) * (view.ny - 1) + 0.5
          : ((y - top) / (view.downCm * scale)) * view.ny;
        const value = valueAt(view, ((x - 1) / (view.acrossCm * scale)) * view.nx, gy);
        if (Number.isFinite(value)) add(`p ${x} ${y}`, x, y, [format(value)], false, FIGURE, 0);
      }
    }
    return { labels, texts, rings };
  };
  const { set, placed } = placeRichest(
    LAYOUTS.map((layout) => () => labelsOf(layout)),
    (id) => id.startsWith('m spot'),
    obstacles,
    bounds,
  );
  const { labels, texts } = set;

  const clampTo = (across: number, down: number, kind: SoundingMark['kind']): [number, number] =>
    kind === 'lamp'
      ? [
          Math.min(view.acrossCm + 40, Math.max(-40, across)),
          view.kind === 'top'
            ? Math.min(view.downCm + 40, Math.max(-40, down))
            : Math.min(-1, Math.max(-200, down)),
        ]
      : [Math.min(view.acrossCm, Math.max(0, across)), Math.min(view.downCm, Math.max(0, down))];
  const toCm = (x: number, y: number): [number, number] => [(x - 1) / scale, (y - top) / scale];
  const grabbed = useRef<{ mark: SoundingMark | null; x: number; y: number; moved: boolean }>({
    mark: null,
    x: 0,
    y: 0,
    moved: false,
  });
  const near = (x: number, y: number): SoundingMark | null => {
    let best: SoundingMark | null = null;
    let least = GRAB_PX;
    for (const m of latest.current.marks) {
      const [dx, dy] = [Math.abs(px(m.across) - x), Math.abs(py(m.down) - y)];
      const inside =
        m.kind === 'lamp' && dx < (m.wide! * scale) / 2 && dy < Math.max(9, (m.high! * scale) / 2);
      // corals lie over lamps
      const far = inside ? GRAB_PX - 1 : Math.hypot(dx, dy) + (m.kind === 'lamp' ? 10 : 0);
      if (far < least) [least, best] = [far, m];
    }
    return best;
  };
  const pull: Pull = {
    onBegin: (e) => {
      grabbed.current = { mark: near(e.x, e.y), x: e.x, y: e.y, moved: false };
    },
    onUpdate: (e) => {
      const g = grabbed.current;
      if (!g.moved && Math.hypot(e.translationX, e.translationY) < TAP_PX) return;
      g.moved = true;
      if (g.mark) {
        const [across, down] = clampTo(
          g.mark.across + e.translationX / scale,
          g.mark.down + e.translationY / scale,
          g.mark.kind,
        );
        setHeld({ id: g.mark.id, across, down });
      } else {
        const [across, down] = clampTo(...toCm(g.x + e.translationX, g.y + e.translationY), 'spot');
        latest.current.onProbe(across, down);
      }
    },
    onFinalize: (e) => {
      const g = grabbed.current;
      if (g.mark && g.moved) {
        const [across, down] = clampTo(
          g.mark.across + e.translationX / scale,
          g.mark.down + e.translationY / scale,
          g.mark.kind,
        );
        setHeld(null);
        latest.current.onMove(g.mark.id, round(across), round(down));
      } else if (g.mark) latest.current.onSelect(g.mark.id);
      else if (!g.moved) latest.current.onProbe(...clampTo(...toCm(g.x, g.y), 'spot'));
      grabbed.current = { mark: null, x: 0, y: 0, moved: false };
    },
  };

  const clip = `water-${view.kind}`;
  return (
    <View style={{ width, height }} role="group" aria-label={props.name} testID={props.testID}>
      <Pulled pull={pull} style={{ width, height }}>
        <Svg width={width} height={height} aria-hidden>
          <Defs>
            <Pattern id={`dots-${view.kind}`} width={9} height={9} patternUnits="userSpaceOnUse">
              <Circle cx={3} cy={3} r={0.9} fill={paper.strong} />
            </Pattern>
            <Pattern id={`hatch-${view.kind}`} width={7} height={7} patternUnits="userSpaceOnUse">
              <Path d="M0,7L7,0" stroke={paper.strong} strokeWidth={0.9} />
            </Pattern>
            <ClipPath id={clip}>
              <Rect x={1} y={top} width={view.acrossCm * scale} height={view.downCm * scale} />
            </ClipPath>
          </Defs>
          {suits && (
            <G clipPath={`url(#${clip})`}>
              <Rect x={1} y={top} width={width} height={height - top} fill={`url(#dots-${view.kind})`} />
              <Path d={drawn.edges[0]?.area ?? ''} fill={paper.paper} fillRule="evenodd" />
              <Path d={drawn.edges[1]?.area ?? ''} fill={`url(#hatch-${view.kind})`} fillRule="evenodd" />
            </G>
          )}
          {drawn.lines.map((c) => (
            <Path
              key={c.value}
              d={c.line}
              fill="none"
              stroke={paper.ink}
              strokeWidth={signed && c.value === 0 ? 1.8 : 0.8}
              strokeOpacity={0.75}
              strokeDasharray={signed && c.value < 0 ? '4 3' : undefined}
            />
          ))}
          {drawn.edges.map((c) => (
            <Path key={`e${c.value}`} d={c.line} fill="none" stroke={paper.ink} strokeWidth={1.7} />
          ))}
          {solids.map((s) => (
            <Rock key={s.id} solid={s} view={view.kind} px={px} py={py} scale={scale} />
          ))}
          {view.airCm > 0 && (
            <Path d={waterLine(width, top)} fill="none" stroke={paper.ink} strokeWidth={1} />
          )}
          <Path
            d={`M1,${top}V${height - 1}H${width - 1}V${top}${view.airCm > 0 ? '' : 'Z'}`}
            fill="none"
            stroke={paper.ink}
            strokeWidth={1.75}
          />
          {shown
            .filter((m) => m.kind === 'lamp')
            .map((m) => (
              <Rect
                key={m.id}
                x={-(m.wide! * scale) / 2}
                y={-Math.max(3, (m.high! * scale) / 2)}
                width={m.wide! * scale}
                height={Math.max(6, m.high! * scale)}
                transform={`translate(${px(m.across)} ${py(m.down)}) rotate(${m.turnDeg ?? 0})`}
                fill={view.kind === 'top' ? 'none' : paper.raised}
                stroke={paper.ink}
                strokeWidth={m.id === selected ? 2.5 : 1.25}
                strokeDasharray={view.kind === 'top' ? '7 3' : undefined}
              />
            ))}
          {shown
            .filter((m) => m.kind !== 'lamp')
            // the chosen one lies on the others
            .sort((a, b) => Number(a.id === selected) - Number(b.id === selected))
            .map((m) => (
              <Glyph key={m.id} mark={m} x={px(m.across)} y={py(m.down)} chosen={m.id === selected} />
            ))}
          {probe && <Cross x={px(probe.across)} y={py(probe.down)} />}
          <Labels {...{ labels, texts, placed }} />
          {held && props.held && (
            <HeldFigure
              text={props.held(held.id, held.across, held.down)}
              x={px(held.across)}
              y={py(held.down)}
              width={width}
            />
          )}
        </Svg>
      </Pulled>
      <View style={{ pointerEvents: 'none', position: 'absolute', top: 0, left: 0 }}>
        {marks.filter(inSight).map((m) => (
          <SliderGrip
            key={m.id}
            id={m.id}
            name={`${m.kind === 'lamp' ? 'Lamp ' : ''}${m.name}, ${VIEW_NAMES[view.kind]}`}
            now={Math.round(m.across)}
            min={-40}
            max={Math.round(view.acrossCm) + 40}
            step={1}
            valueText={`${lengthWords(m.across)} across, ${lengthWords(Math.abs(m.down))} ${m.down < 0 ? 'up' : 'down'}${m.figure ? `, ${m.figure}` : ''}`}
            onChange={(to) => props.onMove(m.id, ...clampTo(to, m.down, m.kind))}
            onCross={(by) => props.onMove(m.id, ...clampTo(m.across, m.down - by, m.kind))}
            onOpen={() => props.onSelect(m.id)}
            left={px(m.across) - size.target / 2}
            top={py(m.down) - size.target / 2}
            testID={`mark-${view.kind}-${m.name}`}
          />
        ))}
      </View>
    </View>
  );
}

/** The place that is asked about. */
function Cross({ x, y }: { x: number; y: number }) {
  const paper = usePaper();
  return <Path d={`M${x - 8},${y}H${x + 8}M${x},${y - 8}V${y + 8}`} stroke={paper.ink} strokeWidth={1.5} />;
}

interface Texted {
  lines: string[];
  bold: boolean;
  size: number;
  at: [number, number];
}

/** What is printed on the chart, each on a veil of paper, with a leader where it stands off its mark. */
function Labels({
  labels,
  texts,
  placed,
}: {
  labels: readonly Label[];
  texts: ReadonlyMap<string, Texted>;
  placed: ReadonlyMap<string, Placed>;
}) {
  const paper = usePaper();
  return labels.map((l) => {
    const at = placed.get(l.id);
    const text = texts.get(l.id)!;
    if (!at) return null;
    const { box } = at;
    return (
      <G key={l.id}>
        {at.leader && (
          <Line
            x1={text.at[0]}
            y1={text.at[1]}
            x2={Math.min(box.x1, Math.max(box.x0, text.at[0]))}
            y2={Math.min(box.y1, Math.max(box.y0, text.at[1]))}
            stroke={paper.ink}
            strokeWidth={0.7}
          />
        )}
        <Rect x={box.x0} y={box.y0} width={l.width} height={l.height} fill={paper.paper} fillOpacity={0.82} />
        {text.lines.map((line, i) => (
          <Text
            key={i}
            x={(box.x0 + box.x1) / 2}
            y={box.y0 + (i + 1) * (text.size + 2) - 2.5}
            fontSize={text.size}
            fontFamily={text.bold ? font.medium : font.sans}
            fill={l.id.startsWith('p ') ? paper.quiet : paper.ink}
            textAnchor="middle"
          >
            {line}
          </Text>
        ))}
      </G>
    );
  });
}

const VIEW_NAMES = { top: 'from above', front: 'from the front', side: 'from the side' } as const;
const SIGNS: Record<Standing, string> = { below: '▽', within: '○', above: '▲' };
const round = (v: number) => Math.round(v * 2) / 2;
const around = (x: number, y: number, r: number): Box => ({ x0: x - r, y0: y - r, x1: x + r, y1: y + r });
const withZero = (values: number[]) => [...new Set([...values, 0])].sort((a, b) => a - b);
