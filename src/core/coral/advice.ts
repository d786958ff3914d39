import { ucsDistance } from '../colour/cam16';
import { xyzOf } from '../colour/xyz';
import { BANDS, type BandId, par } from '../spectrum/bands';
import { FIRST_NM, type Spectrum, addScaled, integrate, zeroSpectrum } from '../spectrum/grid';
import type { CoralForm } from './form';
import { appearanceUnder } from './glow';
import { formSeen } from './seen';
import { thing, type ThingId } from './things';

export interface Stock {
  name: string;
  form: CoralForm;
}

export interface WhiteAdvice {
  /** share of PAR from white at which most colours of corals and fish are plainly seen, 0..1 */
  best: number;
  /** the present share */
  now: number;
  curve: { share: number; seen: number }[];
}

const FISH: readonly ThingId[] = ['orangeFish', 'redFish', 'blueFish', 'yellowFish'];
/** Shares of PAR from white that are tried. */
const SHARES = [0, 0.05, 0.1, 0.15, 0.2, 0.25, 0.3, 0.4, 0.5];

/** Colours of a stock and of fish under a light. */
export function coloursUnder(stock: readonly Stock[], fish: boolean, light: Spectrum) {
  const look = appearanceUnder(light);
  return [
    ...stock.flatMap((s) => formSeen(s.form, light).map((r) => look(r.xyz).ucs)),
    ...(fish ? FISH : []).map((id) => look(xyzOf(light.map((v, i) => v * thing(id).reflectance[i]!))).ucs),
  ];
}

/** A colour this far from rock in hue and chroma is plainly seen as one, CAM16-UCS. Mark: rule of thumb. */
const PLAINLY = 15;

/** How many colours are plainly seen: each counts by its distance from rock in hue and chroma, up to one. 0..1 */
export function plainlySeen(stock: readonly Stock[], fish: boolean, light: Spectrum): number {
  const look = appearanceUnder(light);
  const rock = look(xyzOf(light.map((v, i) => v * thing('rock').reflectance[i]!))).ucs;
  const colours = coloursUnder(stock, fish, light);
  const each = colours.map(([, a, b]) => Math.min(1, Math.hypot(a - rock[1], b - rock[2]) / PLAINLY));
  return each.length === 0 ? 0 : each.reduce((sum, v) => sum + v, 0) / each.length;
}

/**
 * How much white these corals and fish reward: the present light is split into its blue part and its white part, mixed anew at
 * equal PAR, and it is read how many colours are plainly seen. Null when the lamp has no white or no blue to vary.
 */
export function whiteAdvice(
  stock: readonly Stock[],
  fish: boolean,
  blue: Spectrum,
  white: Spectrum,
): WhiteAdvice | null {
  const [pb, pw] = [par(blue), par(white)];
  if (!(pb > 0) || !(pw > 0)) return null;
  const all = pb + pw;
  const curve = SHARES.map((share) => {
    const light = zeroSpectrum();
    addScaled(light, blue, ((1 - share) * all) / pb);
    addScaled(light, white, (share * all) / pw);
    return { share, seen: plainlySeen(stock, fish, light) };
  });
  const top = curve.reduce((a, b) => (b.seen > a.seen * 1.01 ? b : a));
  return { best: top.share, now: pw / all, curve };
}

export interface BandAdvice {
  band: BandId;
  /** corals whose colours it would plainly change, the most first, and by how much: mean of their regions, CAM16-UCS */
  corals: { name: string; moves: number }[];
  /** the band is not in the lamp at all */
  absent: boolean;
}

/** A band weaker than this share of all photons is worth adding. Mark: rule of thumb. */
const THIN = 0.03;
/** So much of all photons a band is tried with, in exchange for as much of the rest. */
export const TRIED_SHARE = 0.05;
/** A colour that moves by this is plainly another one, CAM16-UCS. Mark: rule of thumb. */
export const PLAINLY_MOVED = 3;

/** Light with a share of its photons, evenly over a band, in exchange for as much of the rest. */
function withBand(light: Spectrum, fromNm: number, toNm: number, share: number): Spectrum {
  const out = zeroSpectrum();
  addScaled(out, light, 1 - share);
  const each = (share * integrate(light)) / (toNm - fromNm);
  for (let nm = fromNm; nm < toNm; nm += 1) out[nm - FIRST_NM]! += each;
  return out;
}

/** Which band to add first: of those that are thin in the present light, what each would change for every coral, computed. */
export function bandAdvice(
  stock: readonly Stock[],
  light: Spectrum,
  held: readonly { id: BandId; holds: 'real' | 'token' | 'none' }[],
): BandAdvice[] {
  const all = integrate(light);
  if (!(all > 0)) return [];
  const coloursOf = (under: Spectrum) => {
    const look = appearanceUnder(under);
    return stock.map((s) => formSeen(s.form, under).map((r) => look(r.xyz).ucs));
  };
  const now = coloursOf(light);
  return BANDS.filter((b) => b.id !== 'farRed' && integrate(light, b.fromNm, b.toNm) < THIN * all)
    .map((b): BandAdvice => {
      const then = coloursOf(withBand(light, b.fromNm, b.toNm, TRIED_SHARE));
      const moved = stock.map((s, i) => ({
        name: s.name,
        moves:
          now[i]!.reduce((sum, c, k) => sum + ucsDistance(c, then[i]![k]!), 0) / Math.max(1, now[i]!.length),
      }));
      return {
        band: b.id,
        corals: moved.filter((c) => c.moves >= PLAINLY_MOVED).sort((x, y) => y.moves - x.moves),
        absent: held.find((h) => h.id === b.id)?.holds === 'none',
      };
    })
    .filter((a) => a.corals.length > 0)
    .sort((a, b) => total(b) - total(a));
}
const total = ({ corals }: BandAdvice): number => corals.reduce((sum, c) => sum + c.moves, 0);

/** Pigment whose amount is under this is no colour of its own. Mark: rule of thumb. */
const HARDLY = 0.1;

/** What no setting of any lamp will show: regions without glow or chromoprotein stay brown or pale. */
export function neverShown(stock: readonly Stock[]): { name: string; regions: string[]; why: string }[] {
  return stock.flatMap((s) => {
    const plain = s.form.regions.filter(
      (r) =>
        Object.values(r.proteins).every((v) => v < HARDLY) &&
        Object.values(r.chromo).every((v) => v < HARDLY),
    );
    if (plain.length === 0) return [];
    const brown = plain.reduce((sum, r) => sum + r.brown, 0) / plain.length;
    return [
      {
        name: s.name,
        regions: plain.map((r) => r.name),
        why:
          brown > 0.3
            ? 'holds only symbiont brown: white shows it as it is, blue only darkens it'
            : 'holds hardly any pigment: it takes the colour of the light',
      },
    ];
  });
}

export interface Conversion {
  name: string;
  text: string;
}

/** Light up to here turns photoconvertible greens, nm. Mark: literature, rounded. */
const CONVERTS_TO_NM = 420;

/** Where a colour may change by itself over days: uncertain, and said as such. */
export function conversions(
  stock: readonly Stock[],
  light: Spectrum,
  wantsToUmol: Readonly<Record<string, number>>,
): Conversion[] {
  const out: Conversion[] = [];
  const p = par(light);
  const short = integrate(light, FIRST_NM, CONVERTS_TO_NM);
  for (const s of stock) {
    const has = (id: 'green' | 'converted') => s.form.regions.some((r) => (r.proteins[id] ?? 0) >= HARDLY);
    if (has('converted'))
      out.push({
        name: s.name,
        text:
          short > 0.02 * p
            ? 'green may turn to red here: near UV and violet are sustained. Uncertain, takes weeks, and does not go back.'
            : 'green may stay green here: little near UV or violet to turn it. Uncertain.',
      });
    else if (has('green') && short > 0.05 * p)
      out.push({
        name: s.name,
        text: 'some greens need days of near UV or violet before they glow, and some turn red under it. Uncertain.',
      });
    const wants = wantsToUmol[s.name];
    if (wants !== undefined && p > wants)
      out.push({
        name: s.name,
        text: 'gets more than its kind wants: some corals then make protective pigment and turn prettier first. Uncertain, and a caution rather than a success.',
      });
  }
  return out;
}
