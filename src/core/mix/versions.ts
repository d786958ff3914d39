import { BANDS, par } from '../spectrum/bands';
import type { Levels, LampKind } from '../spectrum/lampKind';
import { mixSpectrum } from '../spectrum/lamp';
import { usableShare } from '../feeding/symbiont';
import { tintOf } from '../colour/tint';
import { sharedPhotons, sharesOfPar } from './shape';

/** Share of PAR that a band must gain or lose to be told. Mark: rule of thumb. */
const WORTH_TELLING = 0.005;
const points = (v: number) => `${v > 0 ? '+' : '−'}${Math.abs(Math.round(v * 1000) / 10)}`;

/** What changed between two mixes of a lamp, told in light, not percents; a phrase each, empty when nothing did. */
export function lightDifference(kind: LampKind, from: Levels, to: Levels): string[] {
  const [a, b] = [mixSpectrum(kind, from), mixSpectrum(kind, to)];
  const [pa, pb] = [par(a), par(b)];
  if (pa === 0 || pb === 0) return pa === pb ? [] : [pb === 0 ? 'dark' : 'lit where it was dark'];
  const out: string[] = [];
  if (Math.abs(pb / pa - 1) >= 0.005) out.push(`PAR × ${(pb / pa).toFixed(2)}`);
  const [sa, sb] = [sharesOfPar(a), sharesOfPar(b)];
  const moved = BANDS.map((band) => ({ name: band.name, by: sb[band.id] - sa[band.id] }))
    .filter((m) => Math.abs(m.by) >= WORTH_TELLING)
    .sort((x, y) => Math.abs(y.by) - Math.abs(x.by));
  for (const m of moved.slice(0, 4)) out.push(`${m.name} ${points(m.by)} points of PAR`);
  const [ua, ub] = [usableShare(a)!, usableShare(b)!];
  if (Math.abs(ub - ua) >= WORTH_TELLING)
    out.push(`usable ${Math.round(ua * 1000) / 10} → ${Math.round(ub * 1000) / 10} % of PAR`);
  const [ta, tb] = [tintOf(a), tintOf(b)];
  if (ta && tb && ta.hue !== tb.hue) out.push(`hue ${ta.hue} → ${tb.hue}`);
  if (out.length === 0 && from !== to) {
    const shared = sharedPhotons(a, b)!;
    if (shared < 0.9999) out.push(`${(shared * 100).toFixed(1)} % of photons the same`);
  }
  return out;
}

/** Two mixes of one lamp blended: `share` of the second, control by control. Circuits follow the larger part. */
export function blend(kind: LampKind, a: Levels, b: Levels, share: number): Levels {
  return Object.fromEntries(
    kind.controls.map((c) => {
      const [x, y] = [a[c.id] ?? 0, b[c.id] ?? 0];
      if (c.kind === 'onOff') return [c.id, share < 0.5 ? x : y];
      return [c.id, Math.round((x + (y - x) * share) * 1000) / 1000];
    }),
  );
}

/** Bands that a carried mix could not keep, and what took their place. */
export interface LostBand {
  name: string;
  rangeNm: string;
  /** share of PAR in the source and in the result */
  from: number;
  to: number;
  /** the band that gained most */
  became: string;
  /** the target has no emitter there at all */
  noEmitter: boolean;
}

/** A loss smaller than this share of PAR is not told. Mark: rule of thumb. */
const LOST_SHARE = 0.015;

/** What a light loses on being carried from one spectrum to another. */
export function lostBands(source: Float64Array, result: Float64Array, target: LampKind): LostBand[] {
  const [a, b] = [sharesOfPar(source), sharesOfPar(result)];
  const gain = BANDS.reduce((best, x) => (b[x.id] - a[x.id] > b[best.id] - a[best.id] ? x : best));
  const full = sharesOfPar(mixSpectrum(target, Object.fromEntries(target.controls.map((c) => [c.id, 1]))));
  return BANDS.filter((x) => a[x.id] - b[x.id] > LOST_SHARE)
    .sort((x, y) => a[y.id] - b[y.id] - (a[x.id] - b[x.id]))
    .map((x) => ({
      name: x.name,
      rangeNm: `${x.fromNm}–${x.toNm}`,
      from: a[x.id],
      to: b[x.id],
      became: gain.name,
      noEmitter: full[x.id] < 0.01,
    }));
}

/** Scales every unlocked level by one factor, as far as the first one reaches full; tint, trims and circuits stay. */
export function scaleAll(kind: LampKind, mix: Levels, factor: number, locked: readonly string[]): Levels {
  const moving = kind.controls.filter(
    (c) => (c.kind === 'level' || c.kind === 'brightness') && !locked.includes(c.id),
  );
  const top = Math.max(0, ...moving.map((c) => mix[c.id] ?? 0));
  const by = top > 0 ? Math.min(factor, 1 / top) : factor;
  return {
    ...mix,
    ...Object.fromEntries(moving.map((c) => [c.id, Math.min(1, (mix[c.id] ?? 0) * by)])),
  };
}
