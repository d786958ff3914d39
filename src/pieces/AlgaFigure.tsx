import { memo, useMemo } from 'react';
import Svg, { Path, Rect } from 'react-native-svg';

import { reflected, seeUnder, type SeenUnder } from '@/core/colour/look';
import { cssRgb } from '@/core/colour/screen';
import { xyzOf } from '@/core/colour/xyz';
import type { Alga, AlgaId } from '@/core/feeding/algae';
import { algaReflectance } from '@/core/refugium/look';

import { algaLayers } from './algaShapes';

/** How much of the light reaches each tone: lit, in half shade, underneath. */
const REACHES = [1, 0.62, 0.36] as const;
/** What open water sends back to the eye: a faint, even veil. Mark: rule of thumb. */
const VEIL = 0.06;

/** Screen colours of an alga under its own light in the eye of a scene, lit to shaded; brightness is evened to the card's. */
export function algaTones(alga: Alga, light: Float64Array, eye: SeenUnder, dim: number): string[] {
  const own = xyzOf(light)[1];
  const scale = own > 0 ? eye.white[1] / own : 0;
  const sent = reflected(light, algaReflectance(alga));
  return REACHES.map((share) =>
    cssRgb(
      eye.colour(
        sent.map((v) => v * share * scale),
        dim,
      ),
    ),
  );
}

/** One alga in a box of 100 × 100: shapes of our own, every colour computed. */
export const AlgaShape = memo(
  function AlgaShape({ id, tones }: { id: AlgaId; tones: readonly string[] }) {
    return (
      <>
        {algaLayers(id).map((l, i) =>
          l.line ? (
            <Path
              key={i}
              d={l.d}
              fill="none"
              stroke={tones[l.tone]}
              strokeWidth={l.line}
              // at the width of a thread nobody sees its ends and bends, and round ones cost the most to draw
              strokeLinecap={l.line > THREAD ? 'round' : 'butt'}
              strokeLinejoin={l.line > THREAD ? 'round' : 'bevel'}
            />
          ) : (
            <Path key={i} d={l.d} fill={tones[l.tone]} />
          ),
        )}
      </>
    );
  },
  (a, b) => a.id === b.id && a.tones.join() === b.tones.join(),
);

/** Lines up to this width are threads. */
const THREAD = 2.2;
const BLACK = ['#000000', '#000000', '#000000'];

interface Props {
  alga: Alga;
  /** the light it is seen in */
  light: Float64Array;
  /** brightness share, 1 = as bright as plates are drawn */
  dim?: number;
  size: number;
  name: string;
}

/** An alga by itself, its colour computed from its pigments under a light. */
export const AlgaFigure = memo(function AlgaFigure({ alga, light, dim = 1, size, name }: Props) {
  const { tones, veil } = useMemo(() => {
    const eye = xyzOf(light)[1] > 0 ? seeUnder(light) : null;
    return {
      tones: eye ? algaTones(alga, light, eye, dim) : BLACK,
      veil: eye
        ? cssRgb(
            eye.colour(
              light.map((v) => v * VEIL),
              dim,
            ),
          )
        : '#000000',
    };
  }, [alga, light, dim]);
  return (
    <Svg width={size} height={size} viewBox="-3 2 106 102" role="img" aria-label={name}>
      <Rect x={-3} y={2} width={106} height={102} fill={veil} />
      <AlgaShape id={alga.id} tones={tones} />
    </Svg>
  );
});
