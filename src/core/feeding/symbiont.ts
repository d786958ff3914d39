import { PAR_TO_NM, par } from '../spectrum/bands';
import {
  FIRST_NM,
  GRID_SIZE,
  indexOfNm,
  integrateWeighted,
  nmAt,
  sample,
  type Spectrum,
} from '../spectrum/grid';

/**
 * In-vivo absorption of symbiotic dinoflagellates as Gaussian bands: chlorophyll a, chlorophyll c2 and peridinin, the
 * pigments that feed. Photoprotective carotenoids (450-490 nm) absorb without feeding and are left out. Centres after
 * Bidigare et al. 1990 and Hoepffner & Sathyendranath 1991; widths and heights rounded to the shape published for
 * Symbiodiniaceae (maximum near 440, shoulder to 550, minimum 560-620, red peak at 675). Mark: literature.
 */
export const SYMBIONT_BANDS: readonly { pigment: string; peakNm: number; fwhmNm: number; height: number }[] =
  [
    { pigment: 'chlorophyll a', peakNm: 418, fwhmNm: 30, height: 0.45 },
    { pigment: 'chlorophyll a', peakNm: 438, fwhmNm: 28, height: 0.72 },
    { pigment: 'chlorophyll a', peakNm: 620, fwhmNm: 30, height: 0.1 },
    { pigment: 'chlorophyll a', peakNm: 676, fwhmNm: 24, height: 0.5 },
    { pigment: 'chlorophyll c2', peakNm: 460, fwhmNm: 32, height: 0.5 },
    { pigment: 'chlorophyll c2', peakNm: 586, fwhmNm: 28, height: 0.07 },
    { pigment: 'chlorophyll c2', peakNm: 635, fwhmNm: 26, height: 0.12 },
    { pigment: 'peridinin', peakNm: 490, fwhmNm: 44, height: 0.4 },
    { pigment: 'peridinin', peakNm: 526, fwhmNm: 46, height: 0.3 },
  ];

let absorption: Spectrum | undefined;

/** Absorption that feeds, scaled to a maximum of 1, on the grid. */
export function symbiontAbsorption(): Spectrum {
  if (!absorption) {
    const raw = sample((nm) =>
      SYMBIONT_BANDS.reduce(
        (sum, b) => sum + b.height * Math.exp(-4 * Math.LN2 * ((nm - b.peakNm) / b.fwhmNm) ** 2),
        0,
      ),
    );
    const top = Math.max(...raw);
    absorption = raw.map((v) => v / top);
  }
  return absorption;
}

/** Carotenoids that absorb without feeding (photoprotective), with the shoulder they have in the living. Mark: literature, rounded. */
const PROTECTIVE: readonly (readonly [peakNm: number, fwhmNm: number, height: number])[] = [
  [452, 34, 0.35],
  [484, 36, 0.35],
  [512, 44, 0.2],
];
/**
 * Tissue over a pale, scattering skeleton: light passes it many times, so that valleys of absorption fill up. Optical depth
 * c·a^γ + d₀ of pigment a broadened by some nm, so that absorptance of a normally pigmented coral is above 0.85 at 440, 0.75-0.9 at 675
 * and about half at 560-600 nm. Shape: Enríquez, Méndez & Iglesias-Prieto 2005. Mark: literature shape, constants rule of thumb.
 */
const TISSUE = { depth: 2, fill: 0.6, bareDepth: 0.3, broadenNm: 6 } as const;

const gauss = (nm: number, peakNm: number, fwhmNm: number) =>
  Math.exp(-4 * Math.LN2 * ((nm - peakNm) / fwhmNm) ** 2);
/** A spectrum of pigment as it is in the living: its bands broadened. */
function broadened(of: (nm: number) => number): Spectrum {
  const reach = 4 * TISSUE.broadenNm;
  const around = Float64Array.from({ length: GRID_SIZE + 2 * reach }, (_, i) => of(nmAt(i) - reach));
  const weights = Array.from({ length: reach + 1 }, (_, k) =>
    Math.exp(-((2 * k - reach) ** 2) / (2 * TISSUE.broadenNm ** 2)),
  );
  const all = weights.reduce((sum, w) => sum + w, 0);
  return sample((nm) => weights.reduce((sum, w, k) => sum + w * around[indexOfNm(nm) + 2 * k]!, 0) / all);
}

interface Tissue {
  pigment: Spectrum;
  absorptance: Spectrum;
  feeding: Spectrum;
}
let tissue: Tissue | undefined;
function livingTissue(): Tissue {
  if (!tissue) {
    const feeds = (nm: number) =>
      SYMBIONT_BANDS.reduce((s, b) => s + b.height * gauss(nm, b.peakNm, b.fwhmNm), 0);
    const guards = (nm: number) => PROTECTIVE.reduce((s, [p, w, h]) => s + h * gauss(nm, p, w), 0);
    const top = Math.max(...sample(feeds));
    const food = broadened((nm) => feeds(nm) / top);
    const all = broadened((nm) => (feeds(nm) + guards(nm)) / top);
    const { depth, fill, bareDepth } = TISSUE;
    const pigment = all.map((a) => depth * a ** fill);
    const absorptance = pigment.map((d) => 1 - Math.exp(-(d + bareDepth)));
    const feeding = absorptance.map((a, i) => {
      const d = pigment[i]!;
      return all[i]! > 1e-9 ? (a * d * food[i]!) / ((d + bareDepth) * all[i]!) : 0;
    });
    tissue = { pigment: all, absorptance, feeding };
  }
  return tissue;
}

/** Absorption of all pigments of living tissue, what feeds at its maximum 1, on the grid. */
export const tissuePigment = (): Spectrum => livingTissue().pigment;
/** Share of photons that the tissue of a normally pigmented coral absorbs, on the grid. */
export const tissueAbsorptance = (): Spectrum => livingTissue().absorptance;
/** Share of photons that feeds: absorbed, and not by what protects or by bare tissue. On the grid. */
export const feedingAbsorptance = (): Spectrum => livingTissue().feeding;

/** Light as corals take it, Q = ∫E·feeding dλ from the near UV to 700 nm, unit of the spectrum. */
export const absorbedLight = (spectrum: ArrayLike<number>): number =>
  integrateWeighted(spectrum, feedingAbsorptance(), FIRST_NM, PAR_TO_NM);

/** Usable share, Q/PAR: near UV feeds beside what PAR counts. Null without PAR. */
export function usableShare(spectrum: ArrayLike<number>): number | null {
  const all = par(spectrum);
  return all > 0 ? absorbedLight(spectrum) / all : null;
}

/**
 * Usable share of a light of which nothing is said: as much royal blue as white. Light as corals take it is counted in µmol of such a
 * light, so that its figures stay those of PAR. Mark: rule of thumb.
 */
export const TYPICAL_SHARE = 0.5;
