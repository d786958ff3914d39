import type { ComponentProps } from 'react';

import { everyNm, indexOfNm } from '@/core/spectrum/grid';
import { Outlines } from '@/pieces/Outlines';
import { TakeAlong } from '@/ui/TakeAlong';

import { formats } from './formats';

/** Spectra over wavelength as a table: a column each. @param unit what their values are */
export const spectraCsv = async (
  spectra: readonly { name: string; spectrum: ArrayLike<number> }[],
  unit: string,
): Promise<string> =>
  (await formats()).tableCsv(
    ['nm', ...spectra.map((s) => `${s.name} (${unit})`)],
    everyNm().map((nm) => [nm, ...spectra.map((s) => Number(s.spectrum[indexOfNm(nm)]!.toPrecision(4)))]),
  );

/** Lights over wavelength, one over the other, with their numbers to take along. */
export function TakenOutlines({
  file,
  caption,
  unit,
  ...drawn
}: ComponentProps<typeof Outlines> & { file: string; caption: string; unit: string }) {
  return (
    <TakeAlong name={file} caption={caption} csv={() => spectraCsv(drawn.lights, unit)}>
      <Outlines {...drawn} />
    </TakeAlong>
  );
}
