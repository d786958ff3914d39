import { memo, useMemo } from 'react';
import Svg, { Path, Rect } from 'react-native-svg';

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
    <Svg width={width} height={height} viewBox={small ? '90 0 140 100' : '0 0 360 100'} preserveAspectRatio="xMidYMid slice" role="img" aria-label={name}>
      <Rect x={0} y={0} width={360} height={100} fill={colours.veil} />
      <Path d="M-5 100 C10 58 34 40 62 47 C82 26 120 22 138 44 C158 46 172 64 184 100 Z" fill={colours.shade} />
      <Path d="M2 100 C18 66 38 50 64 54 C88 36 116 34 130 52 C148 54 158 72 168 100 Z" fill={colours.rock} />
      <Path d="M222 100 C232 74 252 60 276 63 C300 48 336 56 352 80 L364 100 Z" fill={colours.shade} />
      <Path d="M236 100 C246 80 262 69 282 71 C302 60 326 66 340 86 L346 100 Z" fill={colours.rock} />
      <Path d="M-5 88 C60 82 120 90 180 86 C250 81 300 88 365 84 L365 101 L-5 101 Z" fill={colours.sand} />
      <Rect testID={small ? undefined : 'white-card'} x={186} y={52} width={30} height={38} fill={colours.card} />
    </Svg>
  );
});
