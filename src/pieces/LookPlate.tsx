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
    <Svg
      width={width}
      height={height}
      viewBox={small ? '90 0 140 100' : '0 0 360 100'}
      preserveAspectRatio="xMidYMid slice"
      role="img"
      aria-label={name}
    >
      <Rect x={0} y={0} width={360} height={100} fill={colours.veil} />
      <Path
        d="M-5 100 L-5 70 C20 60 30 52 58 56 C86 48 98 30 122 28 C150 26 160 46 186 52 C214 58 226 50 250 52 C284 54 300 40 326 42 C346 44 352 56 365 60 L365 100 Z"
        fill={colours.shade}
      />
      <Path
        d="M-5 100 L-5 78 C14 66 26 62 40 64 C56 50 74 46 92 52 C112 50 128 62 136 74 C144 80 150 90 152 100 Z"
        fill={colours.rock}
      />
      <Path
        d="M-5 100 L-5 90 C20 80 30 84 44 78 C60 82 70 70 84 74 C104 70 120 82 130 86 C140 90 148 94 150 100 Z"
        fill={colours.shade}
      />
      <Path
        d="M238 100 C244 84 258 74 276 74 C290 62 316 60 330 70 C346 72 356 80 365 84 L365 100 Z"
        fill={colours.rock}
      />
      <Path
        d="M240 100 C250 90 264 86 282 87 C300 80 322 84 340 88 L365 92 L365 100 Z"
        fill={colours.shade}
      />
      <Path d="M-5 90 C50 84 110 93 178 88 C250 83 300 91 365 86 L365 101 L-5 101 Z" fill={colours.sand} />
      <Path d="M184 92 L220 92 L226 96 L190 96 Z" fill={colours.shade} />
      <Rect
        testID={small ? undefined : 'white-card'}
        x={186}
        y={50}
        width={32}
        height={43}
        fill={colours.card}
      />
    </Svg>
  );
});
