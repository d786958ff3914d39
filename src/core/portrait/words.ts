import { linearSrgb, oklab } from '../colour/screen';
import type { Xyz } from '../colour/xyz';
import { adaptTo } from '../colour/adapt';
import { formSeen } from '../coral/seen';
import type { CoralForm } from '../coral/form';

/** Names of hues by their angle in OKLab, degrees. Mark: rule of thumb. */
const HUES: readonly (readonly [untilDeg: number, name: string])[] = [
  [12, 'pink'],
  [40, 'red'],
  [68, 'orange'],
  [104, 'yellow'],
  [130, 'yellow-green'],
  [162, 'green'],
  [185, 'blue-green'],
  [225, 'cyan'],
  [278, 'blue'],
  [312, 'violet'],
  [342, 'purple'],
  [361, 'pink'],
];
/** Less colour than this is grey, more than that is vivid; darker orange is brown. Mark: rule of thumb. */
const GREY = 0.028;
const VIVID = 0.11;

/** A colour in words, as an eye sees it that has adapted to a white (same scale). */
export function colourWords(xyz: Xyz, white: Xyz, degree: number): string {
  const [L, a, b] = oklab(linearSrgb(adaptTo(white, degree)(xyz)));
  const chroma = Math.hypot(a, b);
  if (L < 0.12) return 'nearly black';
  if (chroma < GREY) return L > 0.8 ? 'white' : L > 0.55 ? 'pale grey' : L > 0.3 ? 'grey' : 'dark grey';
  const angle = ((Math.atan2(b, a) * 180) / Math.PI + 360) % 360;
  const hue = HUES.find(([until]) => angle < until)![1];
  const brown = (hue === 'orange' || hue === 'yellow') && chroma < VIVID && L < 0.62;
  const how = chroma > VIVID && L > 0.5 ? 'bright ' : chroma < VIVID / 2 ? 'dull ' : '';
  return `${how}${brown ? 'brown' : hue}`;
}

/** A coral in a sentence, for those who read instead of look: its parts, and how bright beside rock in the same light. */
export function coralWords(
  name: string,
  form: CoralForm | null,
  light: ArrayLike<number>,
  white: Xyz,
  degree: number,
  rockY: number,
): string {
  if (!form) return `${name}: its colours are not described; drawn pale`;
  const seen = formSeen(form, light);
  if (!seen.some((r) => r.xyz[1] > 0)) return `${name}: in the dark`;
  const parts = seen.map((r) => `${r.region.name} ${colourWords(r.xyz, white, degree)}`);
  const mean = seen.reduce((sum, r) => sum + r.xyz[1], 0) / seen.length;
  const stops = Math.round(Math.log2(mean / Math.max(1e-12, rockY)));
  const beside =
    stops === 0
      ? 'as bright as the rock'
      : `${stops > 0 ? 'brighter' : 'darker'} than the rock by ${Math.abs(stops)} ${Math.abs(stops) === 1 ? 'stop' : 'stops'}`;
  return `${name}: ${parts.join(', ')}, ${beside}`;
}
