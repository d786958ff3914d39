import { Circle, Ellipse, G, Path, Rect, Text } from 'react-native-svg';

import type { Solid } from '@/core/optics/tank';
import { font, usePaper } from '@/ui/theme';

import { type SoundingMark, type SoundingView, textWidth } from './soundingShape';

/** Half the size of a coral's mark, px. */
export const MARK = 7;
/** Of a mark with a letter in it. */
const LETTERED = 9.5;

/** A line of small waves. */
export function waterLine(width: number, y: number): string {
  let d = `M1,${y}`;
  for (let x = 1; x + 16 <= width - 1; x += 16) d += `q4,-3.2 8,0t8,0`;
  return `${d}L${width - 1},${y}`;
}

/** A coral is a filled ring, an empty spot an open one; too much is a triangle up, too little one down. */
export function Glyph({ mark, x, y, chosen }: { mark: SoundingMark; x: number; y: number; chosen: boolean }) {
  const paper = usePaper();
  const r = mark.letter ? LETTERED : MARK;
  // several places one under another are one mark, as wide as its letters
  const half = r + 4.5 * Math.max(0, (mark.letter?.length ?? 0) - 1);
  const shape = mark.standing;
  return (
    <G>
      {chosen && (
        <Rect
          x={x - half - 4.5}
          y={y - r - 4.5}
          width={2 * half + 9}
          height={2 * r + 9}
          rx={r + 4.5}
          fill="none"
          stroke={paper.ink}
          strokeWidth={1.25}
        />
      )}
      {shape === 'above' || shape === 'below' ? (
        <Path
          d={
            shape === 'above'
              ? `M${x},${y - r}L${x + r},${y + r * 0.8}H${x - r}Z`
              : `M${x},${y + r}L${x + r},${y - r * 0.8}H${x - r}Z`
          }
          fill={shape === 'above' ? paper.ink : paper.paper}
          stroke={paper.ink}
          strokeWidth={1.75}
        />
      ) : (
        <>
          <Rect
            x={x - half + 0.5}
            y={y - r + 0.5}
            width={2 * half - 1}
            height={2 * r - 1}
            rx={r - 0.5}
            fill={paper.paper}
            stroke={paper.ink}
            strokeWidth={1.75}
          />
          {mark.kind === 'coral' && <Circle cx={x} cy={y} r={2.6} fill={paper.ink} />}
          {mark.letter && (
            <Text
              x={x}
              y={y + 4}
              fontSize={11.5}
              fontFamily={font.medium}
              fill={paper.ink}
              textAnchor="middle"
            >
              {mark.letter}
            </Text>
          )}
        </>
      )}
    </G>
  );
}

export function Rock({
  solid,
  view,
  px,
  py,
  scale,
}: {
  solid: Solid;
  view: SoundingView['kind'];
  px: (cm: number) => number;
  py: (cm: number) => number;
  scale: number;
}) {
  const paper = usePaper();
  const stroke = {
    stroke: paper.ink,
    strokeWidth: 1,
    strokeDasharray: solid.shape === 'step' ? undefined : '2 2',
    fill: paper.line,
    fillOpacity: view === 'top' ? 0.35 : 0.8,
  };
  if (view === 'top') {
    const [w, h] = [solid.lengthCm * scale, solid.widthCm * scale];
    return solid.shape === 'mound' ? (
      <Ellipse cx={px(solid.xCm)} cy={py(solid.yCm)} rx={w / 2} ry={h / 2} {...stroke} />
    ) : (
      <Rect x={px(solid.xCm) - w / 2} y={py(solid.yCm) - h / 2} width={w} height={h} {...stroke} />
    );
  }
  const [middle, wide] = view === 'front' ? [solid.xCm, solid.lengthCm] : [solid.yCm, solid.widthCm];
  const [left, right, up, down] = [
    px(middle - wide / 2),
    px(middle + wide / 2),
    py(solid.topCm),
    py(solid.bottomCm),
  ];
  return solid.shape === 'mound' ? (
    <Path d={`M${left},${down}A${(right - left) / 2},${down - up} 0 0 1 ${right},${down}Z`} {...stroke} />
  ) : (
    <Rect x={left} y={up} width={right - left} height={down - up} {...stroke} />
  );
}

export function HeldFigure({ text, x, y, width }: { text: string; x: number; y: number; width: number }) {
  const paper = usePaper();
  const w = textWidth(text, 14) + 10;
  const left = Math.min(width - w - 2, Math.max(2, x - w / 2));
  const above = y > 60;
  return (
    <G>
      <Rect x={left} y={above ? y - 52 : y + 26} width={w} height={22} rx={3} fill={paper.ink} />
      <Text
        x={left + w / 2}
        y={(above ? y - 52 : y + 26) + 15.5}
        fontSize={14}
        fontFamily={font.medium}
        fill={paper.inverse}
        textAnchor="middle"
      >
        {text}
      </Text>
    </G>
  );
}
