import { attenuationPerM } from '../optics/water';
import { partsTable, type LightPart } from '../mix/phosphor';
import { emissionSpectrum, sumEmissions, type TableEmission } from '../spectrum/emission';
import { FIRST_NM, LAST_NM, type Spectrum } from '../spectrum/grid';
import { ACTINIC_TUBE, BROAD_BLUE_TUBE } from './lamps';

/** A generic light to compare with: its shape only, since it is always scaled to equal PAR. */
export interface ReferenceLight {
  id: string;
  name: string;
  spectrum: () => Spectrum;
}

/** CIE illuminant D65, relative energy, 360-780 nm in 10 nm steps. Source: ISO/CIE 11664-2. Mark: standard. */
const D65_10NM = [
  46.6383, 52.0891, 49.9755, 54.6482, 82.7549, 91.486, 93.4318, 86.6823, 104.865, 117.008, 117.812, 114.861,
  115.923, 108.811, 109.354, 107.802, 104.79, 107.689, 104.405, 104.046, 100, 96.3342, 95.788, 88.6856,
  90.0062, 89.5991, 87.6987, 83.2886, 83.6992, 80.0268, 80.2146, 82.2778, 78.2842, 69.7213, 71.6091, 74.349,
  61.604, 69.8856, 75.087, 63.5927, 46.4182, 66.8054, 63.3828,
];
const d65: TableEmission = {
  shape: 'table',
  quantity: 'energy',
  points: D65_10NM.map((v, i) => [FIRST_NM + 10 * i, v]),
  flux: 1,
};

/** A generic 10 000 K halide: mercury and metal lines over a continuum, modelled. Mark: rule of thumb. */
const HALIDE: readonly LightPart[] = [
  { peakNm: 460, fwhmNm: 190, photons: 0.3 },
  { peakNm: 600, fwhmNm: 160, photons: 0.24 },
  { peakNm: 405, fwhmNm: 5, photons: 0.04 },
  { peakNm: 420, fwhmNm: 16, photons: 0.09 },
  { peakNm: 436, fwhmNm: 5, photons: 0.06 },
  { peakNm: 474, fwhmNm: 14, photons: 0.05 },
  { peakNm: 509, fwhmNm: 10, photons: 0.04 },
  { peakNm: 546, fwhmNm: 6, photons: 0.08 },
  { peakNm: 578, fwhmNm: 7, photons: 0.06 },
  { peakNm: 670, fwhmNm: 10, photons: 0.04 },
];

const ofParts = (parts: readonly LightPart[]) => (): Spectrum =>
  emissionSpectrum({
    shape: 'table',
    quantity: 'photon',
    points: partsTable(parts, FIRST_NM, LAST_NM, 1),
    flux: 1,
  });

/** D65 after a path of clear ocean water: pure sea water alone. */
const ocean = (depthM: number) => (): Spectrum => {
  const loss = attenuationPerM({ yellow440PerM: 0, scatterPerM: 0 });
  return emissionSpectrum(d65).map((v, i) => v * Math.exp(-loss[i]! * depthM));
};

/** A blue-heavy LED light of six kinds of emitters, modelled. Mark: rule of thumb. */
const blueLed = (): Spectrum =>
  sumEmissions(
    (
      [
        [405, 14, 0.06],
        [422, 15, 0.12],
        [450, 20, 0.42],
        [471, 23, 0.22],
        [497, 28, 0.06],
      ] as const
    )
      .map(([peakNm, fwhmNm, flux]): Parameters<typeof emissionSpectrum>[0] => ({
        shape: 'line',
        peakNm,
        fwhmNm,
        flux,
      }))
      .concat([{ shape: 'gaussian', peakNm: 560, fwhmNm: 120, flux: 0.12 }]),
  );

const keep = (make: () => Spectrum) => {
  let made: Spectrum | undefined;
  return () => (made ??= make());
};

/** Generic references, modelled, not traced from a known lamp; comparison is of shape. */
export const REFERENCES: readonly ReferenceLight[] = [
  { id: 'broad-blue-tube', name: 'Broad-blue fluorescent tube', spectrum: keep(ofParts(BROAD_BLUE_TUBE)) },
  { id: 'actinic-tube', name: 'Actinic tube', spectrum: keep(ofParts(ACTINIC_TUBE)) },
  { id: 'halide-10000', name: 'Halide, 10 000 K', spectrum: keep(ofParts(HALIDE)) },
  { id: 'd65', name: 'Daylight D65', spectrum: keep(() => emissionSpectrum(d65)) },
  { id: 'blue-led', name: 'Blue-heavy LED', spectrum: keep(blueLed) },
  { id: 'ocean-5', name: 'Clear ocean, 5 m', spectrum: keep(ocean(5)) },
  { id: 'ocean-10', name: 'Clear ocean, 10 m', spectrum: keep(ocean(10)) },
  { id: 'ocean-20', name: 'Clear ocean, 20 m', spectrum: keep(ocean(20)) },
];
