import { PAR_FROM_NM, PAR_TO_NM, par } from '../spectrum/bands';
import { integrateWeighted, sample, type Spectrum } from '../spectrum/grid';

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

/** Usable share (PUR/PAR): ∫E·â dλ / ∫E dλ over 400-700 nm. Null without PAR. */
export function usableShare(spectrum: ArrayLike<number>): number | null {
  const all = par(spectrum);
  return all > 0 ? integrateWeighted(spectrum, symbiontAbsorption(), PAR_FROM_NM, PAR_TO_NM) / all : null;
}
