import { memo, useMemo } from 'react';
import Svg, { G, Path, Rect } from 'react-native-svg';

import { type Eye, reflected, seeUnder, SURFACES } from '@/core/colour/look';
import { cssRgb, type Rgb } from '@/core/colour/screen';
import type { CoralForm } from '@/core/coral/form';
import type { Alga } from '@/core/feeding/algae';
import { thing, type ThingId } from '@/core/coral/things';
import { sample } from '@/core/spectrum/grid';

import { AlgaShape, algaTones } from './AlgaFigure';
import { CoralShape, regionColours } from './CoralFigure';

/** A coral in the scene: place as shares of the tank, its form, its own light. */
export interface SceneCoral {
  id: string;
  name: string;
  form: CoralForm;
  /** 0 left … 1 right; 0 surface … 1 floor; 0 front … 1 back */
  across: number;
  down: number;
  back: number;
  light: Float64Array;
}

/** Algae in the scene: a mat, as wide as a share of the tank. */
export interface SceneAlga extends Omit<SceneCoral, 'form'> {
  alga: Alga;
  wide: number;
}

interface Props {
  /** the light the eye has adapted to, and the card lies in */
  light: Float64Array;
  corals: readonly SceneCoral[];
  algae?: readonly SceneAlga[];
  fish?: boolean;
  width: number;
  eye?: Eye;
  dim?: number;
  name: string;
}

const NO_ALGAE: readonly SceneAlga[] = [];
const VEIL = sample(() => 0.09);
const BLACK: Rgb = [0, 0, 0];
const W = 360;
const FLOOR = 112;
/** Clumps of a mat stand this share of their size apart. */
const CLUMP_STEP = 0.62;
const H = 124;
/** Fish: outline in a box of 30 × 14, where they swim, and which kind. */
const FISH: { id: ThingId; x: number; y: number; flip: boolean }[] = [
  { id: 'orangeFish', x: 196, y: 22, flip: false },
  { id: 'yellowFish', x: 60, y: 14, flip: true },
  { id: 'blueFish', x: 300, y: 34, flip: true },
  { id: 'redFish', x: 128, y: 30, flip: false },
];
const BODY = 'M0 7C5 0 16 0 22 5L30 0C28 5 28 9 30 14L22 9C16 14 5 14 0 7Z';

/** A stone under a coral, from where it sits down to the sand. */
function stone(x: number, top: number, size: number): { body: string; lit: string } {
  const w = size * 0.62;
  const drop = FLOOR - top;
  const foot = w + drop * 0.35;
  return {
    body: `M${x - foot} ${FLOOR + 6}C${x - foot * 0.9} ${FLOOR - drop * 0.5} ${x - w * 1.1} ${top + 4} ${x - w * 0.7} ${top - 1}C${x - w * 0.3} ${top - 4} ${x + w * 0.4} ${top - 4} ${x + w * 0.8} ${top}C${x + w * 1.2} ${top + 5} ${x + foot * 0.95} ${FLOOR - drop * 0.45} ${x + foot} ${FLOOR + 6}Z`,
    lit: `M${x - w * 1.05} ${top + drop * 0.18 + 3}C${x - w} ${top + 1} ${x - w * 0.7} ${top - 1} ${x - w * 0.5} ${top - 2}C${x - w * 0.1} ${top - 4} ${x + w * 0.4} ${top - 4} ${x + w * 0.8} ${top}C${x + w * 0.3} ${top + 4} ${x - w * 0.4} ${top + 3} ${x - w * 1.05} ${top + drop * 0.18 + 3}Z`,
  };
}

/** Crusts of coralline on the stones, a tuft of nuisance algae at their feet: one path each for the whole tank. */
function growth(stones: readonly { x: number; top: number; size: number }[]): {
  coralline: string;
  algae: string;
} {
  const coralline: string[] = [];
  const algae: string[] = [];
  stones.forEach(({ x, top, size }, i) => {
    const w = size * 0.62;
    const drop = FLOOR - top;
    for (let k = 0; k < 5; k += 1) {
      const a = (k * 2.4 + i) % 3;
      const cx = x - w * 0.7 + a * w * 0.5;
      const cy = top + drop * (0.25 + ((k * 0.37 + i * 0.21) % 0.6));
      const r = 2.2 + ((k + i) % 3) * 1.3;
      coralline.push(
        `M${(cx - r).toFixed(1)} ${cy.toFixed(1)}a${r} ${(r * 0.7).toFixed(1)} 0 1 0 ${2 * r} 0a${r} ${(r * 0.7).toFixed(1)} 0 1 0 ${-2 * r} 0Z`,
      );
    }
    if (i % 2 === 0) {
      const foot = x + w + drop * 0.28;
      for (let k = 0; k < 7; k += 1)
        algae.push(
          `M${(foot - 6 + k * 2).toFixed(1)} ${FLOOR + 1}q${((k % 3) - 1) * 2} -4 ${((k % 4) - 1.5).toFixed(1)} ${-6 - (k % 3) * 2}`,
        );
    }
  });
  return { coralline: coralline.join(''), algae: algae.join('') };
}
/** Detritus in the hollows of the sand. */
const SPECKS = Array.from(
  { length: 26 },
  (_, i) => `M${((i * 53) % 350) + 4} ${FLOOR + 4 + ((i * 7) % 8)}h0.01`,
).join('');

/** The tank's own corals with sand, rock, a white card and fish under a light: every colour is computed from its spectrum. */
export const TankPlate = memo(function TankPlate({
  light,
  corals,
  algae = NO_ALGAE,
  fish = true,
  width,
  eye,
  dim = 1,
  name,
}: Props) {
  const placed = useMemo(
    () =>
      [...corals]
        .sort((a, b) => b.back - a.back)
        .map((c) => {
          const size = 40 + 12 * (1 - c.back);
          const x = 26 + c.across * (W - 52);
          const top = Math.min(FLOOR - 2, 34 + c.down * 74);
          return { coral: c, size, x, top, stone: stone(x, top, size) };
        }),
    [corals],
  );
  // a mat is drawn as clumps side by side; those that lie deep stand on the sand
  const clumps = useMemo(
    () =>
      [...algae]
        .sort((a, b) => b.back - a.back)
        .flatMap((a, i) => {
          const size = 52 + 10 * (1 - a.back);
          const span = Math.max(0, a.wide * (W - 52) - size);
          const count = 1 + Math.round(span / (size * CLUMP_STEP));
          const foot = Math.min(FLOOR + 3, 44 + a.down * 74);
          return Array.from({ length: count }, (_, k) => ({
            of: i,
            id: `${a.id}-${k}`,
            alga: a,
            size: size * (k % 2 === 0 ? 1 : 0.88),
            x: 26 + a.across * (W - 52) + (count === 1 ? 0 : (k / (count - 1) - 0.5) * span),
            foot: foot - (k % 2) * 2,
          }));
        }),
    [algae],
  );
  const places = placed.map((p) => `${p.x},${p.top},${p.size}`).join(';');
  const grown = useMemo(
    () =>
      growth(
        places
          .split(';')
          .filter(Boolean)
          .map((t) => {
            const [x, top, size] = t.split(',').map(Number) as [number, number, number];
            return { x, top, size };
          }),
      ),
    [places],
  );
  const seen = useMemo(() => seeUnder(light, eye), [light, eye]);
  const colours = useMemo(() => {
    const of = (r: Float64Array) => cssRgb(seen ? seen.colour(reflected(light, r), dim) : BLACK);
    return {
      veil: of(VEIL),
      card: of(SURFACES.card),
      sand: of(SURFACES.sand),
      rock: of(SURFACES.rock),
      shade: of(SURFACES.rockShade),
      coralline: of(thing('coralline').reflectance),
      algae: of(thing('algae').reflectance),
      detritus: of(thing('detritus').reflectance),
      fish: FISH.map((f) => of(thing(f.id).reflectance)),
      algaTones: [...algae]
        .sort((a, b) => b.back - a.back)
        .map((a) => (seen ? algaTones(a.alga, a.light, seen, dim) : [])),
      corals: placed.map((p) => (seen ? regionColours(p.coral.form, p.coral.light, seen, dim) : [])),
    };
  }, [light, seen, dim, placed, algae]);
  return (
    <Svg
      width={width}
      height={Math.round((width * H) / W)}
      viewBox={`0 0 ${W} ${H}`}
      role="img"
      aria-label={name}
    >
      <Rect x={0} y={0} width={W} height={H} fill={colours.veil} />
      {fish &&
        FISH.map((f, i) => (
          <G key={f.id} transform={`translate(${f.x}, ${f.y}) scale(${f.flip ? -0.8 : 0.8}, 0.8)`}>
            <Path d={BODY} fill={colours.fish[i]} />
            <Rect x={3.6} y={5} width={1.8} height={1.8} fill={colours.shade} />
          </G>
        ))}
      {placed.map((p) => (
        <G key={p.coral.id}>
          <Path d={p.stone.body} fill={colours.rock} />
          <Path d={p.stone.body} fill="#000000" fillOpacity={0.22} />
          <Path d={p.stone.lit} fill={colours.rock} />
        </G>
      ))}
      <Path d={grown.coralline} fill={colours.coralline} fillOpacity={0.75} />
      <Path d={grown.algae} fill="none" stroke={colours.algae} strokeWidth={1.3} strokeLinecap="round" />
      <Path
        d={`M-5 ${FLOOR}C50 ${FLOOR - 4} 110 ${FLOOR + 4} 178 ${FLOOR}C250 ${FLOOR - 3} 300 ${FLOOR + 3} 365 ${FLOOR - 1}L365 ${H + 2}L-5 ${H + 2}Z`}
        fill={colours.sand}
      />
      <Path d={SPECKS} fill="none" stroke={colours.detritus} strokeWidth={1.4} strokeLinecap="round" />
      {placed.map((p, i) => (
        <G
          key={p.coral.id}
          transform={`translate(${p.x - p.size / 2}, ${p.top - p.size + 1}) scale(${p.size / 100})`}
        >
          <CoralShape shape={p.coral.form.shape} colours={colours.corals[i]!} />
        </G>
      ))}
      {clumps.map((c) => (
        <G
          key={c.id}
          transform={`translate(${c.x - c.size / 2}, ${c.foot - c.size * 0.97}) scale(${c.size / 100})`}
        >
          <AlgaShape id={c.alga.alga.id} tones={colours.algaTones[c.of]!} />
        </G>
      ))}
      <Rect testID="white-card" x={W - 34} y={FLOOR - 24} width={20} height={28} fill={colours.card} />
    </Svg>
  );
});
