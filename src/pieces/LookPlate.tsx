import { memo, useMemo } from 'react';
import Svg, { G, Path, Rect } from 'react-native-svg';

import { type Eye, reflected, seeUnder, SURFACES } from '@/core/colour/look';
import { cssRgb, type Rgb } from '@/core/colour/screen';
import { sample } from '@/core/spectrum/grid';

interface Props {
  /** photon spectrum at the place looked at */
  light: Float64Array;
  width: number;
  height: number;
  eye?: Eye;
  /** brightness share, 1 = the reference moment */
  dim?: number;
  name: string;
  /** a small plate leaves out the rocks in front */
  small?: boolean;
}

/** What open water sends back to the eye: a faint, even veil. Mark: rule of thumb. */
const VEIL = sample(() => 0.09);
const BLACK: Rgb = [0, 0, 0];

/** Boulders from back to front: the whole stone in shade, and the face that the lamps reach. */
const ROCKS = [
  {
    body: 'M98 96 L104 66 L120 52 L142 46 L160 54 L170 70 L178 96 Z',
    lit: 'M104 66 L120 52 L142 46 L160 54 L146 62 L134 60 L118 70 Z',
  },
  {
    body: 'M-6 96 L-6 58 L14 42 L40 34 L66 40 L84 56 L96 78 L104 96 Z',
    lit: 'M-6 58 L14 42 L40 34 L66 40 L84 56 L70 60 L56 54 L40 62 L22 58 L8 70 L-6 72 Z',
  },
  {
    body: 'M252 96 L258 74 L272 58 L298 48 L322 52 L340 64 L366 60 L366 96 Z',
    lit: 'M258 74 L272 58 L298 48 L322 52 L340 64 L366 60 L366 70 L344 76 L326 68 L306 70 L286 66 L272 76 Z',
  },
] as const;

/** A white card, sand and grey rock under a light: every colour here is computed from its spectrum. */
export const LookPlate = memo(function LookPlate({ light, width, height, eye, dim = 1, name, small }: Props) {
  const colours = useMemo(() => {
    const seen = seeUnder(light, eye);
    const of = (r: Float64Array) => cssRgb(seen ? seen.colour(reflected(light, r), dim) : BLACK);
    return {
      veil: of(VEIL),
      card: of(SURFACES.card),
      sand: of(SURFACES.sand),
      rock: of(SURFACES.rock),
      shade: of(SURFACES.rockShade),
    };
  }, [light, eye, dim]);
  return (
    <Svg
      width={width}
      height={height}
      viewBox={small ? '112 8 140 92' : '0 0 360 100'}
      preserveAspectRatio="xMidYMax slice"
      role="img"
      aria-label={name}
    >
      <Rect x={0} y={0} width={360} height={100} fill={colours.veil} />
      {ROCKS.map((rock) => (
        <G key={rock.body}>
          <Path d={rock.body} fill={colours.shade} />
          <Path d={rock.lit} fill={colours.rock} />
        </G>
      ))}
      <Path d="M-5 84 C50 79 110 88 178 84 C250 80 300 87 365 82 L365 101 L-5 101 Z" fill={colours.sand} />
      <Path d="M205 93 L236 93 L246 96.5 L210 96.5 Z" fill={colours.shade} />
      <Rect
        testID={small ? undefined : 'white-card'}
        x={203}
        y={50}
        width={32}
        height={44}
        fill={colours.card}
      />
    </Svg>
  );
});
