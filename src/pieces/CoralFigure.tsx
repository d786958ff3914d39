import { memo, useMemo } from 'react';
import Svg, { G, Path, Rect } from 'react-native-svg';

import { type SeenUnder, seeUnder } from '@/core/colour/look';
import { cssRgb } from '@/core/colour/screen';
import { xyzOf } from '@/core/colour/xyz';
import type { CoralForm, ShapeId } from '@/core/coral/form';
import { formSeen } from '@/core/coral/seen';

import { layersOf } from './coralShapes';

/** How dark a shade layer is. */
const SHADE = 0.26;

/**
 * Screen colour of every region of a form under its own light, in the eye of a scene. Brightness is evened: a coral in a
 * dimmer place is shown as light as one beside the card, so that colours can be judged.
 */
export function regionColours(form: CoralForm, light: Float64Array, eye: SeenUnder, dim: number): string[] {
  const own = xyzOf(light)[1];
  const scale = own > 0 ? eye.white[1] / own : 0;
  return formSeen(form, light).map(({ xyz }) =>
    cssRgb(eye.colourOf([xyz[0] * scale, xyz[1] * scale, xyz[2] * scale], dim)),
  );
}

/** One coral in a box of 100 × 100: shapes of our own, every colour computed. */
export const CoralShape = memo(
  function CoralShape({ shape, colours }: { shape: ShapeId; colours: readonly string[] }) {
    return (
      <>
        {layersOf(shape).map((l, i) => {
          const colour =
            l.region === 'shade' ? '#000000' : (colours[Math.min(l.region, colours.length - 1)] ?? '#000000');
          const opacity = l.region === 'shade' ? SHADE : 1;
          return l.line ? (
            <Path
              key={i}
              d={l.d}
              fill="none"
              stroke={colour}
              strokeOpacity={opacity}
              strokeWidth={l.line}
              strokeLinecap="round"
              strokeLinejoin="round"
            />
          ) : (
            <Path key={i} d={l.d} fill={colour} fillOpacity={opacity} />
          );
        })}
      </>
    );
  },
  (a, b) => a.shape === b.shape && a.colours.join() === b.colours.join(),
);

interface Props {
  form: CoralForm;
  light: Float64Array;
  /** the light the eye has adapted to; default the coral's own */
  eyeLight?: Float64Array;
  degree?: number;
  dim?: number;
  size: number;
  name: string;
}

/** A coral by itself, enlarged. */
export const CoralFigure = memo(function CoralFigure({
  form,
  light,
  eyeLight = light,
  degree,
  dim = 1,
  size,
  name,
}: Props) {
  const { colours, veil } = useMemo(() => {
    const eye = seeUnder(eyeLight, { degree });
    return {
      colours: eye ? regionColours(form, light, eye, dim) : [],
      veil: eye
        ? cssRgb(
            eye.colour(
              eyeLight.map((v) => v * 0.09),
              dim,
            ),
          )
        : '#000000',
    };
  }, [form, light, eyeLight, degree, dim]);
  return (
    <Svg width={size} height={size} viewBox="-6 -2 112 110" role="img" aria-label={name}>
      <Rect x={-6} y={-2} width={112} height={110} fill={veil} />
      <G>
        <CoralShape shape={form.shape} colours={colours} />
      </G>
    </Svg>
  );
});
