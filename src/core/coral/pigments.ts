import { FIRST_NM, sample, type Spectrum } from '../spectrum/grid';
import { SYMBIONT_BANDS } from '../feeding/symbiont';

const gauss = (nm: number, peakNm: number, fwhmNm: number) =>
  Math.exp(-4 * Math.LN2 * ((nm - peakNm) / fwhmNm) ** 2);

export const PROTEIN_IDS = [
  'cyan',
  'shortGreen',
  'green',
  'yellow',
  'orange',
  'red',
  'converted',
  'chlorophyll',
] as const;
export type ProteinId = (typeof PROTEIN_IDS)[number];

/** A fluorescent family: what it absorbs to glow, what it sends out, and how many photons of those it absorbs. */
export interface Protein {
  id: ProteinId;
  name: string;
  /** excitation, scaled to a maximum of 1 */
  excitation: Spectrum;
  /** emission, photons, scaled to an integral of 1 */
  emission: Spectrum;
  /** photons out per photon absorbed */
  yield: number;
  /** optical depth at an amount of 1 */
  depth: number;
  /** where its excitation is highest, for words */
  peakNm: number;
  emissionNm: number;
}

interface Family {
  id: ProteinId;
  name: string;
  excitation: (nm: number) => number;
  emissionNm: number;
  emissionWidth: number;
  yield: number;
  depth?: number;
}

/**
 * Families of fluorescent proteins, excitation and emission peaks rounded from published spectra (Alieva et al. 2008;
 * Oswald et al. 2007; Chudakov et al. 2010). Orange is fed from green under blue and so has a second excitation at 480-500.
 * Converted: the red form of a photoconvertible green, which turns under sustained 350-420 nm. Yields of protein families are
 * within the published 0.2-0.8, of chlorophyll about 0.02. Mark: literature, rounded.
 */
const FAMILIES: readonly Family[] = [
  {
    id: 'cyan',
    name: 'cyan',
    excitation: (nm) => Math.max(gauss(nm, 422, 50), 0.8 * gauss(nm, 448, 34)),
    emissionNm: 485,
    emissionWidth: 42,
    yield: 0.5,
  },
  {
    id: 'shortGreen',
    name: 'short-wave green',
    excitation: (nm) => Math.max(gauss(nm, 468, 36), 0.75 * gauss(nm, 410, 46)),
    emissionNm: 500,
    emissionWidth: 32,
    yield: 0.6,
  },
  {
    id: 'green',
    name: 'green',
    excitation: (nm) => Math.max(gauss(nm, 497, 32), 0.6 * gauss(nm, 464, 46)),
    emissionNm: 514,
    emissionWidth: 27,
    yield: 0.65,
  },
  {
    id: 'yellow',
    name: 'yellow',
    excitation: (nm) => Math.max(gauss(nm, 525, 28), 0.6 * gauss(nm, 492, 46), 0.35 * gauss(nm, 460, 48)),
    emissionNm: 540,
    emissionWidth: 26,
    yield: 0.6,
  },
  {
    id: 'orange',
    name: 'orange-red',
    excitation: (nm) => Math.max(gauss(nm, 555, 34), 0.7 * gauss(nm, 490, 44), 0.4 * gauss(nm, 456, 46)),
    emissionNm: 580,
    emissionWidth: 34,
    yield: 0.55,
  },
  {
    id: 'red',
    name: 'red',
    excitation: (nm) => Math.max(gauss(nm, 574, 42), 0.45 * gauss(nm, 520, 50), 0.3 * gauss(nm, 462, 56)),
    emissionNm: 610,
    emissionWidth: 40,
    yield: 0.4,
  },
  {
    id: 'converted',
    name: 'red of a converted green',
    excitation: (nm) => Math.max(gauss(nm, 572, 28), 0.5 * gauss(nm, 545, 30), 0.35 * gauss(nm, 500, 36)),
    emissionNm: 584,
    emissionWidth: 26,
    yield: 0.5,
  },
  {
    id: 'chlorophyll',
    name: 'chlorophyll',
    excitation: (nm) => Math.max(gauss(nm, 440, 36), 0.8 * gauss(nm, 480, 44)),
    emissionNm: 685,
    emissionWidth: 24,
    yield: 0.02,
    depth: 0.5,
  },
];

/** Optical depth of a protein at an amount of 1, both ways through the tissue. Mark: rule of thumb. */
const USUAL_DEPTH = 3.2;

const unit = (s: Spectrum): Spectrum => {
  const sum = s.reduce((a, b) => a + b, 0);
  return s.map((v) => v / sum);
};

export const PROTEINS: readonly Protein[] = FAMILIES.map((f) => {
  const excitation = sample(f.excitation);
  const top = Math.max(...excitation);
  return {
    id: f.id,
    name: f.name,
    excitation: excitation.map((v) => v / top),
    emission: unit(sample((nm) => gauss(nm, f.emissionNm, f.emissionWidth))),
    yield: f.yield,
    depth: f.depth ?? USUAL_DEPTH,
    peakNm: excitation.indexOf(top) + FIRST_NM,
    emissionNm: f.emissionNm,
  };
});
export const protein = (id: ProteinId): Protein => PROTEINS.find((p) => p.id === id)!;

export const CHROMO_IDS = ['pink', 'purple', 'blue'] as const;
export type ChromoId = (typeof CHROMO_IDS)[number];
/** Chromoproteins absorb without glowing. Peaks rounded from published spectra (Alieva et al. 2008). Mark: literature, rounded. */
export const CHROMOS: readonly {
  id: ChromoId;
  name: string;
  absorption: Spectrum;
  peakNm: number;
  depth: number;
}[] = [
  { id: 'pink' as const, name: 'pink', peakNm: 560, fwhm: 58 },
  { id: 'purple' as const, name: 'purple', peakNm: 580, fwhm: 60 },
  { id: 'blue' as const, name: 'blue', peakNm: 606, fwhm: 66 },
].map(({ fwhm, ...c }) => ({ ...c, absorption: sample((nm) => gauss(nm, c.peakNm, fwhm)), depth: 2.2 }));

/** Carotenoids that absorb at 450-490 without feeding (photoprotective). Mark: literature, rounded. */
const CAROTENOIDS: readonly (readonly [peakNm: number, fwhmNm: number, height: number])[] = [
  [452, 34, 0.35],
  [484, 36, 0.35],
];
/** Optical depth of the symbionts at a brown of 1, at their strongest. Mark: rule of thumb. */
const BROWN_DEPTH = 2;

let symbiont: Spectrum | undefined;
/** Optical depth of symbiont pigment at a brown of 1: feeding pigments and carotenoids together. */
export function symbiontDepth(): Spectrum {
  if (!symbiont) {
    const raw = sample(
      (nm) =>
        SYMBIONT_BANDS.reduce((sum, b) => sum + b.height * gauss(nm, b.peakNm, b.fwhmNm), 0) +
        CAROTENOIDS.reduce((sum, [peak, width, height]) => sum + height * gauss(nm, peak, width), 0),
    );
    const top = Math.max(...raw);
    symbiont = raw.map((v) => (BROWN_DEPTH * v) / top);
  }
  return symbiont;
}
