import Download from 'lucide-react-native/icons/download';

import { LARGEST_SPECTRUM_TEXT, problemWords, type ReadSpectrum } from '@/core/formats/table';
import { slug } from '@/core/shape/slug';
import { JOULE_NM_PER_UMOL, nmAt } from '@/core/spectrum/grid';
import { nowUtcIso } from '@/state/time';
import { Button } from '@/ui/Button';
import { pickText } from '@/ui/files';

import { formats, offer } from './formats';

/** Lets the keeper choose a spectrum file. Null when they choose none; otherwise the spectrum, or what is wrong with it. */
export async function pickSpectrum(): Promise<
  { spectrum: ReadSpectrum; fileName: string } | { problem: string } | null
> {
  const file = await pickText(
    ['.csv', '.txt', '.tsv', '.spdx', '.xml', 'text/csv', 'text/plain'],
    LARGEST_SPECTRUM_TEXT,
  );
  if (!file) return null;
  if ('problem' in file) return { problem: `${file.name}: ${file.problem} Nothing was changed.` };
  const xml = /\.(spdx|xml)$/i.test(file.name) || file.text.trimStart().startsWith('<');
  const { parseSpdx, parseSpectrumCsv } = await formats();
  const read = xml ? parseSpdx(file.text) : parseSpectrumCsv(file.text);
  return read.ok
    ? { spectrum: read.value, fileName: file.name }
    : { problem: `${file.name}, ${problemWords(read.error)} Nothing was changed.` };
}

/** Points of a grid spectrum of photons, as energy where a format wants that. */
export const gridPoints = (photons: ArrayLike<number>, quantity: 'energy' | 'photon'): [number, number][] =>
  Array.from(photons, (v, i): [number, number] => {
    const nm = nmAt(i);
    return [nm, Number((quantity === 'photon' ? v : (v * JOULE_NM_PER_UMOL) / nm).toPrecision(8))];
  });

const asEnergy = (points: readonly [number, number][], quantity: 'energy' | 'photon'): [number, number][] =>
  quantity === 'energy' ? [...points] : points.map(([nm, v]) => [nm, Number((v / nm).toPrecision(8))]);

/** Keys that keep a spectrum as a file, in both open formats. */
export function SpectrumKeys({
  points,
  quantity,
  name,
}: {
  points: readonly [number, number][];
  quantity: 'energy' | 'photon';
  name: string;
}) {
  return (
    <>
      <Button
        label="CSV"
        icon={Download}
        name={`Keep the spectrum of ${name} as CSV`}
        onPress={() =>
          offer(`${slug(name, 'spectrum')}.csv`, 'text/csv', (f) => f.spectrumCsv(points, quantity))
        }
      />
      <Button
        label="TM-27"
        icon={Download}
        name={`Keep the spectrum of ${name} as IES TM-27`}
        onPress={() =>
          offer(`${slug(name, 'spectrum')}.spdx`, 'application/xml', (f) =>
            f.spdx(asEnergy(points, quantity), name, nowUtcIso().slice(0, 10)),
          )
        }
      />
    </>
  );
}
