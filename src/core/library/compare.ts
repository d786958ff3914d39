import { BANDS, type BandId, par, type PerBand } from '../spectrum/bands';
import { allFull, channelLevels } from '../spectrum/controls';
import type { Levels, LampKind } from '../spectrum/lampKind';
import { integrate, type Spectrum } from '../spectrum/grid';
import { channelWallWatts, fullWallWatts } from '../spectrum/watts';
import { emittedShares } from '../spectrum/drive';
import { keptSpectrum, mixSpectrum } from '../spectrum/lamp';
import { usableShare } from '../feeding/symbiont';
import { blueBreadthNm, sharesOfPar } from '../mix/shape';
import { bandsHeld, type BandHold } from './held';
import { lampLibrary } from './lamps';

/** Emitters driven below this level count as unused. Mark: rule of thumb. */
const IDLE_LEVEL = 0.1;
export interface Unused {
  /** emitters whose channel is below a tenth of its full, of all */
  emitters: number;
  emittersAll: number;
  /** wall watts */
  watts: number;
  wattsAll: number;
  /** µmol s⁻¹ of PAR that leave the lamp, of what it could give with every control full */
  par: number;
  parAll: number;
}

/** What a mix, at a strength, leaves unused of its lamp. */
export function leftUnused(kind: LampKind, mix: Levels, strength = 1): Unused {
  const shares = emittedShares(
    kind,
    channelLevels(kind, mix).map((v) => v * strength),
  );
  const full = allFull(kind);
  const watts = channelWallWatts(kind);
  const used = shares.reduce((sum, s, i) => sum + s * watts[i]!, 0);
  const light = shares.reduce((sum, s, i) => sum + s * par(keptSpectrum(kind.channels[i]!)), 0);
  const count = (i: number) => kind.channels[i]!.groups.reduce((sum, g) => sum + g.count, 0);
  const emittersAll = shares.reduce((sum, _, i) => sum + count(i), 0);
  const parAll = par(mixSpectrum(kind, full));
  const wattsAll = fullWallWatts(kind);
  return {
    emitters: shares.reduce((sum, s, i) => sum + (s < IDLE_LEVEL ? count(i) : 0), 0),
    emittersAll,
    watts: Math.max(0, wattsAll - used),
    wattsAll,
    par: Math.max(0, parAll - light),
    parAll,
  };
}

/** A lamp serves a band when this share of its photons lies there. Mark: rule of thumb. */
const SERVES_SHARE = 0.1;

/** The cheapest lamp of the library with real output in a band; null when none has. */
export function cheapestFor(band: BandId, besides: string): LampKind | null {
  const { fromNm, toNm } = BANDS.find((b) => b.id === band)!;
  const fit = lampLibrary()
    .map((l) => l.kind)
    .filter((k) => {
      if (k.id === besides) return false;
      const all = mixSpectrum(k, allFull(k));
      return integrate(all, fromNm, toNm) >= SERVES_SHARE * integrate(all);
    })
    .sort((a, b) => (a.price ?? Infinity) - (b.price ?? Infinity));
  return fit[0] ?? null;
}

/** One side of a comparison. */
export interface Candidate {
  name: string;
  kind: LampKind;
  mix: Levels;
  /** hours a day at this strength, or the same dose spread over a day with slopes */
  hours: number;
}

export interface Compared {
  candidate: Candidate;
  /** spectrum at the place compared, scaled as asked, µmol m⁻² s⁻¹ nm⁻¹ */
  spectrum: Spectrum;
  parUmol: number;
  dli: number;
  /** photons per band, µmol m⁻² s⁻¹ */
  photons: PerBand;
  /** mol m⁻² d⁻¹ per band */
  dose: PerBand;
  shares: PerBand;
  bands: BandHold[];
  usable: number | null;
  breadthNm: number | null;
  /** wall watts per µmol s⁻¹ of PAR that leaves the lamp, J/µmol */
  joulesPerUmol: number | null;
  unused: Unused;
  cannot: { band: BandId; holds: 'token' | 'none'; addition: LampKind | null }[];
}

/**
 * Compares lamps or mixes at equal PAR, or at equal DLI over their own hours.
 * @param through transmission from the lamp to the place compared, on the grid
 * @param equal what is held equal, and its value: µmol m⁻² s⁻¹ or mol m⁻² d⁻¹
 */
export function compare(
  candidates: readonly Candidate[],
  equal: { by: 'par' | 'dli'; value: number },
  through: Spectrum,
): Compared[] {
  return candidates.map((candidate) => {
    const { kind, mix, hours } = candidate;
    const leaving = mixSpectrum(kind, mix);
    const there = leaving.map((v, i) => v * through[i]!);
    const p = par(there);
    const seconds = hours * 3600;
    const wanted = equal.by === 'par' ? equal.value : (equal.value * 1e6) / seconds;
    const scale = p > 0 ? wanted / p : 0;
    const spectrum = there.map((v) => v * scale);
    const photons = Object.fromEntries(
      BANDS.map((b) => [b.id, integrate(spectrum, b.fromNm, b.toNm)]),
    ) as PerBand;
    const watts = channelWallWatts(kind);
    const used = emittedShares(kind, channelLevels(kind, mix)).reduce((sum, s, i) => sum + s * watts[i]!, 0);
    const bands = bandsHeld(kind);
    return {
      candidate,
      spectrum,
      parUmol: par(spectrum),
      dli: (par(spectrum) * seconds) / 1e6,
      photons,
      dose: Object.fromEntries(BANDS.map((b) => [b.id, (photons[b.id] * seconds) / 1e6])) as PerBand,
      shares: sharesOfPar(spectrum),
      bands,
      usable: usableShare(spectrum),
      breadthNm: blueBreadthNm(spectrum),
      joulesPerUmol: par(leaving) > 0 ? used / par(leaving) : null,
      unused: leftUnused(kind, mix),
      cannot: bands
        .filter((b) => b.holds !== 'real' && b.id !== 'farRed')
        .map((b) => ({
          band: b.id,
          holds: b.holds as 'token' | 'none',
          addition: cheapestFor(b.id, kind.id),
        })),
    };
  });
}
